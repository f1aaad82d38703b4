"""What was made is kept from one edit to the next."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar

from yellow_hinge.core.leading.chain.stage import Stage
from yellow_hinge.core.numerics import np

T = TypeVar("T")


MOST_BYTES = 600_000_000  # of the tables that are kept from one edit to the next


def _bytes(value: object) -> int:
    """The memory of a stage's or change's tables; of other things little."""
    if isinstance(value, Stage):
        return 2 * value.place.cost.nbytes
    return sum(table.nbytes for table in value if isinstance(table, np.ndarray)) if isinstance(value, tuple) else 0


class Store:
    """A store of tables, bounded in number and memory, oldest use out first. One belongs to each open song, so that an
    edit solves only what changed; it holds nothing that is not made from its key alone.
    """

    def __init__(self, most: int = 4096) -> None:
        self._most, self._bytes = most, 0
        self._kept: OrderedDict[Hashable, object] = OrderedDict()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value made for `key`, made now if it is not there."""
        if key in self._kept:
            self._kept.move_to_end(key)
            return self._kept[key]  # type: ignore[return-value]
        value = make()
        self.put(key, value)
        return value

    def kept(self, key: Hashable) -> Any:
        """The value that is kept for `key`, None where there is none."""
        if key in self._kept:
            self._kept.move_to_end(key)
        return self._kept.get(key)

    def put(self, key: Hashable, value: object) -> None:
        """Keep a value that was made for `key`."""
        self._kept[key] = value
        self._bytes += _bytes(value)
        while len(self._kept) > self._most or (self._bytes > MOST_BYTES and len(self._kept) > 1):
            self._bytes -= _bytes(self._kept.popitem(last=False)[1])
