"""What was found in a file that was opened: what was left out or guessed, and what may be chosen otherwise."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from yellow_hinge.io.imported import Offer
from yellow_hinge.ui.dialogs.asking import GOOD, TITLE, choose
from yellow_hinge.ui.paint.announcing import label_boxes
from yellow_hinge.ui.paint.controls import READ_AS
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import BODY, LARGE, font
from yellow_hinge.ui.parts.menus import lettered

_BARS = "bars"  # the offer whose numbers are chosen by their keys
_WIDTH, _TALLEST = 620, 320


class Chosen(NamedTuple):
    """What the player wants otherwise: of the offers, and the kind that a text is to be read as; nothing where both are
    empty.
    """

    asks: dict[str, str]
    kind: str = ""


class LookedOver(QDialog):
    """The report of an opened file. A choice closes it, and `chosen` says it; so does its safe way out, with none."""

    def __init__(
        self, parent: QWidget, name: str, lines: tuple[str, ...], offers: tuple[Offer, ...], others: tuple[str, ...]
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(TITLE)
        self.chosen = Chosen({})
        self._name, self._offers, self._others = name, offers, others
        whole = QVBoxLayout(self)
        whole.setSpacing(12)
        heading = QLabel(f"{name} was opened. {len(lines)} thing{'' if len(lines) == 1 else 's'} to know:")
        heading.setFont(font(LARGE))
        heading.setWordWrap(True)
        whole.addWidget(heading)
        whole.addWidget(self._report(lines))
        if offers:
            whole.addLayout(self._choices())
        whole.addLayout(self._buttons())
        self.setMinimumWidth(_WIDTH)

    def _report(self, lines: tuple[str, ...]) -> QScrollArea:
        words = QLabel("\n".join(f"– {line}" for line in lines))
        words.setFont(font(BODY))
        words.setWordWrap(True)
        words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        words.setAlignment(Qt.AlignmentFlag.AlignTop)
        area = QScrollArea()
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(words)
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setStyleSheet("background: transparent")
        area.setFixedHeight(min(_TALLEST, words.heightForWidth(_WIDTH - 40) + 8))
        return area

    def _choices(self) -> QGridLayout:
        """A list for everything that a reader had to choose."""
        grid = QGridLayout()
        grid.setColumnStretch(1, 1)
        for row, offer in enumerate(self._offers):
            label, box = QLabel(f"{offer.name} (keys 1 to 8)" if offer.id == _BARS else offer.name), ListBox()
            for value, words in offer.options:
                box.addItem(words, value)
            box.setCurrentIndex(max(0, box.findData(offer.chosen)))
            box.activated.connect(lambda _, offer=offer, box=box: self._choose(offer, str(box.currentData())))
            label.setBuddy(box)
            grid.addWidget(label, row, 0)
            grid.addWidget(box, row, 1)
        label_boxes(self)
        return grid

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        names = [*((READ_AS,) if self._others else ()), GOOD]
        for name, shown in lettered(names).items():
            button = QPushButton(shown)
            button.clicked.connect(self.accept if name == GOOD else self._read_as)
            row.addWidget(button)
        button.setDefault(True)
        button.setFocus()
        return row

    def _choose(self, offer: Offer, value: str) -> None:
        if value != offer.chosen:
            self.chosen = Chosen({each.id: each.chosen for each in self._offers} | {offer.id: value})
            self.accept()

    def _read_as(self) -> None:
        kind = choose(self, f"Read {self._name} as", list(self._others))
        if kind:
            self.chosen = Chosen({}, kind)
            self.accept()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """A number is that of bars a line, where these were guessed."""
        bars = next((offer for offer in self._offers if offer.id == _BARS), None)
        if bars is not None and event.text() in dict(bars.options):
            self._choose(bars, event.text())
            return
        super().keyPressEvent(event)


def look_over(
    parent: QWidget, name: str, lines: tuple[str, ...], offers: tuple[Offer, ...] = (), others: tuple[str, ...] = ()
) -> Chosen:
    """What an import left out, guessed or kept unused. `offers` may be chosen otherwise, `others` are kinds that it may
    be read as.
    """
    dialog = LookedOver(parent, name, lines, offers, others)
    dialog.exec()
    dialog.deleteLater()
    return dialog.chosen
