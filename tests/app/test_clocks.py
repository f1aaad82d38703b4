"""How long a chord lasts in time, when a rest is said, what is practised."""

import pytest

from tests.app.test_desk import make_desk
from yellow_hinge.app.practice.clocks import ChordClock, Stint
from yellow_hinge.app.practice.programmes import AskedChord, DrillProgramme, SongProgramme
from yellow_hinge.app.practice.stretches import places_to_practise, round_ends
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.performing import beat_seconds, clock_of, ticks
from yellow_hinge.core.song.timeline import timeline

CHART = "tempo: 96\nmeter: 6/8\n[A]\n|: C | Am :|\n[B]\n| F | G |\n"


def test_every_clock_turns_beats_into_the_same_time():
    song = make_desk(CHART).song
    felt = clock_of(song, timeline(song)).seconds(ticks(song.meter.beat_quarters))
    assert float(felt) == pytest.approx(beat_seconds(song.tempo), abs=1e-6)
    assert ChordClock.beat_ms(ChordClock.tempo(song.tempo, None)) == round(felt * 1000)


def test_a_chord_in_time_lasts_its_beats_and_the_click_begins_once():
    desk, clock = make_desk(CHART), ChordClock()
    voicing = desk.solution.voicings[0]
    step = AskedChord(voicing, None, "", "", (0, 0), "C", 2.0)
    assert [clock.asked(step, True), clock.asked(step, True)] == [True, False]
    assert [clock.beat(), clock.beat()] == [False, True]
    assert not clock.asked(step, False)
    assert clock.asked(step, True)
    assert ChordClock.tempo(60, SongProgramme(desk.solution, "both")) == 60
    drill = DrillProgramme(in_twelve(Builder(), desk.state, (0, 0, 0), (0, 1, 0)), "both")
    drill.faster = 5
    assert ChordClock.tempo(60, drill) == pytest.approx(72)  # a fifth, after five rounds


def test_a_rest_is_said_once():
    stint = Stint()
    assert [stint.passed(60.0) for _ in range(30)].index(True) == 24
    assert not stint.passed(3600.0)


def test_what_is_marked_is_practised_else_the_section_as_it_is_played():
    desk = make_desk(CHART)
    desk.selection.go(2)
    assert places_to_practise(desk) == range(2, 4)
    desk.selection.mark_places(range(3, 5))
    assert places_to_practise(desk) == range(3, 5)
    assert round_ends("stretch", desk.solution, 2) == ((0, 0, 0), (0, 1, 0))
    assert round_ends("shape", desk.solution, 4) == ((1, 0, 0), (1, 0, 0))
    assert round_ends("hinge", desk.solution, 4) == ((1, 0, 0), (1, 1, 0))
