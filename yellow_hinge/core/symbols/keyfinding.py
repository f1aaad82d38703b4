"""Which key is a chart in? From its roots, qualities and cadences, with a confidence and the runner-up."""

from __future__ import annotations

import math
from typing import NamedTuple

from yellow_hinge.core.pitch.key import Key, fifths
from yellow_hinge.core.pitch.pitch import Note, parse_note
from yellow_hinge.core.symbols.chord import Chord

# The usual names of the twelve tonics; a minor key and its relative major agree in their signs.
_MAJOR = tuple(parse_note(n) for n in ("C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"))
_MINOR = tuple(parse_note(n) for n in ("C", "C#", "D", "Eb", "E", "F", "F#", "G", "G#", "A", "Bb", "B"))
_ALL = tuple(Note(letter, alter) for letter in range(7) for alter in (-1, 0, 1))

# Points for a chord of a sort ("maj", "min", "dom", "dim") on a scale step in semitones above the tonic. What is the
# key's own counts, what players borrow counts less; the five of a key is worth most as a dominant.
_MAJOR_STEPS: dict[tuple[int, str], float] = {
    (0, "maj"): 2.0, (2, "min"): 1.2, (4, "min"): 1.0, (5, "maj"): 1.4, (7, "dom"): 1.6, (7, "maj"): 1.4, (9, "min"): 1.2,
    (11, "dim"): 0.9, (2, "dom"): 0.4, (9, "dom"): 0.4, (4, "dom"): 0.3, (11, "dom"): 0.1, (0, "dom"): 1.2,
    (5, "min"): 0.5, (5, "dom"): 0.5, (10, "dom"): 0.4, (10, "maj"): 0.3, (8, "maj"): 0.3, (3, "maj"): 0.2, (6, "dim"): 0.3,
    (1, "dim"): 0.2, (2, "dim"): 0.2, (4, "dim"): 0.2, (7, "min"): 0.2,
}  # fmt: skip
_MINOR_STEPS: dict[tuple[int, str], float] = {
    (0, "min"): 2.0, (2, "dim"): 1.4, (3, "maj"): 1.0, (5, "min"): 1.3, (7, "dom"): 1.8, (7, "min"): 0.8, (7, "maj"): 1.2,
    (8, "maj"): 1.1, (10, "maj"): 0.9, (10, "dom"): 0.8, (11, "dim"): 1.1, (5, "dom"): 0.4, (8, "dom"): 0.5, (2, "dom"): 0.3,
    (9, "dim"): 0.3, (0, "dom"): 0.2, (2, "min"): 0.4, (1, "maj"): 0.3, (1, "dom"): 0.2, (5, "maj"): 0.3,
}  # fmt: skip
_OUTSIDE = -0.7
# Points for what happens between chords and at the ends.
_FIVE_ONE, _TWO_FIVE_ONE, _TWO_FIVE, _FOUR_ONE, _FIRST, _LAST = 2.2, 1.6, 0.8, 0.9, 1.2, 2.4
_BLUES, _TURN, _BACKDOOR = 0.35, 1.2, 1.6
_SURE = 4.0  # points of lead that make a guess about two thirds sure


class KeyGuess(NamedTuple):
    """The likeliest key, how sure it is (0 to 1, from the lead over the runner-up), and the runner-up."""

    key: Key
    confidence: float
    runner_up: Key


def _sort(chord: Chord) -> str:
    third, fifth, seventh = chord.quality.third, chord.quality.fifth, chord.quality.seventh
    if third == "b3":
        return "dim" if fifth == "b5" else "min"
    if seventh == "b7":
        return "dom"
    return "maj"


def step_points(chord: Chord, tonic: int, minor: bool) -> float:
    """Points for a chord in the major or minor key of a tonic (a pitch class)."""
    steps = _MINOR_STEPS if minor else _MAJOR_STEPS
    return steps.get(((chord.root.pc - tonic) % 12, _sort(chord)), _OUTSIDE)


def _score(chords: list[tuple[Chord, float]], tonic: int, minor: bool) -> float:
    """How well a key fits: its own chords by their length, and how they go home."""
    steps = _MINOR_STEPS if minor else _MAJOR_STEPS
    total = sum(beats for _, beats in chords)
    places = [((chord.root.pc - tonic) % 12, _sort(chord)) for chord, _ in chords]
    points = sum(
        steps.get(place, _OUTSIDE) * beats for place, (_, beats) in zip(places, chords, strict=True)
    ) * len(chords) / total  # fmt: skip
    for before, place, earlier in zip(places, places[1:], [None, *places], strict=False):
        points += _goes_home(before, place, earlier, minor)
    points += _FIRST if _is_home(places[0], minor) else 0.0
    points += _LAST if _is_home(places[-1], minor) else 0.0
    if len(places) > 1 and places[-1] in ((7, "dom"), (7, "maj")) and _is_home(places[0], minor):
        points += _FIVE_ONE if places[-1][1] == "dom" else _TURN  # a turnaround leads back to the beginning
    return points


def _is_home(place: tuple[int, str], minor: bool) -> bool:
    return place[0] == 0 and place[1] in (("min",) if minor else ("maj", "dom"))


def _closes(before: tuple[int, str], earlier: tuple[int, str] | None) -> float:
    """What the chords before a one say for it."""
    if before[0] == 7 and before[1] in ("dom", "maj"):
        return _FIVE_ONE + (_TWO_FIVE_ONE if earlier is not None and earlier[0] == 2 else 0.0)
    if before[0] == 5:
        return _FOUR_ONE
    return _BACKDOOR if before == (10, "dom") else 0.0


def _goes_home(before: tuple[int, str], place: tuple[int, str], earlier: tuple[int, str] | None, minor: bool) -> float:
    """What a step from one chord to the next says for the key; `earlier` is the chord before both."""
    points = 0.0
    if _is_home(place, minor):
        weight = _BLUES if place[1] == "dom" else 1.0  # a one that is itself a seventh closes less
        points += weight * _closes(before, earlier)
    if place == (7, "dom") and before in ((2, "min"), (2, "dim")):
        points += _TWO_FIVE if (before[1] == "dim") == minor else 0.0
    return points


def find_key(chords: list[tuple[Chord, float]]) -> KeyGuess | None:
    """The key of (chord, beats) in playing order; None for no chords. Equal scores go to the major key, then to the
    lower tonic.
    """
    if not chords:
        return None
    scores = [
        (
            _score(chords, pc, minor),
            not minor,
            -pc,
            Key((_MINOR if minor else _MAJOR)[pc], "minor" if minor else "major"),
        )
        for minor in (False, True)
        for pc in range(12)
    ]
    ranked = sorted(scores, key=lambda s: s[:3], reverse=True)
    whole = [found for found in ranked if _holds_all(chords, found[3])]
    if whole:  # all chords first, cadences second
        ranked = [*whole, *(found for found in ranked if found not in whole)]
    best, second = ranked[0], ranked[1]
    confidence = 1.0 - math.exp(-max(0.0, best[0] - second[0]) / _SURE)
    mode = _mode(chords)
    if mode is not None:
        return KeyGuess(mode, _VAMP, best[3])
    return KeyGuess(_spelled_as(best[3], chords), round(confidence, 3), second[3])


_OWN = {
    "major": {(0, "maj"), (2, "min"), (4, "min"), (5, "maj"), (7, "maj"), (7, "dom"), (9, "min"), (11, "dim")},
    "minor": {(0, "min"), (2, "dim"), (3, "maj"), (5, "min"), (7, "min"), (8, "maj"), (10, "maj"), (10, "dom")},
}


def key_with_signature(signature: int, chords: list[tuple[Chord, float]]) -> Key:
    """The key of a signature (sharps, or flats below 0) that (chord, beats) are in: major or minor by their points, or
    a mode where the chords stay in it; major where there are none.
    """
    while abs(signature) > 7:
        signature += 12 if signature < 0 else -12
    names = [Key(note, mode) for mode, tonics in (("major", _ALL), ("minor", _ALL)) for note in tonics]
    major, minor = (key for key in names if fifths(key) == signature)
    if not chords:
        return major
    guess = find_key(chords)
    if guess is not None and fifths(guess.key) == signature:
        return guess.key
    return max((major, minor), key=lambda key: _score(chords, key.tonic.pc, key.mode == "minor"))


def _holds_all(chords: list[tuple[Chord, float]], key: Key) -> bool:
    """Whether every chord is the key's own, without raised steps."""
    own = _OWN[key.mode]
    return all(((chord.root.pc - key.tonic.pc) % 12, _sort(chord)) in own for chord, _ in chords)


# A mode is heard where a few chords go round its tonic: the tonic's sort, the chord that tells the mode, and the chords
# (semitones above the tonic) that would say another key. Dorian has its four major, mixolydian its flat seven ...
_MODES: tuple[tuple[str, tuple[str, ...], tuple[int, tuple[str, ...]], frozenset[int]], ...] = (
    ("dorian", ("min",), (5, ("maj", "dom")), frozenset({7, 8, 10, 11})),
    ("mixolydian", ("maj", "dom"), (10, ("maj",)), frozenset({3, 8, 11})),
    ("lydian", ("maj",), (2, ("maj", "dom")), frozenset({4, 5, 7, 9, 10})),
    ("phrygian", ("min",), (1, ("maj",)), frozenset({2, 5, 8})),
)
_MOST_OF_A_VAMP, _VAMP = 3, 0.6  # different chords, and how sure a mode is


def _mode(chords: list[tuple[Chord, float]]) -> Key | None:
    """The key of a vamp of two or three chords that begins on its tonic and has no chord of another key's."""
    tonic = chords[0][0].root.pc
    around = {((chord.root.pc - tonic) % 12, _sort(chord)) for chord, _ in chords}
    if not 2 <= len(around) <= _MOST_OF_A_VAMP or len(chords) < 4:
        return None
    for name, homes, (step, sorts), others in _MODES:
        home, told = ({(at, s) for s in own} & around for at, own in ((0, homes), (step, sorts)))
        foreign = not others.isdisjoint(at for at, _ in around) or (name == "mixolydian" and (7, "dom") in around)
        if home and told and not foreign:
            return Key(chords[0][0].root, name)
    return None


def _spelled_as(key: Key, chords: list[tuple[Chord, float]]) -> Key:
    """The key named as the chart writes its tonic, where it does: F# and not Gb in a chart of sharps."""
    written = [c.root for c, _ in chords if c.root.pc == key.tonic.pc]
    if not written:
        signs = sum((c.root.alter > 0) - (c.root.alter < 0) for c, _ in chords)
        other = _MINOR[key.tonic.pc] if signs > 0 else key.tonic
        return Key(other, key.mode) if other.pc == key.tonic.pc else key
    return Key(written[0], key.mode)
