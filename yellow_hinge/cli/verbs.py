"""The verbs that open no window, and where each is: what a verb does not need is not loaded for it."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING

if TYPE_CHECKING:  # the window reads the table below and loads no parser
    import argparse

# The module in `cli/answers` that adds and does each verb, in the order of the help.
MODULES = {
    "chord": "symbols", "name": "symbols", "voice": "voicing", "swaps": "swapping", "export": "exporting",
    "check": "songs", "songs": "songs", "takes": "songs", "shapes": "lists", "styles": "lists", "manners": "lists",
    "families": "lists", "patterns": "lists", "keys": "twelve", "drill": "practice", "log": "practice",
    "hear": "hearing", "solo": "soloing", "shelf": "shelving", "ring": "around", "over": "around",
    "songbook": "books", "convert": "books", "set": "sets", "data": "own_data",
}  # fmt: skip
ALIKE = "symbols"  # means the same whatever the player has of one's own


def command_line(*modules: str) -> argparse.ArgumentParser:
    """The parser of the verbs of some modules, or of all of them."""
    from yellow_hinge.cli.parser import parser_and_verbs

    parser, verbs = parser_and_verbs()
    verbs.add_parser("window", help="open the window (also: no verb at all)")
    for module in modules or dict.fromkeys(MODULES.values()):
        import_module(f"yellow_hinge.cli.answers.{module}").add_verbs(verbs)
    return parser


def run(words: list[str]) -> None:
    """Do what the words say. Raises UserError."""
    needed = {"--version": ALIKE} | MODULES
    args = command_line(*(needed[word] for word in words[:1] if word in needed)).parse_args(words)
    args.run(args)
