"""The melody as judge: what each melody note becomes over other chords, and the smallest cure of a clash."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from fractions import Fraction
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.key import Key
from yellow_hinge.core.pitch import Pitch, degree_pc
from yellow_hinge.core.quality import sort_tensions
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.timeline import Moment, Sounding

Verdict = Literal["chord note", "colour", "passing", "clash"]
COLOURS_LEVEL = 3  # every colour a chord may ever take
LONG = Fraction(1)  # beats from which a melody note is long
NATURAL_ELEVEN = 5


class Judged(NamedTuple):
    """A melody note over one of the new chords: what it becomes ("b13"), the verdict, and its weight (beats, doubled on
    a strong beat).
    """

    pitch: Pitch
    chord: int
    becomes: str
    verdict: Verdict
    weight: Fraction

    @property
    def fits(self) -> bool:
        """Whether it may stand there."""
        return self.verdict != "clash"


def _pieces(moment: Moment, beats: tuple[Fraction, ...]) -> Iterator[tuple[int, Sounding, Fraction, Fraction]]:
    """(new chord, melody note, onset in the old chord, length over the new one)."""
    start = Fraction(0)
    for index, length in enumerate(beats):
        for tone in moment.tune:
            begin, end = max(start, tone.onset), min(start + length, tone.onset + tone.beats)
            if begin < end:
                yield index, tone, begin, end - begin
        start += length


def verdict(pc: int, chord: Chord, key: Key, following: Chord | None, short: bool) -> Verdict:
    """What a melody pitch class is over a chord. `short`: it is short, weak and goes by step."""
    above = (pc - chord.root.pc) % 12
    if pc in chord.pitch_classes or pc == chord.bass_note.pc:
        return "chord note"
    if short:
        return "passing"
    if above == NATURAL_ELEVEN and chord.quality.third == "3":
        return "clash"
    found = palette(chord, key, COLOURS_LEVEL, following)
    colours = {(chord.root.pc + degree_pc(degree)) % 12 for degree in (*found.colours, "9", "13")}
    if chord.chord_class == "dominant":
        colours |= {(chord.root.pc + degree_pc(degree)) % 12 for degree in ("b9", "#9", "#11", "b13")}
    if chord.chord_class == "minor":
        colours.add((chord.root.pc + NATURAL_ELEVEN) % 12)
    must = {(chord.root.pc + degree_pc(degree)) % 12 for degree in found.must}
    rubs = (pc - 1) % 12 in must and chord.chord_class != "dominant"
    return "colour" if pc in colours and not rubs else "clash"


def judge(chords: tuple[Chord, ...], beats: tuple[Fraction, ...], moment: Moment, after: Chord | None) -> list[Judged]:
    """Every melody note over the chords that take a moment's place."""
    found = []
    strong = {Fraction(0), Fraction(moment.meter.beats, 2)}
    pieces = list(_pieces(moment, beats))
    for place, (index, tone, begin, length) in enumerate(pieces):
        chord = chords[index]
        following = chords[index + 1] if index + 1 < len(chords) else after
        on_strong = moment.beat - 1 + begin in strong
        neighbours = [pieces[k][1].pitch.midi for k in (place - 1, place + 1) if 0 <= k < len(pieces)]
        by_step = any(1 <= abs(midi - tone.pitch.midi) <= 2 for midi in neighbours)
        short = length < LONG and not on_strong and by_step
        pc = tone.pitch.midi % 12
        weight = length * (2 if on_strong else 1)
        what = verdict(pc, chord, moment.key, following, short)
        found.append(Judged(tone.pitch, index, chord.degree_of(pc), what, weight))
    return found


# A chord's words are changed by one: an altered ninth for the ninth, the raised eleventh, the flat thirteenth.
_ALTERATIONS = ("b9", "#9", "#11", "b13", "9", "13")
_MAY: dict[str, tuple[str, ...]] = defaultdict(
    tuple, {"dominant": _ALTERATIONS, "major": ("#11", "9", "13"), "minor": ("9", "13"), "suspended": ("9", "13")}
)


def cures(chord: Chord, pc: int) -> Chord | None:
    """The chord with one tension that makes a clashing melody note one of its own, or suspended for a natural eleventh;
    None where nothing small helps.
    """
    quality, above = chord.quality, (pc - chord.root.pc) % 12
    if above == NATURAL_ELEVEN and quality.third == "3" and quality.seventh == "b7":
        return _with(chord, msgspec.structs.replace(quality, third="4"))
    if not quality.seventh:
        return None
    for degree in _ALTERATIONS:
        if degree_pc(degree) == above and degree in _MAY[chord.chord_class]:
            tensions = {t for t in quality.tensions if t.lstrip("b#") != degree.lstrip("b#")} | {degree}
            return _with(chord, msgspec.structs.replace(quality, tensions=sort_tensions(tensions)))
    return None


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
        better = cures(changed[note.chord], note.pitch.midi % 12)
        if better is None:
            return None
        changed[note.chord] = better
    if not clashes or any(not note.fits for note in judge(tuple(changed), beats, moment, after)):
        return None
    return tuple(changed)
