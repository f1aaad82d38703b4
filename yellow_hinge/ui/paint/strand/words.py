"""What the map says of a chord, for screen readers."""

from __future__ import annotations

from yellow_hinge.core.leading.prices.remarks import CALM
from yellow_hinge.ui.paint.strand.strands import (
    BESIDE,
    RESTS,
    Column,
    StrandScene,
)


def unique_kinds(column: Column) -> list[str]:
    """The kinds of a column's remarks that are marked, each once: that a hand is broken is how its pattern goes."""
    return [kind for kind in dict.fromkeys(remark.kind for remark in column.remarks) if kind not in CALM]


def describe(scene: StrandScene, index: int) -> str:
    """The selected column in words, for screen readers."""
    column = scene.columns[index]
    notes = ", ".join(f"{p.mark.hand} {p.mark.name} {p.mark.degree}" for p in column.plates)
    told = "".join(f"; {remark.words}" for remark in column.remarks)
    parts = sorted(column.kept - {RESTS, BESIDE})
    kept = f"; kept: {', '.join(parts)}" if parts else ""
    kept += "; changed though nobody touched it" if BESIDE in column.kept else ""
    kept += "; what was kept of another chord rests" if RESTS in column.kept else ""
    motion = f"{column.hinge or 'no'} semitone{'' if column.hinge == '1' else 's'}"
    return f"{column.symbol}: {notes}; {motion} to the next chord{kept}{told}"
