"""Writing a solved song to a file, the kind by its ending."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable
from pathlib import Path

import mido

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.song import NO_CHORD, Song
from yellow_hinge.io.files import FileFault, write_atomic
from yellow_hinge.io.report import plain_number, solution_fields, voicing_fields

TICKS = 480
_VELOCITY = {"left": 66, "right": 72, "tune": 84}


def json_bytes(song: Song, solution: Solution) -> bytes:
    """The document of the verb `voice`."""
    return json.dumps(solution_fields(song, solution, 0.0), indent=1, ensure_ascii=False).encode() + b"\n"


def csv_bytes(song: Song, solution: Solution) -> bytes:
    """One row a chord, with a header, lists joined by blanks; UTF-8."""
    stream = io.StringIO()
    rows = [voicing_fields(v, solution, song) for v in solution.voicings]
    names = ["slot", "section", "bar", "beat", "beats", "symbol", "number", "left_notes", "right_notes", "left_degrees",
             "right_degrees", "left", "right", "left_fingers", "right_fingers", "family", "cue",
             "warnings"]  # fmt: skip
    writer = csv.DictWriter(stream, names, extrasaction="ignore")
    writer.writeheader()
    for row in rows:
        joined = {k: "; ".join(v) if k == "warnings" else v for k, v in row.items()}
        writer.writerow({k: " ".join(map(str, v)) if isinstance(v, list) else v for k, v in joined.items()})
    return stream.getvalue().encode()


def txt_bytes(song: Song, solution: Solution) -> bytes:
    """The cheat sheet as plain text: chord, number, count, left hand, right hand, cue."""
    lines = [song.title, f"{pretty_signs(song.key)}, {song.meter}, {song.tempo} beats a minute", ""]
    spoken = {v.moment: voicing_fields(v, solution, song) for v in solution.voicings}
    section = -1
    for index, moment in enumerate(solution.moments):
        if moment.section != section:
            section = moment.section
            lines += ["", song.sections[section].name.upper()]
        fields = spoken.get(index)
        count = plain_number(moment.beats)
        if fields is None:
            lines.append(f"{moment.bar + 1:>3}  {NO_CHORD:<12}{'':<10}{count:>5}  {moment.cue}".rstrip())
            continue
        left = f"{' '.join(fields['left_notes'])} ({' '.join(fields['left_degrees'])})" if fields["left"] else "rests"
        right = (
            f"{' '.join(fields['right_notes'])} ({' '.join(fields['right_degrees'])})" if fields["right"] else "rests"
        )
        lines.append(
            f"{fields['bar']:>3}  {fields['symbol']:<12}{fields['number']:<10}{count:>5}  "
            f"L {left:<30} R {right:<40} {moment.cue}".rstrip()
        )
    return ("\n".join(lines) + "\n").encode()


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


WRITERS: dict[str, Callable[[Song, Solution], bytes]] = {
    ".json": json_bytes,
    ".csv": csv_bytes,
    ".txt": txt_bytes,
    ".mid": midi_bytes,
}


def export(path: Path, song: Song, solution: Solution) -> None:
    """Write the solved song to `path`, by its ending. Raises FileFault."""
    writer = WRITERS.get(path.suffix.lower())
    if writer is None:
        raise FileFault(str(path), f"the ending {path.suffix!r} is not known; use one of {', '.join(WRITERS)}")
    write_atomic(path, writer(song, solution))
