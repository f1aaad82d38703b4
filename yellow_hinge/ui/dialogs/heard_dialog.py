"""What was just played, as it was heard: a sentence, the bars with their chords, and what to do with it."""

from __future__ import annotations

from html import escape
from typing import Literal

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from yellow_hinge.app.edits.heard import Place, found_in
from yellow_hinge.core.hearing.hear import Asked, Heard, turned, with_turn
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.dialogs.asking import AWAY, TITLE
from yellow_hinge.ui.paint.controls import tool_button
from yellow_hinge.ui.paint.theme import LARGE, font
from yellow_hinge.ui.parts.menus import lettered

Wish = Literal["take", "song", ""]
AS_TAKE, AS_SONG = "Keep as a take", "As a new song"
_A_ROW, _WIDTH, _TALL = 4, 720, 260
# What turns the beats: (what, its button, its key in words, its key).
_TURNS = (
    ("half", "Half as fast", "H", Qt.Key.Key_H), ("double", "Twice as fast", "D", Qt.Key.Key_D),
    ("three", "Three a bar", "3", Qt.Key.Key_3), ("meter", "Beats a bar", "M", Qt.Key.Key_M),
    ("earlier", "One earlier", "←", Qt.Key.Key_Left), ("later", "One later", "→", Qt.Key.Key_Right),
)  # fmt: skip


def sentence(heard: Heard, place: Place | None) -> str:
    """What was heard, in one sentence."""
    if heard.grid is None:
        return "That was too little to hear beats in: play a few bars, then take them."
    what = f"I heard {heard.words}."
    if place is None:
        return what
    return f"{what} They are bars {place.first + 1} to {place.first + place.bars} of this song."


class HeardDialog(QDialog):
    """The performance in bars; its beats are turned by keys. `wish` is what the player wants of it."""

    def __init__(self, parent: QWidget, heard: Heard, song: Song, asked: Asked) -> None:
        super().__init__(parent)
        self.setWindowTitle(TITLE)
        self.heard = heard
        self.wish: Wish = ""
        self._song, self._asked = song, asked
        whole = QVBoxLayout(self)
        whole.setSpacing(12)
        self.words = QLabel()
        self.words.setFont(font(LARGE))
        self.words.setWordWrap(True)
        self.words.setMinimumWidth(_WIDTH)
        whole.addWidget(self.words)
        self._area = QScrollArea()
        self._area.setFrameShape(QScrollArea.Shape.NoFrame)
        self._area.setStyleSheet("background: transparent")
        self._area.setWidgetResizable(True)
        whole.addWidget(self._area)
        whole.addLayout(self._turns())
        whole.addLayout(self._buttons())
        self._show()

    @property
    def place(self) -> Place | None:
        """The bars of the open song that were played."""
        return found_in(self.heard, self._song)

    def _turns(self) -> QHBoxLayout:
        row = QHBoxLayout()
        for what, words, key, _ in _TURNS:
            button = tool_button(f"{words} ({key})", f"Hear it otherwise: {words.lower()}", words)
            button.clicked.connect(lambda _=False, what=what: self.turn(what))
            row.addWidget(button)
        row.addStretch(1)
        return row

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for name, shown in lettered([AS_TAKE, AS_SONG, AWAY]).items():
            button = QPushButton(shown)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, name=name: self._done(name))
            self.buttons[name] = button
            row.addWidget(button)
        return row

    def _done(self, name: str) -> None:
        self.wish = "take" if name == AS_TAKE else "song" if name == AS_SONG else ""
        self.accept()

    def turn(self, what: str) -> None:
        """Hear it in other beats."""
        if self.heard.grid is not None:
            self.heard = turned(self.heard, with_turn(self.heard.grid, what), self._asked)
            self._show()

    def _show(self) -> None:
        place = self.place
        self.words.setText(sentence(self.heard, place))
        page = self._bars()
        self._area.setWidget(page)
        self._area.setFixedHeight(min(_TALL, page.sizeHint().height() + 8))
        there = self.heard.grid is not None
        self.buttons[AS_TAKE].setEnabled(place is not None)
        self.buttons[AS_SONG].setEnabled(there)
        first = AS_TAKE if place is not None else AS_SONG if there else AWAY
        self.buttons[first].setDefault(True)
        self.buttons[first].setFocus()

    def _bars(self) -> QWidget:
        """The chords bar by bar, four in a row; doubtful ones with what else they may be."""
        page = QWidget()
        grid = QGridLayout(page)
        grid.setAlignment(Qt.AlignmentFlag.AlignTop)
        rows: dict[int, list[str]] = {}
        for chord in self.heard.chords:
            others = ", ".join(chord.chord.others[:2])
            doubt = f"? (or {others})" if chord.chord.doubtful and others else ""
            rows.setdefault(chord.bar, []).append(f"{chord.chord.symbol}{doubt}")
        for n, (bar, chords) in enumerate(sorted(rows.items())):
            label = QLabel(f"<small>{bar}</small>&nbsp;&nbsp;<b>{escape('   '.join(chords))}</b>")
            label.setFont(font(LARGE))
            label.setWordWrap(True)
            grid.addWidget(label, n // _A_ROW, n % _A_ROW)
        return page

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The keys of what turns the beats."""
        turn = next((what for what, _, _, key in _TURNS if event.key() == key), "")
        if turn:
            self.turn(turn)
            return
        super().keyPressEvent(event)
