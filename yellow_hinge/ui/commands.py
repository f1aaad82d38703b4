"""Commands: what the player can do, by name, menu and key. Each room and each part of the window brings its own table,
typed by what does it; the tables together feed menus, shortcuts, tooltips, the command box and the page of keys.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial
from typing import Any, Generic, Literal, TypeVar

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QWidget

T = TypeVar("T")
# What is pointed at.
Thing = Literal["chord", "hinge", "note", "section", "stroke", "take", "cell", "sheet"]


class Area:
    """A part of the window in which the keys of some commands work: a room, or a page of one. It is what it is; no two
    are equal.
    """


class Command(msgspec.Struct, Generic[T], frozen=True):
    """One thing the player can do, and how its owner does it. `keys` are shortcuts, the first one shown; they work in
    the whole window, or `where` it says, and there not while text is typed. `shows`: the owner, a room, is shown first.
    `on` what it is in the menu that the right button opens.
    """

    id: str
    menu: str
    title: str
    keys: tuple[str, ...]
    tip: str
    do: Callable[[T], object]
    where: tuple[Area, ...] = ()
    checkable: bool = False
    shows: bool = False
    on: tuple[Thing, ...] = ()


class Commands(msgspec.Struct, Generic[T], frozen=True):
    """The commands of one owner: a type of which the window has one, or the handle of a room."""

    owner: Any
    all: tuple[Command[T], ...]


Actions = Mapping[str, QAction]


def shown_keys(command: Command[Any]) -> str:
    """The first shortcut as the player reads it, or ""."""
    return QKeySequence(command.keys[0]).toString(QKeySequence.SequenceFormat.NativeText) if command.keys else ""


def build_actions(window: QWidget, commands: Iterable[Command[Any]]) -> dict[str, QAction]:
    """An action for every command; those of the whole window belong to it, the others to no widget yet."""
    actions = {}
    for command in commands:
        action = QAction(command.title, window)
        action.setShortcuts([QKeySequence(keys) for keys in command.keys])
        action.setStatusTip(command.tip)
        keys = shown_keys(command)
        action.setToolTip(f"{command.tip} ({keys})" if keys else command.tip)
        action.setCheckable(command.checkable)
        if command.where:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        else:
            window.addAction(action)
        actions[command.id] = action
    return actions


def of_area(area: Area, commands: Iterable[Command[Any]], actions: Actions) -> list[QAction]:
    """The actions whose keys work in an area."""
    return [actions[command.id] for command in commands if area in command.where]


def _do(command: Command[Any], named: Any, owner: Callable[[Any, bool], Any]) -> object:
    return command.do(owner(named, command.shows))


def bound(
    sets: Sequence[Commands[Any]], owner: Callable[[Any, bool], Any]
) -> Iterator[tuple[str, Callable[[], object]]]:
    """(id, what it does) of every command; `owner` gives who does it, by the owner that a table names, shown or not."""
    for own in sets:
        for command in own.all:
            yield command.id, partial(_do, command, own.owner, owner)
