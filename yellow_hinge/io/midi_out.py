"""Writing MIDI files."""

from __future__ import annotations

import contextlib
import io

import mido

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.song import Song
from yellow_hinge.io.files import MADE_BY

TICKS = 480
_VELOCITY = {"left": 66, "right": 72, "tune": 84}


def midi_bytes(song: Song, solution: Solution) -> bytes:
    """A type-1 MIDI file: tempo and meter, the left hand, the right hand, and the tune where there is one."""
    spans: dict[str, list[tuple[float, float, int]]] = {"left": [], "right": [], "tune": []}
    for voicing in solution.voicings:
        moment = solution.moments[voicing.moment]
        for hand, notes in (("left", voicing.left), ("right", voicing.right)):
            spans[hand] += [(float(moment.quarter), float(moment.quarters), note) for note in notes]
    for moment in solution.moments:
        unit = moment.meter.beat_quarters
        for tone in moment.tune:
            if tone.begins:
                start, length = moment.quarter + tone.onset * unit, tone.whole * unit
                spans["tune"].append((float(start), float(length), tone.pitch.midi))
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS)
    file.tracks.append(_head(song, solution))
    for channel, (name, span) in enumerate(spans.items()):
        if span:
            file.tracks.append(_track(name, channel, span))
    stream = io.BytesIO()
    file.save(file=stream)
    return stream.getvalue()


def _head(song: Song, solution: Solution) -> mido.MidiTrack:
    """Name, and meter and tempo wherever they change; a beat lasts the same in every meter."""
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=song.title.encode("latin-1", "replace").decode("latin-1")))
    track.append(mido.MetaMessage("text", text=MADE_BY))
    key = song.the_key
    if key.mode in ("major", "minor"):
        name = f"{key.tonic}{'m' if key.is_minor else ''}"
        with contextlib.suppress(ValueError):  # a key with double signs has no signature
            track.append(mido.MetaMessage("key_signature", key=name))
    before, at = None, 0
    for moment in solution.moments:
        if moment.meter == before:
            continue
        before, tick = moment.meter, round(moment.quarter * TICKS)
        upper, lower, quarter = before.upper, before.lower, float(before.beat_quarters)
        track.append(mido.MetaMessage("time_signature", numerator=upper, denominator=lower, time=tick - at))
        track.append(mido.MetaMessage("set_tempo", tempo=round(60_000_000 / (song.tempo * quarter)), time=0))
        at = tick
    return track


def _track(name: str, channel: int, notes: list[tuple[float, float, int]]) -> mido.MidiTrack:
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=name))
    events = []
    for start, quarters, note in notes:
        on, off = round(start * TICKS), round((start + quarters) * TICKS)
        events += [(on, 1, note), (max(off, on + 1), 0, note)]
    at = 0
    for tick, sounding, note in sorted(events):
        kind = "note_on" if sounding else "note_off"
        velocity = _VELOCITY[name] if sounding else 0
        track.append(mido.Message(kind, channel=channel, note=note, velocity=velocity, time=tick - at))
        at = tick
    return track
