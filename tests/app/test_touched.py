"""A tempo, a title or a note changes nothing that must be solved, written or read again; what it leaves is what writing
and reading the whole chart would have given.
"""

import msgspec
import pytest

from tests.app.test_desk import make_desk
from yellow_hinge.app.edits.asking import with_memo
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import changed
from yellow_hinge.app.edits.takes import added, renamed
from yellow_hinge.app.edits.touched import SLIGHT, Touched, touched
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.io.songs.demo import demo_names, demo_text

BARE = "[A]\n| C | Am7 |\ntune: | C5:4 | E5:4 |\n| F | G7 |\n"
CALLED = "Titel: Barge\nbpm:  90\nkey: C\n[A]\n| C | Am7 |\n"


@pytest.mark.parametrize(
    "text", [BARE, CALLED, "title: One\n\n" + BARE, BARE + "title: Late\n| C |\n", *map(demo_text, demo_names())]
)
def test_another_tempo_is_what_reading_the_chart_anew_gives(text, monkeypatch):
    desk = make_desk(text)
    solution, asked = desk.solution, desk.answers.asked
    for way in ("read_chart", "write_chart"):
        monkeypatch.setattr(f"yellow_hinge.app.desk.desk.{way}", lambda *_: pytest.fail("the whole chart"))
        monkeypatch.setattr(f"yellow_hinge.app.edits.state.{way}", lambda *_: pytest.fail("the whole chart"))
    monkeypatch.setattr("yellow_hinge.app.desk.document.read_chart", lambda *_: pytest.fail("read again"))
    desk.put_tempo(133)
    document, reading = desk.document, read_chart(desk.state.text)
    assert document.touched == Touched.TEMPO
    assert (desk.solution is solution, desk.answers.asked, desk.solved) == (True, asked, True)
    assert desk.answers.state.song.tempo == desk.song.tempo == reading.song.tempo == 133
    assert (document.reading.song, document.reading.places) == (reading.song, reading.places)
    assert changed(desk.state, reading.song).song == desk.state.song


def test_a_tempo_reaches_the_takes_that_share_the_form():
    desk = make_desk(CALLED)
    desk.document.do(Edit("a take", added(desk.state, "Second")))
    desk.put_tempo(70)
    assert all("bpm:  70" in take.text for take in desk.state.takes if take.text)
    assert desk.state.form.tempo == 70


def test_an_edit_says_what_it_touches():
    desk = make_desk(CALLED)
    state = desk.state
    note = with_memo(state, 0, "slowly")
    louder = msgspec.structs.replace(state.setup, colour=2)
    for label, other, what in (("note", note, Touched.NOTES), ("take", added(state, "B"), Touched.TAKES)):
        assert touched(state, other) == what, label
    assert touched(state, renamed(state, state.take, "Quay")) & Touched.TAKES
    desk.document.do(Edit("note", note))
    assert not desk.document.touched & ~SLIGHT
    desk.put_setup("colour", louder)
    assert desk.document.touched & Touched.HANDS
    desk.type_text(desk.state.text.replace("Barge", "Quay"))
    assert desk.document.touched == Touched.TITLE
    desk.document.undo()
    assert desk.document.touched == Touched.TITLE


def test_a_tempo_waits_for_a_chart_that_can_be_read():
    desk = make_desk(BARE)
    desk.type_text(BARE + "| Qm |")
    desk.put_tempo(80)
    assert "has to wait" in desk.answers.fault


def test_a_mended_chart_is_shown_whole_though_only_its_title_is_another():
    desk = make_desk(CALLED)
    desk.type_text(CALLED.replace("Barge", "Quay").replace("Am7", "Qm7"))
    assert desk.document.touched == Touched.ALL
    desk.type_text(CALLED.replace("Barge", "Quay"))
    assert desk.document.touched == Touched.ALL  # its mistake is gone
