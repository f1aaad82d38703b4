"""What a chord can give up or take so that the tune suits it."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import msgspec

from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.reharm.melody import NATURAL_ELEVEN, judge, verdict
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import sort_tensions

# The tensions that each class may be given so that a melody note is one of its own.
_MAY: dict[str, tuple[str, ...]] = {
    "dominant": ("b9", "#9", "#11", "b13", "9", "13"), "major": ("#11", "9", "13"), "minor": ("9", "11", "13"),
    "minor-six": ("9", "11", "13"), "suspended": ("9", "13", "b9", "b13"), "half-diminished": ("11", "9"),
    "diminished": ("9", "11", "b13"), "augmented": ("9", "#11"),
}  # fmt: skip
_ALTERED = ("b9", "#9", "b13")


def cures(chord: Chord, pc: int, following: Chord | None = None) -> Iterator[Chord]:
    """The chords that differ by one degree and have a melody note as one of their own, the smallest change first:
    suspended for a natural eleventh, a tension changed or added, the plain fifth, a sixth for a major seventh
    under its root. An altered tone only in a chord that leads to the one `following` by a fifth or a half step.
    """
    quality = chord.quality
    if chord.bass is not None:
        return  # what stands over another bass is what it is
    above, replace = (pc - chord.root.pc) % 12, msgspec.structs.replace
    if above == NATURAL_ELEVEN and quality.third == "3" and quality.seventh != "7":
        without = tuple(tension for tension in quality.tensions if tension not in ("b9", "#9"))
        yield _with(chord, replace(quality, third="4", tensions=without))
    for degree in _may_take(chord, following):
        if degree_pc(degree) == above:
            others = {t for t in quality.tensions if t.lstrip("b#") != degree.lstrip("b#")}
            yield _with(chord, replace(quality, tensions=sort_tensions(others | {degree})))
    if above == degree_pc("5") and quality.fifth not in ("", "5") and quality.third != "b3":
        yield _with(chord, replace(quality, fifth="5"))
    if above == 0 and quality.seventh == "7":
        yield _with(chord, replace(quality, sixth="6", seventh=""))


def _may_take(chord: Chord, following: Chord | None) -> Iterator[str]:
    """The tensions that a seventh or sixth chord may take on."""
    leads = following is None or (chord.root.pc - following.root.pc) % 12 in (0, 1, 7)
    if chord.quality.seventh or chord.quality.sixth:
        yield from (degree for degree in _MAY.get(chord.chord_class, ()) if leads or degree not in _ALTERED)


def _with(chord: Chord, quality: object) -> Chord:
    changed: Chord = msgspec.structs.replace(chord, quality=quality)
    return changed


def cured(
    chords: tuple[Chord, ...], beats: tuple[Fraction, ...], moment: Moment, after: Chord | None
) -> tuple[Chord, ...] | None:
    """The chords with the fewest of them changed by one degree so that no melody note clashes; None where none clashes
    or nothing small helps.
    """
    clashes = [note for note in judge(chords, beats, moment, after) if not note.fits]
    changed = list(chords)
    for note in clashes:
        pc = note.pitch.midi % 12
        following = changed[note.chord + 1] if note.chord + 1 < len(changed) else after
        better = (
            c
            for c in cures(changed[note.chord], pc, following)
            if verdict(pc, c, moment.key, following, False) != "clash"
        )
        found = next(better, None)
        if found is None:
            return None
        changed[note.chord] = found
    if not clashes or any(not note.fits for note in judge(tuple(changed), beats, moment, after)):
        return None
    return tuple(changed)
