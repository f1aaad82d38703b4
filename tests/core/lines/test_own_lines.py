"""Lines on the shelf: kept in degrees, found again in every key, and true to what was put there."""

import itertools

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.core.lines.test_kept import CHART, SONGS, over
from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.grid import STEPS
from yellow_hinge.core.lines.lines import Line
from yellow_hinge.core.lines.onsets import Asked
from yellow_hinge.core.lines.rails import HIGH, LOW, OVER, RAILS
from yellow_hinge.core.own.lines import HIGHEST, LOWEST, OwnLine, line_fits, shelved_line
from yellow_hinge.core.pitch.key import key_on
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.song_json import song_file

TURN = OwnLine("turn", "Turn", ("2m7 2 1/2 | b3 5 b7 9", "57 2 1/2 | 3 b9 1 b7", "1maj7 4 1/2 | 3 . . . r r r r"))


def moments_of(text):
    return [moment for moment in timeline(song_file(parse_chart(text)).song) if moment.chord is not None]


def found_in(text, entry=TURN, top=55, near=0):
    moments = moments_of(text)
    return line_fits((entry,), moments, [top] * len(moments), near)


@settings(max_examples=examples(30), deadline=None)
@given(
    st.sampled_from(SONGS), st.sampled_from(RAILS), st.sampled_from(tuple(STEPS)), st.integers(0, 4), st.integers(1, 3)
)
def test_what_is_put_on_the_shelf_is_found_where_it_was_and_in_twelve_keys(text, rail, density, first, count):
    song, solution, line, _ = over(text, Asked(rail, density))
    state, moments = state_of(song_file(song)), [voicing.here for voicing in solution.voicings]
    first %= len(moments) - count + 1
    inside = tuple(note for note in line.notes if first <= note.at < first + count)
    part = moments[first : first + count]
    if not inside or len({(moment.section, moment.turn) for moment in part}) > 1:
        return
    over_all = moments[min(note.at for note in inside) : max(note.at for note in inside) + 1]
    if any(a.quarter + a.quarters != b.quarter for a, b in itertools.pairwise(over_all)):
        with pytest.raises(UserError, match="without a chord"):
            shelved_line("Mine", Line(inside, 0.0), moments)
        return
    entry = shelved_line("Mine", Line(inside, 0.0), moments)
    at = min(note.at for note in inside)
    steps = [b.midi - a.midi for a, b in itertools.pairwise(inside)]
    for pc in range(12):
        there = in_key(state, key_on(pc, song.the_key.mode)).song
        row = [moment for moment in timeline(there) if moment.chord is not None]
        fit = next(fit for fit in line_fits((entry,), row, [0] * len(row), at) if fit.first == at)
        assert [b.midi - a.midi for a, b in itertools.pairwise(fit.line.notes)] == steps
        assert [(note.onset, note.at, note.degree) for note in fit.line.notes] == [
            (note.onset, note.at, note.degree) for note in inside
        ]
        end = inside[-1].onset + inside[-1].quarters
        cut = min(end, row[fit.last].quarter + row[fit.last].quarters)
        assert fit.line.notes[-1].onset + fit.line.notes[-1].quarters == cut


@pytest.mark.parametrize("pc", range(12))
def test_it_lies_over_the_left_hand_and_inside_its_range_or_nowhere(pc):
    key = key_on(pc, "major")
    for top in (0, 55, 64, 70):
        for fit in found_in(f"key: {key}\n| 2m7 57 | 1maj7 |", top=top):
            midis = [note.midi for note in fit.line.notes]
            assert max(LOWEST, top + OVER) <= min(midis)
            assert max(midis) <= HIGHEST
            other = min(midis) - 12 >= max(LOW, top + OVER) or max(midis) + 12 <= HIGH
            assert not other or (min(midis) >= LOW and max(midis) <= HIGH)  # no octave would lie better
    assert found_in(f"key: {key}\n| 2m7 57 | 1maj7 |", top=84) == ()


def test_it_fits_where_function_length_and_tune_allow_it_the_next_place_first():
    assert [(fit.first, fit.last) for fit in found_in("key: C\n| Dm7 G7 | Cmaj9 | Dm9 G13 | C6 |", near=3)] == [
        (3, 5),
        (0, 2),
    ]
    assert found_in("key: C\n| Dm7 G7 | C |"), "a plain triad is of the class"
    assert found_in("key: C\n| Dm7 | G7 | C |") == ()  # longer inside
    assert found_in("key: C\n| Dm7 G7 | C / Am7 / |") == ()  # shorter at the end
    assert found_in("key: F\n| Dm7 G7 | C |") == ()  # other functions
    assert found_in("key: C minor\n| Dm7 G7 | Cm7 |") == ()
    assert found_in("key: C\n[A]\n| Dm7 G7 |\n[B]\n| C |") == ()  # across two sections
    assert [fit.line.notes[0].midi for fit in found_in("key: C\n| Dm7 G7 | C |\ntune: | r:4 | r:4 |")] == [77]
    assert found_in("key: C\n| Dm7 G7 | N.C. | C |") == ()  # a bar of silence inside
    sung = "key: C\n| Dm7 G7 | C |\ntune: | E5:4 | r:4 |"  # sounds on beside F5: an octave lower, or not at all
    assert [fit.line.notes[0].midi for fit in found_in(sung)] == [65]
    assert found_in(sung, top=63) == ()


def test_what_is_put_there_says_its_chords_and_what_cannot_be_is_said():
    assert shelved_line(
        "Home, by  half steps", found_in("key: C\n| Dm7 G7 | Cmaj7 |")[0].line, moments_of("key: C\n| Dm7 G7 | Cmaj7 |")
    ) == OwnLine("home-by-half-steps", "Home by half steps", TURN.chords, "2m7 to 1maj7")
    _, solution, line, _ = over(CHART)
    with pytest.raises(UserError, match="no note"):
        shelved_line("x", Line((), 0.0), solution.moments)
    many = moments_of("key: C\n" + "| C | F " * 12 + "|")
    with pytest.raises(UserError, match="mark"):
        shelved_line(
            "x", Line(tuple(line.notes[0]._replace(at=n, onset=m.quarter) for n, m in enumerate(many)), 0.0), many
        )


@pytest.mark.parametrize(
    ("chord", "said"),
    [
        ("2m7 2 1/2 | b3 5 b7", "3 signs"), ("2m7 2 | b3 5", "is not"), ("2m7 2 1/0 | b3 5", "divides"),
        ("2m7 1 1/2 | . 3", "nor . after"), ("2m7 1 1/2 | x 3", "no degree"), ("2m7 1 1/2 | 99 3", "\\S"),
        ("H7 1 1/2 | 3 5", "\\S"), ("2m7 99 1 | 3", "signs"), ("2m7 1 1/2 | r r", "a note at least"),
        ("C|D 1 1/2 | 3 5", "\\S"),
    ],
)  # fmt: skip
def test_a_bad_chord_of_a_line_is_refused_with_words(chord, said):
    with pytest.raises(UserError, match=said):
        OwnLine("a", "A", (chord,))
