"""The desk without a window: edits, undo, keeps, answers, rescue."""

import threading

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from tests import examples
from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.state import State, file_of, state_of, state_with
from yellow_hinge.app.keeping.settings import (
    Places,
    Settings,
    load_settings,
    save_settings,
)
from yellow_hinge.app.solving.solver import Answer, Solver, answer
from yellow_hinge.core.chart.edit import insert_bar, with_cue
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import Player
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.song_json import song_file

CHART = "| C | Am | F | G |"


class Now:
    """A solver that answers at once."""

    def __init__(self):
        self.builder, self.number, self.desk = Builder(), 0, None

    def __call__(self, state):
        self.number += 1
        self.desk.accept(answer(self.builder, self.number, state))
        return self.number


def make_desk(chart=CHART):
    ask = Now()
    desk = Desk(ask)
    ask.desk = desk
    desk.document.open(song_file(parse_chart(chart)), None, chart)
    return desk


def test_a_chord_typed_is_voiced_and_taken_back():
    desk = make_desk()
    before = desk.solution.voicings
    desk.type_text("| C | A7 | F | G |")
    assert [v.chord.quality.seventh for v in desk.solution.voicings] == ["", "b7", "", ""]
    assert desk.document.undo() == "type in the chart"
    assert desk.solution.voicings == before
    assert desk.document.redo() == "type in the chart"


def test_typing_in_a_row_is_one_step_of_undo():
    desk = make_desk()
    for text in ("| C | A |", "| C | Am |", "| C | Am7 |"):
        desk.type_text(text)
    desk.document.history.end_group()
    desk.type_text("| C |")
    assert desk.document.undo()
    assert desk.state.text == "| C | Am7 |"
    assert desk.document.undo()
    assert desk.state.text == CHART
    assert desk.document.undo() == ""


def test_faulty_text_stays_typed_while_the_last_good_song_stays_solved():
    desk = make_desk()
    good = desk.solution
    desk.type_text("| C | Qm | F | G |")
    assert desk.solution is good
    assert desk.document.reading.faults
    assert desk.state.text == "| C | Qm | F | G |"
    saved = file_of(desk.state)
    assert saved.text == "| C | Qm | F | G |"
    assert state_of(saved).text == saved.text


def test_states_of_a_song_hold_once_what_they_share_and_are_what_they_are_made_of():
    desk = make_desk("[A]\n| C | F | G | C |\n[B]\n| Am | Dm | G7 | C |\n")
    before = desk.state
    edits = (
        lambda: desk.type_text(desk.state.text.replace("G7", "G13")),
        lambda: desk.edit_chart("cue", lambda song: with_cue(song, (0, 1, 0), "slow")),
        lambda: desk.edit_chart("bar", lambda song: insert_bar(song, (1, 2, 0))),
        lambda: desk.put_keeps("none", ()),
        lambda: desk.change_key(parse_key("Eb")),
        desk.document.undo,
    )
    for edit in edits:
        edit()
        made = desk.state
        assert State(made.form, made.takes, made.take, made.last_take, made.mix).song == made.song
    assert desk.state.song.sections[0].bars[0] is before.song.sections[0].bars[0]
    assert desk.state.form.sections[0].bars[2] is before.form.sections[0].bars[2]
    assert desk.state.shown.content.chords[0] is before.shown.content.chords[0]


def test_keeping_and_letting_go_are_named_in_undo():
    desk = make_desk()
    desk.toggle_keep()
    assert desk.document.history.undo_label == "keep C"
    desk.toggle_keep()
    assert desk.document.history.undo_label == "let C go"
    assert desk.state.keeps == ()


def test_hands_that_cannot_hold_a_chord_play_what_they_can_and_say_so():
    desk = make_desk()
    player = Player(Hands(left_notes=1, right_notes=1))
    desk.change_setup("tiny hands", player=player)
    assert desk.answers.fault == ""
    assert all("allow" in voicing.warnings[0] for voicing in desk.solution.voicings)
    desk.document.undo()
    assert desk.solution.setup.player.hands.left_notes == 4


def test_a_fault_of_the_solver_is_told_and_the_old_solution_stays():
    desk = make_desk()
    good = desk.solution
    desk.accept(Answer(desk.answers.asked + 1, desk.state, None, "something is wrong", 0.0))
    assert desk.answers.fault == "something is wrong"
    assert desk.solution is good


def test_an_answer_to_a_question_that_was_taken_back_is_passed_over():
    """Keep and let go before the solver is done: the answer with the keep must not stay."""
    desk = make_desk()
    ask, waiting = desk.answers._ask, []

    def later(state):
        waiting.append(state)
        ask.number += 1
        return ask.number

    desk.answers._ask = later
    good = desk.solution
    desk.toggle_keep("top")
    desk.toggle_keep("top")
    assert len(waiting) == 1  # the second edit gave the solved song back
    desk.accept(answer(ask.builder, desk.answers.asked, waiting[0]))
    assert desk.solution is good
    assert desk.answers.kept_parts(0) == frozenset()


def test_saving_refuses_other_endings_and_clears_the_mark(tmp_path):
    desk = make_desk()
    desk.type_text("| C |")
    assert desk.document.changed
    with pytest.raises(FileFault, match=r"\.hinge"):
        desk.document.save(tmp_path / "song.mid")
    desk.document.save(tmp_path / "song.hinge")
    assert not desk.document.changed
    assert read_song(str(tmp_path / "song.hinge")).song == desk.state.song


class Editing(RuleBasedStateMachine):
    """Whatever is edited, undoing all of it returns the first song, and redoing all of it the last."""

    def __init__(self):
        super().__init__()
        self.desk = make_desk()
        self.first = self.desk.state

    @rule(text=st.sampled_from([CHART, "| C | Am |", "| Dm7 | G7 | C |", "| C | broken", "key: D\n| 1 | 57 |"]))
    def type_(self, text):
        self.desk.type_text(text)
        self.desk.document.history.end_group()

    @rule(index=st.integers(-1, 9), option=st.integers(0, 30))
    def take(self, index, option):
        self.desk.selection.go(index)
        ways = self.desk.selection.options()
        self.desk.take(ways[option % len(ways)])

    @rule()
    def keep(self):
        self.desk.toggle_keep()

    @rule(colour=st.integers(0, 3), bass=st.sampled_from(["mine", "theirs"]), loop=st.booleans())
    def wish(self, colour, bass, loop):
        self.desk.change_setup("wish", colour=colour, bass=bass, loop=loop)

    @rule()
    def undo(self):
        self.desk.document.undo()

    @rule()
    def redo(self):
        self.desk.document.redo()

    @invariant()
    def the_solution_is_of_the_song_on_the_desk(self):
        state, solved = self.desk.state, self.desk.answers.state
        assert (state.song, state.setup, state.keeps) == (solved.song, solved.setup, solved.keeps)
        assert 0 <= self.desk.selection.index < len(self.desk.solution.voicings)

    def teardown(self):
        last = self.desk.state
        redone = 0
        while self.desk.document.redo():
            redone += 1
        for _ in range(redone):
            self.desk.document.undo()
        assert self.desk.state == last
        while self.desk.document.undo():
            pass
        assert self.desk.state == self.first


TestEditing = Editing.TestCase
TestEditing.settings = settings(max_examples=examples(15), stateful_step_count=15, deadline=None)


def test_the_newest_question_wins_and_an_overtaken_one_is_dropped():
    got, done = [], threading.Event()
    solver = Solver(lambda found: (got.append(found.number), done.set() if found.number == 4 else None), "solver")
    states = [state_with(parse_chart(f"| C | {chord} |")) for chord in ("Am", "F", "G", "Dm")]
    numbers = [solver.ask(state) for state in states]
    assert numbers == [1, 2, 3, 4]
    assert done.wait(20)
    solver.close()
    assert got[-1] == 4
    assert got == sorted(got)


def test_settings_come_back_and_damage_gives_fresh_ones(tmp_path):
    places = Places(tmp_path / "c", tmp_path / "s")
    assert load_settings(places) == Settings()
    save_settings(places, Settings(theme="dark", chord=7))
    assert load_settings(places) == Settings(theme="dark", chord=7)
    (tmp_path / "c" / "settings.json").write_bytes(b'{"theme": 3}')
    assert load_settings(places) == Settings()


def test_hands_that_are_asked_for_anew_stay_with_their_song_until_the_others_come():
    desk = make_desk()
    now, asked = desk.solution, []
    desk.answers._ask = lambda state: asked.append(state) or 99
    desk.renew()
    assert (asked, desk.solved) == ([desk.state], False)
    assert (desk.solution, desk.answers.state) == (now, desk.state)
    desk.accept(answer(Builder(), 99, desk.state))
    assert desk.solved
    assert desk.solution is not now
