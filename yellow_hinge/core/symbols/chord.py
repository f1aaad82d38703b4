"""A chord: a root, its quality, and a bass note where one is written."""

from __future__ import annotations

from functools import lru_cache

import msgspec

from yellow_hinge.core.pitch.pitch import Note, degree_pc, spell
from yellow_hinge.core.symbols.quality import Quality, chord_class

# A pitch class above the root that no written degree names is said with this degree, by the chord it stands over.
_NEUTRAL = ("1", "b9", "9", "b3", "3", "11", "#11", "5", "b13", "13", "b7", "7")


class Chord(msgspec.Struct, frozen=True):
    """A spelled chord. `bass` is None where the root is the bass.

    One chord over another keeps both in `stack`, the upper first, and is itself the lower one with the upper one's
    notes as tensions.
    """

    root: Note
    quality: Quality
    bass: Note | None = None
    stack: tuple[Chord, Chord] | None = None

    @property
    def chord_class(self) -> str:
        """Row of the voicing rules, such as "dominant"."""
        return chord_class(self.quality)

    @property
    def bass_note(self) -> Note:
        """The written bass, or the root."""
        return self.root if self.bass is None else self.bass

    @property
    def degrees(self) -> tuple[str, ...]:
        """Degrees as written, stacked."""
        return self.quality.degrees

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes of `degrees`, spelled over the root."""
        return tuple(spell(self.root, degree) for degree in self.degrees)

    @property
    def all_notes(self) -> tuple[Note, ...]:
        """The notes with the written bass before them, where it is none of them."""
        bass = () if self.bass is None or self.bass.pc in self.pitch_classes else (self.bass,)
        return (*bass, *self.notes)

    @property
    def pitch_classes(self) -> tuple[int, ...]:
        """The pitch classes of `degrees`, C = 0."""
        return _pcs_over(self.root.pc, self.quality)

    def degree_of(self, pc: int) -> str:
        """The degree that a sounding pitch class has in this chord, as a player says it."""
        above = (pc - self.root.pc) % 12
        for degree in self.degrees:
            if degree_pc(degree) == above:
                return degree
        if above == 3 and self.quality.third in ("3", "4"):
            return "#9"
        if above == 9 and self.quality.seventh in ("", "7"):
            return "6"
        return _NEUTRAL[above]

    def note_of(self, pc: int) -> Note:
        """A sounding pitch class spelled as its degree over the root; a foreign bass keeps its written name."""
        if self.bass is not None and self.bass.pc == pc % 12:
            return self.bass
        return spell(self.root, self.degree_of(pc))


@lru_cache(maxsize=8192)
def _pcs_over(root: int, quality: Quality) -> tuple[int, ...]:
    return tuple((root + degree_pc(degree)) % 12 for degree in quality.degrees)


def same_chord(one: Chord, other: Chord) -> bool:
    """Whether two chords are the same, however their notes are spelled."""
    if one.root.pc != other.root.pc or one.quality != other.quality or one.bass_note.pc != other.bass_note.pc:
        return False
    if one.stack is None or other.stack is None:
        return one.stack is None and other.stack is None
    return all(same_chord(a, b) for a, b in zip(one.stack, other.stack, strict=True))
