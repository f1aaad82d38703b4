"""The row of tools over the set-out chart: bars and chords, and another key."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.other_key import OtherKey, other_keys
from yellow_hinge.core.chart.edit import (
    beside,
    delete_bar,
    delete_chord,
    insert_bar,
    move_bar,
    split_chord,
    swap_chords,
)
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.ui.paint.popups import ListBox

SAME, SINGER = "Another key", "For a singer…"
KEYS_WIDE = 240


class ChartTools(QWidget):
    """Edits of the selected bar and chord; a key is tried first, with both names shown, and then taken. `tried_key`
    tells that one is tried, or none any more, `singer` asks for the key that suits a singer.
    """

    tried_key = Signal()
    singer = Signal()

    def __init__(self, desk: Desk, view: QWidget) -> None:
        super().__init__(view)
        self.desk = desk
        self.trying: Key | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 0, 12, 0)
        row.setSpacing(5)
        self.buttons = {
            name: self._button(row, text, tip, do)
            for name, text, tip, do in (
                ("insert", "+ bar", "A bar after this one (Insert)", self.insert),
                ("split", "Split", "Two chords instead of one (/)", self.split),
                ("delete", "Delete", "Without this chord; its beats go to the one before (Delete)", self.delete),
                ("delete_bar", "− bar", "Without this bar (Shift+Delete)", self.delete_bar),
                ("earlier", "\u2190", "This bar one earlier (Alt+Left)", lambda: self.move_bar(-1)),
                ("later", "\u2192", "This bar one later (Alt+Right)", lambda: self.move_bar(1)),
            )
        }
        self.lesson = self._button(row, "How?", "How a chart is written, by examples", lambda: None)
        self.lesson.setCheckable(True)
        row.addStretch(1)
        self.key = ListBox()
        self.key.addItem(SAME)
        self.key.setMinimumContentsLength(11)
        self.key.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.key.view().setMinimumWidth(KEYS_WIDE)
        self.key.setAccessibleName("Try the song in another key")
        self.key.setToolTip("Shows every chord in another key beside its old name, up or down by the nearest way")
        self.key.activated.connect(self._try)
        self._offered: list[OtherKey] = []
        row.addWidget(self.key)
        self.take = self._button(row, "Take it", "Play the song in this key from now on", self.take_key)
        self.take.setVisible(False)

    @staticmethod
    def _button(row: QHBoxLayout, text: str, tip: str, do: Callable[[], object]) -> QPushButton:
        button = QPushButton(text)
        button.setToolTip(tip)
        button.setAccessibleName(tip)
        button.setMinimumWidth(button.fontMetrics().horizontalAdvance(text) + 18)
        button.clicked.connect(lambda _=False: do())
        row.addWidget(button)
        return button

    @property
    def tried(self) -> Song | None:
        """The chart in the key that is tried, None while none is or the text is at fault."""
        if self.trying is None or self.desk.document.reading.faults:
            return None
        song = self.desk.document.reading.song
        return song_in_key(song, Key(self.trying.tonic, song.the_key.mode))

    def refresh(self) -> None:
        """Nothing can be edited while no chord is selected or the text is at fault."""
        ready = (
            self.desk.selection.address is not None and not self.desk.document.reading.faults and self.trying is None
        )
        for button in self.buttons.values():
            button.setEnabled(ready)
        self._fill_keys()

    def _fill_keys(self) -> None:
        """The keys to go to, each with how far it is and where the tune lies there, and a way to fit a singer."""
        song = self.desk.document.reading.song
        offered = [other for other in other_keys(song) if other.key != song.the_key] if song.sections else []
        if offered == self._offered and self.key.count() > 1:
            return
        self._offered = offered
        self.key.clear()
        self.key.addItems([SAME, *(other.words for other in offered), SINGER])

    # --- bars and chords ---
    def insert(self) -> None:
        """A bar after the selected one."""
        if place := self._place():
            self.desk.edit_chart("add a bar", lambda song: insert_bar(song, place))

    def split(self) -> None:
        """Two chords instead of the selected one."""
        if at := self.desk.selection.address:
            self.desk.edit_chart("split a chord", lambda song: split_chord(song, at))

    def delete(self) -> None:
        """Without the selected chord."""
        if at := self.desk.selection.address:
            self.desk.edit_chart("delete a chord", lambda song: delete_chord(song, at))

    def delete_bar(self) -> None:
        """Without the selected bar."""
        if place := self._place():
            self.desk.edit_chart("delete a bar", lambda song: delete_bar(song, place))

    def move_bar(self, by: int) -> None:
        """The selected bar earlier or later."""
        if place := self._place():
            self.desk.edit_chart("move a bar", lambda song: move_bar(song, place, place[1] + by))

    def move_chord(self, by: int) -> None:
        """The selected chord changes places with the one before or after it."""
        at = self.desk.selection.address
        other = beside(self.desk.state.song, at, by) if at else None
        if at and other:
            self.desk.edit_chart("move a chord", lambda song: swap_chords(song, at, other))
            self.desk.selection.go_to(other)

    def _place(self) -> tuple[int, int] | None:
        return self.desk.selection.address[:2] if self.desk.selection.address else None

    # --- another key ---
    def _try(self, index: int) -> None:
        if index > len(self._offered):
            self.key.setCurrentIndex(0)
            self.singer.emit()
            return
        self.try_key(self._offered[index - 1].key if index else None)

    def try_key(self, key: Key | None) -> None:
        """Show the song in another key, or as it is again."""
        self.trying = key
        place = next((n for n, other in enumerate(self._offered, 1) if other.key == key), 0)
        self.key.setCurrentIndex(place)
        self.take.setVisible(key is not None)
        self.tried_key.emit()

    def take_key(self) -> None:
        """Make the tried key the song's."""
        tried = self.tried
        self.try_key(None)
        if tried is not None:
            self.desk.change_key(tried.the_key)
