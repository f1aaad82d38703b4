"""`yellow-hinge keys`: a chord, a hinge or a stretch in all twelve keys."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from yellow_hinge.app.solving.twelve import in_twelve, keys_sheet
from yellow_hinge.cli.answers import sheets
from yellow_hinge.cli.answers.solving import asked_for
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.io.documents.report import voicing_fields
from yellow_hinge.io.export import export_pages


def add_verbs(verbs: Verbs) -> None:
    """The verb, among the others."""
    keys = verbs.add_parser("keys", help="a chord, a hinge or a stretch in all twelve keys")
    add_options(keys)
    sheets.add_sheet_options(keys)
    keys.add_argument("--at", required=True, metavar="PLACE", help="SECTION, SECTION:BAR or SECTION:BAR:BEAT")
    keys.add_argument("--to", metavar="PLACE", help="as far as this place")
    keys.add_argument("--out", metavar="FILE", help="write the page of twelve keys: .pdf, .svg or .png")
    keys.add_argument("--a-page", action="store_true", help="a page a key")
    keys.add_argument("--force", action="store_true", help="write even over a song or chart")
    does(keys, _keys)


def _keys(args: argparse.Namespace) -> None:
    _, state, _ = asked_for(args)
    found = in_twelve(Builder(), state, *sheets.chord_places(args.at, args.to, state.song))
    if args.out:
        pages = keys_sheet(found, sheets.sheet_from(args), args.a_page)
        written = export_pages(Path(args.out), state.song.title, pages, force=args.force)
        print(f"written: {', '.join(map(str, written))}", file=sys.stderr)
    rows: list[dict[str, Any]] = [
        {
            "key": str(one.key),
            "motion": one.solution.totals.motion,
            "other_hands": one.own,
            "why": one.why,
            "voicings": [voicing_fields(v, one.solution, one.state.song) for v in one.solution.voicings],
        }
        for one in found
    ]
    if args.json:
        return print_json({"keys": rows})
    for row in rows if not args.out else ():
        print(f"{row['key']}, {semitones(row['motion'])}{', other hands' * row['other_hands']}")
        for voicing in row["voicings"]:
            left, right = " ".join(voicing["left_notes"]) or "rests", " ".join(voicing["right_notes"]) or "rests"
            print(f"  {voicing['symbol']:<10} L {left:<18} R {right:<22}".rstrip())
