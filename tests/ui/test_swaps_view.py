"""The Swaps view as players use it: swaps tried, heard, taken and left; the whole song bolder, refused and taken."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import QPoint, Qt

from tests import examples
from tests.songs import short_text
from tests.ui.conftest import settle
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.songs.demo import FIRST, demo_song, demo_text
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.swaps.bold_list import ROLE
from yellow_hinge.ui.swaps.room import SWAPS
from yellow_hinge.ui.swaps.scene import BEST, SHORT, GroupHead, More, SwapRow
from yellow_hinge.ui.swaps.swapping import NOTHING_YET

Key, LEFT, SHIFT, CTRL = (Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier)  # fmt: skip


def press(qtbot, window, *keys, modifier=Qt.KeyboardModifier.NoModifier):
    for key in keys:
        qtbot.keyClick(window.rooms.currentWidget(), key, modifier)


def found_swaps(window, qtbot, index):
    window.desk.selection.go(index)
    qtbot.keyClick(window.home.view.map, Key.Key_S)
    assert window.rooms.now_handle is SWAPS
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).listed, timeout=40_000)
    return window.rooms.room(SWAPS).view.swaps


def shortened(window, qtbot):
    """A song a quarter as long, so that the whole of it takes a quarter of the time."""
    if window.desk.state.text == demo_text(FIRST):
        text = short_text(0, 1)
        window.desk.document.open(song_file(parse_chart(text)), None, text)
        settle(window, qtbot)


def previewed(window, qtbot, level):
    shortened(window, qtbot)
    window.rooms.show_room(SWAPS)
    before = window.rooms.room(SWAPS).preview
    window.rooms.room(SWAPS).view.strip.levels[str(level)].click()
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).preview not in (None, before), timeout=40_000)
    return window.rooms.room(SWAPS).preview


# --- one chord ---


def test_swaps_are_listed_tried_heard_and_taken(window, qtbot):
    swaps, desk = found_swaps(window, qtbot, 9), window.desk
    before, count = desk.state, len(desk.solution.voicings)
    press(qtbot, window, Key.Key_Down, Key.Key_Down)
    swap = swaps.current
    assert window.keys.title.text().endswith((" in place of A", "A stays here"))
    assert write_symbol(swap.chords[0]) in window.keys.title.text().replace("♯", "#").replace("♭", "b")
    assert f"{swap.motion_after} semitones" in window.rooms.room(SWAPS).view.maps.becomes.title.text()
    assert f"{swap.motion_before} semitones" in window.rooms.room(SWAPS).view.maps.now.title.text()
    assert len(window.rooms.room(SWAPS).view.maps.becomes.canvas.scene.columns) == len(swap.chords) + 2
    assert desk.state == before
    for key, modifier in (
        (Key.Key_P, Qt.KeyboardModifier.NoModifier),
        (Key.Key_P, SHIFT),
        (Key.Key_I, Qt.KeyboardModifier.NoModifier),
    ):
        press(qtbot, window, key, modifier=modifier)
        assert window.listening.player.playing
        window.listening.stop()
    press(qtbot, window, Key.Key_Return)
    settle(window, qtbot)
    slots = desk.state.song.sections[0].bars[8].slots
    assert [slot.symbol for slot in slots] == [write_symbol(chord) for chord in swap.chords]
    assert [slot.beats for slot in slots] == list(swap.beats)
    assert len(desk.solution.voicings) == count + len(swap.chords) - 1
    assert desk.document.history.undo_label.startswith("swap A for ")
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    assert desk.state == before


def test_what_is_tried_is_told_to_screen_readers_and_its_notes_stay(window, qtbot):
    swaps, desk = found_swaps(window, qtbot, 9), window.desk
    press(qtbot, window, Key.Key_Down)
    assert window.rooms.room(SWAPS).view.accessibleDescription() == swaps.currentItem().text()
    before, keys = desk.state, window.keys.canvas
    mark = keys.scene.upper.marks[0]
    at = QPoint(round(keys.scene.upper.centre(mark.midi)), round(keys.scene.upper.y + keys.scene.upper.height - 6))
    qtbot.mousePress(keys, LEFT, pos=at)
    qtbot.mouseMove(keys, at + QPoint(80, 0))
    qtbot.mouseRelease(keys, LEFT, pos=at + QPoint(80, 0))
    qtbot.mouseClick(keys, LEFT, SHIFT, at + QPoint(120, 0))
    assert desk.state == before
    assert window.home.mover.trial is None
    press(qtbot, window, Key.Key_Escape)
    assert not keys.fixed


def test_hands_before_and_after_stand_on_the_two_keyboards(window, qtbot):
    swaps, desk = found_swaps(window, qtbot, 9), window.desk
    press(qtbot, window, Key.Key_Down)
    first = swaps.current.played.voicings[1]
    scene = window.keys.canvas.scene
    assert {mark.midi for mark in scene.upper.marks} == {*desk.selection.voicing.left, *desk.selection.voicing.right}
    assert {mark.midi for mark in scene.lower.marks} == {*first.left, *first.right}
    hinge, words = desk.selection.instead(first)
    assert len(scene.paths) == len(hinge.steps)
    assert window.keys.words.text().replace("♯", "#").replace("♭", "b") == words


def test_a_swap_that_sounds_marks_no_chord_of_the_song(window, qtbot):
    found_swaps(window, qtbot, 9)
    press(qtbot, window, Key.Key_Down, Key.Key_P)
    marked = []
    window.listening.player.at.connect(marked.append)
    qtbot.waitUntil(lambda: bool(window.output.started), timeout=40_000)
    assert set(marked) <= {-1}
    assert window.ribbon.playing == -1
    window.listening.stop()


def test_escape_leaves_a_tried_swap_without_a_trace_and_then_goes_home(window, qtbot):
    swaps = found_swaps(window, qtbot, 9)
    title = window.keys.title.text()
    press(qtbot, window, Key.Key_Down, Key.Key_Escape)
    assert swaps.current is None
    assert window.keys.title.text() == title
    assert not window.rooms.room(SWAPS).view.maps.becomes.isVisible()
    assert window.desk.document.history.undo_label == ""
    press(qtbot, window, Key.Key_Escape)
    assert window.rooms.now_handle is HINGES


def test_short_lists_open_on_the_way_down_or_by_a_click(window, qtbot):
    swaps = found_swaps(window, qtbot, 9)
    first = next(i for i, row in enumerate(swaps.rows) if isinstance(row, More))
    assert first == 1 + BEST + 1 + SHORT  # the best of all, then the first group
    hidden = int(swaps.rows[first].words.split()[0])
    count = swaps.count()
    qtbot.mouseClick(swaps.viewport(), LEFT, pos=swaps.visualItemRect(swaps.item(first)).center())
    assert swaps.count() == count + hidden - 1
    for _ in range(200):
        press(qtbot, window, Key.Key_Down)
    assert isinstance(swaps.rows[-1], SwapRow)
    assert swaps.current is swaps.rows[-1].swap
    assert not any(isinstance(row, More) for row in swaps.rows)
    groups = [row.group for row in swaps.rows if isinstance(row, GroupHead)]
    assert len(groups) == len(set(groups)) >= 3


def test_falling_fifths_are_turned_link_by_link(window, qtbot):
    swaps = found_swaps(window, qtbot, 9)
    while not (swaps.current and len(swaps.current.links) == 3):
        press(qtbot, window, Key.Key_Down)
    strip = window.rooms.room(SWAPS).view.links
    assert strip.isVisible()
    seen = set()
    for link in (0, 1, 0, 2, 0, 1, 0):  # through all eight
        before = swaps.current
        seen.add(before.links)
        strip.buttons[link].click()
        after = swaps.current
        assert [a != b for a, b in zip(before.links, after.links, strict=True)] == [i == link for i in range(3)]
        assert before.chords[1 + link] != after.chords[1 + link]
    assert len({*seen, swaps.current.links}) == 8
    press(qtbot, window, Key.Key_Escape)
    assert not strip.isVisible()


# --- the whole song ---


def test_the_whole_song_is_a_preview_that_is_taken_as_one_edit(window, qtbot):
    shortened(window, qtbot)
    desk = window.desk
    before = desk.state
    found = previewed(window, qtbot, 3)
    changes = found.bolder.changes
    assert desk.state == before
    assert window.rooms.room(SWAPS).view.bold.count() == len(changes) > 2
    assert window.ribbon.marked == {change.at for change in changes}
    assert desk.selection.address == changes[0].at
    assert " in place of " in window.keys.title.text()
    press(qtbot, window, Key.Key_Return, modifier=CTRL)
    settle(window, qtbot)
    assert desk.state.song == found.becomes.song
    assert [v.both for v in desk.solution.voicings] == [v.both for v in found.solution.voicings]
    assert desk.document.history.undo_label == f"reharmonise {len(changes)} chords, boldness 3"
    assert window.ribbon.marked == frozenset()
    assert window.rooms.room(SWAPS).view.strip.boldness == 0
    window.actions_["undo"].trigger()
    settle(window, qtbot)
    assert desk.state == before


def test_changes_are_refused_one_by_one(window, qtbot):
    found = previewed(window, qtbot, 3)
    bold = window.rooms.room(SWAPS).view.bold
    press(qtbot, window, Key.Key_Down, Key.Key_Return)  # refuse by key the first, by mouse the third
    second = bold.visualItemRect(bold.item(2))
    qtbot.mouseClick(bold.viewport(), LEFT, pos=QPoint(second.left() + 18, second.top() + 14))
    refused = {found.bolder.changes[i].at for i in range(bold.count())} & bold.refused
    assert len(refused) == 2
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).preview.refused == refused, timeout=40_000)
    assert window.rooms.room(SWAPS).view.heading.text().startswith(f"Whole song: {bold.count() - 2} of {bold.count()}")
    assert not window.ribbon.marked & refused
    window.rooms.room(SWAPS).view.strip.take.click()
    settle(window, qtbot)
    assert window.desk.state.song == found.bolder.with_changes(frozenset(refused))


def test_long_work_shows_how_far_it_is_and_can_be_stopped(window, qtbot):
    rng = ["C", "Ebm7", "F#7", "Bbmaj7", "Ab13", "C#m7b5", "Gsus4", "E6", "Bm9", "D7b9"]
    chords = [rng[(i * i + i // 7) % len(rng)] for i in range(160)]
    window.desk.type_text(
        "title: L\nkey: C\n" + "\n".join(f"| {a} | {b} |" for a, b in zip(chords[::2], chords[1::2], strict=True))
    )
    settle(window, qtbot)
    window.rooms.show_room(SWAPS)
    strip = window.rooms.room(SWAPS).view.strip
    strip.levels["4"].click()
    qtbot.waitUntil(lambda: strip.progress.isVisible() and strip.progress.value() > 0, timeout=40_000)
    assert strip.leave.isVisible()
    press(qtbot, window, Key.Key_Escape)
    assert window.rooms.now_handle is SWAPS
    assert not strip.progress.isVisible()
    assert strip.boldness == 0
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).listed, timeout=40_000)  # the worker is free again
    assert window.rooms.room(SWAPS).preview is None
    assert not window.rooms.room(SWAPS).view.whole


def test_taking_what_was_not_asked_for_says_what_to_do(window, qtbot):
    before = window.desk.state
    window.actions_["take_whole"].trigger()
    assert window.rooms.now_handle is SWAPS
    assert window.rooms.room(SWAPS).view.strip.told.text() == NOTHING_YET
    assert window.desk.state == before


def test_going_on_while_the_whole_song_is_worked_on_does_not_lose_it(window, qtbot):
    shortened(window, qtbot)
    window.rooms.show_room(SWAPS)
    window.rooms.room(SWAPS).view.strip.levels["3"].click()
    press(qtbot, window, Key.Key_Right)
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).preview is not None, timeout=40_000)
    assert window.rooms.room(SWAPS).view.whole
    assert not window.rooms.room(SWAPS).view.strip.progress.isVisible()


def test_an_edit_while_the_whole_song_is_worked_on_ends_that_work(window, qtbot):
    window.rooms.show_room(SWAPS)
    window.rooms.room(SWAPS).view.strip.levels["3"].click()
    window.desk.type_text("title: A\nkey: C\n| C | Am7 | G7 | C |")
    settle(window, qtbot)
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).listed, timeout=40_000)
    assert window.rooms.room(SWAPS).preview is None
    assert window.rooms.room(SWAPS).view.strip.boldness == 0


def test_other_wishes_make_the_preview_anew(window, qtbot):
    first = previewed(window, qtbot, 2)
    window.desk.change_setup("bass theirs", bass="theirs")
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).preview is not first, timeout=40_000)
    assert window.rooms.room(SWAPS).preview.state.setup.bass == "theirs"
    assert window.rooms.room(SWAPS).view.whole


@pytest.mark.parametrize("theme", ["light", "dark"])
@pytest.mark.parametrize("size", [(1280, 800), (1024, 700)])
def test_nothing_in_the_view_is_cut(make_window, qtbot, theme, size):
    window = make_window(theme=theme, window=size, hands_offered=True)
    window.files.open_demo("harbour-bell")
    settle(window, qtbot)
    found_swaps(window, qtbot, 0)
    strip = window.rooms.room(SWAPS).view.strip
    for part in (*strip.levels.values(), *strip.stays.values(), *window.rooms.room(SWAPS).view.hear.values()):
        assert part.width() >= part.sizeHint().width() - 1, part.text()
    assert window.rooms.room(SWAPS).view.maps.height() > 180


@settings(max_examples=examples(4), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.sampled_from(["down", "up", "right", "left", "take", "escape", "whole", "take whole", "undo", "redo", "bass", "home",
                                 "swaps", "hear", "wait"]), min_size=25, max_size=40))  # fmt: skip
def test_whatever_is_pressed_undoing_all_of_it_returns_the_first_song(window, qtbot, presses):
    desk = window.desk
    desk.document.open(song_file(demo_song("slack-tide")), None)
    first = desk.state
    keys = {"down": Key.Key_Down, "up": Key.Key_Up, "right": Key.Key_Right, "left": Key.Key_Left, "take": Key.Key_Return,
            "escape": Key.Key_Escape, "swaps": Key.Key_S, "hear": Key.Key_P}  # fmt: skip
    for number, name in enumerate(presses):
        if name in keys:
            press(qtbot, window, keys[name])
        elif name == "whole":
            window.rooms.room(SWAPS).view.strip.levels[str(number % 5)].click()
        elif name == "take whole":
            window.rooms.room(SWAPS).take_whole()
        elif name in ("undo", "redo"):
            window.actions_[name].trigger()
        elif name == "bass":
            desk.change_setup("bass", bass="theirs" if desk.state.setup.bass == "mine" else "mine")
        elif name == "home":
            window.rooms.show_room(HINGES)
        else:
            qtbot.wait(60)
    window.listening.stop()
    settle(window, qtbot)
    for label in (title for title in desk.document.history.labels[0] if title.startswith("swap")):
        assert " for " in label
    while desk.document.undo():
        pass
    assert desk.state == first
    settle(window, qtbot)
    if window.rooms.room(SWAPS).preview is not None:
        assert window.rooms.room(SWAPS).preview.state.song == desk.state.song
    window.rooms.room(SWAPS).leave_whole()


def test_the_next_best_is_put_in_the_place_of_a_change_and_taken(window, qtbot):
    found = previewed(window, qtbot, 3)
    bold = window.rooms.room(SWAPS).view.bold
    row = next(i for i, change in enumerate(found.bolder.changes) if change.others)
    at = found.bolder.changes[row].at
    bold.setCurrentRow(row)
    assert "1 of" in bold.item(row).data(ROLE)[2]
    press(qtbot, window, Key.Key_X)
    qtbot.waitUntil(lambda: window.rooms.room(SWAPS).preview.bolder is not found.bolder, timeout=40_000)
    assert bold.currentRow() == row
    assert "2 of" in bold.item(row).data(ROLE)[2]
    chosen = next(c.choice for c in window.rooms.room(SWAPS).preview.bolder.changes if c.at == at)
    assert chosen == found.bolder.changes[row].others[0]
    window.rooms.room(SWAPS).view.strip.take.click()
    settle(window, qtbot)
    assert window.desk.state.song == found.bolder.exchanged(at).with_changes()


def test_repeats_may_be_decided_apart_in_one_edit(window, qtbot):
    window.desk.type_text("key: C\n|: C | Am | Dm7 | G7 :| C |")
    settle(window, qtbot)
    window.rooms.show_room(SWAPS)
    window.rooms.room(SWAPS).view.strip.apart.setChecked(True)
    found = previewed(window, qtbot, 2)
    assert len(found.becomes.song.sections) == 3
    before = window.desk.state
    window.rooms.room(SWAPS).take_whole()
    settle(window, qtbot)
    assert window.desk.state.song.sections[0].bars != before.song.sections[0].bars
    assert len(window.desk.state.song.sections) == 3
    window.desk.document.undo()
    assert window.desk.state == before


def test_the_preview_is_heard_from_the_bar_that_is_selected_to_the_end(window, qtbot):
    found = previewed(window, qtbot, 2)
    lengths = []
    for index in (0, 4):
        window.desk.selection.go(index)
        window.rooms.room(SWAPS).sound("becomes")
        count = len(lengths) + 1
        qtbot.waitUntil(lambda count=count: len(window.output.started) == count, timeout=20_000)
        lengths.append(window.output.started[-1].length)
        window.listening.stop()
    moments = [v.here for v in found.solution.voicings]
    whole = moments[-1].start + moments[-1].beats
    gone = window.desk.solution.voicings[4].here
    assert lengths[1] < lengths[0]
    assert lengths[1] / lengths[0] == pytest.approx(float((whole - gone.start + gone.beat - 1) / whole), rel=0.05)
