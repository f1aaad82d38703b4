"""Shapes and patterns that settings of an earlier version hold, moved into the player's folder."""

from __future__ import annotations

from pathlib import Path

from yellow_hinge.app.mine.folder import put_entry, read_mine
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.shapes.catalogue import MyShape


def move_in(folder: Path, shapes: tuple[MyShape, ...], patterns: tuple[Pattern, ...]) -> bool:
    """Write them to files of their own; what lies there already stays. Whether all of them lie there now."""
    there = {(own.kind, own.id) for own in read_mine(folder, ("shape", "pattern")).entries}
    wanted = [("shape", shape.name, shape) for shape in shapes] + [("pattern", own.id, own) for own in patterns]
    try:
        for kind, own, entry in wanted:
            if (kind, own) not in there:
                put_entry(folder, kind, entry, instead=True)
    except UserError:
        return False
    there = {(own.kind, own.id) for own in read_mine(folder, ("shape", "pattern")).entries}
    return all((kind, own) in there for kind, own, _ in wanted)
