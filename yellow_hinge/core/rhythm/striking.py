"""Patterns over a song, chord by chord: what strikes next, what is struck early, and the strokes as keys."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.hands import span_mm
from yellow_hinge.core.leading.hinge import HANDS
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.rhythm.asks import Playing, Usual, pattern_at, wish_at
from yellow_hinge.core.rhythm.barring import bars_of, parted_after_three
from yellow_hinge.core.rhythm.beneath import (
    Under,
    held_under,
    lies_at,
    may_lead,
    tones_of,
    tune_span,
    under_of,
    whole_under,
)
from yellow_hinge.core.rhythm.chordal import Chordal, in_row, struck_keys, walk_keys
from yellow_hinge.core.rhythm.covering import WALK, Hits, Over, covered, names, struck_of, without_again
from yellow_hinge.core.rhythm.fitting import (
    Timed,
    bar_offset,
    beside_bass,
    fitted,
    form_of,
    swung,
    ticks,
    unit_quarters,
)
from yellow_hinge.core.rhythm.holding import ON_THE_BEAT, Stroke
from yellow_hinge.core.rhythm.loudness import OFF_BEAT, loudness, swell, tune_loudness
from yellow_hinge.core.rhythm.patterns import ROWS, Pattern, Strokes
from yellow_hinge.core.rhythm.tune_hand import Tone
from yellow_hinge.core.swing import SWINGS
from yellow_hinge.core.timeline import Moment

STRAIGHT = SWINGS["straight"]
LAST_ROLL = 60  # milliseconds
OCTAVE = 2  # notes: a last octave is struck, not rolled
FIGURES = ("+approach", "+grace", "+below")  # not over a chord that goes on, nor in two bars running


class Played(NamedTuple):
    """One chord in its time: its voicing's index, its moment, the hands as patterns see them, the patterns of left and
    right hand with the forms that hold, the tune over it where the right hand plays that and what lies under it; the
    hits that fit, those of them that were struck before the chord (`ahead`, at negative ticks); its start from the
    song's and its length in ticks; by how much it is louder than its patterns; and its swing, in percent of a beat.
    """

    place: int
    moment: Moment
    chordal: Chordal
    patterns: dict[str, Pattern]
    forms: dict[str, Strokes]
    tones: tuple[Tone, ...]
    under: Under
    hits: Hits
    start: int
    length: int
    swell: int = 0
    ahead: dict[str, Timed] = {}
    swing: int = STRAIGHT

    def hand_of(self, hand: str) -> str:
        """The hand that strikes what is written for one: the left takes over where the right rests."""
        return self.chordal.upper if hand == "right" else hand

    @property
    def swings(self) -> bool:
        """Whether the second halves of beats come late."""
        return self.swing > STRAIGHT

    @property
    def began(self) -> int:
        """When its left hand first strikes it, in ticks from the song's start: the chord's start, or before it."""
        return self.start + (self.ahead["left"].at if "left" in self.ahead else 0)


def played(solution: Solution, playing: Playing, usual: Usual) -> list[Played]:
    """Every chord of a solution with its patterns fitted."""
    row: list[Played] = []
    bars, figured = bars_of(solution), -2
    threes = parted_after_three(solution, bars)
    for place, voicing in enumerate(solution.voicings):
        asked = Asked(playing, usual.pattern, usual.swing_at(voicing.here), bars[place][1], bars[place][0] in threes)
        here = _fit(solution, asked, place, row[-1] if row else None)
        here, used = _with_figures(here, bars[place][0] - figured > 1 or bars[place][0] == figured)
        figured = bars[place][0] if used else figured
        before = row[-1] if row and _adjoin(row[-1], here) else None
        if before is not None:
            row[-1], here = _led(_hastened(before, here, playing), here)
        elif row:
            row[-1] = _unled(row[-1])
        row.append(_covered(here, before))
    if row:
        row[-1] = _unled(row[-1])
    return [here._replace(hits=_accented(here)) for here in row]


class Asked(NamedTuple):
    """What is asked of the playing at a chord: in percent of a beat how it swings, its bar, counted from its section's
    start, and whether that bar's chords part seven eighths after the third.
    """

    playing: Playing
    usual: Pattern
    swing: int
    bar: int
    three: bool


def _fit(solution: Solution, asked: Asked, place: int, before: Played | None) -> Played:
    """One chord with the hits that its patterns write."""
    moment, playing, bar = solution.voicings[place].here, asked.playing, asked.bar
    patterns = {hand: pattern_at(playing, moment, hand, asked.usual) for hand in HANDS}
    chordal, tones = _chordal(solution, place), tones_of(solution, moment, asked.swing)
    goes_on = before is not None and _goes_on(before.moment, moment)
    last = place == len(solution.voicings) - 1 and not solution.setup.loop
    forms, hits = {}, {}
    for hand in HANDS:
        pattern = patterns[hand] if chordal.mine else beside_bass(patterns[hand])
        if last and not any(wish.at == moment.slot_id for wish in playing.wishes):
            roll = LAST_ROLL if len(chordal.of(hand)) > OCTAVE else 0
            forms[hand] = Strokes(f"0/end all~{roll}", f"0/end all~{roll}")
            hits[hand] = [Timed(0, ticks(moment.quarters), "all", roll=roll)]
            continue
        going_on = goes_on and before is not None and before.forms[hand] != pattern.second
        forms[hand] = form_of(pattern, bar, going_on, asked.three)
        hits[hand] = fitted(pattern, hand, moment, forms[hand], asked.swing)
    start, end = ticks(moment.quarter), ticks(moment.quarter + moment.quarters)
    louder = swell(bar, moment, last, asked.swing > STRAIGHT)
    under = under_of(chordal, tones) if tones else ()
    return Played(
        place, moment, chordal, patterns, forms, tones, under, hits, start, end - start, louder, swing=asked.swing
    )


def _goes_on(before: Moment, moment: Moment) -> bool:
    return before.chord == moment.chord and before.quarter + before.quarters == moment.quarter


def _adjoin(here: Played, after: Played) -> bool:
    return here.start + here.length == after.start


def _chordal(solution: Solution, place: int) -> Chordal:
    voicing, asked = solution.voicings[place], solution.lattice.places[place].asked
    moment, mine = voicing.here, solution.setup.mine
    after = solution.voicings[place + 1] if place + 1 < len(solution.voicings) else None
    if after is not None and after.here.quarter != moment.quarter + moment.quarters:
        after = None
    bass = after.left[0] if after is not None and after.left else None
    top = after.right[-1] if after is not None and after.right else None
    goes_on = after is not None and _goes_on(moment, after.here)
    left, right, upper = voicing.left, voicing.right, "right"
    if left and not right and not mine:
        left, right, upper = (), left, "left"
    return Chordal(left, right, voicing.chord, moment.key, asked.hands.held, mine, bass, top, goes_on, upper)


# --- what is fitted by what stands around it ---
def _with_figures(here: Played, may: bool) -> tuple[Played, bool]:
    """A chord with its lead-ins, or with the strokes before them as long; and whether it has any."""
    if not any(hit.what in FIGURES for hand in HANDS for hit in here.hits[hand]):
        return here, False
    if may and not here.chordal.goes_on:
        return here, True
    found: Hits = {}
    for hand in HANDS:
        kept: list[Timed] = []
        for hit in here.hits[hand]:
            if hit.what not in FIGURES:
                kept.append(hit)
            elif kept:
                kept[-1] = kept[-1]._replace(length=hit.at + hit.length - kept[-1].at)
        found[hand] = kept
    return here._replace(hits=found), False


def _hastened(before: Played, after: Played, playing: Playing) -> Played:
    """A chord whose last half beat belongs to the next one, in the hands that are asked to come ahead: both beside a
    bass player, else the right, where nothing is struck then that was not struck before.
    """
    early = ticks(unit_quarters(after.moment.meter)) // (3 if after.moment.meter.compound else 2)
    push = swung(before.length - early, before.moment.meter, before.swing, -ticks(bar_offset(before.moment)))
    hits, ahead = dict(before.hits), dict(before.ahead)
    for hand in HANDS if not after.chordal.mine else ("right",):
        wish = wish_at(playing, after.moment, hand)
        if wish is None or not wish.ahead or push < early or any(hit.early for hit in hits[hand]):
            continue
        kept = [hit for hit in hits[hand] if hit.at < push]
        gone = struck_of({hand: [hit for hit in hits[hand] if hit.at >= push]}, hand, before.chordal)
        if hand in ahead:
            long = min(ahead[hand].length, push - ahead[hand].at)
            ahead[hand] = ahead[hand]._replace(length=long)
        if hand in ahead or (kept and gone <= struck_of({hand: kept}, hand, before.chordal)):
            shorter = [hit._replace(length=min(hit.length, push - hit.at)) for hit in kept]
            hits[hand] = [*shorter, Timed(push, before.length - push + early, "all", early=True)]
    return before._replace(hits=hits, ahead=ahead)


def _led(before: Played, after: Played) -> tuple[Played, Played]:
    """Two chords with what the first one's patterns strike early: it becomes the second one's, where that may begin so;
    else what leaned over the change is struck again there, and what was pushed waits for its chord.
    """
    waits, hits, ahead = _unled(before), dict(after.hits), {}
    for hand in HANDS:
        early = next((hit for hit in before.hits[hand] if hit.early), None)
        if early is None:
            continue
        over = early.at + early.length - before.length
        first = next((hit for hit in hits[hand] if hit.at == 0), None)
        if _may_lead(before, after, hand, early):
            waits = waits._replace(hits={**waits.hits, hand: before.hits[hand]})
            end = max(over, first.length if first is not None else 0)
            hits[hand] = [hit for hit in hits[hand] if hit is not first]
            ahead[hand] = early._replace(at=early.at - before.length, length=end - early.at + before.length, what="all")
        elif first is None:
            again = early._replace(at=0, length=min(over if over > 0 else early.length, after.length), early=False)
            hits[hand] = [again, *hits[hand]]
    return waits, after._replace(hits=hits, ahead=ahead)


def _unled(here: Played) -> Played:
    """A chord that nothing after it is struck early in: what leaned over its end ends with it, what was pushed is not
    struck.
    """
    found: Hits = {}
    for hand in HANDS:
        leaned = (
            hit._replace(length=here.length - hit.at, early=False)
            if hit.early and hit.at + hit.length > here.length
            else hit
            for hit in here.hits[hand]
        )
        found[hand] = [hit for hit in leaned if not hit.early]
    return here._replace(hits=found)


def _may_lead(before: Played, after: Played, hand: str, early: Timed) -> bool:
    """Whether a hand may strike a chord before it begins."""
    if not after.chordal.of(hand):
        return False
    if hand == "left" or not (before.tones or after.tones):
        return True
    then = [tone.midi for tone in before.tones if tone.end > early.at and tone.midi is not None]
    return may_lead(after.chordal, after.under if after.tones else (), then)


def _covered(here: Played, before: Played | None) -> Played:
    """A chord with all that the hands hold."""
    c, moment = here.chordal, here.moment
    if not c.right and c.left:
        here = here._replace(hits={"left": _taken_over(here), "right": []})
    elif c.mine:
        here = here._replace(hits=_begun(here))
    breaks = any(pattern.breaks for pattern in here.patterns.values())
    goes_on = before is not None and _same(before, here)
    early = tuple(hit.at for hit in here.ahead.values())
    over = Over(
        c, moment, bool(here.tones), breaks, _already(here, before if goes_on else None), goes_on, early, here.swing
    )
    hits = here.hits
    if here.tones and "right" not in here.ahead:
        hits = {**hits, "right": whole_under(hits, here.tones, here.under, c, _row_step(moment))}
    hits = covered(hits, over)
    for hand in HANDS:
        if breaks and not (hand == "right" and here.tones):
            hits = {**hits, hand: without_again(hits[hand], hand, c)}
    return here._replace(hits=hits)


def _same(before: Played, here: Played) -> bool:
    """Whether a chord goes on with the same hands."""
    old, new = before.chordal, here.chordal
    return (old.left, old.right, old.chord) == (new.left, new.right, new.chord)


def _already(here: Played, before: Played | None) -> dict[str, frozenset[int]]:
    """What was struck already: early, or of the same chord `before`."""
    c, found = here.chordal, {}
    for hand in HANDS:
        keys = struck_of(before.hits, hand, c) if before is not None else set()
        ahead = here.ahead.get(hand)
        found[hand] = frozenset(keys | (names(ahead, hand, c) if ahead is not None else set()))
    return found


def _taken_over(here: Played) -> list[Timed]:
    """The left hand's hits where the right rests: a hand with the bass strikes the rest of it with the right's."""
    c, left = here.chordal, here.hits["left"]
    if {key for hit in left for key in names(hit, "left", c)} <= {c.left[0]}:
        what = "rest" if len(c.left) > 1 else "all"
        theirs = (hit for hit in here.hits["right"] if hit.what != "+grace" and not hit.early)
        left = [*left, *(hit._replace(what=hit.what if hit.what in ROWS else what) for hit in theirs)]
    return sorted(left, key=lambda hit: hit.at)


def _begun(here: Played) -> Hits:
    """The hits with the chord's first beat: the bass, or all of the right hand where the left one rests."""
    hand = "left" if here.chordal.left else "right"
    if hand in here.ahead or any(hit.at == 0 for hit in here.hits[hand]):
        return here.hits
    first = min((hit.at for hit in here.hits[hand]), default=here.length)
    return {**here.hits, hand: [Timed(0, first, "low" if hand == "left" else "all"), *here.hits[hand]]}


def _accented(here: Played) -> Hits:
    """The hits as loud as they lie: where it swings, an off-beat before a rest a little louder."""
    if not here.swings:
        return here.hits
    unit, hits = ticks(unit_quarters(here.moment.meter)), here.hits["right"]
    ends = [*(hit.at for hit in hits[1:]), here.length]
    loud = [
        hit._replace(louder=hit.louder + OFF_BEAT) if hit.at % unit and hit.at + hit.length < end else hit
        for hit, end in zip(hits, ends, strict=False)
    ]
    return {**here.hits, "right": loud}


# --- strokes ---
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
        found.append((here.hand_of(hand), Stroke(onset, end, midi, loud, here.place, hit.roll, midi not in own)))
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


def _row_step(moment: Moment) -> int:
    """The ticks between two notes of a row."""
    return ticks(unit_quarters(moment.meter)) // (3 if moment.meter.compound else 2)


def _in_row(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A broken chord: notes one by one, the last one held to the end of the stroke; of the right hand's under its tune
    what can lie there.
    """
    step, end = _row_step(here.moment), here.start + hit.at + hit.length
    found = []
    for at, together in enumerate(_groups(here, hit, step)):
        onset = here.start + hit.at + at * step
        under = lies_at(here.tones, here.under, onset - here.start)
        for hand, midi in together:
            loud = loudness(hand, hit.louder, here.swell, 1, False)
            if hand == "left" or not here.tones or midi in under:
                found.append((here.hand_of(hand), Stroke(onset, end, midi, loud, here.place)))
    return found


def _walk(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """The note of a walking bass that falls on a stroke."""
    hits = [other for other in here.hits["left"] if other.what == WALK]
    midi = walk_keys(here.chordal, len(hits))[hits.index(hit)]
    onset, end = here.start + hit.at, here.start + hit.at + hit.length
    loud = loudness("left", hit.louder, here.swell, 1, False)
    return [("left", Stroke(onset, end, midi, loud, here.place, 0, midi not in here.chordal.left))]


def _under(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A stroke of the right hand under its tune."""
    loud, own = loudness("right", hit.louder, here.swell, 1, False), here.chordal.right
    return [
        ("right", Stroke(here.start + a, here.start + b, midi, loud, here.place, hit.roll, midi not in own))
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
