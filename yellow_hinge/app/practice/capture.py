"""What was played last, always remembered and never written: the last keys and pedals, up to a rest."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from typing import NamedTuple

from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.core.hearing.strikes import Tone

MOST = 40_000  # keys and pedals
REST = 4.0  # seconds without a key, before which something else was played


class Captured(NamedTuple):
    """Notes in order, and when the pedal was down, in seconds from the first note."""

    tones: list[Tone]
    pedals: tuple[tuple[float, float], ...]


class Capture:
    """Hears every key. `clock` counts as the events do."""

    def __init__(self, clock: Callable[[], float]) -> None:
        self._clock = clock
        self._events: deque[NoteEvent] = deque(maxlen=MOST)

    def heard(self, event: NoteEvent) -> None:
        """Remember a key or the pedal."""
        self._events.append(event)

    def forget(self) -> None:
        """What was played is of no interest any more."""
        self._events.clear()

    def played(self) -> Captured:
        """What was played since the last rest; keys that are still down end now."""
        found, pedals = list[Tone](), list[tuple[float, float]]()
        down: dict[int, NoteEvent] = {}
        pressed: float | None = None
        for event in (*self._events, NoteEvent("pedal", 0, 0, self._clock())):
            if event.kind == "pedal":
                if event.midi:
                    pressed = event.at
                elif pressed is not None:
                    pedals.append((pressed, event.at))
                    pressed = None
            elif event.kind == "press":
                down[event.midi] = event
            elif event.midi in down:
                begun = down.pop(event.midi)
                found.append(Tone(begun.at, max(event.at, begun.at + 0.01), event.midi, begun.velocity))
        found += [Tone(e.at, max(self._clock(), e.at + 0.01), e.midi, e.velocity) for e in down.values()]
        return _since_rest(sorted(found), pedals)


def _since_rest(tones: list[Tone], pedals: list[tuple[float, float]]) -> Captured:
    """The notes after the last rest, in seconds from the first of them."""
    first, sounding = 0, 0.0
    for n, tone in enumerate(tones):
        if n and tone.on - sounding > REST:
            first = n
        sounding = max(sounding, tone.off)
    row = tones[first:]
    if not row:
        return Captured([], ())
    zero = row[0].on
    moved = [tone._replace(on=tone.on - zero, off=tone.off - zero) for tone in row]
    return Captured(moved, tuple((a - zero, b - zero) for a, b in pedals if b > zero))
