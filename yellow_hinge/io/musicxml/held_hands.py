"""The hands as they are held, carried by a score that shows what is struck, so that our own file brings them back."""

from __future__ import annotations

from typing import TYPE_CHECKING
from xml.etree.ElementTree import Element, SubElement

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.symbols.chord import same_chord
from yellow_hinge.core.symbols.symbol import parse_symbol

if TYPE_CHECKING:  # what only writing needs
    from yellow_hinge.core.leading.answer import Solution
    from yellow_hinge.core.sheet.bars import Measure

FIELD = "yellow-hinge-hands"
MEMO = "» "  # what the words of a player's note begin with
MOST = 20_000  # hands that a score is believed to have


class HeldHands(msgspec.Struct, frozen=True, array_like=True):
    """Both hands (MIDI) of one chord of a score: its bar and its place in it, from 0, the pass of its repeat from 0,
    and its symbol.
    """

    bar: int
    slot: int
    turn: int
    symbol: str
    left: tuple[int, ...]
    right: tuple[int, ...]


def held_hands(measures: list[Measure], solution: Solution) -> tuple[HeldHands, ...]:
    """The hands of every chord of a score, pass by pass; passes that are played alike are there once."""
    at = {
        (moment.section, moment.slot_id): (bar, slot)
        for bar, made in enumerate(measures)
        for slot, moment in enumerate(made.moments)
    }
    found: dict[tuple[int, int], list[HeldHands]] = {}
    for voicing in solution.voicings:
        here = voicing.here
        place = at.get((here.section, here.slot_id))
        if place is not None:
            own = found.setdefault(place, [])
            own.append(HeldHands(*place, here.turn, here.symbol, *voicing.both))
    every = (row[:1] if len({(one.left, one.right) for one in row}) == 1 else row for row in found.values())
    return tuple(one for row in every for one in row)


def write_held(identification: Element, hands: tuple[HeldHands, ...]) -> None:
    """Put them into a score's identification."""
    field = SubElement(SubElement(identification, "miscellaneous"), "miscellaneous-field", {"name": FIELD})
    field.text = msgspec.json.encode(hands).decode()


def read_held(root: Element) -> tuple[HeldHands, ...]:
    """The hands that a score carries; () where there are none, or none that can be read."""
    words = next((f.text or "" for f in root.iter("miscellaneous-field") if f.get("name") == FIELD), "")
    try:
        found = msgspec.json.decode(words or "[]", type=tuple[HeldHands, ...])
    except (msgspec.DecodeError, RecursionError):
        return ()
    return found if len(found) <= MOST else ()


def kept_hands(hands: tuple[HeldHands, ...], song: Song) -> tuple[tuple[Keep, ...], str]:
    """The hands as kept at the chords of the song that was read, and a sentence about those whose chord is another one
    now; "" where there is none.
    """
    bars = [(section, bar) for section in song.sections for bar in section.bars]
    alone = {(one.bar, one.slot): 0 for one in hands}
    for one in hands:
        alone[one.bar, one.slot] += 1
    found, others = [], 0
    for one in hands:
        if not (0 <= one.bar < len(bars) and 0 <= one.slot < len(bars[one.bar][1].slots)):
            others += 1
            continue
        section, bar = bars[one.bar]
        slot, key = bar.slots[one.slot], section.the_key(song)
        only = (section.id, one.turn) if alone[one.bar, one.slot] > 1 else None
        try:
            if not same_chord(parse_symbol(slot.symbol, key), parse_symbol(one.symbol, key)):
                raise UserError("another chord")
            found.append(Keep(slot.id, slot.symbol, one.left, one.right, "chord", only))
        except UserError:
            others += 1
    return tuple(found), _left_out(others)


def _left_out(count: int) -> str:
    if not count:
        return ""
    chords = "1 chord" if count == 1 else f"{count} chords"
    return f"the hands of {chords} were left out: other chords stand there now"
