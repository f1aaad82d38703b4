"""What a chord may be coloured with, by what it does in its key."""

import pytest

from tests.tables import rows as table
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.functions import function_of, heading, rows, surroundings
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.symbols.quality import CLASS_RULES
from yellow_hinge.core.symbols.symbol import parse_symbol

CASES = table(__file__, "colours.tsv")


@pytest.mark.parametrize(("key", "chord", "following", *[f"level{n}" for n in (1, 2, 3)]), CASES)
def test_colours_go_by_function(key, chord, following, level1, level2, level3):
    place = parse_symbol(chord), parse_key(key)
    assert palette(*place, 0, parse_symbol(following)).colours == ()
    for level, allowed in enumerate((level1, level2, level3), 1):
        assert set(palette(*place, level, parse_symbol(following)).colours) == set(allowed.split()), level


@pytest.mark.parametrize(
    ("chord", "following", "goes"),
    [
        ("G7", "Cm", "dark"), ("G7", "C", "bright"), ("D7", "G7", "chain"), ("Db7", "C", "slide"), ("E7", "F", "half up"),
        ("C", "Am", "relative"), ("Am", "C", "relative"), ("C", "D", ""), ("C", "Cmaj7", "line 8 9 10 11"),
        ("Csus4", "C", "line 3 4 5 6"), ("C", "C", ""),
    ],
)  # fmt: skip
def test_where_a_chord_goes(chord, following, goes):
    assert heading(parse_symbol(chord), parse_symbol(following)) == goes


def test_every_class_has_a_row_for_any_place():
    last = {row.class_: row for row in rows()}
    assert set(last) == set(CLASS_RULES)
    for row in last.values():
        assert (row.steps, row.mode, row.goes, row.scale, row.third, row.bare) == ((), "", (), "", "", None), row.id
    for symbol in ("C", "Cm", "Cm6", "C7", "Csus4", "Csus2", "Cm7b5", "Cdim7", "C+", "C5", "C7sus4"):
        around = surroundings(parse_symbol(symbol), parse_key("F# minor"), None)
        assert function_of(parse_symbol(symbol).quality, around)


def test_colours_lean_on_and_fight_with_others():
    found = palette(parse_symbol("E"), parse_key("A minor"), 3, parse_symbol("Am"))
    assert ("b13", "b7") in found.tied
    assert ("b13", "5") in found.apart
    assert ("6", "5") in palette(parse_symbol("C"), parse_key("C"), 2, parse_symbol("F")).tied
    alt = palette(parse_symbol("F7alt"), parse_key("C"), 0, None)
    assert alt.choice == (("b9", "#9"), ("#11", "b13"))
