"""Every entry by name, those that ship and the player's own, with where each is from."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.app.mine.folder import Mine
from yellow_hinge.app.mine.kinds import KINDS
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.weights import STYLES, style_id
from yellow_hinge.core.lines.scales import scale_names
from yellow_hinge.core.reharm.shelf import starter
from yellow_hinge.core.reharm.table import SUBSTITUTES
from yellow_hinge.core.rhythm.fills.kinds import fill_kinds
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.shapes.catalogue import offered

SHIPS = "ships"  # where an entry is from that is not the player's own


class Row(NamedTuple):
    """An entry; `place` is the path of its file, or SHIPS."""

    kind: str
    id: str
    name: str
    place: str

    @property
    def mine(self) -> bool:
        """Whether it is the player's own."""
        return self.place != SHIPS


def _shipped() -> dict[str, list[tuple[str, str]]]:
    """(id, name) of what ships, by kind."""
    return {
        "shelf": [(entry.id, entry.name) for entry in starter()],
        "shape": [(shape.id, shape.name) for shape in offered()],
        "pattern": [(pattern.id, pattern.name) for pattern in patterns().values()],
        "fill": [(kind.id, kind.name) for kind in fill_kinds().values()],
        "line": [],
        "style": [(style_id(name), name) for name in STYLES if name not in STYLES.own],
        "manner": [(manner.id, manner.name) for manner in manners().values() if manner.id not in manners().own],
        "substitute": [(kind.id, kind.name) for kind in SUBSTITUTES.values() if kind.id not in SUBSTITUTES.own],
        "scale": list(scale_names().items()),
    }


def every_row(mine: Mine) -> list[Row]:
    """The rows by kind, the player's own first."""
    shipped = _shipped()
    rows: list[Row] = []
    for kind in KINDS:
        rows += [Row(own.kind, own.id, own.entry.name, str(own.path)) for own in mine.entries if own.kind == kind.name]
        rows += [Row(kind.name, own, name, SHIPS) for own, name in shipped[kind.name]]
    return rows
