"""Keys that are not for the desk: those of the command box and of the menus."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.shell.command_search import found
from yellow_hinge.ui.shell.table import COMMANDS, ROOMS

Key, Modifier = Qt.Key, Qt.KeyboardModifier


@pytest.fixture
def active(window, qtbot):
    """The window with the keys, a chord in its middle selected."""
    window.activateWindow()
    qtbot.waitActive(window)
    window.home.view.setFocus()
    window.desk.selection.go(5)
    qtbot.waitUntil(lambda: not window.home.view.options.pending)
    return window


def everything(window):
    """What a stray key could change."""
    side = window.home.view.side
    return (
        window.desk.state,
        window.desk.selection.index,
        window.home.view.map.canvas.labels,
        side.options.list.currentIndex().row(),
        side.page,
        window.listening.player.playing,
        window.rooms.now_handle.id,
    )


def open_box(window):
    QTest.keyClick(QApplication.focusWidget(), Key.Key_K, Modifier.ControlModifier)
    assert QApplication.focusWidget() is window.drawers.box.line


def test_the_box_has_every_key_while_it_is_open(active):
    before = everything(active)
    open_box(active)
    QTest.keyClicks(QApplication.focusWidget(), "hold 1234/cdfhiklnopst")
    assert active.drawers.box.line.text() == "hold 1234/cdfhiklnopst"
    for key in (
        Key.Key_Left,
        Key.Key_Right,
        Key.Key_Home,
        Key.Key_End,
        Key.Key_Space,
        Key.Key_Delete,
        Key.Key_Insert,
        Key.Key_Tab,
    ):
        QTest.keyClick(QApplication.focusWidget(), key)
        QTest.keyClick(QApplication.focusWidget(), key, Modifier.ShiftModifier)
    for key in (Key.Key_1, Key.Key_2, Key.Key_Z, Key.Key_S, Key.Key_O, Key.Key_Return):
        QTest.keyClick(QApplication.focusWidget(), key, Modifier.ControlModifier)
    assert active.drawers.box.isVisible()
    assert everything(active) == before


def test_enter_runs_the_command_under_the_cursor(active):
    open_box(active)
    QTest.keyClicks(QApplication.focusWidget(), "columns")
    for key in (Key.Key_Down, Key.Key_Up, Key.Key_Down):
        QTest.keyClick(QApplication.focusWidget(), key)
    assert active.drawers.box.chosen.id == "zoom_out"
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)
    assert not active.drawers.box.isVisible()
    open_box(active)
    QTest.keyClicks(QApplication.focusWidget(), "next chord")
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Enter)
    assert active.desk.selection.index == 6
    open_box(active)
    QTest.keyClicks(QApplication.focusWidget(), "no such thing")
    QTest.keyClick(QApplication.focusWidget(), Key.Key_Return)
    assert active.drawers.box.isVisible()


def test_commands_are_found_by_parts_of_their_names():
    assert next(c.id for c in found("hold top", COMMANDS)) == "hold_top"
    assert found("dark", COMMANDS)[0].id == "dark"
    assert found("no such thing", COMMANDS) == []
    assert len(found("", COMMANDS)) == len(COMMANDS)


@pytest.mark.parametrize(
    ("typed", "id_"),
    [
        ("exprot", "export"), ("expotr", "export"), ("keybords", "fold_keys"), ("hsitory", "history"), ("lsit of edits", "history"),
        ("widr colums", "zoom_in"), ("undoo", "undo"), ("sawp", "swap"), ("hingse", "view_hinges"), ("quti", "quit"),
    ],
)  # fmt: skip
def test_mistyped_commands_are_found(typed, id_):
    assert id_ in [command.id for command in found(typed, COMMANDS)][:4]


# --- menus ---
silent = pytest.mark.qt_log_ignore("This plugin does not support", extend=True)


def test_every_menu_and_entry_has_a_letter_of_its_own(window):
    def letters(actions):
        texts = [action.text() for action in actions if action.text()]
        return [text[text.index("&") + 1].lower() for text in texts if "&" in text], texts

    bar, names = letters(window.menuBar().actions())
    assert len(set(bar)) == len(bar) == len(names)
    for action in window.menuBar().actions():
        found_letters, texts = letters(action.menu().actions())
        assert len(set(found_letters)) == len(found_letters)
        assert len(found_letters) >= min(len(texts), 18), texts


def menu_open():
    return QApplication.activePopupWidget()


@silent
def test_f10_opens_the_menus_and_their_keys_stay_in_them(active, qtbot):
    before = everything(active)
    QTest.keyClick(QApplication.focusWidget(), Key.Key_F10)
    assert isinstance(menu_open(), QMenu)
    names = []
    for key in (
        Key.Key_Down,
        Key.Key_Down,
        Key.Key_Right,
        Key.Key_Down,
        Key.Key_Up,
        Key.Key_Left,
        Key.Key_Home,
        Key.Key_End,
    ):
        QTest.keyClick(menu_open(), key)
        names.append(menu_open().title())
    assert len(set(names)) > 1  # right and left went through the menus
    assert everything(active) == before
    QTest.keyClick(menu_open(), Key.Key_Escape)
    for _ in range(3):
        if menu_open() is not None:
            QTest.keyClick(menu_open(), Key.Key_Escape)
    assert everything(active) == before


@silent
def test_arrows_and_enter_in_the_bar_and_its_menus_do_what_menus_do(active, qtbot):
    bar = active.menuBar()
    listen = next(action for action in bar.actions() if action.text().replace("&", "") == "Listen")
    before = everything(active)
    bar.setFocus()
    bar.setActiveAction(listen)
    menu = menu_open()
    tune = active.actions_["hear_tune"]
    was = tune.isChecked()
    for _ in range(30):
        if menu.activeAction() is tune:
            break
        QTest.keyClick(menu, Key.Key_Down)
    QTest.keyClick(menu, Key.Key_Return)
    assert tune.isChecked() is not was
    assert everything(active) == before
    if menu_open() is not None:
        menu_open().close()
    bar.setFocus()
    for key in (Key.Key_Right, Key.Key_Left, Key.Key_Right):
        QTest.keyClick(bar, key)
    assert active.desk.selection.index == 5
    QTest.keyClick(bar, Key.Key_Escape)


# --- lists ---


@silent
@pytest.mark.parametrize("handle", ROOMS, ids=lambda made: made.id)
def test_an_open_list_has_its_keys_and_shows_whole_rows(active, qtbot, handle):
    active.rooms.show_room(handle)
    boxes = [box for box in active.findChildren(ListBox) if box.isVisible() and box.isEnabled() and box.count() > 1]
    assert boxes
    for box in boxes:
        before, chosen = everything(active), box.currentIndex()
        box.showPopup()
        rows = box.view()
        assert rows.viewport().width() >= rows.sizeHintForColumn(0), box.accessibleName()  # no word is cut
        for key, row in (
            (Key.Key_End, box.count() - 1),
            (Key.Key_Up, box.count() - 2),
            (Key.Key_Home, 0),
            (Key.Key_Down, 1),
        ):
            QTest.keyClick(rows, key)
            assert rows.currentIndex().row() == row, (box.accessibleName(), key)
            assert rows.viewport().rect().contains(rows.visualRect(rows.currentIndex()))
        for letter in "abcdefghijklmnopqrstuvwxyz1234567/.":
            QTest.keyClick(rows, letter)
        assert everything(active) == before, box.accessibleName()
        QTest.keyClick(rows, Key.Key_Escape)
        assert menu_open() is None
        assert box.currentIndex() == chosen
