"""A cost that no song undercuts, where a song is too large to look at all of its voicings: the cheapest voicing of
every chord, and the least that any change can cost.
"""

from __future__ import annotations

from yellow_hinge.core.leading.chain.lattice import Lattice
from yellow_hinge.core.leading.prices.motion import prices
from yellow_hinge.core.leading.prices.moves import Prices
from yellow_hinge.core.shapes.placing import SIZE


def _least_change(price: Prices) -> int:
    """The least that a change of both hands can cost: every note held, and the lines as they are liked best."""
    held = min(0, int(price.move.min())) * 2 * SIZE
    tables = [price.bass, price.top] + ([price.inner] if price.inner is not None else [])
    return held + sum(min(0, int(table.min())) for table in tables)


def lower_bound(lattice: Lattice) -> int:
    """A cost in thousandths that no song of the whole lattice undercuts."""
    places = sum(int(stage.place.cost.min()) for stage in lattice.stages)
    ways = lattice.ways if lattice.chain.loop else lattice.ways[1:]
    return places + sum(_least_change(prices(way)) for way in ways)
