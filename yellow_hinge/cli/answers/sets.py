"""`yellow-hinge set`: the songs of one evening, listed, put together, and written as one PDF or as files of sound."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import msgspec

from yellow_hinge.app.solving.book.sets import (
    ENDING,
    SOUNDS,
    SongSet,
    Tonight,
    evening,
    joins,
    read_set,
    set_pages,
    set_song,
    total,
    write_set,
    write_songs,
)
from yellow_hinge.cli.parser import Verbs, does, told_by
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.files import write_atomic
from yellow_hinge.io.formats import page_bytes


class _OfSong(argparse.Action):
    """An option that belongs to the song before it."""

    def __call__(self, parser: object, namespace: argparse.Namespace, value: Any, option: str | None = None) -> None:
        rows: list[dict[str, str]] = getattr(namespace, "added", None) or []
        if self.dest == "add":
            rows.append({"add": value})
        elif not rows:
            raise UserError(f"{option} belongs to the song before it: --add SONG {option} ...")
        else:
            rows[-1][self.dest] = value
        namespace.added = rows


def add_verbs(verbs: Verbs) -> None:
    """The verb with its options, among the others."""
    verb: argparse.ArgumentParser = verbs.add_parser("set", help="the songs of one evening in their order")
    verb.add_argument("file", help=f"ending {ENDING}")
    verb.add_argument("--add", action=_OfSong, metavar="SONG", help="a song at the end; as often as wanted")
    verb.add_argument("--in-key", action=_OfSong, metavar="KEY", help="its key for tonight")
    verb.add_argument("--take", action=_OfSong, metavar="NAME", help="its take for tonight, or mix")
    verb.add_argument("--note", action=_OfSong, metavar="TEXT", help="what stands before it")
    verb.add_argument("--to", metavar="FILE|FOLDER", help="one .pdf of all songs, or a folder of files")
    verb.add_argument("--format", choices=SOUNDS, default=SOUNDS[0], help="of the files in a folder")
    does(verb, told_by(run, told))


def run(args: argparse.Namespace) -> dict[str, Any]:
    """The evening; writes what is asked for. Raises UserError."""
    path = Path(args.file)
    if path.suffix.lower() != ENDING:
        raise UserError(f"a set ends in {ENDING}, not {path.suffix!r}")
    rows: list[dict[str, str]] = getattr(args, "added", None) or []
    songs = read_set(path) if path.is_file() or not rows else SongSet(path.stem)
    if rows:
        songs = _with(songs, rows, path)
    row = evening(songs, path.parent)
    if args.to:
        _write(songs, row, Path(args.to), args.format)
    return _document(songs, row)


def _with(songs: SongSet, rows: Sequence[dict[str, str]], path: Path) -> SongSet:
    """A set with songs at its end, written."""
    made = []
    for own in rows:
        song = set_song(Path(own["add"]), path.parent, own.get("in_key", ""), own.get("take", ""))
        made.append(msgspec.structs.replace(song, note=own.get("note", "")))
    found: SongSet = msgspec.structs.replace(songs, songs=(*songs.songs, *made))
    write_set(path, found)
    return found


def _write(songs: SongSet, row: Sequence[Tonight], target: Path, kind: str) -> None:
    if target.suffix.lower() == ".pdf":
        pages = set_pages(songs, row, SheetAsk())
        made = page_bytes(".pdf", pages, songs.title, lambda share: False)
        assert isinstance(made, bytes)
        write_atomic(target, made)
        return
    target.mkdir(parents=True, exist_ok=True)
    write_songs(row, target, kind)


def _document(songs: SongSet, row: Sequence[Tonight]) -> dict[str, Any]:
    listed = [
        {
            "id": own.song.id, "title": own.title, "key": own.key, "take": own.song.take, "minutes": own.minutes,
            "note": own.song.note, "problem": own.problem,
        }
        for own in row
    ]  # fmt: skip
    return {
        "title": songs.title,
        "minutes": total(row),
        "songs": listed,
        "joins": [join._asdict() for join in joins(row)],
    }


def told(document: dict[str, Any]) -> list[str]:
    """It in lines, for people."""
    rows = [f"{document['title']}, {document['minutes']:g} minutes"]
    for number, song in enumerate(document["songs"], 1):
        if song["note"]:
            rows.append(f"    {song['note']}")
        facts = song["problem"] or f"{song['key']}, {song['minutes']:g} min"
        rows.append(f"{number:>3} {song['title']:<32} {facts}")
    if document["joins"]:
        hardest = max(document["joins"], key=lambda join: join["motion"])
        rows.append(f"hardest join, {hardest['motion']} semitones: {hardest['words']}")
    return rows
