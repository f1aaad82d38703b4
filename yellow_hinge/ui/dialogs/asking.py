"""Questions and messages in dialogs of their own. Loaded with the first of them, so that the window opens sooner."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import TYPE_CHECKING, Literal

from PySide6.QtCore import QCoreApplication, QEventLoop, Qt
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QProgressDialog, QWidget

from yellow_hinge.ui.controls import PATIENCE_MS

if TYPE_CHECKING:
    from PySide6.QtPrintSupport import QPrinter

TITLE = "Yellow Hinge"
REPORTED, LONGEST_TEXT = 12, 1200
ABOUT = (
    "Yellow Hinge chooses voicings for both hands that move as little as possible.\n\n"
    "Piano: Salamander Grand Piano V3 by Alexander Holm, CC BY 3.0. Text: Inter, SIL Open Font License. "
    "Signs: cut from DejaVu Sans. Staves: engraved by Verovio, LGPL 3. The file NOTICE has the licences.\n\n"
    "If a hand hurts, stop and rest. Pain that stays belongs with a doctor or a physiotherapist."
)


def file_to_open(parent: QWidget, folder: str, kinds: str) -> str:
    """The file the player chose, or nothing."""
    return QFileDialog.getOpenFileName(parent, "Open a song", folder, kinds)[0]


def file_to_write(parent: QWidget, heading: str, proposed: str, kinds: str) -> tuple[str, str]:
    """(file, kind) the player chose to write to; the file is empty where there is none."""
    options = QFileDialog.Option.DontConfirmOverwrite  # asked once the ending is there
    name, kind = QFileDialog.getSaveFileName(parent, heading, proposed, kinds, options=options)
    return name, kind


def printer(parent: QWidget, printer: QPrinter) -> bool:
    """Let the player choose a printer and its paper; whether to print."""
    from PySide6.QtPrintSupport import QPrintDialog

    return bool(QPrintDialog(printer, parent).exec())


def fault(parent: QWidget, text: str) -> None:
    """A fault of the input."""
    QMessageBox.warning(parent, TITLE, text[:LONGEST_TEXT])


def bug(parent: QWidget, text: str) -> None:
    """A fault of the program."""
    QMessageBox.critical(parent, TITLE, text[:LONGEST_TEXT])


def about(parent: QWidget) -> None:
    """What the program is and whose work ships with it."""
    QMessageBox.information(parent, f"About {TITLE}", ABOUT)


def report(parent: QWidget, name: str, lines: tuple[str, ...]) -> None:
    """What an import left out, guessed or kept unused."""
    box = QMessageBox(parent)
    box.setWindowTitle(TITLE)
    box.setText(f"{name} was opened. {len(lines)} thing{'' if len(lines) == 1 else 's'} to know:")
    box.setInformativeText("\n".join(f"- {line}" for line in lines[:REPORTED]))
    box.setDetailedText("\n".join(lines))
    box.exec()


def leaving(parent: QWidget, title: str) -> Literal["save", "discard", "stay"]:
    """What to do with unsaved work."""
    box = QMessageBox(parent)
    box.setWindowTitle(TITLE)
    box.setText(f"Save {title}?")
    box.setInformativeText("Without saving, the changes since the last save are lost.")
    buttons = QMessageBox.StandardButton
    box.setStandardButtons(buttons.Save | buttons.Discard | buttons.Cancel)
    answer = box.exec()
    return "save" if answer == buttons.Save else "discard" if answer == buttons.Discard else "stay"


def choose(parent: QWidget, words: str, answers: list[str]) -> str:
    """A question with its answers, the safe way out beside them; "" for that."""
    box = QMessageBox(parent)
    box.setWindowTitle(TITLE)
    box.setText(words[:LONGEST_TEXT])
    buttons = {box.addButton(answer, QMessageBox.ButtonRole.ActionRole): answer for answer in answers}
    away = box.addButton(QMessageBox.StandardButton.Cancel)
    box.setDefaultButton(away)
    box.setEscapeButton(away)
    box.exec()
    return buttons.get(box.clickedButton(), "")


def name(parent: QWidget, words: str, proposed: str) -> str:
    """A name that the player writes, "" for none."""
    text, done = QInputDialog.getText(parent, TITLE, words, text=proposed)
    return text.strip() if done else ""


def patiently(
    parent: QWidget, text: str, done: Callable[[], bool], stop: Callable[[], object],
    share: Callable[[], float] | None = None,
) -> None:  # fmt: skip
    """Wait until something is done, with progress after half a second; `stop` is called when the player cancels,
    `share` tells how much is done, from 0 to 1, where that is known.
    """
    patience = QProgressDialog(text, "Cancel", 0, 100 if share else 0, parent)
    patience.setAutoReset(False)
    patience.setMinimumDuration(PATIENCE_MS)
    patience.setWindowModality(Qt.WindowModality.WindowModal)
    patience.canceled.connect(stop)
    patience.setValue(0)
    while not done():
        QCoreApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
        if share is not None:
            patience.setValue(round(100 * share()))
        time.sleep(0.005)
    patience.canceled.disconnect(stop)
    patience.close()
    patience.deleteLater()
