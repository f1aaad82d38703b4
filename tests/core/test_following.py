"""Sections, bars and chords stay who they are while the text around them changes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.song.following import all_ids, bare, followed, numbered, same_writing
from yellow_hinge.core.song.song import Song


def symbols(song):
    """The symbol of every slot by its id."""
    return {slot.id: slot.symbol for section in song.sections for bar in section.bars for slot in bar.slots}


def stays(old, new):
    """[(old symbol, new symbol)] of the chords that are the same in two charts, in the new one's order."""
    before = parse_chart(old)
    was = symbols(before)
    return [(was[own], words) for own, words in symbols(followed(before, parse_chart(new))).items() if own in was]


@pytest.mark.parametrize(("old", "new", "pairs"), [("| C | Am | F |", "| C | A7 | F |", "C-C Am-A7 F-F"),
    ("| C | Am | F |", "| Dm | C | Am | F |", "C-C Am-Am F-F"), ("| C | Am | F | G |", "| C | F | G |",
    "C-C F-F G-G"), ("| C | C | C | F |", "| C | C | F |", "C-C C-C F-F"), ("| Am | F |", "| Bb | Am7 | F |",
    "Am-Am7 F-F"), ("| C G |", "| G C |", "G-G C-C"), ("| C |", "| Am C |", "C-C"), ("| C F |", "| C / / F7 |",
    "C-C F-F7"), ("| C / / F |", "| Dm / G F |", "C-Dm F-F"), ("| Fm7 |", "| Bbm7 Eb7 |", "Fm7-Bbm7"),
    ("[A]\n| C | C |\n[B]\n| C | C |", "[A]\n| C |\n[B]\n| C | C |", "C-C C-C C-C")])  # fmt: skip
def test_a_chord_is_found_again_by_its_bar_its_name_and_its_beat(old, new, pairs):
    assert stays(old, new) == [tuple(pair.split("-")) for pair in pairs.split()]


def test_a_section_keeps_its_id_renamed_split_repeated_and_moved():
    old = parse_chart("[A]\n| C | Am | F | G |\n[B]\n| Dm | G7 |\n[A]")
    a, b, again = (section.id for section in old.sections)

    def ids(text):
        return [section.id for section in followed(old, parse_chart(text)).sections]

    assert ids("[Verse]\n| C | Am | F | G |\n[B]\n| Dm | G7 |\n[Verse]")[:2] == [a, b]
    assert ids("[A]\n| C | Am | F |\n[New]\n| G |\n[B]\n| Dm | G7 |\n[A]") == [a, old.next_id, b, again]
    assert ids("[Intro]\n| E |\n[A]\n| C | Am | F | G |\n[B]\n| Dm |\n[A]")[1:] == [a, b, again]
    first = parse_chart("[A]\n| C | C |\n[B]\n| C | C |")
    assert [s.id for s in followed(first, parse_chart("[A]\n| C |\n[B]\n| C | C |")).sections] == [
        s.id for s in first.sections
    ]


CHORD = st.sampled_from(["C", "Am", "F", "G7", "Dm7", "Bb", "57", "N.C."])
BARS = st.lists(st.lists(CHORD, min_size=1, max_size=3).map(" ".join), min_size=1, max_size=6)
CHARTS = st.lists(st.tuples(st.sampled_from("AB"), BARS), min_size=1, max_size=3).map(
    lambda parts: "key: C\n" + "\n".join(f"[{name}{n}]\n| {' | '.join(bars)} |" for n, (name, bars) in enumerate(parts))
)


@given(CHARTS, CHARTS)
def test_ids_are_unique_never_used_again_and_the_writing_is_the_new_one(old, new):
    before, after = parse_chart(old), parse_chart(new)
    found = followed(before, after)
    ids = list(all_ids(found))
    assert same_writing(found, after)
    assert len(set(ids)) == len(ids)
    assert max(ids) < found.next_id
    assert all(own < before.next_id for own in set(ids) & set(all_ids(before)))
    assert {own for own in ids if own >= before.next_id}.isdisjoint(all_ids(before))
    assert followed(found, before).next_id >= found.next_id
    assert followed(before, before) == before


@given(CHARTS, st.data())
def test_a_chord_added_anywhere_moves_no_other(chart, data):
    old = parse_chart(chart)
    section = data.draw(st.integers(0, len(old.sections) - 1))
    at = data.draw(st.integers(0, len(old.sections[section].bars)))
    lines = chart.split("\n")
    row = 2 + 2 * section
    bars = lines[row].strip("| ").split(" | ")
    lines[row] = f"| {' | '.join([*bars[:at], 'F#m7b5', *bars[at:]])} |"
    new = followed(old, parse_chart("\n".join(lines)))
    assert {own: words for own, words in symbols(new).items() if own in symbols(old)} == symbols(old)


def test_numbering_gives_what_has_no_id_or_a_second_ones_a_fresh_one():
    song = parse_chart("| C | F |")
    twice = Song(sections=(song.sections[0], song.sections[0]))
    found = numbered(twice)
    assert len(set(all_ids(found))) == 10
    assert numbered(bare(song)) == song
    assert numbered(found) == found
    assert 0 not in all_ids(numbered(replace(bare(song), next_id=0)))  # as a file may say


def test_a_whole_book_of_other_bars_is_followed_in_time():
    """4000 bars against 4000 others, as when one long song is pasted over another."""
    old = parse_chart("\n".join(["[A]", *["| C | Am | F | G |"] * 1000]))
    new = parse_chart("\n".join(["[B]", *["| Dm | G | C | F |"] * 1000]))
    assert same_writing(followed(old, new), new)


def test_a_slot_gives_way_to_a_bar_with_its_id():
    song = parse_chart("| C | F |")
    first, second = song.sections[0].bars
    twice = replace(first, slots=(replace(first.slots[0], id=second.id),))
    found = numbered(replace(song, sections=(replace(song.sections[0], bars=(twice, second)),)))
    assert [bar.id for bar in found.sections[0].bars] == [first.id, second.id]
    assert len(set(all_ids(found))) == 5
    assert found.sections[0].bars[1] == second
