"""`yellow-hinge songs`, `check` and `takes`: what there is, what is wrong with a song, and what it holds."""

from __future__ import annotations

import argparse

from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.edits.takes import switched
from yellow_hinge.app.solving.comparing import figures
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.leading.asking.setup import unused_asks
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.rhythm.asks import strange_patterns
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.mixing import choices
from yellow_hinge.io.opening import read_named, read_song
from yellow_hinge.io.songs.demo import demo_names, demo_song


def add_verbs(verbs: Verbs) -> None:
    """The verbs, among the others."""
    check = verbs.add_parser("check", help="read a song and say what is wrong")
    check.add_argument("song")
    songs = verbs.add_parser("songs", help="list the shipped songs")
    takes = verbs.add_parser("takes", help="list a song's takes and what its mix plays")
    takes.add_argument("song")
    does(check, _check)
    does(songs, _songs)
    does(takes, _takes)


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
