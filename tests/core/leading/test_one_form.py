"""One form for twelve keys: the best of all that the keys share, and hands of their own where none serves."""

import itertools

import pytest

from tests import some
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import state_with
from yellow_hinge.app.solving.twelve import in_twelve, own_words
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, as_asked, chosen_manner
from yellow_hinge.core.leading.one_form import OfKey, forms, one_form
from yellow_hinge.core.leading.prices.hinge import Both, hinge_price
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key, shift_to
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key

CHARTS = ["key: C\n| Dm7 | G7 | Cmaj7 | A7 |", "key: Gm\n| Gm7 | Cm7 F7 | Bbmaj7 | D7b9 |", "key: E\n| E | B/D# | A |"]


def moved(both, by):
    return Both(*(tuple(note + by for note in hand) for hand in both))


def test_the_form_is_the_cheapest_that_the_keys_share():
    """Against every form that three keys have in common, tried one by one."""
    songs = [song_in_key(parse_chart("key: C\n| Dm7 | G7 |"), parse_key(key)) for key in ("C", "D", "Eb")]
    keys, held = [], []
    for song in songs:
        asked = timeline(song), as_asked(Setup(families=("shells",), fullness=(2, 3)), song)
        found, by = solve_song(BUILDER, *asked, inside=True), shift_to(songs[0].the_key, song.the_key)
        keys.append(OfKey(found.lattice, by, found.totals.cost))
        held.append(
            [
                {
                    moved(Both(stage.left.notes(l), stage.right.notes(r)), -by): int(stage.place.cost[l, r])
                    for l, r in zip(*(stage.place.cost < INFINITE).nonzero(), strict=True)
                }
                for stage in keys[-1].lattice.stages
            ]
        )
    way = keys[0].lattice.ways[1]
    shared = [set.intersection(*(set(stages[t]) for stages in held)) for t in range(2)]
    best = min(
        sum(stages[0][a] + stages[1][b] for stages in held) + len(keys) * hinge_price(a, b, True, way)
        for a, b in itertools.product(*shared)
    )
    form = one_form(keys)
    assert [number for number, _ in forms(keys[:2])] == [0, 0]
    assert None not in form.shifts
    assert form.cost <= best - sum(key.least for key in keys)


@pytest.mark.parametrize("manner", some(["", "pop", "solo-ballad", "jazz-alone"], 2))
def test_most_keys_share_one_form_and_the_others_say_so(manner):
    for chart in some(CHARTS, 2):
        song = parse_chart(chart)
        setup = chosen_manner(Setup(), manner) if manner in manners() else Setup()
        last = len(song.sections[0].bars) - 1
        found = in_twelve(BUILDER, state_with(song, setup=setup), (0, 0, 0), (0, last, 0))
        first = [v.both for v in found[0].solution.voicings]
        for one in found:
            hands = [v.both for v in one.solution.voicings]
            by = hands[0].right[0] - first[0].right[0]
            same = hands == [moved(both, by) for both in first] and (by - shift_to(song.the_key, one.key)) % 12 == 0
            assert same or one.own
        assert (own_words(found) == "") is not any(one.own for one in found)
        assert all(bool(one.why) == one.own for one in found)
        assert sum(not one.own for one in found) >= 6
        assert len({tuple(v.both.right[-1] - v.both.left[0] for v in one.solution.voicings) for one in found}) <= 4
