"""What a player chooses of the screen on stage."""

from __future__ import annotations

import re

import msgspec

from yellow_hinge.core.errors import UserError

BARS = (2, 4, 8)  # of a line
SHOWN = {
    "numbers": "Numbers", "hands": "Hands as notes", "keyboards": "Keyboards", "words": "Cue words",
    "notes": "My notes",
}  # fmt: skip
SOUNDS = {"": "nothing", "click": "a click", "band": "click and band"}
_SWITCH = re.compile(r"key \d{1,9}|note \d{1,3}|controller \d{1,3}|program \d{1,3}")
NOTE_ON, CONTROLLER, PROGRAM = 0x90, 0xB0, 0xC0
HALF_DOWN = 64  # of a controller, from where it is pressed


class StageAsk(msgspec.Struct, frozen=True):
    """The choices for the screen. `bars` of a line out of BARS; `show` out of SHOWN beside the symbols; `black`: on a
    black ground, else on paper; `sound` out of SOUNDS is heard where lines turn by themselves; `turns`: marks where
    they turn; `switch`: the foot switch that was learned, as "key 16777239", "note 36", "controller 67" or "program 3".
    """

    bars: int = 4
    show: tuple[str, ...] = ("numbers", "hands", "words", "notes")
    black: bool = True
    sound: str = ""
    turns: bool = False
    switch: str = ""

    def __post_init__(self) -> None:
        if self.bars not in BARS:
            raise UserError(f"a line on stage has {', '.join(map(str, BARS[:-1]))} or {BARS[-1]} bars")
        strange = next((part for part in self.show if part not in SHOWN), None)
        if strange is not None:
            raise UserError(f"{strange[:20]!r} is nothing that the stage shows; use {', '.join(SHOWN)}")
        if self.sound not in SOUNDS:
            raise UserError(f"{self.sound[:20]!r} is nothing that is heard on stage")
        if self.switch and not _SWITCH.fullmatch(self.switch):
            raise UserError(f"{self.switch[:20]!r} is no foot switch")

    def shows(self, part: str) -> bool:
        """Whether a part out of SHOWN is shown."""
        return part in self.show


def switch_of(message: bytes) -> str:
    """What a MIDI message presses, as a foot switch is called; "" for what presses nothing."""
    if not message:
        return ""
    kind, rest = message[0] & 0xF0, message[1:]
    if kind == NOTE_ON and len(rest) > 1 and rest[1]:
        return f"note {rest[0]}"
    if kind == CONTROLLER and len(rest) > 1 and rest[1] >= HALF_DOWN:
        return f"controller {rest[0]}"
    return f"program {rest[0]}" if kind == PROGRAM and rest else ""
