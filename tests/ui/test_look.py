"""How the window looks: contrast, fonts, names, hands apart in grey, painting in part."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QRectF, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtWidgets import QApplication

from tests.ui.conftest import settle
from yellow_hinge.ui.paint.keys import keyboard
from yellow_hinge.ui.paint.notes import PlateMark
from yellow_hinge.ui.paint.painting import draw_keyboard, plate
from yellow_hinge.ui.paint.theme import BODY, DARK, FAMILIES, LIGHT, font
from yellow_hinge.ui.swaps.room import SWAPS

Key, LEFT, SHIFT = Qt.Key, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier


def luminance(color):
    parts = [
        v / 12.92 if v <= 0.03928 else ((v + 0.055) / 1.055) ** 2.4
        for v in (color.redF(), color.greenF(), color.blueF())
    ]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


def contrast(theme, one, other):
    a, b = sorted((luminance(theme.color(one)), luminance(theme.color(other))), reverse=True)
    return (a + 0.05) / (b + 0.05)


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_text_stands_out_enough(theme):
    for text, ground in (
        ("ink", "paper"), ("muted", "paper"), ("brass_text", "paper"), ("error", "paper"), ("ink", "chosen"), ("muted", "chosen"),
        ("on_plate", "left"), ("on_plate", "right"), ("brass_text", "chosen"), ("ink", "raised"), ("on_brass", "brass_fill"),
    ):  # fmt: skip
        assert contrast(theme, text, ground) >= 4.5, (text, ground)


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_rows_borders_and_motion_stand_out_enough(theme):
    for ground in ("paper", "raised"):
        assert contrast(theme, "chosen", ground) >= 1.3
        assert contrast(theme, "border", ground) >= 3.0
    for ground in ("paper", "raised", "chosen"):
        assert contrast(theme, "brass", ground) >= 3.0, ground


def focus_pictures(qtbot, button, other):
    """A button with the focus elsewhere, and with it."""
    found = []
    for has in (other, button):
        has.setFocus(Qt.FocusReason.TabFocusReason)
        qtbot.waitUntil(has.hasFocus)
        found.append(button.grab().toImage())
    return found


def test_a_button_with_the_focus_looks_so_also_when_it_is_down(window, qtbot):
    window.activateWindow()
    row, play = window.home.view.wishes.colour, window.header.play
    assert row["1"].isChecked() != row["2"].isChecked()
    for button in (row["0"], row["1"], row["2"], window.header.half, window.header.bass["mine"]):
        without, there = focus_pictures(qtbot, button, play)
        assert without != there


def test_no_part_of_the_window_changes_the_font_of_another(window):
    assert font(BODY).families() == FAMILIES
    assert window.header.bass["mine"].font().families() == FAMILIES
    assert LIGHT.color("muted").alphaF() == 1.0


def test_controls_in_a_view_are_used_by_keys_alone(window, qtbot):
    """Space, Enter and the arrows mean something in the view, but a control that has the focus keeps them."""
    wishes, desk = window.home.view.wishes, window.desk
    wishes.colour["3"].setFocus()
    qtbot.keyClick(wishes.colour["3"], Key.Key_Space)
    assert desk.state.setup.colour == 3
    qtbot.keyClick(wishes.colour["0"], Key.Key_Return)
    assert desk.state.setup.colour == 0
    settle(window, qtbot)
    style = wishes.style_.currentText()
    qtbot.keyClick(wishes.style_, Key.Key_Down)
    assert desk.state.setup.style == wishes.style_.currentText() != style
    settle(window, qtbot)
    assert not window.listening.player.playing
    assert not desk.state.keeps
    window.rooms.show_room(SWAPS)
    box = window.rooms.room(SWAPS).view.strip.stays["starts"]
    qtbot.keyClick(box, Key.Key_Space)
    assert not box.isChecked()
    qtbot.keyClick(window.rooms.room(SWAPS).view, Key.Key_Space)  # beside them it plays
    assert window.listening.player.playing
    window.listening.stop()


def on_screen(window):
    """The map as it stands on the screen; a grab of the widget would paint it whole."""
    port = window.home.view.map.viewport()
    corner = port.mapTo(window, QPoint(0, 0))
    seen = window.screen().grabWindow(window.winId(), corner.x(), corner.y(), port.width(), port.height())
    image = seen.toImage().convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint8).astype(int)


def test_the_map_painted_in_part_is_the_map_painted_whole(window, qtbot):
    """After every kind of edit the columns that were not painted again are still right."""
    canvas, desk = window.home.view.map.canvas, window.desk

    def edits():
        yield lambda: desk.type_text(desk.state.text.replace("| E | C#m7 | F#m7 |", "| E | C#m9 | F#m7 |", 1))
        yield lambda: desk.toggle_keep("top")
        yield lambda: desk.change_setup("style", style="Singing top")
        yield lambda: desk.type_text(desk.state.text.replace("| A | Am6 |", "| A | Am6 D9 |", 1))
        yield desk.document.undo
        yield lambda: desk.change_setup("bass theirs", bass="theirs")
        yield lambda: desk.change_setup("bass mine", bass="mine")

    for edit in edits():
        edit()
        settle(window, qtbot)
        QApplication.processEvents()
        partly = on_screen(window)
        canvas.update()
        QApplication.processEvents()
        assert abs(on_screen(window) - partly).max() < 12  # clipped lines are rounded a little otherwise


@pytest.mark.parametrize("theme", [LIGHT, DARK])
def test_hands_are_told_apart_in_grey(theme, qapp):
    """By the form of a plate, and of the sign on a held key, not by its colour."""

    def painted(draw, wide, tall):
        image = QImage(wide, tall, QImage.Format.Format_RGB32)
        image.fill(theme.color("paper"))
        painter = QPainter(image)
        draw(painter)
        painter.end()
        return image.convertToFormat(QImage.Format.Format_Grayscale8)

    plates = {
        hand: painted(lambda p, h=hand: plate(p, theme, QRectF(0, 0, 28, 17), h, "5"), 28, 17)
        for hand in ("left", "right")
    }
    corners = {hand: image.pixelColor(1, 1).red() for hand, image in plates.items()}
    assert abs(corners["left"] - corners["right"]) > 60
    found = {}
    for hand in ("left", "right"):
        keys = keyboard(48, 59, 0.0, 0.0, 280.0, 80.0, (PlateMark(48, hand, "1", "C", "1"),))
        found[hand] = painted(lambda p, k=keys: draw_keyboard(p, theme, k, "names"), 290, 90)
    x, y = keys.centre(48), keys.height - 24  # the middle of the sign
    corner = {hand: image.pixelColor(round(x - 3), round(y - 3)).red() for hand, image in found.items()}
    middle = {hand: image.pixelColor(round(x), round(y)).red() for hand, image in found.items()}
    assert abs(middle["left"] - middle["right"]) < 40
    assert abs(corner["left"] - corner["right"]) > 40
