"""What was just played, as it was heard: a sentence, the bars with their chords, and what to do with it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.edits.heard import Place, found_in
from yellow_hinge.core.hearing.hear import named_otherwise, turned, with_turn
from yellow_hinge.core.hearing.in_bars import Asked, Heard
from yellow_hinge.core.hearing.readings import HeardChord
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.dialogs.asking import AWAY, TITLE
from yellow_hinge.ui.paint.controls import as_muted, tool_button
from yellow_hinge.ui.paint.theme import LARGE, font
from yellow_hinge.ui.parts.menus import lettered

Wish = Literal["take", "song", "again", ""]
AS_TAKE, AS_SONG, AGAIN = "Keep as a take", "As a new song", "Play it again"
_WISHES: dict[str, Wish] = {AS_TAKE: "take", AS_SONG: "song", AGAIN: "again"}
_CHORD_STYLE = (
    "QToolButton { border: none; border-bottom: LINE; border-radius: 0; padding: 2px 4px; }"
    "QToolButton::menu-indicator { image: none; }"
    "QToolButton:focus { border: 2px solid; padding: 1px 3px; }"
)
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
    """The performance in bars; its beats are turned by keys, a doubtful chord is named otherwise by a click. `wish` is
    what the player wants of it; `heard_` tells that it is heard otherwise, `again` that it is to be sounded.
    """

    heard_ = Signal(object)
    again = Signal()

    def __init__(
        self, parent: QWidget, heard: Heard, song: Song, asked: Asked, listen: Callable[[Asked], Heard] | None = None
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(TITLE)
        self.heard = heard
        self.wish: Wish = ""
        self._song, self.asked, self._listen = song, asked, listen
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
        whole.addLayout(self._asks())
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

    def _asks(self) -> QHBoxLayout:
        """Who has the bass, whether the top line is the tune, and hearing it again."""
        row = QHBoxLayout()
        self.theirs, self.sung = QCheckBox("A bass player plays (B)"), QCheckBox("The top line is the tune (T)")
        self.theirs.setToolTip("Roots may be left to somebody else: chords are named without them")
        self.sung.setToolTip("A new song gets the right hand's upper line as its tune")
        self.theirs.setChecked(self.asked.theirs)
        self.theirs.setEnabled(self._listen is not None)
        self.theirs.clicked.connect(self._bass)
        sound = tool_button("▶ Hear it (P)", "What you played, over a click of these beats", "Hear it again")
        sound.clicked.connect(self.again.emit)
        for widget in (self.theirs, self.sung):
            row.addWidget(widget)
        row.addStretch(1)
        row.addWidget(sound)
        return row

    def _bass(self, on: bool) -> None:
        """Hear it anew, with the bass or without."""
        if self._listen is not None:
            self.asked = self.asked._replace(theirs=on)
            self._put(self._listen(self.asked))

    def _put(self, heard: Heard) -> None:
        self.heard = heard
        self._show()
        self.heard_.emit(heard)

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for name, shown in lettered([AS_TAKE, AS_SONG, AGAIN, AWAY]).items():
            button = QPushButton(shown)
            button.setAutoDefault(False)
            button.clicked.connect(lambda _=False, name=name: self._done(name))
            self.buttons[name] = button
            row.addWidget(button)
        return row

    def _done(self, name: str) -> None:
        self.wish = _WISHES.get(name, "")
        self.accept()

    def turn(self, what: str) -> None:
        """Hear it in other beats."""
        if self.heard.grid is not None:
            self._put(turned(self.heard, with_turn(self.heard.grid, what), self.asked))

    def _show(self) -> None:
        place = self.place
        self.words.setText(sentence(self.heard, place))
        page = self._bars()
        self._area.setWidget(page)
        self._area.setFixedHeight(min(_TALL, page.sizeHint().height() + 8))
        there = self.heard.grid is not None
        self.buttons[AS_TAKE].setEnabled(place is not None)
        self.buttons[AS_SONG].setEnabled(there)
        self.sung.setEnabled(there and not self.heard.alone)
        first = AS_TAKE if place is not None else AS_SONG if there else AWAY
        self.buttons[first].setDefault(True)
        self.buttons[first].setFocus()

    def _bars(self) -> QWidget:
        """The chords bar by bar, four in a row; doubtful ones are dotted."""
        page = QWidget()
        grid = QGridLayout(page)
        grid.setAlignment(Qt.AlignmentFlag.AlignTop)
        rows: dict[int, QHBoxLayout] = {}
        self.chords: list[QToolButton] = []
        for place, chord in enumerate(self.heard.chords):
            if chord.bar not in rows:
                rows[chord.bar] = QHBoxLayout()
                number = QLabel(str(chord.bar))
                as_muted(number)
                rows[chord.bar].addWidget(number)
            self.chords.append(self._chord(place, chord.chord))
            rows[chord.bar].addWidget(self.chords[-1])
        for n, (_, row) in enumerate(sorted(rows.items())):
            row.addStretch(1)
            grid.addLayout(row, n // _A_ROW, n % _A_ROW)
        return page

    def _chord(self, place: int, chord: HeardChord) -> QToolButton:
        """A chord's name; what else it may be, in its menu."""
        button = QToolButton()
        button.setText(pretty_signs(chord.symbol))
        button.setFont(font(LARGE, bold=True))
        line = "1px dotted" if chord.doubtful else "1px solid transparent"
        button.setStyleSheet(_CHORD_STYLE.replace("LINE", line))
        doubt = "it is doubtful; " if chord.doubtful else ""
        others = ", ".join(chord.others)
        button.setAccessibleName(f"{chord.symbol}{', doubtful' if chord.doubtful else ''}")
        button.setToolTip(pretty_signs(f"{chord.symbol}: {doubt}it could be {others}" if others else chord.symbol))
        if chord.others:
            menu = QMenu(button)
            for other in chord.others:
                action = menu.addAction(pretty_signs(other))
                action.triggered.connect(lambda _=False, other=other: self.name(place, other))
            button.setMenu(menu)
            button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        return button

    def name(self, place: int, symbol: str) -> None:
        """Call a chord something else."""
        self._put(named_otherwise(self.heard, place, symbol))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The keys of what turns the beats, and of what is asked."""
        turn = next((what for what, _, _, key in _TURNS if event.key() == key), "")
        asks = {Qt.Key.Key_B: self.theirs.click, Qt.Key.Key_T: self.sung.click, Qt.Key.Key_P: self.again.emit}
        if turn:
            self.turn(turn)
        elif event.key() in asks:
            asks[Qt.Key(event.key())]()
        else:
            super().keyPressEvent(event)
