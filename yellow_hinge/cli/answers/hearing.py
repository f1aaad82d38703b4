"""`yellow-hinge hear`: a MIDI performance without bars becomes chords, hands, rhythm, and a song."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from yellow_hinge.app.edits.heard import matched
from yellow_hinge.cli.parser import Verbs, answer, does
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.hearing.hear import hear
from yellow_hinge.core.hearing.in_bars import Asked, Heard, InHands
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.song import Song, parse_meter
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic
from yellow_hinge.io.formats import opens_as
from yellow_hinge.io.heard_song import heard_song
from yellow_hinge.io.midi.performance import read_performance
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.song_json import to_json

_SLOWEST, _FASTEST = 20.0, 400.0
_SWINGS = {"two": 50, "three": 50, "swing": 67}  # percent of a beat before its second half


def add_verbs(verbs: Verbs) -> None:
    """The verb with its options, among the others."""
    verb: argparse.ArgumentParser = verbs.add_parser(
        "hear", help="a MIDI performance without bars becomes chords, hands and a song"
    )
    verb.add_argument("file", metavar="FILE", help="a MIDI performance")
    verb.add_argument("--bass", choices=("mine", "theirs"), default="mine")
    verb.add_argument("--song", metavar="SONG", help="the song that was played")
    verb.add_argument("--click", type=float, default=0.0, metavar="N", help="a click ran at N quarters a minute")
    verb.add_argument("--meter", metavar="3/4")
    verb.add_argument("--key")
    verb.add_argument("--left-reach", type=int, default=9)
    verb.add_argument("--right-reach", type=int, default=9)
    verb.add_argument("--to", metavar="SONG.hinge", help="write what was heard as a new song")
    verb.add_argument("--force", action="store_true", help="write even over a song or chart")
    does(verb, _hear)


def _hear(args: argparse.Namespace) -> None:
    heard, fields = run(args)
    answer(args, fields, lambda _: told(heard))


def run(args: argparse.Namespace) -> tuple[Heard, dict[str, Any]]:
    """What was heard, and the document that says it; writes the song where one is asked for. Raises UserError."""
    played = read_performance(read_bytes(Path(args.file)), args.file)
    song = read_song(args.song).song if args.song else None
    asked = _asked(args, song)
    heard = hear(played.tones, asked, played.pedals)
    if song is not None:
        heard = matched(heard, song, asked)
    if args.to:
        _write(Path(args.to), heard, played.title or Path(args.file).stem, args.force)
    return heard, document(heard)


def _asked(args: argparse.Namespace, song: Song | None) -> Asked:
    """What is known beforehand: what is asked, else what the song that was played says."""
    if args.click and not _SLOWEST <= args.click <= _FASTEST:
        raise UserError(f"a click runs at {_SLOWEST:.0f} to {_FASTEST:.0f} quarters a minute, not at {args.click:g}")
    meter = parse_meter(args.meter) if args.meter else song.meter if song is not None else None
    key = parse_key(args.key) if args.key else song.the_key if song is not None else None
    return Asked(
        Hands(args.left_reach, args.right_reach), args.bass == "theirs", args.click,
        (meter.upper, meter.lower) if meter is not None else None, key, float(song.tempo) if song is not None else 0.0,
    )  # fmt: skip


def _write(path: Path, heard: Heard, title: str, force: bool) -> None:
    if path.suffix != ".hinge":
        raise UserError(f"{path}: a song ends in .hinge")
    if path.exists() and not force and opens_as(read_bytes(path), path.name):
        raise FileFault(str(path), "is there already; say --force to write over it")
    write_atomic(path, to_json(heard_song(heard, title)))


def document(heard: Heard) -> dict[str, Any]:
    """What was heard, as the verb prints it."""
    grid = heard.grid
    rhythm = [{"section": "Song", "left": heard.left, "right": heard.right}]
    return {
        "tempo": round(60 / grid.period, 1) if grid is not None else None,
        "meter": f"{grid.meter[0]}/{grid.meter[1]}" if grid is not None else None,
        "swing": _SWINGS[grid.kind] if grid is not None else 50,
        "key": str(heard.key) if heard.key is not None else None,
        "sure": heard.sure,
        "chords": [_chord(chord) for chord in heard.chords],
        "patterns": rhythm if heard.left or heard.right else [],
        "notes": [
            {"onset": round(n.tone.on, 4), "midi": n.tone.midi, "hand": "left" if n.left else "right"}
            for n in heard.notes
        ],
    }


def _chord(chord: InHands) -> dict[str, Any]:
    heard = chord.chord
    return {
        "start": round(chord.start, 4), "end": round(chord.end, 4), "bar": chord.bar, "beat": chord.beat,
        "beats": chord.beats, "symbol": heard.symbol, "bass": str(heard.chord.bass_note) if heard.chord else None,
        "left": list(chord.left), "right": list(chord.right), "sure": heard.sure, "others": list(heard.others),
    }  # fmt: skip


def told(heard: Heard) -> list[str]:
    """What was heard in words, a line for the whole and one for every bar."""
    if heard.grid is None:
        return ["no beats were heard: there is too little, or nothing repeats"]
    lines = [f"{heard.words}; sure {heard.sure:.0%}"]
    for bar in range(1, heard.bars + 1):
        here = [chord for chord in heard.chords if chord.bar == bar]
        words = "  ".join(f"{c.chord.symbol}{'?' if c.chord.doubtful else ''} ({c.beats})" for c in here)
        lines.append(f"{bar:4d}  {words}".rstrip())
    if heard.left or heard.right:
        lines += [f"left   {heard.left}", f"right  {heard.right}"]
    return lines
