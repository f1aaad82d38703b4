"""Stacks of degrees in the notation of hands.toml, read into the rules that the catalogue's families have."""

from __future__ import annotations

import itertools
import re
from typing import Any

from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.rule import Rule, Slash

EXACT = "="  # before a degree that is meant as such, not as the chord's own of that place
_CLASSES = {
    "minor-tonic": ("minor", "minor-six"), "sus2": ("suspended",), "sus-flat-nine": ("suspended",),
    "half-diminished": ("half-diminished",),
}  # fmt: skip
_LINE = re.compile(r"(?P<class>[a-z2-]+) (?P<level>[0-3])(?:-(?P<most>[0-3]))?: (?P<pairs>.+)")
_SLASHES: dict[str, Slash] = {
    "slash-third": "third", "slash-fifth": "fifth", "slash-seventh": "seventh", "slash-foreign": "foreign",
}  # fmt: skip
_FOREIGN = {"B": "1", "B8": "8", "B5": "B5", "1": EXACT + "1"}
_MARKS = ("T",)
_WITH_THIRD = (("major",), ("minor",), ("dominant",))


def _degrees(text: str) -> tuple[str, ...]:
    """The words of one hand as exact degrees."""
    words: list[str] = []
    for word in text.replace("~", " ").split():
        if word in _MARKS:
            continue
        degree = {"8": "1", "10": "3", "b10": "b3"}.get(word, word)
        high = word in ("10", "b10") and words == [EXACT + "1"]
        words.append(EXACT + degree + ("'" if high else ""))
    return tuple(words)


def _places(text: str, slash: Slash, left: bool) -> tuple[str, ...]:
    """The words of one hand as places, over a written bass."""
    words = [word for word in text.replace("~", " ").split() if word not in _MARKS]
    if slash == "foreign" and left:
        return tuple(_FOREIGN.get(word, word) for word in words)
    named = (word.replace("10", "3").lstrip("b#") for word in words)
    return tuple(named)


def _turned(words: tuple[str, ...]) -> list[tuple[str, ...]]:
    """Every rotation of a hand of three different notes, where none of them has a second; else the hand itself."""
    plain = [word.lstrip(EXACT) for word in words]
    if len(set(plain)) != 3 or len(plain) != 3 or any("'" in word for word in plain):
        return [words]
    pcs = [degree_pc(word) for word in plain]
    if any((b - a) % 12 in (1, 2, 10, 11) for a, b in itertools.combinations(pcs, 2)):
        return [words]
    return [words[turn:] + words[:turn] for turn in range(3)]


_OWN = {EXACT + degree for degree in ("1", "3", "3'", "5", "7")}  # what an augmented chord has of a major one


def _augmented(words: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(EXACT + "#5" if word == EXACT + "5" else word for word in words)


Pair = tuple[tuple[str, ...], tuple[str, ...]]
_THIRDS = {EXACT + degree for degree in ("3", "b3", "4", "3'", "b3'")}


def _rules(pairs: list[Pair], turns: bool, **fields: Any) -> list[Rule]:
    """A rule for every left hand with all the right hands that go with it; those without a third apart."""
    rights: dict[tuple[str, bool], list[str]] = {}
    for left, right in pairs:
        thirdless = (
            fields["over"] == "none" and fields["classes"] in _WITH_THIRD and _THIRDS.isdisjoint((*left, *right))
        )
        for way in _turned(right) if turns else [right]:
            rights.setdefault((" ".join(left), thirdless), []).append(" ".join(way))
    return [
        Rule((left,), tuple(dict.fromkeys(found)), thirdless=thirdless, **fields)
        for (left, thirdless), found in rights.items()
    ]


def _pairs(text: str, slash: Slash) -> list[Pair]:
    pairs: list[Pair] = []
    for pair in text.split(";"):
        left, _, right = pair.partition("|")
        if slash == "none":
            pairs.append((_degrees(left), _degrees(right)))
        else:
            pairs.append((_places(left, slash, True), _places(right, slash, False)))
    return pairs


def stack_rules(text: str, turns: bool, theirs: bool) -> tuple[Rule, ...]:
    """The rules of a family's stacks; `theirs`: they are made to stand beside somebody else's bass. Raises ValueError
    for a line that is none.
    """
    found: list[Rule] = []
    for line in filter(None, map(str.strip, text.splitlines())):
        read = _LINE.fullmatch(line)
        if read is None:
            raise ValueError(f"{line!r} is no line of stacks")
        name, level, most = read["class"], int(read["level"]), int(read["most"] or 3)
        slash = _SLASHES.get(name, "none")
        pairs = _pairs(read["pairs"], slash)
        mine = slash != "none" and not theirs  # its left hands bring the written bass
        classes = () if slash != "none" else _CLASSES.get(name, (name,))
        found += _rules(pairs, turns, classes=classes, written_level=level, most_level=most, over=slash, mine=mine)
        if name == "major":
            own = [(pair, {*pair[0], *pair[1]}) for pair in pairs]
            plain = [pair for pair, words in own if words <= _OWN and EXACT + "5" in words]
            raised = [(_augmented(left), _augmented(right)) for left, right in plain]
            found += _rules(raised, turns, classes=("augmented",), written_level=level, most_level=most, over="none")
    return tuple(found)
