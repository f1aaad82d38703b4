"""The options by which the command line asks for hands."""

from __future__ import annotations

import argparse

from yellow_hinge.core.leading.asking.wishes import OF_PARTS, WISHES
from yellow_hinge.core.reharm.boldness import BOLDNESS, PROTECTED

ASKED = {kind.name: kind for kind in OF_PARTS if kind.name != "manner"}  # a song has one manner
OPTIONS = tuple(kind for kind in WISHES.values() if kind.option)
_LEVELS = ", ".join(f"{level} {words}" for level, words in enumerate(BOLDNESS))
KEEP_FORM = '"PLACE L D3 G3 Bb3 R D4 F4 A4", or only one hand of it'
WISH_FORM = (
    f"write SECTION[:BAR[:BEAT]] and any of {' '.join(f'{kind.name}={kind.form}' for kind in ASKED.values())} "
    "pattern=ID left-pattern=ID right-pattern=ID"
)


def add_options(parser: argparse.ArgumentParser) -> None:
    """The options of `voice` and `export`."""
    parser.add_argument("song", help="a file, - for chart text on standard input, or demo:NAME")
    parser.add_argument("--take", metavar="NAME", help="a take of the song by its name, or mix")
    parser.add_argument("--left-reach", type=int, help="white keys the left hand spans (9 is a ninth)")
    parser.add_argument("--right-reach", type=int, help="white keys the right hand spans")
    parser.add_argument("--left-notes", type=int, help="most notes of the left hand")
    parser.add_argument("--right-notes", type=int, help="most notes of the right hand")
    parser.add_argument("--keys", type=int, help="keys of the keyboard")
    parser.add_argument("--roll", action="store_true", default=None, help="the left hand may roll tenths")
    for kind in OPTIONS:
        if isinstance(kind.first, bool):
            parser.add_argument(f"--{kind.name}", action="store_true", default=None, help=kind.option)
        else:
            parser.add_argument(f"--{kind.name}", metavar=kind.form.replace("+", ","), help=kind.option)
    parser.add_argument(
        "--pattern", help="pattern of playing, see `patterns`; the header's or the manner's if left out"
    )
    parser.add_argument(
        "--wants", choices=("on", "off"), help="whether patterns open the hands they need; on where --pattern is given"
    )
    parser.add_argument(
        "--ahead", choices=("on", "off"), help="whether chords come half a beat early, in the song's usual or a pattern"
    )
    parser.add_argument(
        "--swing", help="straight, light, swung or 50 to 75 percent; the song's or the usual if left out"
    )
    parser.add_argument("--singer", metavar="LOW:HIGH", help="register that the right hand leaves free, such as G3:D5")
    parser.add_argument("--wish", action="append", metavar="WISH", help=f"for one section, bar or chord: {WISH_FORM}")
    parser.add_argument(
        "--hold", action="append", metavar="HOLD", help='a top note from one chord to another: "C5 Verse:1:1 Verse:4:1"'
    )
    parser.add_argument("--keep", action="append", metavar="KEEP", help=f"hands to keep at a chord: {KEEP_FORM}")
    parser.add_argument("--boldness", type=int, help=f"reharmonise the song first: {_LEVELS}")
    parser.add_argument(
        "--protect", help=f"what stays as it is then: {', '.join(PROTECTED)} (both by default), or none"
    )
    parser.add_argument("--key", help="play the song in this key")
    parser.add_argument("--explain", action="store_true", help="say why, what is hard, and what else there is")
