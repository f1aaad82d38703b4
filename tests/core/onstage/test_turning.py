"""On stage: lines are the song as it is played, and every bar is on the screen before and while it sounds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.onstage.asks import BARS, StageAsk, switch_of
from yellow_hinge.core.onstage.lines import shown_song
from yellow_hinge.core.onstage.turning import Presses, Run
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.song.timeline import timeline

SONGS = (
    "key: C\n[Verse]\n|: C | Am F | F | G :|x3\n[Bridge]\n| F | Fm |\n[Verse]\n[End]\n| C |",
    "key: G\nmeter: 3/4\n[Waltz]\n|: G | C |1. D :|2. G |\n[Vamp]\n| Em | C | D |",
    "key: C\nmeter: 4/4\ntempo: 92\n[A]\n| C F G C |\n[B]\n| Am |",
)


def made(text, bars):
    song = parse_chart(text)
    solution = solve_song(Builder(), timeline(song), Setup())
    return song, solution, shown_song(Writer(song, solution), bars)


@pytest.mark.parametrize("text", SONGS)
@pytest.mark.parametrize("bars", BARS)
def test_lines_are_the_bars_as_they_are_played_and_every_chord_once(text, bars):
    song, solution, shown = made(text, bars)
    sounding = performed(solution, song)
    row = [bar for line in shown.lines for bar in line.bars]
    assert [(ticks(bar.quarter), ticks(bar.quarter + bar.quarters)) for bar in row] == [
        (bar.start, bar.end) for bar in sounding.bars
    ]
    assert [cell.slot for bar in row for cell in bar.cells] == [moment.slot_id for moment in solution.moments]
    assert sum(bar.seconds for bar in row) == pytest.approx(float(sounding.clock.seconds(sounding.length)))
    assert all(0 < len(line.bars) <= bars for line in shown.lines)
    begins = [line for line in shown.lines if line.begins]
    passes = {(moment.section, moment.turn) for moment in solution.moments}
    assert len(begins) == len(passes)
    assert {line.time for line in begins if line.section == begins[-1].section} == {""}


@given(st.sampled_from(SONGS), st.sampled_from(BARS), st.floats(0, 1), st.integers(0, 3), st.integers(0, 2))
def test_every_bar_is_on_screen_before_it_sounds_and_the_next_line_always(text, bars, share, at, more):
    _, _, shown = made(text, bars)
    run = Run(shown.lines, min(at, len(shown.lines) - 1))
    for _ in range(more):
        run = run.once_more()
    starts = run.starts()
    spot = run.spot(share * starts[-1] * 0.999)
    seen = run._replace(at=spot.shown).on_screen()
    assert spot.line in seen
    assert {spot.line + 1, spot.shown + 1} & set(range(len(run.lines))) <= set(seen)
    for place, start in enumerate(starts[1:-1], run.at + 1):
        before = run.spot(start - 0.001)
        assert before.line == place - 1
        assert before.shown == place  # turned already, and what still sounds stays above
        half = run.spot(start - run.lines[place - 1].turn - 0.001)
        assert half.shown == place - 1
    assert run.spot(starts[-1]) is None


def test_one_switch_turns_both_ways():
    presses = Presses()
    times = (0.0, 0.3, 0.6, 2.0, 2.5, 2.8)
    assert [presses.press(now) for now in times] == [1, -2, 1, 1, 1, -2]


def test_what_a_foot_switch_says():
    messages = (
        b"\x90\x24\x40",
        b"\x90\x24\x00",
        b"\x80\x24\x40",
        b"\xb2\x43\x7f",
        b"\xb2\x43\x10",
        b"\xc1\x05",
        b"",
        b"\xf8",
    )
    assert [switch_of(data) for data in messages] == ["note 36", "", "", "controller 67", "", "program 5", "", ""]
    for wrong in ({"bars": 3}, {"show": ("clefs",)}, {"sound": "drums"}, {"switch": "pedal"}):
        with pytest.raises(UserError):
            StageAsk(**wrong)
