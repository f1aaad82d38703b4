"""Patterns over a song, chord by chord: what strikes next, what is struck early, and the strokes as keys."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import Usual, pattern_at, wish_at
from yellow_hinge.core.rhythm.barring import bars_of, parted_after_three
from yellow_hinge.core.rhythm.chordal import Chordal
from yellow_hinge.core.rhythm.covering import Hits, Over, covered, names, struck_of, without_again
from yellow_hinge.core.rhythm.loudness import OFF_BEAT, swell
from yellow_hinge.core.rhythm.pattern.fitting import Timed, bar_offset, beside_bass, fitted, form_of, unit_quarters
from yellow_hinge.core.rhythm.pattern.patterns import ROWS, Pattern, Strokes
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.rhythm.tune.beneath import (
    Under,
    may_lead,
    tones_of,
    under_of,
    whole_under,
)
from yellow_hinge.core.rhythm.tune.hand import TuneNote
from yellow_hinge.core.song.swing import SWINGS
from yellow_hinge.core.song.timeline import Moment

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
    tones: tuple[TuneNote, ...]
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
        asked = StrikeAsked(
            playing, usual.pattern, usual.swing_at(voicing.here), bars[place][1], bars[place][0] in threes
        )
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


class StrikeAsked(NamedTuple):
    """What is asked of the playing at a chord: in percent of a beat how it swings, its bar, counted from its section's
    start, and whether that bar's chords part seven eighths after the third.
    """

    playing: Playing
    usual: Pattern
    swing: int
    bar: int
    three: bool


def _ends_plain(solution: Solution, place: int, playing: Playing) -> bool:
    """Whether a chord is the last one, and nobody asked for a pattern there."""
    if solution.setup.loop or place < len(solution.voicings) - 1:
        return False
    return all(wish.at != solution.voicings[place].here.slot_id for wish in playing.wishes)


def _fit(solution: Solution, asked: StrikeAsked, place: int, before: Played | None) -> Played:
    """One chord with the hits that its patterns write."""
    moment, playing, bar = solution.voicings[place].here, asked.playing, asked.bar
    patterns = {hand: pattern_at(playing, moment, hand, asked.usual) for hand in HANDS}
    chordal, tones = _chordal(solution, place), tones_of(solution, moment, asked.swing)
    goes_on = before is not None and _goes_on(before.moment, moment)
    last = place == len(solution.voicings) - 1 and not solution.setup.loop
    ends = _ends_plain(solution, place, playing)
    forms, hits = {}, {}
    for hand in HANDS:
        pattern = patterns[hand] if chordal.mine else beside_bass(patterns[hand])
        if ends:
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


def _early_one(hits: Sequence[Timed]) -> Timed | None:
    return next((hit for hit in hits if hit.early), None)


def _at_begin(hits: Sequence[Timed]) -> Timed | None:
    return next((hit for hit in hits if hit.at == 0), None)


def _led(before: Played, after: Played) -> tuple[Played, Played]:
    """Two chords with what the first one's patterns strike early: it becomes the second one's, where that may begin so;
    else what leaned over the change is struck again there, and what was pushed waits for its chord.
    """
    waits, hits, ahead = _unled(before), dict(after.hits), {}
    for hand in HANDS:
        early = _early_one(before.hits[hand])
        if early is None:
            continue
        over = early.at + early.length - before.length
        first = _at_begin(hits[hand])
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
        hits = {**hits, "right": whole_under(hits, here.tones, here.under, c, row_step(moment))}
    hits = covered(hits, over)
    return here._replace(hits=_broken(hits, ("left",) if here.tones else HANDS, c) if breaks else hits)


def _broken(hits: dict[str, list[Timed]], hands: tuple[str, ...], c: Chordal) -> dict[str, list[Timed]]:
    return {**hits, **{hand: without_again(hits[hand], hand, c) for hand in hands}}


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


def row_step(moment: Moment) -> int:
    """The ticks between two notes of a row."""
    return ticks(unit_quarters(moment.meter)) // (3 if moment.meter.compound else 2)
