"""Questions and messages in dialogs of their own. Loaded with the first of them, so that the window opens sooner."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Literal

from PySide6.QtCore import QCoreApplication, QEventLoop, Qt
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import (
    QFileDialog,
    QFileIconProvider,
    QInputDialog,
    QMessageBox,
    QProgressDialog,
    QToolButton,
    QWidget,
)

from yellow_hinge.ui.paint.controls import PATIENCE_MS
from yellow_hinge.ui.parts.menus import lettered

TITLE = "Yellow Hinge"
GOOD, AWAY = "Good", "Cancel"
# The buttons of a file dialog that is not the system's, by Qt's names for them.
PICTURES = {
    "backButton": "Back", "forwardButton": "On", "toParentButton": "Up", "newFolderButton": "New folder",
    "listModeButton": "Names", "detailModeButton": "Details",
}  # fmt: skip
LONGEST_TEXT = 1200
ABOUT = (
    "Yellow Hinge chooses how both hands play every chord, so that they move as little as possible.\n\n"
    "Piano: Salamander Grand Piano V3 by Alexander Holm, CC BY 3.0. Text: Inter, SIL Open Font License. "
    "Signs: cut from DejaVu Sans. Staves: engraved by Verovio, LGPL 3. The file NOTICE has the licences.\n\n"
    "If a hand hurts, stop and rest. Pain that stays belongs with a doctor or a physiotherapist."
)


def file_to_open(parent: QWidget, folder: str, kinds: str) -> str:
    """The file the player chose, or nothing."""
    dialog = _files(parent, "Open a song", folder, kinds)
    return dialog.selectedFiles()[0] if dialog.exec() else ""


def files_to_open(parent: QWidget, folder: str, kinds: str) -> list[Path]:
    """The files the player chose, or none."""
    dialog = _files(parent, "Many files at once", folder, kinds)
    dialog.setFileMode(QFileDialog.FileMode.ExistingFiles)
    return [Path(name) for name in dialog.selectedFiles()] if dialog.exec() else []


def file_to_write(parent: QWidget, heading: str, proposed: str, kinds: str) -> tuple[str, str]:
    """(file, kind) the player chose to write to; the file is empty where there is none."""
    dialog = _files(parent, heading, str(Path(proposed).parent), kinds)
    dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
    dialog.setFileMode(QFileDialog.FileMode.AnyFile)
    dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)  # asked once the ending is there
    dialog.selectFile(proposed)
    return (dialog.selectedFiles()[0], dialog.selectedNameFilter()) if dialog.exec() else ("", "")


def folder(parent: QWidget, heading: str, known: str = "") -> Path | None:
    """Ask for a folder; None where the player wants none."""
    dialog = _files(parent, heading, known, "")
    dialog.setFileMode(QFileDialog.FileMode.Directory)
    dialog.setOption(QFileDialog.Option.ShowDirsOnly)
    if not dialog.exec() or not dialog.selectedFiles():
        return None
    return Path(dialog.selectedFiles()[0])


def _files(parent: QWidget, heading: str, folder: str, kinds: str) -> QFileDialog:
    """The system's dialog for files; where it has none, ours: words instead of pictures."""
    dialog = QFileDialog(parent, heading, folder, kinds)
    dialog.setFileMode(QFileDialog.FileMode.ExistingFile)
    dialog.setIconProvider(_NoPictures())
    for name, words in PICTURES.items():
        button = dialog.findChild(QToolButton, name)
        if button is not None:  # there is none in a dialog of the system's
            button.setIcon(QIcon())
            button.setText(words)
    return dialog


class _NoPictures(QFileIconProvider):
    """Folders end in a stroke in ours, and no file has a picture."""

    def icon(self, of: object) -> QIcon:
        return QIcon()


def _box(parent: QWidget, text: str, more: str = "", details: str = "", title: str = TITLE) -> QMessageBox:
    """A message in the program's own look, without the platform's pictures."""
    box = QMessageBox(parent)
    box.setIcon(QMessageBox.Icon.NoIcon)
    box.setWindowTitle(title)
    box.setText(text[:LONGEST_TEXT])
    box.setInformativeText(more)
    if details:
        box.setDetailedText(details)
    box.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    return box


def _answered(box: QMessageBox, answers: Sequence[str], away: str = "") -> str:
    """The answer given: each has a letter, which says it without Alt. The last one is the safe way out, that of Escape;
    `away` names it where it comes beside the answers, and is told as "".
    """
    letters = lettered([*answers, *([away] if away else [])])
    buttons: dict[object, str] = {}
    for answer, shown in letters.items():
        button = box.addButton(shown, QMessageBox.ButtonRole.ActionRole)
        buttons[button] = "" if answer == away else answer
    box.setDefaultButton(button)
    box.setEscapeButton(button)
    box.exec()
    return buttons.get(box.clickedButton(), "")


def fault(parent: QWidget, text: str) -> None:
    """A fault of the input."""
    _answered(_box(parent, text), (), GOOD)


def bug(parent: QWidget, text: str) -> None:
    """A fault of the program."""
    _answered(_box(parent, text), (), GOOD)


def about(parent: QWidget) -> None:
    """What the program is and whose work ships with it."""
    _answered(_box(parent, ABOUT, title=f"About {TITLE}"), (), GOOD)


def leaving(parent: QWidget, title: str) -> Literal["save", "discard", "stay"]:
    """What to do with unsaved work."""
    box = _box(parent, f"Save {title}?", "Without saving, the changes since the last save are lost.")
    answer = _answered(box, ("Save", "Discard"), AWAY)
    return "save" if answer == "Save" else "discard" if answer == "Discard" else "stay"


def choose(parent: QWidget, words: str, answers: list[str]) -> str:
    """A question with its answers, the safe way out beside them; "" for that."""
    return _answered(_box(parent, words), answers, AWAY)


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
