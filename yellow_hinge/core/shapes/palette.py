"""What may sound over a chord at a colour level, and what must: the chord's palette."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.key import Key, diatonic_seventh
from yellow_hinge.core.pitch import degree_pc
from yellow_hinge.core.quality import (
    CLASS_RULES,
    DARK_DOMINANT,
    DORIAN_COLOUR,
    LYDIAN_COLOUR,
    PHRYGIAN_COLOUR,
    Quality,
    chord_class,
)

_PLACE_OF = {"9": ("b9", "9", "#9"), "11": ("11", "#11"), "13": ("b13", "13", "6")}


class Palette(msgspec.Struct, frozen=True):
    """The degrees a chord may be voiced with.

    tones: as written; must: have to sound; colours: may be added at this level; places: what each stack place
    ("1" "3" "5" "7" "9" "11" "13") may be played as; bass: semitones of the written bass above the root; level:
    of colour; dark: a dominant that goes down a fifth to a minor chord; tied: (colour, tone) pairs of which the first
    sounds only with the second.
    """

    tones: tuple[str, ...]
    must: tuple[str, ...]
    colours: tuple[str, ...]
    places: tuple[tuple[str, tuple[str, ...]], ...]
    bass: int
    flat_nine: bool
    level: int = 0
    dark: bool = False
    tied: tuple[tuple[str, str], ...] = ()

    def place(self, name: str) -> tuple[str, ...]:
        """The degrees that may stand on a place; () where the chord has none."""
        return dict(self.places).get(name, ())


class Around(NamedTuple):
    """What of a chord's surroundings its colours depend on: the key's own seventh over its root ("" for none), whether
    it is a dominant that goes down a fifth to minor (dark), a two (dorian), a minor chord of the key whose ninth is
    not (phrygian), or a dominant that stands in for another (lydian).
    """

    seventh: str = ""
    dark: bool = False
    dorian: bool = False
    phrygian: bool = False
    lydian: bool = False
    bright: bool = False  # the raised fourth would leave a key that holds the root


def _colours(quality: Quality, row: str, level: int, around: Around) -> tuple[str, ...]:
    seventh, dark = around.seventh, around.dark
    rule, found = CLASS_RULES[row], []
    bare = not quality.seventh and not quality.sixth
    if level >= 1 and bare and seventh and row in ("major", "minor", "dominant", "suspended"):
        found.append(seventh)
    if level >= 2:
        found += rule.colours2
    if level >= 3:
        found += rule.colours3
        found += [DORIAN_COLOUR] if row == "minor" and around.dorian else []
        found += [LYDIAN_COLOUR] if row == "dominant" and around.lydian else []
    if around.phrygian and level >= 2 and row == "minor":
        found = [d for d in found if d != "9"] + [PHRYGIAN_COLOUR]
    if row == "dominant" and dark and level >= 2:
        found = [d for d in found if d not in ("9", "13")] + list(DARK_DOMINANT[: 3 if level >= 3 else 1])
        found += ["b13"] if level == 2 else []
    if around.bright and row == "major":
        found = [d for d in found if d != "#11"]
    if row == "major" and quality.seventh:
        found = [d for d in found if d != "6"]
    if row == "suspended" and quality.seventh != "b7":
        found = [d for d in found if d != "13"]
    return tuple(dict.fromkeys(found))


def _settled(colours: tuple[str, ...], quality: Quality, avoid: tuple[str, ...]) -> tuple[str, ...]:
    """Colours that do not fight with what is written: one kind of ninth, eleventh and thirteenth stays."""
    written = set(quality.degrees)
    taken = {place for place, kinds in _PLACE_OF.items() if written & set(kinds)}
    kept = []
    for degree in colours:
        place = next((p for p, kinds in _PLACE_OF.items() if degree in kinds), "7")
        clash = place in taken or degree in avoid or degree in written
        if (degree == "#11" and quality.fifth == "b5") or (degree == "b13" and quality.fifth == "#5"):
            clash = True
        if degree in ("13", "6") and quality.fifth == "#5":
            clash = True
        if not clash:
            kept.append(degree)
    return tuple(kept)


@lru_cache(maxsize=8192)
def relative_palette(quality: Quality, bass: int, level: int, around: Around) -> Palette:
    """The palette of a quality apart from its root; see `palette`. Cached, since songs repeat few qualities."""
    bare = not (quality.seventh or quality.sixth)
    # a plain five chord is coloured as the dominant it is
    row = "dominant" if bare and around.seventh == "b7" and quality.third == "3" and quality.fifth == "5" else ""
    own = chord_class(quality)
    rule = CLASS_RULES[own]
    colours = _settled(_colours(quality, row if row and level >= 1 else own, level, around), quality, rule.avoid)
    if bass:  # the written bass is a chord note: no colour rubs against it
        colours = tuple(d for d in colours if (degree_pc(d) - bass) % 12 not in (1, 11))
    written = [getattr(quality, place) for place in rule.must]
    named = list(quality.tensions)
    if quality.alt:
        named = []  # one or two of an altered chord's tensions are enough; the third and seventh define it
    elif not quality.seventh and len(named) > 2:
        named = named[:2]
    if quality.fifth in ("b5", "#5"):
        written.append(quality.fifth)
    if bass:
        written.append("1")  # with neither its root below nor above it would be another chord
    if len(named) > 2:
        named = [d for d in named if d != "9"]  # a thirteenth with alterations is full without its ninth
    must = tuple(dict.fromkeys(d for d in [*written, *_named_must(quality, named)] if d))
    places = {
        "1": ("1",),
        "3": (quality.third,) if quality.third else (),
        "5": (quality.fifth,) if quality.fifth else ("#11", "b13") if quality.alt else (),
        "7": tuple(d for d in (quality.seventh, quality.sixth) if d)
        or tuple(d for d in colours if d in ("7", "b7", "6")),
    }
    for name, kinds in _PLACE_OF.items():
        written_kind = tuple(d for d in quality.degrees if d in kinds and d != "6")
        places[name] = written_kind or tuple(d for d in colours if d in kinds)
    flat_nine = "b9" in quality.tensions or "b9" in colours
    dark = around.dark and "dominant" in (row, own)
    # a triad whose fifth gives way to an added sixth is another triad
    added = [d for d in ("6", "13") if d in colours] if bare and quality.fifth == "5" else []
    tied = tuple((degree, "5") for degree in added)
    return Palette(quality.degrees, must, colours, tuple(places.items()), bass, flat_nine, level, dark, tied)


def _named_must(quality: Quality, named: list[str]) -> list[str]:
    """Of the written tensions, those that have to sound: alterations always, and the one that names the chord."""
    altered = [d for d in named if d[0] in "b#"]
    natural = [d for d in named if d[0] not in "b#"]
    return altered + natural[-1:] if quality.seventh else altered + natural


def heading(chord: Chord, following: Chord | None) -> str:
    """Where a chord goes, as far as its colours hear it: "dark" down a fifth to a minor one, which darkens a dominant's
    tensions, "slide" down a half step, else "".
    """
    if following is None:
        return ""
    down = (chord.root.pc - following.root.pc) % 12
    if down == 7 and following.quality.third == "b3":
        return "dark"
    return "slide" if down == 1 else ""


_LYDIAN_ROOTS = (1, 2, 10)  # above the tonic: the tritone's dominant, the second step's, the backdoor


@lru_cache(maxsize=8192)
def surroundings(chord: Chord, key: Key, following: Chord | None) -> Around:
    """What a chord's colours hear of the key and of the chord that follows."""
    goes, step = heading(chord, following), (chord.root.pc - key.tonic.pc) % 12
    own = {note.pc for note in key.scale}
    minor = chord.quality.third == "b3" and own.issuperset(chord.pitch_classes)
    return Around(
        diatonic_seventh(chord.root, key),
        goes == "dark",
        not key.is_minor and step == 2,
        minor and (chord.root.pc + degree_pc("9")) % 12 not in own and (chord.root.pc + 5) % 12 in own,
        goes == "slide" or (goes != "dark" and step in _LYDIAN_ROOTS),
        chord.root.pc in own and (chord.root.pc + 6) % 12 not in own,
    )


def palette(chord: Chord, key: Key, level: int, following: Chord | None) -> Palette:
    """The palette of a chord in its surroundings.

    level: 0 as written, 1 the key's own sevenths, 2 ninths and sixths (thirteenths on dominants), 3 thirteenths and
    altered. A dominant that goes down a fifth to a minor chord darkens its tensions.
    """
    bass = 0 if chord.bass is None else (chord.bass.pc - chord.root.pc) % 12
    found = relative_palette(chord.quality, bass, level, surroundings(chord, key, following))
    if chord.stack is None:
        return found
    upper = set(chord.stack[0].pitch_classes)  # all of the upper chord must sound
    must = [d for d, pc in zip(chord.degrees, chord.pitch_classes, strict=True) if pc in upper or d in found.must]
    return msgspec.structs.replace(found, must=tuple(must), colours=())
