"""The verbs that open no window."""

from __future__ import annotations

import argparse
import json
import sys
import time
from pathlib import Path
from typing import Any, NamedTuple

from yellow_hinge import __version__
from yellow_hinge.app.state import State, changed, in_key
from yellow_hinge.cli import lists
from yellow_hinge.cli.wishes import add_options, keeps_from, protected_from, setup_from
from yellow_hinge.core.errors import NoteNameError, UserError
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.naming import name_notes
from yellow_hinge.core.pitch import parse_note, parse_pitch
from yellow_hinge.core.places import read_chord_place
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.reharm.whole import Bolder, bolder
from yellow_hinge.core.reharm.words import UNTESTED
from yellow_hinge.core.song import NOT_YET
from yellow_hinge.core.symbol import parse_symbol
from yellow_hinge.core.timeline import timeline
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.demo import demo_names, demo_song
from yellow_hinge.io.explaining import explained, explained_text
from yellow_hinge.io.export import WouldOverwriteError, export
from yellow_hinge.io.formats import WRITERS
from yellow_hinge.io.opening import DEMO, read_song
from yellow_hinge.io.report import bolder_fields, chord_fields, reading_fields, solution_fields, swap_fields
from yellow_hinge.io.song_json import SongFile


class Parser(argparse.ArgumentParser):
    """Usage faults are faults of the input like any other: exit 2, one message, no traceback."""

    def error(self, message: str) -> Any:
        raise UserError(f"{message}; try {self.prog} --help")


def _parser() -> argparse.ArgumentParser:
    parser = Parser(prog="yellow-hinge", description="Two-hand voicings that move as little as possible.")
    parser.add_argument("--version", action="version", version=__version__)
    verbs = parser.add_subparsers(dest="verb", required=True, parser_class=Parser)
    verbs.add_parser("window", help="open the window (also: no verb at all)")
    chord = verbs.add_parser("chord", help="read chord symbols")
    chord.add_argument("symbols", nargs="+", metavar="SYMBOL")
    chord.add_argument("--key")
    name = verbs.add_parser("name", help="say what chord some notes are")
    name.add_argument("notes", nargs="+", metavar="NOTE", help="such as Eb3, or a MIDI number")
    name.add_argument("--bass", metavar="NOTE", help="the note that somebody else plays below")
    name.add_argument("--key")
    voice = verbs.add_parser("voice", help="choose both hands for every chord of a song")
    add_options(voice)
    swap = verbs.add_parser("swaps", help="other chords for one chord, judged by the melody")
    add_options(swap)
    swap.add_argument("--at", required=True, metavar="SECTION:BAR:BEAT", help="which chord, counted from 1")
    out = verbs.add_parser("export", help="write the solved song to a file")
    add_options(out)
    out.add_argument("--to", required=True, metavar="FILE", help=f"ending {' '.join(WRITERS)}")
    out.add_argument("--force", action="store_true", help="write even over a song or chart")
    check = verbs.add_parser("check", help="read a song and say what is wrong")
    check.add_argument("song")
    songs = verbs.add_parser("songs", help="list the shipped songs")
    shapes = verbs.add_parser("shapes", help="say which hand shapes make a chord's hands")
    lists.add_shapes_options(shapes)
    styles = verbs.add_parser("styles", help="list the styles of voice leading")
    families = verbs.add_parser("families", help="list the families of hand shapes")
    for verb in (chord, name, voice, swap, out, check, songs, shapes, styles, families):
        verb.add_argument("--json", action="store_true", help="print one JSON document")
    return parser


class Solved(NamedTuple):
    """A song solved as asked, as a file of its own; `bolder` where it was reharmonised first."""

    file: SongFile
    solution: Solution
    seconds: float
    bolder: Bolder | None


def _solved(args: argparse.Namespace) -> Solved:
    file = read_song(args.song)
    setup = setup_from(args, file.setup, file.song)
    state = State(file.song, setup=setup, keeps=keeps_from(args, file.keeps, file.song))
    if args.key:
        state = in_key(state, parse_key(args.key))
    started, builder, found = time.perf_counter(), Builder(), None
    if args.boldness is not None:
        found = bolder(builder, state.song, state.asked, state.keeps, args.boldness, protected_from(args))
        state = changed(state, found.with_changes())
    solution = solve_song(builder, timeline(state.song), state.asked, state.keeps)
    made = SongFile(state.song, state.setup, state.keeps, "", file.was, file.gone)
    return Solved(made, solution, time.perf_counter() - started, found)


def _print_json(document: dict[str, Any]) -> None:
    unicode = (getattr(sys.stdout, "encoding", None) or "").lower().replace("-", "") == "utf8"
    print(json.dumps(document, ensure_ascii=not unicode, indent=1))


def _chord(args: argparse.Namespace) -> None:
    key = parse_key(args.key) if args.key else None
    found = [chord_fields(text, parse_symbol(text, key), key) for text in args.symbols]
    if args.json:
        return _print_json({"chords": found})
    for fields in found:
        number = f"  ({fields['number']}, {fields['roman']})" if fields["number"] else ""
        print(f"{fields['symbol']}{number}: {' '.join(fields['notes'])}  [{' '.join(fields['degrees'])}]")


def _name(args: argparse.Namespace) -> None:
    key = parse_key(args.key) if args.key else None
    midis = tuple(parse_pitch(text).midi for text in args.notes)
    found = [reading_fields(reading) for reading in name_notes(midis, _bass(args.bass), key)]
    if args.json:
        return _print_json({"readings": found})
    for fields in found:
        number = f"  ({fields['number']})" if fields["number"] else ""
        print(f"{fields['symbol']}{number}: {' '.join(fields['degrees'])}; {fields['why']}")


def _bass(text: str | None) -> int | None:
    """A bass given as a pitch, a MIDI number or a note name."""
    if text is None:
        return None
    try:
        return parse_note(text).pc
    except NoteNameError:
        return parse_pitch(text).midi


def _voice(args: argparse.Namespace) -> None:
    file, solution, seconds, found = _solved(args)
    fields = solution_fields(file.song, solution, seconds)
    reasons = explained(solution) if args.explain and solution.voicings else {}
    changed = bolder_fields(found) if found else {}
    if args.json:
        return _print_json(fields | changed | reasons)
    print(f"{fields['title']}, {fields['key']}")
    for change in changed.get("changes", ()):
        new = "  ".join(chord["symbol"] for chord in change["chords"])
        print(f"{change['at']:<14} {change['was']:<10} becomes {new}: {change['reason']}; {change['words']}")
    if found is not None and not found.exact:
        print("Too many voicings to look at all of them: another mix of changes may be a little easier.")
    for voicing, hinge in zip(fields["voicings"], [*fields["hinges"], None], strict=False):
        left, right = " ".join(voicing["left_notes"]) or "rests", " ".join(voicing["right_notes"]) or "rests"
        print(f"{voicing['symbol']:<10} {voicing['number']:<8} L {left:<18} R {right:<22}".rstrip())
        for warning in voicing["warnings"]:
            print(f"{'':>6}! {warning}")
        if hinge:
            print(f"{'':>6}{hinge['held']} held, {hinge['motion']} semitones. {hinge['words']}")
    if reasons:
        print("\n".join(explained_text(reasons)))
    total = fields["total"]
    print(f"In all {total['motion']} semitones (left {total['left_motion']}, right {total['right_motion']}), "
          f"{total['held']} notes held, largest move {total['largest_move']}.")  # fmt: skip
    if not total["exact"]:
        print(f"No hands cost less by more than {total['gap']:.1f} of {total['cost']:.1f} units.")


def _swaps(args: argparse.Namespace) -> None:
    file, solution, _, _ = _solved(args)
    at = read_chord_place(args.at, file.song)
    index = next((i for i, v in enumerate(solution.voicings) if solution.moments[v.moment].address == at), None)
    if index is None:
        raise UserError(f"nothing sounds at {args.at}")
    moment, name = solution.moments[solution.voicings[index].moment], write_symbol(solution.voicings[index].chord)
    found = [swap_fields(swap, moment.key) for swap in swaps(Builder(), solution, index)]
    if args.json:  # what takes the place of this chord alone, and what goes on through the next ones
        of_one, through = ([fields for fields in found if (fields["span"] == 1) == one] for one in (True, False))
        head = {"at": args.at, "chord": name, "tested": bool(moment.tune)}
        return _print_json(head | {"swaps": of_one, "through": through})
    print(f"{name} at {args.at}" + ("" if moment.tune else f"; {UNTESTED}"))
    for fields in found:
        _print_swap(fields)


def _print_swap(fields: dict[str, Any]) -> None:
    chords = "  ".join(f"{chord['symbol']} ({chord['beats']:g})" for chord in fields["chords"])
    motion = f"{fields['motion_before']} -> {fields['motion_after']} semitones"
    print(f"{fields['name']:<26} {chords:<38} {motion}. {fields['words']}")


def _export(args: argparse.Namespace) -> None:
    file, solution, _, _ = _solved(args)
    source = None if args.song == "-" or args.song.startswith(DEMO) else Path(args.song)
    try:
        export(Path(args.to), file, solution, source, args.force)
    except WouldOverwriteError as error:
        raise UserError(f"{error}; use another name, or --force") from None
    if args.json:
        _print_json({"written": args.to, "chords": len(solution.voicings)})
    else:
        print(f"written: {args.to}", file=sys.stderr)


def _check(args: argparse.Namespace) -> None:
    file = read_song(args.song)
    moments = timeline(file.song)
    bars = sum(len(section.bars) for section in file.song.sections)
    fields = {"title": file.song.title, "key": file.song.key, "sections": len(file.song.sections), "bars": bars,
              "chords": len(moments), "ok": True}  # fmt: skip
    kept = [f"{name}: {value} is kept, and not used yet" for name, value in file.song.asks if name in NOT_YET]
    if args.json:
        return _print_json(fields | {"notes": kept})
    for words in kept:
        print(words)
    print(f"{fields['title']}: {fields['key']}, {fields['sections']} sections, {bars} bars, {len(moments)} chords; "
          "nothing is wrong")  # fmt: skip


def _songs(args: argparse.Namespace) -> None:
    found = []
    for name in demo_names():
        song = demo_song(name)
        found.append(
            {
                "name": f"demo:{name}",
                "title": song.title,
                "key": song.key,
                "meter": str(song.meter),
                "tempo": song.tempo,
            }
        )
    if args.json:
        return _print_json({"songs": found})
    for fields in found:
        print(f"{fields['name']:<28} {fields['title']}, {fields['key']}, {fields['meter']}, {fields['tempo']}")


def _shapes(args: argparse.Namespace) -> None:
    (_print_json if args.json else lists.print_shapes)(lists.shapes_document(args))


def _styles(args: argparse.Namespace) -> None:
    (_print_json if args.json else lists.print_styles)(lists.styles_document())


def _families(args: argparse.Namespace) -> None:
    (_print_json if args.json else lists.print_families)(lists.families_document())


_VERBS = {
    "chord": _chord,
    "name": _name,
    "voice": _voice,
    "swaps": _swaps,
    "export": _export,
    "check": _check,
    "songs": _songs,
    "shapes": _shapes,
    "styles": _styles,
    "families": _families,
}


def run(words: list[str]) -> None:
    """Do what the words say. Raises UserError."""
    args = _parser().parse_args(words)
    _VERBS[args.verb](args)
