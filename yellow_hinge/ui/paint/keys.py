"""The two keyboards joined by finger paths, as plain geometry in pixels."""

from __future__ import annotations

from functools import lru_cache

import msgspec

from yellow_hinge.core.hands import BLACK, KEY_X, WHITE_MM
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.prices.hinge import Hinge
from yellow_hinge.ui.paint.notes import PlateMark, chord_marks, step_label

BLACK_LONG = 0.62  # a black key's share of a white key's length
BLACK_WIDE = 0.58  # and of its width
MOST_WIDE = 46.0  # pixels of a white key at most
FINGERS_H = 15.0  # pixels of a line of fingers


class KeyShape(msgspec.Struct, frozen=True):
    """One key: MIDI number, left edge and width, whether black."""

    midi: int
    x: float
    width: float
    black: bool


class Keyboard(msgspec.Struct, frozen=True):
    """A stretch of keys at `y`, white keys `height` tall; whites first, so that blacks paint over them."""

    keys: tuple[KeyShape, ...]
    y: float
    height: float
    marks: tuple[PlateMark, ...]

    def centre(self, midi: int) -> float:
        """Horizontal middle of a key."""
        key = next(key for key in self.keys if key.midi == midi)
        return key.x + key.width / 2

    def key_at(self, x: float, y: float) -> int | None:
        """The key under a point, black ones first, or None."""
        if not self.y <= y <= self.y + self.height:
            return None
        for key in reversed(self.keys):
            tall = self.height * (BLACK_LONG if key.black else 1.0)
            if key.x <= x < key.x + key.width and y <= self.y + tall:
                return key.midi
        return None


class FingerPath(msgspec.Struct, frozen=True):
    """A finger's way from the upper keyboard to the lower: `kind` as that of its step."""

    x1: float
    x2: float
    kind: str
    hand: str
    label: str


class KeysScene(msgspec.Struct, frozen=True):
    """Both keyboards (the lower None at the end of a song) and the paths between them; `tune` are the melody's notes
    (MIDI) over the upper chord, `singer` the left and right edge of the register that the singer needs.
    """

    upper: Keyboard
    lower: Keyboard | None
    paths: tuple[FingerPath, ...]
    tune: tuple[int, ...] = ()
    singer: tuple[float, float] | None = None

    @property
    def span(self) -> tuple[int, int]:
        """The lowest and the highest key."""
        return self.upper.keys[0].midi, max(key.midi for key in self.upper.keys)


LOWEST, HIGHEST = 24, 107  # keys drawn at most: C1 to B7
SPARE = 5  # semitones shown beyond the notes


def octave_span(notes: list[int]) -> tuple[int, int]:
    """The stretch of keys to show for some notes: with some to spare, from a C or F to an E or B, where no black key is
    cut.
    """
    low, high = min(notes, default=48) - SPARE, max(notes, default=72) + SPARE
    while low % 12 not in (0, 5):
        low -= 1
    while high % 12 not in (4, 11):
        high += 1
    return low, high


def widened(low: int, high: int, width: float) -> tuple[int, int]:
    """A stretch of keys that fills `width` pixels: more keys on both sides where they would be wider than is wanted."""
    while (low > LOWEST or high < HIGHEST) and _whites(low, high) * MOST_WIDE < width:
        low, high = min(low, max(LOWEST, low - 12)), max(high, min(HIGHEST, high + 12))
    return low, high


def _whites(low: int, high: int) -> int:
    return sum(1 for midi in range(low, high + 1) if midi % 12 not in BLACK)


def keyboard(
    low: int, high: int, x: float, y: float, width: float, height: float, found: tuple[PlateMark, ...]
) -> Keyboard:
    """Keys `low` (a C or F) to `high` (an E or B) in true proportion inside `width` pixels."""
    return Keyboard(_shapes(low, high, x, width), y, height, found)


@lru_cache(maxsize=128)
def _shapes(low: int, high: int, x: float, width: float) -> tuple[KeyShape, ...]:
    unit = min(MOST_WIDE, width / _whites(low, high))
    origin = float(KEY_X[low]) - WHITE_MM / 2
    keys = []
    for black in (False, True):
        for midi in range(low, high + 1):
            if (midi % 12 in BLACK) == black:
                wide = unit * (BLACK_WIDE if black else 1.0)
                centre = x + (float(KEY_X[midi]) - origin) / WHITE_MM * unit
                keys.append(KeyShape(midi, centre - wide / 2, wide, black))
    return tuple(keys)


def _register(keys: Keyboard, singer: tuple[int, int] | None) -> tuple[float, float] | None:
    """Left and right edge of a register (MIDI) on a keyboard."""
    inside = [key for key in keys.keys if singer and singer[0] <= key.midi <= singer[1]]
    return (min(key.x for key in inside), max(key.x + key.width for key in inside)) if inside else None


def keys_scene(
    now: Voicing,
    following: Voicing | None,
    hinge: Hinge | None,
    width: float,
    height: float,
    simple: bool = False,
    tune: tuple[int, ...] = (),
    singer: tuple[int, int] | None = None,
    span: tuple[int, int] | None = None,
) -> KeysScene:
    """Both keyboards in an area of `width` x `height` pixels, over the register that the two chords use, at least over
    `span` (MIDI), with a line for fingers above and below.
    """
    notes = [note for v in (now, following) if v for note in (*v.left, *v.right)]
    low, high = octave_span([*notes, *tune])
    if span is not None:
        low, high = min(low, span[0]), max(high, span[1])
    low, high = widened(low, high, width)
    gap = max(30.0, height * 0.2)
    tall = (height - gap) / 2 - FINGERS_H
    upper = keyboard(low, high, 0.0, FINGERS_H, width, tall, chord_marks(now.chord, now.both, simple, now.fingers))
    if following is None or hinge is None:
        return KeysScene(upper, None, (), tune, _register(upper, singer))
    found = chord_marks(following.chord, following.both, simple, following.fingers)
    lower = keyboard(low, high, 0.0, FINGERS_H + tall + gap, width, tall, found)
    paths = []
    for step in hinge.steps:
        x1 = upper.centre(step.old) if step.old is not None else lower.centre(step.new or 0)
        x2 = lower.centre(step.new) if step.new is not None else x1
        paths.append(FingerPath(x1, x2, step.kind, step.hand, step_label(step)))
    return KeysScene(upper, lower, tuple(paths), tune, _register(upper, singer))
