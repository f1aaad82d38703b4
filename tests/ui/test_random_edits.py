"""Random edits through the window's own commands: it and its desk agree, and undoing all gives the first song back."""

from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st

from tests import examples
from tests.ui.conftest import settle
from yellow_hinge.ui.paint.strand.strands import BESIDE, RESTS

STEPS = st.sampled_from(
    ["next", "previous", "keep", "keep_top", "keep_bass", "keep_left", "keep_right", "free_all", "hold_top", "drop_top",
     "option_down", "take", "undo", "redo", "note_up", "note_down", "forget", "fit", "page_stiff", "page_ways", "labels"]
)  # fmt: skip


@settings(max_examples=examples(12), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@example(steps=["next", "next", "option_down", "take"])
@given(st.lists(STEPS, min_size=4, max_size=18))
def test_the_window_shows_what_the_desk_holds(window, qtbot, steps):
    window.files.open_demo("cork-and-rope")
    settle(window, qtbot)
    first = window.desk.state
    for step in steps:
        window.actions_[step].trigger()
        if step in ("undo", "redo", "take", "keep"):
            settle(window, qtbot)
        desk = window.desk
        columns = window.home.view.map.canvas.scene.columns
        assert len(columns) == len(desk.solution.voicings)
        assert window.home.view.map.canvas.selected == desk.selection.index
        assert window.actions_["undo"].isEnabled() == bool(desk.document.history.undo_label)
    settle(window, qtbot)
    shown = window.home.view.map.canvas.scene.columns
    for index, column in enumerate(shown):
        voicing = window.desk.solution.voicings[index]
        assert {plate.mark.midi for plate in column.plates} == {*voicing.left, *voicing.right}
        marks = {BESIDE} if index in window.desk.answers.beside else set()
        marks |= {RESTS} if voicing.here.slot_id in {rest.slot for rest in window.desk.resting()} else set()
        assert column.kept == window.desk.answers.kept_parts(index) | marks
    while window.desk.document.undo():
        pass
    assert window.desk.state == first
