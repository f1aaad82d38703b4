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


_PLACE = re.compile(r"([b#]?[1-7]|\*)([MmD]?)")
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
        match = _PLACE.fullmatch(place)
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

RECIPES: dict[str, tuple[Recipe, ...]] = {
    "six-four": (
        Recipe(
            "5D",
            "1",
            ("A/5 H",),
            "one over five holds the cadence back; two voices fall into the five",
            "after",
            needs=bare_five,
        ),
    ),
    "five-over": (
        Recipe(
            "5D",
            "1M",
            ("4/5", "2m7/5", "4/5 H", "2m7/5 H"),
            "the five's bass under four or two: it leads without its third",
            "after",
            needs=lands_major,
        ),
        Recipe(
            "5D",
            "1m",
            ("2m7b5/5", "4m/5"),
            "the five's bass under two or four: it leads without its third",
            "after",
            needs=lands_minor,
        ),
    ),
    "altered": (
        Recipe(
            "5D",
            "1m",
            ("57b9", "57b9b13", "57#9", "57alt"),
            "altered as its minor goal has it: the flat nine leads down",
            "after",
            needs=lands_minor,
        ),
        Recipe(
            "5D",
            "1M",
            ("57b9", "513b9", "57#9", "57#9#5", "57b13"),
            "a tone of the five bent by a half step leads into the one",
            "after",
            needs=lands_major,
        ),
    ),
    "minor-four-six": (
        Recipe(
            "5D",
            "1",
            ("4m6",),
            "minor four with its sixth in place of the five: home by a soft step",
            "after",
            needs=lands,
        ),
    ),
    "flat-two": (
        Recipe(
            "5D",
            "1M",
            ("b2maj7",),
            "the flat second's major seventh slides down into the one",
            "after",
            needs=lands_major,
        ),
    ),
    "flat-six-seven": (
        Recipe(
            "5D",
            "1M",
            ("b6 b7",),
            "flat six and flat seven climb into the one by whole steps",
            "after",
            needs=lands_major,
        ),
    ),
    "plagal": (Recipe("1M", "", ("4/1 H",), "four over one falls back into the one", needs=plain_major),),
    "common-tone": (
        Recipe("1M", "", ("1dim7 H",), "a diminished seventh on the same root opens into the one", needs=long),
    ),
    "four-minor": (
        Recipe(
            "4M",
            "1 3m 5",
            ("H 4m", "H 4m6"),
            "four turns minor on its way home; its third falls by a half step",
            needs=in_major,
        ),
    ),
    "sharp-four": (
        Recipe("4M 2m", "5", ("#4m7b5",), "the raised four's half-diminished leads up into the five"),
        Recipe("4M", "5 1", ("H #4m7b5",), "the bass climbs through the raised four", needs=bare),
        Recipe(
            "1M 6m",
            "4M",
            ("H #4m7b5",),
            "the raised four's half-diminished falls a half step into the four",
            share="late",
        ),
    ),
    "mediant": (
        Recipe(
            "1M",
            "",
            ("b6", "3"),
            "a major chord a major third away; one note stays",
            "here",
            needs=one_or_four,
        ),
    ),
    "picardy": (Recipe("1m", "", ("1",), "the last chord of a minor song lit up in major", needs=ends),),
    "dorian-four": (
        Recipe("4m", "", ("4", "47"), "the four of the dorian mode: its third is a half step higher", needs=in_minor),
    ),
    "neapolitan": (
        Recipe("2m 4m 4M 2", "5", ("b2/4",), "the flat second over the four leads into the five", needs=strong_goal),
    ),
    "augmented": (
        Recipe(
            "2m 2 4 4m b6 6m",
            "5",
            ("b67",),
            "the flat six as a seventh chord closes in on the five from both sides",
            needs=strong_goal,
        ),
    ),
    "parallel": (
        Recipe(
            "1m",
            "",
            ("1", "2/1"),
            "the tonic in its major mode, or its second step over the same bass",
            needs=long_minor,
        ),
        Recipe("1M", "", ("1m",), "the tonic in its minor mode", needs=long_major),
    ),
    "over-pedal": (Recipe("1", "", ("H 2/1", "H b2/1"), "a major chord moves over the one's bass", needs=long),),
    "walk-down": (
        Recipe("1M", "6m", ("H 5/7",), "the bass walks down over seven to six", needs=plain_major),
        Recipe(
            "1M",
            "4M",
            ("H 5/7 6m 6m/5", "H 5/7 6m"),
            "the bass walks down from one over seven and six to four",
            needs=plain_major,
        ),
    ),
    "walk-up": (
        Recipe(
            "1M",
            "4M",
            ("H 2m7 1/3", "H 1/3"),
            "the bass walks up from one over two and three to four",
            needs=plain_major,
        ),
    ),
    "steps": (
        Recipe(
            "1M", "4M", ("1maj7 2m7 3m7",), "seventh chords of the key climb by step to the four", needs=plain_major
        ),
        Recipe(
            "4M", "1M", ("4maj7 3m7 2m7",), "seventh chords of the key go down by step to the one", needs=plain_major
        ),
    ),
    "planing": (
        Recipe(
            "1m",
            "",
            ("1m9 b2m9 1m9", "b2m9 1m9"),
            "the minor ninth moves as a block a half step up and back",
            "here",
            needs=bare,
        ),
    ),
    "turnaround": (
        Recipe(
            "1M",
            "1M",
            (
                "1 6m7 2m7 57",
                "1 67 2m7 57",
                "1 #1dim7 2m7 57",
                "1 b3dim7 2m7 57",
                "3m7 67 2m7 57",
                "1maj7 b3maj7 b6maj7 b2maj7",
            ),
            "round through six, two and five, back to the one",
            needs=in_major,
        ),
        Recipe(
            "1m",
            "1m",
            ("1m 6m7b5 2m7b5 57b9", "1m b67 2m7b5 57b9"),
            "round through six, two and five, back to the one",
            needs=in_minor,
        ),
    ),
    "tag": (
        Recipe(
            "2m 5D", "1M", ("3m7 67 2m7 57",), "the ending held back: three, six, two, five, then one", needs=in_major
        ),
    ),
}
