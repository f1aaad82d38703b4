"""The chord-quality record, its classes and the tables of what each class must sound and may be coloured with."""

from __future__ import annotations

from functools import lru_cache

import msgspec

from yellow_hinge.core.pitch.pitch import degree_semitones

TENSIONS = ("b9", "9", "#9", "11", "#11", "b13", "13")


class Quality(msgspec.Struct, frozen=True, order=True):
    """What stands over the root, one field per place in the chord; "" where nothing stands.

    third: "3" "b3" "4" (suspended) "2" (suspended) ""; fifth: "5" "b5" "#5" ""; sixth: "6" ""; seventh: "7" "b7"
    "bb7" ""; tensions: out of TENSIONS, in that order; alt: an altered dominant whose tensions are a choice.
    """

    third: str = "3"
    fifth: str = "5"
    sixth: str = ""
    seventh: str = ""
    tensions: tuple[str, ...] = ()
    alt: bool = False

    @property
    def degrees(self) -> tuple[str, ...]:
        """The degrees as written, stacked: ("1", "b3", "5", "b7", "9")."""
        return _stacked(self)


@lru_cache(maxsize=4096)
def _stacked(quality: Quality) -> tuple[str, ...]:
    places = ("1", quality.third, quality.fifth, quality.sixth, quality.seventh, *quality.tensions)
    return tuple(degree for degree in places if degree)


class ClassRule(msgspec.Struct, frozen=True):
    """One row of the table of voicing rules: places of the quality that have to sound, and degrees never added."""

    must: tuple[str, ...]
    avoid: tuple[str, ...] = ()


# A place is a field of Quality. What is written (alterations, the extension) must always sound.
CLASS_RULES: dict[str, ClassRule] = {
    "major": ClassRule(("third", "sixth", "seventh"), ("11",)),
    "minor": ClassRule(("third", "seventh"), ("b9", "b13")),
    "minor-six": ClassRule(("third", "sixth", "seventh"), ("b7",)),
    "dominant": ClassRule(("third", "seventh"), ("11",)),
    "suspended": ClassRule(("third", "seventh"), ("3",)),
    "half-diminished": ClassRule(("third", "fifth", "seventh"), ("b9",)),
    "diminished": ClassRule(("third", "fifth", "seventh")),
    "augmented": ClassRule(("third", "fifth", "seventh"), ("5",)),
    "power": ClassRule(("fifth",)),
}


@lru_cache(maxsize=4096)
def chord_class(quality: Quality) -> str:
    """The row of CLASS_RULES that a quality belongs to."""
    third, fifth, seventh = quality.third, quality.fifth, quality.seventh
    if third in ("4", "2"):
        return "suspended"
    if not third:
        return "power" if not seventh else "dominant"
    if third == "b3":
        if fifth == "b5":
            return {"bb7": "diminished", "b7": "half-diminished"}.get(seventh, "diminished")
        return "minor-six" if quality.sixth or seventh == "7" else "minor"
    if seventh == "b7":
        return "dominant"
    return "augmented" if fifth == "#5" else "major"


def sort_tensions(tensions: set[str]) -> tuple[str, ...]:
    """Tensions in the order of TENSIONS."""
    return tuple(sorted(tensions, key=degree_semitones))
