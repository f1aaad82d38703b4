"""`yellow-hinge swaps`: other chords for one chord, judged by the melody."""

from __future__ import annotations

import argparse
from typing import Any

from yellow_hinge.cli.answers.solving import solved
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.reharm.ranking import firsts
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.reharm.words import UNTESTED
from yellow_hinge.core.song.places import read_chord_place
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.documents.reharmonised import swap_fields


def add_verbs(verbs: Verbs) -> None:
    """The verb, among the others."""
    swap = verbs.add_parser("swaps", help="other chords for one chord, judged by the melody")
    add_options(swap)
    swap.add_argument("--at", required=True, metavar="SECTION:BAR:BEAT", help="which chord, counted from 1")
    does(swap, _swaps)


def _swaps(args: argparse.Namespace) -> None:
    file, solution, *_ = solved(args)
    at = read_chord_place(args.at, file.song)
    index = next((i for i, v in enumerate(solution.voicings) if v.here.address == at), None)
    if index is None:
        raise UserError(f"nothing sounds at {args.at}")
    moment, name = solution.voicings[index].here, write_symbol(solution.voicings[index].chord)
    offered = swaps(Builder(), solution, index)
    first = list(firsts(offered))
    found = [swap_fields(swap, moment.key) | {"more": all(swap is not one for one in first)} for swap in offered]
    if args.json:  # what takes the place of this chord alone, and what goes on through the next ones
        of_one, through = ([fields for fields in found if (fields["span"] == 1) == one] for one in (True, False))
        head = {"at": args.at, "chord": name, "tested": bool(moment.tune)}
        return print_json(head | {"swaps": of_one, "through": through})
    print(f"{name} at {args.at}" + ("" if moment.tune else f"; {UNTESTED}"))
    for fields in found:
        _print_swap(fields)


def _print_swap(fields: dict[str, Any]) -> None:
    chords = "  ".join(f"{chord['symbol']} ({chord['beats']:g})" for chord in fields["chords"])
    motion = f"{fields['motion_before']} -> {semitones(fields['motion_after'])}"
    print(f"{fields['name']:<26} {chords:<38} {motion}. {fields['words']}")
