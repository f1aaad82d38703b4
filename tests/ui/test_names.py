"""No widget of ours hides a method of Qt's behind a name of its own."""

import ast
import importlib
import inspect
from pathlib import Path

import pytest
from PySide6.QtCore import QObject

import yellow_hinge.ui

ROOT = Path(yellow_hinge.ui.__file__).parent
# What Qt means to be written anew.
MEANT = tuple(
    (
        "Event eventFilter Hint event paint rowCount columnCount headerData sort data setText focusNextPrevChild "
        "nsertFromMimeData showPopup staticMetaObject"
    ).split()
)


def stored(tree, name):
    """What a class keeps in itself by assignment."""
    for node in ast.walk(tree):
        if isinstance(node, ast.ClassDef) and node.name == name:
            for inner in ast.walk(node):
                if (
                    isinstance(inner, ast.Attribute)
                    and isinstance(inner.ctx, ast.Store)
                    and isinstance(inner.value, ast.Name)
                    and inner.value.id == "self"
                ):
                    yield inner.attr


@pytest.mark.parametrize("path", sorted(ROOT.rglob("*.py")), ids=lambda path: str(path.relative_to(ROOT)))
def test_no_name_of_qt_is_shadowed(path):
    name = ".".join(path.relative_to(ROOT.parents[1]).with_suffix("").parts).removesuffix(".__init__")
    module, tree = importlib.import_module(name), ast.parse(path.read_text("utf-8"))
    for class_name, found in vars(module).items():
        if not inspect.isclass(found) or found.__module__ != name or not issubclass(found, QObject):
            continue
        theirs = {attr for base in found.__mro__ if base.__module__.startswith("PySide6") for attr in vars(base)}
        ours = {*vars(found), *stored(tree, class_name)}
        hidden = {attr for attr in ours & theirs if not attr.startswith("__") and not attr.endswith(MEANT)}
        assert not hidden, (class_name, hidden)
