"""The Shapes room: its handle, its commands, and how it is made."""

from __future__ import annotations

from typing import TYPE_CHECKING

from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.rooms import Handle
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:
    from yellow_hinge.ui.shapes.working import ShapesRoom


def make(shell: Shell) -> ShapesRoom:
    """The room."""
    from yellow_hinge.ui.shapes.view import ShapesView  # loaded when it is first looked at
    from yellow_hinge.ui.shapes.working import ShapesRoom

    return ShapesRoom(shell, ShapesView(shell.look.theme))


TIP = "What these notes are, over every bass, and where they could stand in the song"
SHAPES: Handle[ShapesRoom] = Handle("shapes", "Shapes", "Ctrl+9", TIP, make, keyboards="none")

# fmt: off
COMMANDS: Commands[ShapesRoom] = Commands(SHAPES, (
    Command("shape_read", "Chord", "Read the chord's hands", ("R",), "The hands of the selected chord, to be read here",
            lambda room: room.read_chord(), (SHAPES,)),
    Command("shape_keep", "Chord", "A shape of mine", ("M",), "Keep these hands as a shape that every chord may use",
            lambda room: room.save_shape(), (SHAPES,)),
    Command("shelf_drill", "Chord", "Round the keys with it", ("Shift+R",), "The listed entry of the shelf, in twelve",
            lambda room: room.shelf.drill(), (SHAPES,)),
    Command("unshelve", "Chord", "Off my shelf", ("Shift+Delete",), "The listed entry of mine goes; its file is kept",
            lambda room: room.shelf.take_off(), (SHAPES,)),
    Command("shape_across", "Chord", "The next class of chords", ("]",), "To the right in the catalogue of shapes",
            lambda room: room.across(1), (SHAPES,)),
    Command("shape_back", "Chord", "The class of chords before", ("[",), "To the left in the catalogue of shapes",
            lambda room: room.across(-1), (SHAPES,)),
    Command("shape_clear", "Chord", "Let all keys go", ("Delete",), "No key is held any more",
            lambda room: room.clear(), (SHAPES,)),
))
# fmt: on
