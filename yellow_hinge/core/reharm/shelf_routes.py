"""An entry of the player's shelf as a substitute: where a song goes straight from its first chord to its last, the ones
between may come in.
"""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.reharm.context import LEAST_BEATS, Context, Idea
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.core.reharm.table import Substitute
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol

LEAST = 3  # chords of an entry that has some between


def _alike(one: Chord, other: Chord | None) -> bool:
    return other is not None and (one.root.pc, one.bass_note.pc, one.chord_class) == (
        other.root.pc, other.bass_note.pc, other.chord_class,
    )  # fmt: skip


def route(entry: ShelfEntry) -> Substitute | None:
    """What the entry makes of a chord, named as it is; None for one with nothing between its ends."""
    if len(entry.chords) < LEAST:
        return None
    rows = entry.rows
    inner = rows[:-1]
    whole = sum(Fraction(row.beats) for row in inner)
    reason = f"mine: {entry.words}" if entry.words else "mine"

    def make(scene: Context) -> Iterator[Idea]:
        try:
            chords = tuple(parse_symbol(row.symbol, scene.key) for row in rows)
        except UserError:
            return
        beats = tuple(scene.beats * Fraction(row.beats) / whole for row in inner)
        if min(beats) >= LEAST_BEATS and _alike(chords[0], scene.here) and _alike(chords[-1], scene.after):
            yield Idea((scene.here, *chords[1:-1]), reason, beats=beats)

    return Substitute(f"mine:{entry.id}", entry.name, 2, make, "way", after="chord", mine=True)
