"""What holds at one chord, once the wishes for its song, section and own are laid over each other."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

import msgspec

from yellow_hinge.core.hands import BrokenHands, Hands
from yellow_hinge.core.leading.asking.manners import in_manner, manner_named
from yellow_hinge.core.leading.asking.setup import Setup, Wish, said
from yellow_hinge.core.leading.asking.wants import wanted_at, wants
from yellow_hinge.core.leading.asking.wish_words import ALL
from yellow_hinge.core.leading.asking.wishes import FIRST, OF_PARTS, WISHES, AtChord
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.leading.prices.weights import STYLES, Style, Weights
from yellow_hinge.core.shapes.catalogue import MINE, WIDEST, MyShape, Shape, catalogue, offered, own_shape
from yellow_hinge.core.song.timeline import Moment

LEFT_ALONE = ("tenth-bass", "open-left", "rooted-seventh", "left-alone")  # where the right hand is free
VARIED = 6.0  # units for the same right hand again, where a chord that repeats is to be moved inside


class Asked(AtChord, frozen=True):
    """What holds at one chord once the wishes of its song, section and own are laid over each other."""

    hands: Hands
    anchored: bool = False  # some part of the song climbs or drops, so that every part stays in its register
    singer: tuple[int, int] | None = None
    shapes: tuple[MyShape, ...] = ()
    wants: tuple[str, ...] = ()  # ids of what its patterns want of the hands

    @property
    def mine(self) -> bool:
        """Whether the player's left hand has the bass."""
        return self.bass == "mine"

    @property
    def weights(self) -> Weights:
        """The prices of the style and manner that hold here."""
        weights = in_manner(self.led.weights, self.manner)
        return msgspec.structs.replace(weights, repeat=VARIED) if self.vary else weights

    @property
    def leads(self) -> Literal["left", "right"]:
        """The hand whose highest note is heard as the line: the left one where the right is free."""
        return "left" if self.right == "free" else "right"

    @property
    def led(self) -> Style:
        """The style that holds here, the usual one for a name that is not known."""
        return STYLES.get(self.style) or STYLES[FIRST.style]

    @property
    def parts(self) -> int:
        """Notes of both hands together that the manner asks for, where the player asks for no others; 0 for any."""
        known = manner_named(self.manner)
        return known.parts if known and not any(self.fullness) else 0

    def chose_size(self, side: int) -> bool:
        """Whether the player chose the number of notes of the left (0) or right (1) hand, and not the manner."""
        known = manner_named(self.manner)
        return self.fullness[side] not in (0, (known.fullness if known else FIRST.fullness)[side])

    @property
    def usual(self) -> tuple[Shape, ...]:
        """The families used where the player chooses none: the manner's, else the usual ones, the style's and their
        own.
        """
        known = manner_named(self.manner)
        names = (known.families.mine if self.mine else known.families.theirs) if known else ()
        also = (*self.led.families, *(name for want in self.wants for name in wants()[want].families))
        also = (*also, *LEFT_ALONE) if self.right == "free" and self.mine else also
        own = tuple(own_shape(shape) for shape in self.shapes)
        suiting = (shape for shape in catalogue() if shape.suits(self.bass))
        found = (s for s in suiting if s.id in also or (s.id in names if names else s.usual))
        return (*found, *own)


def unmet_sizes(asked: Asked, left: int, right: int) -> list[str]:
    """Sentences where a hand has another number of notes than the player asked for; manners and patterns ask softly."""
    found = []
    for side, (hand, has) in enumerate(zip(HANDS, (left, right), strict=True)):
        target = asked.fullness[side]
        wanted = any(wants()[want].hand == hand for want in asked.wants)
        if asked.chose_size(side) and target != has and not wanted:
            found.append(f"no {hand} hand of {target} note{'' if target == 1 else 's'} plays this chord here")
    return found


def wishes_for(setup: Setup, moment: Moment) -> tuple[Wish, ...]:
    """The wishes that cover a moment, the widest first: what comes later overrules."""
    found = [wish for wish in setup.wishes if wish.covers(moment)]
    return tuple(
        sorted(found, key=lambda wish: (moment.ids.index(wish.at), wish.turn is not None or wish.only is not None))
    )


# The nearest word on each counts; climbing is turned into lifts before, and the bass is asked of the whole song.
_HELD = tuple(WISHES[name] for name in AtChord.__struct_fields__)
_LAID = tuple(kind for kind in _HELD if kind in OF_PARTS)


def asked_at(setup: Setup, moment: Moment) -> Asked:
    """What is asked of one chord."""
    found: dict[str, Any] = {kind.name: said(setup, kind) for kind in _HELD}
    for wish in wishes_for(setup, moment):
        found |= {kind.name: value for kind in _LAID if (value := getattr(wish, kind.name)) is not None}
    player, anchored = setup.player, any(wish.lift or wish.climb for wish in setup.wishes)
    singer = player.singer if setup.melody != "top" else None
    asked = Asked(hands=player.hands, shapes=player.shapes, anchored=anchored, singer=singer, **found)
    return _wanting(asked, setup, moment)


def _wanting(asked: Asked, setup: Setup, moment: Moment) -> Asked:
    """What is asked with what the patterns want of the hands, where the player chose no families and no other number of
    notes for that hand; a left hand that somebody else's bass stands under is free.
    """
    if not setup.wanted or asked.families:
        return asked
    names, notes, hands = [], list(asked.fullness), asked.hands
    for each in wanted_at(setup.wanted, moment):
        want, side = wants()[each.want], HANDS.index(each.hand)
        if asked.chose_size(side) or (each.hand == "left" and not asked.mine):
            continue
        names.append(want.id)
        notes[side] = want.notes
        if each.breaks and want.broken:
            hands = BrokenHands(**msgspec.structs.asdict(hands), broken=want.broken)
    if not names:
        return asked
    fullness = (notes[0], notes[1])
    found: Asked = msgspec.structs.replace(asked, wants=tuple(names), fullness=fullness, hands=hands)
    return found


def climbed(setup: Setup, moments: tuple[Moment, ...]) -> Setup:
    """The setup with every wish to climb as a register for each of its chords, from none at the first to all of it at
    the last one.
    """
    steps: list[Wish] = []
    for wish in setup.wishes:
        if wish.climb:
            ids = list(dict.fromkeys(m.slot_id for m in moments if m.chord is not None and wish.covers(m)))
            share = [round(wish.climb * i / max(1, len(ids) - 1)) + (wish.lift or 0) for i in range(len(ids))]
            steps += [Wish(at, wish.turn, lift=by, only=wish.only) for at, by in zip(ids, share, strict=True)]
    found: Setup = msgspec.structs.replace(setup, wishes=(*steps, *setup.wishes)) if steps else setup
    return found


def held_top(setup: Setup, slot: int) -> int | None:
    """The MIDI number that a held top asks of a slot (its id); the last one said counts."""
    tops = [held.top for held in setup.held if slot in held.slots]
    return tops[-1] if tops else None


def chosen_shapes(asked: Asked) -> tuple[Shape, ...]:
    """The families asked for, in catalogue order, the player's own after them."""
    own = tuple(own_shape(shape) for shape in asked.shapes)
    if not asked.families:
        return asked.usual
    if ALL in asked.families:
        return (*_every(asked), *own)
    mine = tuple(shape for shape in own if shape.id in asked.families or MINE in asked.families)
    found = (*(shape for shape in catalogue() if shape.id in asked.families), *mine)
    return found or asked.usual  # of names that are not known


def _every(asked: Asked) -> Iterator[Shape]:
    widest = WIDEST in asked.families
    return (shape for shape in offered() if shape.suits(asked.bass) and (shape.id != WIDEST or widest))


def of_all(asked: Asked) -> tuple[Shape, ...]:
    """The usual families of all manners that suit the bass."""
    return tuple(s for s in catalogue() if s.usual and s.suits(asked.bass))


def _wider(shapes: tuple[Shape, ...], asked: Asked) -> Iterator[tuple[Shape, ...]]:
    """The families that those of `shapes` go on to, step by step, the widest left out."""
    seen = set(shapes)
    while shapes:
        names = {shape.wider for shape in shapes}
        shapes = tuple(s for s in catalogue() if s.id in names and s not in seen and s.suits(asked.bass))
        seen.update(shapes)
        if any(shape.id == WIDEST for shape in shapes):
            return
        if shapes:
            yield shapes


def widenings(asked: Asked) -> Iterator[tuple[Shape, ...]]:
    """The families asked for; for chords none of them fits, the next wider ones, the usual, and last the widest."""
    shapes, usual = chosen_shapes(asked), of_all(asked)
    yield shapes
    if not asked.families and asked.manner:
        yield usual
    yield from _wider(shapes, asked)
    yield asked.usual
    yield usual
    yield tuple(s for s in catalogue() if s.id == WIDEST)
