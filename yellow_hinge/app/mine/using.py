"""Laying the player's own entries beside those that ship, for everything that looks names up."""

from __future__ import annotations

import threading
from pathlib import Path
from typing import Any

from yellow_hinge.app.mine.folder import Mine, read_mine
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.lines.scales import OWN_SCALES
from yellow_hinge.core.reharm.table import SUBSTITUTES

LAID = ("style", "manner", "substitute", "scale")  # kinds that are looked up by their names wherever one is solved
_used: list[tuple[Any, ...]] = [()]
_guard = threading.Lock()


def use(mine: Mine) -> bool:
    """Take the styles, manners, substitutes and scales of a folder; whether others hold now than before."""
    now = tuple(mine.of(kind) for kind in LAID)
    with _guard:
        if now == _used[0] or not (any(now) or any(_used[0])):
            return False
        _used[0] = now
        styles, own_manners, substitutes, scales = now
        STYLES.put_own({style.name: style.style() for style in styles})
        manners().put_own({manner.id: manner.manner() for manner in own_manners})
        SUBSTITUTES.put_own({kind.id: kind.substitute for kind in substitutes})
        OWN_SCALES.put_own({scale.id: scale.row for scale in scales})
    return True


def use_folder(folder: Path) -> Mine:
    """Read a folder and take what it holds."""
    mine = read_mine(folder) if folder.is_dir() else Mine()
    use(mine)
    return mine
