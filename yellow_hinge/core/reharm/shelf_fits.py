"""Where an entry of the shelf fits into a song."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.asking.manners import kin_of
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.reharm.shelf import ShelfChord, ShelfEntry, degree_class, nearest
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.symbol import parse_symbol

LONG = 1  # beats of a tune note that hands do not rub on


def stacked(degrees: Sequence[str], root: int, near: int) -> tuple[int, ...]:
    """The keys (MIDI) of a hand's degrees over a root's pitch class: the first one as near as can be to a key (`'` and
    `,` an octave up or down from there), each the next such note above the one before.
    """
    found: list[int] = []
    for degree in degrees:
        pc = (root + degree_class(degree)) % 12
        if not found:
            found.append(nearest(pc, near) + 12 * (degree.count("'") - degree.count(",")))
            continue
        midi = found[-1] + (pc - found[-1] - 1) % 12 + 1 + 12 * degree.count("'")
        if degree.lstrip("b#").startswith("10") and midi - found[0] < 12:
            midi += 12
        found.append(midi)
    return tuple(found)


class Fit(NamedTuple):
    """Where an entry fits: the chords of a solution from an index on, with the hands that it gives each."""

    entry: ShelfEntry
    first: int
    hands: tuple[Both, ...]


def fit(entry: ShelfEntry, solution: Solution, index: int) -> Fit | None:
    """The hands of an entry on the chords from an index on; None where these are others, too short, in two sections, or
    the hands could not play it or would rub on the tune.
    """
    part = solution.voicings[index : index + len(entry.chords)]
    if len(part) < len(entry.chords) or (entry.mine is False and not _suits(entry, solution)):
        return None
    same = all((v.here.section, v.here.turn) == (part[0].here.section, part[0].here.turn) for v in part)
    if not same or not all(_is(row, voicing) for row, voicing in zip(entry.rows, part, strict=True)):
        return None
    made = _hands(entry, part)
    hands = solution.setup.player.hands
    if not all(_plays(both, hands, row) for both, row in zip(made, entry.rows, strict=True)):
        return None
    if any(_rubs(both, voicing.here) for both, voicing in zip(made, part, strict=True)):
        return None
    return Fit(entry, index, made)


def fits(entries: Sequence[ShelfEntry], solution: Solution, index: int) -> tuple[Fit, ...]:
    """All entries that fit from a chord on, the player's own first, then longer ones, then those of the manner."""
    found = (fit(entry, solution, index) for entry in entries)
    manner = kin_of(solution.setup.manner)
    return tuple(
        sorted(
            (each for each in found if each is not None),
            key=lambda each: (
                not each.entry.mine,
                kin_of(each.entry.manner) != manner,
                -len(each.hands),
                each.entry.id,
            ),
        )
    )


def _suits(entry: ShelfEntry, solution: Solution) -> bool:
    """Whether the bass of an entry is where the song has it, and the right hand is there that it needs."""
    bare = all(not row.right for row in entry.rows)
    return bare != solution.setup.mine and (bare or solution.setup.right != "free") and solution.setup.melody != "top"


def _is(row: ShelfChord, voicing: Voicing) -> bool:
    """Whether a chord of a song is that of an entry: the same degree, class and bass, and long enough."""
    try:
        chord = parse_symbol(row.symbol, voicing.here.key)
    except UserError:
        return False
    own = voicing.chord
    alike = chord.root.pc == own.root.pc and chord.bass_note.pc == own.bass_note.pc
    return alike and chord.chord_class == own.chord_class and float(voicing.here.beats) >= min(1.0, row.beats)


def _hands(entry: ShelfEntry, part: Sequence[Voicing]) -> tuple[Both, ...]:
    """The hands of an entry, the first near those that are there, the others near the ones before."""
    first = part[0].both
    left = first.left[0] if first.left else 48
    right = first.right[0] if first.right else 64
    found = []
    for row, voicing in zip(entry.rows, part, strict=True):
        root = voicing.chord.root.pc
        low, high = stacked(row.left, root, left), stacked(row.right, root, right)
        while low and high and high[0] <= low[-1]:
            high = tuple(midi + 12 for midi in high)
        left, right = (low or (left,))[0], (high or (right,))[0]
        found.append(Both(low, high))
    return tuple(found)


def _plays(both: Both, hands: Hands, row: ShelfChord) -> bool:
    rolled = any(degree.endswith("~") for degree in row.left) and hands.roll
    low, high = hands.compass
    inside = all(low <= midi <= high for hand in both for midi in hand)
    left = rolled or not both.left or span_mm(both.left) <= hands.limit("left", len(both.left))
    return inside and left and (not both.right or span_mm(both.right) <= hands.limit("right", len(both.right)))


def _rubs(both: Both, moment: Moment) -> bool:
    """Whether a hand lies a half step from a long note of the tune."""
    sung = {tone.pitch.midi % 12 for tone in moment.tune if tone.whole >= LONG}
    return any((midi - pc) % 12 in (1, 11) for hand in both for midi in hand for pc in sung)
