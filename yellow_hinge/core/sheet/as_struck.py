"""What the hands strike, as a copyist writes it: straight, in whole parts of a quarter note, in two voices of a hand at
most, bar by bar.
"""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.performing import written_strokes
from yellow_hinge.core.pitch import pitch_of
from yellow_hinge.core.rhythm.asks import Playing
from yellow_hinge.core.rhythm.holding import Stroke
from yellow_hinge.core.rhythm.patterns import TICK
from yellow_hinge.core.sheet.bars import Measure, Sound, bar_length
from yellow_hinge.core.song import Song

PARTS = 24  # of a quarter note: thirds and eighths of it are both whole
STEP = TICK // PARTS
SHORT_REST = TICK // 4  # ticks: what is let go so soon before the next stroke is written through
LENGTHS = (TICK // 2, TICK // 4, TICK // 3, TICK // 6, TICK // 8)
MOST_VOICES = 2

Voices = list[list[Sound]]


class Block(NamedTuple):
    """Keys of one hand that are struck and let go together: ticks from the song's start, MIDI ascending, the chord's
    index.
    """

    onset: int
    end: int
    keys: tuple[int, ...]
    place: int


def snapped(tick: int) -> int:
    """A time in ticks on the grid that is written."""
    return (tick + STEP // 2) // STEP * STEP


def _let_go(onset: int, end: int, following: int | None) -> int:
    """When a stroke is written to end: at the next one where hardly a rest is left, else after whole parts of a beat as
    large as its own place in it.
    """
    if following is not None and abs(following - end) <= SHORT_REST:
        return following
    part = next((part for part in LENGTHS if onset % part == 0), STEP)
    if end - onset < part * 3 // 4:
        part = next((less for less in LENGTHS if less < part and part % less == 0), STEP)
    end = onset + max(1, (end - onset + part // 2) // part) * part
    return following if following is not None and abs(following - end) <= SHORT_REST else end


def blocks_of(strokes: list[Stroke]) -> list[Block]:
    """One hand's strokes as blocks, in order; short rests before the next stroke are written through."""
    onsets = sorted({snapped(stroke.onset) for stroke in strokes})
    after = dict(zip(onsets, (*onsets[1:], None), strict=True)) if onsets else {}
    found: dict[tuple[int, int], dict[int, int]] = {}
    for stroke in strokes:
        onset = snapped(stroke.onset)
        end = _let_go(onset, max(snapped(stroke.end), onset + STEP), after[onset])
        found.setdefault((onset, end), {})[stroke.midi] = stroke.place
    return [Block(*at, tuple(sorted(keys)), min(keys.values())) for at, keys in sorted(found.items())]


def voices_of(blocks: list[Block]) -> list[list[Block]]:
    """Blocks in voices in which nothing overlaps; where all are held, the one that ends first is let go."""
    voices: list[list[Block]] = []
    for block in blocks:
        free = next((voice for voice in voices if voice[-1].end <= block.onset), None)
        if free is None and len(voices) < MOST_VOICES:
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


def struck_bars(
    solution: Solution, song: Song, playing: Playing, bars: list[Measure], fingers: bool
) -> dict[str, list[Voices]]:
    """For each hand the voices of every bar, as it is first played."""
    strokes = written_strokes(solution, song, playing)
    spans = [_span(bar) for bar in bars]
    found: dict[str, list[Voices]] = {}
    for hand, own in strokes.items():
        voices = voices_of(blocks_of(own))
        found[hand] = []
        for at, span in enumerate(spans):
            joined = (at > 0 and spans[at - 1][1] == span[0], at + 1 < len(spans) and spans[at + 1][0] == span[1])
            made = [_bar(voice, span, joined, solution, hand if fingers else "") for voice in voices]
            sounding = [sounds for sounds in made if any(sound.pitches for sound in sounds)]
            found[hand].append(sounding or made[:1] or [[Sound((), (), bar_length(bars[at]))]])
    return found


def _span(bar: Measure) -> tuple[int, int]:
    start = bar.moments[0].quarter if bar.moments else Fraction(0)
    return int(start * TICK), int((start + bar_length(bar)) * TICK)


def _bar(
    voice: list[Block], span: tuple[int, int], joined: tuple[bool, bool], solution: Solution, hand: str
) -> list[Sound]:
    """One voice in one bar: its sounds and rests. `hand`: whose fingers are written, "" for none."""
    found, at = [], span[0]
    for block in voice:
        begins, ends = max(block.onset, span[0]), min(block.end, span[1])
        if begins >= ends or (block.onset < span[0] and not joined[0]):
            continue
        if begins > at:
            found.append(Sound((), (), Fraction(begins - at, TICK)))
        voicing = solution.voicings[block.place]
        pitches = tuple(pitch_of(midi, voicing.chord.note_of(midi % 12)) for midi in block.keys)
        known = dict(zip(voicing.both.of(hand), voicing.fingers.of(hand), strict=True)) if hand else {}
        own = tuple(known[midi] for midi in block.keys) if all(midi in known for midi in block.keys) else ()
        ties = block.onset < span[0], block.end > span[1] and joined[1]
        found.append(Sound(pitches, own, Fraction(ends - begins, TICK), ties))
        at = ends
    if at < span[1]:
        found.append(Sound((), (), Fraction(span[1] - at, TICK)))
    return found
