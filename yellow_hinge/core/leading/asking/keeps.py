"""What the player keeps as it is: a chord's hands, one of them, its top or bass, and top notes held through chords."""

from __future__ import annotations

from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import same_chord
from yellow_hinge.core.symbols.symbol import parse_symbol

MOST_NOTES = 5  # of a hand

Part = Literal["chord", "left", "right", "top", "bass"]


class HeldTop(msgspec.Struct, frozen=True):
    """A note (MIDI) that stays on top of the right hand through some slots (their ids)."""

    slots: tuple[int, ...]
    top: int

    def __post_init__(self) -> None:
        _check_notes((self.top,), "a held top")


class Keep(msgspec.Struct, frozen=True):
    """What is kept as the player likes it: of which slot (its id), what chord it was, and the notes (MIDI). `part` says
    what of it: both hands, one hand, the right hand's top note, or the left hand's lowest. `only`: the pass in which it
    holds (see Moment.pass_id), None for all of them.
    """

    slot: int
    symbol: str
    left: tuple[int, ...]
    right: tuple[int, ...]
    part: Part = "chord"
    only: tuple[int, int] | None = None

    def __post_init__(self) -> None:
        for hand in (self.left, self.right):
            _check_notes(hand, "a kept hand")
            if len(hand) > MOST_NOTES:
                raise UserError(f"a kept hand has {len(hand)} notes; a hand has {MOST_NOTES} fingers")


def _check_notes(notes: tuple[int, ...], what: str) -> None:
    if not all(0 <= note <= 127 for note in notes) or len(set(notes)) != len(notes):
        raise UserError(f"{what} has the notes {' '.join(map(str, notes))[:60]}; MIDI has 0 to 127, each once")


def in_force(keep: Keep, moment: Moment) -> bool:
    """Whether a keep holds at a moment: its slot and pass, and still its chord, however that is spelled. Else it rests
    there.
    """
    if keep.slot != moment.slot_id or keep.only not in (None, moment.pass_id):
        return False
    return moment.chord is not None and _is_chord(keep.symbol, moment)


def ruling(keeps: tuple[Keep, ...], moment: Moment) -> tuple[Keep, ...]:
    """The keeps that hold at a moment; what is kept for its pass alone overrules what is kept for all of them."""
    found = tuple(keep for keep in keeps if in_force(keep, moment))
    own = tuple(keep for keep in found if keep.only is not None)
    if not own:
        return found
    parts = {keep.part for keep in own}
    if "chord" in parts:
        return own
    return (*(k for k in found if k.only is None and k.part != "chord" and k.part not in parts), *own)


def _is_chord(symbol: str, moment: Moment) -> bool:
    if symbol == moment.symbol and symbol[:1] in "ABCDEFG":
        return True
    try:
        kept = parse_symbol(symbol, moment.key)
    except UserError:
        return False
    return moment.chord is not None and same_chord(kept, moment.chord)
