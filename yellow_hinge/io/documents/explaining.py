"""Reasons, hard changes, lines and ways out of a solution in plain fields, as `voice --explain` prints them."""

from __future__ import annotations

from typing import Any

from yellow_hinge.core.leading.answer import Option, Solution, options
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.ladder import EasierWay, TooWide, ladder, too_wide
from yellow_hinge.core.leading.lines import HandLine, bass_line, stiff, voice_lines
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.symbols.other_basses import over_basses
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.documents.named import reading_fields
from yellow_hinge.io.documents.report import note_names, plain_number

MOST_OPTIONS = 6


def option_fields(option: Option, solution: Solution, index: int) -> dict[str, Any]:
    """One way to play a chord; `extra` in units is what the song costs more with it."""
    chord = solution.voicings[index].chord
    return {
        "left_notes": note_names(option.both.left, chord),
        "right_notes": note_names(option.both.right, chord),
        "family": option.family,
        "name": option.family_name,
        "extra": option.extra / UNIT,
    }


def _wide_fields(wide: TooWide, offers: list[EasierWay], solution: Solution, index: int) -> dict[str, Any]:
    chord = solution.voicings[index].chord
    return {
        "left_notes": note_names(wide.both.left, chord),
        "right_notes": note_names(wide.both.right, chord),
        "hand": wide.hand,
        "past_mm": wide.past_mm,
        "ladder": [
            {
                "words": offer.words,
                "left_notes": note_names(offer.both.left, chord),
                "right_notes": note_names(offer.both.right, chord),
                "extra": offer.extra / UNIT,
            }
            for offer in offers
        ],
    }


def chord_explained(solution: Solution, index: int) -> dict[str, Any]:
    """Why a chord is played as it is, what else there is, the wider voicing with its ladder, and the right hand (the
    left where that rests) over the twelve basses.
    """
    ways, voicing = options(solution, index, MOST_OPTIONS), solution.voicings[index]
    wide = too_wide(solution, index)
    key = voicing.here.key
    return {
        "slot": index,
        "symbol": write_symbol(voicing.chord),
        "name": voicing.family_name,
        "reason": reason(solution, index, ways),
        "options": [option_fields(option, solution, index) for option in ways],
        "too_wide": _wide_fields(wide, ladder(solution, index, wide.both), solution, index) if wide else None,
        "other_basses": [
            {"bass": row.bass, "reading": reading_fields(row.reading) if row.reading else None}
            for row in over_basses(voicing.right or voicing.left, key)
        ],
    }


def explained(solution: Solution) -> dict[str, Any]:
    """What `voice --explain` adds to the document of `voice`: `chords`, `stiff`, `bass_line`, `lines`."""
    return {
        "chords": [chord_explained(solution, i) for i in range(len(solution.voicings))],
        "stiff": [{"hinge": found.at, "cost": found.hinge.cost / UNIT, "why": found.why} for found in stiff(solution)],
        "bass_line": [
            {
                "from": move.old,
                "to": move.new,
                "semitones": move.semitones,
                "kind": move.kind,
                "passing": [
                    {"midi": p.midi, "note": p.name, "after_beats": plain_number(p.after), "words": p.words}
                    for p in move.passing
                ],
            }
            for move in bass_line(solution)
        ],
        "lines": [_line_fields(line, solution) for line in voice_lines(solution)],
    }


def _line_fields(line: HandLine, solution: Solution) -> dict[str, Any]:
    names = [note_names((midi,), solution.voicings[index].chord)[0] for index, midi in line.notes]
    return {"hand": line.hand, "first": line.notes[0][0], "notes": names, "motion": line.motion}


def explained_text(found: dict[str, Any]) -> list[str]:
    """The lines that `voice --explain` prints after the song."""
    lines = ["", "Why"]
    for chord in found["chords"]:
        lines.append(f"  {chord['symbol']:<10} {chord['name']}: {chord['reason']}")
        if chord["too_wide"]:
            for offer in chord["too_wide"]["ladder"]:
                lines.append(f"{'':<13}or {offer['words']}: L {' '.join(offer['left_notes'])} "
                             f"R {' '.join(offer['right_notes'])} ({offer['extra']:+.1f})")  # fmt: skip
    lines += ["", "Hard changes"]
    for hard in found["stiff"]:
        before, after = (found["chords"][(hard["hinge"] + k) % len(found["chords"])]["symbol"] for k in (0, 1))
        lines.append(f"  {before} to {after}: {hard['why']}")
    kinds = [move["kind"] for move in found["bass_line"]]
    counted = ", ".join(f"{kinds.count(kind)} {kind}" for kind in ("hold", "step", "chromatic", "leap"))
    return [*lines, "", f"Bass line: {counted}"]
