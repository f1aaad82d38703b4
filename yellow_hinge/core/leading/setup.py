"""What a player asks of the solver: who has the bass, the hands, colour, style, families, melody, loop and keeps, for
the song and, where it differs, for a section or a chord.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import msgspec

from yellow_hinge.core.chord import same_chord
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.weights import STYLES, Weights
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.shapes.catalogue import MINE, MyShape, Shape, catalogue, own_shape, shape_ids
from yellow_hinge.core.song import Song
from yellow_hinge.core.symbol import parse_symbol
from yellow_hinge.core.timeline import Moment

COLOUR_LEVELS = ("as written", "sevenths", "ninths and sixths", "thirteenths and altered")
ALL = "all"  # every family that suits the bass, the unusual ones too; the widest only where it is named as well
WIDEST = "free"
FARTHEST_LIFT = 24
MOST_NOTES = 5  # of a hand

Part = Literal["chord", "left", "right", "top", "bass"]


Right = Literal["plays", "free"]


class Wish(msgspec.Struct, frozen=True):
    """What is asked of one section, bar or chord (`at` is its id), beyond the song's setup; None asks nothing.
    `turn` limits it to one pass of a repeat (from 0). `lift` is how many semitones the right hand's register climbs, or
    drops where it is negative; the left goes half as far. `fullness` and `right` as for a song.
    """

    at: int
    turn: int | None = None
    colour: int | None = None
    style: str | None = None
    families: tuple[str, ...] | None = None
    lift: int | None = None
    fullness: tuple[int, int] | None = None
    right: Right | None = None

    def covers(self, moment: Moment) -> bool:
        """Whether a moment of the timeline lies in it."""
        return self.at in moment.ids and self.turn in (None, moment.turn)


class HeldTop(msgspec.Struct, frozen=True):
    """A note (MIDI) that stays on top of the right hand through some slots (their ids)."""

    slots: tuple[int, ...]
    top: int

    def __post_init__(self) -> None:
        _check_notes((self.top,), "a held top")


class Keep(msgspec.Struct, frozen=True):
    """What is kept as the player likes it: of which slot (its id), what chord it was, and the notes (MIDI). `part` says
    what of it: both hands, one hand, the right hand's top note, or the left hand's lowest.
    """

    slot: int
    symbol: str
    left: tuple[int, ...]
    right: tuple[int, ...]
    part: Part = "chord"

    def __post_init__(self) -> None:
        for hand in (self.left, self.right):
            _check_notes(hand, "a kept hand")
            if len(hand) > MOST_NOTES:
                raise UserError(f"a kept hand has {len(hand)} notes; a hand has {MOST_NOTES} fingers")


def _check_notes(notes: tuple[int, ...], what: str) -> None:
    if not all(0 <= note <= 127 for note in notes) or len(set(notes)) != len(notes):
        raise UserError(f"{what} has the notes {' '.join(map(str, notes))[:60]}; MIDI has 0 to 127, each once")


def in_force(keep: Keep, moment: Moment) -> bool:
    """Whether a keep holds at a moment: its slot, and still its chord, however that is spelled. Else it rests there."""
    return keep.slot == moment.slot_id and moment.chord is not None and _is_chord(keep.symbol, moment)


def _is_chord(symbol: str, moment: Moment) -> bool:
    if symbol == moment.symbol and symbol[:1] in "ABCDEFG":
        return True
    try:
        kept = parse_symbol(symbol, moment.key)
    except UserError:
        return False
    return moment.chord is not None and same_chord(kept, moment.chord)


class Setup(msgspec.Struct, frozen=True):
    """The player's wishes for a song. `bass` and `colour` None: what the song's header asks for, else mine and as
    written. `families` () means every usual family that suits the bass. `melody` "top": the
    song's melody is the right hand's highest note; "free": somebody else has it. `singer`: the register (lowest,
    highest MIDI number) that the right hand leaves free. `fullness`: notes that each hand plays where it can, left and
    right, 0 for as many as come; `right` "free": the right hand rests where the left can say the chord alone.
    """

    bass: Literal["mine", "theirs"] | None = None
    hands: Hands = Hands()
    colour: int | None = None
    style: str = "Smoothest"
    families: tuple[str, ...] = ()
    loop: bool = False
    melody: Literal["free", "top"] = "free"
    singer: tuple[int, int] | None = None
    wishes: tuple[Wish, ...] = ()
    held: tuple[HeldTop, ...] = ()
    shapes: tuple[MyShape, ...] = ()
    fullness: tuple[int, int] = (0, 0)
    right: Right = "plays"

    def __post_init__(self) -> None:
        for colour in (self.colour, *(wish.colour for wish in self.wishes)):
            if colour is not None and not 0 <= colour < len(COLOUR_LEVELS):
                raise UserError(f"colour level {colour} is not one of 0 to {len(COLOUR_LEVELS) - 1}")
        for style in (self.style, *(wish.style for wish in self.wishes)):
            _known("style", style, tuple(STYLES))
        families = {*self.families, *(family for wish in self.wishes for family in wish.families or ())}
        names = (*shape_ids(), MINE, ALL, *(shape.id for shape in self.shapes)) if families else ()
        for family in sorted(families):
            _known("family", family, names)
        for asked in (self.fullness, *(wish.fullness for wish in self.wishes if wish.fullness)):
            if not all(0 <= notes <= MOST_NOTES for notes in asked):
                raise UserError(f"a hand plays 0 to {MOST_NOTES} notes, 0 for as many as come")
        if any(abs(wish.lift or 0) > FARTHEST_LIFT for wish in self.wishes):
            raise UserError(f"a register climbs or drops by at most {FARTHEST_LIFT} semitones")
        if self.singer is not None and not 0 <= self.singer[0] <= self.singer[1] <= 127:
            raise UserError("the singer's register goes from a lower to a higher note")

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass != "theirs"


def as_asked(setup: Setup, song: Song) -> Setup:
    """The wishes with what the song's header asks for where the player has not said otherwise."""
    colour, bass = song.asked("colour"), song.asked("bass")
    found: Setup = msgspec.structs.replace(
        setup,
        colour=setup.colour if setup.colour is not None else int(colour) if colour.isdecimal() else 0,
        bass=setup.bass or ("theirs" if bass == "theirs" else "mine"),
    )
    return found


def _known(what: str, word: str | None, words: tuple[str, ...]) -> None:
    if word is not None and word not in words:
        near = nearest(word, words)
        hint = f"did you mean {near!r}? " if near else ""
        raise UserError(f"{word[:30]!r} is not a {what}; {hint}known: {', '.join(words)}")


class Asked(msgspec.Struct, frozen=True):
    """What holds at one chord once the wishes of its song, section and own are laid over each other."""

    bass: Literal["mine", "theirs"]
    hands: Hands
    colour: int
    style: str
    families: tuple[str, ...]
    lift: int
    anchored: bool  # some part of the song climbs or drops, so that every part stays in its register
    singer: tuple[int, int] | None
    shapes: tuple[MyShape, ...]
    fullness: tuple[int, int] = (0, 0)
    right: Right = "plays"

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass == "mine"

    @property
    def weights(self) -> Weights:
        """The prices of the style that holds here."""
        return STYLES[self.style].weights


def wishes_for(setup: Setup, moment: Moment) -> tuple[Wish, ...]:
    """The wishes that cover a moment, the widest first: what comes later overrules."""
    found = [wish for wish in setup.wishes if wish.covers(moment)]
    return tuple(sorted(found, key=lambda wish: (moment.ids.index(wish.at), wish.turn is not None)))


def asked_at(setup: Setup, moment: Moment) -> Asked:
    """What is asked of one chord."""
    colour, style, families, lift = setup.colour or 0, setup.style, setup.families, 0
    fullness, right = setup.fullness, setup.right
    for wish in wishes_for(setup, moment):
        colour = colour if wish.colour is None else wish.colour
        style = style if wish.style is None else wish.style
        families = families if wish.families is None else wish.families
        lift = lift if wish.lift is None else wish.lift
        fullness = fullness if wish.fullness is None else wish.fullness
        right = right if wish.right is None else wish.right
    singer = setup.singer if setup.melody == "free" else None
    anchored = any(wish.lift for wish in setup.wishes)
    bass: Literal["mine", "theirs"] = "mine" if setup.mine else "theirs"
    where = lift, anchored, singer
    return Asked(bass, setup.hands, colour, style, families, *where, setup.shapes, fullness, right)


def held_top(setup: Setup, slot: int) -> int | None:
    """The MIDI number that a held top asks of a slot (its id); the last one said counts."""
    tops = [held.top for held in setup.held if slot in held.slots]
    return tops[-1] if tops else None


def chosen_shapes(asked: Asked) -> tuple[Shape, ...]:
    """The families asked for, in catalogue order, the player's own after them."""
    own = tuple(own_shape(shape) for shape in asked.shapes)
    if ALL in asked.families:
        widest = WIDEST in asked.families
        return (*(s for s in catalogue() if s.suits(asked.bass) and (s.id != WIDEST or widest)), *own)
    if asked.families:
        mine = tuple(shape for shape in own if shape.id in asked.families or MINE in asked.families)
        return (*(shape for shape in catalogue() if shape.id in asked.families), *mine)
    also = STYLES[asked.style].families
    return tuple(s for s in catalogue() if (s.usual or s.id in also) and s.suits(asked.bass))


def widenings(asked: Asked) -> Iterator[tuple[Shape, ...]]:
    """The families asked for; for chords none of them fits, the next wider ones, the usual, and last the widest."""
    shapes = chosen_shapes(asked)
    seen = set(shapes)
    yield shapes
    while shapes:
        names = {shape.wider for shape in shapes}
        shapes = tuple(s for s in catalogue() if s.id in names and s not in seen and s.suits(asked.bass))
        seen.update(shapes)
        if any(shape.id == WIDEST for shape in shapes):
            break
        if shapes:
            yield shapes
    yield tuple(s for s in catalogue() if s.usual and s.suits(asked.bass))
    yield tuple(s for s in catalogue() if s.id == WIDEST)
