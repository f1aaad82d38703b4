"""How the fingers of a hand go from one chord to the next: who goes where, and what that costs."""

from __future__ import annotations

from itertools import combinations
from typing import NamedTuple

from yellow_hinge.core.numerics import later, np
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


def extras(old: HandSet, new: HandSet, hand: str, price: Prices) -> list[Ints]:
    """What only some styles and manners price, tables (len(old), len(new))."""
    found = [_bent(old, new, price)] if price.slide else []
    if hand == price.leads and (price.inner is not None or price.repeat):
        found.append(_led(old, new, price))
    if price.line is not None:
        found.append(_strand(old, new, price))
    if price.parallel or price.outer_parallel:
        found.append(_parallels(old, new, hand, price))
    return found


def _strand(old: HandSet, new: HandSet, price: Prices) -> Ints:
    """What it costs that the voice of a line inside a held chord comes from, or goes on in, another one: for every note
    that goes without its neighbour in the same hand of the next chord, or comes without it.
    """
    assert price.line is not None
    gone, come, held = price.line
    step = (come - gone + 6) % 12 - 6
    table = np.zeros((len(old), len(new)), np.int32)
    if not held:
        table += price.strand * _unmet(old, new, gone, step)
    return table + price.strand * _unmet(new, old, come, -step).T


def _unmet(here: HandSet, there: HandSet, pc: int, by: int) -> Ints:
    """How many notes of a pitch class each placing (n,) has whose neighbour `by` semitones off each of the others (m,)
    lacks; (n, m).
    """
    found = np.zeros((len(here), len(there)), np.int32)
    for note in range(SIZE):
        at = here.pitches[:, note]
        own = (at != PAD) & (at % 12 == pc)
        met = (there.pitches[None, :, :] == (at + by)[:, None, None]).any(2)
        found += (own[:, None] & ~met).astype(np.int32)
    return found


def _led(old: HandSet, new: HandSet, price: Prices) -> Ints:
    """What the hand that leads pays for its inner line, and for playing the same again on the same chord."""
    table = np.zeros((len(old), len(new)), np.int32)
    if price.inner is not None:
        notes = [_inner(hand, price.lowest) for hand in (old, new)]
        both = (old.count > 1)[:, None] & (new.count > 1)[None, :]
        table += price.inner[np.abs(notes[0][:, None] - notes[1][None, :])] * both
    if price.repeat:
        same = (old.pitches[:, None, :] == new.pitches[None, :, :]).all(2) & (old.count > 0)[:, None]
        table += price.repeat * same.astype(np.int32)
    return table


def _inner(hand: HandSet, lowest: bool) -> Ints:
    if lowest:
        return hand.low
    found: Ints = hand.pitches[np.arange(len(hand)), np.maximum(hand.count - 2, 0)]
    return found


def _bent(old: HandSet, new: HandSet, price: Prices) -> Ints:
    """What a hand pays for another shape: semitones, or steps of the key, by which its notes lie otherwise above its
    lowest one, and notes more or fewer.
    """
    placed = [price.steps[hand.pitches] for hand in (old, new)]
    shapes = [np.where(h.pitches == PAD, 0, at - at[:, :1]) for h, at in zip((old, new), placed, strict=True)]
    table = np.zeros((len(old), len(new)), np.int32)
    for note in range(1, SIZE):
        a, b = shapes[0][:, note, None], shapes[1][None, :, note]
        both = (old.pitches[:, note, None] != PAD) & (new.pitches[None, :, note] != PAD)
        table += price.slide * np.where(both, np.abs(a - b), 0)
    table += price.slide_count * np.abs(old.count[:, None] - new.count[None, :])
    return table


def _parallels(old: HandSet, new: HandSet, hand: str, price: Prices) -> Ints:
    """What fifths and octaves in a row cost: inside a hand that has as many notes as before and, where the basses are
    known, between the notes of the right hand and the bass.
    """
    count = np.zeros((len(old), len(new)), np.int32)
    if price.parallel:
        alike = old.count[:, None] == new.count[None, :]
        before, after = _perfects(old), _perfects(new)
        for pair in np.flatnonzero(before.any(0) & after.any(0)):
            low = LOWER[pair]
            moved = old.pitches[:, low, None] != new.pitches[None, :, low]
            kinds = before[:, None, pair]
            same = (kinds == after[None, :, pair]) & (kinds > 0) & alike
            count += price.parallel * (same & moved).astype(np.int32)
    if hand == "right" and price.basses and price.basses[0] != price.basses[1]:
        count += _over_bass(old, new, price)
    return count


# The pairs of a hand's notes by their places.
LOWER, UPPER = (tuple(pair[end] for pair in combinations(range(SIZE), 2)) for end in (0, 1))


def _perfects(hand: HandSet) -> Ints:
    """(n, pairs) 7 where two notes are a fifth apart, 12 where an octave, 0 elsewhere and where one is missing."""
    upper = hand.pitches[:, UPPER]
    apart = (upper - hand.pitches[:, LOWER]) % 12
    found: Ints = np.where(upper == PAD, 0, _PERFECT[apart])
    return found


_PERFECT: Ints = later(lambda: np.array([12, *[0] * 6, 7, *[0] * 4], np.int32))


def _over_bass(old: HandSet, new: HandSet, price: Prices) -> Ints:
    """The parallels between the bass and the right hand's notes."""
    assert price.basses is not None
    over = [(hand.pitches - bass) % 12 for hand, bass in zip((old, new), price.basses, strict=True)]
    count = np.zeros((len(old), len(new)), np.int32)
    alike = old.count[:, None] == new.count[None, :]
    for note in range(SIZE if price.parallel else 0):
        a, b = over[0][:, note, None], over[1][None, :, note]
        there = (old.pitches[:, note] != PAD)[:, None] & alike
        if not there.any():  # notes lie from the first column on
            break
        count += price.parallel * (there & ((a == 7) | (a == 0)) & (a == b)).astype(np.int32)
    if price.outer_parallel:
        a, b = ((h.high - bass) % 12 for h, bass in zip((old, new), price.basses, strict=True))
        both = (old.count > 0)[:, None] & (new.count > 0)[None, :]
        count += price.outer_parallel * (both & ((a == 7) | (a == 0))[:, None] & (a[:, None] == b)).astype(np.int32)
    return count


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
        total += sum(int(extra[0, 0]) for extra in extras(one_hand(old), one_hand(new), hand, price))
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
