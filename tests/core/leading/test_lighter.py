"""What a hand that is too wide leaves away: in order, with the least loss, and never the bass nor what is sung."""

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests import examples
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.lighter import leaving
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.remarks import strained
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.symbols.symbol import parse_symbol

HANDS = Hands(8, 8, 4, 5, 88)


def notes(text):
    return tuple(parse_pitch(name).midi for name in text.split())


def told(symbol, left, right, **asked):
    return [
        (each.hand, each.name, each.words)
        for each in leaving(Both(notes(left), notes(right)), parse_symbol(symbol), HANDS, True, **asked)
    ]


def test_the_least_that_is_missed_goes_first():
    well = "; then the hand lies well"
    assert told("C7", "C2 G2 E3", "Bb3 E4 G4") == [("left", "E3, the third", f"the other hand has it too{well}")]
    assert told("C", "C2 C3", "G3 C4 E4 A4") == [
        ("right", "G3, the fifth", f"a little thinner, the chord stays what it is{well}")
    ]
    assert told("C", "C2 G2", "C4 E4 G4 D5") == [
        ("right", "C4, the root", f"doubled: nothing is lost but weight{well}")
    ]
    assert told("Fmaj9", "F2 C3 A3", "E4 G4 C5") == [
        ("left", "A3, the third", f"the right hand takes it over, A4{well}")
    ]
    assert told("C9", "C2 C3", "Bb3 E4 D5") == [("right", "D5, the ninth", f"the line on top is another one{well}")]
    assert told("C9", "C2 C3", "Bb3 E4 D5", sung=True) == [
        ("right", "Bb3, the seventh", f"the chord is named by it{well}")
    ]
    assert told("C9", "C2 C3", "Bb3 E4 G4") == []


def test_a_hand_that_is_much_too_wide_says_how_much_is_left():
    first, second = told("Cmaj7", "C2 G2 E3 B3", "E4 G4")
    assert first == ("left", "B3, the seventh", "the chord is named by it; still 47 mm past the hand")
    assert second[2].endswith("then the hand lies well")


hand = st.lists(st.integers(0, 24), min_size=1, max_size=5, unique=True)


@settings(max_examples=examples(200), deadline=None)
@given(hand, hand, st.sampled_from(["C", "Fmaj9", "G13", "Dm7", "Bm7b5", "Eb6", "A7alt"]), st.booleans(), st.booleans())
def test_both_hands_lie_well_then_and_nothing_else_is_touched(left, right, symbol, mine, sung):
    before = Both(tuple(sorted(36 + n for n in left)), tuple(sorted(60 + n for n in right)))
    assume(not set(before.left) & set(before.right))
    away = leaving(before, parse_symbol(symbol), HANDS, mine, sung)
    both = before
    for each in away:
        assert each.midi in both.of(each.hand)
        assert each.both.of(each.hand) == tuple(n for n in both.of(each.hand) if n != each.midi)
        new = set(each.both.right) - set(both.right)
        assert {n % 12 for n in new} <= {each.midi % 12}
        both = each.both
    assert not strained(both.left, "left", HANDS)
    assert not strained(both.right, "right", HANDS)
    if mine:
        assert both.left[0] == before.left[0]
    if sung:
        assert both.right[-1] == before.right[-1]
    assert bool(away) == any(strained(before.of(name), name, HANDS) for name in ("left", "right"))
