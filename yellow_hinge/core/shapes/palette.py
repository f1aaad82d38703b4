"""What may sound over a chord at a colour level, and what must: the chord's palette."""

from __future__ import annotations

from functools import lru_cache

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.functions import Around, function_of, surroundings
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import CLASS_RULES, ClassRule, Quality, chord_class

_PLACE_OF = {"9": ("b9", "9", "#9"), "11": ("11", "#11"), "13": ("b13", "13", "6")}


class Palette(msgspec.Struct, frozen=True):
    """The degrees a chord may be voiced with.

    tones: as written; must: have to sound; colours: may be added at this level; places: what each stack place
    ("1" "3" "5" "7" "9" "11" "13") may be played as; bass: semitones of the written bass above the root; level:
    of colour; dark: a dominant that goes down a fifth to a minor chord; tied: (colour, tone) pairs of which the first
    sounds only with the second; apart: pairs that never sound together; choice: groups of which one has to sound.
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
    apart: tuple[tuple[str, str], ...] = ()
    choice: tuple[tuple[str, ...], ...] = ()

    def place(self, name: str) -> tuple[str, ...]:
        """The degrees that may stand on a place; () where the chord has none."""
        return dict(self.places).get(name, ())


_TOKENS = {"b7!": "b7", "7!": "7"}


def _colours(quality: Quality, level: int, around: Around, bass: int) -> tuple[str, ...]:
    """The degrees that a level adds by what the chord does, before what is written has its say."""
    row = function_of(quality, around)
    bare = not (quality.seventh or quality.sixth)
    found = []
    for degree in row.upto(level):
        if degree in ("7", "b7") and bare and around.seventh != degree:
            continue  # not the key's own
        found.append(_TOKENS.get(degree, degree))
    if not bare:
        found = [d for d in found if d not in ("6", "7", "b7")]
    if bass or around.goes == "relative":  # with a sixth it would be the chord beside it
        found = [d for d in found if d not in ("6", "11")]
    if "#11" in found and row.class_ == "major" and 6 not in around.scale:
        found.remove("#11")
    return tuple(d for d in dict.fromkeys(found) if d not in row.never and degree_pc(d) not in around.line)


def _over_bass(colours: tuple[str, ...], quality: Quality, bass: int, level: int) -> tuple[str, ...]:
    """Of the colours, those that a written bass bears: over a note of the chord its ninth, and over its third its own
    major seventh; over a foreign one, none that would give the bass a third or rub against it.
    """
    foreign: tuple[int, ...] = ()
    if bass in {degree_pc(degree) for degree in quality.degrees}:
        third = quality.third == "3" and bass == degree_pc("3")
        allowed = ({"9"} if level >= 2 else set()) | ({"7"} if third and level >= 3 else set())
        colours = tuple(d for d in colours if d in allowed)
    else:
        foreign = (3, 4)
    return tuple(d for d in colours if (degree_pc(d) - bass) % 12 not in (1, 11, *foreign))


_AGAINST_FIFTH = {"b5": ("#11",), "#5": ("b13", "13", "6")}


def _settled(colours: tuple[str, ...], quality: Quality, avoid: tuple[str, ...]) -> tuple[str, ...]:
    """Colours that do not fight with what is written: one kind of ninth, eleventh and thirteenth stays."""
    written = set(quality.degrees)
    taken = {place for place, kinds in _PLACE_OF.items() if written & set(kinds)}
    kept = []
    for degree in colours:
        place = next((p for p, kinds in _PLACE_OF.items() if degree in kinds), "7")
        clash = place in taken or degree in avoid or degree in written
        if not clash and degree not in _AGAINST_FIFTH.get(quality.fifth, ()):
            kept.append(degree)
    return tuple(kept)


@lru_cache(maxsize=8192)
def relative_palette(quality: Quality, bass: int, level: int, around: Around) -> Palette:
    """The palette of a quality apart from its root; see `palette`. Cached, since songs repeat few qualities."""
    rule = CLASS_RULES[chord_class(quality)]
    colours = _settled(_colours(quality, level, around, bass), quality, rule.avoid)
    colours = _over_bass(colours, quality, bass, level) if bass else colours
    tied, apart = _bound(colours, quality)
    return Palette(
        quality.degrees,
        _must(quality, rule, bass),
        colours,
        _places(quality, colours),
        bass,
        "b9" in quality.tensions or "b9" in colours,
        level,
        around.goes == "dark" and _dominant(quality, colours),
        tied,
        apart,
        ((("b9", "#9"), ("#11", "b13")) if quality.alt else ()),
    )


def _dominant(quality: Quality, colours: tuple[str, ...]) -> bool:
    return chord_class(quality) == "dominant" or ("b7" in colours and quality.third == "3")


def _must_over(quality: Quality, bass: int) -> list[str]:
    """What has to sound over a written bass: with its root neither below nor above it would be another chord, and a
    triad over a foreign bass is whole.
    """
    foreign = bass not in {degree_pc(degree) for degree in quality.degrees}
    return ["1", quality.fifth] if foreign and not quality.seventh else ["1"]


def _must(quality: Quality, rule: ClassRule, bass: int) -> tuple[str, ...]:
    """What has to sound of what is written. Of an altered chord's tensions one or two are enough, see `choice`."""
    written = [getattr(quality, place) for place in rule.must]
    named = [] if quality.alt else list(quality.tensions)
    if not quality.seventh and len(named) > 2:
        named = named[:2]
    if quality.fifth in ("b5", "#5"):
        written.append(quality.fifth)
    if bass:
        written += _must_over(quality, bass)
    if len(named) > 2:
        named = [d for d in named if d != "9"]  # a thirteenth with alterations is full without its ninth
    return tuple(dict.fromkeys(d for d in [*written, *_named_must(quality, named)] if d))


def _places(quality: Quality, colours: tuple[str, ...]) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """What each stack place may be played as."""
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
    return tuple(places.items())


# Colours that fight in one voicing. A b13 takes the fifth's place.
_APART = (("6", "7"), ("6", "b7"), ("13", "b13"), ("9", "b9"), ("9", "#9"), ("#11", "b13"), ("9", "b13"))
_LEAN = ("13", "b13", "#11", "b9", "#9")  # on the seventh


def _lean(colours: tuple[str, ...]) -> list[tuple[str, str]]:
    """Colours that lean on the seventh, each with it."""
    seventh = next((d for d in ("7", "b7") if d in colours), None)
    return [(d, seventh) for d in colours if d in _LEAN] if seventh is not None else []


def _bound(
    colours: tuple[str, ...], quality: Quality
) -> tuple[tuple[tuple[str, str], ...], tuple[tuple[str, str], ...]]:
    """(tied, apart): pairs of which the first sounds only with the second, and pairs that never sound together."""
    tied = _lean(colours)
    if "6" in colours and quality.fifth == "5":
        tied.append(("6", "5"))  # a triad whose fifth gives way to an added sixth is another triad
    there = {*colours, *quality.degrees}
    apart = [pair for pair in _APART if {*pair} <= there and not {*pair} <= {*quality.degrees}]
    if "b13" in colours and quality.fifth == "5":
        apart.append(("b13", "5"))
    return tuple(tied), tuple(apart)


def _named_must(quality: Quality, named: list[str]) -> list[str]:
    """Of the written tensions, those that have to sound: alterations always, and the one that names the chord."""
    altered = [d for d in named if d[0] in "b#"]
    natural = [d for d in named if d[0] not in "b#"]
    return altered + natural[-1:] if quality.seventh else altered + natural


def palette(
    chord: Chord, key: Key, level: int, following: Chord | None, avoid: frozenset[int] = frozenset()
) -> Palette:
    """The palette of a chord in its surroundings; `avoid`: semitones above its root that no colour may be.

    level: 0 as written, 1 the key's own sevenths, 2 ninths and sixths (thirteenths on dominants), 3 thirteenths and
    altered: by what the chord does in its key (colours.toml).
    """
    bass = 0 if chord.bass is None else (chord.bass.pc - chord.root.pc) % 12
    found = relative_palette(chord.quality, bass, level, surroundings(chord, key, following, avoid))
    if chord.stack is None:
        return found
    upper = set(chord.stack[0].pitch_classes)  # all of the upper chord must sound
    must = [d for d, pc in zip(chord.degrees, chord.pitch_classes, strict=True) if pc in upper or d in found.must]
    return msgspec.structs.replace(found, must=tuple(must), colours=(), tied=(), apart=())
