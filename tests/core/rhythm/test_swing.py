"""Straight or swung is the song's, for all who play in it."""

import pytest

from tests.songs import BUILDER
from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.song.swing import read_swing
from yellow_hinge.core.song.timeline import timeline

BARS = (
    "[A]\n{a}| Cmaj7 | Am7 | Dm7 | G7 |\ntune: | E5:1.5 D5:0.5 C5:1 B4:1 | C5:2 A4:2 | D5:0.5 E5:0.5 F5:3 | G5:4 |\n"
    "[B]\n{b}| Fmaj7 | Em7 | C |\n"
)


def song_of(head="", a="", b="", tempo=100):
    return parse_chart(f"key: C\ntempo: {tempo}\n{head}{BARS.format(a=a, b=b)}")


def sounding(song, pattern, fills=(), **setup):
    solution = solve_song(BUILDER, timeline(song), Setup(**setup))
    kinds = tuple(Fill(solution.voicings[2].here.slot_id, kind) for kind in fills)
    return performed(solution, song, with_pattern(Playing(fills=kinds), 0, "both", pattern))


def parts_of_beats(performance, parts=("left", "right", "tune", "bass", "drums"), first=0, last=16):
    """Where in a beat anything is struck, in ticks, over some quarters."""
    return {s.onset % TICK for s in performance.struck if s.part in parts and first * TICK <= s.onset < last * TICK}


@pytest.mark.parametrize(("swing", "half"), [("straight", 240), ("light", 278), ("swung", 320), ("62", 298)])
@pytest.mark.parametrize("melody", ["top", "free"])
@pytest.mark.parametrize("pattern", ["charleston", "eighths", "off-beats"])
def test_whoever_plays_swings_alike(swing, half, melody, pattern):
    song = song_of(f"swing: {swing}\n")
    found = parts_of_beats(sounding(song, pattern, ("top-two-up",), melody=melody))
    assert found == {0, half}
    for part in ("right", "drums"):
        assert half in parts_of_beats(sounding(song, pattern, melody=melody), (part,))


def test_a_song_swings_as_the_pattern_that_most_of_it_is_played_in():
    assert 320 in parts_of_beats(sounding(song_of(), "charleston"))
    assert 278 in parts_of_beats(sounding(song_of(tempo=220), "charleston"))  # fast swing flattens
    assert parts_of_beats(sounding(song_of(), "eighths")) == {0, 240}
    assert parts_of_beats(sounding(song_of("swing: straight\n"), "charleston")) == {0, 240}


def test_a_section_has_its_own():
    found = sounding(song_of("swing: swung\n", b="swing: straight\n"), "eighths")
    assert parts_of_beats(found) == {0, 320}
    assert parts_of_beats(found, first=16, last=24) == {0, 240}


def test_a_dotted_beat_does_not_swing():
    song = parse_chart("meter: 6/8\nswing: swung\n| C | F | C |")
    assert {s.onset % 240 for s in sounding(song, "six-eight-chords").struck if s.part == "right" and s.place < 2} == {
        0
    }


def test_it_is_written_as_it_is_read():
    song = song_of("swing: 67%\n", b="swing: straight\n")
    assert (song.swing, song.sections[0].swing, song.sections[1].swing) == ("swung", "", "straight")
    assert parse_chart(write_chart(song)) == song
    assert [read_swing(text) for text in (" Light", "58", "60 %")] == ["light", "light", "60"]


@pytest.mark.parametrize("text", ["", "80", "49", "swingy", "6O", "0067", "²"])
def test_what_is_no_swing_is_said_with_what_is(text):
    with pytest.raises(UserError, match="straight, light, swung"):
        read_swing(text)
    if text:
        with pytest.raises(ChartError, match="no swing"):
            song_of(f"swing: {text}\n")
