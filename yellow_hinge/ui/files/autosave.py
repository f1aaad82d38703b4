"""Keeping what the player has: every edit on disk within a second, the settings at the end."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from PySide6.QtCore import QObject, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.events import Event
from yellow_hinge.app.edits.state import file_of
from yellow_hinge.app.keeping.copying import Copier
from yellow_hinge.app.keeping.sessions import Session
from yellow_hinge.app.keeping.settings import Places, SettingsWriter
from yellow_hinge.app.mine.writer import MineWriter
from yellow_hinge.io.songs.migrations import SongFile


class Autosave(QObject):
    """Hands every edit to the copier; what cannot be written is said."""

    failed = Signal(str)

    def __init__(
        self, desk: Desk, places: Places, say: Callable[[str], None], known: Callable[[], str], parent: QObject
    ) -> None:
        super().__init__(parent)
        self.desk, self.places = desk, places
        self._known = known  # the digest of the song's own file, as it is known here
        self.session = Session(places)
        self.copier = Copier(self.session, self.failed.emit)
        self.settings = SettingsWriter(places, self.failed.emit)
        self.mine = MineWriter(places.mine, self.failed.emit)
        self.failed.connect(say)
        desk.listeners.append(self._on_desk)

    def _on_desk(self, what: Event) -> None:
        if what == Event.TYPING:
            self.copier.keep_text(self.desk.document.typed)
        elif what == Event.STATE:
            self._keep()

    def _keep(self) -> None:
        desk = self.desk
        path, known = str(desk.document.path or ""), self._known()
        if not desk.document.changed:
            self.copier.drop(path, known)
            return
        state, reading, document = desk.state, desk.document.reading, desk.document.own

        def make() -> SongFile:
            return msgspec.structs.replace(file_of(state, reading), document=document)

        self.copier.keep(make, desk.document.typed, path, known)

    def flush(self) -> bool:
        """Write now what is due; whether that went well."""
        return self.copier.flush()

    def close(self) -> None:
        """The program ends as it should: no copy is needed, the settings are kept."""
        self.copier.close()
        self.settings.close()
        self.mine.close()
