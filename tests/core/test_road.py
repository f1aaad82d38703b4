"""D.C., D.S., coda and fine are read, written, edited and played as they say."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.edit import delete_bar, insert_bar, move_bar
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import ChordSymbolError
from yellow_hinge.core.song.road import MOST_STEPS, SIGNS, road, signs_in
from yellow_hinge.core.song.song import Bar, Section, Slot, Song
from yellow_hinge.core.song.timeline import check_read, timeline
from yellow_hinge.core.takes.written_out import passes_of


def played(text):
    return " ".join(moment.symbol for moment in timeline(parse_chart("key: C\n" + text)))


@pytest.mark.parametrize(("text", "why"), [("| C | F |\nD.S. al fine", "'segno', which stands nowhere"),
    ("| C | F |\nD.C. al fine", "'fine', which stands nowhere"), ("| C | F |\nD.C. al coda",
    "'to coda', which stands nowhere"), ("| C (to coda) | F |\nD.C. al coda", "'coda', which stands nowhere"),
    ("| C (fine) | F | D.C. al fine\n| G |", "bar 3 of 'Song' is never played")])  # fmt: skip
def test_signs_that_lead_nowhere_are_named_at_their_line(text, why):
    fault = read_chart("key: C\n" + text).faults[-1]
    assert why in fault.message
    assert fault.line > 1


def test_passes_after_a_jump_are_passes_of_their_own():
    song = parse_chart("[A]\n|: C | F :| (fine)\n[B]\n| G |\nD.C. al fine\n")
    one, two = (section.id for section in song.sections)
    assert passes_of(song) == [(one, 0), (one, 1), (two, 0), (one, 2)]
    assert [m.pass_id for m in timeline(song)] == [(one, 0)] * 2 + [(one, 1)] * 2 + [(two, 0)] + [(one, 2)] * 2
    assert [n for n, m in enumerate(timeline(song)) if m.ends] == [1, 3, 4, 6]


def test_chart_text_with_signs_reads_back_and_edits_keep_them():
    text = "| C | (segno) F (to coda) | G Am | Dm (D.S. al coda) | (coda) C |"
    song = parse_chart("key: C\n" + text)
    assert parse_chart(write_chart(song)) == song
    more = insert_bar(song, (0, 3)).sections[0].bars
    assert [bar.signs for bar in more[3:]] == [(), ("D.S. al coda",), ("coda",)]
    less = delete_bar(song, (0, 1)).sections[0].bars
    assert [bar.signs for bar in less] == [("to coda",), ("segno",), ("D.S. al coda",), ("coda",)]
    moved = move_bar(song, (0, 0), 2).sections[0].bars
    assert [bar.signs for bar in moved] == [bar.signs for bar in song.sections[0].bars]


def test_signs_are_found_among_chords_and_leave_their_columns():
    assert signs_in("F (to  Coda)") == (["to coda"], "F           ")
    assert signs_in("D C F Fm7b5 (3/4)") == ([], "D C F Fm7b5 (3/4)")
    assert signs_in("Dal Segno al Fine") == (["D.S. al fine"], " " * 17)


bars = st.lists(
    st.tuples(st.booleans(), st.sampled_from((0, 0, 2, 3)), st.sampled_from((0, 0, 1, 2)),
              st.lists(st.sampled_from(SIGNS), max_size=2)),
    min_size=1, max_size=6,
)  # fmt: skip


@given(st.lists(bars, min_size=1, max_size=3))
def test_any_signs_end_and_no_pass_is_played_twice_in_a_row(sections):
    song = Song(
        sections=tuple(
            Section(str(n), tuple(Bar((Slot("C", 4),), (), o, r, False, e, None, 0, tuple(s)) for o, r, e, s in made))
            for n, made in enumerate(sections)
        )
    )
    steps = road(song)
    assert 0 < len(steps) < MOST_STEPS
    jumps = [step.jumps for step in steps]
    assert jumps == sorted(jumps)


@given(st.lists(st.sampled_from(("C", "Dm7", "4", "Xy", "V7/q", "N.C.")), min_size=4, max_size=4), st.integers(0, 4))
def test_chords_that_cannot_be_read_are_refused_as_the_timeline_refuses_them(symbols, key):
    one = Section(
        "A", tuple(Bar((Slot(symbol, 4),)) for symbol in symbols[:2]), key=("", "Eb", "F# minor", "D dorian", "Db")[key]
    )
    song = Song(
        "Song", "C", sections=(one, Section("B", tuple(Bar((Slot(symbol, 4),)) for symbol in symbols[2:])), one)
    )

    def fault(check):
        try:
            check(song)
        except ChordSymbolError as error:
            return str(error)

    assert fault(check_read) == fault(timeline)
