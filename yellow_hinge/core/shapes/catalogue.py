"""Reading and checking the catalogue of hand shapes, and the player's own shapes beside it."""

from __future__ import annotations

from functools import lru_cache
from typing import Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.shapes.rule import Rule
from yellow_hinge.core.shapes.stacks import stack_rules
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.tables import read_table

Bass = Literal["mine", "theirs", "any"]


class Shape(msgspec.Struct, frozen=True):
    """One family of hand shapes; the fields are explained at the head of catalogue.toml."""

    id: str
    name: str
    bass: Bass
    usual: bool
    wider: str
    left_low: tuple[int, int]
    left_high: int
    right_low: tuple[int, int]
    right_high: int
    home: tuple[int, int]
    prefer: float
    full: tuple[int, int]
    rule: tuple[Rule, ...] = ()
    turned: bool = False
    label: Literal["", "upper", "numbers"] = ""
    stacks: str = ""
    turns: bool = False
    borrows: bool = False

    def __hash__(self) -> int:  # tables are kept by shapes, and their rules are many
        return hash(self.id)

    def suits(self, bass: str) -> bool:
        """Whether the family can be played when `bass` ("mine" or "theirs") says who plays the bass."""
        return self.bass in ("any", bass)


class _File(msgspec.Struct, frozen=True):
    shape: tuple[Shape, ...]


FILES = ("catalogue.toml", "hands.toml")


@lru_cache(maxsize=1)
def catalogue() -> tuple[Shape, ...]:
    """Every family in the order of the data files, which is also the order that breaks ties."""
    found: list[Shape] = []
    for name in FILES:
        found += read_table(__file__, _File, name).shape
    return tuple(
        msgspec.structs.replace(
            shape, rule=(*shape.rule, *stack_rules(shape.stacks, shape.turns, shape.bass == "theirs"))
        )
        for shape in found
    )


def offered() -> tuple[Shape, ...]:
    """The families that a player may choose; those that borrow come with a pattern that wants them."""
    return tuple(shape for shape in catalogue() if not shape.borrows)


def shape_of(shape_id: str) -> Shape:
    """A family of the catalogue by its id. Raises ValueError for an unknown one."""
    return catalogue()[shape_ids().index(shape_id)]


@lru_cache(maxsize=1)
def shape_ids() -> tuple[str, ...]:
    """The ids of all families, in catalogue order."""
    return tuple(shape.id for shape in catalogue())


# --- my shapes ---------------------------------------------------------------------------------------------------

MINE = "mine"
WIDEST = "free"  # the family of any notes
_PLACES = {
    "1": "1", "b9": "9", "9": "9", "#9": "9", "b3": "3", "3": "3", "2": "9", "4": "11", "11": "11", "#11": "11",
    "b5": "5", "5": "5", "#5": "5", "b13": "13", "13": "13", "6": "13", "b7": "7", "7": "7", "bb7": "7",
}  # fmt: skip


_WORDS = frozenset(_PLACES.values()) | {"3", "7"}
LONGEST_SHAPE, FINGERS, MOST_LIFTS = 40, 5, 7  # letters of a name, notes of a hand, octaves that a note is lifted


class MyShape(msgspec.Struct, frozen=True):
    """A shape the player captured from the keys, as stacks of places that any chord fills with its own degrees."""

    name: str
    left: str
    right: str

    def __post_init__(self) -> None:
        if not 0 < len(self.name.strip()) <= LONGEST_SHAPE or "," in self.name:
            raise UserError(f"a shape needs a name of up to {LONGEST_SHAPE} characters without commas")
        for hand in (self.left, self.right):
            words = hand.split() if len(hand) <= 60 else ["?"]
            strange = [word for word in words if word.rstrip("'") not in _WORDS or word.count("'") > MOST_LIFTS]
            if len(words) > FINGERS or strange:
                raise UserError(
                    f"the shape {self.name[:40]!r}: {hand[:40]!r} are no {FINGERS} places of a chord at most"
                )
        if not (self.left.strip() or self.right.strip()):
            raise UserError(f"the shape {self.name[:40]!r} has no notes")

    @property
    def id(self) -> str:
        """Its id among the families: "mine:" and its name."""
        return f"{MINE}:{self.name}"


def _captured(notes: tuple[int, ...], chord: Chord) -> str:
    """One hand's notes (MIDI, ascending) as a stack: each note stands on the next such place above the one before it,
    and every apostrophe lifts it an octave more.
    """
    words: list[str] = []
    for index, midi in enumerate(notes):
        degree = chord.degree_of(midi)
        place = "3" if degree == chord.quality.third else "7" if degree == chord.quality.sixth else _PLACES[degree]
        lifts = 0 if index == 0 else (midi - notes[index - 1] - 1) // 12
        words.append(place + "'" * lifts)
    return " ".join(words)


def capture(name: str, chord: Chord, left: tuple[int, ...], right: tuple[int, ...]) -> MyShape:
    """The shape of two hands (MIDI, ascending) over a chord. Raises UserError for no notes, more than five in a hand
    or a name without letters.
    """
    if not left and not right:
        raise UserError("hold some notes to capture a shape")
    if max(len(left), len(right)) > FINGERS:
        raise UserError("a hand has five fingers; the shape has more notes than that in one hand")
    return MyShape(name.strip(), _captured(left, chord), _captured(right, chord))


def own_shape(mine: MyShape) -> Shape:
    """The family that a captured shape makes; it is free of the usual registers, the hands' reach bounds it."""
    rule = Rule((mine.left,), (mine.right,))
    count = (len(mine.left.split()), len(mine.right.split()))
    return Shape(
        mine.id,
        mine.name,
        "any",
        False,
        WIDEST,
        (28, 72),
        84,
        (40, 90),
        100,
        (48, 67),
        0.0,
        count,
        (rule,),
        turned=True,
    )
