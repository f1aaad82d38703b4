"""The catalogue of hand shapes as a table: every family over a chord of each class, within reach or beyond."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

import msgspec

from yellow_hinge.core.hands import MOST_REACH, Hands, span_mm
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, with_player
from yellow_hinge.core.leading.families import Making, makings
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.shapes.catalogue import Shape, offered
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol

# The plainest chord of each class that shapes tell apart, by what is written behind its root.
COLUMNS = ("", "m", "m6", "7", "7sus4", "m7b5", "dim7", "aug")


class Cell(NamedTuple):
    """A family over a chord: its example, None where it has none; `why` says why none, or what is beyond the reach."""

    chord: Chord
    making: Making | None
    why: str = ""

    @property
    def within(self) -> bool:
        """Whether the player's hands hold it."""
        return self.making is not None and not self.why


class AtlasRow(NamedTuple):
    """A family with its cells, and the names of the manners in which it is usual."""

    shape: Shape
    cells: tuple[Cell, ...]
    manners: tuple[str, ...]


def atlas(root: str, key: Key, setup: Setup) -> tuple[AtlasRow, ...]:
    """Every family that suits who has the bass, over a chord of each of COLUMNS on a root (its name)."""
    chords = [parse_symbol(root + words, key) for words in COLUMNS]
    hands = setup.player.hands
    wide = with_player(setup, hands=msgspec.structs.replace(hands, left_reach=MOST_REACH, right_reach=MOST_REACH))
    near, far = ([_by_id(makings(chord, key, asked, None, None)) for chord in chords] for asked in (setup, wide))
    bass = "mine" if setup.mine else "theirs"
    found = []
    for shape in offered():
        if shape.suits(bass):
            cells = (
                _cell(shape, chord, close.get(shape.id), any_.get(shape.id), hands)
                for chord, close, any_ in zip(chords, near, far, strict=True)
            )
            found.append(AtlasRow(shape, tuple(cells), _usual_in(shape, bass)))
    return tuple(found)


def _by_id(found: Iterable[Making]) -> dict[str, Making]:
    return {making.shape.id: making for making in found}


def _usual_in(shape: Shape, bass: str) -> tuple[str, ...]:
    return tuple(manner.name for manner in manners().values() if shape.id in getattr(manner.families, bass))


def _cell(shape: Shape, chord: Chord, near: Making | None, far: Making | None, hands: Hands) -> Cell:
    if near is not None:
        return Cell(chord, near)
    if far is not None:
        return Cell(chord, far, _beyond(far, hands))
    classes = {name for rule in shape.rule for name in rule.classes}
    if classes and all(rule.classes for rule in shape.rule) and chord.chord_class not in classes:
        return Cell(chord, None, f"not for a {chord.chord_class} chord: it is for {', '.join(sorted(classes))}")
    return Cell(chord, None, "this chord has not the notes that it needs")


def _beyond(making: Making, hands: Hands) -> str:
    for hand in HANDS:
        notes = making.both.of(hand)
        if notes and span_mm(notes) > hands.limit(hand, len(notes)):
            return f"beyond your reach: the {hand} hand spans {hands.reach(hand)} white keys, and this lies wider"
    return "beyond your hands, as they are said to be"
