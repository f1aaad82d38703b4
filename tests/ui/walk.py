"""Run under Xvfb by test_real_window.py: fourteen tasks of a player, by mouse alone or by keyboard alone, in a real window
with a window manager. Prints what of each came true as JSON.
"""

import json
import sys
from pathlib import Path

from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QListView, QMenu, QPushButton

from tests.ui.conftest import Output
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.shell.start import make_app, open_song
from yellow_hinge.ui.shell.table import ROOMS
from yellow_hinge.ui.shell.window import MainWindow
from yellow_hinge.ui.swaps.room import SWAPS
from yellow_hinge.ui.takes.room import TAKES

Key, LEFT = Qt.Key, Qt.MouseButton.LeftButton
CTRL, SHIFT, NONE = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.NoModifier,
)


class Player:
    """A window, and what a player wants of it; whoever inherits says by which hand."""

    def __init__(self, folder):
        self.window = MainWindow(Places(folder, folder), Settings(theme="light", hands_offered=True, cautioned=True))
        self.window.listening.player._output = Output()
        self.window.show()
        self.window.activateWindow()
        QTest.qWaitForWindowActive(self.window)
        self.target = folder / "sheet.pdf"
        asking.file_to_write = lambda *_: (str(self.target), "")
        open_song(self.window, "demo:cork-and-rope", False)
        self.settle()

    @property
    def desk(self):
        return self.window.desk

    def until(self, true, seconds=30):
        for _ in range(seconds * 50):
            if true():
                return
            QTest.qWait(20)
        raise TimeoutError(str(true))

    def settle(self):
        desk = self.desk
        self.until(lambda: desk.solution is not None and desk.answers.state.question == desk.state.question)
        self.until(lambda: not self.window.home.view.options.pending)
        QTest.qWait(30)

    def in_dialog(self, do):
        """Do something in the dialog that opens next."""
        QTimer.singleShot(300, lambda: do(QApplication.activeModalWidget()))

    def page(self, handle):
        return self.window.rooms.room(handle).view

    def walk(self):
        found, desk = {}, self.desk
        first = desk.state
        for name in (
            "bar", "chart", "hands", "way", "keep", "note", "stiff", "swap", "take", "pattern", "loop", "key", "practice",
            "sheet",
        ):  # fmt: skip
            try:
                found[name] = bool(getattr(self, name)())
            except (TimeoutError, AttributeError, AssertionError, IndexError) as error:
                found[name] = f"{type(error).__name__}: {error}"
            self.settle()
        self.everything_back()
        found["undo"] = desk.state == first
        return found


class Mouse(Player):
    """Everything by pressing, dragging and letting go."""

    def click(self, widget, at=None, double=False, button=LEFT):
        assert widget.isVisible(), widget
        at = widget.rect().center() if at is None else at
        assert widget.rect().contains(at), (widget, at)
        (QTest.mouseDClick if double else QTest.mouseClick)(widget, button, NONE, at)
        QTest.qWait(30)

    def row(self, view: QListView, number, double=False):
        """A row, counted from the one that is seen first."""
        first = max(0, view.indexAt(QPoint(8, 8)).row())
        area = view.visualRect(view.model().index(first + number, 0))
        self.click(view.viewport(), area.center())
        if double:
            self.click(view.viewport(), area.center(), double)

    def tab(self, tabs, number):
        self.click(tabs, tabs.tabRect(number).center())

    def view(self, handle):
        self.tab(self.window.rail, ROOMS.index(handle))
        self.settle()

    def menu(self, title, entry):
        bar = self.window.menuBar()
        head = next(action for action in bar.actions() if action.text().replace("&", "") == title)
        self.click(bar, bar.actionGeometry(head).center())
        self.choose(head.menu(), entry)

    def choose(self, menu: QMenu, entry):
        self.until(menu.isVisible, 5)
        action = next(each for each in menu.actions() if each.text().replace("&", "") == entry)
        self.click(menu, menu.actionGeometry(action).center())

    def bar(self):
        ribbon = self.window.ribbon
        self.click(ribbon, QPoint(ribbon.width() // 2, ribbon.height() - 20))
        return self.desk.selection.index > 3

    def chart(self):
        self.view(CHART)
        bars = len(self.desk.state.song.sections[0].bars)
        tools = self.page(CHART).tools
        self.click(next(button for button in tools.findChildren(QPushButton) if button.text() == "+ bar"))
        return len(self.desk.state.song.sections[0].bars) + len(self.desk.state.song.sections[1].bars) > bars

    def hands(self):
        def answer(dialog):
            names = {button.text().replace("&", ""): button for button in dialog.findChildren(QPushButton)}
            self.click(names["An octave"])
            self.click(names["Use these hands"])

        self.in_dialog(answer)
        self.click(self.window.header.hands)
        return self.desk.state.setup.player.hands.left_reach == 8

    def way(self):
        self.view(ROOMS[1])
        self.row(self.window.home.view.options.list, 1, double=True)
        return len(self.desk.state.keeps) == 1

    def keep(self):
        canvas, at = self.window.home.view.map.canvas, self.desk.selection.index
        column = canvas.scene.columns[at - 1]
        before = len(self.desk.state.keeps)
        self.click(canvas, QPoint(round(column.x + 20), 40))
        spot = QPoint(round(column.x + 20), 40)
        QApplication.sendEvent(
            canvas, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, spot, canvas.mapToGlobal(spot))
        )
        self.choose(QApplication.activePopupWidget(), "The chord")
        return len(self.desk.state.keeps) == before + 1

    def note(self):
        canvas, at = self.window.home.view.map.canvas, self.desk.selection.index
        before = self.desk.state.keeps
        for place in range(len(canvas.scene.columns[at].plates)):
            plate = canvas.scene.columns[at].plates[place]
            start = QPointF(plate.x, plate.y)
            for by in (1, 2, 3, -1, -2, -3, 4, 5):
                end = start - QPointF(0, by * canvas.scene.step)
                QTest.mousePress(canvas, LEFT, NONE, start.toPoint())
                for part in (0.4, 0.8, 1.0):
                    QTest.mouseMove(canvas, (start + (end - start) * part).toPoint(), 10)
                QTest.mouseRelease(canvas, LEFT, NONE, end.toPoint())
                self.settle()
                if self.desk.state.keeps != before:
                    return True
        return False

    def stiff(self):
        self.tab(self.window.home.view.side.tabs, 1)
        page = self.window.home.view.side.pages.page("stiff")
        self.row(page.list, 0)
        motion = [hinge.motion for hinge in self.desk.solution.hinges]
        return motion[self.desk.selection.index] == max(motion)

    def swap(self):
        self.view(SWAPS)
        listed = self.page(SWAPS).swaps
        self.until(lambda: listed.count() > 2)
        song = self.desk.state.song
        self.row(listed, 1, double=True)
        return self.desk.state.song != song

    def take(self):
        self.view(TAKES)
        count = len(self.desk.state.takes)
        self.click(self.page(TAKES).buttons["new"])
        return len(self.desk.state.takes) == count + 1

    def pattern(self):
        self.view(PLAYING)
        self.row(self.page(PLAYING).patterns.list, 1)
        return bool(self.desk.state.playing.wishes)

    def loop(self):
        ribbon, player = self.window.ribbon, self.window.listening.player
        x, y = ribbon.width() // 3, ribbon.height() - 20
        QTest.mousePress(ribbon, LEFT, NONE, QPoint(x, y))
        for by in (20, 40, 60):
            QTest.mouseMove(ribbon, QPoint(x + by, y), 10)
        QTest.mouseRelease(ribbon, LEFT, NONE, QPoint(x + 60, y))
        self.menu("Listen", "Loop what is marked")
        self.until(lambda: player.playing, 10)
        marked = len(self.desk.selection.marked)
        self.click(self.window.header.play)
        return marked > 1 and not player.playing

    def key(self):
        self.view(CHART)
        tools, key = self.page(CHART).tools, self.desk.state.song.key
        self.click(tools.key)
        self.until(lambda: tools.key.view().isVisible(), 5)
        QTest.qWait(600)  # a release just after the list opens is no choice
        self.row(tools.key.view(), 4)
        self.click(tools.take)
        return self.desk.state.song.key != key

    def practice(self):
        self.view(PRACTICE)
        view = self.page(PRACTICE)
        self.click(view.start)
        self.until(lambda: view.start.text() == "End", 10)
        self.click(view.start)
        return view.start.text() == "Start"

    def sheet(self):
        self.view(SHEET)
        view = self.page(SHEET)
        self.until(lambda: bool(view.canvas.pages))
        self.click(view.export)
        self.until(self.target.exists, 10)
        return self.target.read_bytes().startswith(b"%PDF")

    def everything_back(self):
        while self.window.header.undo.isEnabled():
            self.click(self.window.header.undo)
            self.settle()


class Keyboard(Player):
    """Everything by keys."""

    def press(self, key, modifiers=NONE, times=1):
        for _ in range(times):
            target = QApplication.focusWidget() or self.window
            QTest.keyClicks(target, key) if isinstance(key, str) else QTest.keyClick(target, key, modifiers)
            self.settle()

    def command(self, words):
        self.press(Key.Key_K, CTRL)
        self.press(words)
        self.press(Key.Key_Return)

    def view(self, handle):
        self.press(Key(Key.Key_1 + ROOMS.index(handle)), CTRL)

    def bar(self):
        self.command("bar 5")
        return self.desk.selection.moment.bar == 4

    def chart(self):
        self.view(CHART)
        bars = sum(len(section.bars) for section in self.desk.state.song.sections)
        self.press(Key.Key_End, CTRL)
        self.press(" | C7 |")
        return sum(len(section.bars) for section in self.desk.state.song.sections) > bars

    def hands(self):
        def answer(dialog):
            self.until(lambda: dialog.isAncestorOf(QApplication.focusWidget()), 5)
            for _ in range(30):
                if getattr(QApplication.focusWidget(), "text", str)() == "An octave":
                    break
                QTest.keyClick(QApplication.focusWidget(), Key.Key_Tab)
            QTest.keyClick(QApplication.focusWidget(), Key.Key_Space)
            QTest.keyClick(dialog, Key.Key_U, Qt.KeyboardModifier.AltModifier)

        self.in_dialog(answer)
        self.press(Key.Key_H, CTRL)
        return self.desk.state.setup.player.hands.left_reach == 8

    def way(self):
        self.view(ROOMS[1])
        self.press(Key.Key_Down)
        self.press(Key.Key_Return)
        return len(self.desk.state.keeps) == 1

    def keep(self):
        self.press(Key.Key_Left)
        self.press(Key.Key_K)
        return len(self.desk.state.keeps) == 2

    def note(self):
        before = self.desk.state.keeps
        for _ in range(5):
            self.press(Key.Key_N)
            for by in (Key.Key_Up, Key.Key_Down):
                for _ in range(4):
                    self.press(by, SHIFT)
                    self.press(Key.Key_Return)
                    if self.desk.state.keeps != before:
                        return True
        return False

    def stiff(self):
        self.press(Key.Key_2)
        self.press(Key.Key_Down)
        self.press(Key.Key_Return)
        motion = [hinge.motion for hinge in self.desk.solution.hinges]
        return motion[self.desk.selection.index] == max(motion)

    def swap(self):
        self.view(SWAPS)
        listed = self.page(SWAPS).swaps
        self.until(lambda: listed.count() > 2)
        song = self.desk.state.song
        self.press(Key.Key_Down)
        self.press(Key.Key_Return)
        return self.desk.state.song != song

    def take(self):
        count = len(self.desk.state.takes)
        self.press(Key.Key_T, CTRL)
        return len(self.desk.state.takes) == count + 1

    def pattern(self):
        self.view(PLAYING)
        self.press(Key.Key_Down)
        self.press(Key.Key_Return)
        return bool(self.desk.state.playing.wishes)

    def loop(self):
        self.view(ROOMS[1])
        self.press(Key.Key_B, times=2)
        marked = len(self.desk.selection.marked)
        self.press(Key.Key_G)
        self.until(lambda: self.window.listening.player.playing, 10)
        self.press(Key.Key_Space)
        return marked > 1 and not self.window.listening.player.playing

    def key(self):
        key = self.desk.state.song.key
        self.command("Ab")
        return self.desk.state.song.key != key

    def practice(self):
        self.view(PRACTICE)
        self.press(Key.Key_Return)
        self.until(lambda: self.page(PRACTICE).start.text() == "End", 10)
        self.press(Key.Key_Escape)
        return self.page(PRACTICE).start.text() == "Start"

    def sheet(self):
        self.view(SHEET)
        self.until(lambda: bool(self.page(SHEET).canvas.pages))
        self.press(Key.Key_E, CTRL | SHIFT)
        self.until(self.target.exists, 10)
        return self.target.read_bytes().startswith(b"%PDF")

    def everything_back(self):
        self.view(ROOMS[1])
        while self.desk.document.history.undo_label:
            self.press(Key.Key_Z, CTRL)


if __name__ == "__main__":
    app = make_app(["yellow-hinge"])
    player = {"mouse": Mouse, "keys": Keyboard}[sys.argv[2]](Path(sys.argv[1]))
    told = player.walk()
    player.desk.document.saved = player.desk.state
    player.window.close()
    print(json.dumps(told))
