"""`yellow-hinge songbook` and `convert`: the songs of folders, and many files at once."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from yellow_hinge.app.solving.book.converting import KINDS, converted
from yellow_hinge.app.solving.book.songbook import songbook
from yellow_hinge.cli.parser import Verbs, answer, does, told_by
from yellow_hinge.core.errors import UserError


def add_verbs(verbs: Verbs) -> None:
    """Both verbs, among the others."""
    book = verbs.add_parser("songbook", help="the songs of some folders")
    book.add_argument("folder", nargs="+")
    book.add_argument("--find", default="", metavar="TEXT", help="only songs with all these words")
    convert = verbs.add_parser("convert", help="read many files, say what was guessed, write each as another kind")
    convert.add_argument("files", nargs="+", metavar="FILE")
    convert.add_argument("--to", required=True, metavar="FOLDER")
    convert.add_argument("--format", choices=KINDS, default=KINDS[0])
    does(book, told_by(book_document, book_told))
    does(convert, _convert)


def book_document(args: argparse.Namespace) -> dict[str, Any]:
    """The songs. Raises UserError."""
    rows = []
    for row in songbook([Path(name) for name in args.folder], args.find):
        fields = row._asdict() | {"tags": list(row.tags)}
        del fields["words"]
        rows.append(fields)
    return {"songs": rows}


def book_told(document: dict[str, Any]) -> list[str]:
    """A song a line."""
    rows = []
    for song in document["songs"]:
        told = song["problem"] or f"{song['key']}, {song['tempo']}, {song['minutes']:g} min"
        rows.append(f"{song['title']:<32} {told:<32} {song['path']}")
    return rows


def convert_document(args: argparse.Namespace) -> dict[str, Any]:
    """What came of every file. Raises UserError."""
    found = converted([Path(name) for name in args.files], Path(args.to), args.format)
    return {"files": [row._asdict() | {"said": list(row.said)} for row in found]}


def convert_told(document: dict[str, Any]) -> list[str]:
    """A file a line."""
    return [f"{row['result']:<8} {row['path']} {row['to'] and '-> ' + row['to']} {'; '.join(row['said'])}".rstrip()
            for row in document["files"]]  # fmt: skip


def _convert(args: argparse.Namespace) -> None:
    document = convert_document(args)
    answer(args, document, convert_told)
    files = document["files"]
    count = sum(row["result"] == "refused" for row in files)
    if count:
        raise UserError(f"{count} of {len(files)} files were refused; the others are written")
