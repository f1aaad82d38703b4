"""Other chords in plain fields: swaps of one chord, and the changes of a whole song."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.reharm.melody import Judged
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.reharm.table import GROUPS
from yellow_hinge.core.reharm.whole import Bolder, SongChange
from yellow_hinge.core.reharm.words import melody_words, swap_words
from yellow_hinge.core.song.places import chord_place
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_number, write_symbol
from yellow_hinge.io.documents.report import plain_number


def swap_fields(swap: Swap, key: Key) -> dict[str, Any]:
    """One swap of the verb `swaps`."""
    return {
        "name": swap.kind.name,
        "kind": swap.kind.id,
        "group": GROUPS[swap.kind.group],
        "boldness": swap.kind.boldness,
        "span": swap.span,
        "chords": _chord_list(swap.chords, swap.beats, key),
        "reason": swap.reason,
        "fits": swap.fits,
        "melody": _melody_list(swap.melody, swap.chords),
        "cure": [write_symbol(chord) for chord in swap.cure] if swap.cure else None,
        "bass": [str(note) for note in swap.bass],
        "bass_moves": list(swap.bass_moves),
        "motion_before": swap.motion_before,
        "motion_after": swap.motion_after,
        "words": swap_words(swap),
    }


def _chord_list(chords: tuple[Chord, ...], beats: tuple[Fraction, ...], key: Key) -> list[dict[str, Any]]:
    return [
        {"symbol": write_symbol(chord), "number": write_number(chord, key), "beats": plain_number(length)}
        for chord, length in zip(chords, beats, strict=True)
    ]


def _melody_list(melody: tuple[Judged, ...], chords: tuple[Chord, ...]) -> list[dict[str, Any]]:
    return [
        {
            "note": str(note.pitch),
            "over": write_symbol(chords[note.chord]),
            "becomes": note.becomes,
            "verdict": note.verdict,
            "weight": plain_number(note.weight),
            "fits": note.fits,
        }
        for note in melody
    ]


def bolder_fields(found: Bolder) -> dict[str, Any]:
    """What a whole song's reharmonising changed, for the verb `voice`."""
    return {
        "boldness": found.boldness,
        "changes": [change_fields(change, found) for change in found.changes],
        "reharmonised": {
            "cost": found.cost / UNIT,
            "cost_before": found.cost_before / UNIT,
            "exact": found.exact,
        },
    }


def change_fields(change: SongChange, found: Bolder) -> dict[str, Any]:
    """One change of a whole song."""
    choice = change.choice
    assert choice.kind is not None
    return {
        "at": chord_place(change.at, found.song),
        "was": write_symbol(change.was),
        "name": choice.kind.name,
        "kind": choice.kind.id,
        "chords": _chord_list(choice.chords, choice.beats, change.moment.key),
        "reason": choice.reason,
        "melody": _melody_list(choice.melody, choice.chords),
        "words": melody_words(choice.melody, choice.chords),
    }
