"""How swaps are said in sentences; names are written with ASCII signs."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.pitch.pitch import Note
from yellow_hinge.core.reharm.melody import Judged
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.song.song import short_beats
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol

UNTESTED = "no tune here, so nothing was tested"
_NAMES = {"#11": "sharp eleven", "b13": "flat thirteen", "b9": "flat nine", "#9": "sharp nine", "9": "nine",
          "13": "thirteen", "11": "eleven"}  # fmt: skip


def chords_words(chords: tuple[Chord, ...], beats: tuple[Fraction, ...]) -> str:
    """The chords, with their beats where they share the time."""
    names = [write_symbol(chord) for chord in chords]
    if len(names) == 1:
        return names[0]
    return "  ".join(f"{name} ({short_beats(length)})" for name, length in zip(names, beats, strict=True))


def _cured_by(cure: tuple[Chord, ...] | None) -> str:
    return f"; {' '.join(map(write_symbol, cure))} cures it" if cure else ""


def melody_words(melody: tuple[Judged, ...], chords: tuple[Chord, ...], cure: tuple[Chord, ...] | None = None) -> str:
    """What the melody becomes: clashes first with their cure, then what a chord needs it to be, then the rest."""
    if not melody:
        return UNTESTED
    clashes = [note for note in melody if not note.fits]
    if clashes:
        told = dict.fromkeys(f"{n.pitch.note} is {n.becomes} of {write_symbol(chords[n.chord])}" for n in clashes)
        return f"clashes: {', '.join(told)}{_cured_by(cure)}"
    return "; ".join([*_needs(melody, chords), *_others(melody)])


def _is_needed(note: Judged) -> bool:
    return note.verdict == "colour" and note.becomes in _NAMES


def _needs(melody: tuple[Judged, ...], chords: tuple[Chord, ...]) -> dict[str, None]:
    needed = filter(_is_needed, melody)
    return dict.fromkeys(
        f"needs {n.pitch.note} as the {_NAMES[n.becomes]} of {write_symbol(chords[n.chord])}" for n in needed
    )


def _others(melody: tuple[Judged, ...]) -> list[str]:
    rest = dict.fromkeys(f"{n.pitch.note} {n.becomes}" for n in melody if not _is_needed(n))
    return [f"tune {', '.join(rest)}"] if rest else []


def bass_words(bass: tuple[Note, ...], moves: tuple[int, ...]) -> str:
    """The bass line and how it goes."""
    far = max((abs(move) for move in moves), default=0)
    if far == 0:
        how = "stays"
    elif far == 1:
        how = "by half steps"
    elif far == 2:
        how = "by step"
    elif all(abs(move) in (0, 5) for move in moves):
        how = "by fifths"
    else:
        how = "by steps and leaps" if any(abs(move) in (1, 2) for move in moves) else "by leaps"
    return f"bass {' '.join(map(str, bass))}, {how}"


def avoid_words(chords: tuple[Chord, ...]) -> str:
    """What in some chords lies a flat nine over their bass where no dominant wants it, "" for nothing."""
    found = []
    for chord in chords:
        bass = chord.bass_note
        if (bass.pc + 1) % 12 in chord.pitch_classes and chord.chord_class not in ("dominant", "suspended"):
            found.append(f"{chord.note_of((bass.pc + 1) % 12)} lies a flat nine over {bass}")
    return ", ".join(dict.fromkeys(found))


def swap_words(swap: Swap) -> str:
    """The reason, the bass and the melody in one line."""
    bass = bass_words(swap.bass, swap.bass_moves)
    return "; ".join(filter(None, (swap.reason, avoid_words(swap.chords), bass, tune_words(swap))))


def tune_words(swap: Swap) -> str:
    """What the melody becomes, and what the hands find against it."""
    words = melody_words(swap.melody, swap.chords, swap.cure)
    if swap.rubs and all(note.fits for note in swap.melody):
        return f"clashes in the hands: {', '.join(swap.rubs)}"
    return words
