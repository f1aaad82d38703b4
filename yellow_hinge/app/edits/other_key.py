"""The keys that a song can go to: how far each lies, and where the tune lies in it."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, fifths, shift_to, spell_in_key
from yellow_hinge.core.pitch.pitch import flat_note, parse_pitch, pitch_of, pretty_signs, sharp_note
from yellow_hinge.core.song.song import Song

MOST_SIGNS = 6
Range = tuple[int, int]  # lowest and highest MIDI number


class OtherKey(NamedTuple):
    """A key to go to: semitones by which everything moves (below 0: down), and the tune's lowest and highest MIDI
    number there, None where the song has no tune.
    """

    key: Key
    by: int
    tune: Range | None

    @property
    def way(self) -> str:
        """How far, in words: "up 3"."""
        return f"{'up' if self.by > 0 else 'down'} {abs(self.by)}" if self.by else "as it is"

    @property
    def words(self) -> str:
        """The key, how far it lies and the tune's range there, as the player reads it."""
        tonic = f"{self.key.tonic}{'m' if self.key.is_minor else ''}"
        return pretty_signs(f"{tonic}  {self.way}{self._tune_words()}")

    def _tune_words(self) -> str:
        if self.tune is None:
            return ""
        low, high = (pitch_of(midi, spell_in_key(midi % 12, self.key)) for midi in self.tune)
        return f", tune {low} to {high}"

    def beyond(self, voice: Range) -> int:
        """Semitones by which the tune leaves a voice's range at its worse end; 0 or less where it fits."""
        low, high = self.tune or voice
        return max(voice[0] - low, high - voice[1])


def tune_range(song: Song) -> Range | None:
    """The tune's lowest and highest MIDI number."""
    tones = [tone.spelled for section in song.sections for bar in section.bars for tone in bar.tune]
    midis = [pitch.midi for pitch in tones if pitch is not None]
    return (min(midis), max(midis)) if midis else None


def other_keys(song: Song) -> list[OtherKey]:
    """All keys of the song's mode with six signs at most, from the farthest down to the farthest up; its own among
    them. One that has as many sharps as flats is there in both spellings.
    """
    own, tune = song.the_key, tune_range(song)
    tonics = dict.fromkeys(note for pc in range(12) for note in (flat_note(pc), sharp_note(pc)))
    keys = [Key(tonic, own.mode) for tonic in tonics if tonic.pc != own.tonic.pc]
    found = []
    for key in (own, *(key for key in keys if abs(fifths(key)) <= MOST_SIGNS)):
        by = shift_to(own, key)
        found.append(OtherKey(key, by, (tune[0] + by, tune[1] + by) if tune else None))
    return sorted(found, key=lambda other: other.by)


def key_for(song: Song, voice: Range) -> OtherKey:
    """The key in which the tune lies best in a voice: with room on both sides, else the least outside; the nearest key
    among equals. Raises UserError where the song has no tune.
    """
    if tune_range(song) is None:
        raise UserError("The song has no tune yet: write its notes under a line as tune: E4:1.5")
    return min(other_keys(song), key=lambda other: (max(0, other.beyond(voice)), abs(other.by)))


def read_voice(text: str) -> Range:
    """A voice's lowest and highest note out of "A3 D5" or "A3 to D5". Raises UserError."""
    words = text.replace("–", " ").replace("-", " ").replace(",", " ").replace(" to ", " ").split()
    if len(words) != 2:
        raise UserError(f"{text[:30]!r} is not two notes; write the lowest and the highest, such as A3 D5")
    low, high = (parse_pitch(word).midi for word in words)
    return min(low, high), max(low, high)
