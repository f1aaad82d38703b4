"""Tables of data beside the modules that use them, in TOML, and the player's own entries laid after them."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from pathlib import Path
from typing import Any, TypeVar

import msgspec

T = TypeVar("T")
F = TypeVar("F")


def read_table(module: str, kind: type[T], name: str = "") -> T:
    """The table of a module (its file), as a struct: the TOML file of the module's name, or another one beside it."""
    import tomllib  # loaded with the first table, so that the window starts sooner

    path = Path(module).with_name(name) if name else Path(module).with_suffix(".toml")
    return msgspec.convert(tomllib.loads(path.read_text("utf-8")), kind)


_told: list[Callable[[], None]] = []  # caches of what is made from entries
_changes = [0]


def made_of_entries(cached: F) -> F:
    """A cached function whose answers are forgotten when the player's own entries change."""
    forget: Any = cached
    _told.append(forget.cache_clear)
    return cached


def changes() -> int:
    """How often entries of the player's own that hands are chosen by were changed: who keeps what was made of them
    looks whether it still holds.
    """
    return _changes[0]


class Entries(Mapping[str, T]):
    """Entries by their names: those that ship, read when they are first wanted, then the player's own."""

    def __init__(self, ship: Callable[[], Mapping[str, T]], hands: bool = True) -> None:
        self._ship, self._hands = ship, hands  # whether hands are chosen by them
        self._own: Mapping[str, T] = {}
        self._all: Mapping[str, T] | None = None

    @property
    def own(self) -> Mapping[str, T]:
        """The player's own."""
        return self._own

    def put_own(self, own: Mapping[str, T]) -> None:
        """Take over the player's own; a name that ships stays what it is."""
        if own != self._own:
            self._own, self._all = own, None
            _changes[0] += self._hands
            for forget in _told:
                forget()

    def _every(self) -> Mapping[str, T]:
        if self._all is None:
            shipped = self._ship()
            self._all = {**shipped, **{name: entry for name, entry in self._own.items() if name not in shipped}}
        return self._all

    def __getitem__(self, name: str) -> T:
        return self._every()[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._every())

    def __len__(self) -> int:
        return len(self._every())
