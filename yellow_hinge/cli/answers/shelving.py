"""`yellow-hinge shelf`: what stands on the shelf, and what of it fits at a place of a song."""

from __future__ import annotations

import argparse
from collections.abc import Iterator, Sequence
from typing import Any

from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.keeping.settings import user_places
from yellow_hinge.app.mine.folder import read_mine
from yellow_hinge.cli.parser import Verbs, does, told_by
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.own.lines import LineFit, OwnLine, line_fits
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.reharm.shelf import ShelfEntry, starter
from yellow_hinge.core.reharm.shelf_fits import fits
from yellow_hinge.core.song.places import read_chord_place
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.documents.report import note_names
from yellow_hinge.io.opening import read_song


def add_verbs(verbs: Verbs) -> None:
    """The verb with its options, among the others."""
    verb: argparse.ArgumentParser = verbs.add_parser(
        "shelf", help="hands for a few chords in a row, kept to be used again"
    )
    verb.add_argument("--fits", metavar="SONG", help="only what fits in this song")
    verb.add_argument("--at", metavar="PLACE", help="SECTION:BAR:BEAT where it has to begin")
    does(verb, told_by(run, told))


def _entry(entry: ShelfEntry) -> dict[str, Any]:
    rows = entry.rows
    return {
        "id": entry.id, "kind": "leadin" if entry.kind == "lead-in" else "hands", "name": entry.name,
        "from": rows[0].symbol, "to": rows[-1].symbol, "beats": entry.beats, "mine": entry.mine, "words": entry.words,
        "manner": entry.manner, "chords": list(entry.chords),
    }  # fmt: skip


def _line(line: OwnLine) -> dict[str, Any]:
    rows = line.rows
    return {
        "id": line.id, "kind": "line", "name": line.name, "from": rows[0].symbol, "to": rows[-1].symbol,
        "beats": float(line.quarters), "mine": True, "words": line.words, "manner": "", "chords": list(line.chords),
    }  # fmt: skip


def _played(fit: LineFit, part: Sequence[Voicing]) -> list[dict[str, Any]]:
    """The notes of a line where it fits."""
    return [
        {"midi": note.midi, "pitch": str(pitch_of(note.midi, part[note.at].chord.note_of(note.midi % 12))),
         "onset": float(note.onset), "degree": note.degree}
        for note in fit.line.notes
    ]  # fmt: skip


def _hands(every: Sequence[ShelfEntry], solution: Solution, index: int) -> Iterator[dict[str, Any]]:
    """The entries that fit from a chord on, with their hands there."""
    for found in fits(every, solution, index):
        part = solution.voicings[index : index + len(found.hands)]
        hands = [
            {"symbol": voicing.here.symbol, "left": list(both.left), "right": list(both.right),
             "left_notes": note_names(both.left, voicing.chord), "right_notes": note_names(both.right, voicing.chord)}
            for voicing, both in zip(part, found.hands, strict=True)
        ]  # fmt: skip
        yield _entry(found.entry) | {"hands": hands}


def _lines(every: Sequence[OwnLine], part: Sequence[Voicing]) -> Iterator[dict[str, Any]]:
    """The lines that fit from the first of some chords on, with their notes there."""
    tops = [voicing.left[-1] if voicing.left else 0 for voicing in part]
    for own in line_fits(every, [voicing.here for voicing in part], tops):
        if own.first == 0:
            yield _line(own.entry) | {"notes": _played(own, part)}


def run(args: argparse.Namespace) -> dict[str, Any]:
    """All entries, or those that fit, with their hands there. Raises UserError."""
    mine = read_mine(user_places().mine, ("shelf", "line"))
    every = (*mine.of("shelf"), *starter())
    if args.fits is None:
        if args.at is not None:
            raise UserError("--at names a place of a song: --fits SONG --at PLACE")
        entries = [*(_entry(entry) for entry in every), *map(_line, mine.of("line"))]
        return {"entries": entries, "wrong": list(map(str, mine.wrong))}
    if args.at is None:
        raise UserError("--fits needs a place: --at SECTION:BAR:BEAT")
    state = state_of(read_song(args.fits))
    solution = solve_song(Builder(), timeline(state.song), state.asked, state.standing)
    here = read_chord_place(args.at, state.song)
    index = next((n for n, voicing in enumerate(solution.voicings) if voicing.here.address == here), None)
    if index is None:
        raise UserError(f"nothing sounds at {args.at}")
    rows = [*_hands(every, solution, index), *_lines(mine.of("line"), solution.voicings[index:])]
    return {"entries": rows, "wrong": list(map(str, mine.wrong))}


def told(document: dict[str, Any]) -> list[str]:
    """It in lines, for people."""
    rows = []
    for entry in document["entries"]:
        whose = "mine" if entry["mine"] else entry["manner"]
        where = f"{entry['from']} to {entry['to']}, {entry['beats']:g} beats"
        rows.append(f"{entry['id']:<16} {whose:<16} {where}: {entry['words']}")
        if entry.get("notes"):
            rows.append(f"{'':<16} {' '.join(note['pitch'] for note in entry['notes'])}")
        for both in entry.get("hands", ()):
            left, right = (" ".join(both[f"{hand}_notes"]) or "rests" for hand in ("left", "right"))
            rows.append(f"{'':<16} {both['symbol']:<10} L {left:<18} R {right}")
    return [*rows, *(f"left out: {wrong}" for wrong in document["wrong"])]
