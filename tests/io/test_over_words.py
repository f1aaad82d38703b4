"""Chords above words, as people paste them, and what they become."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.opening import read_data
from yellow_hinge.io.texts.over_words import chords_of, looks_over_words
from yellow_hinge.io.texts.words_songs import read_over_words

FERRY = """Ferry at Dusk

Capo: 2
[Verse 1]
 C          Am7           F        G7
Lanterns along the landing, rope in the rain
C            Am7
somebody's calling
"""


def bars(text):
    """Sections as (name, bars), each bar's chords with a space between them."""
    song = read_over_words(text, "x.txt").song
    return [(s.name, [" ".join(slot.symbol for slot in bar.slots) for bar in s.bars]) for s in song.sections]


def pasted():
    blocks = (Path(__file__).parent / "pasted.txt").read_text("utf-8").split("=== ")[1:]
    return [(name, *rest.split("\n---\n")) for name, _, rest in (block.partition("\n") for block in blocks)]


@pytest.mark.parametrize(("name", "text", "wanted"), pasted(), ids=[name for name, *_ in pasted()])
def test_songs_as_people_paste_them(name, text, wanted):
    assert looks_over_words(text)
    found = [f"{section}: {' | '.join(chords)}".strip() for section, chords in bars(text)]
    assert found == wanted.strip().split("\n")
    assert parse_chart(write_chart(read_over_words(text, "x.txt").song))


def cues(text):
    song = read_over_words(text, "x.txt").song
    return [slot.cue for section in song.sections for bar in section.bars for slot in bar.slots]


def test_words_go_to_the_chord_above_them_and_are_not_torn():
    assert cues(FERRY)[:4] == ["Lanterns", "along the", "landing, rope in", "the rain"]
    assert (
        cues("C    G\nsomewhere\nF\nelse") == ["", "somewhere", "else"]
        or cues("C    G\nsomewhere\nF\nelse")[2] == "else"
    )


def test_title_key_tempo_and_capo_are_kept_and_guesses_are_said():
    found = read_over_words(FERRY + "D\nleft\nwords without a chord\n", "x.txt")
    assert (found.song.title, found.song.key) == ("Ferry at Dusk", "C major")
    assert ("capo", "2") in found.song.extra
    told = " ".join(found.report)
    assert "the bars are guessed" in told
    assert "1 line of words without chords" in told
    assert "no key is written" in told
    keyed = read_over_words("Title: Dusk\nKey: Gm\nTempo: 96\n" + FERRY, "x.txt").song
    assert (keyed.title, keyed.key, keyed.tempo) == ("Dusk", "G minor", 96)


def test_a_word_in_a_row_that_is_no_chord_is_said_and_nothing_else_is():
    found = read_over_words("C  G  Zz  Am\nhome by the water\nF  G\nagain", "x.txt")
    assert [slot.symbol for s in found.song.sections for bar in s.bars for slot in bar.slots][2] == "N.C."
    assert [words for words in found.report if "is no chord" in words] == [
        "line 1, column 7: 'Zz' is no chord; N.C. stands there"
    ]


@pytest.mark.parametrize("text", ["title: X\n[A]\n| C | F |\n| G | C |\n", "Just some words\nand more of them\n",
    "A man\nA plan\n", "| C | F |\ncue: | a | b |\n", ""])  # fmt: skip
def test_charts_and_prose_are_left_alone(text):
    assert not looks_over_words(text)


def test_a_file_of_it_opens_as_a_song_with_a_report():
    opened = read_data(FERRY.encode(), "ferry.txt")
    assert opened.file.song.title == "Ferry at Dusk"
    assert opened.report
    assert "| C " in write_chart(opened.file.song)
    with pytest.raises(FileFault, match="no line of chords"):
        read_over_words("words only", "x.txt")


def test_a_line_of_words_that_could_be_chords_is_words():
    assert chords_of("C  G/B  Am7")
    assert not chords_of("A  man")
    assert not chords_of("Am I here")
    assert not chords_of("   ")


@given(st.text("CGAm7# |xb/\n\t()[]2:", max_size=120))
def test_reading_never_fails_but_for_a_reason(text):
    try:
        read_over_words(text, "x.txt")
    except FileFault as fault:
        assert "x.txt" in str(fault)


def test_a_row_of_empty_bars_over_words_is_a_mistake_with_its_place():
    with pytest.raises(UserError, match="line 2, column 3: an empty bar"):
        read_data(b"[Verse]\n|:      :|\nLamps along the\n| Am    | F     |\nquay\n", "pasted.txt")
