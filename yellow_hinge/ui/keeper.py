"""Keeping what the player has: a rescue copy after every edit, the settings at the end."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer

from yellow_hinge.app.desk import Desk
from yellow_hinge.app.keeping import Places, Settings, drop_rescue, keep_rescue, save_settings
from yellow_hinge.app.state import file_of
from yellow_hinge.core.errors import UserError

AUTOSAVE_MS = 400


class Keeper(QObject):
    """Writes a copy of unsaved work a moment after the last edit; what cannot be written is said."""

    def __init__(self, desk: Desk, places: Places, say: Callable[[str], None], parent: QObject) -> None:
        super().__init__(parent)
        self.desk, self.places, self.say = desk, places, say
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(AUTOSAVE_MS)
        self._timer.timeout.connect(self.keep_copy)

    def edited(self) -> None:
        """A copy is due soon."""
        self._timer.start()

    def keep_copy(self) -> None:
        """Write the rescue copy of unsaved work, or clear it where nothing is unsaved."""
        try:
            if self.desk.changed:
                keep_rescue(self.places, str(self.desk.path or ""), file_of(self.desk.state))
            else:
                drop_rescue(self.places)
        except UserError as error:
            self.say(str(error))

    def close(self, settings: Settings) -> None:
        """The program ends as it should: no copy is needed, the settings are kept."""
        self._timer.stop()
        drop_rescue(self.places)
        try:
            save_settings(self.places, settings)
        except UserError as error:
            self.say(str(error))
