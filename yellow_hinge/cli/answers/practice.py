"""The verbs of practice: rounds through the keys, and the log."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.keeping.settings import user_places
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.runs import as_fields, log_csv
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.cli.answers.sheets import chord_places
from yellow_hinge.cli.answers.solving import asked_for
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.practice.rounds import STEPS
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.documents.report import note_names
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import song_file


def add_verbs(verbs: Verbs) -> None:
    """The verbs with their words."""
    drill = verbs.add_parser("drill", help="a song's stretch, or some chords, round all twelve keys")
    add_options(drill)
    drill.add_argument("symbols", nargs="*", metavar="SYMBOL", help="more chords, where SONG is a chord symbol too")
    drill.add_argument("--round", choices=tuple(STEPS), default="fourths", help="how the keys follow each other")
    drill.add_argument("--down", action="store_true", help="downwards")
    drill.add_argument(
        "--at", metavar="PLACE", help="SECTION, SECTION:BAR or SECTION:BAR:BEAT; all of the song without it"
    )
    drill.add_argument("--to", metavar="PLACE", help="as far as this place")
    log = verbs.add_parser("log", help="the practice log")
    log.add_argument("--csv", action="store_true", help="print a table")
    does(drill, _drill)
    does(log, _log)


def symbols_file(args: argparse.Namespace) -> SongFile | None:
    """Chord symbols in the place of a song, a bar each; None where it is one. Raises UserError for no chord."""
    if args.song == "-" or args.song.startswith("demo:") or Path(args.song).exists():
        return None
    try:
        parse_symbol(args.song, parse_key(args.key) if args.key else None)
    except UserError:
        if not args.symbols:
            return None  # a file that is not there is told as one
    key = f"key: {args.key}\n" if args.key else ""
    return song_file(parse_chart(f"{key}| " + " | ".join((args.song, *args.symbols)) + " |"))


def _drill(args: argparse.Namespace) -> None:
    _, state, _ = asked_for(args, symbols_file(args))
    (print_json if args.json else print_drill)(drill_fields(args, state))


def drill_fields(args: argparse.Namespace, state: State) -> dict[str, Any]:
    """The steps of a round: every chord in every key with both hands."""
    first, last = _stretch(args, state.song)
    steps = []
    for one in in_twelve(Builder(), state, first, last, args.round, args.down):
        for voicing in one.solution.voicings:
            fingers = voicing.fingers
            steps.append(
                {
                    "key": str(one.key),
                    "symbol": write_symbol(voicing.chord),
                    "left_notes": note_names(voicing.left, voicing.chord),
                    "right_notes": note_names(voicing.right, voicing.chord),
                    "left_fingers": list(fingers.of("left")),
                    "right_fingers": list(fingers.of("right")),
                }
            )
    return {"round": args.round, "steps": steps}


def _stretch(args: argparse.Namespace, song: Song) -> tuple[Address, Address]:
    if args.at is not None:
        return chord_places(args.at, args.to, song)
    places = [
        (s, b, i)
        for s, section in enumerate(song.sections)
        for b, bar in enumerate(section.bars)
        for i in range(len(bar.slots))
    ]
    if not places:
        raise UserError("the song has no bars")
    return places[0], places[-1]


def print_drill(fields: dict[str, Any]) -> None:
    """The steps as lines."""
    key = ""
    for step in fields["steps"]:
        if step["key"] != key:
            key = step["key"]
            print(key)
        left, right = " ".join(step["left_notes"]) or "rests", " ".join(step["right_notes"]) or "rests"
        print(f"  {step['symbol']:<10} L {left:<18} R {right:<22}".rstrip())


def log_document(args: argparse.Namespace) -> dict[str, Any] | None:
    """The log for JSON; None where it was printed."""
    log = PracticeLog(user_places().state)
    runs = log.runs()
    log.close()
    if args.json:
        return {"runs": [as_fields(run) for run in runs]}
    if args.csv:
        print(log_csv(runs), end="")
        return None
    if not runs:
        print("nothing was practised yet")
    for run in runs:
        marks = f"{run.errors} wrong" if run.errors else "right"
        made_up = "  (made up)" if run.sample else ""
        print(f"{run.at:%Y-%m-%d %H:%M}  {run.title}  {run.words}  {run.hands}  {run.seconds:.1f} s  {marks}{made_up}")
    return None


def _log(args: argparse.Namespace) -> None:
    found = log_document(args)
    if found is not None:
        print_json(found)
