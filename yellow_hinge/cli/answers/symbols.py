"""The verbs `chord` and `name`: a symbol's notes, and the chords that some notes are. No solver is loaded for them."""

from __future__ import annotations

import argparse

from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.errors import NoteNameError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import parse_note, parse_pitch
from yellow_hinge.core.symbols.naming import name_notes
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.documents.named import chord_fields, reading_fields


def add_verbs(verbs: Verbs) -> None:
    """The verbs with their options, among the others."""
    chord = verbs.add_parser("chord", help="read chord symbols")
    chord.add_argument("symbols", nargs="+", metavar="SYMBOL")
    chord.add_argument("--key")
    name = verbs.add_parser("name", help="say what chord some notes are")
    name.add_argument("notes", nargs="+", metavar="NOTE", help="such as Eb3, or a MIDI number")
    name.add_argument("--bass", metavar="NOTE", help="the note that somebody else plays below")
    name.add_argument("--key")
    does(chord, _chord)
    does(name, _name)


def bass_of(text: str | None) -> int | None:
    """A bass given as a pitch, a MIDI number or a note name."""
    if text is None:
        return None
    try:
        return parse_note(text).pc
    except NoteNameError:
        return parse_pitch(text).midi


def _chord(args: argparse.Namespace) -> None:
    key = parse_key(args.key) if args.key else None
    found = [chord_fields(text, parse_symbol(text, key), key) for text in args.symbols]
    if args.json:
        return print_json({"chords": found})
    for fields in found:
        number = f"  ({fields['number']}, {fields['roman']})" if fields["number"] else ""
        print(f"{fields['symbol']}{number}: {' '.join(fields['notes'])}  [{' '.join(fields['degrees'])}]")


def _name(args: argparse.Namespace) -> None:
    key = parse_key(args.key) if args.key else None
    pitches = [parse_pitch(text) for text in args.notes]
    spelled = tuple(pitch.note for pitch, text in zip(pitches, args.notes, strict=True) if not text.strip().isdecimal())
    readings = name_notes(tuple(pitch.midi for pitch in pitches), bass_of(args.bass), key, spelled=spelled)
    found = [reading_fields(reading) for reading in readings]
    if args.json:
        return print_json({"readings": found})
    for fields in found:
        number = f"  ({fields['number']})" if fields["number"] else ""
        print(f"{fields['symbol']}{number}: {' '.join(fields['degrees'])}; {fields['why']}")
