"""Substitutes as recipes: where a chord stands and what follows it, and the chords that take its place, in numbers.

Numbers count from the key's one, from the root of the chord that follows ("after") or from the chord's own root
("here"), always as in a major scale. `H` is the chord that is there, `A` the plain triad of the one after.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import degree_pc, simple_note
from yellow_hinge.core.reharm.context import Context, Idea, over
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import Quality
from yellow_hinge.core.symbols.symbol import parse_symbol

Frame = Literal["key", "after", "here"]


class Recipe(NamedTuple):
    """Where it stands and what it yields. `here` and `after` are places such as "4M" (a number and M for major, m for
    minor, D for a chord that sounds as a dominant, nothing for any), several with a space between, "" for any; `made`
    are the results; `needs` narrows it further.
    """

    here: str
    after: str
    made: tuple[str, ...]
    reason: str
    frame: Frame = "key"
    share: str = "even"
    needs: Callable[[Context], bool] = lambda scene: True


PLACE = re.compile(r"([b#]?[1-7]|\*)([MmD]?)")
_CLASSES = {"M": ("major",), "m": ("minor", "minor-six", "half-diminished")}


def _tonic(scene: Context, frame: Frame) -> Key | None:
    """The major scale that numbers are counted in."""
    if frame == "key":
        return Key(scene.key.tonic, "major")
    chord = scene.here if frame == "here" else scene.after
    return Key(simple_note(chord.root), "major") if chord is not None else None


def stands(chord: Chord | None, places: str, key: Key, dominant: bool = False) -> bool:
    """Whether a chord stands on one of some places of a key."""
    if not places:
        return True
    if chord is None or chord.chord_class == "diminished":
        return False
    for place in places.split():
        match = PLACE.fullmatch(place)
        assert match is not None
        number, kind = match.groups()
        step = number == "*" or (chord.root.pc - key.tonic.pc) % 12 == degree_pc(number)
        alike = not kind or (dominant if kind == "D" else chord.chord_class in _CLASSES[kind])
        if step and alike:
            return True
    return False


def _read(words: str, scene: Context, key: Key) -> Chord | None:
    """One chord of a recipe."""
    body, _, bass = words.partition("/")
    if body in ("H", "A"):
        chord = scene.here if body == "H" else scene.after
        if chord is None:
            return None
        if body == "A":
            chord = Chord(chord.root, Quality(third=chord.quality.third if chord.quality.third == "b3" else "3"))
        return over(chord, parse_symbol(bass, key).root) if bass else chord
    chord = parse_symbol(words, key)
    quality = chord.quality
    if not re.fullmatch(r"[b#]?[1-7](/.*)?", words):
        return chord
    found: Chord = msgspec.structs.replace(chord, quality=Quality("3", "5")) if quality != Quality() else chord
    return found  # a bare number is a major triad here


def cook(recipes: tuple[Recipe, ...]) -> Callable[[Context], Iterator[Idea]]:
    """What some recipes make of a chord."""

    def make(scene: Context) -> Iterator[Idea]:
        for recipe in recipes:
            key = _tonic(scene, recipe.frame)
            if key is None or scene.here.stack is not None:
                continue
            here = stands(scene.here, recipe.here, key, scene.is_dominant)
            if not (here and stands(scene.after, recipe.after, key, True) and recipe.needs(scene)):
                continue
            for words in recipe.made:
                chords = tuple(chord for word in words.split() if (chord := _read(word, scene, key)) is not None)
                if len(chords) == len(words.split()):
                    yield Idea(chords, recipe.reason, recipe.share)

    return make


# --- what a recipe needs besides its places ---


def minor_goal(scene: Context) -> bool:
    """The next chord is minor."""
    return scene.after is not None and scene.after.quality.third == "b3"


def major_goal(scene: Context) -> bool:
    """The next chord is major."""
    return scene.after is not None and scene.after.quality.third == "3" and scene.after.quality.seventh != "b7"


def lands(scene: Context) -> bool:
    """It is a five that falls into a chord at rest."""
    return scene.lands


def lands_major(scene: Context) -> bool:
    """It is a five that falls into a major chord at rest."""
    return scene.lands and major_goal(scene)


def lands_minor(scene: Context) -> bool:
    """It is a five that falls into a minor chord at rest."""
    return scene.lands and minor_goal(scene)


def in_major(scene: Context) -> bool:
    """The key is major."""
    return not scene.key.is_minor


def in_minor(scene: Context) -> bool:
    """The key is minor."""
    return scene.key.is_minor


def ends(scene: Context) -> bool:
    """It is the last chord of a section in a minor key."""
    return scene.key.is_minor and scene.moment.ends


def bare(scene: Context) -> bool:
    """It has no bass of its own."""
    return scene.here.bass is None


def long(scene: Context) -> bool:
    """It lasts a bar or more and has no bass of its own."""
    return scene.here.bass is None and scene.beats >= scene.moment.meter.beats


def plain_major(scene: Context) -> bool:
    """The key is major, and neither the chord nor the next one has a bass of its own."""
    return bare(scene) and in_major(scene) and (scene.after is None or scene.after.bass is None)


def one_or_four(scene: Context) -> bool:
    """It is the plain one or four of a major key."""
    return plain_major(scene) and scene.step in (0, 5)


def long_minor(scene: Context) -> bool:
    """It lasts a bar or more in a minor key."""
    return long(scene) and in_minor(scene)


def long_major(scene: Context) -> bool:
    """It lasts a bar or more in a major key."""
    return long(scene) and in_major(scene)


def bare_five(scene: Context) -> bool:
    """It is a five that lands, without a bass of its own."""
    return scene.lands and bare(scene)


def strong_goal(scene: Context) -> bool:
    """What follows is no minor chord."""
    return scene.after is not None and scene.after.chord_class != "minor"


# --- the recipes, by the id of their kind ---
