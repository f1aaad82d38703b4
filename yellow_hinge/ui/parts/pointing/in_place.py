"""What is written in a picture is written anew in its place: symbols, words, names. Enter or a click elsewhere takes
it, Escape leaves it.
"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, QRect, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.chart.edit import with_cue, with_section_name, with_symbol, with_title
from yellow_hinge.core.song.song import Address
from yellow_hinge.ui.paint.theme import BODY, font


class Line(QLineEdit):
    """A line over a picture; `done` is called once with what was written, if anything else was."""

    def __init__(self, over: QWidget, area: QRect, text: str, name: str, done: Callable[[str], object]) -> None:
        super().__init__(text, over)
        self._was, self._done, self._before = text, done, over.window().focusWidget()
        self.setAccessibleName(name)
        self.setFont(font(BODY))
        inside = area.intersected(over.rect()) if over.rect().contains(area.topLeft()) else area
        self.setGeometry(inside.united(QRect(inside.topLeft(), inside.size().expandedTo(self.minimumSizeHint()))))
        self.installEventFilter(self)
        self.selectAll()
        self.show()
        self.setFocus(Qt.FocusReason.PopupFocusReason)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.FocusOut:
            self._end(True)
        if not isinstance(event, QKeyEvent):
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()  # every key is the line's
            return True
        if event.type() == QEvent.Type.KeyPress and event.key() in _ENDS:
            self._end(event.key() != Qt.Key.Key_Escape)
            return True
        return False

    def _end(self, take: bool) -> None:
        done, self._done = self._done, _nothing
        if done is _nothing:
            return
        text = self.text().strip()
        self.hide()
        self.deleteLater()
        if self._before is not None and self._before.isVisible():
            self._before.setFocus(Qt.FocusReason.PopupFocusReason)
        if take and text != self._was:
            done(text)


def _nothing(text: str) -> None:
    """The line is closed already."""


_ENDS = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape)


class InPlace:
    """Opens lines over the pictures of the open song."""

    def __init__(self, desk: Desk) -> None:
        self.desk = desk

    def symbol(self, at: Address, over: QWidget, area: QRect) -> None:
        """Another chord in the place of one."""
        slot = self.desk.state.song.sections[at[0]].bars[at[1]].slots[at[2]]
        Line(over, area, slot.symbol, "Chord", lambda text: self.desk.edit_chart(
            f"{text} for {slot.symbol}", lambda song: with_symbol(song, at, text)))  # fmt: skip

    def cue(self, at: Address, over: QWidget, area: QRect) -> None:
        """Other words under a chord."""
        slot = self.desk.state.song.sections[at[0]].bars[at[1]].slots[at[2]]
        Line(over, area, slot.cue, "Words under the chord", lambda text: self.desk.edit_chart(
            "words under a chord", lambda song: with_cue(song, at, text)))  # fmt: skip

    def title(self, over: QWidget, area: QRect) -> None:
        """Another name of the song."""
        Line(over, area, self.desk.state.song.title, "Name of the song", lambda text: self.desk.edit_chart(
            f"call the song {text}", lambda song: with_title(song, text)))  # fmt: skip

    def tempo(self, over: QWidget, area: QRect) -> None:
        """Other beats a minute."""
        Line(over, area, str(self.desk.state.song.tempo), "Beats a minute", self._tempo)

    def _tempo(self, text: str) -> None:
        if text.isdecimal():
            self.desk.put_tempo(int(text[:4]))
        else:
            self.desk.answers.refuse(f"{text[:20]} is no number of beats a minute")

    def section(self, number: int, over: QWidget, area: QRect) -> None:
        """Another name of a section, by its number as it is played."""
        name = self.desk.state.song.sections[number].name
        Line(over, area, name, "Name of the section", lambda text: self.desk.edit_chart(
            f"call a section {text}", lambda song: with_section_name(song, number, text)))  # fmt: skip

    def of_chord(self, what: str, index: int, over: QWidget, area: QRect) -> None:
        """The "symbol", "cue" or "section" of a chord of the solution."""
        solution = self.desk.solution
        if solution is None or not self.desk.solved or index >= len(solution.voicings):
            return
        here = solution.voicings[index].here
        if what == "section":
            self.section(here.section, over, area)
        elif what == "cue":
            self.cue(here.address, over, area)
        else:
            self.symbol(here.address, over, area)
