"""Which part of a score has the chord symbols, and which line of it is the tune: chosen apart, by what they are."""

from __future__ import annotations

from collections import Counter, defaultdict
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.io.melodic import LOWEST, NEAR, Traits, holds_chords, tune_points
from yellow_hinge.io.musicxml.score.measures import Part, Sung

_FIRST_VOICE, _LOWER_STAFF, _HAS_SYMBOLS = 0.7, 1.0, 1.0


class Line(NamedTuple):
    """One line of notes: a part (its place), a staff and a voice in it."""

    part: int
    staff: int
    voice: str

    @property
    def ask(self) -> str:
        """How it is asked for."""
        return f"{self.part}/{self.staff}/{self.voice}"


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


def _traits(notes: list[tuple[int, Sung]], part: Part) -> Traits:
    bars = max(1, len(part.measures))
    midis = [note.pitch.midi for _, note in notes if note.pitch]
    starts = Counter((bar, note.start) for bar, note in notes)
    return Traits(
        part.name,
        sum(midis) / len(midis),
        sum(1 for count in starts.values() if count > 1) / len(starts),
        sum(1 for count in starts.values() if count > 2) / len(starts),
        sum(1 for _, note in notes if note.lyrics) / len(notes),
        len({bar for bar, _ in notes}) / bars,
        len(starts) / bars,
    )


def _ranked(parts: list[Part], symbols: int | None) -> list[tuple[float, Line]]:
    """The lines that may be the tune with their points, the likeliest first."""
    lines = lines_of(parts)
    ranked: list[tuple[float, Line]] = []
    for line, notes in lines.items():
        part, traits = parts[line.part], _traits(notes, parts[line.part])
        if holds_chords(traits) or traits.active < 1 / 16 or traits.middle < LOWEST:
            continue
        first = min((other.voice for other in lines if other[:2] == line[:2]), key=_voice_order)
        points = tune_points(traits) - _LOWER_STAFF * (line.staff - 1)
        points += _FIRST_VOICE * (line.voice == first) + _HAS_SYMBOLS * (line.part == symbols and part.staves == 1)
        ranked.append((points, line))
    return sorted(ranked, key=lambda pair: (-pair[0], pair[1].part, pair[1].staff, _voice_order(pair[1].voice)))


def chosen(parts: list[Part]) -> Choice:
    """The part with the symbols and the line of the tune."""
    counts = [part.symbols for part in parts]
    most = max(counts, default=0)
    symbols = counts.index(most) if most else None
    ranked = _ranked(parts, symbols)
    if not ranked:
        return Choice(symbols, None, ())
    best = ranked[0]
    near = tuple(line for points, line in ranked[1:] if points > best[0] - NEAR and line.part != best[1].part)
    return Choice(symbols, best[1], near[:3])


def _voice_order(voice: str) -> tuple[int, str]:
    return (int(voice) if voice.isdecimal() and len(voice) < 6 else 99, voice)


def line_in(parts: list[Part], line: Line, bar: int) -> list[Sung]:
    """The notes and rests of a line in a bar; of the highest voice of its staff where its own says nothing there."""
    measures = parts[line.part].measures
    if bar >= len(measures):
        return []
    staff = [note for note in measures[bar].notes if note.staff == line.staff and not note.apart]
    own = [note for note in staff if note.voice == line.voice]
    tops: dict[str, int] = {}
    for note in staff:
        tops[note.voice] = max(tops.get(note.voice, -1), _height(note))
    best = max(tops, key=lambda voice: tops[voice], default=line.voice)
    return own or [note for note in staff if note.voice == best]


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
