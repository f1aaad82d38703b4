"""What the hands strike, as a copyist writes it: straight, in whole parts of a quarter note, in two voices of a hand at
most, bar by bar.
"""

from __future__ import annotations

import bisect
import itertools
from fractions import Fraction
from operator import itemgetter
from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.performing import written
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import usual_playing
from yellow_hinge.core.rhythm.holding import ON_THE_BEAT, Stroke
from yellow_hinge.core.rhythm.pattern.patterns import GHOST, LOUDER, TICK
from yellow_hinge.core.sheet.bars import Measure, Sound, bar_length
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.swing import SWINGS, read_swing, swing_words

STEP = TICK // 24  # the grid: thirds and eighths of a quarter note are both whole on it
FIRST = (TICK // 4, TICK // 3, TICK // 8, TICK // 6)  # where a stroke is written if it lies so near
NEAR = 18  # ticks
ARPEGGIO = 30  # milliseconds: what is rolled faster is written together
SHORT_REST = TICK // 4  # ticks: what is let go so soon before the next stroke is written through
LENGTHS = (TICK // 2, TICK // 4, TICK // 3, TICK // 6, TICK // 8)
SHORTEST = TICK // 3  # a stroke on a longer part is written no shorter than half of this, a ghost too
MOST_VOICES = 2
SIGNS = (ACCENT, GHOST_SIGN, ROLL, GRACE) = ("accent", "ghost", "roll", "grace")
GRACE_TICKS = TICK // 8  # what is added for no longer than this is a grace note before the next beat
PEDALS = (DOWN, CHANGE, UP) = ("start", "change", "stop")

Voices = list[list[Sound]]


class Block(NamedTuple):
    """Keys of one hand that are struck and let go together: ticks from the song's start, MIDI ascending, the chord's
    index, the signs of the stroke out of SIGNS, and whether the tune is among them.
    """

    onset: int
    end: int
    keys: tuple[int, ...]
    place: int
    signs: tuple[str, ...] = ()
    tune: bool = False


def snapped(tick: int) -> int:
    """A time in ticks as it is written: a stroke that is laid back by a hair stands on its beat."""
    for part in FIRST:
        near = (tick + part // 2) // part * part
        if abs(near - tick) <= NEAR:
            return near
    return (tick + STEP // 2) // STEP * STEP


def _signs(strokes: list[Stroke]) -> tuple[str, ...]:
    said = {
        ACCENT: any(stroke.louder >= LOUDER for stroke in strokes),
        GHOST_SIGN: all(stroke.louder <= GHOST for stroke in strokes),
        ROLL: any(stroke.roll >= ARPEGGIO for stroke in strokes),
    }
    return tuple(sign for sign, on in said.items() if on)


def _let_go(onset: int, end: int, following: int | None) -> int:
    """When a stroke is written to end: at the next one where hardly a rest is left, else after whole parts of a beat as
    large as its own place in it.
    """
    if following is not None and abs(following - end) <= SHORT_REST:
        return following
    part = next((part for part in LENGTHS if onset % part == 0), STEP)
    while part > SHORTEST and end - onset < part * 3 // 4:
        part = next(less for less in LENGTHS if less < part and part % less == 0)
    end = onset + max(1, (end - onset + part // 2) // part) * part
    return following if following is not None and abs(following - end) <= SHORT_REST else end


def _is_grace(stroke: Stroke) -> bool:
    """Whether it leads into the next quarter and is hardly there before it."""
    return stroke.added and stroke.end - stroke.onset <= GRACE_TICKS and 0 < -stroke.onset % TICK <= GRACE_TICKS


def blocks_of(strokes: list[Stroke]) -> list[Block]:
    """One hand's strokes as blocks, in order; short rests before the next stroke are written through."""
    graces, others = list[Stroke](), list[Stroke]()
    for stroke in strokes:
        (graces if _is_grace(stroke) else others).append(stroke)
    onsets = sorted({snapped(stroke.onset) for stroke in others})
    after = dict(zip(onsets, (*onsets[1:], None), strict=True)) if onsets else {}
    found: dict[tuple[int, int], dict[int, Stroke]] = {}
    for stroke in graces:
        beat = -(-stroke.onset // TICK) * TICK
        found.setdefault((beat, beat), {})[stroke.midi] = stroke
    for stroke in others:
        onset = snapped(stroke.onset)
        end = _let_go(onset, max(snapped(stroke.end), onset + STEP), after[onset])
        found.setdefault((onset, end), {})[stroke.midi] = stroke
    return [
        Block(
            *at, tuple(sorted(keys)), min(s.place for s in keys.values()), _signs([*keys.values()]),
            any(s.roll == ON_THE_BEAT for s in keys.values()),
        )
        for at, keys in sorted(found.items())
    ]  # fmt: skip


def voices_of(blocks: list[Block]) -> list[list[Block]]:
    """Blocks in voices in which nothing overlaps; where all are held, the one that ends first is let go. A tune has its
    voice, into which nothing else comes.
    """
    tune = [block for block in blocks if block.tune]
    if tune:
        under = _packed([block for block in blocks if not block.tune], MOST_VOICES - 1)
        return [*_packed(tune, 1), *under]
    return _packed(blocks, MOST_VOICES)


def _packed(blocks: list[Block], most: int) -> list[list[Block]]:
    voices: list[list[Block]] = []
    for block in blocks:
        free = next((voice for voice in voices if voice[-1].end <= block.onset), None)
        if free is None and len(voices) < most:
            voices.append([])
            free = voices[-1]
        if free is None:
            held = [voice for voice in voices if voice[-1].onset < block.onset]
            free = min(held or voices, key=lambda voice: voice[-1].end)
            last = free.pop()
            if last.onset < block.onset:
                free.append(last._replace(end=block.onset))
            else:  # of one onset: written as one
                block = block._replace(keys=tuple(sorted({*last.keys, *block.keys})), end=max(last.end, block.end))
        free.append(block)
    return voices


def swing_said(solution: Solution, song: Song, playing: Playing) -> str:
    """How a song swings, in a word; "" where it is straight."""
    moments = [voicing.here for voicing in solution.voicings]
    if not moments:
        return ""
    percent = usual_playing(song, solution.setup.manner, playing, moments).swing_at(moments[0])
    return swing_words(read_swing(str(percent))) if percent > SWINGS["straight"] else ""


class _Line(NamedTuple):
    """A voice, with the onsets and ends of its blocks, both ascending, so that those of a bar are found at once."""

    blocks: list[Block]
    onsets: list[int]
    ends: list[int]

    def within(self, span: tuple[int, int]) -> list[Block]:
        """The blocks that sound in a span, or lead into its end."""
        return self.blocks[bisect.bisect_left(self.ends, span[0]) : bisect.bisect_right(self.onsets, span[1])]


def _line(blocks: list[Block]) -> _Line:
    return _Line(blocks, [block.onset for block in blocks], [block.end for block in blocks])


class StruckBar(NamedTuple):
    """A bar as it is first played: the voices of each hand, and what the pedal does out of PEDALS, in quarters from its
    beginning.
    """

    hands: dict[str, Voices]
    pedals: tuple[tuple[Fraction, str], ...]


def _sounding(voices: Voices) -> Voices:
    """The voices that have notes, the highest first."""
    return sorted((sounds for sounds in voices if any(s.pitches for s in sounds)), key=_height, reverse=True)


def struck_bars(
    solution: Solution, song: Song, playing: Playing, bars: list[Measure], fingers: bool
) -> list[StruckBar]:
    """Every bar as it is first played."""
    strokes, pedals = written(solution, song, playing)
    spans = [_span(bar) for bar in bars]
    voices = {hand: [_line(voice) for voice in voices_of(blocks_of(own))] for hand, own in strokes.items()}
    downs = [(snapped(down), snapped(up)) for down, up in pedals]
    found = []
    for at, span in enumerate(spans):
        joined = (at > 0 and spans[at - 1][1] == span[0], at + 1 < len(spans) and spans[at + 1][0] == span[1])
        hands: dict[str, Voices] = {}
        for hand, own in voices.items():
            made = [_bar(voice.within(span), span, joined, solution, hand if fingers else "") for voice in own]
            hands[hand] = _sounding(made) or made[:1] or [[Sound((), (), bar_length(bars[at]))]]
        found.append(StruckBar(hands, _pedal(downs, span, joined)))
    return found


def _onsets(sounds: list[Sound]) -> dict[Fraction, int]:
    """Which sound begins when."""
    ends = itertools.accumulate((sound.length for sound in sounds), initial=Fraction(0))
    return {at: n for n, at in enumerate(list(ends)[:-1])}


def one_stack(voices: Voices) -> Voices:
    """Voices with the fingers of what two of them strike together in one place, at the first of them, low to high."""
    if len(voices) < MOST_VOICES:
        return voices
    upper, lower = (list(sounds) for sounds in voices)
    first, second = _onsets(upper), _onsets(lower)
    for at, n in second.items():
        low, high = lower[n], upper[first[at]] if at in first else None
        if low.fingers and high is not None and high.pitches:
            pitches = (*low.pitches, *high.pitches) if high.fingers else low.pitches
            own = zip(pitches, (*low.fingers, *high.fingers), strict=True)
            stack = sorted(own, key=lambda pair: pair[0].midi)
            upper[first[at]] = high._replace(fingers=tuple(finger for _, finger in stack))
            lower[n] = low._replace(fingers=())
    return [upper, lower]


def _height(sounds: list[Sound]) -> Fraction:
    """How high a voice lies on average: the higher one is written first, with its stems up."""
    notes = [pitch.midi for sound in sounds for pitch in sound.pitches]
    return Fraction(sum(notes), len(notes))


def _pedal(
    downs: list[tuple[int, int]], span: tuple[int, int], joined: tuple[bool, bool]
) -> tuple[tuple[Fraction, str], ...]:
    """What the pedal does in a bar; it is let go where the bar that is written next is not the one that is played."""
    first = bisect.bisect_left(downs, span[0], key=itemgetter(1))
    around = downs[first : bisect.bisect_right(downs, span[1], key=itemgetter(0))]  # those that touch it
    begins, ends = (set(map(itemgetter(n), around)) for n in (0, 1))
    found: list[tuple[int, str]] = []
    for down, up in _inside(around, span, joined[1]):
        if down >= span[0]:
            before = down in ends and (down > span[0] or joined[0])
            found.append((down, CHANGE if before else DOWN))
        elif not joined[0]:
            found.append((span[0], DOWN))
        if joined[1] and up > span[1]:
            continue  # it stays down over the bar line
        if not joined[1] and up >= span[1]:
            found.append((span[1], UP))
        elif up not in begins:
            found.append((up, UP))
    return tuple((Fraction(tick - span[0], TICK), what) for tick, what in found)


def _inside(around: list[tuple[int, int]], span: tuple[int, int], goes_on: bool) -> list[tuple[int, int]]:
    """When the pedal is down inside a bar; what is only just down as the written line breaks off has no end to be
    written at.
    """
    inside = [(down, up) for down, up in around if down < span[1] and up > span[0]]
    if goes_on:
        return inside
    return [(down, up) for down, up in inside if span[1] - down >= TICK // 2 or up < span[1]]


def _span(bar: Measure) -> tuple[int, int]:
    start = bar.moments[0].quarter if bar.moments else Fraction(0)
    return int(start * TICK), int((start + bar_length(bar)) * TICK)


def _without(signs: tuple[str, ...], gone: str) -> tuple[str, ...]:
    return tuple(sign for sign in signs if sign != gone)


def _bar(
    voice: list[Block], span: tuple[int, int], joined: tuple[bool, bool], solution: Solution, hand: str
) -> list[Sound]:
    """One voice in one bar: its sounds and rests. `hand`: whose fingers are written, "" for none."""
    found, at = [], span[0]
    shown: dict[int, set[int]] = {}
    strong = (span[0], span[0] + (span[1] - span[0]) // 2)  # where an accent is heard without a sign
    for block in voice:
        begins, ends = max(block.onset, span[0]), min(block.end, span[1])
        grace = block.onset == block.end and span[0] < block.onset <= span[1]
        if begins >= ends and not grace:
            continue
        if begins > at:
            found.append(Sound((), (), Fraction(begins - at, TICK)))
        chord = solution.voicings[block.place].chord
        pitches = tuple(pitch_of(midi, chord.note_of(midi % 12)) for midi in block.keys)
        ties = block.onset < span[0], block.end > span[1] and joined[1]
        own = _new_fingers(block, solution.voicings[block.place], hand, shown, (ties[0], joined[0]))
        signs = () if ties[0] else (GRACE,) if grace else _without(block.signs, ACCENT if begins in strong else "")
        found.append(Sound(pitches, own, Fraction(ends - begins, TICK), ties, signs))
        at = ends
    if at < span[1]:
        found.append(Sound((), (), Fraction(span[1] - at, TICK)))
    return found


def _new_fingers(
    block: Block, voicing: Voicing, hand: str, shown: dict[int, set[int]], tied: tuple[bool, bool]
) -> tuple[int, ...]:
    """The fingers of a block, where they were not told yet in this bar; `shown` are the keys of chords whose were.
    `tied`: it is tied from before the bar, and that bar stands before this one.
    """
    known = dict(zip(voicing.both.of(hand), voicing.fingers.of(hand), strict=True)) if hand else {}
    told = shown.setdefault(block.place, set())
    new = not tied[0] and not told.issuperset(block.keys) and all(midi in known for midi in block.keys)
    told.update(block.keys if new or all(tied) else ())
    return tuple(known[midi] for midi in block.keys) if new else ()
