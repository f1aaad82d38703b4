"""What a player asks of the solver: who has the bass, colour, style, families, melody, loop and manner for the song,
and, where it differs, for a section or a chord; and who plays it.
"""

from __future__ import annotations

from typing import Any

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.keeps import HeldTop
from yellow_hinge.core.leading.asking.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.asking.manners import manner_named
from yellow_hinge.core.leading.asking.wants import Wanted
from yellow_hinge.core.leading.asking.wish_words import strange_manner
from yellow_hinge.core.leading.asking.wishes import OF_MANNERS, OF_SONG, WISHES, WishKind, Words, checked
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment


class Wish(Words, frozen=True):
    """What is asked of one section, bar or chord (`at` is its id), beyond the song's setup; None asks nothing.
    `turn` limits it to one pass of a repeat (from 0), `only` to one pass of a section (see Moment.pass_id).
    """

    at: int
    turn: int | None = None
    only: tuple[int, int] | None = None

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


class Setup(Words, frozen=True):
    """The player's wishes for a song. None: what the song's header asks for, else the manner, else what is usual.
    `manner` "" is the song's own; `wanted`: what the patterns that the player chose ask of the hands, which comes from
    the playing and is kept there. Names that are not known are kept, and the usual ones used (see `unknown`).
    """

    player: Player = Player()
    families: tuple[str, ...] = ()
    vary: bool = False
    loop: bool = False
    manner: str = ""
    wishes: tuple[Wish, ...] = ()
    held: tuple[HeldTop, ...] = ()
    wanted: tuple[Wanted, ...] = ()

    def __post_init__(self) -> None:
        for words in (self, *self.wishes):
            checked(words)

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass != "theirs"


def said(setup: Setup, kind: WishKind) -> Any:
    """What holds of a wish, where no song and no manner says otherwise."""
    value = getattr(setup, kind.name)
    return kind.first if value is None else value


def with_player(setup: Setup, **fields: Any) -> Setup:
    """The setup with something changed of who plays."""
    player = msgspec.structs.replace(setup.player, **fields)
    found: Setup = msgspec.structs.replace(setup, player=player)
    return found


_ITS_OWN = ("bass", "colour")  # what a song has of its own in any manner


def in_manner_of(setup: Setup, name: str) -> Setup:
    """The setup in a manner (its id): what it sets is what nobody says otherwise, so nothing of that is said any more.
    Bass and colour stay as they are.
    """
    unsaid = {kind.name: None for kind in OF_MANNERS if kind.name not in _ITS_OWN}
    found: Setup = msgspec.structs.replace(setup, manner=name, **unsaid)
    return found


def _header(song: Song, kind: WishKind) -> Any:
    """What the song's header asks of a wish; None where it asks nothing that can be read."""
    if not (kind.header and song.asked(kind.name)):
        return None
    try:
        return kind.valued(song.asked(kind.name))
    except UserError:
        return None


def as_asked(setup: Setup, song: Song) -> Setup:
    """The wishes with what the song's header asks for where the player has not said otherwise, and what the manner
    asks where the header says nothing.
    """
    chosen = setup.manner or _header(song, WISHES["manner"]) or ""
    manner = manner_named(chosen)
    found: dict[str, Any] = {"manner": setup.manner or (manner.id if manner else "")}
    for kind in OF_MANNERS:
        usual = getattr(manner, kind.name) if manner else kind.first
        words = (getattr(setup, kind.name), _header(song, kind), usual)
        found[kind.name] = next(word for word in words if word is not None)
    done: Setup = msgspec.structs.replace(setup, **found)
    return done


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
    asked = strange_manner(_header(song, WISHES["manner"]) or "")
    return [f"{words}; it is kept, and none is used" for words in asked]


def unknown(setup: Setup) -> list[str]:
    """What a setup names that is not known, a sentence each: it is kept, and the usual is used."""
    own = tuple(shape.id for shape in setup.player.shapes)
    words = (setup, *setup.wishes)
    found = [
        sentence
        for kind in OF_SONG
        for value in dict.fromkeys(getattr(each, kind.name) for each in words)
        if value is not None
        for sentence in kind.strange(value, own)
    ]
    return list(dict.fromkeys(found))
