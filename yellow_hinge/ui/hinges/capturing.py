"""Saving the hands of a chord as a shape of the player's own, which new songs know too, and forgetting it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.shaping import with_shape, without_shape
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Option
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.parts.preferences import Preferences


def capture_shape(
    parent: QWidget, desk: Desk, tried: Option | None, preferences: Preferences, say: Callable[[str], None]
) -> None:
    """Ask for a name, and make the hands of the selected chord, as tried, a shape that every chord may use."""
    voicing = desk.selection.voicing
    if voicing is None:
        return
    both = tried.both if tried is not None else voicing.both
    symbol = write_symbol(voicing.chord)
    proposed = f"Shape {len(desk.state.setup.player.shapes) + 1}"
    name = asking.name(parent, f"A name for the hands of {symbol}, which every chord may use then:", proposed)
    if not name:
        return
    try:
        state = with_shape(desk.state, name, voicing.chord, both)
    except UserError as error:
        asking.fault(parent, str(error))
        return
    desk.put_setup(f"save the shape {name}", state.setup)
    preferences.remember_shape(state.setup.player.shapes[-1])
    say(f"{name} is among the shapes now, and used where it moves least.")


def forget_shape(desk: Desk, preferences: Preferences, shape: MyShape) -> None:
    """Take a shape from the song and from what new songs know."""
    desk.put_setup(f"forget the shape {shape.name}", without_shape(desk.state.setup, shape))
    preferences.forget_shape(shape.name)
