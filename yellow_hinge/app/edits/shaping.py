"""Shapes of the player's own: captured from a chord's hands, forgotten again."""

from __future__ import annotations

import msgspec

from yellow_hinge.app.edits.state import State, changed_in
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Setup, Wish, with_player
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.shapes.catalogue import MyShape, capture
from yellow_hinge.core.symbols.chord import Chord


def with_shape(state: State, name: str, chord: Chord, both: Both) -> State:
    """The state with the shape of two hands over a chord among the player's own, where it is used at once. One of the
    same name is replaced. Raises UserError.
    """
    made = capture(name, chord, both.left, both.right)
    others = tuple(shape for shape in state.setup.player.shapes if shape.name != made.name)
    if any((shape.left, shape.right) == (made.left, made.right) for shape in others):
        raise UserError("this shape is among yours already")
    return changed_in(state, setup=with_player(state.setup, shapes=(*others, made)))


def without_shape(setup: Setup, gone: MyShape) -> Setup:
    """The setup without one of the player's shapes, also where it was chosen."""

    def rest(families: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(family for family in families if family != gone.id)

    def eased(wish: Wish) -> Wish:
        if wish.families is None or gone.id not in wish.families:
            return wish
        found: Wish = msgspec.structs.replace(wish, families=rest(wish.families) or None)
        return found

    shapes = tuple(shape for shape in setup.player.shapes if shape != gone)
    wishes = tuple(eased(wish) for wish in setup.wishes)
    done: Setup = msgspec.structs.replace(setup, families=rest(setup.families), wishes=wishes)
    return with_player(done, shapes=shapes)
