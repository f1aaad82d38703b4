"""The tune in the right hand over a chord: its stretches, what lies under them, and the strokes of both."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.rhythm.chordal import Chordal, in_row, is_guide
from yellow_hinge.core.rhythm.covering import WALK, Hits, Pool
from yellow_hinge.core.rhythm.pattern.fitting import Timed
from yellow_hinge.core.rhythm.pattern.patterns import GHOST, ROWS
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.rhythm.tune.hand import TuneNote, can_lie_under, under_tune
from yellow_hinge.core.song.timeline import Moment, Sounding

Under = tuple[tuple[int, ...], ...]


def tune_span(tone: Sounding, moment: Moment, swing: int, whole: bool = True) -> tuple[int, int]:
    """When a note of the tune begins and ends, in ticks from its chord's start, half beats late by the song's swing;
    the end is that of all of it, or of what sounds over this chord.
    """
    unit, bar = moment.meter.beat_quarters, -ticks((moment.beat - 1) * moment.meter.beat_quarters)
    start, end = ticks(tone.onset * unit), ticks((tone.onset + (tone.whole if whole else tone.beats)) * unit)
    return swung(start, moment.meter, swing, bar), swung(end, moment.meter, swing, bar)


def tones_of(solution: Solution, moment: Moment, swing: int) -> tuple[TuneNote, ...]:
    """The tune over a chord as the right hand plays it, rests included; () where another has it."""
    if solution.setup.melody != "top" or not moment.tune:
        return ()
    found, at = [], 0
    for tone in moment.tune:
        start, end = tune_span(tone, moment, swing, whole=False)
        end = min(end, ticks(moment.quarters))
        if start > at:
            found.append(TuneNote(at, start, None, False))
        found.append(TuneNote(start, end, tone.pitch.midi, tone.begins))
        at = end
    if at < ticks(moment.quarters):
        found.append(TuneNote(at, ticks(moment.quarters), None, False))
    return tuple(found)


def under_of(chordal: Chordal, tones: tuple[TuneNote, ...]) -> Under:
    """What lies under each stretch of the tune: of the right hand's notes but for the tune's first. Where the tune
    begins inside the hand, what is above it stays there: somebody keeps that top.
    """
    first = next((tone.midi for tone in tones if tone.midi is not None), None)
    pool = tuple(note for note in chordal.right if note != first)
    guides = frozenset(note for note in chordal.right if is_guide(chordal, note))
    floor = chordal.left[-1] if chordal.left else chordal.hands.compass[0]
    return _under(pool, tones, chordal.hands, guides, floor, over_tune(chordal, tones))


def over_tune(chordal: Chordal, tones: tuple[TuneNote, ...]) -> Pool:
    """The right hand's notes above the tune's first."""
    first = next((tone.midi for tone in tones if tone.midi is not None), None)
    return tuple(note for note in chordal.right if first is not None and note > first)


@lru_cache(maxsize=4096)
def _under(
    pool: Pool, tones: tuple[TuneNote, ...], hands: Hands, guides: frozenset[int], floor: int, over: Pool
) -> Under:
    return tuple(under_tune(pool, list(tones), hands, guides, floor, over))


def pool_of(under: Under) -> Pool:
    """All that lies under some stretch of a tune, ascending."""
    return tuple(sorted({note for notes in under for note in notes}))


def _named(hit: Timed, pool: Pool, c: Chordal) -> Pool:
    """What a stroke names of what lies under a tune, ascending. Rows are not among it: see `lies_at`."""
    one = {
        "low": pool[:1], "2": pool[1:2] or pool, "3": pool[2:3] or pool[-1:], "4": pool[-1:], "second": pool[-1:],
    }  # fmt: skip
    whole = hit.what in ("all", "in", "rest", "+step", "+below", "+sus", WALK)
    named = pool if whole else one.get(hit.what, ())
    if hit.what == "guides":
        named = tuple(n for n in pool if is_guide(c, n)) or pool
    return tuple(sorted({*named, *(n for n in hit.also if n in pool)}))


def lies_at(tones: tuple[TuneNote, ...], under: Under, tick: int) -> Pool:
    """What lies under the tune at a tick of the chord."""
    return next((notes for tone, notes in zip(tones, under, strict=True) if tone.start <= tick < tone.end), ())


def _row_under(hits: Hits, tones: tuple[TuneNote, ...], under: Under, c: Chordal, step: int) -> set[int]:
    """The keys under a tune that rows of both hands strike."""
    rows = (hit for own in hits.values() for hit in own if hit.what in ROWS)
    struck = ((hit.at + n * step, hand, midi) for hit in rows for n, (hand, midi) in enumerate(in_row(hit.what, c)))
    return {midi for at, hand, midi in struck if hand == "right" and midi in lies_at(tones, under, at)}


def _sounds_with(hit: Timed, spans: list[TuneNote]) -> bool:
    return any(hit.at < span.end and span.start < hit.at + hit.length for span in spans)


def whole_under(hits: Hits, tones: tuple[TuneNote, ...], under: Under, c: Chordal, step: int) -> list[Timed]:
    """The right hand's hits under its tune, with what can lie there and no stroke strikes: with the earliest stroke
    that sounds where it can, else by itself. `step`: between two notes of a row, in ticks.
    """
    found = list(hits["right"])
    own = [hit for hit in found if not hit.early]
    struck = {midi for hit in own for *_, midi in held_under(tones, under, hit, c)}
    for note in sorted(set(pool_of(under)) - struck - _row_under(hits, tones, under, c, step)):
        spans = [tone for tone, notes in zip(tones, under, strict=True) if note in notes]
        able = [hit for hit in own if hit.louder > GHOST and _sounds_with(hit, spans)]
        if able:
            at = next(n for n, hit in enumerate(found) if hit.at == able[0].at and not hit.early)
            found[at] = found[at]._replace(also=tuple(sorted({*found[at].also, note})))
        else:
            found.append(Timed(spans[0].start, spans[0].end - spans[0].start, "", also=(note,)))
    return sorted(found, key=lambda hit: hit.at)


def may_lead(chordal: Chordal, under: Under, then: list[int]) -> bool:
    """Whether a chord may be struck before its tune begins, over the keys of the tune `then`: they are its own, and
    what lies under its first stretch can lie under them.
    """
    own = {pc % 12 for pc in chordal.chord.pitch_classes}
    first = under[0] if under else chordal.right
    return all(key % 12 in own and can_lie_under(first, key, chordal.hands) for key in then)


def held_under(tones: tuple[TuneNote, ...], under: Under, hit: Timed, c: Chordal) -> Iterator[tuple[int, int, int]]:
    """(start, end, key) of a stroke of the right hand under the tune, in ticks from the chord's start: of what it
    names, what can lie under each of the tune's notes; a note that can only join later joins with the tune.
    """
    named = _named(hit, pool_of(under), c)
    begin, close = hit.at, hit.at + hit.length
    sounding: dict[int, int] = {}
    for n, (tone, notes) in enumerate(zip(tones, under, strict=True)):
        start, end = max(begin if n == 0 else tone.start, begin), min(tone.end, close)
        if start >= end:
            continue
        wanted = [note for note in named if note in notes]
        for midi in [midi for midi in sounding if midi not in wanted]:
            yield sounding.pop(midi), start, midi
        for midi in wanted:
            sounding.setdefault(midi, start)
    yield from ((start, close, midi) for midi, start in sounding.items())
