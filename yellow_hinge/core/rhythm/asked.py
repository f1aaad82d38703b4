"""What is asked of the playing, as songs and takes keep it."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key, shift_to
from yellow_hinge.core.rhythm.pattern.patterns import Pattern

MOST_QUARTERS = 64
LEAST_STEP, LONGEST_PIECE = Fraction(1, 96), 2000  # of a line: quarters, characters
HandWish = Literal["both", "left", "right"]


class PlayWish(msgspec.Struct, frozen=True):
    """A pattern (its id) for a section, bar or chord (`at` is its id) or the whole song, and for one hand or both;
    `wants`: the hands are opened for it as the pattern wants them; `ahead`: its chords come half a beat early.
    """

    at: int
    pattern: str
    hand: HandWish = "both"
    wants: bool = False
    ahead: bool = False


class Fill(msgspec.Struct, frozen=True):
    """A fill of a kind (see fills.toml) that was taken at a chord, by the slot's id. Its notes are found from the hands
    whenever it is played, so that it stays right in another key and with other voicings. `quarters`: of a beat before
    the chord that a lead-in begins; 0 for as usual.
    """

    slot: int
    kind: str
    quarters: int = 0

    def __post_init__(self) -> None:
        if not 0 <= self.quarters <= MOST_QUARTERS:
            raise UserError(f"a lead-in begins {self.quarters} quarters of a beat early; {MOST_QUARTERS} are the most")

    def is_like(self, other: Fill) -> bool:
        """Whether it is the same fill of the same chord, whenever it begins."""
        return (self.slot, self.kind) == (other.slot, other.kind)


class LinePiece(msgspec.Struct, frozen=True):
    """What a line of the right hand does over a chord, by the slot's id: signs in degrees (see degree_line.py), each
    `step` quarters long. In degrees it goes along into other keys and with other chords.
    """

    slot: int
    degrees: str
    step: Fraction

    def __post_init__(self) -> None:
        if not LEAST_STEP <= self.step <= MOST_QUARTERS or len(self.degrees) > LONGEST_PIECE:
            raise UserError(f"a step of {self.step} quarters and {len(self.degrees)} signs make no line")


class Playing(msgspec.Struct, frozen=True):
    """All that is asked of how a song is played; `patterns` are the player's own, which may be named like the others;
    `lines` what the right hand plays over the hands. Names that are not known are kept, and the usual pattern is used.
    `sounds` is the key that a keyboard with its transpose set makes of the song's, "" where it is not set.
    """

    wishes: tuple[PlayWish, ...] = ()
    fills: tuple[Fill, ...] = ()
    patterns: tuple[Pattern, ...] = ()
    sounds: str = ""
    lines: tuple[LinePiece, ...] = ()

    def __post_init__(self) -> None:
        if self.sounds:
            parse_key(self.sounds)

    def shift(self, key: Key) -> int:
        """Semitones that all keys sound higher than they are, where the song is played in `key`."""
        return shift_to(key, parse_key(self.sounds)) if self.sounds else 0
