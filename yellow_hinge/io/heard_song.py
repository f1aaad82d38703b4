"""A performance that was heard, as a song: its chords in bars, and the hands that were played, kept at them."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

from msgspec.structs import replace

from yellow_hinge.core.hearing.grids import Grid
from yellow_hinge.core.hearing.hear import hear, top_line, turned
from yellow_hinge.core.hearing.in_bars import Asked, Heard
from yellow_hinge.core.hearing.readings import DOUBTFUL
from yellow_hinge.core.hearing.strikes import Tone as Struck
from yellow_hinge.core.hearing.strokes import placed
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import Key, parse_key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Song, Tone, beat_of
from yellow_hinge.io.imported import Offer, Onset, Opened, bar_of, with_same
from yellow_hinge.io.midi.performance import read_performance
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import song_file

_OFFERED = 8


def heard_song(heard: Heard, title: str, sung: bool = False) -> SongFile:
    """A new song of what was heard. Raises nothing: what has no beats is one bar without chords. `sung`: the right
    hand's upper line is its tune.
    """
    grid = heard.grid
    if grid is None:
        return song_file(numbered(Song(title, sections=(Section("Song", (_empty(),)),))))
    meter, before = Meter(*grid.meter), grid.before
    count = max(1, -(-(len(grid.beats) - 1 + before) // grid.size))
    pickup = Fraction(grid.size - before) if before else Fraction(0)
    lengths = [pickup or Fraction(grid.size), *[Fraction(grid.size)] * (count - 1)]
    rows: list[list[Onset]] = [[] for _ in lengths]
    for chord in heard.chords:
        late = grid.size - lengths[0] if chord.bar == 1 else Fraction(0)
        rows[chord.bar - 1].append(Onset(chord.beat - 1 - late, chord.chord.symbol))
    key = heard.key or parse_key("C")
    tunes = _tunes(heard, key, lengths, sung)
    bars, symbol = [], NO_CHORD
    for row, length, tune in zip(rows, lengths, tunes, strict=True):
        slots, symbol = bar_of(row, length, symbol)
        bars.append(Bar(slots, tune))
    tempo = min(TEMPOS[1], max(TEMPOS[0], round(60 / grid.period)))
    song = Song(title, str(key), meter, tempo, (Section("Song", with_same(bars)),), pickup)
    song = numbered(replace(song, swing="swung" if grid.kind == "swing" else ""))
    return song_file(song, keeps=_kept(heard, song, lengths[0] - grid.size))


def opened_by_hearing(data: bytes, name: str, asks: Mapping[str, str]) -> Opened | None:
    """A recording as a song, with what may be chosen otherwise: its grid, and who has the bass; None where no beats
    are heard. Raises FileFault.
    """
    played = read_performance(data, name)
    asked = Asked(theirs=asks.get("bass") == "theirs")
    heard = hear(played.tones, asked, played.pedals)
    grids = _unlike_grids(heard)
    if not grids:
        return None
    chosen = next((grid for value, grid in grids if value == asks.get("beats")), heard.grid)
    if chosen is not None and chosen is not heard.grid:
        heard = turned(heard, chosen, asked)
    doubtful = sum(chord.chord.doubtful for chord in heard.chords)
    said = [
        "it is a recording without bars; they were heard" + ("" if heard.sure > DOUBTFUL else ", and are not sure"),
        f"{len(heard.chords)} chords were named, {doubtful} of them doubtful; the hands were kept as they were played",
    ]
    offers: tuple[Offer, ...] = (
        Offer("beats", "Beats and bars", tuple((value, _words(grid)) for value, grid in grids), grids[0][0]),
        Offer("bass", "The bass is", (("mine", "mine"), ("theirs", "a bass player's")), asks.get("bass", "mine")),
    )
    offers = tuple(replace(o, chosen=asks.get(o.id, o.chosen)) for o in offers)
    title = played.title or Path(name).stem
    return Opened(heard_song(heard, title), report=tuple(said), offers=offers)


def _unlike_grids(heard: Heard) -> list[tuple[str, Grid]]:
    """The grids to choose from, by a value of their own: beats a bar, tempo, and where the one is."""
    found = {f"{grid.size} {60 / grid.period:.0f} {grid.first}": grid for grid in reversed(heard.grids)}
    return list(reversed(found.items()))[:_OFFERED]


def _words(grid: Grid) -> str:
    upper, lower = grid.meter
    return f"{upper}/{lower} at {60 / grid.period:.0f}, the first one at {grid.beats[grid.first]:.1f} s"


def _empty() -> Bar:
    return Bar(bar_of([], Fraction(4), NO_CHORD)[0])


def _kept(heard: Heard, song: Song, late: Fraction) -> tuple[Keep, ...]:
    """The hands that were played, at their chords."""
    found = []
    for chord in heard.chords:
        bar = song.sections[0].bars[chord.bar - 1]
        at = chord.beat - 1 + (late if chord.bar == 1 else 0)
        slot = next((slot for n, slot in enumerate(bar.slots) if beat_of(bar, n) == at), None)
        if slot is not None and (chord.left or chord.right):
            found.append(Keep(slot.id, slot.symbol, chord.left[:5], chord.right[:5]))
    return tuple(found)


def _tunes(heard: Heard, key: Key, lengths: list[Fraction], sung: bool) -> list[tuple[Tone, ...]]:
    """The tune of every bar: a line that was played alone, the upper line where that is `sung`, else none."""
    line = tuple(note.tone for note in heard.notes) if heard.alone else top_line(heard) if sung else ()
    if not line or heard.grid is None:
        return [()] * len(lengths)
    return _tune(line, heard.grid, key, lengths)


def _tune(line: tuple[Struck, ...], grid: Grid, key: Key, lengths: list[Fraction]) -> list[tuple[Tone, ...]]:
    """A single line as the tune, bar by bar, each note up to the next one."""
    spans = _spans(line, grid, sum(lengths, Fraction(0)))
    found, begin = [], Fraction(0)
    for length in lengths:
        end = begin + length
        here = [(max(a, begin), min(b, end), midi, b > end) for a, b, midi in spans if a < end and b > begin]
        found.append(tuple(Tone(_name(midi, key), b - a, on and midi >= 0) for a, b, midi, on in here))
        begin = end
    return found


def _spans(line: tuple[Struck, ...], grid: Grid, total: Fraction) -> list[tuple[Fraction, Fraction, int]]:
    """(begin, end, MIDI number, -1 for a rest) of the notes of a line in beats."""
    places = np.arange(len(grid.beats))
    beats = np.interp([tone.on for tone in line], grid.beats, places)
    row = {max(Fraction(0), placed(float(b), grid.kind)): tone.midi for b, tone in zip(beats, line, strict=True)}
    row.setdefault(Fraction(0), -1)
    edges = [*sorted(start for start in row if start < total), total]
    return [(a, b, row[a]) for a, b in pairwise(edges)]


def _name(midi: int, key: Key) -> str:
    return str(pitch_of(midi, spell_in_key(midi, key))) if midi >= 0 else ""
