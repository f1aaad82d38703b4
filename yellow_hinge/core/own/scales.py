"""A scale of the player's own, and the chords that it is offered over."""

from __future__ import annotations

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.scales import OwnScaleRow, scale_names
from yellow_hinge.core.own.checks import known, named
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.functions import GOES
from yellow_hinge.core.symbols.quality import CLASS_RULES

LEAST, MOST = 4, 12  # notes
STEPS = 12


class OwnScale(OwnScaleRow, frozen=True):
    """What a file says, checked."""

    def __post_init__(self) -> None:
        named(self.id, self.name, self.words)
        if self.id in scale_names():
            raise UserError(f"id: {self.id} ships already; choose another")
        self._check_notes()
        if not self.over:
            raise UserError("over: at least one class of chords")
        for name in self.over:
            known("over", name, CLASS_RULES)
        for way in self.goes:
            known("goes", way, GOES)
        if any(not 0 <= step < STEPS for step in self.steps):
            raise UserError("steps: semitones above the tonic, 0 to 11")

    def _check_notes(self) -> None:
        degrees = self.notes.split()
        try:
            semitones = [degree_pc(degree) for degree in degrees]
        except (UserError, KeyError, ValueError):
            raise UserError(f"notes: {self.notes[:40]!r} are no degrees, such as 1 2 b3 4 5 6 b7") from None
        if not LEAST <= len(degrees) <= MOST or semitones != sorted(set(semitones)) or semitones[0]:
            raise UserError(f"notes: {LEAST} to {MOST} degrees that rise from 1, none twice")
