"""Reading MIDI files: a melody track, and block chords that are named."""

from __future__ import annotations

import heapq
import io
from collections import Counter
from fractions import Fraction
from itertools import groupby, pairwise
from typing import NamedTuple

import mido

from yellow_hinge.core.pitch.key import Key, parse_key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Song, Tone
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.core.symbols.naming import name_notes
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import Imported, Onset, bar_of, meter_or_none, with_same

MAX_NOTES = 60_000
MAX_BARS = 2000
_GRID = 12  # parts of a beat that times are rounded to: halves, thirds and quarters of a beat come out exactly
_DRUMS = 9


class _Note(NamedTuple):
    """A note in beats of the file's meter, rounded to the grid."""

    start: Fraction
    end: Fraction
    midi: int


class _Track(NamedTuple):
    name: str
    notes: list[_Note]


class _Head(NamedTuple):
    meter: Meter
    tempo: int
    key: Key | None
    report: list[str]


def _read_head(file: mido.MidiFile) -> _Head:
    report: list[str] = []
    meters, tempi, keys = [], [], []
    for track in file.tracks:
        for message in track:
            if message.type == "time_signature":
                meters.append((message.numerator, message.denominator))
            elif message.type == "set_tempo":
                tempi.append(message.tempo)
            elif message.type == "key_signature":
                keys.append(message.key)
    meter = meter_or_none(*meters[0]) if meters else None
    if len(set(meters)) > 1:
        report.append("the meter changes; the whole song was set out in the first one")
    if len(set(tempi)) > 1:
        report.append("the tempo changes; only the first one was used")
    meter = meter or Meter()
    quarter = tempi[0] / 1_000_000 if tempi else 60 / 90
    tempo = round(60 / (quarter * float(meter.beat_quarters)))
    return _Head(meter, min(TEMPOS[1], max(TEMPOS[0], tempo)), parse_key(keys[0]) if keys else None, report)


def _read_tracks(file: mido.MidiFile, head: _Head) -> list[_Track]:
    unit = file.ticks_per_beat * head.meter.beat_quarters
    found = []
    for track in file.tracks:
        at, held, notes = 0, dict[tuple[int, int], int](), list[_Note]()
        for message in track:
            at += message.time
            if message.type not in ("note_on", "note_off") or message.channel == _DRUMS:
                continue
            place = (message.channel, message.note)
            if place in held:
                start, end = (Fraction(round(t / unit * _GRID), _GRID) for t in (held.pop(place), at))
                notes.append(_Note(start, max(end, start + Fraction(1, _GRID)), message.note))
            if message.type == "note_on" and message.velocity > 0:
                held[place] = at
            if len(notes) > MAX_NOTES:
                raise FileFault(track.name or "MIDI", f"holds more than {MAX_NOTES} notes; this is no song")
        if notes:
            found.append(_Track(track.name, sorted(notes)))
    return found


def _overlaps(notes: list[_Note]) -> int:
    return sum(a.end > b.start for a, b in pairwise(notes))


def _melody(tracks: list[_Track]) -> _Track | None:
    """The track named as a melody, else the highest that plays one note at a time beside a track of chords."""
    for track in tracks:
        if any(word in track.name.lower() for word in ("tune", "melody", "vocal", "voice", "lead")):
            return track
    lines = [track for track in tracks if _overlaps(track.notes) <= len(track.notes) * 0.05]
    if not lines:
        return None
    highest = max(lines, key=lambda track: _middle([track]))
    others = [track for track in tracks if track is not highest]
    return highest if not others or _middle([highest]) > _middle(others) else None


def _middle(tracks: list[_Track]) -> float:
    """Mean pitch of some tracks."""
    midis = [note.midi for track in tracks for note in track.notes]
    return sum(midis) / len(midis)


def _blocks(notes: list[_Note]) -> list[tuple[Fraction, tuple[int, ...]]]:
    """(time, MIDI numbers) wherever notes are struck and at least three pitch classes sound."""
    found: list[tuple[Fraction, tuple[int, ...]]] = []
    ends: list[tuple[Fraction, int]] = []  # of what sounds, the first to end on top
    sounding: Counter[int] = Counter()
    for start, struck in groupby(sorted(notes), lambda note: note.start):
        while ends and ends[0][0] <= start:
            sounding[heapq.heappop(ends)[1]] -= 1
        for note in struck:
            heapq.heappush(ends, (note.end, note.midi))
            sounding[note.midi] += 1
        midis = tuple(sorted(midi for midi, count in sounding.items() if count))
        if len({midi % 12 for midi in midis}) >= 3:
            found.append((start, midis))
    return found


def _named(blocks: list[tuple[Fraction, tuple[int, ...]]], key: Key | None) -> list[tuple[Fraction, str]]:
    found: list[tuple[Fraction, str]] = []
    for at, midis in blocks:
        readings = name_notes(midis[:12], None, key, 1)
        symbol = readings[0].symbol if readings else NO_CHORD
        if not found or found[-1][1] != symbol:
            found.append((at, symbol))
    return found


def _tune_bars(track: _Track | None, beats: Fraction, count: int, key: Key) -> list[tuple[Tone, ...]]:
    """The melody bar by bar with rests; of notes that overlap the later one wins, and bar lines are tied over."""
    bars: list[list[Tone]] = [[] for _ in range(count)]
    if track is None:
        return [() for _ in range(count)]
    notes = [n for i, n in enumerate(track.notes) if i + 1 == len(track.notes) or track.notes[i + 1].start > n.start]
    at = Fraction(0)

    def put(pitch: str, end: Fraction) -> None:
        nonlocal at
        while at < end and int(at // beats) < count:
            index = int(at // beats)
            stop = min(end, (index + 1) * beats)
            bars[index].append(Tone(pitch, stop - at, bool(pitch) and stop < end))
            at = stop

    for i, note in enumerate(notes):
        last = min(note.end, notes[i + 1].start) if i + 1 < len(notes) else note.end
        put("", note.start)
        put(str(pitch_of(note.midi, spell_in_key(note.midi, key))), last)
    put("", beats * count)
    return [tuple(bar) if any(tone.pitch for tone in bar) else () for bar in bars]


def read_midi(data: bytes, name: str) -> Imported:
    """Read a MIDI file: chords where three or more notes sound together, and one melody. Raises FileFault."""
    file = _opened(data, name)
    head = _read_head(file)
    tracks = _read_tracks(file, head)
    if not tracks:
        raise FileFault(name, "holds no notes")
    melody = _melody(tracks)
    blocks = _blocks([note for track in tracks if track is not melody for note in track.notes])
    key, report = _key_of(head, blocks)
    changes = _named(blocks, key)
    bars = _bars_of(changes, head, tracks, melody, key, name)
    report.append(f"{len(changes)} chords were named from the notes that sound together; look them over")
    report += [f"the track {t.name or 'without a name'!r} is the tune" for t in tracks if t is melody]
    title = file.tracks[0].name.strip()[:200] or "Untitled"
    song = Song(title, str(key), head.meter, head.tempo, (Section("Song", with_same(bars)),))
    return Imported(song, (*head.report, *report))


def _opened(data: bytes, name: str) -> mido.MidiFile:
    """The file in ticks of beats. Raises FileFault."""
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    except MemoryError:
        raise
    except Exception as error:  # the library raises whatever comes to it
        raise FileFault(name, f"is a damaged MIDI file ({error or type(error).__name__})") from None
    if file.ticks_per_beat <= 0:
        raise FileFault(name, "is a MIDI file in frames of film, without beats; it cannot be set out in bars")
    return file


def _key_of(head: _Head, blocks: list[tuple[Fraction, tuple[int, ...]]]) -> tuple[Key, list[str]]:
    """The key that is written, or that the chords are in, which is said."""
    if head.key is not None:
        return head.key, []
    guess = find_key([(parse_symbol(symbol), 1.0) for _, symbol in _named(blocks, None) if symbol != NO_CHORD])
    if guess is None:
        return parse_key("C"), ["no key could be found; C major stands"]
    return guess.key, [f"no key is written; it was found to be {guess.key}"]


def _bars_of(
    changes: list[tuple[Fraction, str]], head: _Head, tracks: list[_Track], melody: _Track | None, key: Key, name: str
) -> list[Bar]:
    """The chords and the tune in bars. Raises FileFault where there are too many."""
    beats = Fraction(head.meter.beats)
    length = max(note.end for track in tracks for note in track.notes)
    count = max(1, -(-length // beats))
    if count > MAX_BARS:
        raise FileFault(name, f"plays more than {MAX_BARS} bars; this is no song")
    tunes = _tune_bars(melody, beats, int(count), key)
    bars, before = [], NO_CHORD
    for index in range(int(count)):
        here = [Onset(at - index * beats, s) for at, s in changes if index * beats <= at < (index + 1) * beats]
        slots, before = bar_of(here, beats, before)
        bars.append(Bar(slots, tunes[index]))
    return bars
