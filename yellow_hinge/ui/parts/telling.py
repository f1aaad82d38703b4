"""What the window tells: a quiet line at the bottom, and bars above the views for what must not be missed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.announcing import Announcer
from yellow_hinge.ui.paint.controls import ElidedLabel
from yellow_hinge.ui.parts.notice import Notice

PASSING_MS = 8000
GOOD: Mapping[str, Callable[[], object]] = {"Good": lambda: None}


class Teller(QObject):
    """The line and the bars, from the top: `news` of files, `warning` for faults, `mistake` of the chart, `silence`
    where no sound comes.
    """

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.announcer = Announcer(window)
        self.news, self.warning, self.mistake, self.silence = (Notice(window) for _ in range(4))
        self.line, self._lasting = ElidedLabel(), ""
        self.line.setObjectName("muted")
        self.line.setContentsMargins(8, 0, 8, 2)
        self._passing = QTimer(self)
        self._passing.setSingleShot(True)
        self._passing.setInterval(PASSING_MS)
        self._passing.timeout.connect(lambda: self.line.setText(pretty_signs(self._lasting)))

    @property
    def bars(self) -> tuple[Notice, ...]:
        """The bars, what is the more pressing before what can wait."""
        return self.warning, self.mistake, self.news, self.silence

    def say(self, text: str, lasting: bool = False) -> None:
        """A quiet line at the bottom; what is not lasting gives way to what was after eight seconds."""
        if lasting:
            self._lasting = text
        self._passing.start() if not lasting else self._passing.stop()
        self.line.setText(pretty_signs(text))
        self.announcer.say(self.line.text())

    def unsay(self) -> None:
        """What was said for a while gives way at once."""
        self._passing.stop()
        self.line.setText(pretty_signs(self._lasting))

    def tell(self, text: str) -> None:
        """Something that must not be missed: it stays until it is answered, and in the line at the bottom."""
        self.say(text)
        self.warning.tell(pretty_signs(text), GOOD)

    def tell_silence(self, words: str) -> None:
        """There is no sound device: said whenever something is played, as long as it is played."""
        self.say(words)
        self.silence.tell(words, GOOD)

    def warn_shared(self, path: Path, copy: Callable[[], object]) -> None:
        """A file that another window has open too."""
        words = f"{path.name} is open in another window too. Saving asks before it writes over the other's work."
        self.news.tell(words, {"Save a copy…": copy, **GOOD})
