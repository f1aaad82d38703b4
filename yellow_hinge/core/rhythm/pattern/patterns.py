"""The patterns of patterns.toml, and those of the player: what is struck when. The notation is at the head of the
data file.
"""

from __future__ import annotations

import re
from fractions import Fraction
from functools import lru_cache
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.tables import read_table

# What a stroke names of the hand that is there, and the notes that a pattern adds to it, which are marked so wherever
# they are shown. The words are explained at the head of the data file.
HAND = (
    "all", "low", "top", "2", "3", "4", "2?", "3?", "4?", "second", "rest", "in", "pair", "guides", "alt",
)  # fmt: skip
ROWS = ("up", "down", "arc")
ADDED = {"left": ("+walk", "+approach", "+fifth", "+six"), "right": ("+step", "+below", "+sus", "+grace")}
WHAT: dict[str, tuple[str, ...]] = {hand: (*HAND, *ADDED[hand], *ROWS) for hand in ("left", "right")}
# The words of patterns that players kept before version 11 of the song file, and what is struck for them now.
OLD = {
    "L": "all", "R": "all", "bass": "low", "oct": "all", "octave": "top", "10th": "top", "midtop": "top",
    "5th": "alt", "6th": "alt", "mid": "rest", "midup": "rest", "bass5": "pair", "bass6": "+six", "walk": "+walk",
    "approach": "+approach", "step": "+step", "below": "+below", "sus": "+sus", "grace": "+grace",
}  # fmt: skip
LOUDER, SOFTER, GHOST = 12, -12, -30  # velocities
MOST_HITS, LONGEST, LONGEST_ROLL = 64, 16, 400  # of one hand; beats; milliseconds
TICK = 480  # to a quarter note: nothing is struck between two ticks
_HIT = re.compile(
    r"(?P<at>half|\d*\.?\d+)/(?P<length>end|half|\d*\.?\d+)\s+(?P<what>\+?\w+?\??)"
    r"(?P<signs>[><(\-]*)(?:~(?P<roll>\d{1,3}))?(?P<more>[><(\-]*)"
)
_THIRDS = {"33": Fraction(1, 3), "67": Fraction(2, 3), "17": Fraction(1, 6), "83": Fraction(5, 6)}


class Hit(NamedTuple):
    """One stroke: `at` and `length` in beats of the pattern (None: to the chord's end), `what` of the hand out of WHAT,
    `louder` in MIDI velocities, `early` where it strikes the next chord, `roll` in milliseconds from its lowest note to
    its highest; `share` where `at` is that share of the chord (and `length` too).
    """

    at: Fraction
    length: Fraction | None
    what: str
    louder: int = 0
    early: bool = False
    roll: int = 0
    share: bool = False

    @property
    def added(self) -> bool:
        """Whether it names notes that the hand does not hold."""
        return self.what.startswith("+")

    @property
    def ghost(self) -> bool:
        """Whether it is struck very softly, and let go soon."""
        return self.louder <= GHOST


class Strokes(msgspec.Struct, frozen=True):
    """What both hands do, written as hits."""

    left: str = ""
    right: str = ""

    def hits(self, hand: str) -> tuple[Hit, ...]:
        """The hits of the "left" or "right" hand. Raises UserError."""
        return read_hits(self.left if hand == "left" else self.right, hand)


class Pattern(msgspec.Struct, frozen=True):
    """One pattern; the fields are explained at the head of patterns.toml. Raises UserError where it cannot be read."""

    id: str
    name: str
    words: str = ""
    meter: str = ""
    beats: int | float = 0
    bar: bool = False
    lean: bool = False
    breaks: bool = False
    wants: tuple[str, ...] = ()
    left: str = ""
    right: str = ""
    pedal: Literal["chord", "bass", "none"] = "none"
    swing: bool = False
    cut: bool = False
    two: Strokes | None = None
    one: Strokes | None = None
    second: Strokes | None = None
    third: Strokes | None = None
    fourth: Strokes | None = None
    turns: Literal["bar", "chord"] = "bar"
    three_first: Strokes | None = None
    theirs: Strokes | Literal["", "right"] = ""
    usual: tuple[int, int] = (20, 400)

    def __post_init__(self) -> None:
        if not 0 <= self.beats <= LONGEST:
            raise UserError(f"the pattern {self.name[:40]!r} is {self.beats} beats long; 0 to {LONGEST}")
        if self.beats * 2 % 1:
            raise UserError(f"the pattern {self.name[:40]!r} is {self.beats} beats long; whole and half beats only")
        theirs = self.theirs if isinstance(self.theirs, Strokes) else None
        for strokes in (*self.forms, self.two, self.one, self.three_first, theirs):
            if strokes is not None:
                strokes.hits("left")
                strokes.hits("right")

    @property
    def main(self) -> Strokes:
        """Its full form."""
        return Strokes(self.left, self.right)

    @property
    def forms(self) -> tuple[Strokes, ...]:
        """Its full forms, which take turns: one, two or four."""
        if self.second is None:
            return (self.main,)
        if self.third is None:
            return self.main, self.second
        return self.main, self.second, self.third, self.fourth or self.second


def _beats(text: str) -> Fraction:
    """A number of beats: decimals, in which thirds and sixths are meant exactly."""
    whole, _, part = text.partition(".")
    if part in _THIRDS:
        return int(whole or 0) + _THIRDS[part]
    return Fraction(text if whole else f"0{text}")


@lru_cache(maxsize=1024)
def read_hits(text: str, hand: str) -> tuple[Hit, ...]:
    """Hits as they are written, in order of their onsets. Raises UserError that says which one is wrong."""
    words = [word.strip() for word in text.split(";") if word.strip()]
    if len(words) > MOST_HITS:
        raise UserError(f"a hand strikes at most {MOST_HITS} times in a pattern")
    return tuple(sorted((_read_hit(word, hand) for word in words), key=lambda hit: hit.at))


def _read_hit(text: str, hand: str) -> Hit:
    found = _HIT.fullmatch(text[:60])
    what = OLD.get(found["what"], found["what"]) if found is not None else ""
    if found is None or what not in WHAT[hand]:
        known = ", ".join(WHAT[hand])
        raise UserError(f"{text[:30]!r} is no stroke of the {hand} hand; write onset/length and one of {known}")
    signs = found["signs"] + found["more"]
    louder = GHOST if "(" in signs else LOUDER * signs.count(">") + SOFTER * signs.count("-")
    share = "half" in (found["at"], found["length"])
    at = Fraction(1, 2) if found["at"] == "half" else _beats(found["at"])
    length = None if found["length"] == "end" else Fraction(1, 2) if share else _beats(found["length"])
    if at >= LONGEST or (length is not None and not 0 < length <= LONGEST):
        raise UserError(f"{text[:30]!r} begins or ends after {LONGEST} beats, or has no length")
    roll = min(int(found["roll"] or 0), LONGEST_ROLL)
    return Hit(at, length, what, max(GHOST, min(24, louder)), "<" in signs, roll, share)


def _number(beats: Fraction) -> str:
    named = {third: name for name, third in _THIRDS.items()}
    whole, part = divmod(beats, 1)
    if part in named:
        return f"{whole or ''}.{named[part]}"
    return f"{float(beats):g}".removeprefix("0") if 0 < beats < 1 else f"{float(round(beats * 1000) / 1000):g}"


def write_hits(hits: tuple[Hit, ...]) -> str:
    """Hits as read_hits reads them."""
    words = []
    for hit in sorted(hits, key=lambda hit: hit.at):
        if hit.share:
            at, length = ("half" if hit.at else "0"), "half"
        else:
            at, length = _number(hit.at), "end" if hit.length is None else _number(hit.length)
        loud = (
            "(" if hit.ghost else ">" * (hit.louder // LOUDER) + "-" * (-hit.louder // LOUDER if hit.louder < 0 else 0)
        )
        words.append(f"{at}/{length} {hit.what}{loud}{'<' if hit.early else ''}{f'~{hit.roll}' if hit.roll else ''}")
    return "; ".join(words)


class _File(msgspec.Struct, frozen=True):
    pattern: tuple[Pattern, ...]


@lru_cache(maxsize=1)
def patterns() -> dict[str, Pattern]:
    """Every pattern that ships, by its id, in the order of the data file."""
    return {pattern.id: pattern for pattern in read_table(__file__, _File).pattern}


def pattern_id(text: str, own: tuple[Pattern, ...] = ()) -> str:
    """The id of a pattern that a player writes by name or id, in any case; other text as it is."""
    wanted = text.strip().casefold()
    return next((p.id for p in (*own, *patterns().values()) if wanted in (p.id.casefold(), p.name.casefold())), text)
