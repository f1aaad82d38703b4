"""The menu bar by keyboard: a letter for every entry, F10, and keys inside a menu that stay in it."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from typing import Any

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QMenu, QMenuBar

from yellow_hinge.ui.commands import Actions, Command, Commands
from yellow_hinge.ui.paint.popups import OwnKeys


def _wished(title: str) -> list[int]:
    """The places of a title's letters: the first of each word, then all others."""
    starts = [at for at, sign in enumerate(title) if sign.isalpha() and (at == 0 or title[at - 1] == " ")]
    return [*starts, *(at for at, sign in enumerate(title) if sign.isalpha() and at not in starts)]


def lettered(titles: Iterable[str]) -> dict[str, str]:
    """The titles of one menu with & before a letter that no other entry has: the first of a word where that is free.
    As many get one as can: an entry gives its letter up where it has another one.
    """
    return dict(_lettered(tuple(dict.fromkeys(titles))))


@lru_cache(maxsize=64)
def _lettered(titles: tuple[str, ...]) -> dict[str, str]:
    wished = {title: [(at, title[at].lower()) for at in _wished(title)] for title in titles}
    places: dict[str, tuple[str, int]] = {}  # whose each letter is, and where in its title

    def placed(title: str, tried: set[str]) -> bool:
        for at, letter in wished[title]:
            if letter in tried:
                continue
            tried.add(letter)
            if letter not in places or placed(places[letter][0], tried):
                places[letter] = (title, at)
                return True
        return False

    for title in titles:
        placed(title, set())
    found = dict(places.values())
    return {t: f"{t[: found[t]]}&{t[found[t] :]}" if t in found else t for t in titles}


# Menus inside the Song menu that are filled when they open: id, title, and the command that they stand before.
SUBMENUS = (
    ("last_songs", "Last songs", "save"), ("shipped", "Songs that ship", "save"), ("unsaved", "Left unsaved", "save"),
    ("earlier", "Earlier versions", "export"),
)  # fmt: skip


def build_menus(
    bar: QMenuBar, actions: Actions, table: tuple[Command[Any], ...]
) -> tuple[dict[str, QMenu], dict[str, QMenu]]:
    """The menus, in the order of the table of commands, by their names; and those of SUBMENUS by their ids."""
    names = lettered(dict.fromkeys(command.menu for command in table))
    menus = {name: bar.addMenu(shown) for name, shown in names.items()}
    inner: dict[str, QMenu] = {}
    for name, menu in menus.items():
        own = [command for command in table if command.menu == name]
        below = SUBMENUS if name == "Song" else ()
        letters = lettered([*(title for _, title, _ in below), *(command.title for command in own)])
        for command in own:
            actions[command.id].setText(letters[command.title])
            menu.addAction(actions[command.id])
        for id_, title, before in below:
            inner[id_] = QMenu(letters[title], menu)
            menu.insertMenu(actions[before], inner[id_])
    return menus, inner


class MenuKeys(QObject):
    """While a menu is open, or the bar has the keys, no shortcut of the window is heard."""

    def __init__(self, bar: QMenuBar, menus: Iterable[QMenu]) -> None:
        super().__init__(bar)
        self.bar = bar
        bar.installEventFilter(self)
        for menu in menus:
            OwnKeys(menu)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() != QEvent.Type.ShortcutOverride:
            return False
        event.accept()  # it comes again as a key for the bar
        return True

    def open_first(self) -> None:
        """Open the first menu, as F10 does elsewhere."""
        self.bar.setActiveAction(self.bar.actions()[0])


COMMANDS: Commands[MenuKeys] = Commands(MenuKeys, (
    Command("menus", "View", "Open the menus", ("F10",), "The menus by keyboard", lambda menus: menus.open_first()),
))  # fmt: skip
