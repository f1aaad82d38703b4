"""What every verb of the command line stands on: the parser, and one JSON document."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from typing import Any

from yellow_hinge import __version__
from yellow_hinge.core.errors import UserError

Verbs = Any  # argparse keeps its type to itself


class Parser(argparse.ArgumentParser):
    """Usage faults are faults of the input like any other: exit 2, one message, no traceback."""

    def error(self, message: str) -> Any:
        raise UserError(f"{message}; try {self.prog} --help")


def parser_and_verbs() -> tuple[Parser, Verbs]:
    """The parser of the whole command line, and where its verbs are added."""
    parser = Parser(prog="yellow-hinge", description="Two-hand voicings that move as little as possible.")
    parser.add_argument("--version", action="version", version=__version__)
    return parser, parser.add_subparsers(dest="verb", required=True, parser_class=Parser)


def offers_json(verb: argparse.ArgumentParser) -> None:
    """A verb that can answer in JSON."""
    verb.add_argument("--json", action="store_true", help="print one JSON document")


def does(verb: argparse.ArgumentParser, run: Callable[[argparse.Namespace], object]) -> None:
    """A verb that can answer in JSON, and what does it."""
    offers_json(verb)
    verb.set_defaults(run=run)


def answer(args: argparse.Namespace, document: dict[str, Any], told: Callable[[dict[str, Any]], Sequence[str]]) -> None:
    """Print a document, in JSON or in lines."""
    if args.json:
        print_json(document)
    else:
        print("\n".join(told(document)))


def told_by(
    document: Callable[[argparse.Namespace], dict[str, Any]], told: Callable[[dict[str, Any]], Sequence[str]]
) -> Callable[[argparse.Namespace], None]:
    """What answers with a document."""
    return lambda args: answer(args, document(args), told)


def print_json(document: dict[str, Any]) -> None:
    """Print one document; signs that the terminal does not have are escaped."""
    unicode = (getattr(sys.stdout, "encoding", None) or "").lower().replace("-", "") == "utf8"
    print(json.dumps(document, ensure_ascii=not unicode, indent=1))
