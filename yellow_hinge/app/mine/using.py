"""Laying the player's own entries beside those that ship, for everything that looks names up."""

from __future__ import annotations

import threading
from pathlib import Path
from typing import Any

from yellow_hinge.app.mine.folder import Mine, read_mine
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.lines.scales import OWN_SCALES
from yellow_hinge.core.reharm.shelf_routes import route
from yellow_hinge.core.reharm.table import SUBSTITUTES

LAID = ("style", "manner", "substitute", "scale", "shelf")  # kinds that are looked up wherever one is solved or asked
_used: list[tuple[Any, ...]] = [()]
_guard = threading.Lock()


def use(mine: Mine) -> bool:
    """Take what a folder has of styles, manners, substitutes, scales and the shelf; whether others hold now than
    before, the shelf apart.
    """
    now = tuple(mine.of(kind) for kind in LAID)
    with _guard:
        before, _used[0] = _used[0] or ((),) * len(LAID), now
        if now == before:
            return False
        styles, own_manners, substitutes, scales, shelf = now
        if styles != before[0]:
            STYLES.put_own({style.name: style.style() for style in styles})
        if own_manners != before[1]:
            manners().put_own({manner.id: manner.manner() for manner in own_manners})
        if (substitutes, shelf) != (before[2], before[4]):
            routes = filter(None, map(route, shelf))
            own = (*routes, *(kind.substitute for kind in substitutes))
            SUBSTITUTES.put_own({kind.id: kind for kind in own})
        if scales != before[3]:
            OWN_SCALES.put_own({scale.id: scale.row for scale in scales})
    return now[:-1] != before[:-1]


def use_folder(folder: Path) -> Mine:
    """Read a folder and take what it holds."""
    mine = read_mine(folder) if folder.is_dir() else Mine()
    use(mine)
    return mine
