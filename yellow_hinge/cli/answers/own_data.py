"""`yellow-hinge data`: the player's own entries beside those that ship, a folder checked, examples."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from yellow_hinge.app.keeping.settings import user_places
from yellow_hinge.app.mine.folder import Mine, read_mine
from yellow_hinge.app.mine.kinds import BY_NAME, KINDS
from yellow_hinge.app.mine.listing import SHIPS, every_row
from yellow_hinge.cli.parser import Verbs, offers_json, print_json
from yellow_hinge.core.errors import UserError


def add_verbs(verbs: Verbs) -> None:
    """The verb with what it does, among the others."""
    verb: argparse.ArgumentParser = verbs.add_parser("data", help="styles, manners, substitutes and more of your own")
    does = verb.add_subparsers(dest="does", required=True, metavar="list|check|example")
    rows = does.add_parser("list", help="every entry by name, and where it is from")
    rows.add_argument("--kind", choices=tuple(BY_NAME), help="of one kind only")
    check = does.add_parser("check", help="read a folder as the program reads yours, and say what is wrong")
    check.add_argument("folder", metavar="FOLDER", help="with folders shelf, shapes, patterns, styles, ... inside")
    example = does.add_parser("example", help="print a file of a kind, with every field explained")
    example.add_argument("kind", choices=tuple(BY_NAME))
    offers_json(rows)
    offers_json(check)
    verb.set_defaults(run=run)


def run(args: argparse.Namespace) -> None:
    """Do it. Raises UserError, also for a folder in which something is wrong."""
    if args.does == "example":
        print(BY_NAME[args.kind].example, end="")
        return
    if args.does == "check":
        folder = Path(args.folder)
        if not any((folder / kind.folder).is_dir() for kind in KINDS):
            raise UserError(f"{folder}: no folder {', '.join(kind.folder for kind in KINDS)} is in it")
        mine = read_mine(folder)
        _say(args, _own_rows(mine), mine)
        if mine.wrong:
            raise UserError(f"{len(mine.wrong)} of {len(mine.wrong) + len(mine.entries)} files are left out")
        return
    mine = read_mine(user_places().mine)
    found = [row for row in every_row(mine) if args.kind in (None, row.kind)]
    _say(args, [{"kind": row.kind, "id": row.id, "name": row.name, "from": row.place} for row in found], mine)


def _own_rows(mine: Mine) -> list[dict[str, Any]]:
    return [{"kind": own.kind, "id": own.id, "name": own.entry.name, "from": str(own.path)} for own in mine.entries]


def _say(args: argparse.Namespace, rows: list[dict[str, Any]], mine: Mine) -> None:
    if args.json:
        wrong = [{"file": str(each.path), "line": each.line, "reason": each.reason} for each in mine.wrong]
        print_json({"entries": rows, "wrong": wrong})
        return
    for row in rows:
        where = row["from"] if row["from"] == SHIPS else Path(row["from"]).name
        print(f"{row['kind']:<11} {row['id']:<24} {row['name']:<34} {where}")
    for each in mine.wrong:
        print(f"left out: {each}")
