"""A line becomes the tune of the bars that it was made for."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

import msgspec

from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.song import Bar, Song, Tone
from yellow_hinge.core.song.timeline import Moment

Span = tuple[Fraction, Fraction, str]  # from, to (quarters), and the note's name, "" for a rest


def as_tune(song: Song, line: Line, moments: Sequence[Moment]) -> Song:
    """The song with a line as the tune of its bars; of bars that are played several times the first time counts. Bars
    that the line does not cover keep theirs.
    """
    spans = _spans(line, moments)
    made: dict[tuple[int, int], tuple[Tone, ...]] = {}
    bars = _bars(moments)
    for address, row in bars.items():
        begin, end = row[0].quarter, row[-1].quarter + row[-1].quarters
        if row[0].beat == 1 and address not in made:
            made[address] = _tones(spans, begin, end, row[0].meter.beat_quarters)
    sections = list(song.sections)
    for (section, bar), tones in made.items():
        own: list[Bar] = list(sections[section].bars)
        own[bar] = msgspec.structs.replace(own[bar], tune=tones)
        sections[section] = msgspec.structs.replace(sections[section], bars=tuple(own))
    found: Song = msgspec.structs.replace(song, sections=tuple(sections))
    return found


def _bars(moments: Sequence[Moment]) -> dict[tuple[int, int], list[Moment]]:
    """The chords of every written bar the first time that it is played."""
    found: dict[tuple[int, int], list[Moment]] = {}
    times: dict[tuple[int, int], tuple[int, int]] = {}
    for moment in moments:
        address, time = (moment.origin, moment.bar), (moment.section, moment.turn)
        if times.setdefault(address, time) == time:
            found.setdefault(address, []).append(moment)
    return found


def _spans(line: Line, moments: Sequence[Moment]) -> list[Span]:
    """The notes and the rests between them, one after the other."""
    found: list[Span] = []
    place = moments[0].quarter
    for note in line.notes:
        chord = moments[note.at].chord
        assert chord is not None
        if note.onset > place:
            found.append((place, note.onset, ""))
        place = note.onset + note.quarters
        found.append((note.onset, place, str(pitch_of(note.midi, chord.note_of(note.midi % 12)))))
    end = moments[-1].quarter + moments[-1].quarters
    return [*found, (place, end, "")] if end > place else found


def _tones(spans: list[Span], begin: Fraction, end: Fraction, beat: Fraction) -> tuple[Tone, ...]:
    """What of the notes lies in a bar; one that goes on over its end is tied."""
    return tuple(
        Tone(name, (min(stop, end) - max(start, begin)) / beat, bool(name) and stop > end)
        for start, stop, name in spans
        if start < end and stop > begin
    )
