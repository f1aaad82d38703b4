"""The keys that a song passes through: a two-five-one outside its own key is coloured in the key it goes to."""

from __future__ import annotations

from collections.abc import Sequence

from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

TWO = ("minor", "half-diminished")
ONE = ("major", "minor", "minor-six")
FOURTH, SECOND = 5, 2  # semitones up


def local_keys(moments: Sequence[Moment], loop: bool) -> list[Key | None]:
    """For every chord the key that its colours are heard in, None where that is its section's own. Moments are those
    of chords; `loop`: the last one goes on to the first.
    """
    chords = [moment.chord for moment in moments]
    found: list[Key | None] = [None] * len(chords)
    for at, chord in enumerate(chords):
        if chord is not None:
            for spot in _region_before(chords, at, loop, moments[at].key):
                found[spot] = Key(chord.root, "major" if chord.chord_class == "major" else "minor")
    for at, chord in enumerate(chords):
        if chord is not None and found[at] is None:
            found[at] = _promised(chord, _at(chords, at + 1, loop), moments[at].key)
    return found


def _region_before(chords: list[Chord | None], at: int, loop: bool, key: Key) -> list[int]:
    """The chord at a place, where it is a key of its own, with the five and the two that lead to it; else none."""
    chord, before, two = chords[at], _at(chords, at - 1, loop), _at(chords, at - 2, loop)
    if chord is None or before is None or not _goes(before, chord) or not _is_region(chord, key):
        return []
    with_two = two is not None and two.chord_class in TWO and _falls(two, before)
    return [at, at - 1, at - 2] if with_two else [at, at - 1]


def _promised(chord: Chord, five: Chord | None, key: Key) -> Key | None:
    """The key of a two-five whose one does not come."""
    if five is None or _at_home(chord, key) or chord.chord_class not in TWO:
        return None
    if not _is_five(five) or not _falls(chord, five):
        return None
    tonic = spell_in_key((five.root.pc + FOURTH) % 12, key)
    return Key(tonic, "major" if chord.chord_class == "minor" else "minor")


def _at(chords: Sequence[Chord | None], at: int, loop: bool) -> Chord | None:
    """A chord of the row, round its ends where it loops."""
    if not 0 <= at < len(chords) and not (loop and len(chords) > 2):
        return None
    return chords[at % len(chords)]


def _falls(one: Chord, other: Chord) -> bool:
    return (other.root.pc - one.root.pc) % 12 == FOURTH


def _is_five(chord: Chord) -> bool:
    return chord.chord_class == "dominant" or (chord.chord_class == "suspended" and bool(chord.quality.seventh))


def _goes(five: Chord, one: Chord) -> bool:
    return _is_five(five) and _falls(five, one)


def _is_region(one: Chord, key: Key) -> bool:
    """Whether a chord that a five goes to is a key of its own: it is made of other notes, and no second made major."""
    raised = (one.root.pc - key.tonic.pc) % 12 == SECOND and one.chord_class == "major" and not one.quality.seventh
    return one.chord_class in ONE and not raised and not _at_home(one, key)


def _at_home(chord: Chord, key: Key) -> bool:
    return set(chord.pitch_classes) <= {note.pc for note in key.scale}
