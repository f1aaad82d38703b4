"""A bar above the views: one sentence, and what can be done about it."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QWidget


class Notice(QFrame):
    """Hidden until there is something to tell. Every button hides it, then does its work."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("offer")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.buttons: list[QPushButton] = []
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(14, 4, 10, 4)
        self.row.addWidget(self.words, 1)
        self.hide()

    def tell(self, words: str, buttons: Mapping[str, Callable[[], object]]) -> None:
        """Show a sentence with buttons, in the place of what was told before."""
        if not self.isHidden() and self.words.text() == words:
            return
        self.words.setText(words)
        self.setAccessibleName(words)
        for old in self.buttons:
            self.row.removeWidget(old)
            old.deleteLater()
        self.buttons = [self._button(text, do) for text, do in buttons.items()]
        self.show()

    def _button(self, text: str, do: Callable[[], object]) -> QPushButton:
        button = QPushButton(text)
        button.setProperty("small", True)
        button.clicked.connect(self.hide)
        button.clicked.connect(lambda _=False: do())
        self.row.addWidget(button)
        return button
