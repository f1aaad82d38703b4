"""One truth: the keys that the hands hold are the keys that are struck, over patterns, manners, meters and tunes."""

import collections
import itertools

import pytest

from tests import some
from tests.core.rhythm.truth import CHARTS, faults, solved
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing, PlayWish
from yellow_hinge.core.rhythm.asks import with_own_pattern, with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import OLD, TICK, WHAT, Pattern, patterns, read_hits
from yellow_hinge.core.rhythm.pattern.swinging import bent
from yellow_hinge.core.song.timeline import timeline

LATE = "guide tone late in a row"  # rows have the third and seventh where their turn comes
WAYS = ({}, {"bass": "theirs"}, {"melody": "top"})
# Every chart with one manner, and every manner with one way of playing; the whole by `make sweep`.
SAMPLE = [
    (chart, manner, WAYS[n % 3]) for n, (chart, manner) in enumerate(zip(itertools.cycle(CHARTS), ("", *manners())))
]
SAMPLE.append(("qualities", "pop", WAYS[2]))  # a tune that some notes of a row cannot lie under


@pytest.mark.parametrize(("number", "chart", "manner", "way"), [(n, *row) for n, row in enumerate(SAMPLE)], ids=str)
def test_what_is_shown_is_struck(number, chart, manner, way):
    song, solution = solved(chart, manner, **way)
    found, chords = collections.Counter(), 0
    for pattern in some(patterns(), 2, number % 2):
        sounding = performed(solution, song, with_pattern(Playing(), 0, "both", pattern))
        chords += len(solution.voicings)
        for fault, place in set(faults(solution, sounding)):
            assert fault == LATE, (pattern, fault, place)
            found[fault] += 1
    assert found[LATE] <= chords / 50


@pytest.mark.parametrize("way", WAYS, ids=str)
def test_chords_that_come_ahead_are_the_hands_that_are_shown(way):
    early = 0
    for pattern in ("held", "comping", "charleston", "eighths", "walking", "ballad", "off-beats"):
        song, solution = solved("qualities", "jazz-with-bass" if way == WAYS[1] else "pop", **way)
        sounding = performed(solution, song, Playing((PlayWish(0, pattern, ahead=True),)))
        assert not {fault for fault, _ in faults(solution, sounding)}, pattern
        for here in sounding.row[1:]:
            first = [s.onset for s in sounding.struck if s.place == here.place and s.part in ("left", "right")]
            early += min(first) < here.start
            if "left" in here.ahead:
                assert way == WAYS[1]  # the bass of one's own keeps the beat
    assert early > (30 if way == WAYS[2] else 70)


def onsets(bars, pattern, hand="right", swing=False, **setup):
    """When a hand strikes in a chart, in beats, over each of its chords."""
    song = parse_chart(f"tempo: 90\n{bars}")
    solution = solve_song(BUILDER, timeline(song), Setup(**setup))
    sounding = performed(solution, song, with_pattern(Playing(), 0, "both", pattern))
    found = collections.defaultdict(set)
    for s in sounding.struck:
        if s.part == hand:
            found[s.place].add(s.onset / TICK)
    return [sorted(found[place]) for place in range(len(solution.voicings))], solution, sounding


def test_a_figure_counted_from_the_bar_leans_over_its_chords():
    places, solution, sounding = onsets("| C F | C F | C |", "three-three-two")
    assert places[:2] == [[0], [1.5, 3]]  # three, three, two: the second stroke is the second chord
    bass = [s for s in sounding.struck if s.place == 1 and s.part == "left" and s.onset == 1.5 * TICK]
    assert [s.midi for s in bass] == list(solution.voicings[1].left)
    assert any(up == 1.5 * TICK for _, up in sounding.pedals)  # and the pedal goes with it


def test_forms_take_turns_from_the_sections_start_and_the_fourth_answers():
    places, *_ = onsets("| Cmaj7 | Cmaj7 | Cmaj7 | Cmaj7 | Cmaj7 | Cmaj7 | Cmaj7 | Cmaj7 | C |", "comping")
    bars = [tuple(round(at % 4, 3) for at in place) for place in places[:8]]
    assert bars[:4] == bars[4:]
    assert len(set(bars[:4])) == 4


def test_beside_a_bass_player_the_left_hand_strikes_with_the_right_in_every_form():
    places, _, sounding = onsets("| Cmaj7 | Am7 | Dm7 | G7 | C |", "comping", bass="theirs")
    for place in range(4):
        left = {s.onset / TICK for s in sounding.struck if s.part == "left" and s.place == place}
        assert left <= set(places[place])
    assert len({tuple(at % 4 for at in place) for place in places[:4]}) == 4
    assert any(at < 8 for at in places[2]) or any(at < 16 for at in places[4])  # pushed


def test_a_lead_in_is_not_in_two_bars_running_nor_over_a_chord_that_goes_on():
    _, _, sounding = onsets("| C | F | G | C | C | F | C |", "twelve-eight", hand="left")
    bars = sorted({s.place for s in sounding.struck if s.part == "left" and s.added})
    assert bars
    assert all(b - a > 1 for a, b in itertools.pairwise(bars))
    assert 3 not in bars


def test_the_last_chord_is_held_only_where_the_song_ends():
    for loop in (False, True):
        places, *_ = onsets("| C | F |", "counts-four", loop=loop)
        assert (len(places[-1]) == 4) == loop


def test_an_own_pattern_with_old_words_means_the_nearest_new_one():
    own = Pattern("mine-1", "Mine", beats=4, left="0/2 oct; 2/2 5th", right="0/1 R; 1/1 mid; 2/1 midtop; 3/1 sus")
    assert [hit.what for hit in read_hits(own.left, "left")] == ["all", "alt"]
    assert [hit.what for hit in read_hits(own.right, "right")] == ["all", "rest", "top", "+sus"]
    song, solution = solved("qualities", "pop")
    playing = with_pattern(with_own_pattern(Playing(), own), 0, "both", "mine-1")
    assert not [fault for fault in faults(solution, performed(solution, song, playing)) if "guide" not in fault[0]]
    assert set(OLD.values()) <= {*WHAT["left"], *WHAT["right"]}


def test_what_swings_is_written_straight():
    for pattern in patterns().values():
        if pattern.swing:
            for form in pattern.forms:
                for hand in ("left", "right"):
                    assert all(hit.at.denominator in (1, 2) for hit in form.hits(hand)), pattern.id
                    assert all(bent(hit.at, False, 67).denominator in (1, 3) for hit in form.hits(hand))


def test_the_answer_a_step_away_is_in_the_chords_own_mode():
    _, _, sounding = onsets("| Dm7 | Ebm7 | Dm7 |", "modal-answer", bass="theirs", manner="modal")
    dorian = {(3 + pc) % 12 for pc in (0, 2, 3, 5, 7, 9, 10)}
    answer = {s.midi % 12 for s in sounding.struck if s.place == 1 and s.added}
    assert answer
    assert answer <= dorian  # and not the white keys of C


def test_a_last_octave_is_struck_not_rolled():
    short = parse_chart("key: Eb\nmeter: 3/4\n| Ebmaj7 |")
    alone = solve_song(BUILDER, timeline(short), Setup(manner="gospel"))
    last = [s for s in performed(alone, short).struck if s.part == "left"]
    assert len(last) == len(alone.voicings[0].left) == 2
    assert {s.onset for s in last} == {0}


@pytest.mark.parametrize(("bar", "groups"), [("C / / F / / /", [[0], [0, 1]]), ("C / F / G / /", [[0], [0], [0]]),
    ("C / / F / G /", [[0], [0], [0]]), ("C", [[0, 1, 2]])])  # fmt: skip
def test_seven_eighths_are_grouped_as_the_bars_chords_say(bar, groups):
    places, *_ = onsets(f"meter: 7/8\n| {bar} | {bar} |", "seven-held")
    begins = [n / 2 for n, chord in enumerate(bar.split(" ")) if chord != "/"]
    found = [[at - begin for at in own] for own, begin in zip(places, begins, strict=False)]
    assert found == groups
