"""Nothing is clipped and nothing overlaps: every view in a small and a usual window, with half as much larger text, and
on screens of other scales.
"""

import os
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QRect
from PySide6.QtGui import QFont, QFontMetrics, QImage
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QScrollArea,
)

from tests import some
from tests.ui.conftest import settle
from tools.offscreen import PLATFORM
from yellow_hinge.ui.paint.controls import ElidedLabel
from yellow_hinge.ui.paint.theme import BODY, font, set_large_text, set_text_scale
from yellow_hinge.ui.shell.table import ROOMS

CONTROLS = (QAbstractButton, QComboBox, QLineEdit, QAbstractSpinBox, QLabel)


def visible_controls(window):
    """Controls and labels that are seen now."""
    found = [each for kind in CONTROLS for each in window.centralWidget().findChildren(kind) if each.isVisible()]
    return [each for each in found if each.parentWidget().metaObject().className() not in ("QSpinBox", "QComboBox")]


def scrolled(widget):
    """Whether a widget lies in something that scrolls."""
    while (widget := widget.parentWidget()) is not None:
        if isinstance(widget, QScrollArea) or widget.objectName() == "qt_scrollarea_viewport":
            return True
    return False


def place(window, widget):
    return QRect(widget.mapTo(window, widget.rect().topLeft()), widget.size())


def needed(button):
    """The width that a button's text needs, also when it is down and bold."""
    bold = QFont(button.font())
    bold.setBold(button.isCheckable() and not isinstance(button, QCheckBox))
    return QFontMetrics(bold).horizontalAdvance(button.text()) + (20 if isinstance(button, QCheckBox) else 8)


def faults(window):
    """What is clipped or lies over something else, in words."""
    found, placed = [], []
    inside = QRect(0, 0, window.width(), window.height())
    for each in visible_controls(window):
        name, area = each.accessibleName() or getattr(each, "text", str)(), place(window, each)
        if not scrolled(each) and not inside.contains(area):
            found.append(f"{name} lies outside: {area}")
        if isinstance(each, QAbstractButton) and each.width() < needed(each):
            found.append(f"{name} is clipped: {each.width()} of {needed(each)}")
        if isinstance(each, QLabel) and not isinstance(each, ElidedLabel):
            needs = each.heightForWidth(each.width()) if each.wordWrap() else each.sizeHint().height()
            if each.text() and (
                each.height() + 1 < needs or (not each.wordWrap() and each.width() + 1 < each.sizeHint().width())
            ):
                found.append(f"label {each.text()[:40]!r} is clipped: {each.size()} of {needs}")
        if not isinstance(each, QLabel):
            placed.append((name, each, area))
    for at, (name, one, area) in enumerate(placed):
        for other_name, other, other_area in placed[at + 1 :]:
            apart = one.parentWidget() is not other and other.parentWidget() is not one
            if (
                apart
                and not scrolled(one)
                and not scrolled(other)
                and area.adjusted(1, 1, -1, -1).intersects(other_area)
            ):
                found.append(f"{name} lies over {other_name}")
    return found


def whole(window, qtbot):
    """Once all of it is laid out, nothing is at fault."""

    def none():
        assert faults(window) == []

    qtbot.waitUntil(none)


def test_nothing_is_clipped_and_nothing_overlaps(window, qtbot):
    for size in some(((1024, 700), (1280, 760), (1920, 1080)), 2):
        window.resize(*size)
        for view in ROOMS:
            window.rooms.show_room(view)
            settle(window, qtbot)
            assert (window.width(), window.height()) == size  # it can be as small as that
            whole(window, qtbot)
            bottom = window.statusBar().mapTo(window, window.statusBar().rect().bottomLeft()).y()
            assert bottom <= window.height()


def test_text_half_as_large_again_fits_too(make_window, qtbot):
    set_text_scale(1.5)
    try:
        window = make_window(large_text=True)
        window.resize(1440, 900)
        window.files.open_demo()
        for view in ROOMS:
            window.rooms.show_room(view)
            settle(window, qtbot)
            whole(window, qtbot)
    finally:
        set_text_scale(1.0)


SCALES = [("2", (1024, 700)), ("1.5", (900, 600))]  # the second is 1280 by 800 of a screen's own pixels, and no less


@pytest.mark.parametrize(("scale", "size"), some(SCALES, 2))
def test_a_screen_of_another_scale_shows_every_view_whole(tmp_path, scale, size):
    code = (
        "import sys\nfrom pathlib import Path\nfrom tests.ui.test_geometry import faults\n"
        "from tools.screenshots import picture, wait\nfrom yellow_hinge.ui.shell.start import make_app\n"
        "from yellow_hinge.ui.shell.table import ROOMS\n"
        "app = make_app(['scaled'])\nwrong = []\n"
        "def look(w):\n for room in ROOMS:\n  w.rooms.show_room(room)\n  wait(300)\n  wrong.extend(faults(w))\n"
        " wrong.extend(n for n in range(len(ROOMS)) if not w.rail.rect().contains(w.rail.tabRect(n)))\n"
        "size = tuple(map(int, sys.argv[2:]))\n"
        "picture(Path(sys.argv[1]), 'slack-tide', look, size=size)\nassert not wrong, wrong\n"
    )
    target = tmp_path / "scaled.png"
    env = {**os.environ, "QT_SCALE_FACTOR": scale, "QT_QPA_PLATFORM": PLATFORM}
    words = [sys.executable, "-c", code, str(target), *map(str, size)]
    done = subprocess.run(words, env=env, cwd=Path(__file__).parents[2], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert QImage(str(target)).size().toTuple() == tuple(round(float(scale) * side) for side in size)


def test_text_grows_in_the_open_window_as_it_would_at_the_next_start(make_window, qtbot):
    def letters(window):
        found = set()
        for view in ROOMS:
            window.rooms.show_room(view)
            settle(window, qtbot)
            found |= {(type(each).__name__, round(each.font().pointSizeF(), 2)) for each in visible_controls(window)}
            whole(window, qtbot)
        return found, window.keys.height(), window.home.view.side.width()

    before = QApplication.font()
    QApplication.setFont(font(BODY))
    try:
        window = make_window()
        window.files.open_demo()
        usual = letters(window)
        window.actions_["large_text"].trigger()
        assert window.preferences.settings.large_text
        grown = letters(window)
        window.actions_["large_text"].trigger()
        assert letters(window) == usual != grown
        set_large_text(True)
        QApplication.setFont(font(BODY))
        fresh = make_window(large_text=True)
        fresh.files.open_demo()
        assert letters(fresh) == grown
    finally:
        set_text_scale(1.0)
        QApplication.setFont(before)
