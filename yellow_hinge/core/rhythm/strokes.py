"""The strokes of both hands: the hits of every chord as keys, in their time and as loud as they are."""

from __future__ import annotations

from yellow_hinge.core.hands import span_mm
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.chordal import in_row, struck_keys, walk_keys
from yellow_hinge.core.rhythm.covering import WALK
from yellow_hinge.core.rhythm.holding import ON_THE_BEAT, Stroke
from yellow_hinge.core.rhythm.loudness import loudness, tune_loudness
from yellow_hinge.core.rhythm.pattern.fitting import Timed
from yellow_hinge.core.rhythm.pattern.patterns import ROWS
from yellow_hinge.core.rhythm.striking import Played, row_step
from yellow_hinge.core.rhythm.tune.beneath import held_under, lies_at, tune_span


def strokes_of(row: list[Played]) -> dict[str, list[Stroke]]:
    """The strokes of both hands over a song, before it is known what can be held."""
    found: dict[str, list[Stroke]] = {hand: [] for hand in HANDS}
    for here in row:
        for hand in HANDS:
            own = [hit for hit in here.hits[hand] if not hit.early]
            for hit in (*([here.ahead[hand]] if hand in here.ahead else ()), *own):
                for whose, stroke in _struck(here, hit, hand):
                    found[whose].append(stroke)
        found["right"] += _tune_strokes(here)
    return found


def _struck(here: Played, hit: Timed, hand: str) -> list[tuple[str, Stroke]]:
    if hit.what in ROWS:
        return [*_in_row(here, hit), *_struck(here, hit._replace(what=""), hand)]
    if hit.what == WALK and here.chordal.mine and here.chordal.left:
        return [*_walk(here, hit), *_struck(here, hit._replace(what=""), "left")]
    if hit.what == WALK:
        hit = hit._replace(what="all")
    if hand == "right" and here.tones:
        return _under(here, hit)
    return _keys(here, hit, hand)


def _keys(here: Played, hit: Timed, hand: str) -> list[tuple[str, Stroke]]:
    """The strokes of the keys that a hit names and takes in; what the hand does not hold is marked as added."""
    onset, end = here.start + hit.at, here.start + hit.at + hit.length
    named = {midi for _, midi in struck_keys(hit.what, hand, here.chordal)} if hit.what else set()
    keys, own = sorted(named | set(hit.also)), here.chordal.of(hand)
    top = here.chordal.right[-1] if here.chordal.right else None
    found = []
    for midi in keys:
        loud = loudness(hand, hit.louder, here.swell, len(keys), hand == "right" and midi == top)
        stroke = Stroke(onset, end, midi, loud, here.place, hit.roll, midi not in own, hit.louder)
        found.append((here.hand_of(hand), stroke))
    return found


Group = list[tuple[str, int]]


def _joins(here: Played, one: Group, other: Group) -> bool:
    """Whether two groups of a row are one hand's, and within its reach."""
    notes = tuple(sorted({midi for _, midi in (*one, *other)}))
    return one[0][0] == other[0][0] and here.chordal.reaches(here.hand_of(one[0][0]), notes)


def _groups(here: Played, hit: Timed, step: int) -> list[Group]:
    """A row's notes one by one; where there is too little time neighbours of one hand together, from the end down."""
    row: list[Group] = [[note] for note in in_row(hit.what, here.chordal)]
    room = max(1, hit.length // step)
    if hit.what == "arc" and len(row) > room:  # up as far as it goes, back for the rest
        row = row[: max(room, len(in_row("up", here.chordal)))]
    while len(row) > room:
        at = next((n for n in range(len(row) - 1, 0, -1) if _joins(here, row[n - 1], row[n])), len(row) - 1)
        row[at - 1 : at + 1] = [[*row[at - 1], *row[at]]]
    return row


def _in_row(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A broken chord: notes one by one, the last one held to the end of the stroke; of the right hand's under its tune
    what can lie there.
    """
    step, end = row_step(here.moment), here.start + hit.at + hit.length
    found = []
    for at, together in enumerate(_groups(here, hit, step)):
        onset = here.start + hit.at + at * step
        under = lies_at(here.tones, here.under, onset - here.start)
        for hand, midi in together:
            loud = loudness(hand, hit.louder, here.swell, 1, False)
            if hand == "left" or not here.tones or midi in under:
                found.append((here.hand_of(hand), Stroke(onset, end, midi, loud, here.place, louder=hit.louder)))
    return found


def _walk(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """The note of a walking bass that falls on a stroke."""
    hits = [other for other in here.hits["left"] if other.what == WALK]
    midi = walk_keys(here.chordal, len(hits))[hits.index(hit)]
    onset, end = here.start + hit.at, here.start + hit.at + hit.length
    loud = loudness("left", hit.louder, here.swell, 1, False)
    return [("left", Stroke(onset, end, midi, loud, here.place, 0, midi not in here.chordal.left, hit.louder))]


def _under(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A stroke of the right hand under its tune."""
    loud, own = loudness("right", hit.louder, here.swell, 1, False), here.chordal.right
    return [
        ("right", Stroke(here.start + a, here.start + b, midi, loud, here.place, hit.roll, midi not in own, hit.louder))
        for a, b, midi in held_under(here.tones, here.under, hit, here.chordal)
    ]


def _tune_strokes(here: Played) -> list[Stroke]:
    """Every note of the tune that the right hand strikes over a chord, as long as it sounds."""
    found: list[Stroke] = []
    if not here.tones:
        return found
    spans = [tune_span(tone, here.moment, here.swing) for tone in here.moment.tune if tone.begins]
    ends = {start: end for start, end in spans}
    for tone in here.tones:
        if tone.midi is not None and tone.begins:
            loud = tune_loudness(tone, here.tones, here.swell)
            onset, end = here.start + tone.start, here.start + ends[tone.start]
            found.append(Stroke(onset, end, tone.midi, loud, here.place, ON_THE_BEAT))
    return found


def seen_reach(solution: Solution, hand: str) -> float:
    """The widest that a hand is asked to hold in a song, in mm: a player's own voicings may be wider than said."""
    held = (voicing for voicing in solution.voicings if hand == "right" or not voicing.broken)
    return max((span_mm(voicing.both.of(hand)) for voicing in held), default=0.0)
