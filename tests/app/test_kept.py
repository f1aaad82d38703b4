"""What the player kept is never dropped by an edit: it holds, rests, or was let go by the player."""

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from tests import examples
from tests.app.test_desk import make_desk
from yellow_hinge.app.desk.swapping import take_swap
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.app.edits.wishing import with_wish
from yellow_hinge.core.chart import edit as chart_edit
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import in_force
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.song.following import all_ids
from yellow_hinge.io.songs.song_json import from_json, to_json


def kept_desk(chart="key: C\n[A]\n| C | Am | F | G |"):
    desk = make_desk(chart)
    desk.selection.go(1)
    desk.take(desk.selection.options()[3])
    return desk, desk.selection.voicing.both


def typed(desk, text):
    desk.type_text(text)
    desk.document.history.end_group()


@pytest.mark.parametrize(
    "text",
    [
        "key: C\n[A]\n| C | A7 | F | G |",  # another chord in its place
        "key: C\n[A]\n| C | F | G |",  # gone
        "key: C\n[A]\n| C F | G |",
        "",  # all of it
        "key: C\n[B]\n| Dm | Dm |",  # another song
    ],
)
def test_a_kept_chord_that_changed_or_went_comes_back_with_it(text):
    desk, hands = kept_desk()
    whole = desk.state.text
    typed(desk, text)
    if text:
        assert desk.resting()
        assert not any(v.both == hands for v in desk.solution.voicings)
    typed(desk, whole)
    assert desk.resting() == ()
    assert desk.solution.voicings[1].both == hands


def test_a_bar_put_elsewhere_takes_what_is_kept_along():
    desk, hands = kept_desk()
    typed(desk, "key: C\n[A]\n| C | F | G | Am |")
    assert desk.solution.voicings[3].both == hands
    desk.edit_chart("move", lambda song: chart_edit.move_bar(song, (0, 3), 0))
    assert desk.solution.voicings[0].both == hands


def test_spelling_a_chord_otherwise_or_writing_it_as_a_number_lets_nothing_go():
    desk, hands = kept_desk("key: Db\n| Db | Gbmaj7 | Ab7 |")
    for chord in ("F#M7", "GbMaj7", "4maj7", "Gbmaj7"):
        typed(desk, f"key: Db\n| Db | {chord} | Ab7 |")
        assert desk.solution.voicings[1].both == hands
        assert desk.was() == []
    typed(desk, "key: Bb minor\n| Db | Gbmaj7 | Ab7 |")  # the key corrected
    assert desk.solution.voicings[1].both == hands


def test_a_key_typed_over_numbers_moves_what_is_kept_with_them():
    desk, hands = kept_desk("key: C\n| 1 | 6m7 | 4 |")
    typed(desk, "key: D\n| 1 | 6m7 | 4 |")
    assert desk.solution.voicings[1].both.left == tuple(note + 2 for note in hands.left)
    typed(desk, "key: A\n| 1 | 6m7 | 4 |")
    assert desk.solution.voicings[1].both.left == tuple(note - 3 for note in hands.left)


def test_a_held_top_goes_on_over_a_chord_put_inside_it():
    desk = make_desk("key: C\n| C | Am | F | G |")
    desk.hold_top()
    desk.hold_top()
    typed(desk, "key: C\n| C | Em | Am | F | G |")
    assert [bool(desk.answers.kept_parts(i)) for i in range(5)] == [True, True, True, True, False]
    typed(desk, "key: C\n| Em | Am | F | G |")
    assert [bool(desk.answers.kept_parts(i)) for i in range(4)] == [True, True, True, False]


def test_an_edit_that_cannot_be_done_says_why_and_changes_nothing():
    desk = make_desk("key: C\npickup: 1\n| G | C | F |")
    before = desk.state
    desk.edit_chart("move", lambda song: chart_edit.move_bar(song, (0, 0), 2))
    assert "pickup" in desk.answers.fault
    assert desk.state == before
    typed(desk, desk.state.text + "| Qq |")
    desk.edit_chart("add a bar", lambda song: chart_edit.insert_bar(song, (0, 1)))
    assert desk.answers.fault == "add a bar has to wait: the chart has a mistake in line 3"


def test_what_rests_is_saved_with_the_song_and_let_go_only_by_the_player():
    desk, hands = kept_desk()
    desk.edit_chart("delete", lambda song: chart_edit.delete_chord(song, (0, 1, 0)))
    file = from_json(to_json(file_of(desk.state)), "x")
    again = state_of(file)
    assert again == desk.state
    desk.document.open(file, None)
    typed(desk, "key: C\n[A]\n| C | Am | F | G |")
    assert desk.solution.voicings[1].both == hands
    typed(desk, "key: C\n[A]\n| C | A7 | F | G |")
    desk.free_resting()
    assert desk.state.keeps == ()
    assert desk.document.undo() == "let go what rests"
    assert len(desk.state.keeps) == 1


TEXTS = [
    "key: C\n[A]\n| C | Am | F | G |", "key: C\n[A]\n| Dm | C | Am | F | G7 |", "key: C\n[A]\n| C | Am7 F |\n[B]\n| G |",
    "key: D\n[A]\n| D | Bm | G | A |", "key: C\n[B]\n| 1 | 6m | 4 |\n[A]\n| F | G |", "key: C\n| C | Qq |", "",
    "key: Am\n[A]\n| C | Am | F | G |", "key: C\n[A]\n| C | A7 | F | G |\n[A]",
]  # fmt: skip


class Walking(RuleBasedStateMachine):
    """Whatever is edited, everything that was kept or asked for is there, and holds or rests."""

    def __init__(self):
        super().__init__()
        self.desk = make_desk(TEXTS[0])
        self.mine = self.things()

    def things(self):
        """What the player kept or asked for, however often it moved."""
        state = self.desk.state
        return (
            sorted((keep.slot, keep.part, len(keep.left), len(keep.right)) for keep in state.keeps),
            [(wish.at, wish.colour, wish.lift) for wish in state.setup.wishes],
            [held.slots[0] for held in state.setup.held],
        )

    @rule(text=st.sampled_from(TEXTS), pause=st.booleans())
    def type_(self, text, pause):
        self.desk.type_text(text)
        if pause:
            self.desk.document.history.end_group()

    @rule(key=st.sampled_from(["C", "Eb", "F#", "A"]))
    def key(self, key):
        self.desk.change_key(parse_key(key))

    @rule(
        edit=st.sampled_from([chart_edit.insert_bar, chart_edit.delete_bar, chart_edit.split_chord, chart_edit.delete_chord]),
        bar=st.integers(0, 4),
    )  # fmt: skip
    def structure(self, edit, bar):
        whole = edit in (chart_edit.insert_bar, chart_edit.delete_bar)
        self.desk.edit_chart("edit", lambda song: edit(song, (0, bar) if whole else (0, bar, 0)))

    @rule(one=st.integers(0, 4), other=st.integers(0, 4))
    def move(self, one, other):
        self.desk.edit_chart("move", lambda song: chart_edit.move_bar(song, (0, one), other))
        self.desk.edit_chart("swap", lambda song: chart_edit.swap_chords(song, (0, one, 0), (0, other, 0)))

    @rule(index=st.integers(0, 9), number=st.integers(0, 30))
    def swap(self, index, number):
        self.desk.selection.go(index)
        if self.desk.solution and not self.desk.document.reading.faults:
            found = swaps(self.desk.answers._ask.builder, self.desk.solution, self.desk.selection.index)
            if found:
                take_swap(self.desk, found[number % len(found)])

    @rule(index=st.integers(0, 9), part=st.sampled_from(["chord", "top", "bass", "left"]))
    def keep(self, index, part):
        self.desk.selection.go(index)
        self.desk.toggle_keep(part)
        self.mine = self.things()

    @rule(index=st.integers(0, 9), colour=st.integers(0, 3), scope=st.sampled_from(["section", "bar", "chord"]))
    def wish(self, index, colour, scope):
        self.desk.selection.go(index)
        if self.desk.selection.moment is not None:
            self.desk.put_setup(
                "wish", with_wish(self.desk.state.setup, self.desk.selection.moment, scope, colour=colour)
            )
            self.mine = self.things()

    @rule()
    def hold(self):
        self.desk.hold_top()
        self.mine = self.things()

    @rule(back=st.booleans())
    def undo(self, back):
        (self.desk.document.undo if back else self.desk.document.redo)()
        self.mine = self.things()

    @invariant()
    def everything_is_there_and_holds_or_rests(self):
        desk, state = self.desk, self.desk.state
        assert self.things() == self.mine
        ids = list(all_ids(state.song))
        assert len(set(ids)) == len(ids)
        assert all(0 < own < state.song.next_id for own in ids)
        rests = [rest.what for rest in desk.resting()]
        moments = desk.solution.moments if desk.solution and desk.solved else ()
        for keep in state.keeps:
            holds = [moment for moment in moments if in_force(keep, moment)]
            assert bool(holds) != (keep in rests) or not moments
        for wish in state.setup.wishes:
            assert (wish in rests) == (wish.at not in ids)
        assert state_of(from_json(to_json(file_of(state)), "x"), state.text) == state

    @invariant()
    def the_song_can_still_be_written_and_played(self):
        if not self.desk.document.reading.faults and self.desk.state.text:
            try:
                assert self.desk.solved
            except UserError:
                raise AssertionError from None


TestWalking = Walking.TestCase
TestWalking.settings = settings(max_examples=examples(25), stateful_step_count=10, deadline=None)
