"""The table of what a player may ask of the hands, for a song, a section, a bar or a chord. Setups, wishes of parts,
what holds at a chord, headers of charts, the command line, the command box and the strip over the map read it: a new
wish is one entry and its fields here, and what it does.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal, NamedTuple

import msgspec

from yellow_hinge.core.leading.asking.manners import manner_id
from yellow_hinge.core.leading.asking.wish_words import (
    COLOUR_LEVELS,
    a_level,
    climb_words,
    family_words,
    fullness_words,
    hands_full,
    lift_words,
    near_names,
    number,
    one_of,
    read_families,
    read_fullness,
    strange_families,
    strange_manner,
    strange_style,
    two,
)
from yellow_hinge.core.leading.prices.weights import STYLES, style_named

Bass = Literal["mine", "theirs"]
Melody = Literal["free", "top"]
Right = Literal["plays", "free"]
Scope = Literal["song", "section", "bar", "chord"]
PARTS: tuple[Scope, ...] = ("section", "bar", "chord")  # as the ids of a moment stand


class Words(msgspec.Struct, frozen=True, kw_only=True):
    """What somebody says of each wish, None where nothing is said. `lift` is how many semitones the right hand's
    register climbs, or drops where it is negative; the left goes half as far; `climb` is how far it climbs or sinks on
    the way from a part's first chord to its last. `families` () means every usual family that suits the bass. `melody`
    "top": the song's melody is the right hand's highest note; "free": somebody else has it. `fullness`: notes that each
    hand plays where it can, left and right, 0 for as many as come; `right` "free": the right hand rests where the left
    can say the chord alone; `vary`: a chord that comes again is moved inside; `loop`: the last chord leads to the
    first; `manner`: its id.
    """

    bass: Bass | None = None
    colour: int | None = None
    style: str | None = None
    families: tuple[str, ...] | None = None
    lift: int | None = None
    climb: int | None = None
    fullness: tuple[int, int] | None = None
    right: Right | None = None
    vary: bool | None = None
    melody: Melody | None = None
    loop: bool | None = None
    manner: str | None = None


class AtChord(msgspec.Struct, frozen=True, kw_only=True):
    """What holds at a chord of each wish that can hold there, once everything that was said is laid over each other."""

    bass: Bass = "mine"
    colour: int = 0
    style: str = "Smoothest"
    families: tuple[str, ...] = ()
    lift: int = 0
    fullness: tuple[int, int] = (0, 0)
    right: Right = "plays"
    vary: bool = False
    manner: str = ""


class Holding(AtChord, frozen=True, kw_only=True):
    """What holds for a song or a part of it."""

    climb: int = 0
    melody: Melody = "free"
    loop: bool = False


class Named(NamedTuple):
    """A value that is offered, and what it is called; `tip` says more of it."""

    value: Any
    words: str
    tip: str = ""


class WishKind(NamedTuple):
    """One thing that can be asked. `read` makes its value of what a player writes and raises UserError; `form` is what
    is written; `said` names the value in the line of a section or chord, with the `prefix` in labels of edits; `at`:
    of what it is asked; `header`: a chart's header may ask it; `manner`: a manner says
    it where the player does not; `option` is its help on the command line, "" for none; `check` raises UserError for
    values that are none; `strange` says which names of a value are unknown, given those of the player's own shapes;
    `title` and `offers` are its menu on the screen.
    """

    name: str
    read: Callable[[str], Any]
    form: str
    said: Callable[[Any], str]
    at: tuple[Scope, ...] = ("song", *PARTS)
    header: bool = False
    manner: bool = False
    option: str = ""
    prefix: str = ""
    check: Callable[[Any], None] = lambda value: None
    strange: Callable[[Any, tuple[str, ...]], list[str]] = lambda value, own: []
    title: str = ""
    offers: tuple[Named, ...] = ()

    @property
    def first(self) -> Any:
        """What holds where nobody says otherwise."""
        return getattr(FIRST, self.name)

    def valued(self, text: str) -> Any:
        """The value that a player writes. Raises UserError."""
        value = self.read(text)
        self.check(value)
        return value

    def label(self, value: Any) -> str:
        """An edit that asks this."""
        return self.prefix + self.said(value)


FIRST = Holding()


# --- reading ---


# --- what is none ---


# --- in words ---


def _offered(values: tuple[Any, ...], words: Callable[[Any], str]) -> tuple[Named, ...]:
    return tuple(Named(value, words(value)) for value in values)


NAME = "NAME"  # the form of what is kept as it is written, known or not
_FULLNESS = ((0, 0), (1, 2), (1, 3), (2, 2), (2, 3), (1, 4), (2, 4), (3, 3))
_CLIMBS = (0, 5, 7, 12, -5, -7, -12)
_LIFTS = (0, 3, 5, 7, 12, -3, -5, -7, -12)

_TABLE = (
    WishKind(
        "colour", number("colour"), "0..3", lambda value: COLOUR_LEVELS[value], header=True, manner=True,
        prefix="colour ",
        option="0 as written .. 3 thirteenths and altered", check=a_level,
        offers=tuple(Named(n, word, COLOUR_LEVELS[n]) for n, word in enumerate(("plain", "7", "9", "13"))),
    ),
    WishKind(
        "manner", manner_id, NAME, str, header=True, prefix="manner ", strange=strange_manner,
        option="manner of playing, see `manners`; options and the header overrule it",
    ),
    WishKind(
        "bass", one_of("bass", mine="mine", theirs="theirs"), "mine|theirs", str, ("song",), prefix="bass ",
        header=True, manner=True, option="who has the bass", offers=(Named("mine", "Mine"), Named("theirs", "Theirs")),
    ),
    WishKind(
        "style", style_named, NAME, str, manner=True, prefix="style ", strange=strange_style,
        option=f"style of the voice leading: {', '.join(STYLES)}",
        offers=tuple(Named(name, name, style.words) for name, style in STYLES.items()),
    ),
    WishKind(
        "families", read_families, "ID+ID", family_words, prefix="shapes: ", strange=strange_families,
        option="hand shapes to use, ids joined by commas; all: also the unusual ones; free: any notes",
    ),
    WishKind(
        "lift", number("lift"), "SEMITONES", lift_words, PARTS, check=near_names, offers=_offered(_LIFTS, lift_words)
    ),
    WishKind(
        "climb", number("climb"), "SEMITONES", climb_words, ("section",), check=near_names,
        title="Climb or sink through the section", offers=_offered(_CLIMBS, climb_words),
    ),
    WishKind(
        "fullness", read_fullness, "L+R", fullness_words, manner=True, check=hands_full,
        option="notes of each hand where it can, 0 for as many as come: 2,3",
        title="Notes in the hands", offers=_offered(_FULLNESS, fullness_words),
    ),
    WishKind(
        "right", one_of("right", plays="plays", free="free"), "plays|free",
        two({"plays": "the right hand plays", "free": "the right hand is free"}), manner=True,
        option="free: the right hand rests where the left can do", title="Right hand",
        offers=(Named("plays", "The right hand plays"), Named("free", "The right hand is free, for a tune or a solo")),
    ),
    WishKind(
        "vary", one_of("vary", yes=True, no=False), "yes|no", two({True: "varied", False: "not varied"}),
        offers=(Named(True, "Vary what repeats"),),
        option="a chord that comes again is moved inside",
    ),
    WishKind(
        "melody", one_of("melody", free="free", top="top"), "top|free",
        two({"free": "tune sung", "top": "tune on top"}),
        ("song",), manner=True, option="top: the song's melody is the right hand's top note",
        offers=(Named("free", "Sung"), Named("top", "On top")),
    ),
    WishKind(
        "loop", one_of("loop", yes=True, no=False), "yes|no",
        two({True: "the song goes round", False: "the song ends"}), ("song",),
        option="close the song on its first chord", offers=(Named(True, "The song goes round"),),
    ),
)  # fmt: skip
WISHES = {kind.name: kind for kind in _TABLE}
OF_SONG = tuple(kind for kind in _TABLE if "song" in kind.at)
OF_PARTS = tuple(kind for kind in _TABLE if set(PARTS) & set(kind.at))
OF_MANNERS = tuple(kind for kind in _TABLE if kind.manner)

if not (tuple(sorted(WISHES)) == tuple(sorted(Words.__struct_fields__)) == tuple(sorted(Holding.__struct_fields__))):
    raise TypeError("every wish has an entry, a word and what holds")


def checked(words: Words) -> None:
    """Raises UserError where a value is none."""
    for kind in _TABLE:
        value = getattr(words, kind.name)
        if value is not None:
            kind.check(value)


def words_of(words: Words) -> list[str]:
    """What is said, a few words each."""
    found = ((kind, getattr(words, kind.name)) for kind in OF_PARTS)
    return [kind.said(value) for kind, value in found if value is not None]
