"""What the program is and whose work ships with it."""

from __future__ import annotations

from PySide6.QtWidgets import QMessageBox, QWidget

TEXT = (
    "Yellow Hinge chooses voicings for both hands so that every chord moves to the next with the least motion.\n\n"
    "Piano: Salamander Grand Piano V3 by Alexander Holm, CC BY 3.0. Text: Inter, SIL Open Font License. "
    "Music signs: from DejaVu Sans. See NOTICE for all licences."
)


def show_about(parent: QWidget) -> None:
    """The dialog."""
    QMessageBox.information(parent, "About Yellow Hinge", TEXT)
