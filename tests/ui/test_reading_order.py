"""Tab goes through every control as it is read, there and back, in every view."""

import itertools

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QListView,
    QSlider,
    QTabBar,
)

from tests.ui.conftest import settle
from yellow_hinge.ui.paint.reading_order import reading_order
from yellow_hinge.ui.shell.table import ROOMS
from yellow_hinge.ui.swaps.room import SWAPS

CONTROLS = (QAbstractButton, QComboBox, QLineEdit, QAbstractSpinBox, QListView, QTabBar, QSlider)


def controls(window):
    """What can be pressed or written in now, and takes the keys when it is clicked or gone to."""
    area = window.centralWidget()
    found = [each for kind in CONTROLS for each in area.findChildren(kind) if each.isVisible() and each.isEnabled()]
    return [
        each for each in found
        if each.focusPolicy() & Qt.FocusPolicy.TabFocus and not isinstance(each.parentWidget(), (QAbstractSpinBox, QComboBox))
        and not (isinstance(each, QAbstractButton) and each.autoExclusive() and not each.isChecked())
    ]  # fmt: skip


def test_tab_reaches_every_control_in_reading_order_and_back(window, qtbot):
    """In every view; and of two controls in one line the left one comes first, a line over the other comes first."""
    window.activateWindow()
    for view in ROOMS:
        window.rooms.show_room(view)
        settle(window, qtbot)
        there_and_back(window)
        places_in_order(window)


def there_and_back(window):
    order = reading_order(window.centralWidget())
    assert set(controls(window)) <= set(order)
    order[0].setFocus()
    there = []
    for _ in order:
        there.append(QApplication.focusWidget())
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    assert there == order
    assert QApplication.focusWidget() is order[0]
    for expected in reversed(order):
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Backtab, Qt.KeyboardModifier.ShiftModifier)
        assert QApplication.focusWidget() is expected


def places_in_order(window):
    places = [each.mapTo(window, each.rect().center()) for each in reading_order(window.header)]
    assert [place.x() for place in places] == sorted(place.x() for place in places)
    inside = [each for each in reading_order(window.rooms.currentWidget())]
    for one, other in itertools.pairwise(inside):
        a, b = (each.mapTo(window, each.rect().topLeft()) for each in (one, other))
        assert b.y() > a.y() - 8 or b.x() > a.x(), (one, other)


def test_the_arrows_go_through_buttons_of_which_one_is_down(window, qtbot):
    window.activateWindow()
    row, desk = window.home.view.wishes.colour, window.desk
    before = desk.selection.index
    down = next(name for name, button in row.items() if button.isChecked())
    row[down].setFocus()
    QTest.keyClick(row[down], Qt.Key.Key_Right)
    settle(window, qtbot)
    assert desk.state.setup.colour == int(down) + 1
    assert desk.selection.index == before
    tabs = window.home.view.side.tabs
    tabs.setFocus()
    QTest.keyClick(tabs, Qt.Key.Key_Right)
    assert (window.home.view.side.page, desk.selection.index) == ("stiff", before)
    window.rail.setFocus()
    QTest.keyClick(window.rail, Qt.Key.Key_Down)
    assert window.rooms.now_handle is SWAPS
    assert window.rail.hasFocus()
