"""What a solution is in plain fields, as the command line prints it and the exports write it."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.prices.hinge import FingerChange, FingerStep
from yellow_hinge.core.leading.prices.reading import reads
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.pitch.key import Key, root_number, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.reharm.melody import Judged
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.reharm.table import GROUPS
from yellow_hinge.core.reharm.whole import Bolder, SongChange
from yellow_hinge.core.reharm.words import melody_words, swap_words
from yellow_hinge.core.song.places import chord_place
from yellow_hinge.core.song.song import NO_CHORD, Song
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import as_typed, write_number, write_symbol


def note_names(notes: tuple[int, ...], chord: Chord) -> list[str]:
    """MIDI notes as pitches spelled for the chord: ["F2", "Cb4"]."""
    return [str(pitch_of(midi, chord.note_of(midi % 12))) for midi in notes]


def degree_names(notes: tuple[int, ...], chord: Chord) -> list[str]:
    """MIDI notes as degrees of the chord: ["1", "b3"]."""
    return [chord.degree_of(midi) for midi in notes]


def plain_number(value: Any) -> int | float:
    """A fraction as a number for JSON, whole where it is whole."""
    return int(value) if value == int(value) else round(float(value), 6)


def degree_in_key(midi: int, key: Key) -> str:
    """A note's degree in the key, such as "b3"."""
    return root_number(spell_in_key(midi % 12, key), key)


def voicing_fields(voicing: Voicing, solution: Solution, song: Song) -> dict[str, Any]:
    """One voicing of the verb `voice`."""
    moment, chord = voicing.here, voicing.chord
    return {
        "slot": voicing.stage,
        "section": song.sections[moment.section].name,
        "bar": moment.bar + 1,
        "beat": plain_number(moment.beat),
        "beats": plain_number(moment.beats),
        "symbol": as_typed(moment.symbol, chord),
        "number": write_number(chord, moment.key),
        "left": list(voicing.left),
        "right": list(voicing.right),
        "left_notes": note_names(voicing.left, chord),
        "right_notes": note_names(voicing.right, chord),
        "left_degrees": degree_names(voicing.left, chord),
        "right_degrees": degree_names(voicing.right, chord),
        "family": voicing.family,
        "left_fingers": list(voicing.fingers.left),
        "right_fingers": list(voicing.fingers.right),
        "reads": reads(voicing.both, chord, moment.key, solution.setup.mine),
        "left_numbers": [degree_in_key(midi, moment.key) for midi in voicing.left],
        "right_numbers": [degree_in_key(midi, moment.key) for midi in voicing.right],
        "id": moment.slot_id,
        "warnings": list(voicing.warnings),
        "cue": moment.cue,
        "turn": moment.turn,
        "pass": moment.turn + 1,
        "onset": plain_number(moment.quarter),
        "meter": str(moment.meter),
    }


def silent_fields(moment: Moment, song: Song) -> dict[str, Any]:
    """A moment in which nothing is played, with the fields of a voicing that it has. `onset` counts quarter notes from
    the song's start.
    """
    return {
        "section": song.sections[moment.section].name,
        "bar": moment.bar + 1,
        "beat": plain_number(moment.beat),
        "beats": plain_number(moment.beats),
        "symbol": NO_CHORD,
        "cue": moment.cue,
        "turn": moment.turn,
        "pass": moment.turn + 1,
        "onset": plain_number(moment.quarter),
        "meter": str(moment.meter),
    }


def _step_fields(step: FingerStep, old: Chord, new: Chord) -> dict[str, Any]:
    was = note_names((step.old,), old)[0] if step.old is not None else None
    now = note_names((step.new,), new)[0] if step.new is not None else None
    return {"hand": step.hand, "from": was, "to": now, "semitones": step.semitones}


def _change_fields(change: FingerChange, chord: Chord) -> dict[str, Any]:
    note = note_names((change.midi,), chord)[0]
    return {"hand": change.hand, "note": note, "from": change.old, "to": change.new}


def hinge_fields(index: int, solution: Solution) -> dict[str, Any]:
    """One hinge of the verb `voice`; `moves` lists the notes that move, are added or lifted."""
    hinge, count = solution.hinges[index], len(solution.voicings)
    old, new = solution.voicings[index].chord, solution.voicings[(index + 1) % count].chord
    return {
        "from": index,
        "to": (index + 1) % count,
        "motion": hinge.motion,
        "left_motion": hinge.left_motion,
        "right_motion": hinge.right_motion,
        "held": hinge.held,
        "common": hinge.common,
        "added": hinge.added,
        "lifted": hinge.lifted,
        "finger_changes": [_change_fields(change, new) for change in hinge.changes],
        "moves": [_step_fields(step, old, new) for step in hinge.moving],
        "words": solution.words(index),
        "cost": hinge.cost / UNIT,
    }


def solution_fields(song: Song, solution: Solution, seconds: float) -> dict[str, Any]:
    """The whole document of the verb `voice`. `seconds` is the solving time; cost is in units (one semitone)."""
    totals = solution.totals
    return {
        "title": song.title,
        "key": song.key,
        "tempo": song.tempo,
        "meter": str(song.meter),
        "total": {
            "motion": totals.motion,
            "left_motion": totals.left_motion,
            "right_motion": totals.right_motion,
            "held": totals.held,
            "largest_move": totals.largest_move,
            "cost": totals.cost / UNIT,
            "exact": totals.exact,
            "gap": totals.gap / UNIT,
            "style": solution.style_words(),
            "seconds": round(seconds, 6),
        },
        "voicings": [voicing_fields(v, solution, song) for v in solution.voicings],
        "hinges": [hinge_fields(i, solution) for i in range(len(solution.hinges))],
    }


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
