"""The strokes of both hands over a song: patterns resolved to keys, chord by chord."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.hands import span_mm
from yellow_hinge.core.leading.hinge import HANDS
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.rhythm.asks import Playing, pattern_at
from yellow_hinge.core.rhythm.chordal import Chordal, in_row, struck_keys, walk_keys
from yellow_hinge.core.rhythm.fitting import Timed, fitted, form_of, ticks, unit_quarters
from yellow_hinge.core.rhythm.holding import ON_THE_BEAT, Stroke
from yellow_hinge.core.rhythm.patterns import Pattern, Strokes
from yellow_hinge.core.rhythm.tune_hand import Tone, under_tune
from yellow_hinge.core.timeline import Moment

LOUD = {"left": 64, "right": 70}
TOP_LOUDER, TUNE_LOUD = 4, 84
LEAST_LOUD, MOST_LOUD = 24, 118
LAST_ROLL = 60  # milliseconds
BARE = ("bass", "oct", "octave", "5th", "6th", "10th", "bass5", "bass6", "approach", "walk")


class Played(NamedTuple):
    """One chord in its time: its voicing's index, its moment, the hands as patterns see them, the patterns of left and
    right hand with the forms that hold, and the tune over it where the right hand plays that; its start from the
    song's and its length in ticks.
    """

    place: int
    moment: Moment
    chordal: Chordal
    patterns: dict[str, Pattern]
    forms: dict[str, Strokes]
    tones: tuple[Tone, ...]
    under: tuple[tuple[int, ...], ...]
    hits: dict[str, list[Timed]]
    start: int
    length: int

    def hand_of(self, hand: str) -> str:
        """The hand that strikes what is written for one: the left takes over where the right rests."""
        return self.chordal.upper if hand == "right" else hand


def played(solution: Solution, playing: Playing, usual: Pattern) -> list[Played]:
    """Every chord of a solution with its patterns fitted."""
    found: list[Played] = []
    bars = _bars(solution)
    for place, voicing in enumerate(solution.voicings):
        moment = voicing.here
        patterns = {hand: pattern_at(playing, moment, hand, usual) for hand in HANDS}
        before = found[-1] if found and _goes_on(found[-1].moment, moment) else None
        chordal = _chordal(solution, place)
        tones = _tones(solution, moment)
        forms = {hand: _form(patterns[hand], chordal.mine, bars[place], before, hand) for hand in HANDS}
        last = place == len(solution.voicings) - 1 and not solution.setup.loop and not _wished(playing, moment)
        if last:
            forms = dict.fromkeys(HANDS, Strokes(f"0/end L~{LAST_ROLL}", f"0/end R~{LAST_ROLL}"))
        hits = {hand: _hits(patterns[hand], hand, moment, forms[hand], last) for hand in HANDS}
        under = _below(chordal, tones) if tones else ()
        found.append(
            Played(
                place,
                moment,
                chordal,
                patterns,
                forms,
                tones,
                under,
                _shared(hits, chordal, moment),
                ticks(moment.quarter),
                ticks(moment.quarter + moment.quarters) - ticks(moment.quarter),
            )
        )
    return found


def _wished(playing: Playing, moment: Moment) -> bool:
    return any(wish.at == moment.slot_id for wish in playing.wishes)


def _hits(pattern: Pattern, hand: str, moment: Moment, form: Strokes, last: bool) -> list[Timed]:
    if last:
        return [Timed(0, ticks(moment.quarters), hit.what, roll=hit.roll) for hit in form.hits(hand)]
    return fitted(pattern, hand, moment, form)


def _bars(solution: Solution) -> list[int]:
    """The number of its bar for every chord, counted from the start of its section as it is played."""
    found, section, bar, count = [], -1, (-1, -1), 0
    for voicing in solution.voicings:
        moment = voicing.here
        if moment.section != section:
            section, bar, count = moment.section, (moment.bar, moment.turn), 0
        elif (moment.bar, moment.turn) != bar:
            bar, count = (moment.bar, moment.turn), count + 1
        found.append(count)
    return found


def _goes_on(before: Moment, moment: Moment) -> bool:
    return before.chord == moment.chord and before.quarter + before.quarters == moment.quarter


def _form(pattern: Pattern, mine: bool, bar: int, before: Played | None, hand: str) -> Strokes:
    if not mine and pattern.theirs is not None:
        return pattern.theirs
    going_on = before is not None and before.forms[hand] != pattern.second
    return form_of(pattern, bar, going_on)


def _chordal(solution: Solution, place: int) -> Chordal:
    voicing, asked = solution.voicings[place], solution.lattice.places[place].asked
    moment = voicing.here
    after = solution.voicings[place + 1] if place + 1 < len(solution.voicings) else None
    if after is not None and after.here.quarter != moment.quarter + moment.quarters:
        after = None
    bass = after.left[0] if after is not None and after.left else None
    top = after.right[-1] if after is not None and after.right else None
    left, right, upper = voicing.left, voicing.right, "right"
    if left and not right and not solution.setup.mine:
        left, right, upper = (), left, "left"
    return Chordal(left, right, voicing.chord, moment.key, asked.hands, solution.setup.mine, bass, top, upper)


def _shared(hits: dict[str, list[Timed]], chordal: Chordal, moment: Moment) -> dict[str, list[Timed]]:
    """The hits with what a resting hand leaves to the other one, and the bass on a chord's first beat."""
    left, right = hits["left"], hits["right"]
    if not chordal.right and chordal.left:
        if all(hit.what in BARE for hit in left):  # the chord's own notes are struck as the right hand would
            what = "mid" if len(chordal.left) > 1 else "L"
            rest = (hit for hit in right if hit.what != "grace")
            broken = ("up", "down")
            left = [*left, *(hit._replace(what=hit.what if hit.what in broken else what, early=False) for hit in rest)]
        return {"left": sorted(left, key=lambda hit: hit.at), "right": []}
    if chordal.mine and chordal.left and not any(hit.at == 0 for hit in left):
        first = min((hit.at for hit in left), default=ticks(moment.quarters))
        left = [Timed(0, first, "bass"), *left]
    if chordal.mine and not chordal.left and not any(hit.at == 0 for hit in right):
        first = min((hit.at for hit in right), default=ticks(moment.quarters))
        right = [Timed(0, first, "R"), *right]
    return {"left": left, "right": right}


# --- the tune ---
def _tones(solution: Solution, moment: Moment) -> tuple[Tone, ...]:
    """The tune over a chord as the right hand plays it, rests included; () where another has it."""
    if solution.setup.melody != "top" or not moment.tune:
        return ()
    unit, found, at = moment.meter.beat_quarters, [], 0
    for tone in moment.tune:
        start, end = ticks(tone.onset * unit), ticks((tone.onset + tone.beats) * unit)
        if start > at:
            found.append(Tone(at, start, None, False))
        found.append(Tone(start, end, tone.pitch.midi, tone.begins))
        at = end
    if at < ticks(moment.quarters):
        found.append(Tone(at, ticks(moment.quarters), None, False))
    return tuple(found)


def _below(chordal: Chordal, tones: tuple[Tone, ...]) -> tuple[tuple[int, ...], ...]:
    """What lies under each stretch of the tune: of the right hand's notes but for the tune's first."""
    first = next((tone.midi for tone in tones if tone.midi is not None), None)
    pool = tuple(note for note in chordal.right if note != first)
    floor = chordal.left[-1] if chordal.left else chordal.hands.compass[0]
    return tuple(under_tune(pool, list(tones), chordal.hands, _guides(chordal), floor))


def _guides(chordal: Chordal) -> frozenset[int]:
    return frozenset(note for note in chordal.right if chordal.chord.degree_of(note).lstrip("b#") in ("3", "7"))


# --- strokes ---
def strokes_of(row: list[Played]) -> dict[str, list[Stroke]]:
    """The strokes of both hands over a song, before it is known what can be held."""
    found: dict[str, list[Stroke]] = {hand: [] for hand in HANDS}
    early: int | None = None  # when the right hand struck the present chord, where that was before it
    for index, here in enumerate(row):
        after = row[index + 1] if index + 1 < len(row) and _adjoin(here, row[index + 1]) else None
        for hit in here.hits["left"]:
            _add(found, _struck(here, hit, "left"))
        if early is not None:
            _drop_first(found[here.hand_of("right")], here)
        next_early = None
        for hit in here.hits["right"]:
            if hit.early:
                next_early = _strike_early(found, here, after, hit)
            elif not (early is not None and hit.at == 0):
                _add(found, _struck(here, hit, "right"))
        _add(found, _tune_strokes(here))
        early = next_early
    return found


def _adjoin(here: Played, after: Played) -> bool:
    return here.start + here.length == after.start


def _drop_first(right: list[Stroke], here: Played) -> None:
    """What was struck early sounds as long as the stroke on the first beat would have, where there is one."""
    first = next((hit for hit in here.hits["right"] if hit.at == 0), None)
    for at, stroke in enumerate(right):
        if first is not None and stroke.place == here.place and stroke.onset < here.start:
            right[at] = stroke._replace(end=here.start + first.length)


def _strike_early(found: dict[str, list[Stroke]], here: Played, after: Played | None, hit: Timed) -> int | None:
    """Strike the next chord's notes before it; when, or None where there is no next chord."""
    onset = here.start + hit.at
    if after is None or not after.chordal.right or after.tones or here.tones:
        return None  # under a tune the chord waits for its note
    keys = struck_keys(hit.what, "right", after.chordal)
    loud = _loud(hit, "right")
    for _, midi in keys:
        found[after.hand_of("right")].append(Stroke(onset, after.start, midi, loud, after.place, hit.roll))
    return onset


def _add(found: dict[str, list[Stroke]], strokes: list[tuple[str, Stroke]]) -> None:
    for hand, stroke in strokes:
        found[hand].append(stroke)


def _loud(hit: Timed, hand: str) -> int:
    return max(LEAST_LOUD, min(MOST_LOUD, LOUD[hand] + hit.louder))


def _struck(here: Played, hit: Timed, hand: str) -> list[tuple[str, Stroke]]:
    if hit.what in ("up", "down"):
        return _in_row(here, hit)
    if hit.what == "walk":
        return _walk(here, hit)
    onset, end = here.start + hit.at, here.start + hit.at + hit.length
    loud = _loud(hit, hand)
    if hand == "right" and here.tones:
        return _under(here, hit)
    keys = struck_keys(hit.what, hand, here.chordal)
    top = here.chordal.right[-1] if here.chordal.right else None
    hand = here.hand_of(hand)
    return [
        (hand, Stroke(onset, end, midi, loud + TOP_LOUDER * (midi == top), here.place, hit.roll)) for _, midi in keys
    ]


def _in_row(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A broken chord: notes one by one, the last one held to the end of the stroke."""
    step = ticks(unit_quarters(here.moment.meter)) // (3 if here.moment.meter.compound else 2)
    row = in_row(hit.what, here.chordal)
    room = max(1, hit.length // step)
    row, found = row[:room], []
    for at, (hand, midi) in enumerate(row):
        onset, end = here.start + hit.at + at * step, here.start + hit.at + hit.length
        found.append((here.hand_of(hand), Stroke(onset, end, midi, _loud(hit, hand), here.place)))
    if here.tones:  # the tune's own keys are left to it
        tune = {tone.midi for tone in here.tones}
        found = [(hand, stroke) for hand, stroke in found if hand == "left" or stroke.midi not in tune]
    return found


def _walk(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """The note of a walking bass that falls on a stroke."""
    if not here.chordal.left or not here.chordal.mine:
        return []
    hits = [other for other in here.hits["left"] if other.what == "walk"]
    notes = walk_keys(here.chordal, len(hits))
    midi = notes[hits.index(hit)]
    onset, end = here.start + hit.at, here.start + hit.at + hit.length
    return [("left", Stroke(onset, end, midi, _loud(hit, "left"), here.place))]


_WHOLE = ("R", "in", "step", "below", "sus")


def _under(here: Played, hit: Timed) -> list[tuple[str, Stroke]]:
    """A stroke of the right hand under the tune: of what it names, what can lie under each of the tune's notes; a note
    that can only join later joins with the tune.
    """
    pool = tuple(sorted({note for notes in here.under for note in notes}))
    named = {"low": pool[:1], "second": pool[-1:]}.get(hit.what, pool if hit.what in _WHOLE else ())
    begin, close = hit.at, hit.at + hit.length
    found: list[tuple[str, Stroke]] = []
    sounding: dict[int, int] = {}
    for tone, notes in zip(here.tones, here.under, strict=True):
        start, end = max(tone.start, begin), min(tone.end, close)
        if start >= end:
            continue
        wanted = [note for note in named if note in notes]
        for midi in [midi for midi in sounding if midi not in wanted]:
            found.append(_one(here, hit, sounding.pop(midi), start, midi))
        for midi in wanted:
            sounding.setdefault(midi, start)
    return [*found, *(_one(here, hit, start, close, midi) for midi, start in sounding.items())]


def _one(here: Played, hit: Timed, start: int, end: int, midi: int) -> tuple[str, Stroke]:
    stroke = Stroke(here.start + start, here.start + end, midi, _loud(hit, "right"), here.place, hit.roll)
    return "right", stroke


def _tune_strokes(here: Played) -> list[tuple[str, Stroke]]:
    """Every note of the tune that the right hand strikes over a chord, as long as it sounds."""
    found = []
    unit = here.moment.meter.beat_quarters
    whole = {ticks(tone.onset * unit): ticks(tone.whole * unit) for tone in here.moment.tune if tone.begins}
    for tone in here.tones:
        if tone.midi is not None and tone.begins:
            onset = here.start + tone.start
            end = onset + whole[tone.start]
            found.append(("right", Stroke(onset, end, tone.midi, TUNE_LOUD, here.place, ON_THE_BEAT)))
    return found


def seen_reach(solution: Solution, hand: str) -> float:
    """The widest that a hand is asked to hold in a song, in mm: a player's own voicings may be wider than said."""
    return max((span_mm(voicing.both.of(hand)) for voicing in solution.voicings), default=0.0)
