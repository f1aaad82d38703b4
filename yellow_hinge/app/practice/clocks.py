"""The clocks of practice: how long a chord lasts in time, and when to rest. Whoever has a timer turns them."""

from __future__ import annotations

from yellow_hinge.app.practice.practising import REST_MINUTES
from yellow_hinge.app.practice.programmes import AskedChord, DrillProgramme, Programme
from yellow_hinge.core.performing import beat_seconds

FASTER, MOST_FASTER = 0.04, 20  # of the tempo, for a round of a key that was right


class ChordClock:
    """Counts the beats of the chord that is asked for; `tempo` is the song's, faster where rounds of keys are right."""

    def __init__(self) -> None:
        self._left = 0.0
        self.running = False

    @staticmethod
    def tempo(song: int, programme: Programme | None) -> float:
        """Beats a minute."""
        faster = programme.faster if isinstance(programme, DrillProgramme) else 0
        return max(1, song) * (1 + FASTER * min(faster, MOST_FASTER))

    def asked(self, step: AskedChord, timed: bool) -> bool:
        """Another chord is asked for, in time or not; whether a click begins now."""
        begins = timed and not self.running
        self._left, self.running = (step.beats, True) if timed else (0.0, False)
        return begins

    def beat(self) -> bool:
        """A beat is over; whether the chord's time is."""
        self._left -= 1
        return self._left <= 0

    def stop(self) -> None:
        """Nothing is in time any more."""
        self.running = False

    @staticmethod
    def beat_ms(tempo: float) -> int:
        """Milliseconds of a beat."""
        return round(beat_seconds(tempo) * 1000)


class Stint:
    """How long was practised since the program started."""

    def __init__(self) -> None:
        self._seconds, self._rested = 0.0, False

    def passed(self, seconds: float) -> bool:
        """So much time went by at the keys; whether a rest is to be thought of, which is said once."""
        self._seconds += seconds
        due = self._seconds >= 60 * REST_MINUTES and not self._rested
        self._rested = self._rested or due
        return due
