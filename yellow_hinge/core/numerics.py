"""NumPy, loaded when it is first used: what only reads, writes, asks or shows needs none of it, and starts sooner."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Int32s = NDArray[np.int32]
    Int64s = NDArray[np.int64]
    Places = NDArray[np.intp]
    Floats64 = NDArray[np.float64]
    Floats32 = NDArray[np.float32]
else:

    class _Later:
        """Stands for the module until something of it is wanted."""

        def __getattr__(self, name: str) -> Any:
            if name.startswith("__"):
                raise AttributeError(name)
            import numpy

            found = getattr(numpy, name)
            self.__dict__[name] = found
            return found

    np = _Later()
    NDArray = Int32s = Int64s = Places = Floats64 = Floats32 = Any

__all__ = ["Floats32", "Floats64", "Int32s", "Int64s", "NDArray", "Places", "later", "np"]


class _Made:
    """An array that is made when it is first used."""

    def __init__(self, make: Callable[[], Any]) -> None:
        self._make = make
        self._made: Any = None

    def _array(self) -> Any:
        if self._made is None:
            self._made = self._make()
            self._made.setflags(write=False)
        return self._made

    def __getitem__(self, place: Any) -> Any:
        return self._array()[place]

    def __len__(self) -> int:
        return len(self._array())

    def __getattr__(self, name: str) -> Any:
        return getattr(self._array(), name)

    def __array__(self, dtype: Any = None, copy: Any = None) -> Any:
        return self._array()


def later(make: Callable[[], Any]) -> Any:
    """A constant array that is made when it is first indexed."""
    return _Made(make)
