"""Laying the player's own entries beside those that ship, for everything that looks names up."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

from yellow_hinge.app.mine.folder import Mine, read_mine
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.lines.scales import OWN_SCALES
from yellow_hinge.core.own.lines import OWN_LINES
from yellow_hinge.core.reharm.shelf_routes import route
from yellow_hinge.core.reharm.table import SUBSTITUTES
from yellow_hinge.core.rhythm.fills.kinds import OWN_FILLS

_used: list[Mine] = [Mine()]
_guard = threading.Lock()


def _styles(mine: Mine) -> None:
    STYLES.put_own({style.name: style.style() for style in mine.of("style")})


def _manners(mine: Mine) -> None:
    manners().put_own({manner.id: manner.manner() for manner in mine.of("manner")})


def _substitutes(mine: Mine) -> None:
    routes = filter(None, map(route, mine.of("shelf")))
    own = (*routes, *(kind.substitute for kind in mine.of("substitute")))
    SUBSTITUTES.put_own({kind.id: kind for kind in own})


def _fills(mine: Mine) -> None:
    OWN_FILLS.put_own({fill.kind.id: fill.kind for fill in mine.of("fill")})


def _lines(mine: Mine) -> None:
    OWN_LINES.put_own({line.id: line for line in mine.of("line")})


def _scales(mine: Mine) -> None:
    OWN_SCALES.put_own({scale.id: scale for scale in mine.of("scale")})


# What is laid, by the kinds of entries that it is made of.
_LAYERS: tuple[tuple[tuple[str, ...], Callable[[Mine], None]], ...] = (
    (("fill",), _fills),
    (("line",), _lines),
    (("style",), _styles),
    (("manner",), _manners),
    (("substitute", "shelf"), _substitutes),
    (("scale",), _scales),
)


def use(mine: Mine) -> bool:
    """Take what a folder has of lead-ins, lines, styles, manners, substitutes, scales and the shelf; whether hands,
    swaps or scales may be others than before.
    """
    with _guard:
        before, _used[0] = _used[0], mine
        others = {kind for kinds, _ in _LAYERS for kind in kinds if mine.of(kind) != before.of(kind)}
        for kinds, lay in _LAYERS:
            if not others.isdisjoint(kinds):
                lay(mine)
    return bool(others - {"shelf", "fill", "line"})


def use_kind(folder: Path, kind: str) -> None:
    """Read the entries of one kind anew, which hands do not depend on, and take those that a folder holds."""
    fresh = read_mine(folder, (kind,)).entries
    others = tuple(own for own in _used[0].entries if own.kind != kind)
    use(Mine((*others, *fresh), _used[0].wrong))


def use_folder(folder: Path) -> Mine:
    """Read a folder and take what it holds."""
    mine = read_mine(folder) if folder.is_dir() else Mine()
    use(mine)
    return mine
