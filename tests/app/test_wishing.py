"""Wishes for song, section and chord: what holds, what overrides, what goes."""

import pytest

from yellow_hinge.app.edits.wishing import (
    is_held,
    overriding,
    standing,
    turned,
    with_held_top,
    with_wish,
    with_wishes,
    without_held_top,
    without_wishes,
)
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.keeps import HeldTop
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked
from yellow_hinge.core.leading.asking.wish_words import family_words
from yellow_hinge.core.leading.asking.wishes import OF_PARTS, OF_SONG, WISHES
from yellow_hinge.core.song.timeline import timeline

SONG = parse_chart("key: C\n[Verse]\n| C Am | F |\n[Bridge]\n| Dm | G7 |")
MOMENTS = timeline(SONG)


def test_several_bars_are_asked_at_once_and_a_chord_among_them_overrules():
    setup = with_wish(Setup(colour=1), MOMENTS[0], "section", colour=2)
    setup = with_wishes(setup, (MOMENTS[0].ids[1], MOMENTS[3].ids[1]), colour=0)
    assert [standing(setup, moment, "chord").colour for moment in MOMENTS] == [0, 0, 2, 0, 1]
    assert [standing(setup, MOMENTS[0], scope).colour for scope in ("song", "section", "bar")] == [1, 2, 0]
    found = overriding(with_wish(setup, MOMENTS[0], "chord", colour=3), MOMENTS[0], SONG)
    assert [words for _, words in found] == [
        "Verse: ninths and sixths",
        "bar 1: as written",
        "C: thirteenths and altered",
    ]
    assert overriding(setup, MOMENTS[3], SONG) == [("bar", "bar 3: as written")]
    again = parse_chart("key: C\n[Verse]\n| C | F |\n[Bridge]\n| G |\n[Verse]\n")
    last = timeline(again)[-1]
    assert overriding(with_wish(Setup(), last, "bar", colour=0), last, again) == [("bar", "bar 2: as written")]
    assert without_wishes(setup, [at for moment in MOMENTS for at in moment.ids]) == Setup(colour=1)


def test_a_wish_that_asks_nothing_goes():
    setup = with_wish(Setup(), MOMENTS[0], "section", lift=5)
    assert setup.wishes == (Wish(1, lift=5),)
    assert with_wish(setup, MOMENTS[0], "section", lift=None) == Setup()
    assert without_wishes(setup, MOMENTS[0].ids[:1]) == Setup()
    assert without_wishes(setup, MOMENTS[0].ids[2:]) == setup
    assert with_wish(Setup(), MOMENTS[0], "song", colour=0) == Setup(colour=0)


@pytest.mark.parametrize("kind", [kind for kind in OF_PARTS if kind.offers], ids=lambda kind: kind.name)
def test_whatever_the_table_offers_stands_where_it_is_asked_and_is_said_there(kind):
    for named in kind.offers:
        asked = with_wish(Setup(), MOMENTS[1], "section", **{kind.name: named.value})
        assert getattr(standing(asked, MOMENTS[1], "section"), kind.name) == named.value
        assert getattr(standing(asked, MOMENTS[3], "section"), kind.name) == kind.first
        assert overriding(asked, MOMENTS[1], SONG) == [("section", f"Verse: {kind.said(named.value)}")]
        if kind in OF_SONG:
            song = with_wish(Setup(), MOMENTS[1], "song", **{kind.name: named.value})
            assert getattr(standing(song, None, "song"), kind.name) == named.value


@pytest.mark.parametrize(
    ("families", "words"),
    [((), "usual shapes"), (("all",), "every shape"), (("drop2",), "Dropped second voice"), (("drop2", "free"), "2 shapes"),
     (("mine:Low", ), "Low")],
)  # fmt: skip
def test_families_are_said_in_few_words(families, words):
    assert family_words(families) == words


def test_a_top_is_held_longer_with_every_asking_until_the_song_ends():
    moments = list(MOMENTS)
    setup = with_held_top(Setup(), moments, 1, 72)
    slots = [moment.slot_id for moment in moments]
    assert setup.held == (HeldTop(tuple(slots[1:3]), 72),)
    for count in (3, 4, 4):
        setup = with_held_top(setup, moments, 1, 99)
        assert setup.held == (HeldTop(tuple(slots[1 : 1 + count]), 72),)
    assert [is_held(setup, moment) for moment in moments] == [False, True, True, True, True]
    assert without_held_top(setup, moments[2]).held == ()


@pytest.mark.parametrize(
    ("what", "usual", "other"), [("bass", "mine", "theirs"), ("melody", "free", "top"), ("loop", False, True)]
)
def test_a_wish_with_two_values_is_turned_there_and_back(what, usual, other):
    asked = as_asked(Setup(), SONG)
    label, value = turned(asked, what)
    assert (label, value) == (WISHES[what].label(other), other)
    asked = as_asked(Setup(**{what: other}), SONG)
    assert turned(asked, what) == (WISHES[what].label(usual), usual)
