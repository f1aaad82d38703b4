"""The table of what a player may ask of the hands, for a song, a section, a bar or a chord. Setups, wishes of parts,
what holds at a chord, headers of charts, the command line, the command box and the strip over the map read it: a new
wish is one entry and its fields here, and what it does.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Literal, NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import MOST_NOTES
from yellow_hinge.core.leading.asking.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.asking.manners import manner_id, manners
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.leading.prices.weights import STYLES, style_named
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.shapes.catalogue import MINE, shape_ids, shape_of

COLOUR_LEVELS = ("as written", "sevenths", "ninths and sixths", "thirteenths and altered")
ALL = "all"  # every family that suits the bass, the unusual ones too; the widest only where it is named as well
FARTHEST_LIFT = 24
INTERVALS = {3: "a third", 5: "a fourth", 7: "a fifth", 12: "an octave"}

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


def _number(name: str) -> Callable[[str], int]:
    def read(text: str) -> int:
        if not re.fullmatch(r"[+-]?\d{1,3}", text.strip()):
            raise UserError(f"{name}={text[:12]} is not a whole number")
        return int(text)

    return read


def _one_of(name: str, **values: Any) -> Callable[[str], Any]:
    def read(text: str) -> Any:
        if text.strip().lower() not in values:
            raise UserError(f"{name}={text[:12]} is neither {' nor '.join(values)}")
        return values[text.strip().lower()]

    return read


def read_families(text: str) -> tuple[str, ...]:
    """Families joined by commas, or by plus signs before the next one; a shape of the player's own may have a plus in
    its name.
    """
    known = "|".join(map(re.escape, (*shape_ids(), MINE, ALL)))
    return tuple(filter(None, map(str.strip, re.split(rf",|\+(?=\s*(?:{MINE}:|(?:{known})\s*(?:[,+]|$)))", text))))


def read_fullness(text: str) -> tuple[int, int]:
    """(left, right) of "2+3" or "2,3". Raises UserError."""
    found = re.fullmatch(r"\s*(\d)\s*[,+]\s*(\d)\s*", text)
    if found is None:
        raise UserError(f"{text[:20]!r} is no fullness; write the notes of the left and of the right hand: 2+3")
    return int(found[1]), int(found[2])


# --- what is none ---


def _a_level(colour: int) -> None:
    if not 0 <= colour < len(COLOUR_LEVELS):
        raise UserError(f"colour level {colour} is not one of 0 to {len(COLOUR_LEVELS) - 1}")


def _hands_full(fullness: tuple[int, int]) -> None:
    if not all(0 <= notes <= MOST_NOTES for notes in fullness):
        raise UserError(f"a hand plays 0 to {MOST_NOTES} notes, 0 for as many as come")


def _near(by: int) -> None:
    if abs(by) > FARTHEST_LIFT:
        raise UserError(f"a register climbs or drops by at most {FARTHEST_LIFT} semitones")


def _strange(what: str, word: str, words: tuple[str, ...]) -> str:
    near = nearest(word, words)
    hint = f"did you mean {near!r}? " if near else ""
    return f"{word[:30]!r} is not a {what}; {hint}known: {', '.join(words)}"


def _strange_style(style: str, own: tuple[str, ...]) -> list[str]:
    return [] if style in STYLES else [_strange("style", style, tuple(STYLES))]


def strange_manner(manner: str, own: tuple[str, ...] = ()) -> list[str]:
    """A sentence where a manner is unknown; none for no manner."""
    return [] if manner in ("", NO_MANNER, *manners()) else [_strange("manner", manner, tuple(manners()))]


def _strange_families(families: tuple[str, ...], own: tuple[str, ...]) -> list[str]:
    names = (*shape_ids(), MINE, ALL, *own) if families else ()
    return [_strange("family", family, names) for family in sorted({*families} - {*names})]


# --- in words ---


def fullness_words(fullness: tuple[int, int]) -> str:
    """How many notes the hands play, in words: "2 + 3 notes"."""
    return f"{fullness[0] or 'any'} + {fullness[1] or 'any'} notes" if any(fullness) else "as many notes as come"


def lift_words(by: int) -> str:
    """By how many semitones a part lies higher or lower than usual, in words: "a fourth higher"."""
    if not by:
        return "usual height"
    return f"{INTERVALS.get(abs(by), semitones(abs(by)))} {'higher' if by > 0 else 'lower'}"


def climb_words(by: int) -> str:
    """How far a part climbs or sinks from its first chord to its last, in words."""
    by_far = INTERVALS.get(abs(by), semitones(abs(by)))
    return f"{'climbs' if by > 0 else 'sinks'} by {by_far}" if by else "stays"


def family_words(families: tuple[str, ...]) -> str:
    """Some families in few words."""
    if not families:
        return "usual shapes"
    if len(families) > 1:
        return f"{len(families)} shapes"
    only = families[0]
    return shape_of(only).name if only in shape_ids() else "every shape" if only == ALL else only.partition(":")[2]


def _two(words: dict[Any, str]) -> Callable[[Any], str]:
    return lambda value: words[value]


def _offered(values: tuple[Any, ...], words: Callable[[Any], str]) -> tuple[Named, ...]:
    return tuple(Named(value, words(value)) for value in values)


NAME = "NAME"  # the form of what is kept as it is written, known or not
_FULLNESS = ((0, 0), (1, 2), (1, 3), (2, 2), (2, 3), (1, 4), (2, 4), (3, 3))
_CLIMBS = (0, 5, 7, 12, -5, -7, -12)
_LIFTS = (0, 3, 5, 7, 12, -3, -5, -7, -12)

_TABLE = (
    WishKind(
        "colour", _number("colour"), "0..3", lambda value: COLOUR_LEVELS[value], header=True, manner=True,
        prefix="colour ",
        option="0 as written .. 3 thirteenths and altered", check=_a_level,
        offers=tuple(Named(n, word, COLOUR_LEVELS[n]) for n, word in enumerate(("plain", "7", "9", "13"))),
    ),
    WishKind(
        "manner", manner_id, NAME, str, header=True, prefix="manner ", strange=strange_manner,
        option="manner of playing, see `manners`; options and the header overrule it",
    ),
    WishKind(
        "bass", _one_of("bass", mine="mine", theirs="theirs"), "mine|theirs", str, ("song",), prefix="bass ",
        header=True, manner=True, option="who has the bass", offers=(Named("mine", "Mine"), Named("theirs", "Theirs")),
    ),
    WishKind(
        "style", style_named, NAME, str, manner=True, prefix="style ", strange=_strange_style,
        option=f"style of the voice leading: {', '.join(STYLES)}",
        offers=tuple(Named(name, name, style.words) for name, style in STYLES.items()),
    ),
    WishKind(
        "families", read_families, "ID+ID", family_words, prefix="shapes: ", strange=_strange_families,
        option="hand shapes to use, ids joined by commas; all: also the unusual ones; free: any notes",
    ),
    WishKind(
        "lift", _number("lift"), "SEMITONES", lift_words, PARTS, check=_near, offers=_offered(_LIFTS, lift_words)
    ),
    WishKind(
        "climb", _number("climb"), "SEMITONES", climb_words, ("section",), check=_near,
        title="Climb or sink through the section", offers=_offered(_CLIMBS, climb_words),
    ),
    WishKind(
        "fullness", read_fullness, "L+R", fullness_words, manner=True, check=_hands_full,
        option="notes of each hand where it can, 0 for as many as come: 2,3",
        title="Notes in the hands", offers=_offered(_FULLNESS, fullness_words),
    ),
    WishKind(
        "right", _one_of("right", plays="plays", free="free"), "plays|free",
        _two({"plays": "the right hand plays", "free": "the right hand is free"}), manner=True,
        option="free: the right hand rests where the left can do", title="Right hand",
        offers=(Named("plays", "The right hand plays"), Named("free", "The right hand is free, for a tune or a solo")),
    ),
    WishKind(
        "vary", _one_of("vary", yes=True, no=False), "yes|no", _two({True: "varied", False: "not varied"}),
        offers=(Named(True, "Vary what repeats"),),
        option="a chord that comes again is moved inside",
    ),
    WishKind(
        "melody", _one_of("melody", free="free", top="top"), "top|free",
        _two({"free": "tune sung", "top": "tune on top"}),
        ("song",), manner=True, option="top: the song's melody is the right hand's top note",
        offers=(Named("free", "Sung"), Named("top", "On top")),
    ),
    WishKind(
        "loop", _one_of("loop", yes=True, no=False), "yes|no",
        _two({True: "the song goes round", False: "the song ends"}), ("song",),
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
