"""The tune in the right hand: every melody note is struck, and what lies under it is the best that can be held."""

import itertools

from hypothesis import given
from hypothesis import strategies as st

from tests.core.rhythm.test_patterns import played
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.pattern.patterns import TICK, patterns
from yellow_hinge.core.rhythm.tune.beneath import tune_span
from yellow_hinge.core.rhythm.tune.hand import TuneNote, can_lie_under, octaves_below, price, under_tune
from yellow_hinge.core.song.timeline import timeline

POOLS = st.lists(st.integers(55, 72), min_size=0, max_size=3, unique=True).map(lambda notes: tuple(sorted(notes)))


@given(
    POOLS, st.lists(st.tuples(st.integers(1, 4), st.none() | st.integers(60, 84)), min_size=1, max_size=3),
    st.integers(7, 10), st.sets(st.integers(55, 72), max_size=2), st.sampled_from([40, 52, 128]),
)  # fmt: skip
def test_nothing_cheaper_lies_under_the_tune(pool, steps, reach, guides, floor):
    hands, guides = Hands(right_reach=reach), frozenset(guides)
    tones, at = [], 0
    for length, midi in steps:
        tones.append(TuneNote(at, at + length * 240, midi))
        at += length * 240
    found = tuple(under_tune(pool, tones, hands, guides, floor))
    assert len(found) == len(tones)
    for tone, notes in zip(tones, found, strict=True):
        assert can_lie_under(notes, tone.midi, hands)
        assert tone.midi is None or all(note < tone.midi for note in notes)
        assert all(note in pool or (note + 12 in pool and note > floor) for note in notes)
    wide = tuple(sorted({*pool, *octaves_below(pool, tones, floor)}))
    subsets = [n for size in range(len(wide) + 1) for n in itertools.combinations(wide, size)]
    able = [[notes for notes in subsets if can_lie_under(notes, tone.midi, hands)] for tone in tones]
    assert price(found, tones, pool, guides) == min(price(row, tones, pool, guides) for row in itertools.product(*able))


def test_every_melody_note_is_struck_by_the_right_hand_on_top():
    for pattern in patterns():
        for meter in ("4/4", "3/4"):
            solution, sounding = played(meter, pattern, melody="top")
            hands = solution.setup.player.hands
            right = [s for s in sounding.struck if s.part == "right"]
            for moment in solution.moments:
                swing = next((here.swing for here in sounding.row if here.moment is moment), 50)
                for tone in moment.tune if moment.chord is not None else ():
                    onset = round(moment.quarter * TICK) + tune_span(tone, moment, swing)[0]
                    held = sorted(s.midi for s in right if s.onset <= onset < s.end)
                    assert not tone.begins or any(s.onset == onset and s.midi == tone.pitch.midi for s in right), (
                        pattern,
                        onset,
                    )
                    assert tone.pitch.midi not in held or held[-1] == tone.pitch.midi, (pattern, onset, held)
                    assert span_mm(tuple(held)) <= hands.limit("right", len(held))


def test_a_kept_top_stays_over_the_tune_and_a_tune_under_the_left_hand_is_said():
    song = parse_chart("key: C\n| C | F | G |\ntune: | E4:2 G4:2 | A4:4 | D4:2 A1:2 |\n")
    setup, moments = Setup(melody="top"), timeline(song)
    keep = Keep(moments[0].slot_id, "C", (), (60, 64, 72), "top")
    solution = solve_song(BUILDER, moments, setup, (keep,))
    assert solution.voicings[0].right[-1] == 72
    sounding = performed(solution, song)
    struck = [s for s in sounding.struck if s.place == 0 and s.part == "right"]
    assert 72 in {s.midi for s in struck}
    assert not any(s.added for s in struck)  # and no octave below stands for it
    assert {s.midi for s in struck if s.onset == 0} >= {64, 72}
    assert "goes under your left hand (A1)" in " ".join(solution.voicings[2].warnings)
    assert "goes under" not in " ".join(solution.voicings[1].warnings)


def test_what_the_tune_leaves_out_of_reach_is_let_go_and_comes_back():
    hands = Hands()
    row = under_tune(
        (60, 64), [TuneNote(0, TICK, 67), TuneNote(TICK, 3 * TICK, 77), TuneNote(3 * TICK, 6 * TICK, 67)], hands
    )
    assert row == [(60, 64), (64,), (60, 64)]


def test_where_the_tune_goes_below_a_note_its_octave_stands_for_it():
    row = under_tune((64, 68), [TuneNote(0, 2 * TICK, 71), TuneNote(2 * TICK, 4 * TICK, 64)], Hands(), frozenset(), 49)
    assert row == [(64, 68), (56,)]


def test_a_tied_note_is_not_struck_again():
    _, sounding = played("4/4", "four-parts", melody="top")
    right = [s for s in sounding.struck if s.part == "right" and s.velocity == 84]
    assert [s.onset for s in right] == sorted({s.onset for s in right})
