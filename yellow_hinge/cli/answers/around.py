"""`yellow-hinge ring` and `over`: one hand over all basses, and all right-hand chords over one left hand."""

from __future__ import annotations

import argparse
from typing import Any

from yellow_hinge.cli.answers.lists import notes_in
from yellow_hinge.cli.parser import Verbs, does, told_by
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key, spell_in_key
from yellow_hinge.core.pitch.pitch import flat_note, pitch_of, sharp_note
from yellow_hinge.core.symbols.other_basses import over_basses, uppers_over
from yellow_hinge.core.symbols.writing import write_symbol


def add_verbs(verbs: Verbs) -> None:
    """Both verbs, among the others."""
    ring = verbs.add_parser("ring", help="what one hand is over each of the twelve basses")
    ring.add_argument("notes", metavar='"A3 C4 E4"')
    over = verbs.add_parser("over", help="right-hand triads and sevenths over one left hand")
    over.add_argument("left", metavar='"L C3 G3"')
    for verb in (ring, over):
        verb.add_argument("--key")
    does(ring, told_by(ring_document, told))
    does(over, told_by(over_document, told))


def ring_document(args: argparse.Namespace) -> dict[str, Any]:
    """The twelve basses under some notes. Raises UserError."""
    key = parse_key(args.key) if args.key else None
    rows = []
    for bass, reading in over_basses(notes_in(args.notes), key):
        note = spell_in_key(bass, key) if key is not None else flat_note(bass)
        note = reading.chord.bass_note if reading is not None and reading.chord.bass_note.pc == bass else note
        rows.append({
            "bass": str(note),
            "symbol": reading.symbol if reading is not None else None,
            "degrees": list(reading.degrees) if reading is not None else [],
            "missing": list(reading.missing) if reading is not None else [],
        })  # fmt: skip
    return {"basses": rows}


def over_document(args: argparse.Namespace) -> dict[str, Any]:
    """The chords over a left hand. Raises UserError."""
    words = args.left.split()
    if words and words[0].upper() == "R":
        raise UserError('name the notes of the left hand, such as "L C3 G3"')
    left = notes_in(" ".join(words[1:] if words[:1] in (["L"], ["l"]) else words))
    key = parse_key(args.key) if args.key else None
    rows = []
    for chord, notes, reading in uppers_over(left, key):
        lowest = spell_in_key(left[0], key) if key is not None else flat_note(left[0])
        upper = write_symbol(chord)
        spelled = {note.pc: note for note in chord.notes}
        rows.append({
            "upper": upper,
            "symbol": upper if chord.root.pc == lowest.pc else f"{upper}/{lowest}",
            "notes": [str(pitch_of(midi, spelled.get(midi % 12, sharp_note(midi)))) for midi in notes],
            "reads": reading.symbol if reading is not None else None,
        })  # fmt: skip
    return {"uppers": rows}


def told(document: dict[str, Any]) -> list[str]:
    """Either document, a line a row."""
    if "basses" in document:
        return [f"{row['bass']:3} {row['symbol'] or '-':14} {' '.join(row['degrees'])}" for row in document["basses"]]
    return [f"{row['symbol']:10} {row['reads'] or '-':18} {' '.join(row['notes'])}" for row in document["uppers"]]
