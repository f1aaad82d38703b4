"""A lead-in of the player's own: semitones from the note that it leads into."""

from __future__ import annotations

from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.own.checks import named, within
from yellow_hinge.core.rhythm.fills.kinds import FARTHEST_OWN, MOST_OWN, FillKind, fill_kind, own_notes


class OwnFill(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file says: `steps` are semitones above (or below, with a minus) the note that it leads `into`, the hands'
    highest ("top") or lowest ("bass"), in their order.
    """

    id: str
    name: str
    steps: tuple[int, ...]
    into: Literal["top", "bass"] = "top"
    words: str = ""

    def __post_init__(self) -> None:
        named(self.id, self.name, self.words)
        if not 1 <= len(self.steps) <= MOST_OWN:
            raise UserError(f"steps: 1 to {MOST_OWN} of them")
        for step in self.steps:
            within("steps", step, -FARTHEST_OWN, FARTHEST_OWN)

    @property
    def kind(self) -> FillKind:
        """It as the list of fills has it; its id is what a song keeps, and says the notes."""
        found = fill_kind(own_notes(self.into, 0, self.steps))
        assert found is not None
        made: FillKind = msgspec.structs.replace(found, name=self.name, words=self.words or found.words)
        return made


def own_fill(name: str) -> OwnFill | None:
    """A lead-in that a song keeps (the id of its kind) as an entry; None for one that ships."""
    words = name.split()
    if fill_kind(name) is None or words[0] != "own":
        return None
    into: Literal["top", "bass"] = "bass" if words[1] == "bass" else "top"
    steps = tuple(int(step[1:]) for step in words[2:])
    slug = "-".join((into, *(f"{'down' if step < 0 else 'up'}{abs(step)}" for step in steps)))
    return OwnFill(slug[:40].rstrip("-"), f"{' '.join(map(str, steps))} into the {into}"[:40], steps, into)
