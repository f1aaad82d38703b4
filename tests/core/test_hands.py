"""How wide hands reach."""

import pytest

from yellow_hinge.core.hands import KEYBOARDS, OCTAVE_MM, ROLLED_KEYS, TOLERANCE_MM, WHITE_MM, Hands, reach_mm, span_mm


def test_a_rolling_left_hand_reaches_two_white_keys_farther_with_two_or_three_notes():
    still, rolls = Hands(8, 8), Hands(8, 8, roll=True)
    assert ROLLED_KEYS == 2
    for count in (2, 3):
        assert rolls.limit("left", count) == pytest.approx(reach_mm(10), abs=1e-3)
    for hand, count in (("left", 1), ("left", 4), ("right", 2), ("right", 3)):
        assert rolls.limit(hand, count) == still.limit(hand, count) == pytest.approx(reach_mm(8), abs=1e-3)


def test_an_octave_is_seven_white_keys_and_just_within_its_own_reach():
    assert pytest.approx(7 * WHITE_MM) == OCTAVE_MM == span_mm((48, 60))
    assert span_mm((48, 60)) <= reach_mm(8) + TOLERANCE_MM
    assert span_mm((48, 62)) > reach_mm(8) + TOLERANCE_MM


def test_a_keyboard_has_the_keys_that_it_is_called_by():
    assert [high - low + 1 for low, high in KEYBOARDS.values()] == list(KEYBOARDS)
