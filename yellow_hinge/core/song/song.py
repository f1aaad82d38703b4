"""Songs as written: sections of bars of chords with beats, melody and cue words.

Beats are felt beats: 6/8 has two and 12/8 four, each a dotted quarter; elsewhere a beat is the meter's lower number.
"""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import Pitch, parse_pitch

NO_CHORD = "N.C."
LONGEST_MEMO = 400  # characters of a note
TEMPOS = (20, 400)  # beats a minute
Address = tuple[int, int, int]  # where a chord is written: (section, bar, slot), from 0


def _no_beats() -> Fraction:
    return Fraction(0)


class Meter(msgspec.Struct, frozen=True):
    """A meter such as 4/4 or 12/8."""

    upper: int = 4
    lower: int = 4

    def __post_init__(self) -> None:
        if not 1 <= self.upper <= 32 or self.lower not in (1, 2, 4, 8, 16):
            raise UserError(f"{self.upper}/{self.lower} is not a meter; write one such as 4/4, 3/4, 6/8 or 12/8")

    def __str__(self) -> str:
        return f"{self.upper}/{self.lower}"

    @property
    def compound(self) -> bool:
        """Whether a beat is a dotted note, as in 6/8."""
        return self.lower >= 8 and self.upper % 3 == 0 and self.upper > 3

    @property
    def beats(self) -> int:
        """Felt beats in a bar."""
        return self.upper // 3 if self.compound else self.upper

    @property
    def beat_quarters(self) -> Fraction:
        """Length of one beat in quarter notes."""
        return _beat_quarters(self.compound, self.lower)


@lru_cache(maxsize=32)
def _beat_quarters(compound: bool, lower: int) -> Fraction:
    return Fraction(12 if compound else 4, lower)


def short_beats(number: Fraction) -> str:
    """Beats as a player writes them: "1.5", "4/3", "2"."""
    return str(number) if number.denominator not in (2, 4, 5, 10) else f"{float(number):g}"


def parse_meter(text: str) -> Meter:
    """Read "3/4". Raises UserError."""
    upper, slash, lower = text.strip().partition("/")
    if not (slash and upper.strip().isdecimal() and lower.strip().isdecimal() and len(text) < 12):
        raise UserError(f"{text[:12]!r} is not a meter; write one such as 4/4, 3/4, 6/8 or 12/8")
    return Meter(int(upper), int(lower))


class Tone(msgspec.Struct, frozen=True):
    """One melody note or rest. `pitch` is spelled ("F#4") or "" for a rest; `beats` its length; `tied` to the next."""

    pitch: str
    beats: Fraction
    tied: bool = False

    @property
    def spelled(self) -> Pitch | None:
        """The pitch, or None for a rest."""
        return parse_pitch(self.pitch) if self.pitch else None


class Slot(msgspec.Struct, frozen=True):
    """A chord as the player wrote it (or NO_CHORD), its beats and its cue words. `id` stays the chord's own through
    every edit; 0 until it is given one.
    """

    symbol: str
    beats: Fraction
    cue: str = ""
    id: int = 0


class Bar(msgspec.Struct, frozen=True):
    """A bar. `repeats` > 0 closes a repeat that is played that often in all; `ending` > 0 is played on
    the passes that its digits name;
    `same` keeps that it was written %; `meter` is its own where it differs; `id` as for a slot; `signs` out of SIGNS
    (see road) say where to go on.
    """

    slots: tuple[Slot, ...]
    tune: tuple[Tone, ...] = ()
    opens: bool = False
    repeats: int = 0
    same: bool = False
    ending: int = 0
    meter: Meter | None = None
    id: int = 0
    signs: tuple[str, ...] = ()


def endings_of(ending: int) -> tuple[int, ...]:
    """The passes, from 1, that an ending is played on: its digits, so that 12 is for the first and the second."""
    return tuple(int(digit) for digit in str(ending)) if ending else ()


def ending_words(ending: int) -> str:
    """An ending as it is written, "1, 2"; "" for none."""
    return ", ".join(str(turn) for turn in endings_of(ending))


def beat_of(bar: Bar, slot: int) -> Fraction:
    """The beat of its bar, from 0, on which a slot begins."""
    return sum((other.beats for other in bar.slots[:slot]), Fraction(0))


def slot_on(bar: Bar, beat: Fraction) -> int | None:
    """The slot that sounds on a beat of a bar, from 0; None past its end."""
    inside = (i for i, slot in enumerate(bar.slots) if beat_of(bar, i) <= beat < beat_of(bar, i) + slot.beats)
    return next(inside, None)


class Was(msgspec.Struct, frozen=True):
    """What the chord of a slot (its id) was before, the oldest first."""

    slot: int
    symbols: tuple[str, ...]


class Memo(msgspec.Struct, frozen=True):
    """What the player notes down of a chord (the id of its slot), or of the song where that is 0."""

    slot: int
    words: str


class Section(msgspec.Struct, frozen=True):
    """A named stretch of bars. Without bars it plays those of the first section of its name again. `key`,
    `meter` and `swing` are its own where they differ from the song's; `id` as for a slot.
    """

    name: str
    bars: tuple[Bar, ...]
    key: str = ""
    meter: Meter | None = None
    id: int = 0
    swing: str = ""

    def the_key(self, song: Song) -> Key:
        """The key in force."""
        return parse_key(self.key or song.key)


class Song(msgspec.Struct, frozen=True):
    """A whole song as written. `pickup` beats of a short first bar, 0 for none; `extra` are (name, value) lines of an
    imported file that the program keeps and writes back without using them; `asks` (name, value) what its header asks
    for (see core/chart/headers.py). `swing` as core/song/swing.py reads it, "" for the usual one. No section, bar or
    slot of the song ever had an id of `next_id` or above.
    """

    title: str = "Untitled"
    key: str = "C major"
    meter: Meter = Meter()
    tempo: int = 90
    sections: tuple[Section, ...] = ()
    pickup: Fraction = msgspec.field(default_factory=_no_beats)
    extra: tuple[tuple[str, str], ...] = ()
    next_id: int = 1
    asks: tuple[tuple[str, str], ...] = ()
    swing: str = ""

    def asked(self, name: str) -> str:
        """What the song's header asks for under a name, or ""."""
        return dict(self.asks).get(name, "")

    @property
    def the_key(self) -> Key:
        """The key, read."""
        return parse_key(self.key)
