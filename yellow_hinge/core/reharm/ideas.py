"""What a chord can become where it stands: the table and the routes, each result once, in the time there is."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.reharm.context import Context, in_key
from yellow_hinge.core.reharm.routes import bass_walk, falling_fifths
from yellow_hinge.core.reharm.table import TABLE, Idea, Kind, shares
from yellow_hinge.core.writing import write_symbol

ROUTES: tuple[Kind, ...] = (
    Kind("walk", "Bass walk", 1, bass_walk, "way", after="root"),
    Kind("fifths", "Falling fifths", 4, falling_fifths, "fifths", after="root"),
)
KINDS = (*TABLE, *ROUTES)


def ideas(scene: Context, kinds: tuple[Kind, ...] = KINDS) -> list[tuple[Kind, Idea, tuple[Fraction, ...]]]:
    """Every idea of some kinds that has time, each sequence of chords once."""
    found = []
    seen: set[tuple[str, ...]] = {(write_symbol(scene.here),)}
    for kind in kinds:
        for made in kind.make(scene):
            chords = tuple(c if c == scene.here else in_key(c, scene.key) for c in made.chords)
            idea = made._replace(chords=chords)
            beats, name = shares(idea, scene), tuple(write_symbol(chord) for chord in idea.chords)
            if beats is not None and name not in seen:
                seen.add(name)
                found.append((kind, idea, beats))
    return found
