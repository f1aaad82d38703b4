"""Patterns: every one reads, fits every meter and chord length, and is playable by a hand each at every moment."""

import itertools
from fractions import Fraction as F
from functools import cache
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests import some
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import pattern_at, usual_pattern, with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import TICK, WHAT, Hit, Pattern, patterns, read_hits, write_hits
from yellow_hinge.core.rhythm.walking import approach, walked
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol

# Whole bars, halves, odd parts, single beats, a chord that goes on and one over a foreign bass.
BARS = {
    "4/4": "| Cmaj9 | Am7 F6 | Dm7 / / G13 | E7#9 Am7 D7 G7 | C/E | C/E | N.C. | Fmaj7 |",
    "3/4": "| Cmaj9 | Am7 / F6 | Dm7 G13 C | C/E | C/E | Fm6 |",
    "6/8": "| Cmaj9 | Am7 F6 | C/E | C/E | Fm6 |",
    "12/8": "| Cmaj9 | Am7 F6 | Dm7 / / G13 | C/E | C/E | E7 Am7 D7 G7 | Fm6 |",
    "5/4": "| Cmaj9 | Am7 / / F6 / | Dm7 / / / G13 | C/E | C/E | Fm6 |",
    "7/8": "| Cmaj9 | Am7 / / / F6 / / | C/E | C/E | Fm6 |",
}
TUNES = {
    "4/4": "| E5:2 D5:1 C5:1 | C5:3 A4:1~ | A4:1 D5:1 E5:1 F5:1 | r:1 G5:1 E5:1.5 r:0.5 | C5:4 | G4:1 E5:3 | r:4 | A4:2 C5:1 r:1 |",
    "3/4": "| E5:2 D5:1 | C5:2 A4:1~ | A4:1 D5:1 E5:1 | r:1 G5:2 | C5:1.5 B4:1.5 | C5:3 |",
}


@cache
def solved(meter, bass="mine", melody="free", roll=False, right="plays"):
    song = parse_chart(
        f"key: C\nmeter: {meter}\ntempo: 90\n{BARS[meter]}" + (f"\ntune: {TUNES[meter]}" if melody == "top" else "")
    )
    setup = Setup(bass=bass, melody=melody, colour=1, right=right, player=Player(Hands(roll=roll)))
    return song, solve_song(BUILDER, timeline(song), setup)


def played(meter, pattern, **options):
    song, solution = solved(meter, **options)
    return solution, performed(solution, song, with_pattern(Playing(), 0, "both", pattern))


def hits_of(pattern):
    forms = [form for form in (*pattern.forms, pattern.two, pattern.one) if form]
    return [hit for form in forms for hand in ("left", "right") for hit in form.hits(hand)]


OPTIONS = [{}, {"bass": "theirs"}, {"bass": "theirs", "right": "free"}, {"right": "free"}, {"roll": True}]


@pytest.mark.parametrize(("options", "meter"), some(product(OPTIONS, BARS), 5), ids=str)
def test_every_pattern_fits_every_chord(meter, options):
    for pattern in patterns().values():
        solution, sounding = played(meter, pattern.id, **options)
        close = [
            round((solution.moments[v.moment].quarter + solution.moments[v.moment].quarters) * TICK)
            for v in solution.voicings
        ]
        for struck in sounding.struck:
            if struck.part not in ("left", "right"):
                continue
            start, where = sounding.starts[struck.place], (pattern.id, struck)
            early = pattern.lean or any(hit.early for hit in hits_of(pattern))
            assert struck.length > 0, where
            assert struck.onset >= start or (early and struck.onset >= start - TICK * 3 // 2), where
            assert struck.end <= close[struck.place], where
            voicing = solution.voicings[struck.place]
            own = {note % 12 for note in (*voicing.left, *voicing.right)} | set(voicing.chord.pitch_classes)
            assert struck.midi % 12 in own or struck.added, where
        _one_hand_each(solution, sounding, pattern.id)


def _one_hand_each(solution, sounding, name):
    """At every onset each hand holds what it can reach, and no key twice."""
    hands = solution.setup.player.hands
    for hand in ("left", "right"):
        strokes = [s for s in sounding.struck if s.part == hand]
        for onset in {s.onset for s in strokes}:
            held = sorted(s.midi for s in strokes if s.onset <= onset < s.end)
            assert len(set(held)) == len(held), (name, hand, onset)
            assert len(held) <= 5, (name, hand, onset)
            assert span_mm(tuple(held)) <= hands.limit(hand, len(held)), (name, hand, onset, held)


def test_there_are_patterns_for_every_meter_and_manner():
    assert len(patterns()) == 47
    assert {"4/4", "3/4", "5/4", "6/8", "7/8", "12/8", ""} == {pattern.meter for pattern in patterns().values()}
    for manner in manners().values():
        named = (manner.patterns.usual, manner.patterns.dotted, manner.patterns.three)
        assert all(name in patterns() for name in named if name)


def test_a_short_chord_is_cut_and_a_long_one_tiled():
    _, sounding = played("4/4", "alternating")
    bass = {s.onset / TICK for s in sounding.struck if s.part == "left" and s.place in (3, 4)}
    assert bass == {8, 9, 10, 11}  # Dm7 for three beats and G13 for one
    _, sounding = played("5/4", "alternating")
    assert {s.onset / TICK for s in sounding.struck if s.part == "left" and s.place == 0} == {0, 1, 2, 3, 4}


def test_a_pattern_over_dotted_beats_falls_on_their_thirds():
    _, sounding = played("12/8", "eighths")
    right = sorted({F(s.onset, TICK * 3 // 2) for s in sounding.struck if s.part == "right" and s.place == 0})
    assert right == [0, F(2, 3), 1, F(5, 3), 2, F(8, 3), 3, F(11, 3)]


def test_what_comes_early_is_the_next_chord_and_is_not_struck_again():
    solution, sounding = played("4/4", "pushed")
    early = [s for s in sounding.struck if s.part == "right" and s.place == 1 and s.onset < sounding.starts[1]]
    assert [s.midi for s in early] == list(solution.voicings[1].right)
    assert not [s for s in sounding.struck if s.part == "right" and s.onset == sounding.starts[1]]
    assert all(s.end > sounding.starts[1] for s in early)


def test_the_last_chord_is_held_with_its_low_notes_first():
    solution, sounding = played("4/4", "eighths")
    last = [s for s in sounding.struck if s.place == len(solution.voicings) - 1]
    assert [s.midi for s in last] == sorted(s.midi for s in last)
    assert {s.end for s in last} == {sounding.length}


def test_what_is_wider_than_the_hand_is_rolled_low_notes_first():
    song = parse_chart("tempo: 60\n| C | C |")
    solution = solve_song(
        BUILDER,
        timeline(song),
        Setup(player=Player(Hands(left_reach=8, roll=True))),
        (Keep(song.sections[0].bars[0].slots[0].id, "C", (36, 52), (64, 67)),),
    )
    first = [s for s in performed(solution, song).struck if s.place == 0 and s.part == "left"]
    assert [s.midi for s in first] == [36, 52]
    assert first[0].onset == 0 < first[1].onset < TICK // 4


def test_a_second_form_takes_turns():
    song = parse_chart("meter: 3/4\ntempo: 90\n| G | C | C | G |")
    hold = Keep(song.sections[0].bars[1].slots[0].id, "C", (36, 48), (64, 67, 72))
    again = Keep(song.sections[0].bars[2].slots[0].id, "C", (36, 48), (64, 67, 72))
    solution = solve_song(BUILDER, timeline(song), Setup(), (hold, again))
    sounding = performed(solution, song, with_pattern(Playing(), 0, "both", "waltz"))
    bars = [[s.midi for s in sounding.struck if s.part == "left" and s.onset == at * TICK] for at in (3, 6)]
    assert bars == [[36], [48]]


@given(
    st.lists(
        st.builds(
            Hit, st.fractions(0, 15, max_denominator=4), st.fractions(F(1, 4), 4, max_denominator=4), st.sampled_from(WHAT["right"]),
            st.sampled_from([-30, -24, -12, 0, 12, 24]), st.booleans(), st.sampled_from([0, 40, 90]), st.just(False),
        ),
        max_size=12,
    )
)  # fmt: skip
def test_hits_are_read_as_they_are_written(hits):
    wanted = tuple(sorted(hits, key=lambda hit: hit.at))
    assert read_hits(write_hits(wanted), "right") == wanted


@pytest.mark.parametrize(
    "text", ["0/1", "0/0 all", "x/1 all", "0/1 +walk", "99/1 all", "0/1 all; " * 65, "0/1 all~9999"]
)
def test_a_stroke_that_cannot_be_read_is_refused(text):
    with pytest.raises(UserError):
        read_hits(text, "right")


@given(st.text(max_size=60))
def test_any_text_is_strokes_or_refused(text):
    try:
        Pattern("x", "x", left=text, right=text)
    except UserError as error:
        assert str(error)


def test_the_narrowest_wish_counts_and_of_two_the_hands_own():
    song, solution = solved("4/4")
    moment = solution.moments[2]
    usual = usual_pattern(song, "")
    playing = Playing()
    assert usual.id == "held"
    for at, hand, name in (
        (0, "both", "eighths"),
        (0, "left", "stride"),
        (moment.ids[1], "both", "ballad"),
        (moment.ids[2], "right", "rolled"),
    ):
        playing = with_pattern(playing, at, hand, name)
    assert pattern_at(playing, moment, "left", usual).id == "ballad"
    assert pattern_at(playing, moment, "right", usual).id == "rolled"
    assert pattern_at(playing, solution.moments[0], "left", usual).id == "stride"
    assert pattern_at(with_pattern(playing, 0, "both", ""), solution.moments[0], "left", usual) is usual
    assert pattern_at(with_pattern(Playing(), 0, "both", "no such"), moment, "left", usual) is usual


@given(st.integers(30, 50), st.integers(30, 50), st.sampled_from(["Cm7", "F#7", "Bbmaj7", "Edim7"]), st.integers(2, 6))
def test_a_walk_begins_on_the_bass_and_leads_into_the_next_one(bass, goal, symbol, count):
    key = solved("4/4")[0].the_key
    notes = walked(bass, goal, count, parse_symbol(symbol, key), key, (28, 60))
    assert notes[0] == bass
    assert len(notes) == count
    assert abs(notes[-1] - goal) in (1, 2, 5, 7)
    assert all(a != b for a, b in itertools.pairwise(notes))


@given(st.integers(30, 60), st.integers(30, 60))
def test_an_approach_is_a_step_away_and_no_note_again(old, new):
    key = solved("4/4")[0].the_key
    found = approach(old, new, key, parse_symbol("C7", key))
    assert found not in (old, new)
    assert abs(found - new) in ((1, 2) if old != new else (5, 7))
