"""The editor of the chart's text. What is pasted and is no chart, such as chords above words, is written as one."""

from __future__ import annotations

from PySide6.QtCore import QMimeData, Signal
from PySide6.QtGui import QTextCursor
from PySide6.QtWidgets import QPlainTextEdit

from yellow_hinge.app.desk.document import NEW_CHART
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.errors import UserError


class ChartEditor(QPlainTextEdit):
    """`turned` tells what was guessed where a pasted text was turned into a chart."""

    turned = Signal(str)

    def canInsertFromMimeData(self, source: QMimeData) -> bool:
        """Text; files that are dropped go to the window, which opens them."""
        return not source.hasUrls() and super().canInsertFromMimeData(source)

    def insertFromMimeData(self, source: QMimeData) -> None:
        """Paste: chords above words and ChordPro become a chart, anything else stays as it is."""
        from yellow_hinge.io.pasting import pasted  # seldom needed

        rest = self._left_standing()
        try:
            found = pasted(source.text(), read_chart(rest).song.key if rest.strip() else "")
        except UserError as error:  # more than a song can hold: it is pasted as it is
            self.turned.emit(str(error))
            found = None
        if found is None:
            super().insertFromMimeData(source)
            return
        if rest.strip():  # into a chart that is there: its headers stay
            self.insertPlainText(found.inside)
        else:
            self.selectAll()
            self.insertPlainText(found.whole)
        self.turned.emit(f"{found.kind} became a chart: {'; '.join(found.report)}.")

    def _left_standing(self) -> str:
        """The chart that a pasted text would stand in: nothing of one that nobody has written in yet."""
        text, cursor = self.toPlainText(), QTextCursor(self.textCursor())
        if text == NEW_CHART:
            return ""
        return text[: cursor.selectionStart()] + text[cursor.selectionEnd() :]
