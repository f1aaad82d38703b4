"""Songs that windows which died left unsaved: the newest opens by itself, the others are offered."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QMenu

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.keeping.sessions import Left, claim, forget, left_behind
from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.io.files import digest, is_there
from yellow_hinge.ui.files.autosave import Autosave
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.parts.telling import GOOD, Teller

BACK = "The program did not close properly last time; your unsaved work is back."


class Rescues(QObject):
    """What was left behind, until it is opened here or thrown away by the player."""

    def __init__(self, desk: Desk, places: Places, autosave: Autosave, saving: Saving, teller: Teller) -> None:
        super().__init__(autosave)
        self.desk, self.places, self.autosave, self.saving, self.teller = desk, places, autosave, saving, teller
        self.left: list[Left] = []
        self.wrong: list[str] = []

    def look(self) -> None:
        """Find what is there now."""
        self.left, wrong = left_behind(self.places)
        self.wrong += wrong

    def open_newest(self) -> bool:
        """Open what was left last. Whether there was something."""
        while self.left:
            if self._take(self.left[0]):
                self.teller.tell(BACK)
                return True
        return False

    def _take(self, left: Left) -> bool:
        """Make a left song this window's: its copy goes once there is one here."""
        self.left.remove(left)
        lock = claim(left)
        if lock is None:
            return False  # another window was faster
        path = Path(left.path) if left.path else None
        self.saving.begin(None, self._known(left, path))
        self.desk.document.rescued(left.file, path, left.text or "")

        def gone() -> None:
            forget(left)
            lock.close()

        self.autosave.copier.when_safe(gone)  # on a full disk, only once there is room
        self.autosave.flush()
        return True

    @staticmethod
    def _known(left: Left, path: Path | None) -> str:
        """The digest of the song's own file as the window that died knew it; copies of older programs do not say it."""
        if left.known is not None or path is None:
            return left.known or ""
        unchanged = is_there(path) and path.stat().st_mtime <= left.when
        return (digest(path) or "") if unchanged else ""

    def offer(self) -> None:
        """Say what else is there, and what was damaged."""
        words = [f"{text[:1].upper()}{text[1:]}." for text in self.wrong]
        if len(self.left) == 1:
            words.append(f"“{self._title(self.left[0])}” was left unsaved by a window that did not close properly.")
        elif self.left:
            words.append(f"{len(self.left)} songs were left unsaved by windows that did not close properly.")
        if words:
            open_ = "Open it" if len(self.left) == 1 else "Open the newest"
            buttons = {open_: self._open_one, "Later (Song menu)": lambda: None}
            self.teller.news.tell(" ".join(words), buttons if self.left else GOOD)
        self.wrong = []

    def _open_one(self) -> None:
        if self.left:
            self._open(self.left[0])

    def _open(self, left: Left) -> None:
        if self.saving.may_leave():
            if not self._take(left):
                self.teller.tell("Another window has opened it.")
            self.offer()

    def fill(self, menu: QMenu) -> None:
        """List what was left behind in a menu."""
        self.look()
        menu.clear()
        for left in self.left:
            menu.addAction(self._title(left), lambda left=left: self._open(left))
        if not self.left:
            menu.addAction("None").setEnabled(False)

    @staticmethod
    def _title(left: Left) -> str:
        return left.file.song.title or (Path(left.path).stem if left.path else "A song")
