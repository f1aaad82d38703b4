"""The window as a screen reader meets it: every view and dialog has roles, names and values."""

import pytest
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QComboBox, QDialog, QLabel, QWidget

from tests.ui.conftest import settle
from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog
from yellow_hinge.ui.paint.reading_order import reading_order
from yellow_hinge.ui.shell.table import ROOMS

Role, Text = QAccessible.Role, QAccessible.Text
PRESSED = (Role.Button, Role.CheckBox, Role.RadioButton, Role.ButtonMenu, Role.ButtonDropDown)


def heard(widget):
    """(role, name, value) as a reader is told."""
    face = QAccessible.queryAccessibleInterface(widget)
    return face.role(), face.text(Text.Name), face.text(Text.Value)


def label_of(box):
    """The label that names a box."""
    beside = [label for label in box.parentWidget().findChildren(QLabel) if label.buddy() is box]
    return beside[0].text() if beside else ""


def check(area):
    """Every control that can have the keys has a role, a name, and a value where it has one."""
    order = reading_order(area)
    assert order
    for control in order:
        role, name, value = heard(control)
        assert role != Role.NoRole, control
        if isinstance(control, QComboBox):
            assert label_of(control), control.accessibleName()
            assert value == control.currentText(), control.accessibleName()
        else:
            assert name, (role, control)
        assert role not in PRESSED or name.strip("…▾ "), control


def test_every_control_of_a_view_has_a_role_a_name_and_a_value(window, qtbot):
    for view in ROOMS:
        window.rooms.show_room(view)
        settle(window, qtbot)
        check(window.centralWidget())


@pytest.mark.qt_log_ignore("This plugin does not support", extend=True)
def test_dialogs_are_named_too(window, qtbot):
    hands = HandsDialog(window.desk.state.setup, window.look.theme, window)
    window.helping.open("Guide")
    window.drawers.box.open()
    for dialog in (hands, window.helping.shown, window.drawers.box):
        dialog.show()
        assert not isinstance(dialog, QDialog) or dialog.windowTitle()
        controls = [each for each in dialog.findChildren(QWidget) if each.isVisible() and each.focusPolicy().value & 1]
        assert controls
        for control in controls:
            if isinstance(control, QComboBox):
                assert label_of(control)
            elif control.parentWidget().metaObject().className() not in ("QComboBox", "QSpinBox"):
                assert heard(control)[1], control
        dialog.hide()


def test_views_and_lists_are_tabs_and_choices_are_radio_buttons(window):
    for bar, names in ((window.rail, [view.title for view in ROOMS]), (window.home.view.side.tabs, None)):
        face = QAccessible.queryAccessibleInterface(bar)
        assert face.role() == Role.PageTabList
        tabs = [face.child(n) for n in range(bar.count())]
        assert all(tab.role() == Role.PageTab for tab in tabs)
        assert names is None or [tab.text(Text.Name) for tab in tabs] == names
    for button in (*window.header.bass.values(), *window.home.view.wishes.colour.values()):
        assert heard(button)[0] == Role.RadioButton


def test_the_map_says_chord_hands_and_hinge_and_what_changes_is_announced(window, qtbot, monkeypatch):
    announced = []
    monkeypatch.setattr(QAccessible, "isActive", lambda: True)
    monkeypatch.setattr(QAccessible, "updateAccessibility", announced.append)
    window.desk.selection.go(4)
    told = QAccessible.queryAccessibleInterface(window.home.view.map).text(Text.Description)
    voicing = window.desk.selection.voicing
    for part in ("left", "right", "semitones to the next chord"):
        assert part in told
    assert told.startswith(window.home.view.map.canvas.scene.columns[4].symbol)
    assert window.teller.announcer.last == told
    window.desk.toggle_keep()
    settle(window, qtbot)
    assert "Whole song" in window.teller.announcer.last
    assert voicing is not None
    assert all(isinstance(event, QAccessibleAnnouncementEvent) for event in announced)
    assert len(announced) >= 2
