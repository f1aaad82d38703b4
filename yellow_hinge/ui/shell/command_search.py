"""Which commands are meant by what was typed."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from yellow_hinge.core.pitch.pitch import plain_signs
from yellow_hinge.ui.commands import Command
from yellow_hinge.ui.shell.offers import Offer

ALIKE = 0.72  # how similar a mistyped word has to be, 0..1
Known = Command[Any] | Offer


def score(command: Known, words: str) -> int:
    """How well a command answers to typed words: 0 not at all, more is better. Every word has to be found, though
    perhaps mistyped.
    """
    title, menu, tip = plain_signs(command.title).casefold(), command.menu.casefold(), command.tip.casefold()
    total = 1
    for word in words.casefold().split():
        points = _points(word, title, menu, tip)
        if not points:
            return 0
        total += points
    return total


def _points(word: str, title: str, menu: str, tip: str) -> int:
    if word in title.split():
        return 10
    if f" {word}" in f" {title}":
        return 8
    if word in title:
        return 4
    if word in menu.split():
        return 3
    if word in menu or word in tip:
        return 2
    return _near_points(word, title, menu, tip)


def _near_points(word: str, title: str, menu: str, tip: str) -> int:
    if len(word) > 2 and any(_alike(word, part) for part in title.split()):
        return 2
    return 1 if len(word) > 2 and any(_alike(word, part) for part in f"{menu} {tip}".split()) else 0


def _alike(word: str, other: str) -> bool:
    """Whether a word is the beginning of another one, with a mistake."""
    from difflib import SequenceMatcher  # needed for mistakes only

    beginnings = {other[: len(word) + by] for by in (-1, 0, 1)}
    return any(SequenceMatcher(None, word, part).ratio() >= ALIKE for part in beginnings if part[:1] == word[:1])


def found(words: str, table: Sequence[Known], more: Sequence[Known] = ()) -> list[Known]:
    """The commands that answer to typed words, the best first, in the table's order among equals; `more` come after
    the table, and not before something is typed.
    """
    known = (*table, *more) if words.strip() else table
    scored = [(score(command, words), -place, command) for place, command in enumerate(known)]
    return [command for points, _, command in sorted(scored, key=lambda s: s[:2], reverse=True) if points]
