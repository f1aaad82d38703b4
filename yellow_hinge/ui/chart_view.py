"""The chart as text, with faults underlined and their correction one key away."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction, QKeySequence, QTextCharFormat, QTextCursor
from PySide6.QtWidgets import QLabel, QPlainTextEdit, QPushButton, QTextEdit, QVBoxLayout, QWidget

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.chart_text import ChartFault
from yellow_hinge.ui.theme import BODY, LARGE, Theme, font

HELP = (
    "Bars stand between |, chords share a bar evenly or take one beat more for every /. % repeats the bar before. "
    "Under a line: tune: E4:1.5 F#4:0.5 and cue: words."
)
TYPING_PAUSE_MS = 1200


class ChartView(QWidget):
    """Typing solves at once; text at fault stays as typed while the last good song stays on screen."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.editor = QPlainTextEdit()
        fixed = font(LARGE)
        fixed.setFamilies(["DejaVu Sans Mono", "Liberation Mono", "monospace", "Hinge Signs"])
        fixed.setFixedPitch(True)
        self.editor.setFont(fixed)
        self.editor.setLineWrapMode(QPlainTextEdit.LineWrapMode.NoWrap)
        self.editor.setUndoRedoEnabled(False)  # the song's own history has every edit
        self.editor.setTabChangesFocus(True)
        self.editor.setAccessibleName("Chart text")
        self.help = QLabel(HELP)
        self.help.setObjectName("muted")
        self.help.setWordWrap(True)
        self.fault = QLabel()
        self.fault.setObjectName("error")
        self.fault.setWordWrap(True)
        self.fault.setFont(font(BODY, bold=True))
        self.accept = QPushButton()
        self.accept.setVisible(False)
        self.accept.clicked.connect(self.correct)
        fix = QAction("Correct", self)
        fix.setShortcut(QKeySequence("Ctrl+."))
        fix.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        fix.triggered.connect(self.correct)
        self.addAction(fix)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 12, 14, 12)
        column.addWidget(self.help)
        column.addWidget(self.editor, 1)
        column.addWidget(self.fault)
        column.addWidget(self.accept, 0, Qt.AlignmentFlag.AlignLeft)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(TYPING_PAUSE_MS)
        self._pause.timeout.connect(desk.history.end_group)
        self.editor.textChanged.connect(self._typed)
        self.setFocusProxy(self.editor)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.theme = theme
        self._mark()

    def refresh(self) -> None:
        """Show the desk's text where it is not what the player just typed."""
        if self.editor.toPlainText() != self.desk.state.text:
            cursor = self.editor.textCursor().position()
            self.editor.blockSignals(True)
            self.editor.setPlainText(self.desk.state.text)
            self.editor.blockSignals(False)
            moved = self.editor.textCursor()
            moved.setPosition(min(cursor, len(self.desk.state.text)))
            self.editor.setTextCursor(moved)
        self._mark()

    @property
    def first_fault(self) -> ChartFault | None:
        """The first fault of the text, or None."""
        return self.desk.reading.faults[0] if self.desk.reading.faults and self.desk.state.text.strip() else None

    def correct(self) -> None:
        """Put the suggestion of the first fault in its place."""
        fault = self.first_fault
        if fault is not None and fault.suggestion:
            cursor = self._cursor(fault)
            cursor.insertText(fault.suggestion)

    def _typed(self) -> None:
        self.desk.type_text(self.editor.toPlainText())
        self._pause.start()

    def _cursor(self, fault: ChartFault) -> QTextCursor:
        block = self.editor.document().findBlockByNumber(fault.line - 1)
        cursor = QTextCursor(block)
        start = block.position() + min(fault.column - 1, block.length() - 1)
        cursor.setPosition(start)
        end = min(start + fault.length, block.position() + block.length() - 1)
        cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
        return cursor

    def _mark(self) -> None:
        look = QTextCharFormat()
        look.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
        look.setUnderlineColor(self.theme.color("error"))
        marks = []
        for fault in self.desk.reading.faults[:200] if self.desk.state.text.strip() else ():
            mark = QTextEdit.ExtraSelection()
            mark.cursor, mark.format = self._cursor(fault), look  # type: ignore[attr-defined]
            marks.append(mark)
        self.editor.setExtraSelections(marks)
        first = self.first_fault
        self.fault.setText(f"{str(first)[:1].upper()}{str(first)[1:]}" if first else "")
        self.accept.setVisible(bool(first and first.suggestion))
        if first and first.suggestion:
            self.accept.setText(f"Write {first.suggestion} (Ctrl+.)")
