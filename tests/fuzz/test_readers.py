"""Every reader on damaged files (a short run; `make fuzz` for the long one), and every song with hostile words."""

import itertools
import json
from fractions import Fraction

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.fuzz import charts, own_data, readers
from tests.fuzz.mutate import WORDS
from tests.fuzz.seeds import CHART, NAMES, packed, rich_song, score_xml
from yellow_hinge.core.chart.edit import insert_bar
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.words import plain
from yellow_hinge.io.opening import read_data
from yellow_hinge.io.songs.migrations import encode_hook

COUNTS = {"chart": 120, "chordpro": 120, "song": 80, "fields": 80, "midi": 30, "score": 10, "packed": 20, "pasted": 80,
    "elements": 80, "messages": 10}  # fmt: skip
hostile = st.lists(
    st.sampled_from(WORDS) | st.text(max_size=12) | st.sampled_from(list("|/\\][x1: %\n")), max_size=6
).map("".join)  # fmt: skip


@pytest.mark.parametrize("kind", NAMES)
def test_a_damaged_file_is_a_song_or_a_fault(kind):
    tally, longest = readers.run(kind, COUNTS[kind], 20261125)
    assert tally["refused"] > 0
    assert tally["whole"] > 0
    assert longest < 5


def test_folders_of_own_data_with_damaged_files_are_used_as_far_as_they_can_be_read():
    tally, longest = own_data.run(8, 20261201)
    assert min(tally["read"], tally["left out"]) > 0
    assert longest < 5


def test_short_charts_are_read_the_same_in_every_way_and_written_again():
    assert min(charts.main(400, 20261201).values()) > 20


def survives(song):
    text = write_chart(song)
    reading = read_chart(text)
    assert reading.faults == (), (reading.faults[0], text)
    assert same_writing(reading.song, song), text
    assert write_chart(reading.song) == text


def cues(song):
    return [slot.cue for section in song.sections for bar in section.bars for slot in bar.slots]


@given(title=hostile, name=hostile, words=st.lists(hostile, min_size=8, max_size=8), extra=hostile)
def test_a_song_file_with_any_words_survives_its_chart_text(title, name, words, extra):
    fields = json.loads(msgspec.json.encode(rich_song(), enc_hook=encode_hook))
    song = fields["form"]
    song["title"], song["extra"] = title, [[extra, title]]
    song["sections"][0]["name"] = song["sections"][2]["name"] = name
    places = []
    for bar in fields["takes"][0]["content"]["chords"]:
        starts = itertools.accumulate((Fraction(slot["beats"]) for slot in bar["slots"][:-1]), initial=Fraction(0))
        places += [(bar["bar"], str(start)) for start in starts]
    cued = zip(places, words, strict=False)
    song["cues"] = [{"bar": bar, "beat": beat, "words": word} for (bar, beat), word in cued]
    data = json.dumps(fields).encode("utf-8", "surrogatepass")
    if any("\ud800" <= sign <= "\udfff" for word in (title, name, extra, *words) for sign in word):
        data = data.replace(b"\\ud", b"\\u2")
    opened = read_data(data, "x.hinge")
    survives(opened.file.song)
    assert cues(opened.file.song)[: len(words)] == [plain(word) for word in words]
    assert opened.file.song.title == (plain(title)[:200].strip() or "Untitled")
    assert len(opened.file.keeps) == 1


@given(title=hostile, label=hostile, lines=st.lists(hostile, min_size=1, max_size=5))
def test_a_chordpro_song_with_any_words_survives_its_chart_text(title, label, lines):
    words = "".join(f"[C]{line}[G7/B]{line}\n" for line in lines)
    text = f"{{title: {title}}}\n{{sov: {label}}}\n[Am]word\n{words}{{eov}}\n"
    opened = read_data(text.replace("\0", "").encode("utf-8", "replace"), "x.cho")
    survives(opened.file.song)


@given(title=hostile, mark=hostile, lyric=hostile)
def test_a_score_with_any_words_survives_its_chart_text(title, mark, lyric):
    from yellow_hinge.io.formats import BY_ID, read_kind  # in this process, for the sake of time

    signs = {"&": "&amp;", "<": "&lt;", ">": "&gt;"}

    def xml(words):
        kept = (sign for sign in words if sign in "\t\n" or (sign >= " " and not "\ud800" <= sign <= "\udfff"))
        return "".join(signs.get(sign, sign) for sign in kept if sign not in "\ufffe\uffff")

    opened = read_kind(BY_ID["score"], packed(score_xml(xml(title), xml(mark), xml(lyric))), "x.mxl")
    survives(opened.file.song)


@given(text=st.lists(st.sampled_from((*"|/ :%\n[]\\", "C", "Am7 ", "| F | ", "[A]\n", "cue: | ", "x2", "key: G\n",
    "1.")), max_size=30))  # fmt: skip
def test_any_chart_that_can_be_read_survives_its_own_text(text):
    reading = read_chart("".join(text))
    if not reading.faults:
        survives(reading.song)


def test_chart_signs_in_words_are_written_so_that_they_stay_words():
    text = "title: T\nkey: C major\nmeter: 4/4\ntempo: 90\n\n[a \\] b]\n      | C        | F G     |\ncue:  | \\x2 \\| y | \\/ / \\\\ |\n"
    reading = read_chart(text)
    assert reading.faults == ()
    assert cues(reading.song) == ["x2 | y", "/", "\\"]
    assert reading.song.sections[0].name == "a ] b"
    assert write_chart(reading.song) == text


def test_a_backslash_that_stands_before_no_sign_stays():
    reading = read_chart("| C |\ncue: | c:\\dir\\name |")
    assert cues(reading.song) == ["c:\\dir\\name"]
    survives(reading.song)


def test_the_whole_seed_and_an_edit_of_it_survive():
    reading = read_chart(CHART)
    survives(reading.song)
    survives(insert_bar(reading.song, (0, 1)))
