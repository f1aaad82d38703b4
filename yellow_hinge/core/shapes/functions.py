"""What a chord does in its key, as far as its colours hear it: reading and choosing rows of colours.toml."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key, diatonic_seventh
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import CLASS_RULES, Quality, chord_class
from yellow_hinge.core.tables import read_table

LEVELS = 3


class ColourRow(msgspec.Struct, frozen=True, rename={"class_": "class"}):
    """One function of chords; the fields are explained at the head of colours.toml."""

    id: str
    class_: str
    steps: tuple[int, ...] = ()
    mode: str = ""
    bare: bool | None = None
    goes: tuple[str, ...] = ()
    scale: str = ""
    third: str = ""
    level1: tuple[str, ...] = ()
    level2: tuple[str, ...] = ()
    level3: tuple[str, ...] = ()
    never: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if self.class_ not in CLASS_RULES or not {*self.goes} <= GOES:
            raise ValueError(f"row {self.id}: unknown class {self.class_} or way {self.goes}")

    def upto(self, level: int) -> tuple[str, ...]:
        """What all levels up to one add."""
        return tuple(degree for each in (self.level1, self.level2, self.level3)[:level] for degree in each)


GOES = frozenset(("dark", "bright", "chain", "slide", "half up", "relative"))


class _File(msgspec.Struct, frozen=True):
    row: tuple[ColourRow, ...]


class Around(NamedTuple):
    """What of a chord's surroundings its colours depend on: semitones of its root above the tonic, whether the key is
    minor, the key's own seventh over its root ("" for none), pitch classes of the key above its root, where it goes
    ("" for nowhere told), and pitch classes above its root that a line inside it keeps for itself.
    """

    step: int = 0
    minor: bool = False
    seventh: str = ""
    scale: frozenset[int] = frozenset()
    goes: str = ""
    line: frozenset[int] = frozenset()


@lru_cache(maxsize=1)
def rows() -> tuple[ColourRow, ...]:
    """Every row in the order of the data file."""
    return read_table(__file__, _File, "colours.toml").row


@lru_cache(maxsize=8192)
def function_of(quality: Quality, around: Around) -> ColourRow:
    """The row of a chord in its surroundings."""
    own, bare = chord_class(quality), not (quality.seventh or quality.sixth)
    for row in rows():
        if row.class_ != own or (row.steps and around.step not in row.steps):
            continue
        if (row.mode and (row.mode == "minor") != around.minor) or (row.bare is not None and row.bare != bare):
            continue
        if (row.goes and around.goes not in row.goes) or (row.third and row.third != quality.third):
            continue
        if not row.scale or _has(around.scale, row.scale):
            return row
    raise LookupError(f"no row for {own}")  # every class has a last row without conditions


def _has(scale: frozenset[int], degree: str) -> bool:
    """Whether the key has a degree over the root, and not its neighbour too."""
    return degree_pc(degree) in scale


# --- surroundings ------------------------------------------------------------------------------------------------


@lru_cache(maxsize=8192)
def heading(chord: Chord, following: Chord | None) -> str:
    """Where a chord goes, as far as its colours hear it: one of GOES, or "line" and the pitch classes above its root
    that move inside it, or "".
    """
    if following is None:
        return ""
    down = (chord.root.pc - following.root.pc) % 12
    if down == 0:
        return _line(chord, following)
    if down == 7:
        if following.quality.third == "b3":
            return "dark"
        return "chain" if following.chord_class == "dominant" else "bright"
    if _relative(chord, following, down):
        return "relative"
    return {1: "slide", 11: "half up"}.get(down, "")


def _relative(chord: Chord, following: Chord, down: int) -> bool:
    thirds = chord.quality.third, following.quality.third
    return (down == 3 and thirds == ("3", "b3")) or (down == 9 and thirds == ("b3", "3"))


# A line that moves among these semitones above the root has them to itself: around the octave, or around the third.
_ZONES = (frozenset((8, 9, 10, 11)), frozenset((1, 2, 3, 4, 5, 6)))


def _far_from(moved: set[int]) -> set[int]:
    """What of the third's surroundings lies more than a half step from all that moves there: a ninth under a fourth."""
    near = {semitone + by for semitone in moved for by in (-1, 0, 1)}
    return set(_ZONES[1] - near)


def _line(chord: Chord, following: Chord) -> str:
    """A chord goes on over the same root with another note: the note's surroundings are its own."""
    own, other = ({(pc - chord.root.pc) % 12 for pc in each.pitch_classes} for each in (chord, following))
    if len(own - other) > 1 or len(other - own) > 1:
        return ""  # more than one note moves: another chord over the root
    moved = own ^ other
    kept = sorted({semitone for zone in _ZONES if zone & moved for semitone in zone} - _far_from(moved))
    return "line " + " ".join(map(str, kept)) if kept else ""


@lru_cache(maxsize=8192)
def surroundings(chord: Chord, key: Key, following: Chord | None, avoid: frozenset[int] = frozenset()) -> Around:
    """What a chord's colours hear of the key, of the chord that follows and of what they have to avoid."""
    goes = heading(chord, following)
    line = frozenset(map(int, goes.split()[1:])) if goes.startswith("line") else frozenset[int]()
    scale = frozenset((note.pc - chord.root.pc) % 12 for note in key.scale)
    step = (chord.root.pc - key.tonic.pc) % 12
    return Around(step, key.is_minor, diatonic_seventh(chord.root, key), scale, "" if line else goes, line | avoid)
