"""Many files at once: one report with a row each, and songs written into a folder on one answer."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QListWidget, QPushButton, QVBoxLayout, QWidget

from yellow_hinge.app.solving.book.converting import Converted, converted, looked_at
from yellow_hinge.app.solving.newest import Bug, Newest
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.ui.dialogs import asking
from yellow_hinge.ui.paint.rows import Row, RowPainter, fill_rows
from yellow_hinge.ui.paint.theme import LARGE, Theme, font
from yellow_hinge.ui.parts.menus import lettered

SAVE, OPEN, DONE = "Save as songs into a folder…", "Open the first", "Good"
FIGURES = {"right": "right", "guessed": "guessed", "refused": "refused"}
WIDE, TALL = 720, 480


class SoFar(NamedTuple):
    """What came of the files so far; `whole`: of all of them. `written`: they were written, not only read."""

    number: int
    rows: tuple[Converted, ...]
    whole: bool
    written: bool
    fault: str = ""


class ManyFiles(QDialog):
    """The report. Files are read beside it; `first` is the file that the player wants to open, None for none."""

    _came = Signal(object)

    def __init__(self, parent: QWidget, theme: Theme, paths: list[Path]) -> None:
        super().__init__(parent)
        self.setWindowTitle(asking.TITLE)
        self.resize(WIDE, TALL)
        self.paths = paths
        self.first: Path | None = None
        self.rows: tuple[Converted, ...] = ()
        self._worker: Newest[SoFar] = Newest(self._came.emit, "many files")
        self._came.connect(self._arrived)
        self.finished.connect(lambda result: self._worker.close())  # read no more
        whole = QVBoxLayout(self)
        whole.setSpacing(12)
        self.heading = QLabel(f"{len(paths)} files")
        self.heading.setFont(font(LARGE))
        self.heading.setWordWrap(True)
        self.list = QListWidget()
        self.list.setAccessibleName("Files")
        self.list.setItemDelegate(RowPainter(theme, self.list, 84))
        whole.addWidget(self.heading)
        whole.addWidget(self.list, 1)
        whole.addLayout(self._buttons())
        self._ask(None)

    def _buttons(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.buttons: dict[str, QPushButton] = {}
        for name, shown in lettered([SAVE, OPEN, DONE]).items():
            button = QPushButton(shown)
            button.clicked.connect({SAVE: self._save, OPEN: self._open, DONE: self.accept}[name])
            row.addWidget(button)
            self.buttons[name] = button
        self.buttons[DONE].setDefault(True)
        return row

    def _ask(self, folder: Path | None) -> None:
        """Read the files, or write them as songs into a folder."""
        for name in (SAVE, OPEN):
            self.buttons[name].setEnabled(False)

        def work(builder: Builder, number: int) -> SoFar:
            rows = list[Converted]()
            stop = lambda count: builder.overtaken()  # noqa: E731
            try:
                found = looked_at(self.paths, stop) if folder is None else converted(self.paths, folder, told=stop)
                for row in found:
                    rows.append(row)
                    self._came.emit(SoFar(number, tuple(rows), False, folder is not None))
            except UserError as error:
                return SoFar(number, tuple(rows), True, folder is not None, str(error))
            return SoFar(number, tuple(rows), True, folder is not None)

        self._worker.put(work)

    def _arrived(self, found: SoFar | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self._worker.asked:
            return
        self.rows = found.rows
        fill_rows(self.list, [self._row(one) for one in found.rows])
        self.heading.setText(found.fault or self._told(found))
        able = found.whole and any(one.result != "refused" for one in found.rows)
        self.buttons[SAVE].setEnabled(able and not found.written)
        self.buttons[OPEN].setEnabled(able)

    def _told(self, found: SoFar) -> str:
        """How many files there are, what came of them, and where they were saved."""
        counts = {kind: sum(one.result == kind for one in found.rows) for kind in FIGURES}
        told = ", ".join(f"{count} {kind}" for kind, count in counts.items() if count)
        done = f"{len(found.rows)} of {len(self.paths)} files" if not found.whole else f"{len(self.paths)} files"
        to = next((Path(one.to).parent for one in found.rows if one.to), None)
        return f"{done}: {told}" + (f", saved in {to}" if to is not None and found.whole else "")

    @staticmethod
    def _row(one: Converted) -> Row:
        words = "; ".join((*((f"as {Path(one.to).name}",) if one.to else ()), *one.said)) or "as it is"
        return Row(FIGURES[one.result], Path(one.path).name, words, one.result == "refused")

    def _save(self) -> None:
        folder = asking.folder(self, "A folder for the songs", str(self.paths[0].parent))
        if folder is not None:
            self._ask(folder)

    def _open(self) -> None:
        one = next(one for one in self.rows if one.result != "refused")
        self.first = Path(one.to or one.path)
        self.accept()
