"""What a function answers beside what it was asked: a figure more or less, a word shorter, a row without its end, a field
of what it was asked at another time.

A walk through the program seldom meets the edges of intervals; asked beside, a function meets them. Only functions that
are given plain values, records and tables of such are asked, since they do nothing but answer.
"""

from __future__ import annotations

import enum
import importlib
import inspect
import re
import signal
import sys
from collections.abc import Callable, Iterator
from contextlib import suppress
from fractions import Fraction
from functools import cached_property
from itertools import islice
from random import Random
from types import CodeType, FrameType, FunctionType, MappingProxyType
from typing import Any
from zlib import crc32

import msgspec
import numpy as np

# Which times of being asked are remembered, ways beside each, calls within one after which it is given up, answers heard.
ASKED, WAYS, CALLS, ROWS = (0, 2, 9), 8, 250, 40
DEPTH, LOOKED_AT = 4, 20  # of rows in rows, and entries of a row
LONGEST_S = 2.0  # of the processor
ELSEWHERE = 0.3  # of the ways are with something that was asked at another time
FAR = 6  # how much more or less a figure is at most
# Painted and engraved pages, where what stops does not let go of its paper; what never ends where beats go backwards; and
# what reads files of a package, which is looked for among all that is installed.
LEFT_OUT = ("page_bytes", "run_apart", "engrave", "engraved_lines", "_grown", "read_table")
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


def beside(value: Any, by: Random) -> Any:
    """A value a little beside one: itself, or a part of it, is another; the same where nothing is."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, enum.Enum):
        return by.choice(list(type(value)))
    if isinstance(value, int | float):
        return value + by.choice((1, -1, by.randint(-FAR, FAR)))
    if isinstance(value, Fraction):
        return value + Fraction(by.randint(-FAR, FAR), by.choice((1, 2, 4)))
    if isinstance(value, str):
        return value[: by.randrange(len(value))] if value else value
    if isinstance(value, np.ndarray):
        return _array(value, by) if value.size and value.dtype.kind in "if" else value
    if isinstance(value, dict):
        name = by.choice(list(value)) if value else None
        return value | ({name: beside(value[name], by)} if value else {})
    if hasattr(value, "_fields") or isinstance(value, msgspec.Struct):
        return _record(value, by)
    return _row(value, by) if isinstance(value, tuple | list) and value else value


def _array(value: Any, by: Random) -> Any:
    if value.ndim == 0 or by.random() < 0.5:
        changed = value.copy()
        changed.flat[by.randrange(value.size)] += by.choice((1, -1))
        return changed
    return by.choice((value[:-1], value[::-1], value + 1))


def _record(value: Any, by: Random) -> Any:
    """A record with one of its fields beside what it is, where it can be that."""
    is_struct = isinstance(value, msgspec.Struct)
    names = value.__struct_fields__ if is_struct else value._fields
    name = by.choice(names) if names else None
    with suppress(Exception):
        changes = {name: beside(getattr(value, name), by)} if name is not None else {}
        return msgspec.structs.replace(value, **changes) if is_struct else value._replace(**changes)
    return value


def _row(value: Any, by: Random) -> Any:
    at = by.randrange(len(value))
    shorter, longer = (*value[:at], *value[at + 1 :]), (*value, value[at])
    rows = (shorter, longer, value[::-1], *([(*value[:at], beside(value[at], by), *value[at + 1 :])] * 3))
    return type(value)(by.choice(rows))


class Beside:
    """Remembers what functions were asked, and asks them beside it."""

    def __init__(self) -> None:
        self._asked: dict[CodeType, list[dict[str, Any]]] = {}
        signal.signal(signal.SIGVTALRM, give_up)

    def remember(self, frame: FrameType, count: int) -> None:
        """What a function is asked for the first time, and a few times later."""
        code = frame.f_code
        varied = code.co_flags & (inspect.CO_VARARGS | inspect.CO_VARKEYWORDS)
        if count in ASKED and code.co_name not in LEFT_OUT and not varied:
            names = code.co_varnames[: code.co_argcount + code.co_kwonlyargcount]
            given = {name: its_own(frame.f_locals[name]) for name in names if name in frame.f_locals}
            if names and len(given) == len(names) and all(map(is_plain, given.values())):
                self._asked.setdefault(code, []).append(given)

    def answers(self, code: CodeType, module: str) -> Iterator[Any]:
        """What a function answers beside all that it was asked, in order; nothing where it is not found by its name."""
        function, every = named(module, code), self._asked.get(code, ())
        by = Random(crc32(code.co_qualname.encode()))
        for given in every if function else ():
            for _ in range(WAYS):
                name = by.choice(list(given))
                other = by.choice(every)[name] if by.random() < ELSEWHERE else given[name]
                new = beside(other, by) if other is given[name] else other
                yield answered(function, {each: its_own(value) for each, value in given.items()} | {name: its_own(new)})


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


def give_up(*_: object) -> None:
    """What goes round without calling anything is given up as well."""
    raise GivenUp


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
    signal.setitimer(signal.ITIMER_VIRTUAL, LONGEST_S)
    try:
        answer = function(**given)
        return list(islice(answer, ROWS)) if inspect.isgenerator(answer) else answer
    except (Exception, GivenUp) as fault:
        ours = type(fault).__module__.startswith("yellow_hinge")
        return f"{type(fault).__name__} {fault if ours else ''}"
    finally:
        sys.settrace(None)
        signal.setitimer(signal.ITIMER_VIRTUAL, 0)
