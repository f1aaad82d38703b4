"""How the fingers of a hand go from one chord to the next: who goes where, and what that costs."""

from __future__ import annotations

from itertools import combinations
from typing import NamedTuple

from yellow_hinge.core.numerics import NDArray, later, np
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, one_hand


class Prices(NamedTuple):
    """The tables of a Way, made once: by distance in semitones, in thousandths of a unit."""

    move: Ints
    pair: Ints  # (128, 128) by old and new MIDI number
    bass: Ints  # by new minus old MIDI number, from -MOST_LEAP on
    top: Ints  # likewise
    inner: Ints | None  # by distance
    lowest: bool  # the inner note is the lowest one
    enter: int
    leave: int
    slide: int
    slide_count: int
    steps: Ints  # (129,) where a MIDI number lies on what shapes slide along, 0 for PAD
    repeat: int
    parallel: int
    outer_parallel: int
    basses: tuple[int, int] | None
    line: tuple[int, int, bool] | None
    strand: int
    leads: str
    outer: tuple[tuple[int, ...], ...]  # (bass sign + 1, top sign + 1); () where the outer voices are free

    @property
    def special(self) -> bool:
        """Whether something is priced that most styles do not price."""
        priced = self.slide or self.repeat or self.parallel or self.outer_parallel
        return bool(priced) or self.inner is not None or self.line is not None


MOST_LEAP = 160


class Side(NamedTuple):
    """One hand's placings at one end of some changes. `at` are rows of `hand`, in a shape that broadcasts with that of
    the other end: one after the other over all changes, or as rows and columns of one table. `bass` is the pitch class
    of each row's written bass, where that is priced.
    """

    hand: HandSet
    at: NDArray[np.intp]
    bass: Ints

    def of(self, values: Ints) -> Ints:
        """What each row has, laid out as the changes are."""
        found: Ints = values[self.at]
        return found

    @property
    def counts(self) -> Ints:
        """How many notes."""
        return self.of(self.hand.count)


def sides(old: HandSet, new: HandSet, price: Prices) -> tuple[Side, Side]:
    """Both ends of one table: the old placings its rows, the new ones its columns."""
    rows, columns = np.arange(len(old)), np.arange(len(new))
    before, after = price.basses or (0, 0)
    return (
        Side(old, rows[:, None], np.full(len(old), before, np.int32)),
        Side(new, columns[None, :], np.full(len(new), after, np.int32)),
    )


def extras(old: Side, new: Side, hand: str, price: Prices) -> list[Ints]:
    """What only some styles and manners price, a table each."""
    found = [_bent(old, new, price)] if price.slide else []
    if hand == price.leads and (price.inner is not None or price.repeat):
        found.append(_led(old, new, price))
    if price.line is not None:
        found.append(_strand(old, new, price))
    if price.parallel or price.outer_parallel:
        found.append(_parallels(old, new, hand, price))
    return found


def _nothing(old: Side, new: Side) -> Ints:
    return np.zeros(np.broadcast_shapes(old.at.shape, new.at.shape), np.int32)


def _strand(old: Side, new: Side, price: Prices) -> Ints:
    """What it costs that the voice of a line inside a held chord comes from, or goes on in, another one: for every note
    that goes without its neighbour in the same hand of the next chord, or comes without it.
    """
    assert price.line is not None
    gone, come, held = price.line
    step = (come - gone + 6) % 12 - 6
    table = _unmet(new, old, come, -step)
    return price.strand * (table if held else table + _unmet(old, new, gone, step))


def _unmet(here: Side, there: Side, pc: int, by: int) -> Ints:
    """How many notes of a pitch class each placing has whose neighbour `by` semitones off the other end's lacks."""
    found = _nothing(here, there)
    notes, others = here.of(here.hand.pitches), there.of(there.hand.pitches)
    for note in range(SIZE):
        at = notes[..., note]
        own = (at != PAD) & (at % 12 == pc)
        met = (others == (at + by)[..., None]).any(-1)
        found += (own & ~met).astype(np.int32)
    return found


def _led(old: Side, new: Side, price: Prices) -> Ints:
    """What the hand that leads pays for its inner line, and for playing the same again on the same chord."""
    table = _nothing(old, new)
    if price.inner is not None:
        before, after = (side.of(_inner(side.hand, price.lowest)) for side in (old, new))
        table += price.inner[np.abs(before - after)] * ((old.counts > 1) & (new.counts > 1))
    if price.repeat:
        same = (old.of(old.hand.pitches) == new.of(new.hand.pitches)).all(-1) & (old.counts > 0)
        table += price.repeat * same.astype(np.int32)
    return table


def _inner(hand: HandSet, lowest: bool) -> Ints:
    if lowest:
        return hand.low
    found: Ints = hand.pitches[np.arange(len(hand)), np.maximum(hand.count - 2, 0)]
    return found


def _bent(old: Side, new: Side, price: Prices) -> Ints:
    """What a hand pays for another shape: semitones, or steps of the key, by which its notes lie otherwise above its
    lowest one, and notes more or fewer.
    """
    before, after = (side.of(_shape(side.hand, price)) for side in (old, new))
    table, had, has = _nothing(old, new), old.counts, new.counts
    for note in range(1, SIZE):
        both = (had > note) & (has > note)
        table += price.slide * np.where(both, np.abs(before[..., note] - after[..., note]), 0)
    table += price.slide_count * np.abs(had - has)
    return table


def _shape(hand: HandSet, price: Prices) -> Ints:
    """(n, SIZE) how far each note lies above the lowest one."""
    placed = price.steps[hand.pitches]
    found: Ints = placed - placed[:, :1]
    return found


def _parallels(old: Side, new: Side, hand: str, price: Prices) -> Ints:
    """What fifths and octaves in a row cost: inside a hand that has as many notes as before and, where the basses are
    known, between the notes of the right hand and the bass.
    """
    table = _nothing(old, new)
    alike = old.counts == new.counts
    if price.parallel:
        kinds = [_perfects(side.hand) for side in (old, new)]
        for pair in np.flatnonzero(kinds[0].any(0) & kinds[1].any(0)):
            low = LOWER[pair]
            moved = old.of(old.hand.pitches[:, low]) != new.of(new.hand.pitches[:, low])
            before, after = old.of(kinds[0][:, pair]), new.of(kinds[1][:, pair])
            table += price.parallel * ((before == after) & (before > 0) & alike & moved).astype(np.int32)
    if hand == "right" and price.basses:
        table += _over_bass(old, new, alike, price) * (old.of(old.bass) != new.of(new.bass))
    return table


# The pairs of a hand's notes by their places.
LOWER, UPPER = (tuple(pair[end] for pair in combinations(range(SIZE), 2)) for end in (0, 1))


def _perfects(hand: HandSet) -> Ints:
    """(n, pairs) 7 where two notes are a fifth apart, 12 where an octave, 0 elsewhere and where one is missing."""
    upper = hand.pitches[:, UPPER]
    apart = (upper - hand.pitches[:, LOWER]) % 12
    found: Ints = np.where(upper == PAD, 0, _PERFECT[apart])
    return found


_PERFECT: Ints = later(lambda: np.array([12, *[0] * 6, 7, *[0] * 4], np.int32))
_OPEN: Ints = later(lambda: np.array([1, *[0] * 6, 1, *[0] * 4], np.int32))  # an octave or a fifth over the bass


def _over_bass(old: Side, new: Side, alike: Ints, price: Prices) -> Ints:
    """The parallels between the bass and the right hand's notes."""
    table = _nothing(old, new)
    over = [(side.hand.pitches - side.bass[:, None]) % 12 for side in (old, new)]
    for note in range(int(old.hand.count.max(initial=0)) if price.parallel else 0):
        a, b = old.of(over[0][:, note]), new.of(over[1][:, note])
        there = (old.counts > note) & alike
        table += price.parallel * (there & (a == b) & (_OPEN[a] > 0)).astype(np.int32)
    if price.outer_parallel:
        a, b = (side.of((side.hand.high - side.bass) % 12) for side in (old, new))
        both = (old.counts > 0) & (new.counts > 0)
        table += price.outer_parallel * (both & (a == b) & (_OPEN[a] > 0)).astype(np.int32)
    return table


class Move(NamedTuple):
    """One note's way: MIDI numbers, None where it enters or leaves."""

    old: int | None
    new: int | None

    @property
    def semitones(self) -> int:
        """Signed distance; 0 for a note that enters or leaves."""
        return 0 if self.old is None or self.new is None else self.new - self.old


def match(old: tuple[int, ...], new: tuple[int, ...], hand: str, mine: bool, price: Prices) -> tuple[int, list[Move]]:
    """(price, moves low to high) of one hand's change by the rules of `change_table`. Of equal ways the one that leaves
    over the lower notes counts.
    """
    total, moves = 0, []
    before, after = old, new
    if hand == "left" and mine and old and new:
        total += int(price.bass[new[0] - old[0] + MOST_LEAP])
        moves.append(Move(old[0], new[0]))
        before, after = old[1:], new[1:]
    cost, matched = _pairs(before, after, price)
    total += cost
    moves += matched
    if hand == price.leads and old and new:
        total += int(price.top[new[-1] - old[-1] + MOST_LEAP])
    if price.special:
        total += sum(int(extra[0, 0]) for extra in extras(*sides(one_hand(old), one_hand(new), price), hand, price))
    return total, moves


def _pairs(old: tuple[int, ...], new: tuple[int, ...], price: Prices) -> tuple[int, list[Move]]:
    """(price, moves low to high) of the cheapest matching that uses every note of the smaller side."""
    rising = len(old) <= len(new)
    fewer, more = (old, new) if rising else (new, old)
    spare = len(more) - len(fewer)
    best: list[list[tuple[int, tuple[int, ...]]]] = [[(0, ())] * (spare + 1)]  # (price, places in `more`) by note, over
    for note, midi in enumerate(fewer):
        row: list[tuple[int, tuple[int, ...]]] = []
        for over in range(spare + 1):
            cost, places = best[-1][over]
            way = cost + int(price.move[abs(midi - more[note + over])]), (*places, note + over)
            row.append(min(way, row[-1], key=lambda found: found[0]) if row else way)
        best.append(row)
    cost, places = best[-1][spare]
    partner = dict(zip(places, fewer, strict=True))
    ways = [(partner.get(at), midi) for at, midi in enumerate(more)]
    moves = [Move(one, other) if rising else Move(other, one) for one, other in ways]
    return cost + spare * (price.enter if rising else price.leave), moves
