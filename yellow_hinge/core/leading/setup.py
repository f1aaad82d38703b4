"""What a player asks of the solver: who has the bass, colour, style, families, melody, loop and manner for the song,
and, where it differs, for a section or a chord; and who plays it.
"""

from __future__ import annotations

from typing import Any, Literal

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.keeps import MOST_NOTES, HeldTop
from yellow_hinge.core.leading.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.manners import manner_id, manner_named, manners
from yellow_hinge.core.leading.wants import Wanted
from yellow_hinge.core.leading.weights import STYLES
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.shapes.catalogue import MINE, MyShape, shape_ids
from yellow_hinge.core.song import Song
from yellow_hinge.core.timeline import Moment

COLOUR_LEVELS = ("as written", "sevenths", "ninths and sixths", "thirteenths and altered")
ALL = "all"  # every family that suits the bass, the unusual ones too; the widest only where it is named as well
WIDEST = "free"
FARTHEST_LIFT = 24

Right = Literal["plays", "free"]
# What holds where nobody has said otherwise.
FIRST: dict[str, Any] = {"style": "Smoothest", "melody": "free", "fullness": (0, 0), "right": "plays"}


class Wish(msgspec.Struct, frozen=True):
    """What is asked of one section, bar or chord (`at` is its id), beyond the song's setup; None asks nothing.
    `turn` limits it to one pass of a repeat (from 0), `only` to one pass of a section (see Moment.pass_id). `lift` is
    how many semitones the right hand's register climbs, or drops where it is negative; the left goes half as far;
    `climb` is how far it climbs or sinks on the way from the part's first chord to its last. `fullness`, `right` and
    `vary` as for a song.
    """

    at: int
    turn: int | None = None
    colour: int | None = None
    style: str | None = None
    families: tuple[str, ...] | None = None
    lift: int | None = None
    fullness: tuple[int, int] | None = None
    right: Right | None = None
    climb: int | None = None
    vary: bool | None = None
    manner: str | None = None
    only: tuple[int, int] | None = None

    @property
    def of_one_pass(self) -> bool:
        """Whether it is asked of one pass alone."""
        return self.turn is not None or self.only is not None

    def covers(self, moment: Moment) -> bool:
        """Whether a moment of the timeline lies in it."""
        return self.at in moment.ids and self.turn in (None, moment.turn) and self.only in (None, moment.pass_id)


class Player(msgspec.Struct, frozen=True):
    """Who plays: the hands, the register (lowest, highest MIDI number) of the singer beside them, which the right hand
    leaves free, and shapes of their own.
    """

    hands: Hands = Hands()
    singer: tuple[int, int] | None = None
    shapes: tuple[MyShape, ...] = ()

    def __post_init__(self) -> None:
        if self.singer is not None and not 0 <= self.singer[0] <= self.singer[1] <= 127:
            raise UserError("the singer's register goes from a lower to a higher note")


class Setup(msgspec.Struct, frozen=True):
    """The player's wishes for a song. None: what the song's header asks for, else the manner, else what FIRST says.
    `families` () means every usual family that suits the bass. `melody` "top": the song's melody is the right hand's
    highest note; "free": somebody else has it. `fullness`: notes that each hand plays where it can, left and right, 0
    for as many as come; `right` "free": the right hand rests where the left can say the chord alone; `manner`: its id,
    "" for the song's own; `vary`: a chord that comes again is moved inside; `wanted`: what the patterns that the player
    chose ask of the hands, which comes from the playing and is kept there. Names that are not known are kept, and the
    usual ones used (see `unknown`).
    """

    bass: Literal["mine", "theirs"] | None = None
    player: Player = Player()
    colour: int | None = None
    style: str | None = None
    families: tuple[str, ...] = ()
    loop: bool = False
    melody: Literal["free", "top"] | None = None
    wishes: tuple[Wish, ...] = ()
    held: tuple[HeldTop, ...] = ()
    fullness: tuple[int, int] | None = None
    right: Right | None = None
    manner: str = ""
    vary: bool = False
    wanted: tuple[Wanted, ...] = ()

    def __post_init__(self) -> None:
        for colour in (self.colour, *(wish.colour for wish in self.wishes)):
            if colour is not None and not 0 <= colour < len(COLOUR_LEVELS):
                raise UserError(f"colour level {colour} is not one of 0 to {len(COLOUR_LEVELS) - 1}")
        for asked in (self.fullness, *(wish.fullness for wish in self.wishes)):
            if asked and not all(0 <= notes <= MOST_NOTES for notes in asked):
                raise UserError(f"a hand plays 0 to {MOST_NOTES} notes, 0 for as many as come")
        if any(max(abs(wish.lift or 0), abs(wish.climb or 0)) > FARTHEST_LIFT for wish in self.wishes):
            raise UserError(f"a register climbs or drops by at most {FARTHEST_LIFT} semitones")

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass != "theirs"


def said(setup: Setup, name: str) -> Any:
    """What holds of a field of FIRST, where no song and no manner says otherwise."""
    value = getattr(setup, name)
    return FIRST[name] if value is None else value


def with_player(setup: Setup, **fields: Any) -> Setup:
    """The setup with something changed of who plays."""
    player = msgspec.structs.replace(setup.player, **fields)
    found: Setup = msgspec.structs.replace(setup, player=player)
    return found


def in_manner_of(setup: Setup, name: str) -> Setup:
    """The setup in a manner (its id): what it sets is what nobody says otherwise, so nothing of that is said any more.
    Bass and colour stay as they are.
    """
    found: Setup = msgspec.structs.replace(setup, manner=name, **dict.fromkeys(FIRST))
    return found


def as_asked(setup: Setup, song: Song) -> Setup:
    """The wishes with what the song's header asks for where the player has not said otherwise, and what the manner
    asks where the header says nothing.
    """
    manner = manner_named(setup.manner or manner_id(song.asked("manner")))
    usual = {name: getattr(manner, name) for name in FIRST} if manner else FIRST
    own_words = {name: value for name in FIRST if (value := getattr(setup, name)) is not None}
    colour, bass = song.asked("colour"), song.asked("bass")
    own = (manner.colour, manner.bass) if manner else (0, "mine")
    found: Setup = msgspec.structs.replace(
        setup,
        colour=setup.colour if setup.colour is not None else int(colour) if colour.isdecimal() else own[0],
        bass=setup.bass or (bass if bass in ("mine", "theirs") else own[1]),
        manner=setup.manner or (manner.id if manner else ""),
        **usual | own_words,
    )
    return found


def chosen_manner(setup: Setup, name: str) -> Setup:
    """The setup after the player chose a manner, with its bass and colour too and its own families; or none, with bass
    and colour as they were.
    """
    known = manner_named(name)
    if known is None:
        return msgspec.structs.replace(in_manner_of(setup, NO_MANNER), melody=setup.melody)
    found: Setup = msgspec.structs.replace(
        in_manner_of(setup, name), bass=known.bass, colour=known.colour, families=(), vary=False
    )
    return found


def new_setup(player: Player, manner: str, song: Song) -> Setup:
    """The setup that a new song begins with: the player, and the manner used last where the song asks for none. Its
    colour stays as written.
    """
    if manner_named(manner) is None or song.asked("manner"):
        return Setup(player=player)
    return Setup(player=player, manner=manner, colour=None if song.asked("colour") else 0)


def unused_asks(song: Song) -> list[str]:
    """What a song's header asks for and does not get, a sentence each."""
    manner = song.asked("manner")
    if manner and manner_id(manner) not in manners():
        return [f"{_strange('manner', manner, tuple(manners()))}; it is kept, and none is used"]
    return []


def _strange(what: str, word: str, words: tuple[str, ...]) -> str:
    near = nearest(word, words)
    hint = f"did you mean {near!r}? " if near else ""
    return f"{word[:30]!r} is not a {what}; {hint}known: {', '.join(words)}"


def unknown(setup: Setup) -> list[str]:
    """What a setup names that is not known, a sentence each: it is kept, and the usual is used."""
    found = [
        _strange("style", style, tuple(STYLES))
        for style in dict.fromkeys((setup.style, *(wish.style for wish in setup.wishes)))
        if style is not None and style not in STYLES
    ]
    if setup.manner and setup.manner not in (*manners(), NO_MANNER):
        found.append(_strange("manner", setup.manner, tuple(manners())))
    families = {*setup.families, *(family for wish in setup.wishes for family in wish.families or ())}
    names = (*shape_ids(), MINE, ALL, *(shape.id for shape in setup.player.shapes)) if families else ()
    return found + [_strange("family", family, names) for family in sorted(families - {*names})]
