"""Writing MIDI files."""

from __future__ import annotations

import io

import mido

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.song import Song

TICKS = 480
_VELOCITY = {"left": 66, "right": 72, "tune": 84}


def midi_bytes(song: Song, solution: Solution) -> bytes:
    """A type-1 MIDI file: tempo and meter, the left hand, the right hand, and the tune where there is one."""
    quarter = float(song.meter.beat_quarters)
    head = mido.MidiTrack()
    head.append(mido.MetaMessage("track_name", name=song.title.encode("latin-1", "replace").decode("latin-1")))
    head.append(mido.MetaMessage("time_signature", numerator=song.meter.upper, denominator=song.meter.lower))
    head.append(mido.MetaMessage("set_tempo", tempo=round(60_000_000 / (song.tempo * quarter))))
    spans: dict[str, list[tuple[float, float, int]]] = {"left": [], "right": [], "tune": []}
    for voicing in solution.voicings:
        moment = solution.moments[voicing.moment]
        for hand, notes in (("left", voicing.left), ("right", voicing.right)):
            spans[hand] += [(float(moment.start), float(moment.beats), note) for note in notes]
    for moment in solution.moments:
        for tone in moment.tune:
            spans["tune"].append((float(moment.start + tone.onset), float(tone.beats), tone.pitch.midi))
    file = mido.MidiFile(type=1, ticks_per_beat=TICKS)
    file.tracks.append(head)
    for channel, (name, span) in enumerate(spans.items()):
        if span:
            file.tracks.append(_track(name, channel, span, quarter))
    stream = io.BytesIO()
    file.save(file=stream)
    return stream.getvalue()


def _track(name: str, channel: int, notes: list[tuple[float, float, int]], quarter: float) -> mido.MidiTrack:
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=name))
    events = []
    for start, beats, note in notes:
        on, off = round(start * quarter * TICKS), round((start + beats) * quarter * TICKS)
        events += [(on, 1, note), (max(off, on + 1), 0, note)]
    at = 0
    for tick, sounding, note in sorted(events):
        kind = "note_on" if sounding else "note_off"
        velocity = _VELOCITY[name] if sounding else 0
        track.append(mido.Message(kind, channel=channel, note=note, velocity=velocity, time=tick - at))
        at = tick
    return track
