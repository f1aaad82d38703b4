"""What a chord can become where it stands: the table, each result once, in the time there is."""

from __future__ import annotations

from collections.abc import Iterable
from fractions import Fraction
from functools import lru_cache

from yellow_hinge.core.reharm.context import Context, Idea, in_key
from yellow_hinge.core.reharm.table import SUBSTITUTES, Substitute, shares
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.tables import made_of_entries

Sound = tuple[tuple[frozenset[int], int], ...]
Offered = tuple[Substitute, Idea, tuple[Fraction, ...]]


@lru_cache(maxsize=8192)
def sound(chords: tuple[Chord, ...]) -> Sound:
    """What chords sound, however they are named: their notes and their bass."""
    return tuple((frozenset((*c.pitch_classes, c.bass_note.pc)), c.bass_note.pc) for c in chords)


@made_of_entries
@lru_cache(maxsize=1)
def _mine_first() -> tuple[Substitute, ...]:
    """All kinds, those of the player's shelf first, so that theirs is the name where others sound the same."""
    return tuple(sorted(SUBSTITUTES.values(), key=lambda kind: not kind.mine))


def ideas(scene: Context, kinds: Iterable[Substitute] | None = None) -> list[Offered]:
    """Every idea of some kinds, of all where none are named, that has time. Of what sounds the same the first stays,
    and nothing that sounds as written.
    """
    found: list[Offered] = []
    now = (scene.here, *(each.chord for each in scene.ahead))
    seen: set[tuple[int, Sound]] = set()
    for kind in _mine_first() if kinds is None else kinds:
        for made in kind.make(scene):
            written = now[: made.span]
            chords = tuple(c if c in written else in_key(c, scene.key) for c in made.chords)
            idea = made._replace(chords=chords)
            beats, name = shares(idea, scene), (made.span, sound(chords))
            if beats is not None and name not in seen and name[1] != sound(written):
                seen.add(name)
                found.append((kind, idea, beats))
    return found
