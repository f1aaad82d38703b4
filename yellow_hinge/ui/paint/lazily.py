"""Pictures of a long song are made where they are looked at."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TypeVar, overload

T = TypeVar("T")


class Lazy(Sequence[T]):
    """So many things, each made when it is first asked for; `made` has those that were."""

    def __init__(self, count: int, make: Callable[[int], T]) -> None:
        self._count, self._make = count, make
        self.made: dict[int, T] = {}

    def __len__(self) -> int:
        return self._count

    @overload
    def __getitem__(self, at: int) -> T: ...
    @overload
    def __getitem__(self, at: slice) -> Sequence[T]: ...
    def __getitem__(self, at: int | slice) -> T | Sequence[T]:
        if isinstance(at, slice):
            return tuple(self[n] for n in range(*at.indices(self._count)))
        place = at + self._count if at < 0 else at
        if not 0 <= place < self._count:
            raise IndexError(at)
        if place not in self.made:
            self.made[place] = self._make(place)
        return self.made[place]
