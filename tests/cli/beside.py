"""What a function answers a little beside what it was asked: a figure more or less, a word shorter, a row without its end.

A walk through the program seldom meets the edges of intervals; asked beside, a function meets them. Only functions that
are given plain values, records and tables of such are asked, since they do nothing but answer.
"""

from __future__ import annotations

import enum
import importlib
import inspect
import re
import sys
from collections.abc import Callable, Iterator
from contextlib import suppress
from fractions import Fraction
from functools import cached_property, partial
from itertools import islice
from types import CodeType, FrameType, FunctionType, MappingProxyType
from typing import Any

import msgspec
import numpy as np

# Which times of being asked are remembered, ways beside each, calls within one after which it is given up, answers heard.
ASKED, WAYS, CALLS, ROWS = (0, 2, 9), 16, 250, 40
DEPTH, LOOKED_AT = 4, 20  # of rows in rows, and entries of a row
# Painted and engraved pages: what stops there does not let go of its paper, and takes long.
PAGES = ("page_bytes", "run_apart", "engrave", "engraved_lines")
# Whose calls are counted; what is called in the midst of an array's work would not live through being given up.
COUNTED = re.compile(r"yellow_hinge/(app|core|io)/(?!numerics)")
FIXED = (
    int, float, str, bytes, Fraction, enum.Enum, type, type(None), np.generic, np.ndarray, FunctionType, MappingProxyType
)  # fmt: skip
COPIED = (list, dict, set, np.ndarray)


class GivenUp(BaseException):
    """A function that goes on for long."""


def is_plain(value: Any, depth: int = DEPTH) -> bool:
    """Whether a value only holds something."""
    if isinstance(value, dict):
        return is_plain(tuple(value.values()), depth)
    if isinstance(value, tuple | list | set | frozenset):
        return depth == 0 or all(is_plain(each, depth - 1) for each in islice(value, LOOKED_AT))
    return isinstance(value, FIXED) or (isinstance(value, msgspec.Struct) and value.__struct_config__.frozen)


def its_own(value: Any) -> Any:
    """A value that nobody else adds to."""
    return value.copy() if isinstance(value, COPIED) else value


def beside(value: Any, deep: bool = True) -> Iterator[Any]:
    """Values a little beside one; of a record, with a field a little beside what it is."""
    if isinstance(value, bool):
        yield not value
    elif isinstance(value, enum.Enum):
        every = list(type(value))
        yield every[(every.index(value) + 1) % len(every)]
    elif isinstance(value, int | float):
        yield from (value + 1, value - 1)
    elif isinstance(value, Fraction):
        yield from (value + Fraction(1, 2), value - Fraction(1, 2))
    elif isinstance(value, str):
        yield value[:-1]
    elif isinstance(value, np.ndarray):
        yield from (value[:-1], value + 1) if value.ndim and value.dtype.kind in "if" else ()
    elif hasattr(value, "_fields"):
        yield from with_another(value, value._fields, value._replace) if deep else ()
    elif isinstance(value, msgspec.Struct):
        yield from with_another(value, value.__struct_fields__, partial(msgspec.structs.replace, value)) if deep else ()
    elif isinstance(value, tuple | list) and value:
        yield from (value[:-1], value[1:])
        yield from (type(value)((*value[:-1], new)) for new in beside(value[-1], False))


def with_another(record: Any, names: tuple[str, ...], replaced: Callable[..., Any]) -> Iterator[Any]:
    """A record with one of its fields beside what it is, where it can be that."""
    for name in names:
        for new in beside(getattr(record, name), False):
            with suppress(Exception):
                yield replaced(**{name: new})


class Beside:
    """Remembers what functions were asked, and asks them beside it."""

    def __init__(self) -> None:
        self._asked: dict[CodeType, list[dict[str, Any]]] = {}

    def remember(self, frame: FrameType, count: int) -> None:
        """What a function is asked for the first time, and a few times later."""
        code = frame.f_code
        if (
            count in ASKED
            and code.co_name not in PAGES
            and not code.co_flags & (inspect.CO_VARARGS | inspect.CO_VARKEYWORDS)
        ):
            names = code.co_varnames[: code.co_argcount + code.co_kwonlyargcount]
            given = {name: its_own(frame.f_locals[name]) for name in names if name in frame.f_locals}
            if names and len(given) == len(names) and all(map(is_plain, given.values())):
                self._asked.setdefault(code, []).append(given)

    def answers(self, code: CodeType, module: str) -> Iterator[Any]:
        """What a function answers beside all that it was asked, in order; nothing where it is not found by its name."""
        function = named(module, code)
        for given in self._asked.get(code, ()) if function else ():
            ways = [(name, new) for name, value in given.items() for new in beside(value)]
            for name, new in ways[:: -(-len(ways) // WAYS) or 1]:
                yield answered(function, {each: its_own(value) for each, value in given.items()} | {name: new})


def named(module: str, code: CodeType) -> Callable[..., Any] | None:
    """The function that is run by a code, found by its name."""
    found: Any = importlib.import_module(module)
    for part in code.co_qualname.split("."):
        found = inspect.getattr_static(found, part, None)
    kind = type(found)
    found = found.__func__ if kind in (staticmethod, classmethod) else found
    found = found.fget if kind is property else found.func if kind is cached_property else found
    found = inspect.unwrap(found) if callable(found) else None
    return found if getattr(found, "__code__", None) is code else None


def answered(function: Callable[..., Any], given: dict[str, Any]) -> Any:
    """What a function answers, or the fault that it finds."""
    calls = 0

    def counted(frame: FrameType, event: str, _: object) -> None:
        nonlocal calls
        if COUNTED.search(frame.f_code.co_filename):
            calls += 1
            if calls % CALLS == 0:
                raise GivenUp

    sys.settrace(counted)
    try:
        answer = function(**given)
        return list(islice(answer, ROWS)) if inspect.isgenerator(answer) else answer
    except (Exception, GivenUp) as fault:
        ours = type(fault).__module__.startswith("yellow_hinge")
        return f"{type(fault).__name__} {fault if ours else ''}"
    finally:
        sys.settrace(None)
