"""Which printer, which pages, how often: the few things that a player asks of paper."""

from __future__ import annotations

from PySide6.QtPrintSupport import QPrinter, QPrinterInfo
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.ui.dialogs.asking import AWAY, TITLE
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.parts.menus import lettered

PRINT = "Print"
NONE = "This computer has no printer set up. Song, Export writes the pages as a PDF, which prints anywhere."
MOST_COPIES = 99


class PrintDialog(QDialog):
    """What is to be printed of some pages, and where. Where there is no printer it says what to do instead."""

    def __init__(self, parent: QWidget, pages: int, printers: list[str], first: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(TITLE)
        self.printers, self.both_sides = ListBox(), QCheckBox("Both sides of the paper")
        self.printers.addItems(printers)
        self.printers.setCurrentIndex(max(0, self.printers.findText(first)))
        self.printers.setAccessibleName("Printer")
        self.first, self.last = self._spin("First page", pages, 1), self._spin("Last page", pages, pages)
        self.first.valueChanged.connect(self.last.setMinimum)
        self.copies = self._spin("Copies", MOST_COPIES, 1)
        whole = QVBoxLayout(self)
        whole.setSpacing(14)
        whole.addLayout(self._form(pages)) if printers else whole.addWidget(self._words(NONE))
        whole.addLayout(self._buttons(bool(printers)))

    @staticmethod
    def _spin(name: str, most: int, value: int) -> QSpinBox:
        made = QSpinBox()
        made.setRange(1, most)
        made.setValue(value)
        made.setAccessibleName(name)
        return made

    @staticmethod
    def _words(text: str) -> QLabel:
        made = QLabel(text)
        made.setWordWrap(True)
        made.setMinimumWidth(380)
        return made

    def _form(self, pages: int) -> QFormLayout:
        form = QFormLayout()
        form.setSpacing(10)
        form.addRow("Printer", self.printers)
        row = QHBoxLayout()
        for widget in (self.first, QLabel("to"), self.last, QLabel(f"of {pages}")):
            row.addWidget(widget)
        row.addStretch(1)
        form.addRow("Pages", row)
        form.addRow("Copies", self.copies)
        form.addRow("", self.both_sides)
        return form

    def _buttons(self, able: bool) -> QHBoxLayout:
        row = QHBoxLayout()
        row.addStretch(1)
        self.buttons: dict[str, QPushButton] = {}
        for name, shown in lettered([PRINT, AWAY] if able else [AWAY]).items():
            button = QPushButton(shown)
            button.setDefault(name == PRINT)
            button.clicked.connect(self.accept if name == PRINT else self.reject)
            self.buttons[name] = button
            row.addWidget(button)
        return row

    def tell(self, printer: QPrinter) -> None:
        """Set a printer as it was asked."""
        printer.setPrinterName(self.printers.currentText())
        printer.setFromTo(self.first.value(), self.last.value())
        printer.setCopyCount(self.copies.value())
        two = QPrinter.DuplexMode.DuplexLongSide if self.both_sides.isChecked() else QPrinter.DuplexMode.DuplexNone
        printer.setDuplex(two)


def ask(parent: QWidget, printer: QPrinter, pages: int) -> bool:
    """Let the player choose a printer and what it prints of so many pages; whether to print."""
    dialog = PrintDialog(parent, pages, QPrinterInfo.availablePrinterNames(), QPrinterInfo.defaultPrinterName())
    if not dialog.exec():
        return False
    dialog.tell(printer)
    return True
