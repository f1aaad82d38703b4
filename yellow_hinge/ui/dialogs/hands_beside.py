"""Two ways to play the same chords beside each other, as a table to choose by."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.app.solving.comparing import Compared
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.notes import chord_text
from yellow_hinge.ui.paint.theme import SMALL, font

COLUMNS = ("Chord", "known left", "right", "new left", "right", "semitones")


class HandsBeside(QDialog):
    """The chords whose hands differ, those known at the left; accepted where the new ones are taken."""

    def __init__(self, words: str, rows: list[Compared], parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle("New hands")
        self.table = QTableWidget(len(rows), len(COLUMNS))
        self.table.setHorizontalHeaderLabels(list(COLUMNS))
        self.table.setAccessibleName("Known and new hands, chord by chord")
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.verticalHeader().hide()
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.setFont(font(SMALL))
        for at, row in enumerate(rows):
            for column, text in enumerate(_cells(row)):
                self.table.setItem(at, column, QTableWidgetItem(pretty_signs(text)))
        told = QLabel(words)
        told.setWordWrap(True)
        self.buttons = QDialogButtonBox()
        take, keep = QPushButton("&Take the new ones"), QPushButton("&Keep what I know")
        self.buttons.addButton(take, QDialogButtonBox.ButtonRole.AcceptRole)
        self.buttons.addButton(keep, QDialogButtonBox.ButtonRole.RejectRole)
        keep.setDefault(True)
        self.buttons.accepted.connect(self.accept)
        self.buttons.rejected.connect(self.reject)
        column_ = QVBoxLayout(self)
        column_.addWidget(told)
        column_.addWidget(self.table, 1)
        column_.addWidget(self.buttons)
        self.resize(760, 460)


def _cells(row: Compared) -> list[str]:
    first = row.one or row.other
    name = chord_text(first.chord) if first is not None else ""
    old, new = row.motions
    return [name, *_hands(row.one), *_hands(row.other), f"{old} → {new}"]


def _hands(voicing: Voicing | None) -> list[str]:
    if voicing is None:
        return ["", ""]
    return [" ".join(map(str, voicing.pitches(hand))) or "rests" for hand in ("left", "right")]
