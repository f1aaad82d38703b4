"""Pedal, band, and what a hand lets go: the parts of a performance that a pattern only names."""

import itertools

from tests.core.rhythm.test_patterns import played, solved
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.band import CLICK_HIGH
from yellow_hinge.core.rhythm.holding import Stroke, held_by
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.rhythm.walking import walked
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol


def test_a_key_is_let_go_before_it_is_struck_again():
    found = held_by(
        "right", [Stroke(0, 960, 60, 70, 0), Stroke(480, 960, 60, 70, 0), Stroke(480, 960, 64, 70, 0)], Hands()
    )
    assert [(s.onset, s.end, s.midi) for s in found] == [(0, 480, 60), (480, 960, 60), (480, 960, 64)]


def test_what_is_out_of_reach_lets_the_farthest_key_go():
    found = held_by(
        "left", [Stroke(0, 960, 40, 70, 0), Stroke(240, 960, 47, 70, 0), Stroke(480, 960, 56, 70, 0)], Hands()
    )
    assert [(s.midi, s.end) for s in found] == [(40, 480), (47, 960), (56, 960)]


def test_the_pedal_goes_with_every_chord_with_every_bass_or_not_at_all():
    _, held = played("4/4", "held")
    assert [up for _, up in held.pedals] == list(held.ends)
    late = [down - start for (down, _), start in zip(held.pedals, held.starts, strict=True)]
    assert late[0] == 0  # nothing rings on yet
    assert all(0 < by <= TICK // 3 for by in late[1:])
    assert played("4/4", "beats")[1].pedals == ()
    _, bass = played("4/4", "alternating")
    assert [up for _, up in bass.pedals[:2]] == [TICK, 2 * TICK]
    assert all(a[1] < b[0] for a, b in itertools.pairwise(bass.pedals))


def test_a_suspension_does_not_ring_through_what_it_resolves_to():
    _, sounding = played("4/4", "suspension")
    added = [s for s in sounding.struck if s.added]
    assert added
    for s in added:
        assert not any(down < s.end < up for down, up in sounding.pedals)


def test_low_notes_a_step_apart_never_ring_together():
    from yellow_hinge.core.rhythm.asked import Fill, Playing

    song, solution = solved("4/4")
    places = range(1, len(solution.voicings))
    slots = [solution.moments[solution.voicings[place].moment].slot_id for place in places]
    sounding = performed(solution, song, Playing(fills=tuple(Fill(slot, "bass-walk-two") for slot in slots)))
    lowest = [s for s in sounding.struck if s.part == "left" and s.midi < 52]
    assert len(lowest) > len(solution.voicings)
    for down, up in sounding.pedals:
        ringing = sorted({s.midi for s in lowest if down <= s.onset < up})
        assert all(b - a > 2 for a, b in itertools.pairwise(ringing))


def test_a_walk_does_not_turn_back_where_it_need_not():
    song, _ = solved("4/4")
    key = song.the_key
    for bass, goal, symbol in ((36, 41, "C"), (41, 36, "F"), (36, 32, "C"), (36, 33, "C")):
        notes = walked(bass, goal, 5, parse_symbol(symbol, key), key, (28, 60))
        assert all(a != c for a, _, c in zip(notes, notes[1:], notes[2:], strict=False))


def test_the_click_counts_a_pickup_to_its_end_and_the_first_beats_are_high():
    song = parse_chart("meter: 3/4\npickup: 1\n| C | F | G |\n| C |")
    sounding = performed(solve_song(BUILDER, timeline(song), Setup()), song)
    clicks = [(s.onset // TICK, s.midi == CLICK_HIGH) for s in sounding.struck if s.part == "click"]
    assert clicks[:5] == [(0, False), (1, True), (2, False), (3, False), (4, True)]
    assert not [s for s in sounding.struck if s.part == "drums" and s.onset < TICK]


def test_a_bass_player_plays_on_the_beat_and_walks_where_it_swings():
    solution, sounding = played("4/4", "charleston", bass="theirs")
    bass = [s for s in sounding.struck if s.part == "bass"]
    assert all(s.onset % TICK == 0 for s in bass)
    assert [s.onset // TICK for s in bass[:4]] == [0, 1, 2, 3]
    assert all((bass[i].midi - solution.voicings[0].chord.root.pc) % 12 == 0 for i in (0,))
    _, plain = played("4/4", "held", bass="theirs")
    assert [s.onset // TICK for s in plain.struck if s.part == "bass"][:3] == [0, 2, 4]
    assert not [s for s in played("4/4", "held")[1].struck if s.part == "bass"]
