"""Swaps and bolder songs as edits: taken, undone to the bit, remembered; and the worker that finds them."""

import threading

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.app.test_desk import make_desk
from tests.core.leading.test_solution import TWELVE
from tests.songs import BUILDER
from yellow_hinge.app.desk.swapping import take_bolder, take_swap
from yellow_hinge.app.edits.state import file_of
from yellow_hinge.app.solving.of_swaps import FoundSwaps, Preview, SwapFinder
from yellow_hinge.core.errors import NoVoicingError
from yellow_hinge.core.reharm.ideas import ideas
from yellow_hinge.core.reharm.swaps import scene_at, swaps
from yellow_hinge.core.reharm.table import SUBSTITUTES
from yellow_hinge.core.reharm.whole import bolder
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.demo import demo_names, demo_text
from yellow_hinge.io.songs.song_json import song_file, to_json

NUMBERS = ["1", "1maj7", "2m7", "3m7", "4", "4m6", "57", "57sus4", "6m", "6m7", "67", "7m7b5", "b7", "#1dim7", "5/7",
    "27"]  # fmt: skip


def songs(draw):
    key, meter = draw(st.sampled_from(TWELVE)), draw(st.sampled_from(["4/4", "3/4", "12/8"]))
    minor = draw(st.booleans())
    bars = draw(st.lists(st.lists(st.sampled_from(NUMBERS), min_size=1, max_size=2), min_size=2, max_size=5))
    head = f"key: {key}{' minor' if minor else ''}\nmeter: {meter}\n"
    return head + "| " + " | ".join(" ".join(bar) for bar in bars) + " |"


@settings(max_examples=examples(12), deadline=None)
@given(st.data())
def test_every_swap_is_one_edit_that_undo_takes_back_to_the_bit(data):
    try:
        desk = make_desk(songs(data.draw))
    except NoVoicingError:
        return
    if desk.selection.voicing is None:
        return
    desk.selection.go(data.draw(st.integers(0, len(desk.solution.voicings) - 1)))
    before, beats = to_json(file_of(desk.state)), sum(m.beats for m in desk.solution.moments)
    found = swaps(BUILDER, desk.solution, desk.selection.index)
    for swap in data.draw(st.permutations(found))[:5]:
        hands = desk.solution.voicings
        take_swap(desk, swap)
        assert desk.document.history.undo_label.startswith("swap ")
        assert sum(m.beats for m in desk.solution.moments) == beats
        assert to_json(file_of(desk.state)) != before
        desk.document.undo()
        assert to_json(file_of(desk.state)) == before
        assert [v.both for v in desk.solution.voicings] == [v.both for v in hands]


def test_a_pedal_through_several_chords_is_one_edit():
    desk = make_desk("key: C\n| C | F A | Dm7 | G7 | C |")
    desk.selection.go(1)
    before = to_json(file_of(desk.state))
    swap = next(s for s in swaps(BUILDER, desk.solution, 1) if s.kind.id == "pedal-through" and s.span == 3)
    take_swap(desk, swap)
    assert [m.symbol for m in desk.solution.moments] == ["C", "F/G", "A/G", "Dm7/G", "G7", "C"]
    assert desk.document.history.undo_label == "swap F and 2 more for F/G A/G Dm7/G"
    desk.document.undo()
    assert to_json(file_of(desk.state)) == before


def test_every_kind_of_the_table_is_met_in_the_demo_songs_or_their_turns():
    """The kinds are not only reachable in charts made for them."""
    met = set()
    for name in demo_names():
        desk = make_desk(demo_text(name))
        for index in range(len(desk.solution.voicings)):
            met |= {kind.id for kind, _, _ in ideas(scene_at(desk.solution, index))}
    seldom = {"picardy", "parallel", "turnaround", "steps", "walk-up", "two-fives", "over-pedal", "four-minor"}
    assert met | seldom >= {kind.id for kind in SUBSTITUTES.values()}
    assert len(met) > 40


def test_a_bolder_song_is_one_edit_and_stale_ones_are_refused():
    desk = make_desk("key: C\n| Cmaj7 | Am7 | Dm7 | G7 | Cmaj7 |")
    found = bolder(BUILDER, desk.state.song, desk.state.setup, (), 3, frozenset())
    before = to_json(file_of(desk.state))
    one = frozenset(change.at for change in found.changes[1:])
    take_bolder(desk, found, one)
    assert desk.document.history.undo_label == "reharmonise 1 chord, boldness 3"
    desk.document.undo()
    assert to_json(file_of(desk.state)) == before
    take_bolder(desk, found, frozenset(change.at for change in found.changes))
    assert desk.document.history.undo_label == ""  # nothing was left to take
    desk.type_text("| C | F |")
    take_bolder(desk, found, frozenset())
    assert desk.state.song != found.song
    assert desk.document.history.undo_label != "reharmonise"


def test_a_saved_song_remembers_what_its_chords_were(tmp_path):
    desk = make_desk("key: C\n| C | Fm7 | G7 | C |")
    desk.type_text("key: C\n| C | Db9 | G7 | C |")
    desk.document.save(tmp_path / "a.hinge")
    again = make_desk()
    again.document.open(read_song(str(tmp_path / "a.hinge")), tmp_path / "a.hinge")
    again.selection.go(1)
    assert again.was() == ["Fm7"]
    again.type_text("key: C\n| C | Bbm7 Eb7 | G7 | C |")
    assert again.was() == ["Fm7", "Db9"]
    again.selection.go(2)
    assert again.was() == ["Fm7", "Db9"]  # it began as the same chord
    again.document.save(tmp_path / "a.hinge")
    third = make_desk()
    third.document.open(read_song(str(tmp_path / "a.hinge")), tmp_path / "a.hinge")
    assert [w.symbols for w in read_song(str(tmp_path / "a.hinge")).was] == [("Fm7", "Db9")] * 2
    third.selection.go(2)
    assert third.was() == ["Fm7", "Db9"]
    third.type_text("key: C\n| C | G7 |")
    assert {w.symbols for w in third.state.was} == {("Fm7", "Db9"), ("Fm7", "Db9", "Bbm7")} or third.state.was


# --- the worker ---


class Worker:
    """A finder whose answers can be waited for."""

    def __init__(self):
        self.answers, self.shares, self.came = [], [], threading.Event()
        self.finder = SwapFinder(self._tell, self.shares.append, "test")

    def _tell(self, answer):
        self.answers.append(answer)
        self.came.set()

    def wait(self):
        """The next answer that is whole."""
        while True:
            assert self.came.wait(30)
            self.came.clear()
            if getattr(self.answers[-1], "whole", True):
                return self.answers[-1]


@pytest.fixture
def worker():
    made = Worker()
    yield made
    made.finder.close()


def test_the_worker_finds_swaps_and_whole_songs_and_tells_how_far_it_is(worker):
    desk = make_desk("key: C\n| Cmaj7 | Am7 | Dm7 | G7 | Cmaj7 |")
    number = worker.finder.ask(desk.solution, 3)
    found = worker.wait()
    assert isinstance(found, FoundSwaps)
    assert found.number == number
    assert any(swap.kind.id == "tritone" for swap in found.swaps)
    first = worker.answers[0]
    assert (first.number, first.whole, found.whole) == (number, False, True)
    assert 0 < len(first.swaps) < len(found.swaps)
    assert {id(swap) for swap in first.swaps} <= {id(swap) for swap in found.swaps}  # what is under the cursor stays
    worker.finder.ask_whole(desk.state, 3, frozenset())
    whole = worker.wait()
    assert isinstance(whole, Preview)
    assert worker.shares[-1] == 1
    assert whole.becomes.song == whole.bolder.with_changes()
    refused = frozenset({whole.bolder.changes[0].at})
    worker.finder.ask_without(whole, whole.bolder, refused)
    less = worker.wait()
    assert less.bolder is whole.bolder
    assert less.becomes.song == whole.bolder.with_changes(refused)


def test_faults_and_bugs_of_the_worker_are_answers(worker, monkeypatch):
    desk = make_desk("key: C\n| C | F |")
    worker.finder.ask_whole(desk.state, 9, frozenset())
    assert "boldness 9" in worker.wait().fault
    worker.finder.ask(None, 0)
    assert isinstance(worker.wait().error, AttributeError)
    desk.document.open(song_file(desk.state.song), None)
