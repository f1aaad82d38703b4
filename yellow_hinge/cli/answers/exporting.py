"""`yellow-hinge export`: the solved song as a file."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from yellow_hinge.cli.answers import sheets
from yellow_hinge.cli.answers.solving import solved
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.export import WouldOverwriteError, export
from yellow_hinge.io.formats import WRITERS, Wants
from yellow_hinge.io.opening import DEMO
from yellow_hinge.io.songs.leaving import left_out


def add_verbs(verbs: Verbs) -> None:
    """The verb, among the others."""
    out = verbs.add_parser("export", help="write the solved song to a file")
    add_options(out)
    out.add_argument("--to", required=True, metavar="FILE", help=f"ending {' '.join(WRITERS)}")
    sheets.add_sheet_options(out)
    out.add_argument("--click", action="store_true", help="with a click, in MIDI and sound")
    out.add_argument("--force", action="store_true", help="write even over a song or chart")
    does(out, _export)


def _export(args: argparse.Namespace) -> None:
    asked = sheets.sheet_from(args)
    file, solution, _, _, takes, known = solved(args)
    wants = Wants(args.click, asked, take=", ".join(dict.fromkeys(takes)) if args.take else "")
    source = None if args.song == "-" or args.song.startswith(DEMO) else Path(args.song)
    try:
        written = export(Path(args.to), file, solution, source, args.force, wants)
    except WouldOverwriteError as error:
        raise UserError(f"{error}; use another name, or --force") from None
    without = left_out(file, WRITERS[Path(args.to).suffix.lower()].id, asked)
    for words in without:
        print(f"left out: {words}", file=sys.stderr)
    if args.json:
        files = [str(path) for path in written]
        fields = {"written": args.to, "files": files, "chords": len(solution.voicings), "left_out": list(without)}
        fields |= {"hands": "known" if known else "solved"}
        print_json(fields)
    else:
        print(f"written: {', '.join(map(str, written))}", file=sys.stderr)
