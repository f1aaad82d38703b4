"""The melody as judge: what each melody note becomes over other chords, and the smallest cure of a clash."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache
from typing import Literal, NamedTuple

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import Pitch, degree_pc
from yellow_hinge.core.shapes.palette import Palette, palette
from yellow_hinge.core.song.timeline import Moment, Sounding
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import Quality, sort_tensions

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


Piece = tuple[int, Sounding, Fraction, Fraction]


def _pieces(moment: Moment, beats: tuple[Fraction, ...]) -> Iterator[Piece]:
    """(new chord, melody note, onset in the old chord, length over the new one)."""
    start = Fraction(0)
    for index, length in enumerate(beats):
        for tone in moment.tune:
            begin, end = max(start, tone.onset), min(start + length, tone.onset + tone.beats)
            if begin < end:
                yield index, tone, begin, end - begin
        start += length


# How a chord over a foreign bass is heard: semitones above that bass as its third, fifth and seventh, the first found.
_HEARD = {
    "third": ((4, "3"), (3, "b3"), (5, "4"), (2, "2")), "fifth": ((7, "5"), (6, "b5"), (8, "#5")),
    "seventh": ((10, "b7"), (11, "7")),
}  # fmt: skip
_REST = {1: "b9", 2: "9", 3: "#9", 5: "11", 6: "#11", 8: "b13", 9: "13"}


@lru_cache(maxsize=4096)
def sounding(chord: Chord) -> Chord:
    """A chord as its bass makes it heard: over a foreign bass its notes are that bass's own, Am7/D a D9sus4."""
    bass, own = chord.bass_note, chord.pitch_classes
    if bass.pc in own:
        return chord
    above = {(pc - bass.pc) % 12 for pc in own}
    found = {}
    for place, kinds in _HEARD.items():
        semitones, degree = next(((n, degree) for n, degree in kinds if n in above), (-1, ""))
        found[place] = degree
        above.discard(semitones)
    sixth = "6" if 9 in above and not found["seventh"] else ""
    above -= {9} if sixth else set()
    tensions = sort_tensions({_REST[n] for n in above if n in _REST})
    return Chord(bass, Quality(found["third"], found["fifth"], sixth, found["seventh"], tensions))


# What a chord's own degrees do not bear beside them: a plain tension beside its alteration, a fifth beside its own.
_AGAINST = {
    1: {"9"}, 2: {"b9", "#9"}, 7: {"b5", "#5"}, 8: {"13", "6"}, 9: {"b13", "#5"}, 10: {"7", "bb7"},
    11: {"b7"},
}  # fmt: skip


def _rubs(pc: int, heard: Chord, found: Palette) -> bool:
    """Whether a melody pitch class lies a half step over a note that the chord must have."""
    must = {(heard.root.pc + degree_pc(degree)) % 12 for degree in found.must}
    if (pc - 1) % 12 not in must or heard.chord_class == "dominant":
        return False
    return (pc - heard.root.pc) % 12 != 3 or "9" not in heard.degrees


def verdict(pc: int, chord: Chord, key: Key, following: Chord | None, short: bool) -> Verdict:
    """What a melody pitch class is over a chord as its bass makes it heard. `short`: it is short, weak and goes by
    step.
    """
    own = pc in chord.pitch_classes or pc == chord.bass_note.pc
    if short and not own:
        return "passing"
    if pc == chord.root.pc and chord.quality.seventh == "7" and not short:
        return "clash"  # the seventh that a swap brings would lie a half step under the tune
    if own:
        return "chord note"
    heard = sounding(chord)
    above = (pc - heard.root.pc) % 12
    if _against(above, heard):
        return "clash"
    found = palette(heard, key, COLOURS_LEVEL, following)
    return "colour" if above in _colours(found, heard) and not _rubs(pc, heard, found) else "clash"


def _against(above: int, heard: Chord) -> bool:
    """Whether a note so far above the root is against what the chord has."""
    major = heard.quality.third == "3"
    if major and (above == NATURAL_ELEVEN or (above == degree_pc("#9") and "9" in heard.degrees)):
        return True
    return bool(_AGAINST.get(above, set()) & set(heard.degrees))


def _colours(found: Palette, heard: Chord) -> set[int]:
    """Semitones above the root that colour a chord."""
    colours = {degree_pc(degree) for degree in (*found.colours, "9", "13")}
    if heard.chord_class == "dominant":
        colours |= {degree_pc(degree) for degree in ("b9", "#9", "#11", "b13")}
    if heard.chord_class in ("minor", "minor-six"):
        colours.add(NATURAL_ELEVEN)
    if heard.chord_class == "suspended":
        colours.add(degree_pc("b3"))  # over a suspended chord the third may be sung
    return colours


def becomes(pc: int, chord: Chord) -> str:
    """The degree that a melody note is, over the bass that sounds."""
    heard = sounding(chord)
    if heard.quality.third in ("4", "2", "") and (pc - heard.root.pc) % 12 == degree_pc("b3"):
        return "b3"
    return heard.degree_of(pc) if pc not in chord.pitch_classes or heard is not chord else chord.degree_of(pc)


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
        if what == "colour" and chord.chord_class == "diminished" and _falls_on(chord, pieces[place : place + 2]):
            what = "clash"
        found.append(Judged(tone.pitch, index, becomes(pc, chord), what, weight))
    return found


def _falls_on(chord: Chord, two: list[Piece]) -> bool:
    """Whether the first of two tune notes over one chord is a suspension of the other, which the bass has already."""
    if len(two) < 2 or two[0][0] != two[1][0]:
        return False
    falls = two[0][1].pitch.midi - two[1][1].pitch.midi
    return falls in (1, 2) and two[1][1].pitch.midi % 12 == chord.bass_note.pc
