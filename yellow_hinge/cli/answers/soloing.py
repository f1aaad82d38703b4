"""`yellow-hinge solo`: scales, landing notes and lines over a song or a part of it."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from yellow_hinge.app.edits.state import changed, file_of, state_of
from yellow_hinge.cli.answers.solving import solved
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, told_by
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.grid import STEPS
from yellow_hinge.core.lines.lines import Line, lines_over, over
from yellow_hinge.core.lines.onsets import BOLDEST, Asked, Over
from yellow_hinge.core.lines.rails import RAILS
from yellow_hinge.core.lines.text import written
from yellow_hinge.core.lines.tune import as_tune
from yellow_hinge.core.own.lines import OWN_LINES, LineFit, line_fits
from yellow_hinge.core.pitch.pitch import degree_pc, parse_pitch, pitch_of
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE, nearest
from yellow_hinge.core.song.places import read_place
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment, timeline
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.export import WouldOverwriteError, export

ENDINGS = (".mid", ".musicxml")
LINES_SHOWN = 3


def add_verbs(verbs: Verbs) -> None:
    """The verb with its options, among the others."""
    verb: argparse.ArgumentParser = verbs.add_parser("solo", help="what the right hand can play over it, with reasons")
    add_options(verb)
    verb.add_argument("--at", metavar="PLACE", help="SECTION, SECTION:BAR or SECTION:BAR:BEAT; all of it without")
    verb.add_argument("--rail", choices=RAILS, default=RAILS[0], help="which notes are landed on")
    verb.add_argument("--density", choices=tuple(STEPS), default="eighths")
    verb.add_argument("--bold", type=int, choices=range(BOLDEST + 1), default=0)
    verb.add_argument("--low", metavar="NOTE", default="G4", help="the lowest note of the line, from G4 on")
    verb.add_argument("--high", metavar="NOTE", default="C6", help="the highest, an octave over it at least, up to C6")
    verb.add_argument("--to", metavar="FILE", help="write the song with the best line as its tune: .mid or .musicxml")
    verb.add_argument("--force", action="store_true", help="write even over a song or chart")
    does(verb, told_by(run, told))


def run(args: argparse.Namespace) -> dict[str, Any]:
    """What there is to play, and the lines; writes the song with the best one where that is asked. Raises UserError."""
    if args.to and Path(args.to).suffix.lower() not in ENDINGS:
        raise UserError(f"a line is written as {' or '.join(ENDINGS)}, not {Path(args.to).suffix!r}")
    file, solution, *_ = solved(args)
    part = _part(solution.voicings, file.song, args.at)
    moments = [voicing.here for voicing in part]
    tops = [voicing.left[-1] if voicing.left else 0 for voicing in part]
    within = (parse_pitch(args.low).midi, parse_pitch(args.high).midi)
    asked = Asked(args.rail, args.density, args.bold, (), within)
    chords = over(moments, args.rail, tops, within)
    found = lines_over(chords, tops, asked, LINES_SHOWN)
    if args.to and found:
        state = changed(state_of(file), as_tune(file.song, found[0], moments))
        played = solve_song(Builder(), timeline(state.song), state.asked, state.standing)
        try:
            export(Path(args.to), file_of(state), played, None, args.force)
        except WouldOverwriteError as error:
            raise UserError(f"{error}; use another name, or --force") from None
    mine = [_mine(fit, moments) for fit in line_fits(OWN_LINES.values(), moments, tops)]
    return {
        "chords": [_chord(each) for each in chords],
        "lines": [_line(line, moments) for line in found],
        "mine": mine,
    }


def _mine(fit: LineFit, moments: Sequence[Moment]) -> dict[str, Any]:
    """A line of the player's own, where it fits."""
    notes = tuple(note._replace(at=note.at - fit.first) for note in fit.line.notes)
    own = _line(Line(notes, 0.0), moments[fit.first : fit.last + 1])
    return {"id": fit.entry.id, "name": fit.entry.name, "chord": moments[fit.first].slot_id, **own}


def _part(voicings: Sequence[Voicing], song: Song, at: str | None) -> list[Voicing]:
    """The chords of a place the first time that it is played; all of them without one. Raises UserError."""
    if at is None:
        return list(voicings)
    spot = read_place(at, song)
    found = [
        voicing
        for voicing in voicings
        if (voicing.here.section == spot.section if spot.bar is None else voicing.here.origin == spot.section)
        and spot.bar in (None, voicing.here.bar)
        and spot.slot in (None, voicing.here.slot)
    ]
    first = found[0].here if found else None
    found = [v for v in found if first and (v.here.section, v.here.turn) == (first.section, first.turn)]
    if not found:
        raise UserError(f"nothing sounds at {at}")
    return found


def _spelled(chord: Chord, midi: int) -> str:
    return str(pitch_of(midi, chord.note_of(midi % 12)))


def _chord(each: Over) -> dict[str, Any]:
    chord = each.moment.chord
    assert chord is not None
    scales = [
        {
            "name": scale.name, "notes": [str(note) for note in scale.notes], "why": scale.why,
            "pass": [str(note) for note in scale.passing],
        }
        for scale in each.scales
    ]  # fmt: skip
    midis = [nearest((chord.root.pc + degree_pc(degree)) % 12, each.landed.midi) for degree in each.land_on]
    land = [
        {"note": str(chord.note_of(midi % 12)), "degree": degree, "midi": midi}
        for degree, midi in zip(each.land_on, midis, strict=True)
    ]
    land.sort(key=lambda one: one["midi"] != each.landed.midi)  # the rail's own first
    return {"id": each.moment.slot_id, "symbol": write_symbol(chord), "scales": scales, "land_on": land}


def _line(line: Line, moments: Sequence[Moment]) -> dict[str, Any]:
    notes = []
    for note in line.notes:
        chord = moments[note.at].chord
        assert chord is not None
        beats = note.quarters / moments[note.at].meter.beat_quarters
        notes.append({
            "midi": note.midi, "pitch": _spelled(chord, note.midi), "onset": float(note.onset), "beats": float(beats),
            "degree": note.degree, "why": note.why,
        })  # fmt: skip
    return {"cost": line.cost, "degrees": written(line, moments, MIDDLE), "notes": notes}


def told(document: dict[str, Any]) -> list[str]:
    """It in lines, for people."""
    rows = []
    for chord in document["chords"]:
        scale, land = chord["scales"][0], " ".join(f"{one['note']} ({one['degree']})" for one in chord["land_on"][:3])
        rows.append(f"{chord['symbol']:<10} {scale['name']}: {' '.join(scale['notes'])}; {scale['why']}")
        passing = f"; only passing: {' '.join(scale['pass'])}" if scale["pass"] else ""
        rows.append(f"{'':<10} land on {land}{passing}")
    for line in document.get("mine", ()):
        rows.append(f"mine, {line['name']}: {line['degrees']}")
    for number, line in enumerate(document["lines"], 1):
        rows.append(f"line {number}, {line['cost']:g}: {line['degrees']}")
    return rows
