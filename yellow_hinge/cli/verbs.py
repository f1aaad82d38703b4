"""The verbs that open no window."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from yellow_hinge.app.edits.state import (
    state_of,
)
from yellow_hinge.app.edits.takes import switched
from yellow_hinge.app.solving.comparing import figures
from yellow_hinge.app.solving.twelve import in_twelve, keys_sheet
from yellow_hinge.cli.answers import (
    around,
    books,
    hearing,
    lists,
    own_data,
    practice,
    sets,
    sheets,
    shelving,
    soloing,
    symbols,
)
from yellow_hinge.cli.answers.solving import asked_for, solved
from yellow_hinge.cli.answers.struck import struck_fields
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import offers_json, parser_and_verbs, print_json
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import unused_asks
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.hinge import hinge_figures, semitones
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.ranking import firsts
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.reharm.words import UNTESTED
from yellow_hinge.core.rhythm.asks import strange_patterns
from yellow_hinge.core.song.places import read_chord_place
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.core.takes.mixing import choices
from yellow_hinge.io.documents.explaining import explained, explained_text
from yellow_hinge.io.documents.report import (
    bolder_fields,
    solution_fields,
    swap_fields,
    voicing_fields,
)
from yellow_hinge.io.export import WouldOverwriteError, export, export_pages
from yellow_hinge.io.formats import WRITERS, Wants
from yellow_hinge.io.opening import DEMO, read_named, read_song
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.leaving import left_out


def command_line() -> argparse.ArgumentParser:
    parser, verbs = parser_and_verbs()
    verbs.add_parser("window", help="open the window (also: no verb at all)")
    of_symbols = symbols.add_verbs(verbs)
    voice = verbs.add_parser("voice", help="choose both hands for every chord of a song")
    add_options(voice)
    swap = verbs.add_parser("swaps", help="other chords for one chord, judged by the melody")
    add_options(swap)
    swap.add_argument("--at", required=True, metavar="SECTION:BAR:BEAT", help="which chord, counted from 1")
    out = verbs.add_parser("export", help="write the solved song to a file")
    add_options(out)
    out.add_argument("--to", required=True, metavar="FILE", help=f"ending {' '.join(WRITERS)}")
    sheets.add_sheet_options(out)
    out.add_argument("--click", action="store_true", help="with a click, in MIDI and sound")
    out.add_argument("--force", action="store_true", help="write even over a song or chart")
    check = verbs.add_parser("check", help="read a song and say what is wrong")
    check.add_argument("song")
    songs = verbs.add_parser("songs", help="list the shipped songs")
    shapes = verbs.add_parser("shapes", help="say which hand shapes make a chord's hands")
    lists.add_shapes_options(shapes)
    styles = verbs.add_parser("styles", help="list the styles of voice leading")
    manners = verbs.add_parser("manners", help="list the manners of playing")
    families = verbs.add_parser("families", help="list the families of hand shapes")
    patterns = verbs.add_parser("patterns", help="list the patterns of playing")
    keys = verbs.add_parser("keys", help="a chord, a hinge or a stretch in all twelve keys")
    add_options(keys)
    sheets.add_sheet_options(keys)
    sheets.add_keys_options(keys)
    takes = verbs.add_parser("takes", help="list a song's takes and what its mix plays")
    takes.add_argument("song")
    practised = practice.add_verbs(verbs, add_options)
    shown = (*of_symbols, voice, swap, out, check, songs, shapes, styles, manners, families, patterns, takes, keys)
    for verb in (
        *shown,
        hearing.add_verb(verbs),
        soloing.add_verb(verbs),
        shelving.add_verb(verbs),
        *around.add_verbs(verbs),
        *books.add_verbs(verbs),
        sets.add_verb(verbs),
        *practised,
    ):
        offers_json(verb)
    own_data.add_verb(verbs)
    return parser


def _takes(args: argparse.Namespace) -> None:
    state, builder = state_of(read_song(args.song)), Builder()
    rows, above = [], None
    for take in state.takes:
        there = switched(state, take.id)
        solution = solve_song(builder, timeline(there.song), there.asked, there.standing)
        rows.append({"name": take.name, "current": take.id == state.take} | figures(solution, above)._asdict())
        above = solution
    names = {take.id: take.name for take in state.takes}
    sections = {section.id: section.name for section in state.song.sections}
    mix = [
        {"section": sections[choice.section], "pass": choice.turn + 1, "take": names[choice.take]}
        for choice in choices(state)
    ]
    if args.json:
        return print_json({"takes": rows, "mix": mix})
    for row in rows:
        print(f"{row['name']:<20} {row['motion']:>5} semitones, largest move {row['largest_move']}, widest "
              f"{row['stretch_mm']:g} mm, {row['colours']} colours, {row['changed']} chords changed")  # fmt: skip
    print("mix: " + ", ".join(f"{cell['section']} {cell['pass']} {cell['take']}" for cell in mix))


def _voice(args: argparse.Namespace) -> None:
    file, solution, seconds, found, takes, known = solved(args)
    fields = {"hands": "known" if known else "solved"} | solution_fields(file.song, solution, seconds)
    struck, fields["swing"] = struck_fields(solution, file.song, file.playing)
    for voicing, own, fields_ in zip(solution.voicings, struck, fields["voicings"], strict=True):
        fields_ |= own | {"take": takes[voicing.here.section if len(takes) > 1 else 0]}
    reasons = explained(solution) if args.explain and solution.voicings else {}
    changed = bolder_fields(found) if found else {}
    if args.json:
        return print_json(fields | changed | reasons)
    print(f"{fields['title']}, {fields['key']}")
    for change in changed.get("changes", ()):
        new = "  ".join(chord["symbol"] for chord in change["chords"])
        print(f"{change['at']:<14} {change['was']:<10} becomes {new}: {change['reason']}; {change['words']}")
    if found is not None and not found.exact:
        print("Too many voicings to look at all of them: another mix of them may be a little easier.")
    for voicing, hinge in zip(fields["voicings"], [*fields["hinges"], None], strict=False):
        left, right = " ".join(voicing["left_notes"]) or "rests", " ".join(voicing["right_notes"]) or "rests"
        print(f"{voicing['symbol']:<10} {voicing['number']:<8} L {left:<18} R {right:<22}".rstrip())
        for warning in voicing["warnings"]:
            print(f"{'':>6}! {warning}")
        if hinge:
            print(f"{'':>6}{hinge_figures(hinge['held'], hinge['motion'])}. {hinge['words']}")
    if reasons:
        print("\n".join(explained_text(reasons)))
    total = fields["total"]
    print(f"In all {semitones(total['motion'])} (left {total['left_motion']}, right {total['right_motion']}), "
          f"{total['held']} notes held, largest move {total['largest_move']}.")  # fmt: skip
    if not total["exact"]:
        print(f"No hands cost less by more than {total['gap']:.1f} of {total['cost']:.1f} units.")


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


def _check(args: argparse.Namespace) -> None:
    opened = read_named(args.song)
    file = opened.file
    moments = timeline(file.song)
    bars = sum(len(section.bars) for section in file.song.sections)
    fields = {"title": file.song.title, "key": file.song.key, "sections": len(file.song.sections), "bars": bars,
              "chords": len(moments), "ok": True}  # fmt: skip
    kept = unused_asks(file.song) + strange_patterns(file.playing, file.song)
    if args.json:
        return print_json(fields | {"notes": kept, "read_as": opened.kind, "report": list(opened.report)})
    for words in kept:
        print(words)
    print(f"{fields['title']}: {fields['key']}, {fields['sections']} sections, {bars} bars, {len(moments)} chords; "
          f"{'what was guessed or left out is said above' if opened.report else 'nothing is wrong'}")  # fmt: skip


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
        return print_json({"songs": found})
    for fields in found:
        print(f"{fields['name']:<28} {fields['title']}, {fields['key']}, {fields['meter']}, {fields['tempo']}")


def _shapes(args: argparse.Namespace) -> None:
    (print_json if args.json else lists.print_shapes)(lists.shapes_document(args))


def _styles(args: argparse.Namespace) -> None:
    (print_json if args.json else lists.print_styles)(lists.styles_document())


def _manners(args: argparse.Namespace) -> None:
    (print_json if args.json else lists.print_manners)(lists.manners_document())


def _families(args: argparse.Namespace) -> None:
    (print_json if args.json else lists.print_families)(lists.families_document())


def _patterns(args: argparse.Namespace) -> None:
    (print_json if args.json else lists.print_patterns)(lists.patterns_document())


def _drill(args: argparse.Namespace) -> None:
    _, state, _ = asked_for(args)
    (print_json if args.json else practice.print_drill)(practice.drill_fields(args, state))


def _log(args: argparse.Namespace) -> None:
    found = practice.log_document(args)
    if found is not None:
        print_json(found)


def _answer(args: argparse.Namespace, document: dict[str, Any], told: Callable[[dict[str, Any]], list[str]]) -> None:
    """Print a document, in JSON or in lines."""
    if args.json:
        print_json(document)
    else:
        print("\n".join(told(document)))


def _around(args: argparse.Namespace) -> None:
    document = around.ring_document(args) if args.verb == "ring" else around.over_document(args)
    _answer(args, document, around.told)


def _hear(args: argparse.Namespace) -> None:
    heard, document = hearing.run(args)
    _answer(args, document, lambda _: hearing.told(heard))


def _solo(args: argparse.Namespace) -> None:
    document = soloing.run(args)
    _answer(args, document, soloing.told)


def _shelf(args: argparse.Namespace) -> None:
    _answer(args, shelving.run(args), shelving.told)


def _songbook(args: argparse.Namespace) -> None:
    _answer(args, books.book_document(args), books.book_told)


def _set(args: argparse.Namespace) -> None:
    _answer(args, sets.run(args), sets.told)


def _convert(args: argparse.Namespace) -> None:
    document = books.convert_document(args)
    _answer(args, document, books.convert_told)
    if (error := books.refused(document)) is not None:
        raise error


_VERBS = symbols.VERBS | {
    "data": own_data.run,
    "voice": _voice,
    "swaps": _swaps,
    "export": _export,
    "check": _check,
    "songs": _songs,
    "shapes": _shapes,
    "styles": _styles,
    "manners": _manners,
    "families": _families,
    "patterns": _patterns,
    "takes": _takes,
    "keys": _keys,
    "drill": _drill,
    "log": _log,
    "hear": _hear,
    "solo": _solo,
    "ring": _around,
    "over": _around,
    "shelf": _shelf,
    "songbook": _songbook,
    "convert": _convert,
    "set": _set,
}


def run(words: list[str]) -> None:
    """Do what the words say. Raises UserError."""
    args = command_line().parse_args(words)
    _VERBS[args.verb](args)
