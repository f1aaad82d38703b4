"""What the tune forbids the hands: one place of a chord has one colour, whoever sounds it."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.symbols.chord import Chord

# Semitones above the root that the tune sings, and those that no added colour may be then.
ONE_PLACE = {1: (2,), 2: (1,), 7: (8,), 8: (9,), 9: (8,)}
FLAT_THIRTEEN, FIFTH = 8, 7
FOURTH, MAJOR_THIRD = 5, 4
SHARP_NINE, NINTHS = 3, (1, 2)  # over a major third


def sung_over(chord: Chord, tune: tuple[int, ...]) -> frozenset[int]:
    """Semitones above a chord's root that no colour may be under some melody notes (MIDI): those a half step below one,
    and what another form of the same place is.
    """
    found: set[int] = set()
    for midi in tune:
        sung = (midi - chord.root.pc) % 12
        found |= {(sung - 1) % 12, *ONE_PLACE.get(sung, ())}
        if chord.quality.third == "3":
            found |= {SHARP_NINE} if sung == 2 else {*NINTHS} if sung == SHARP_NINE else set()
    return frozenset(found)


def under_tune(chord: Chord, tune: tuple[int, ...]) -> Chord:
    """The chord that the hands play under some melody notes (MIDI, as they come): a major third, and a major seventh
    with it, gives way to a fourth that is sung, unless the third is sung before it.
    """
    quality = chord.quality
    sung = [(midi - chord.root.pc) % 12 for midi in tune]
    fourth = FOURTH in sung and MAJOR_THIRD not in sung[: sung.index(FOURTH)]
    raised = quality.alt or {"#11", "11"} & set(quality.tensions) or quality.fifth == "b5"
    in_bass = chord.bass is not None and (chord.bass.pc - chord.root.pc) % 12 == MAJOR_THIRD
    if not fourth or raised or in_bass or quality.third != "3" or chord.stack is not None:
        return chord
    seventh = "" if quality.seventh == "7" else quality.seventh
    changed: Chord = msgspec.structs.replace(
        chord, quality=msgspec.structs.replace(quality, third="4", seventh=seventh)
    )
    return changed


def left_out(chord: Chord, tune: tuple[int, ...]) -> frozenset[int]:
    """Pitch classes of a chord that the hands leave out under some melody notes (MIDI), where they can: the natural
    fifth of a dominant whose flat thirteenth is sung.
    """
    sung = {(midi - chord.root.pc) % 12 for midi in tune}
    raised = FLAT_THIRTEEN in sung and chord.chord_class == "dominant" and chord.quality.fifth == "5"
    return frozenset({(chord.root.pc + FIFTH) % 12}) if raised else frozenset()
