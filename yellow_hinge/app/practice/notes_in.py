"""Keys that a player presses, from wherever they come: MIDI keyboards, the computer's keys, the mouse."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Literal, NamedTuple

LOWEST, HIGHEST = 0, 127
SUSTAIN = 64  # the controller of the pedal; from half way it is down


class NoteEvent(NamedTuple):
    """A key pressed or lifted, or the pedal moved (`midi` 1 for down, 0 for up); `at` is a steady clock in seconds."""

    kind: Literal["press", "lift", "pedal"]
    midi: int
    velocity: int
    at: float


class NotesIn:
    """Which keys are down, and who hears of it. A key that several sources hold is up when the last one lets go."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self.clock = clock
        self.listeners: list[Callable[[NoteEvent], None]] = []
        self._held: dict[int, set[str]] = {}
        self.pedal = False

    @property
    def down(self) -> frozenset[int]:
        """The keys that are down."""
        return frozenset(self._held)

    def press(self, midi: int, velocity: int = 76, source: str = "keys", at: float | None = None) -> None:
        """A key went down, now or at a time that is known."""
        if not LOWEST <= midi <= HIGHEST:
            return
        fresh = midi not in self._held
        self._held.setdefault(midi, set()).add(source)
        if fresh:
            self._tell(NoteEvent("press", midi, velocity, self.clock() if at is None else at))

    def lift(self, midi: int, source: str = "keys", at: float | None = None) -> None:
        """A key went up."""
        holders = self._held.get(midi)
        if holders is None or source not in holders:
            return
        holders.discard(source)
        if not holders:
            del self._held[midi]
            self._tell(NoteEvent("lift", midi, 0, self.clock() if at is None else at))

    def put_pedal(self, down: bool, at: float | None = None) -> None:
        """The pedal went down or up."""
        if down != self.pedal:
            self.pedal = down
            self._tell(NoteEvent("pedal", int(down), 0, self.clock() if at is None else at))

    def let_go(self, source: str) -> None:
        """All keys of a source go up, as when a keyboard is unplugged or the window is left."""
        for midi in [midi for midi, holders in self._held.items() if source in holders]:
            self.lift(midi, source)

    def message(self, data: bytes, source: str, at: float | None = None) -> None:
        """A MIDI message, of any channel, and when it came: notes and the pedal; the rest is left aside."""
        if len(data) < 3:
            return
        kind, number, value = data[0] & 0xF0, data[1] & 0x7F, data[2] & 0x7F
        if kind == 0x90 and value:
            self.press(number, value, source, at)
        elif kind in (0x80, 0x90):
            self.lift(number, source, at)
        elif kind == 0xB0 and number == SUSTAIN:
            self.put_pedal(value >= 64, at)
        elif kind == 0xB0 and number in (120, 123):  # all sound, all notes off
            self.let_go(source)

    def _tell(self, event: NoteEvent) -> None:
        for listener in list(self.listeners):
            listener(event)
