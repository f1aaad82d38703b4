"""The chart as text, faults underlined with their correction one key away, and beside it the chart set out in bars."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QFont, QShowEvent, QTextCharFormat, QTextCursor
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPlainTextEdit, QPushButton, QTextEdit, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.touched import SLIGHT, Touched
from yellow_hinge.core.chart.edit import move_bar, swap_chords
from yellow_hinge.core.chart.faults import ChartFault
from yellow_hinge.core.leading.asking.setup import unused_asks
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.asks import strange_patterns
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.symbols.symbol import own_chords
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.chart.editor import ChartEditor
from yellow_hinge.ui.chart.lesson import Lesson
from yellow_hinge.ui.chart.page import ChartPage
from yellow_hinge.ui.chart.tools import ChartTools
from yellow_hinge.ui.paint.theme import BODY, Theme, font

HELP = "Bars stand between |, a chord takes one beat more for every /. Under a line: tune: E4:1.5 and cue: words."
TYPING_PAUSE_MS = 1200


class ChartView(QWidget):
    """Typing solves at once; text at fault stays as typed while the last good song stays on screen."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk, self.theme = desk, theme
        self.editor = ChartEditor()
        fixed = QFont(font(BODY))
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
        self.help.setMinimumHeight(2 * self.help.fontMetrics().lineSpacing() + 4)
        self.fault = QLabel()
        self.fault.setObjectName("error")
        self.fault.setWordWrap(True)
        self.fault.setFont(font(BODY, bold=True))
        self.accept = QPushButton()
        self.accept.setVisible(False)
        self.accept.clicked.connect(self.correct)
        self._lay_out()
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(TYPING_PAUSE_MS)
        self._pause.timeout.connect(lambda: desk.document.history.end_group())  # of the song that is open then
        self.editor.textChanged.connect(self._typed)
        self.editor.cursorPositionChanged.connect(self._cursor_moved)
        self._following = False
        self.setFocusProxy(self.editor)

    def _lay_out(self) -> None:
        """Text at the left, the page with its tools at the right."""
        self.page = ChartPage(self.theme)
        self.page.canvas.picked.connect(self.go_to)
        self.page.canvas.drawn.connect(self._mark_to)
        self.page.canvas.moved.connect(self.move_bar)
        self.page.canvas.swapped.connect(self.swap)
        self.tools = ChartTools(self.desk, self)
        self.tools.tried_key.connect(self.show_page)
        column = QVBoxLayout()
        column.setContentsMargins(14, 10, 8, 10)
        column.addWidget(self.help)
        column.addWidget(self.editor, 1)
        column.addWidget(self.fault)
        column.addWidget(self.accept, 0, Qt.AlignmentFlag.AlignLeft)
        right = QVBoxLayout()
        right.setContentsMargins(0, 8, 0, 0)
        right.addWidget(self.tools)
        self.scale = QLabel()
        self.scale.setContentsMargins(14, 2, 8, 0)
        self.scale.setAccessibleName("The key's own chords")
        self.scale.setFont(font(BODY))
        right.addWidget(self.scale)
        right.addWidget(self.page, 1)
        self.lesson = Lesson(self.theme)
        self.lesson.hide()
        self.lesson.closed.connect(lambda: self.show_lesson(False))
        self.tools.lesson.clicked.connect(self.show_lesson)
        right.addWidget(self.lesson, 2)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(column, 42)
        row.addLayout(right, 58)
        self.editor.setMinimumWidth(300)
        self._stale = False

    def show_lesson(self, on: bool) -> None:
        """Show how a chart is written, or put that away."""
        self.tools.lesson.setChecked(on)
        self.lesson.setVisible(on)

    def teach(self) -> None:
        """A new song lies there: its title can be typed over, and how the rest is written is shown."""
        self.show_lesson(True)
        self._following = True
        title = self.desk.state.text.partition("\n")[0]
        start = len("title: ")
        self.editor.setTextCursor(self._cursor(ChartFault(1, start + 1, len(title) - start, "")))
        self._following = False
        self.editor.setFocus(Qt.FocusReason.OtherFocusReason)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.theme = theme
        self.page.set_theme(theme)
        self.lesson.set_theme(theme)
        self._mark()

    def solved(self) -> None:
        """The chords have addresses anew."""
        self.page.select(self.desk.selection.address)
        self.remark()
        self.tools.refresh()

    def changed(self, what: Touched) -> None:
        """Show the desk's text where it is not what the player just typed."""
        if self.editor.toPlainText() != self.desk.state.text:
            cursor = self.editor.textCursor().position()
            self.editor.blockSignals(True)
            self.editor.setPlainText(self.desk.state.text)
            self.editor.blockSignals(False)
            moved = self.editor.textCursor()
            moved.setPosition(min(cursor, len(self.desk.state.text)))
            self._following = True  # the player did not go there
            self.editor.setTextCursor(moved)
            self._following = False
        if what & ~SLIGHT:
            self.show_page()
            self._mark()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._stale:
            self.show_page()

    def show_page(self) -> None:
        """Set the chart out anew, in the key that is tried where one is; later, where nobody sees it now."""
        self._stale = not self.isVisible()
        if self._stale:
            return
        song, tried = self.desk.document.reading.song, self.tools.tried
        self.page.show_song(tried or song, song if tried else None, self.desk.simple_names)
        self.page.select(self.desk.selection.address)
        self.tools.refresh()
        self._show_key(tried or song)

    def _show_key(self, song: Song) -> None:
        """The scale with its numbers as the key's own chords, and how the key was found where none is written."""
        key, guess = song.the_key, self.desk.document.reading.guess
        triads = "   ".join(f"{n} {write_symbol(chord)}" for n, chord in enumerate(own_chords(key), 1))
        self.scale.setText(pretty_signs(triads))
        sevenths = ", ".join(write_symbol(chord) for chord in own_chords(key, sevenths=True))
        scale = " ".join(map(str, key.scale))
        self.scale.setToolTip(pretty_signs(f"{key}: {scale}. With sevenths: {sevenths}"))
        if guess is not None and song.sections:
            sure = round(100 * guess.confidence)
            self.help.setText(pretty_signs(f"No key: line. Found {guess.key}, {sure} % sure; else {guess.runner_up}."))
        else:
            self.help.setText(
                " ".join(f"{words}." for words in unused_asks(song) + strange_patterns(self.desk.state.playing, song))
                or HELP
            )

    def reselect(self) -> None:
        """Another chord was selected: mark it here and put the cursor on it in the text."""
        address = self.desk.selection.address
        self.page.select(address)
        if address and not self._following and not self.editor.hasFocus():
            self._put_cursor(address)

    def go_to(self, address: Address) -> None:
        """A chord of the page was clicked: select it, and its text."""
        self.desk.selection.go_to(address)
        self.page.select(address)
        self._put_cursor(address)

    def _mark_to(self, address: Address) -> None:
        """The mark was drawn to a chord of the page: to the first time that it is played from the selected one on."""
        voicings = self.desk.solution.voicings if self.desk.solution else ()
        here = [index for index, voicing in enumerate(voicings) if voicing.here.address == address]
        if here:
            self.desk.selection.mark_to(next((index for index in here if index >= self.desk.selection.index), here[0]))

    def remark(self) -> None:
        """Other chords are marked, or none."""
        voicings = self.desk.solution.voicings if self.desk.solution is not None else ()
        self.page.show_mark(frozenset(voicings[place].here.address for place in self.desk.selection.marked))

    def _put_cursor(self, address: Address) -> None:
        """Select a chord in the text, without that selecting it here again."""
        place = self.desk.document.reading.places.get(address)
        if place:
            self._following = True
            self.editor.setTextCursor(self._cursor(ChartFault(*place, "")))
            self._following = False

    def move_bar(self, place: tuple[int, int], to: int) -> None:
        """A bar was dropped on another."""
        self.desk.edit_chart("move a bar", lambda song: move_bar(song, place, to))

    def swap(self, one: Address, other: Address) -> None:
        """A chord was dropped on another of its bar."""
        self.desk.edit_chart("move a chord", lambda song: swap_chords(song, one, other))

    def _cursor_moved(self) -> None:
        if self._following:
            return
        cursor = self.editor.textCursor()
        line, column = cursor.blockNumber() + 1, cursor.positionInBlock() + 1
        for address, (at_line, at, length) in self.desk.document.reading.places.items():
            if at_line == line and at <= column <= at + length:
                self._following = True
                self.desk.selection.go_to(address)
                self.page.select(address)
                self._following = False
                return

    @property
    def first_fault(self) -> ChartFault | None:
        """The first fault of the text, or None."""
        return (
            self.desk.document.reading.faults[0]
            if self.desk.document.reading.faults and self.desk.state.text.strip()
            else None
        )

    def show_fault(self) -> None:
        """Put the cursor on the first fault."""
        if self.first_fault is not None:
            self._following = True
            self.editor.setTextCursor(self._cursor(self.first_fault))
            self._following = False

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
        faults = [fault for fault in self.desk.document.reading.faults[:200] if not fault.missing]
        shown = faults if self.desk.state.text.strip() else []
        self.editor.setExtraSelections([self._marked(fault, look) for fault in shown])
        self._show_first(self.first_fault)

    def _marked(self, fault: ChartFault, look: QTextCharFormat) -> QTextEdit.ExtraSelection:
        mark = QTextEdit.ExtraSelection()
        mark.cursor, mark.format = self._cursor(fault), look
        return mark

    def _show_first(self, first: ChartFault | None) -> None:
        missing = first is not None and first.missing
        words = first.message if first is not None and missing else str(first or "")
        self.fault.setText(words[:1].upper() + words[1:])
        self.fault.setObjectName("muted" if missing else "error")
        self.fault.style().polish(self.fault)
        self.accept.setVisible(bool(first and first.suggestion))
        if first and first.suggestion:
            self.accept.setText(f"Write {first.suggestion} (Ctrl+.)")
