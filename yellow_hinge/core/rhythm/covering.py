"""What the hands hold and a pattern leaves out is struck all the same: the bass first, the guide tones soon."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.chordal import Chordal, in_row, is_guide, struck_keys
from yellow_hinge.core.rhythm.pattern.fitting import Timed, unit_quarters
from yellow_hinge.core.rhythm.pattern.patterns import GHOST, ROWS, SOFTER
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.song.swing import SWINGS
from yellow_hinge.core.song.timeline import Moment

NEAR = 30  # ticks within which two strokes are one
BROKEN_SOON = 2  # beats by which a broken chord has its guide tones
WALK = "+walk"

Hits = dict[str, list[Timed]]
Pool = tuple[int, ...]


class Over(NamedTuple):
    """A chord that hits are fitted over: the hands, its moment, whether the right hand plays its tune, whether its
    patterns break the hands, the keys of each hand that were struck already, of the same chord before (`goes_on`) or
    early, when they were struck early (ticks before it, negative), and the swing in percent of a beat.
    """

    chordal: Chordal
    moment: Moment
    tuned: bool
    breaks: bool
    already: dict[str, frozenset[int]]
    goes_on: bool = False
    early: tuple[int, ...] = ()
    swing: int = SWINGS["straight"]

    def covers(self, hand: str) -> bool:
        """Whether all of a hand is struck: not where it plays the tune, under which not all can lie."""
        return not (hand == "right" and self.tuned)

    @property
    def beat(self) -> int:
        """The length of a pattern's beat, in ticks."""
        return ticks(unit_quarters(self.moment.meter))

    @property
    def length(self) -> int:
        """The chord's length, in ticks."""
        return ticks(self.moment.quarters)


def names(hit: Timed, hand: str, c: Chordal) -> set[int]:
    """The keys of a hand that one of its hits strikes."""
    if hit.what in ROWS:
        return {midi for side, midi in in_row(hit.what, c) if side == hand} | set(hit.also)
    if hit.what == WALK:
        return (set(c.left[:1]) if hand == "left" and hit.at == 0 else set()) | set(hit.also)
    return {midi for side, midi in struck_keys(hit.what, hand, c) if side == hand} | set(hit.also)


def struck_of(hits: Hits, hand: str, c: Chordal) -> set[int]:
    """The keys of a hand that are struck over a chord: by its own hits and by the other hand's rows."""
    own = {key for hit in hits[hand] if not hit.early for key in names(hit, hand, c)}
    return own | _rows(hits, hand, c)


def _rows(hits: Hits, hand: str, c: Chordal) -> set[int]:
    """What the rows of both hands strike of one."""
    rows = (hit for hand_hits in hits.values() for hit in hand_hits if hit.what in ROWS)
    return {midi for hit in rows for side, midi in in_row(hit.what, c) if side == hand}


def covered(hits: Hits, over: Over) -> Hits:
    """The hits with what the hands hold and the pattern left out; over less than a beat as they are."""
    if over.moment.quarters < unit_quarters(over.moment.meter):
        return hits
    found = dict(hits)
    found["left"] = _on_its_bass(found["left"], over)
    for hand in HANDS:
        if over.covers(hand):
            found[hand] = _whole(hand, found, over)
    return found if over.goes_on else _guides_soon(found, over)


def _on_its_bass(hits: list[Timed], over: Over) -> list[Timed]:
    """The left hand's hits with its lowest note first, where it has the bass and the chord begins."""
    c = over.chordal
    first = next((hit for hit in hits if not hit.early and hit.at <= NEAR), None)
    if not c.mine or not c.left or over.already["left"] or first is None:
        return hits
    if c.left[0] in names(first, "left", c):
        return hits
    return [hit._replace(what="low") if hit is first else hit for hit in hits]


def _is_full(hit: Timed, hand: str, c: Chordal) -> bool:
    """Whether a stroke of the pattern's own is of more than its hand's lowest note."""
    return not hit.added and hit.louder > GHOST and bool(names(hit, hand, c) - {c.of(hand)[0]})


def _whole(hand: str, hits: Hits, over: Over) -> list[Timed]:
    """A hand's hits with every key that it holds: taken into the earliest stroke of more than its lowest note, else
    struck with the other hand where this one rests, else with its first stroke.
    """
    c, notes, mine = over.chordal, over.chordal.of(hand), hits[hand]
    own = [hit for hit in mine if not hit.early]
    struck = struck_of(hits, hand, c) | over.already[hand]
    missing = tuple(n for n in notes if n not in struck)
    if not missing:
        return mine
    if not own:
        return sorted([*mine, _alone(hits, over, missing)], key=lambda hit: hit.at)
    full = next((hit for hit in own if _is_full(hit, hand, c)), None)
    if full is not None:
        return _taken_in(mine, full, missing)
    free = _between(hits["left" if hand == "right" else "right"], own)
    if free and hand == "left" and missing != notes:
        joined = [Timed(h.at, h.length, "", min(0, h.louder) + SOFTER // 2, also=missing) for h in free]
        return sorted([*mine, *joined], key=lambda hit: hit.at)
    return _taken_in(mine, own[0], missing)


def _between(theirs: list[Timed], own: list[Timed]) -> list[Timed]:
    """The other hand's strokes that come after this one's first and with none of its own."""
    return [
        hit
        for hit in theirs
        if not (hit.early or hit.added or hit.louder <= GHOST)
        and hit.at > own[0].at
        and all(abs(hit.at - mine.at) > NEAR for mine in own)
    ]


def _alone(hits: Hits, over: Over, keys: Pool) -> Timed:
    """All of a hand that a pattern leaves silent: half a beat after a bass alone, else with the other hand."""
    half = over.beat // 3 if over.moment.meter.compound else swung(over.beat // 2, over.moment.meter, over.swing)
    busy = any(not hit.early for hand in HANDS for hit in hits[hand])
    at = half if busy and over.length > 2 * half else 0
    return Timed(at, min(over.length - at, half * 2), "", also=keys)


def _taken_in(hits: list[Timed], into: Timed, keys: Pool) -> list[Timed]:
    return [hit._replace(also=tuple(sorted({*hit.also, *keys}))) if hit is into else hit for hit in hits]


def _soon(hits: Hits, over: Over) -> int | None:
    """By when the guide tones are struck, in ticks; None where a chord has but one stroke."""
    onsets = sorted({*over.early, *(hit.at for hand in HANDS for hit in hits[hand] if not (hit.early or hit.added))})
    merged = [at for n, at in enumerate(onsets) if not n or at - onsets[n - 1] > NEAR]
    if len(merged) < 2:
        return None
    broken = min(BROKEN_SOON * over.beat, over.length // 2) if over.breaks else 0
    return max(merged[1], broken) + NEAR


def _guides_soon(hits: Hits, over: Over) -> Hits:
    """The hits with the third and seventh by the chord's second stroke; where the hands are broken within two beats,
    or half of a shorter chord.
    """
    limit, c = _soon(hits, over), over.chordal
    if limit is None:
        return hits
    soon = {hand: [hit for hit in hits[hand] if hit.at <= limit and not hit.early] for hand in HANDS}
    heard = _heard_soon(hits, over, soon)
    found = dict(hits)
    for hand in filter(over.covers, HANDS):
        late = tuple(n for n in c.of(hand) if is_guide(c, n) and n % 12 not in heard)
        able = [hit for hit in soon[hand] if not hit.added or hit.what == WALK]
        if late:
            found[hand] = _taken_in(found[hand], able[-1], late) if able else _joined(hits, hand, late, limit)
            heard |= {n % 12 for n in late}
    return found


def _heard_soon(hits: Hits, over: Over, soon: Hits) -> set[int]:
    """The pitch classes that are heard in time."""
    c = over.chordal
    rows = {key % 12 for hand in HANDS for key in _rows(hits, hand, c) | over.already[hand]}
    covered = [(hand, hit) for hand in filter(over.covers, HANDS) for hit in soon[hand]]
    return rows | {key % 12 for hand, hit in covered for key in names(hit, hand, c)}


def _joined(hits: Hits, hand: str, keys: Pool, limit: int) -> list[Timed]:
    """A hand's hits with keys that it strikes, softer, with the last stroke of the other one before a limit."""
    other = hits["left" if hand == "right" else "right"]
    theirs = [hit for hit in other if hit.at <= limit and not hit.early]
    joined = [Timed(hit.at, hit.length, "", SOFTER // 2, also=keys) for hit in theirs[-1:]]
    return sorted([*hits[hand], *joined], key=lambda hit: hit.at)


def without_again(hits: list[Timed], hand: str, c: Chordal) -> list[Timed]:
    """The hits of a hand that is broken, without a single key that the stroke before struck and that still sounds."""
    found: list[Timed] = []
    for hit in hits:
        keys = names(hit, hand, c)
        before = found[-1] if found and not found[-1].early else None
        again = before is not None and keys <= names(before, hand, c) and before.at + before.length > hit.at
        if not (again and len(keys) == 1 and hit.what not in (*ROWS, WALK) and not hit.early):
            found.append(hit)
    return found
