"""Qt, loaded without the hook that it leaves in Python's imports; and what is needed later, loaded bit by bit."""

from __future__ import annotations

import builtins
import importlib
import pkgutil
from collections.abc import Iterable, Iterator


def load_qt() -> None:
    """Load Qt's Python binding and take its hook out again. The hook reads the source of every module that is loaded
    after it, for a naming feature that this program does not use; without it the window is there a tenth sooner.
    """
    plain = builtins.__import__
    import PySide6.QtCore  # noqa: F401

    builtins.__import__ = plain


def modules_of(packages: Iterable[str]) -> Iterator[str]:
    """The names of the modules of some packages, one after the other."""
    for package in packages:
        found = importlib.import_module(package)
        yield from (each.name for each in pkgutil.iter_modules(found.__path__, f"{package}."))


def load_next(names: Iterator[str]) -> bool:
    """Load the next module; whether there was one."""
    name = next(names, None)
    if name is not None:
        importlib.import_module(name)
    return name is not None


def look_up_first() -> None:
    """Make the table that names notes, so that the first one that is dragged is not late."""
    from yellow_hinge.core.symbols.naming import named_qualities

    named_qualities()
