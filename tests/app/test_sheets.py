"""Sheets of takes, mixes and other keys; twelve keys; notes of the player's own, which nothing loses."""

from queue import Queue

import pytest

from tests.core.sheet.charts import opened, solved
from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.asking import with_memo
from yellow_hinge.app.edits.state import changed_in, file_of, retyped, state_of
from yellow_hinge.app.solving.of_sheets import SheetSolver, Twelve, WrittenSheet, memo_edit, sheet_state, take_name
from yellow_hinge.app.solving.twelve import stretch
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.practice.rounds import round_keys
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.song import Memo
from yellow_hinge.core.takes.mixing import mixed
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

CHART = "key: C\n[Verse]\n|: C | Am7 | Dm9 G13 :|\n[Bridge]\n| F | Fm6 |\n[Verse]\n"


def state():
    return opened(CHART, False)


def words_of(sheet):
    return [text.words for page in sheet.pages for text in page.texts]


def asked(what, ask, known=None, twelve=None):
    """What the worker answers."""
    told = Queue()
    solver = SheetSolver(told.put, "test")
    solver.ask(what, known, ask, False, twelve)
    answer = told.get(timeout=60)
    solver.close()
    assert isinstance(answer, WrittenSheet)
    return answer


def test_a_sheet_in_another_key_leaves_the_song_alone_and_has_hands_of_its_own():
    here = state()
    there = sheet_state(here, SheetAsk(key="Eb"))
    assert here.song.key == "C major"
    assert there.song.key == "Eb major"
    here = changed_in(here, playing=Playing(sounds="F"))
    sheet = asked(here, SheetAsk(key="Eb"), solved(here))
    words = words_of(sheet)
    assert pretty_signs("Eb") in words
    assert "C" not in {w for w in words if len(w) > 3}
    assert any("sounds in F" in w and "+2" in w for w in words)
    other = solved(there)
    first = {v.here.slot_id: v for v in reversed(other.voicings)}  # each chord stands once, as it is first played
    names = {str(p) for v in first.values() for p in v.pitches("left")[:1]}
    assert {pretty_signs(name) for name in names} <= set(words)


def test_the_mix_is_a_sheet_of_its_passes_and_says_so():
    here = takes.three(state())
    here = takes.with_choice(here, here.song.sections[0].id, 1, here.takes[1].id)
    sheet = asked(here, SheetAsk(mix=True))
    assert not sheet.fault
    assert not sheet.picks
    assert any("the mix" in words for words in words_of(sheet))
    assert words_of(sheet).count("Verse") == len([c for c in mixed(here).song.sections if c.name == "Verse"])
    assert take_name(state(), SheetAsk()) == ""
    assert take_name(here, SheetAsk()) == here.name


def test_a_song_without_a_chord_is_a_sheet_of_its_bars():
    silent = state_of(song_file(parse_chart("[Wait]\n| N.C. | N.C. |\n")))
    sheet = asked(silent, SheetAsk())
    assert words_of(sheet).count("N.C.") == 2
    assert "Wait" in words_of(sheet)


# --- twelve keys -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("key", "order"), [
    ("C major", ["C", "F", "Bb", "Eb", "Ab", "Db", "Gb", "B", "E", "A", "D", "G"]),
    ("A minor", ["A", "D", "G", "C", "F", "Bb", "Eb", "G#", "C#", "F#", "B", "E"]),
    ("D dorian", ["D", "G", "C", "F", "Bb", "Eb", "Ab", "C#", "F#", "B", "E", "A"]),
])  # fmt: skip
def test_twelve_keys_go_by_fourths_with_few_signs(key, order):
    found = round_keys(parse_key(key), "fourths")
    assert [str(k.tonic) for k in found] == order
    assert {k.mode for k in found} == {parse_key(key).mode}


def test_a_stretch_is_what_is_written_between_two_chords():
    song = state().song
    symbols = lambda cut: [s.symbol for sec in cut.sections for bar in sec.bars for s in bar.slots]  # noqa: E731
    assert symbols(stretch(song, (0, 1, 0), (0, 2, 0))) == ["Am7", "Dm9"]
    assert symbols(stretch(song, (0, 2, 1), (1, 0, 0))) == ["G13", "F"]
    assert symbols(stretch(song, (1, 1, 0), (1, 0, 0))) == ["F", "Fm6"]
    assert not any(bar.repeats or bar.opens for s in stretch(song, (0, 0, 0), (1, 1, 0)).sections for bar in s.bars)


def test_twelve_keys_fit_on_two_pages_or_take_a_page_each():
    here = state()
    together = asked(here, SheetAsk(), None, Twelve((0, 0, 0), (0, 2, 1)))
    assert len(together.pages) <= 2
    each = asked(here, SheetAsk(), None, Twelve((0, 0, 0), (0, 2, 1), True))
    assert len(each.pages) == 12
    assert not each.picks


# --- notes of the player's own -----------------------------------------------------------------------------------


def test_notes_are_saved_follow_their_chord_rest_and_come_back():
    here = state()
    slot = here.song.sections[1].bars[0].slots[0].id
    noted = with_memo(with_memo(here, slot, "  softly \n now"), 0, "capo off")
    assert set(noted.memos) == {Memo(slot, "softly now"), Memo(0, "capo off")}
    assert state_of(from_json(to_json(file_of(noted)), "x")).memos == noted.memos
    without = retyped(noted, parse_chart(CHART.replace("| F | Fm6 |", "| Fm6 |")))
    assert without.memos == noted.memos
    back = retyped(without, parse_chart(CHART))
    assert back.song.sections[1].bars[0].slots[0].id == slot
    assert with_memo(noted, slot, " ").memos == (Memo(0, "capo off"),)
    assert memo_edit(noted, 0, "the song", "capo off") is None


def test_notes_are_undone_and_go_with_takes_and_mix():
    desk = Desk(lambda state: 0)
    desk.type_text(CHART)
    slot = desk.state.song.sections[0].bars[0].slots[0].id
    before = desk.state
    desk.document.do(memo_edit(desk.state, slot, "C", "here"))
    assert desk.document.history.undo_label == "note on C"
    two = takes.added(desk.state, "Other")
    assert two.memos == (Memo(slot, "here"),)
    mix = mixed(takes.with_choice(two, two.song.sections[0].id, 0, two.take))
    assert [memo.words for memo in mix.memos] == ["here", "here", "here", "here"][: len(mix.memos)]
    assert len(mix.memos) == sum(section.name == "Verse" for section in mix.song.sections)
    desk.document.undo()
    assert desk.state == before


def test_a_key_that_is_none_is_refused_before_anything_is_solved():
    with pytest.raises(UserError):
        Playing(sounds="Q")
