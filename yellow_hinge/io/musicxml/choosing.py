"""Which part of a score has the chord symbols, and which line of it is the tune: chosen apart, by what they are."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.io.musicxml.measures import Part, Sung

# Words in the names of parts and what they say for or against being the tune.
_NAMES: tuple[tuple[str, float], ...] = (
    (r"tune|melod|vocal|\bvoice|\bvox|\blead|\bsing|canto|cantus|chant|gesang|stimme|voix|voz|sopran|\bs\.?$", 6.0),
    (r"solo|flute|fl[öo]te|violin(?!.*\b(?:2|ii)\b)|oboe|trumpet|recorder|whistle|clarinet|sax|harmonica", 1.5),
    (r"\balto|\btenor|bariton|mezzo|violin.*\b(?:2|ii)\b|viola|horn|harmony|backing|descant", -1.0),
    (
        r"piano|klavier|keyboard|\bkeys\b|organ|orgel|guitar|gitarre|harp|accomp|string|pad|chord|rhythm|comp|synth",
        -3.0,
    ),
    (r"\bbass|kontrabass|cello|tuba|bassoon|fagott|\bb\.?$", -6.0),
    (r"drum|percussion|schlagzeug|click|metronome", -20.0),
)
_NEAR = 1.5  # points that a second line may be behind and still be one to ask about
_SUNG, _ACTIVE, _CHORDS, _FIRST_VOICE = 4.0, 2.0, 4.0, 0.7


class Line(NamedTuple):
    """One line of notes: a part (its place), a staff and a voice in it."""

    part: int
    staff: int
    voice: str


class Choice(NamedTuple):
    """The part with the symbols (None: nobody has any), the tune (None: nobody plays one), and what else it may be."""

    symbols: int | None
    tune: Line | None
    others: tuple[Line, ...]


def lines_of(parts: list[Part]) -> dict[Line, list[tuple[int, Sung]]]:
    """The notes of every line that could be played, each with its bar."""
    found: dict[Line, list[tuple[int, Sung]]] = defaultdict(list)
    for p, part in enumerate(parts):
        for bar, measure in enumerate(part.measures):
            for note in measure.notes:
                if note.pitch is not None and not note.apart and not part.drums:
                    found[Line(p, note.staff, note.voice)].append((bar, note))
    return found


def _by_name(name: str) -> float:
    low = name.lower()
    return sum(points for words, points in _NAMES if re.search(words, low))


def _points(line: Line, notes: list[tuple[int, Sung]], part: Part, first: bool, bars: int) -> float:
    """How much a line is like a tune."""
    midis = [note.pitch.midi for _, note in notes if note.pitch]
    starts = Counter((bar, note.start) for bar, note in notes)
    doubled = sum(1 for count in starts.values() if count > 1) / len(starts)
    sung = sum(1 for _, note in notes if note.lyrics) / len(notes)
    active = len({bar for bar, _ in notes}) / max(1, bars)
    middle = sum(midis) / len(midis)
    points = _by_name(part.name) + _ACTIVE * active - _CHORDS * doubled
    points += _SUNG if sung > 0.15 else 0.0
    points += max(-4.0, min(1.6, (middle - 60) / 7)) + (_FIRST_VOICE if first else 0.0)
    points -= 1.0 * (line.staff - 1)
    return points


def _has_chords(notes: list[tuple[int, Sung]], bars: int) -> bool:
    """Whether a line is held chords, and no tune: mostly three notes and more at once, few of them a bar."""
    starts = Counter((bar, note.start) for bar, note in notes)
    full = sum(1 for count in starts.values() if count > 2)
    return full > 0.8 * len(starts) and len(starts) <= 2.2 * max(1, bars) and not any(n.lyrics for _, n in notes)


def chosen(parts: list[Part]) -> Choice:
    """The part with the symbols and the line of the tune."""
    counts = [sum(1 for measure in part.measures for _ in measure.of("symbol")) for part in parts]
    most = max(counts, default=0)
    symbols = counts.index(most) if most else None
    lines = lines_of(parts)
    ranked: list[tuple[float, Line]] = []
    for line, notes in lines.items():
        part = parts[line.part]
        voices = [other.voice for other in lines if other[:2] == line[:2]]
        bars = len(part.measures)
        if _has_chords(notes, bars) or 4 * len({bar for bar, _ in notes}) < bars / 4:
            continue
        points = _points(line, notes, part, line.voice == min(voices, key=_voice_order), bars)
        points += 1.0 if line.part == symbols and part.staves == 1 else 0.0
        ranked.append((points, line))
    ranked.sort(key=lambda pair: (-pair[0], pair[1].part, pair[1].staff, _voice_order(pair[1].voice)))
    low = [line for _, line in ranked if _middle(lines[line]) < 50]
    ranked = [pair for pair in ranked if pair[1] not in low]
    if not ranked:
        return Choice(symbols, None, ())
    best = ranked[0]
    near = tuple(line for points, line in ranked[1:] if points > best[0] - _NEAR and line.part != best[1].part)
    return Choice(symbols, best[1], near[:3])


def _voice_order(voice: str) -> tuple[int, str]:
    return (int(voice) if voice.isdecimal() and len(voice) < 6 else 99, voice)


def _middle(notes: list[tuple[int, Sung]]) -> float:
    midis = [note.pitch.midi for _, note in notes if note.pitch]
    return sum(midis) / len(midis)


def line_in(parts: list[Part], line: Line, bar: int) -> list[Sung]:
    """The notes and rests of a line in a bar; of the highest voice of its staff where its own is silent there."""
    measures = parts[line.part].measures
    if bar >= len(measures):
        return []
    staff = [note for note in measures[bar].notes if note.staff == line.staff and not note.apart]
    own = [note for note in staff if note.voice == line.voice]
    if any(note.pitch for note in own):
        return own
    others = {note.voice for note in staff if note.pitch}
    if own or not others:
        return own
    best = max(others, key=lambda voice: max(n.pitch.midi for n in staff if n.pitch and n.voice == voice))
    return [note for note in staff if note.voice == best]


def first_of(notes: list[Sung]) -> list[Sung]:
    """One note at a time: the highest of those that begin together, those under way cut where the next one begins."""
    tops: dict[Fraction, Sung] = {}
    for note in notes:
        here = tops.get(note.start)
        if note.length > 0 and (here is None or _height(note) > _height(here)):
            tops[note.start] = note
    ordered = sorted(tops.values(), key=lambda note: note.start)
    return [
        note._replace(length=min(note.length, after.start - note.start)) if after else note
        for note, after in zip(ordered, [*ordered[1:], None], strict=False)
    ]


def _height(note: Sung) -> int:
    return note.pitch.midi if note.pitch else -1
