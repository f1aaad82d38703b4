"""What a player chooses of a sheet: its kind, size, paper and what it shows."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key

KINDS = {"cheat": "Both hands", "staves": "Staves", "line": "Symbols only"}
SIZES = {"s": "Small", "m": "Medium", "l": "Large", "stage": "For the stage"}
# Width and height upright, in mm; a tablet's screen is taken as a page.
PAPERS = {"a4": ("A4", 210.0, 297.0), "letter": ("Letter", 215.9, 279.4), "tablet": ("Tablet", 162.0, 216.0)}
SHOWN = {
    "keyboards": "Keyboards", "degrees": "Degrees", "fingers": "Fingers", "numbers": "Numbers", "cues": "Cue words",
    "tune": "Tune", "line": "Line", "holds": "What holds", "notes": "My notes", "rhythm": "Rhythm", "pedal": "Pedal",
}  # fmt: skip
USUAL_SHOWN = ("keyboards", "degrees", "fingers", "numbers", "cues", "line", "holds", "notes", "rhythm", "pedal")
HANDS_AS = {"struck": "as struck", "held": "as held"}  # what staves show of the hands
MOST_COLUMNS = 8


class SheetAsk(msgspec.Struct, frozen=True):
    """The choices for a sheet. `columns` of a row, 0 as many as fit; `key` the sheet is written in, "" for the song's
    own; `mix` instead of the take on the desk; `hands` out of HANDS_AS.
    """

    kind: str = "cheat"
    size: str = "m"
    columns: int = 0
    paper: str = "a4"
    landscape: bool = False
    show: tuple[str, ...] = USUAL_SHOWN
    key: str = ""
    mix: bool = False
    hands: str = "struck"

    def __post_init__(self) -> None:
        for name, known in (("kind", KINDS), ("size", SIZES), ("paper", PAPERS), ("hands", HANDS_AS)):
            if getattr(self, name) not in known:
                raise UserError(f"{getattr(self, name)[:20]!r} is not a {name} of a sheet; use {', '.join(known)}")
        strange = next((part for part in self.show if part not in SHOWN), None)
        if strange is not None:
            raise UserError(f"{strange[:20]!r} is nothing that a sheet shows; use {', '.join(SHOWN)}")
        if not 0 <= self.columns <= MOST_COLUMNS:
            raise UserError(f"a row of a sheet has up to {MOST_COLUMNS} columns")
        if self.key:
            parse_key(self.key)

    def shows(self, part: str) -> bool:
        """Whether the sheet shows a part out of SHOWN."""
        return part in self.show

    @property
    def struck(self) -> bool:
        """Whether staves show what is struck, and not what is held."""
        return self.hands == "struck"

    @property
    def page(self) -> tuple[float, float]:
        """Width and height of a page in mm."""
        _, width, height = PAPERS[self.paper]
        return (height, width) if self.landscape else (width, height)

    @property
    def margin(self) -> float:
        """The empty edge of a page in mm; a screen needs less than paper."""
        return 5.0 if self.paper == "tablet" else 11.0


def read_shown(words: str) -> tuple[str, ...]:
    """Parts to show from words such as "keyboards,fingers". Raises UserError."""
    parts = tuple(part.strip().casefold() for part in words.split(",") if part.strip())
    return SheetAsk(show=parts).show
