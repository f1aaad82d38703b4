"""Patterns that open hands: what they want is had where it can be, nothing kept gives way, and what is shown is struck."""

import itertools

import pytest
from msgspec.structs import replace

from tests.core.rhythm.truth import CHARTS, faults, solved
from tests.songs import BUILDER
from yellow_hinge.core.hands import BrokenHands, Hands, reach_mm, span_mm
from yellow_hinge.core.leading.asking.asked import chosen_shapes
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked
from yellow_hinge.core.leading.asking.wants import wanted_at, wants
from yellow_hinge.core.leading.chain.making import trial
from yellow_hinge.core.leading.chain.stage import scene_of
from yellow_hinge.core.leading.chain.widening import free_stage
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing, PlayWish
from yellow_hinge.core.rhythm.asks import wanted, with_pattern, with_wants
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.song.timeline import timeline

WANTING = [pattern.id for pattern in patterns().values() if pattern.wants]
ROUND = list(zip(WANTING, itertools.cycle(CHARTS), itertools.cycle((*manners(), "")), itertools.cycle(range(7, 13))))
WORDS = {  # what each want means, said once more without the code that filters
    "left octave": lambda n: len(n) == 2 and n[1] - n[0] == 12,
    "left fifth": lambda n: len(n) == 2 and n[1] - n[0] in (6, 7, 8),
    "left open": lambda n: len(n) >= 3 and n[-1] - n[0] >= 12,
    "left wide": lambda n: len(n) >= 3 and n[-1] - n[0] >= 14,
    "left shell": lambda n: len(n) >= 2 and (n[-1] - n[0]) % 12 in (3, 4, 9, 10, 11),
    "left bass": lambda n: len(n) == 1,
    "left stride": lambda n: len(n) >= 3 and n[0] <= 48 and n[1] >= 47 and n[-1] <= 67 and n[-1] - n[1] <= 12,
}


def opened(chart, manner, pattern, **ways):
    """A song solved with the hands that a pattern wants, and the chords at which it has them."""
    song, solution = solved(chart, manner, pattern=pattern, **ways)
    return song, solution, [bool(place.asked.wants) for place in solution.lattice.places]


def test_every_want_is_known_and_named_for_its_hand():
    named = {want for pattern in patterns().values() for want in pattern.wants}
    assert named == set(wants())
    assert all(want.hand in ("left", "right") for want in wants().values())


@pytest.mark.parametrize(("pattern", "chart", "manner", "reach"), ROUND)
def test_hands_are_opened_and_what_is_shown_is_struck(pattern, chart, manner, reach):
    hands = Hands(reach, reach)
    song, solution, met = opened(chart, manner, pattern, hands=hands)
    asked = next((want for want in patterns()[pattern].wants if want in WORDS), None)
    for voicing, open_ in zip(solution.voicings, met, strict=True):
        if open_ and asked:
            assert WORDS[asked](voicing.left), (voicing.here.symbol, voicing.left)
        assert span_mm(voicing.right) <= hands.limit("right", 5) or "mm past" in "".join(voicing.warnings)
        assert voicing.broken == (open_ and span_mm(voicing.left) > reach_mm(reach) + 1)
    sounding = performed(solution, song, with_pattern(Playing(), 0, "both", pattern, True))
    found = {fault for fault, _ in faults(solution, sounding)} - {"guide tone late in a row"}
    assert not found


@pytest.mark.parametrize("pattern", ["ballad", "alternating", "stride", "walking", "shuffle"])
def test_most_chords_have_what_is_wanted(pattern):
    for manner in ("pop", "rhythm-and-blues", "jazz-alone"):
        _, _solution, met = opened("qualities", manner, pattern)
        assert sum(met) >= 0.8 * len(met), manner


def test_where_a_want_cannot_be_met_the_chord_is_as_without_it():
    _, solution, met = opened("three", "hymn", "stride", hands=Hands(left_notes=2))
    assert not any(met)
    assert [v.both for v in solution.voicings] == [
        v.both for v in solved("three", "hymn", hands=Hands(left_notes=2))[1].voicings
    ]
    assert not any(isinstance(place.asked.hands, BrokenHands) for place in solution.lattice.places)


@pytest.mark.parametrize("pattern", WANTING[::4])
def test_what_is_kept_stays(pattern):
    plain = solved("qualities", "pop")[1].voicings[1]
    _, solution, met = opened("qualities", "pop", pattern, keep=True)
    assert solution.voicings[1].both == plain.both
    assert sum(met) > 15


def priced(stage):
    """{(left, right): price} of the voicings of a stage."""
    rows, columns = (stage.place.cost < INFINITE).nonzero()
    return {
        (stage.left.notes(r), stage.right.notes(c)): int(stage.place.cost[r, c])
        for r, c in zip(rows, columns, strict=False)
    }


@pytest.mark.parametrize("pattern", ["alternating", "ballad", "walking"])
def test_a_want_is_a_filter_and_never_a_price(pattern):
    _, solution, met = opened("qualities", "pop", pattern)
    means = WORDS[patterns()[pattern].wants[0]]
    for place, open_ in list(zip(solution.lattice.places, met, strict=True))[:6]:
        assert open_
        shapes, free = chosen_shapes(place.asked), place._replace(asked=replace(place.asked, wants=(), fullness=(0, 0)))
        every = priced(trial(free, shapes, scene_of(free)))
        wanted_ = priced(free_stage(place))
        assert wanted_
        assert all(every[hands] == price and means(hands[0]) for hands, price in wanted_.items())
        left, right = place.asked.fullness
        full = {
            hands
            for hands in every
            if means(hands[0]) and (not left or len(hands[0]) == left) and (not right or len(hands[1]) == right)
        }
        assert full <= set(wanted_)


def test_the_narrowest_pattern_says_what_each_hand_is_asked():
    _song, solution = solved("qualities", "pop")
    moment = solution.voicings[3].here
    playing = Playing((PlayWish(0, "ballad", wants=True), PlayWish(moment.ids[2], "walking", "right", wants=True)))
    asked = {each.hand: each.want for each in wanted_at(wanted(playing), moment)}
    assert asked == {"left": "left wide", "right": "right full"}
    bar = with_pattern(playing, moment.ids[1], "left", "held")
    assert {each.hand for each in wanted_at(wanted(bar), moment)} == {"right"}
    assert wanted(with_wants(playing, False)) == ()
    assert with_wants(with_wants(playing, False), True) == playing
    assert wanted(Playing((PlayWish(0, "ballad"),))) == ()  # as in songs of before


def test_what_the_player_chose_comes_before_what_a_pattern_wants():
    song, _ = solved("qualities", "pop")
    asks = wanted(with_pattern(Playing(), 0, "both", "ballad", True))
    section = song.sections[0].id
    for setup in (
        Setup(manner="pop", wanted=asks, families=("pop-hands",)),
        Setup(manner="pop", wanted=asks, fullness=(1, 3)),
        Setup(manner="pop", wanted=asks, wishes=(Wish(section, families=("bass-close",)),)),
        Setup(manner="pop", wanted=asks, bass="theirs"),
    ):
        solution = solve_song(BUILDER, timeline(song), as_asked(setup, song))
        assert not any(place.asked.wants for place in solution.lattice.places)


def test_fingers_of_a_stride_are_those_of_its_strokes():
    _, solution, met = opened("qualities", "jazz-alone", "stride")
    found = [v.fingers.left for v, open_ in zip(solution.voicings, met, strict=True) if open_ and len(v.left) == 4]
    assert len(found) > 10
    assert all(fingers[0] == 5 and fingers[1:] in ((5, 3, 1), (5, 2, 1), (4, 2, 1), (4, 3, 1)) for fingers in found)
