"""A performance is heard as the chart that was played, whoever plays it, however high, late or soft."""

from functools import cache

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import some
from tests.performances import perform
from yellow_hinge.core.hearing.hear import hear, top_line, turned
from yellow_hinge.core.hearing.in_bars import Asked
from yellow_hinge.core.hearing.strikes import Tone, grouped
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.quality import chord_class

PLAYED = [
    ("dominants", "stride"), ("hymn", "held"), ("pop", "eighths"), ("twos", "beats"), ("waltz", "waltz"),
    ("kettle-on-the-stove", "held"), ("pop", "broken-octaves"), ("dominants", "charleston"),
]  # fmt: skip


@cache
def blind(*which):
    """What was played, and what is heard of it without being told anything."""
    played = perform(*which)
    return played, hear(played.tones)


def right(heard, played):
    """The share of chords that are heard with their root and class, and with their bar's beginning."""
    wanted = [m for m in timeline(played.song) if m.chord]
    hits = 0
    for moment in wanted:
        begin, end = played.second(float(moment.quarter)), played.second(float(moment.quarter + moment.quarters))
        best = max(heard.chords, key=lambda c: min(end, c.end) - max(begin, c.start), default=None)
        chord = best.chord.chord if best is not None else None
        same = chord is not None and chord.root.pc == moment.chord.root.pc
        hits += same and chord_class(chord.quality) == chord_class(moment.chord.quality)
    return hits / len(wanted)


@pytest.mark.parametrize("which", PLAYED)
def test_with_a_click_the_chords_key_and_hands_are_heard(which):
    played = perform(*which, drift=0.0)
    unit = float(played.song.meter.beat_quarters)
    meter = (played.song.meter.upper, played.song.meter.lower)
    heard = hear(played.tones, Asked(click=played.song.tempo * unit, meter=meter))
    assert right(heard, played) >= 0.85
    assert str(heard.key) == played.song.key
    assert [n.tone for n in heard.notes] == played.tones
    assert sum(n.left == left for n, left in zip(heard.notes, played.left, strict=True)) >= 0.93 * len(played.left)


def test_blind_most_bars_are_found_and_a_key_turns_the_others():
    found = 0
    for which in PLAYED[:5]:
        played, heard = blind(*which)
        truth = 60 / played.song.tempo
        found += heard.grid.meter == (played.song.meter.upper, played.song.meter.lower) and (
            abs(heard.grid.period / truth - 1) < 0.1
        )
    assert found >= 4
    other = heard.grids[1]
    assert turned(heard, other).grid is other
    assert {g.size for g in heard.grids} >= {2, 3, 4} - {0} or len(heard.grids) > 1


@pytest.mark.parametrize(
    ("up", "later", "softer"), some([(5, 0, 1.0), (0, 3.7, 1.0), (0, 0, 0.8), (-3, 1.3, 0.9)], 2, 1)
)
def test_higher_later_softer_is_the_same(up, later, softer):
    played, one = blind("pop", "eighths")
    moved = [Tone(t.on + later, t.off + later, t.midi + up, int(t.velocity * softer)) for t in played.tones]
    other = hear(moved)
    assert [(c.bar, c.beat, c.beats) for c in other.chords] == [(c.bar, c.beat, c.beats) for c in one.chords]
    assert [(c.chord.chord.root.pc - up) % 12 for c in other.chords] == [c.chord.chord.root.pc for c in one.chords]
    same = sum(a.left == b.left for a, b in zip(other.notes, one.notes, strict=True))
    assert same >= 0.98 * len(one.notes)  # in another key the black keys lie otherwise under the hands
    if not up:
        assert (other.left, other.right, same) == (one.left, one.right, len(one.notes))


def test_the_rhythm_of_both_hands_is_written_as_patterns_are():
    _, heard = blind("pop", "eighths")
    assert heard.right.count("/.5 all") == 8
    waltz = hear(perform("waltz", "waltz", drift=0.0).tones, Asked(click=108, meter=(3, 4)))
    assert waltz.left.startswith("0/")
    assert "1/" in waltz.right


def test_what_was_held_comes_back_as_the_hands_that_held_it():
    played = perform("hymn", "held", late=0.005, drift=0.0)
    heard = hear(played.tones, Asked(click=80))
    hands = [(c.left, c.right) for c in heard.chords]
    assert all(left and right for left, right in hands)
    for chord in heard.chords:
        row = zip(played.tones, played.left, strict=True)
        mine = {tone.midi for tone, is_left in row if is_left and abs(tone.on - chord.start) < 0.1}
        assert set(chord.left) == mine or not mine  # held on


def test_pushed_chords_belong_to_the_beat_that_they_are_struck_before():
    bars = [(48, 60, 64, 67), (45, 60, 64, 69), (41, 60, 65, 69), (43, 59, 62, 65)] * 2
    tones = [Tone(2 * n - (0.25 if n else 0), 2 * n + 1.7, midi) for n, chord in enumerate(bars) for midi in chord]
    heard = hear(sorted(tones), Asked(click=120, meter=(4, 4), key=parse_key("C")))
    assert [c.chord.symbol for c in heard.chords] == ["C", "Am", "F", "G7"] * 2


def test_a_single_line_has_no_chords():
    tones = [Tone(n * 0.5, n * 0.5 + 0.45, midi) for n, midi in enumerate([60, 62, 64, 65, 67, 65, 64, 62] * 4)]
    heard = hear(tones)
    assert heard.alone
    assert heard.chords == ()
    assert not any(note.left for note in heard.notes)


@given(st.lists(st.tuples(st.floats(0, 9), st.floats(0.01, 3), st.integers(21, 108)), max_size=6))
@settings(max_examples=30, deadline=None)
def test_almost_nothing_is_no_fault_and_never_sure(notes):
    heard = hear(sorted(Tone(on, on + length, midi) for on, length, midi in notes))
    assert len(heard.notes) == len(notes)
    if len({round(on, 1) for on, _, _ in notes}) < 4:
        assert heard.sure == 0.0


def test_notes_together_are_one_strike_and_rolled_ones_too():
    together = [Tone(0.0, 1, 60), Tone(0.02, 1, 64), Tone(0.03, 1, 67), Tone(0.5, 1, 72)]
    assert grouped(together) == [(0, 1, 2), (3,)]
    rolled = [Tone(0.1 * n, 2, 48 + 7 * n) for n in range(4)]
    assert grouped(rolled) == [(0, 1, 2, 3)]
    falling = [Tone(0.1 * n, 2, 80 - 7 * n) for n in range(4)]
    assert grouped(falling) == [(0,), (1,), (2,), (3,)]


def test_rolled_chords_are_written_as_rolls_and_the_top_line_is_the_tune():
    rows = [(36, 48, 55, 60, 64), (41, 53, 57, 60, 65), (43, 55, 59, 62, 67), (36, 48, 55, 60, 64)] * 2
    tones = [
        Tone(0.5 + 2.4 * bar + 0.06 * n, 2.7 + 2.4 * bar, midi, 70)
        for bar, notes in enumerate(rows)
        for n, midi in enumerate(notes)
    ]
    heard = hear(tones, Asked(click=100.0))
    assert "~" in heard.right or "~" in heard.left
    assert [tone.midi for tone in top_line(heard)] == [notes[-1] for notes in rows]
    straight = hear([tone._replace(on=0.5 + 2.4 * ((tone.off - 2.7) / 2.4)) for tone in tones], Asked(click=100.0))
    assert "~" not in straight.right + straight.left
