"""How loud a stroke is: its sign, the phrase, the beat, the keys it shares its weight with, and the tune."""

from __future__ import annotations

from yellow_hinge.core.rhythm.tune.hand import TuneNote
from yellow_hinge.core.song.timeline import Moment

LOUD = {"left": 64, "right": 70}  # velocities
LEAST_LOUD, MOST_LOUD = 24, 118
TOP_LOUDER, SHARED = 4, 2  # the right hand's top, and off for every key more in a stroke
PHRASE = (-2, 0, 4, 1, -1, 1, 5, -3)  # by bar of eight: two halves, the second one higher
DOWNBEAT, OFF_BEAT = 2, 3  # straight; where it swings, an off-beat before a rest
AGAIN, MOST_AGAIN, CLOSE = 2, 4, -6  # by every pass; the last chord
UNDER_TUNE = -12  # the hands, while a tune sounds
TUNE_LOUD, LEAST_TUNE, MOST_TUNE, CONTOUR = 98, 70, 112, 4
MOST_SHARING = 5


def swell(bar: int, moment: Moment, last: bool, swings: bool) -> int:
    """By how many velocities a chord is louder than its pattern says: its bar of the phrase (from 0), its beat, its
    pass; `last`: the song ends with it.
    """
    found = PHRASE[bar % len(PHRASE)] + min(AGAIN * moment.turn, MOST_AGAIN)
    return found + DOWNBEAT * (moment.beat == 1 and not swings) + CLOSE * last + UNDER_TUNE * bool(moment.tune)


def loudness(hand: str, louder: int, swelled: int, keys: int, top: bool) -> int:
    """The velocity of one key of a stroke of `keys` keys; `top`: it is the right hand's highest."""
    shared = TOP_LOUDER if top else -SHARED * (min(keys, MOST_SHARING) - 1)
    return max(LEAST_LOUD, min(MOST_LOUD, LOUD[hand] + louder + swelled + shared))


def tune_loudness(tone: TuneNote, tones: tuple[TuneNote, ...], swelled: int) -> int:
    """The velocity of a note of the tune: as its phrase swells, a little more the higher it lies."""
    high = [t.midi for t in tones if t.midi is not None]
    middle = sum(high) / len(high)
    contour = max(-CONTOUR, min(CONTOUR, round((tone.midi or 0) - middle) // 2))
    return max(LEAST_TUNE, min(MOST_TUNE, TUNE_LOUD + swelled - UNDER_TUNE + contour))
