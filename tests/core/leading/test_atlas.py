"""The catalogue as a table: every cell is the chord, within the reach or said to lie beyond, and an empty one says why."""

import pytest

from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.atlas import COLUMNS, atlas
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.leading.prices.reading import is_as_written
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.catalogue import offered


@pytest.mark.parametrize(("bass", "reach"), [("mine", 8), ("theirs", 10)])
def test_every_cell_is_its_chord_and_within_the_reach_or_says_why(bass, reach):
    hands = Hands(left_reach=reach, right_reach=reach)
    rows = atlas("Eb", parse_key("Eb"), Setup(bass=bass, player=Player(hands)))
    assert [row.shape.id for row in rows] == [shape.id for shape in offered() if shape.suits(bass)]
    cells = [cell for row in rows for cell in row.cells]
    assert len(cells) == len(rows) * len(COLUMNS)
    for cell in cells:
        assert cell.within == (not cell.why)
        if cell.making is None:
            continue
        both = cell.making.both
        assert is_as_written(both, cell.chord, bass == "mine"), cell
        fits = all(span_mm(both.of(h)) <= hands.limit(h, len(both.of(h))) for h in HANDS if both.of(h))
        assert fits if cell.within else "beyond" in cell.why
    kinds = {cell.within: cell.making is not None for cell in cells}
    assert kinds[True]
    assert any("not for a" in cell.why for cell in cells)
    if bass == "mine":
        assert any("spans 8 white keys" in cell.why for cell in cells)
        assert "Pop" in next(row.manners for row in rows if row.shape.id == "pop-hands")
