"""What one hand can hold: strokes let go where the next ones need the fingers, rolled where they are too wide."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.hands import KEY_X, TOLERANCE_MM, Hands, reach_mm, span_mm

FINGERS = 5
WIDE_ROLL = 70  # milliseconds for what is wider than the hand
ON_THE_BEAT = -1  # instead of a roll: a note of the tune, which waits for nothing


class Stroke(NamedTuple):
    """A key struck by a hand: onset and end in ticks from the song's start, MIDI number, velocity, the index of its
    chord, and the roll of the whole stroke in milliseconds, or ON_THE_BEAT; `louder`: velocities, as its pattern says.
    """

    onset: int
    end: int
    midi: int
    velocity: int
    place: int
    roll: int = 0
    added: bool = False
    louder: int = 0


def held_by(hand: str, strokes: list[Stroke], hands: Hands, widest: float = 0.0) -> list[Stroke]:
    """The strokes of one hand as long as it can hold them: a key is let go before it is struck again, and where what
    comes is out of reach or would take more than five fingers, the farthest keys are let go first. `widest`: mm that
    the hand was seen to reach in this song.
    """
    onsets: dict[int, dict[int, Stroke]] = {}
    for stroke in strokes:
        keys = onsets.setdefault(stroke.onset, {})
        old = keys.get(stroke.midi)
        keys[stroke.midi] = stroke if old is None or (old.end, old.velocity) < (stroke.end, stroke.velocity) else old
    done: list[Stroke] = []
    held: dict[int, Stroke] = {}
    for onset in sorted(onsets):
        new = onsets[onset]
        for midi, stroke in list(held.items()):
            if stroke.end <= onset or midi in new:
                done.append(held.pop(midi)._replace(end=min(stroke.end, onset)))
        while held and not _fits(hand, (*held, *new), hands, widest):
            far = max(held, key=lambda midi: (_distance(midi, new), midi))
            done.append(held.pop(far)._replace(end=onset))
        held.update(new)
    return sorted((*done, *held.values()), key=lambda stroke: (stroke.onset, stroke.midi))


def _fits(hand: str, keys: tuple[int, ...], hands: Hands, widest: float) -> bool:
    notes = tuple(sorted(keys))
    return len(notes) <= FINGERS and span_mm(notes) <= max(hands.limit(hand, len(notes)), widest)


def _distance(midi: int, new: dict[int, Stroke]) -> float:
    """How far a key lies from the keys struck now, in mm."""
    return float(max(abs(KEY_X[midi] - KEY_X[key]) for key in new))


def roll_of(strokes: list[Stroke], hand: str, hands: Hands, widest: float = 0.0) -> int:
    """Milliseconds from the first to the last of the keys of one onset, or ON_THE_BEAT; see `rolled`."""
    if any(stroke.roll == ON_THE_BEAT for stroke in strokes):
        return ON_THE_BEAT
    roll = max(stroke.roll for stroke in strokes)
    reach = reach_mm(hands.reach(hand)) + TOLERANCE_MM
    wide = span_mm(tuple(sorted(stroke.midi for stroke in strokes))) > (reach if hands.roll else max(reach, widest))
    return max(roll, WIDE_ROLL) if hand == "left" and wide else roll


def rolled(
    strokes: list[Stroke], hand: str, hands: Hands, ticks_a_second: float, after: int = 0, widest: float = 0.0
) -> list[Stroke]:
    """Strokes of one onset with their rolls: low notes first, `after` milliseconds later where the other hand comes
    before. What is wider than the hand, or than the `widest` that it was seen to reach, is rolled even where nobody
    asks for it.
    """
    strokes = sorted(strokes, key=lambda stroke: stroke.midi)
    roll = roll_of(strokes, hand, hands, widest)
    if roll == ON_THE_BEAT or (not roll and not after):
        return strokes
    found = []
    for at, stroke in enumerate(strokes):
        late = after + (roll * at // max(1, len(strokes) - 1) if roll else 0)
        onset = stroke.onset + round(late / 1000 * ticks_a_second)
        found.append(stroke._replace(onset=onset) if onset < stroke.end else stroke)
    return found
