"""Sheets on the command line: what they are like."""

from __future__ import annotations

import argparse

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.sheet.asks import HANDS_AS, KINDS, PAPERS, SHOWN, SIZES, USUAL_SHOWN, SheetAsk, read_shown
from yellow_hinge.core.song.places import Spot, read_place
from yellow_hinge.core.song.repeats import origins
from yellow_hinge.core.song.song import Address, Song


def add_sheet_options(parser: argparse.ArgumentParser) -> None:
    """The choices of a sheet."""
    parser.add_argument("--sheet", default="cheat", metavar="KIND", help=f"a sheet's kind: {', '.join(KINDS)}")
    parser.add_argument("--size", default="m", metavar="SIZE", help=f"its size: {', '.join(SIZES)}")
    parser.add_argument("--paper", default="a4", metavar="PAPER", help=f"its paper: {', '.join(PAPERS)}")
    parser.add_argument("--landscape", action="store_true", help="the page lies on its long side")
    parser.add_argument("--columns", type=int, default=0, metavar="N", help="bars of a row (0: as many as fit)")
    parser.add_argument("--in-key", metavar="KEY", help="write it in that key, with hands chosen for it")
    parser.add_argument("--sounds-in", metavar="KEY", help="say how a keyboard is transposed to sound in that key")
    parser.add_argument(
        "--as", dest="hands", default="struck", metavar="HOW", help=f"staves and scores: {', '.join(HANDS_AS)}"
    )
    parser.add_argument("--show", metavar="PARTS", help=f"what it shows, of {','.join(SHOWN)}")


def chord_places(at: str, to: str | None, song: Song) -> tuple[Address, Address]:
    """The first and the last chord of a place, or from one place to another. Raises UserError."""
    first, last = _ends(read_place(at, song), song)
    if to is not None:
        ends = _ends(read_place(to, song), song)
        first, last = min(first, ends[0]), max(last, ends[1])
    return first, last


def _ends(spot: Spot, song: Song) -> tuple[Address, Address]:
    section = origins(song)[spot.section]
    bars = song.sections[section].bars
    if not bars:
        raise UserError("this section has no bars")
    first, last = (0, len(bars) - 1) if spot.bar is None else (spot.bar, spot.bar)
    slots = len(bars[last].slots)
    if spot.slot is not None:
        return (section, first, spot.slot), (section, first, spot.slot)
    return (section, first, 0), (section, last, slots - 1)


def sheet_from(args: argparse.Namespace) -> SheetAsk:
    """The choices that were given. Raises UserError."""
    show = USUAL_SHOWN if args.show is None else read_shown(args.show)
    return SheetAsk(
        args.sheet, args.size, args.columns, args.paper, args.landscape, show, args.in_key or "",
        args.take == "mix", args.hands,
    )  # fmt: skip
