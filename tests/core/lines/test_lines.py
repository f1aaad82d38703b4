"""Lines of the right hand: their scales and landing notes, the exact lattice, and what a player expects of every line."""

from fractions import Fraction
from itertools import combinations, pairwise, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines import lattice
from yellow_hinge.core.lines.devices import Told, devices
from yellow_hinge.core.lines.grid import STEPS, grid
from yellow_hinge.core.lines.lattice import COUNT, NEVER, Onset, cheapest
from yellow_hinge.core.lines.lines import Line, LineNote, lines, over
from yellow_hinge.core.lines.onsets import Asked
from yellow_hinge.core.lines.rails import HIGH, LOW, OVER, RAILS, RANGES, Landing, cost_of, places, rail
from yellow_hinge.core.lines.scales import landing, scales_at
from yellow_hinge.core.lines.text import read, step_of, written
from yellow_hinge.core.lines.tune import as_tune
from yellow_hinge.core.pitch.key import Key, key_on, parse_key
from yellow_hinge.core.pitch.pitch import flat_note
from yellow_hinge.core.rhythm.fills.degree_line import nearest
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.songs.demo import demo_names, demo_song

MAJOR, MINOR = "| Dm7 | G7 | Cmaj7 | % |", "| Dm7b5 | G7b9 | Cm6 | % |"


def moments_of(chart, key="C"):
    return [moment for moment in timeline(parse_chart(f"key: {key}\n{chart}\n")) if moment.chord is not None]


def in_key(chart, mode, semitones):
    """The chart's moments in another key."""
    tonic = key_on(semitones, mode).tonic
    names = {"C": 0, "D": 2, "G": 7}
    text = "".join(str(flat_note((names[c] + semitones) % 12)) if c in names else c for c in chart)
    return moments_of(text, str(Key(tonic, mode)))


# --- scales and landing notes ---


@pytest.mark.parametrize(
    ("symbol", "key", "following", "scale", "land"),
    [
        ("Dm7", "C major", "G7", "dorian", "b3"), ("G7", "C major", "Cmaj7", "mixolydian", "3"),
        ("G7alt", "C major", "Cmaj7", "altered", "3"), ("G7", "C minor", "Cm6", "mixolydian with a flat second and sixth", "3"),
        ("Db7", "C major", "Cmaj7", "lydian with a flat seventh", "3"), ("Fmaj7", "C major", "G7", "lydian", "3"),
        ("C7", "C major", "F7", "mixolydian", "3"), ("Bm7b5", "C major", "E7", "locrian", "b3"),
        ("A7", "C major", "Dm7", "mixolydian with a flat second and sixth", "3"), ("Fm6", "C major", "Cmaj7", "melodic minor", "b3"),
        ("G13b9", "C major", "Cmaj7", "half-whole diminished", "3"), ("G7sus4", "C major", "G7", "mixolydian", "4"),
        ("F#dim7", "C major", "C/G", "whole-half diminished", "b3"), ("Abmaj7", "C major", "G7", "lydian", "3"),
    ],
)  # fmt: skip
def test_known_chords_have_their_scale_and_landing_note(symbol, key, following, scale, land):
    chord, after = parse_symbol(symbol), parse_symbol(following)
    found = scales_at(chord, parse_key(key), after)
    assert (found[0].name, landing(chord, parse_key(key), after)[0]) == (scale, land)
    assert "blues" in [each.name for each in scales_at(parse_symbol("C7"), parse_key("C major"), parse_symbol("F7"))]


def test_the_one_note_that_changes_is_named():
    chord, key = parse_symbol("E7"), parse_key("C major")
    before = scales_at(parse_symbol("Bm7b5"), key, chord)[0].pcs
    assert scales_at(chord, key, parse_symbol("Am7"), before)[0].why.endswith("new is G# (3)")
    assert scales_at(parse_symbol("Am7"), key, None)[0].why == "the six: nothing changes"


@pytest.mark.parametrize("name", demo_names())
def test_every_chord_of_every_demo_has_scales_that_hold_it(name):
    moments = [moment for moment in timeline(demo_song(name)) if moment.chord is not None]
    for one, two in pairwise(moments):
        first = scales_at(one.chord, one.key, two.chord)[0]
        written = {pc for pc in one.chord.pitch_classes if pc not in first.pcs}
        assert not written, (one.symbol, first.name)
        assert landing(one.chord, one.key, two.chord)


# --- rails ---


@pytest.mark.parametrize(
    ("kind", "degrees"), [("3-7", ["b3", "b7", "3"]), ("7-3", ["b7", "3", "7"]), ("9", ["9", "13", "9"])]
)
@pytest.mark.parametrize("semitones", range(12))
def test_a_rail_goes_through_a_two_five_one_in_every_key(kind, degrees, semitones):
    moments = in_key(MAJOR, "major", semitones)[:3]
    found = rail(moments, [LOW] * 3, kind)
    assert [landed.degree for landed in found] == degrees
    assert all(abs(a.midi - b.midi) <= 2 for a, b in pairwise(found))


@settings(max_examples=examples(25), deadline=None)
@given(st.lists(st.sampled_from(["Dm7", "G7", "Cmaj7", "A7", "Fmaj7", "Bm7b5", "Db7", "Gsus4"]), min_size=1, max_size=4),
       st.sampled_from(RAILS), st.integers(LOW, LOW + 8))  # fmt: skip
def test_no_other_row_of_landing_notes_costs_less(chords, kind, floor):
    moments = moments_of("| " + " | ".join(chords) + " |")
    options = places(moments, [floor] * len(moments))
    best = min(cost_of(moments, kind, row) for row in product(*options))
    found = rail(moments, [floor] * len(moments), kind)
    assert cost_of(moments, kind, found) == best
    assert all(isinstance(landed, Landing) and floor <= landed.midi <= HIGH for landed in found)


# --- the lattice ---


@pytest.mark.parametrize("seed", range(6))
def test_no_other_line_of_a_small_lattice_costs_less(seed):
    rng = np.random.default_rng(seed)
    open_ = rng.choice(COUNT, 6, replace=False)
    onsets = []
    for _ in range(5):
        own = np.full(COUNT, NEVER)
        own[open_] = rng.uniform(0, 2, 6).round(2)
        onsets.append(Onset(own, rng.uniform(0, 1, (COUNT, COUNT)).round(2)))
    every = sorted(lattice.cost_of(onsets, path) for path in product(sorted(open_), repeat=5))
    found = cheapest(onsets, 3)
    costs = [each.cost for each in found]
    assert costs[0] == pytest.approx(every[0])
    assert costs[1] == pytest.approx(every[1])
    assert [lattice.cost_of(onsets, each.path) for each in found] == pytest.approx(costs)
    assert len({each.path for each in found}) == 3


def test_lines_of_one_and_two_notes_and_of_none():
    own = np.where(np.arange(COUNT) == 5, 1.0, NEVER)
    one = Onset(own, np.zeros((COUNT, COUNT)))
    assert [each.path for each in cheapest([one], 2)] == [(5,)]
    assert [each.path for each in cheapest([one, one], 2)] == [(5, 5)]
    assert cheapest([], 2) == []
    assert cheapest([Onset(np.full(COUNT, NEVER), np.zeros((COUNT, COUNT)))] * 3, 2) == []


# --- what a player expects of a line ---

CHORDS = "Dm7 G7 Cmaj7 A7b9 Fmaj7 Bm7b5 E7 Am7 Db7 Gsus4 F#dim7 Abmaj7 C6 G7alt".split()


@settings(max_examples=examples(40), deadline=None)
@given(
    st.lists(st.sampled_from(CHORDS), min_size=2, max_size=10),
    st.sampled_from(RAILS),
    st.sampled_from(list(STEPS)),
    st.integers(0, 2),
    st.integers(48, 70),
    st.sampled_from(["4/4", "3/4", "6/8"]),
    st.sampled_from(list(RANGES.values())),
)
def test_a_line_lands_stays_in_range_over_the_left_hand_and_resolves_its_leaps(
    chords, kind, density, bold, top, meter, within
):
    moments = moments_of(f"meter: {meter}\n| " + " | ".join(chords) + " |")
    made = lines(moments, [top] * len(moments), Asked(kind, density, bold, (), within))
    low, high = within
    assert len(made) == 2
    assert made[0].cost <= made[1].cost
    assert made[0].notes != made[1].notes
    for line in made:
        for note in line.notes:
            moment = moments[note.at]
            assert low <= note.midi <= high
            assert note.midi >= top + OVER or high - top - OVER < 12
            assert moment.quarter <= note.onset < moment.quarter + moment.quarters
            if note.why == "landing":
                assert note.onset == moment.quarter
            if note.why == "passing":
                assert (note.onset - moment.quarter) % moment.meter.beat_quarters
        for a, b, c in zip(line.notes, line.notes[1:], line.notes[2:], strict=False):
            assert a.onset + a.quarters <= b.onset
            leapt = abs(b.midi - a.midi) > 7
            assert not (leapt and (c.midi - b.midi) * (b.midi - a.midi) > 0 and abs(c.midi - b.midi) >= 5)
        places_ = {place.quarter for place in grid(moments, density)}
        assert [note.onset for note in line.notes] == sorted(places_)
        step = step_of(line, moments)
        text = written(line, moments, 74)
        assert read(text, moments, step, 74) == [(n.onset, n.quarters, n.midi) for n in line.notes]


@pytest.mark.parametrize("semitones", range(12))
@pytest.mark.parametrize(("chart", "mode"), [(MAJOR, "major"), (MINOR, "minor")])
def test_degrees_are_the_same_line_in_every_key(chart, mode, semitones):
    home, there = in_key(chart, mode, 0), in_key(chart, mode, semitones)
    line = lines(home, [0] * len(home), Asked("3-7", "eighths", 1))[0]
    text, step = written(line, home, 74), step_of(line, home)
    notes = read(text, there, step, 74 + semitones)
    assert [midi - semitones for _, _, midi in notes] == [note.midi for note in line.notes]


def test_a_note_can_be_held_fast_and_another_density_has_other_places():
    moments = moments_of(MAJOR)
    at = Fraction(5, 2)
    for midi in (70, 77, 81):
        line = lines(moments, [0] * 4, Asked(held=((at, midi),)))[0]
        assert next(note.midi for note in line.notes if note.onset == at) == midi
    counts = [len(grid(moments, density)) for density in ("halves", "quarters", "eighths", "triplets", "sixteenths")]
    assert counts == sorted(set(counts))
    rests = lines(moments, [0] * 4)[0].notes[-1]
    assert rests.onset + rests.quarters < moments[-1].quarter + moments[-1].quarters


def test_a_line_does_not_rub_on_a_long_note_of_the_tune():
    moments = moments_of("| Cmaj7 | Am7 |\ntune: | E5:4 | E5:4 |")
    for line in lines(moments, [0, 0], Asked("7-3")):
        assert not [note for note in line.notes if 0 < abs(note.midi - 76) <= 2]


@pytest.mark.parametrize(
    ("asked", "words"),
    [(Asked("5-1"), "a rail is one of"), (Asked(density="fast"), "a density"), (Asked(bold=3), "bold")]
    + [(Asked(within=within), "an octave") for within in ((60, 84), (67, 90), (70, 80), (84, 67))],
)
def test_what_is_not_known_is_said(asked, words):
    with pytest.raises(UserError, match=words):
        lines(moments_of(MAJOR), [0] * 4, asked)
    assert over([], "3-7", []) == ()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("b3 x", "column 4"),
        (". 3", "nothing sounds"),
        ("3 " * 99, "more signs than steps"),
        ("3''''''", "outside the keyboard"),
        ("3 (5 x 1)", "column 6"),
        ("3 (5 1", "column 3"),
        ("3 ()", "column 3: a group"),
        ("3 . 5 . 1 . 3 (5 3 1)", "column 15: a group"),
    ],
)
def test_faults_of_a_written_line_are_named_by_their_column(text, words):
    with pytest.raises(UserError, match=words):
        read(text, moments_of(MAJOR), Fraction(1, 2), 74)


def test_lines_that_are_asked_to_be_apart_are_and_the_best_stays_the_best():
    moments = moments_of(MAJOR)
    near, far = lines(moments, [0] * 4, Asked(), 4), lines(moments, [0] * 4, Asked(), 4, 3)
    assert far[0] == near[0]
    assert [line.cost for line in far] == sorted(line.cost for line in far)
    assert len(far) == 4
    for one, other in combinations(far, 2):
        assert sum(a.midi != b.midi for a, b in zip(one.notes, other.notes, strict=True)) >= 3


def test_signs_in_brackets_share_a_beat_and_become_the_tune():
    song = parse_chart("key: C\n[A]\n| Dm7 | G7 |\n")
    moments = [moment for moment in timeline(song) if moment.chord is not None]
    notes = read("b3 . (5 b7 1) (. 3) 1 r | (r 7 3) b7", moments, Fraction(1, 2), 65)
    third, half = Fraction(1, 3), Fraction(1, 2)
    assert [(onset, length) for onset, length, _ in notes] == [
        (0, 1), (1, third), (1 + third, third), (1 + 2 * third, third + half), (2 + half, half), (3, half),
        (4 + third, third), (4 + 2 * third, third), (5, half),
    ]  # fmt: skip
    row = tuple(LineNote(onset, length, midi, int(onset >= 4), "", "") for onset, length, midi in notes)
    kept = timeline(parse_chart(write_chart(as_tune(song, Line(row, 0.0), moments))))
    tones = [(m.quarter + t.onset, t.whole) for m in kept for t in m.tune if t.begins]
    assert tones == [(onset, length) for onset, length, _ in notes]


def test_a_line_becomes_the_tune_and_reads_back_from_the_chart():
    song = parse_chart("key: C\n[A]\n| Dm7 | G7 | Cmaj7 | % |\n")
    moments = [moment for moment in timeline(song) if moment.chord is not None]
    line = lines(moments, [0] * 4)[0]
    sung = as_tune(song, line, moments)
    tones = [(m.quarter + t.onset, t.pitch.midi, t.whole) for m in timeline(sung) for t in m.tune if t.begins]
    assert tones == [(note.onset, note.midi, note.quarters) for note in line.notes]
    assert nearest(0, 66) == 72  # a tritone is taken up


def told(*notes):
    """Notes of a line over one chord: (MIDI, degree), the last one landed on over the next."""
    return [Told(midi, 0, degree, False, degree[0] not in "xy") for midi, degree in notes[:-1]] + [
        Told(notes[-1][0], 1, notes[-1][1], True, True)
    ]


def test_the_table_of_devices_is_whole_and_lines_use_most_of_it():
    assert len(devices()) == 10
    assert len({device.name for device in devices()}) == 10
    assert all(
        device.words and (device.into or device.figures or device.name == "outside and back") for device in devices()
    )
    seen = set()
    for name in demo_names():
        moments = [moment for moment in timeline(demo_song(name)) if moment.chord is not None]
        for bold in (0, 1, 2):
            seen |= {note.why for note in lines(moments, [0] * len(moments), Asked(bold=bold))[0].notes}
    names = {device.name for device in devices()}
    assert len(seen & names) >= 7, seen & names
