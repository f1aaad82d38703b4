"""Hands that are entered by playing a passage through, in time or not."""

import random
from itertools import combinations_with_replacement, pairwise

import numpy as np
import pytest

from yellow_hinge.app.edits import heard
from yellow_hinge.app.edits.heard import in_order
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.hearing.strikes import Tone
from yellow_hinge.core.song.timeline import timeline

SONG = parse_chart("key: F\n| F | Dm7 | Gm7 C7 | F |")
HANDS = {
    "F": ((41, 48), (57, 60, 65)), "Dm7": ((38, 45), (60, 65, 69)), "Gm7": ((43, 50), (58, 65, 69)),
    "C7": ((36, 43), (58, 64, 69)),
}  # fmt: skip


def held(*notes, at, long=0.4):
    return [Tone(at, at + long, midi, 70) for midi in notes]


def entered(tones, first=0, last=4):
    return [(keep.symbol, keep.left, keep.right) for keep in in_order(tones, Hands(), SONG, first, last)]


def test_chords_played_in_no_time_are_the_chords_in_their_order():
    tones, at = [], 0.0
    for name, pause in (("F", 0.7), ("Dm7", 2.9), ("Gm7", 0.5), ("C7", 1.1)):
        tones += held(*HANDS[name][0], *HANDS[name][1], at=at)
        at += pause
    assert entered(tones) == [(name, *HANDS[name]) for name in ("F", "Dm7", "Gm7", "C7")]


def test_a_chord_struck_again_or_broken_counts_once_and_one_left_out_is_skipped():
    left, right = HANDS["F"]
    tones = held(*left, *right, at=0.0) + held(*left, *right, at=0.5)
    for n, midi in enumerate((*HANDS["Dm7"][0], *HANDS["Dm7"][1])):
        tones += held(midi, at=1.2 + 0.3 * n, long=2.0)
    tones += held(*HANDS["C7"][0], *HANDS["C7"][1], at=4.0)
    assert entered(tones) == [("F", left, right), ("Dm7", *HANDS["Dm7"]), ("C7", *HANDS["C7"])]
    assert entered(held(*HANDS["C7"][0], *HANDS["C7"][1], at=0.0), 3, 3) == [("C7", *HANDS["C7"])]


def test_what_is_not_these_chords_is_none_of_them():
    assert entered(held(37, 44, 61, 66, at=0.0)) == []
    assert entered([]) == []
    assert in_order(held(41, 57, at=0.0), Hands(), parse_chart("| N.C. |"), 0, 9) == ()


def cost(path, grabs, fits):
    """What laying strikes along chords is worth, as the page says it and not as it is computed."""
    total = fits[0][path[0]] - heard._SKIPPED * path[0]
    for n, (a, b) in enumerate(pairwise(path), 1):
        new = len(set(grabs[n]) - set(grabs[n - 1])) / len(grabs[n])
        if a == b:
            total -= heard._AGAIN * new if len(grabs[n]) > 2 else 0.0
        else:
            total -= heard._SKIPPED * (b - a - 1) + (heard._AGAIN / 2 if new == 0 else 0.0)
        total += fits[n][b]
    return total


@pytest.mark.parametrize("seed", range(12))
def test_no_other_order_is_worth_more(seed):
    rng = random.Random(seed)
    moments = [moment for moment in timeline(SONG) if moment.chord is not None]
    grabs = [tuple(sorted(rng.sample(range(40, 72), rng.choice((1, 3, 4))))) for _ in range(rng.randint(1, 5))]
    fits = [[heard._fit(grab, moment) for moment in moments] for grab in grabs]
    every = combinations_with_replacement(range(len(moments)), len(grabs))
    best = max(cost(path, grabs, fits) for path in every)
    threshold, heard.ENOUGH_NOTES = heard.ENOUGH_NOTES, -np.inf
    try:
        found = heard._along(grabs, moments)
    finally:
        heard.ENOUGH_NOTES = threshold
    assert cost(found, grabs, fits) == pytest.approx(best)
