"""The verbs that say what there is to ask for: styles, families, and the shapes of one chord."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from functools import partial
from typing import Any

import msgspec

from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.fingering import alone
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.asking.wish_words import COLOUR_LEVELS
from yellow_hinge.core.leading.families import makings, why_none
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.reading import reads
from yellow_hinge.core.leading.prices.weights import STYLES, style_id
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.rhythm.pattern.patterns import Pattern, patterns
from yellow_hinge.core.shapes.catalogue import offered
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.documents.report import note_names

Notes = tuple[int, ...]


def add_verbs(verbs: Verbs) -> None:
    """The verbs, among the others."""
    verb = verbs.add_parser("shapes", help="say which hand shapes make a chord's hands")
    verb.add_argument("symbol", metavar="SYMBOL")
    verb.add_argument("--bass", choices=("mine", "theirs"), default="mine", help="who has the bass")
    verb.add_argument("--left", metavar="NOTES", help='the left hand, such as "D3 G3"; "": it rests; left out: any')
    verb.add_argument("--right", metavar="NOTES", help="the right hand, likewise")
    verb.add_argument("--left-reach", type=int, default=Hands().left_reach, help="white keys the left hand spans")
    verb.add_argument("--right-reach", type=int, default=Hands().right_reach, help="white keys the right hand spans")
    verb.add_argument("--key", help="the key that names are read in; C where left out")
    does(verb, lambda args: _say(args, shapes_document(args), print_shapes))
    for name, words, document, printed in (
        ("styles", "list the styles of voice leading", styles_document, print_styles),
        ("manners", "list the manners of playing", manners_document, print_manners),
        ("families", "list the families of hand shapes", families_document, print_families),
        ("patterns", "list the patterns of playing", patterns_document, print_patterns),
    ):
        does(verbs.add_parser(name, help=words), partial(_list, document, printed))


def _list(
    document: Callable[[], dict[str, Any]], printed: Callable[[dict[str, Any]], None], args: argparse.Namespace
) -> None:
    _say(args, document(), printed)


def _say(args: argparse.Namespace, document: dict[str, Any], printed: Callable[[dict[str, Any]], None]) -> None:
    (print_json if args.json else printed)(document)


def _mine(own: bool) -> dict[str, Any]:
    return {"mine": True} if own else {}


def styles_document() -> dict[str, Any]:
    """Every style with its words and the families it adds."""
    return {
        "styles": [
            {"id": style_id(name), "name": name, "words": style.words, "families": list(style.families)}
            | _mine(name in STYLES.own)
            for name, style in STYLES.items()
        ]
    }


def manners_document() -> dict[str, Any]:
    """Every manner with all that it sets."""
    return {"manners": [msgspec.to_builtins(m) | _mine(m.id in manners().own) for m in manners().values()]}


def families_document() -> dict[str, Any]:
    """Every family of hand shapes of the catalogue."""
    return {"families": [{"id": s.id, "name": s.name, "bass": s.bass, "usual": s.usual} for s in offered()]}


def patterns_document() -> dict[str, Any]:
    """Every pattern of playing that ships."""
    return {"patterns": [_shown_pattern(pattern) for pattern in patterns().values()]}


def _shown_pattern(pattern: Pattern) -> dict[str, Any]:
    usual = {"low": pattern.usual[0], "high": pattern.usual[1]}
    fields: dict[str, Any] = {
        name: getattr(pattern, name)
        for name in ("id", "name", "words", "meter", "beats", "bar", "pedal", "swing", "wants")
    }
    return fields | {"tempo": usual, "left": pattern.left, "right": pattern.right}


def notes_in(text: str) -> Notes:
    """Pitches as MIDI numbers, ascending. Raises UserError."""
    return tuple(sorted({parse_pitch(word).midi for word in text.replace(",", " ").split()}))


def _notes(text: str | None) -> Notes | None:
    return None if text is None else notes_in(text)


def shapes_document(args: argparse.Namespace) -> dict[str, Any]:
    """Which families make a chord's hands; without notes every family with an example. Raises UserError."""
    key = parse_key(args.key or "C")
    chord = parse_symbol(args.symbol, key)
    setup = Setup(bass=args.bass, player=Player(Hands(args.left_reach, args.right_reach)))
    left, right = _notes(args.left), _notes(args.right)
    if left == right == ():
        raise UserError("both hands rest; write the notes of one of them")
    found = makings(chord, key, setup, left, right)
    asked = left is not None or right is not None
    families = []
    for making in found:
        hands = {f"{hand}_notes": note_names(making.both.of(hand), chord) for hand in ("left", "right")}
        families.append({"id": making.shape.id, "name": making.shape.name, "colour": making.colour} | hands)
    both = Both(left or (), right or ())
    fingers = alone(both.left, both.right)
    return {
        "symbol": args.symbol, "families": families,
        "reads": reads(both, chord, key, setup.mine) if asked else "",
        "fingers": {hand: list(fingers.of(hand) or ()) for hand in ("left", "right")},
        "why_not": "" if found else why_none(chord, key, setup, left, right),
    }  # fmt: skip


def print_styles(document: dict[str, Any]) -> None:
    """The styles, one on each line."""
    for style in document["styles"]:
        print(f"{style['id']:<18} {style['name']:<18} {style['words']}")


def print_manners(document: dict[str, Any]) -> None:
    """The manners, one on each line."""
    for manner in document["manners"]:
        print(f"{manner['id']:<18} {manner['name']:<26} {manner['words']}")


def print_patterns(document: dict[str, Any]) -> None:
    """The patterns, one on each line."""
    for pattern in document["patterns"]:
        print(f"{pattern['id']:<18} {pattern['meter'] or 'any':<5} {pattern['name']:<32} {pattern['words']}")


def print_families(document: dict[str, Any]) -> None:
    """The families, one on each line."""
    whose = {"mine": "you have the bass", "theirs": "the bass is another's", "any": "either"}
    for family in document["families"]:
        rare = "" if family["usual"] else ", when chosen"
        print(f"{family['id']:<18} {family['name']:<32} {whose[family['bass']]}{rare}")


def print_shapes(document: dict[str, Any]) -> None:
    """The families that make the hands, one on each line, or why none does."""
    for family in document["families"]:
        left, right = (" ".join(family[f"{hand}_notes"]) or "rests" for hand in ("left", "right"))
        print(f"{family['id']:<18} L {left:<18} R {right:<22} {COLOUR_LEVELS[family['colour']]}")
    if document["reads"]:
        print(f"reads as {document['reads']}")
    if document["why_not"]:
        print(document["why_not"])
