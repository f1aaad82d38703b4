"""What a solution is in plain fields, as the command line prints it and the exports write it."""

from __future__ import annotations

from typing import Any

from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.prices.hinge import FingerChange, FingerStep
from yellow_hinge.core.leading.prices.reading import reads
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.pitch.key import Key, root_number, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.song import NO_CHORD, Song
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import as_typed, write_number


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
