"""The player's own data in a window: read as it starts and whenever its files change, and shown as a list."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.core.errors import UserError
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.paint.theme import Theme
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.telling import Teller

if TYPE_CHECKING:  # loaded where there is something of the player's own, or once the window stands
    from PySide6.QtCore import QFileSystemWatcher

    from yellow_hinge.app.mine.folder import Mine
    from yellow_hinge.app.solving.of_mine import MineReader, ReadMine
    from yellow_hinge.ui.dialogs.own_list import OwnList

SOON_MS = 250  # after a file changed: editors write several times
WATCHED_MS = 3000  # after the window stands, its folder is watched


class OwnData(QObject):
    """Keeps what lies in the player's folder in use."""

    read_ = Signal(object)

    def __init__(
        self, window: QWidget, desk: Desk, preferences: Preferences, teller: Teller, folder: Path,
        theme: Callable[[], Theme],
    ) -> None:  # fmt: skip
        super().__init__(window)
        self.window_, self.desk, self.preferences, self.teller = window, desk, preferences, teller
        self.folder, self._theme = folder, theme
        self._mine: Mine | None = None
        self._reader: MineReader | None = None
        self._watcher: QFileSystemWatcher | None = None
        self._shown: OwnList | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self.look)
        self.read_.connect(self._arrived)

    @property
    def mine(self) -> Mine:
        """What lies in the folder, as it was last read."""
        if self._mine is None:
            from yellow_hinge.app.mine.folder import Mine

            self._mine = Mine()
        return self._mine

    def begin(self) -> None:
        """Read it before the first song is solved; what settings of an earlier version hold moves in."""
        self.preferences.move_in()
        if self.folder.is_dir():
            from yellow_hinge.app.mine.using import use_folder

            self._take(use_folder(self.folder))
        QTimer.singleShot(WATCHED_MS, self, self._watch)

    def look(self) -> None:
        """Have it read again where files changed."""
        self._watch()
        if self._reader is None:
            from yellow_hinge.app.solving.of_mine import MineReader

            self._reader = MineReader(self.read_.emit, "my data")
        self._reader.ask(self.folder)

    def _watch(self) -> None:
        """Hear of changes in the folder and in those inside; of the folder above while there is none."""
        from yellow_hinge.app.mine.kinds import KINDS

        if self._watcher is None:
            from PySide6.QtCore import QFileSystemWatcher

            self._watcher = QFileSystemWatcher(self)
            self._watcher.directoryChanged.connect(lambda _: self._soon.start())
            self._watcher.fileChanged.connect(lambda _: self._soon.start())
        folders = (self.folder.parent, self.folder, *(self.folder / kind.folder for kind in KINDS))
        files = (str(own.path) for own in self.mine.entries), (str(wrong.path) for wrong in self.mine.wrong)
        wanted = {*(str(folder) for folder in folders if folder.is_dir()), *files[0], *files[1]}
        new = sorted(wanted - {*self._watcher.directories(), *self._watcher.files()})
        if new:
            self._watcher.addPaths(new)

    def _arrived(self, found: ReadMine | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.mine is None:
            return
        from yellow_hinge.app.mine.using import use

        worse = [wrong for wrong in found.mine.wrong if wrong not in self.mine.wrong]
        others = use(found.mine)
        self._take(found.mine)
        self._watch()
        if others:
            self.desk.renew()
            self.teller.say("Your own data was read again.")
        if worse:
            more = f" and {len(worse) - 1} more" if len(worse) > 1 else ""
            self.teller.say(f"Left out{more}: {worse[0]}")

    def _take(self, mine: Mine) -> None:
        self._mine = mine
        self.preferences.know(mine.of("shape"), mine.of("pattern"))
        if self._shown is not None:
            self._shown.fill(mine)

    def open(self) -> None:
        """Show every entry and where it is from."""
        from yellow_hinge.ui.dialogs.own_list import OwnList

        self._shown = dialog = OwnList(self.window_, self._theme(), self.mine, self.folder)
        dialog.folder_wanted.connect(self.show_folder)
        dialog.example_wanted.connect(self._put_example)
        dialog.exec()
        self._shown = None
        dialog.deleteLater()

    def show_folder(self) -> None:
        """Open the folder with the desktop's own program."""
        from PySide6.QtCore import QUrl
        from PySide6.QtGui import QDesktopServices

        self.folder.mkdir(parents=True, exist_ok=True)
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.folder)))

    def _put_example(self, kind: str) -> None:
        from yellow_hinge.app.mine.folder import put_example

        try:
            path = put_example(self.folder, kind)
        except UserError as error:
            self.teller.say(str(error))
            return
        self.teller.say(f"{path} is an example, with every field explained. Change it, and it is read again.")
        self.look()

    def close(self) -> None:
        """Look no more."""
        self._soon.stop()
        if self._reader is not None:
            self._reader.close()


COMMANDS: Commands[OwnData] = Commands(OwnData, (
    Command("own_data", "Edit", "My own data…", (), "Styles, manners, substitutes, scales, shapes: where each is from",
            lambda own: own.open()),
))  # fmt: skip
