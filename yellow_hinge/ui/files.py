"""Opening, saving and exporting with the player's answers from dialogs. Faults are shown, never swallowed. Dialogs and
writers load when they are first needed, so that the window opens sooner.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QMenu, QWidget

from yellow_hinge.app.desk import ENDING, Desk
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.song import Song
from yellow_hinge.io.demo import FIRST, demo_names, demo_song, demo_text, demo_title
from yellow_hinge.io.files import FileFault, read_bytes
from yellow_hinge.io.opening import DEMO, Opened, read_data
from yellow_hinge.io.song_json import SongFile

OPEN_KINDS = (
    "Songs and charts (*.json *.chart *.txt *.cho *.crd *.pro *.musicxml *.xml *.mxl *.mid *.midi);;All files (*)"
)
SAVE_KIND = f"Song (*{ENDING})"


class Files(QObject):
    """The song's way from and to the disk."""

    def __init__(
        self, desk: Desk, window: QWidget, say: Callable[[str], None], hands: Callable[[], Hands | None]
    ) -> None:
        super().__init__(window)
        self.desk, self.window_, self.say = desk, window, say
        self._hands = hands  # the player's own, for songs that have none saved

    def _file(self, song: Song) -> SongFile:
        """A new file of a song, with the player's hands."""
        hands = self._hands()
        return SongFile(song, Setup(hands=hands) if hands else Setup())

    def open_path(self, path: Path) -> bool:
        """Open a file; what was open stays when it cannot be read. Whether it went well."""
        try:
            opened = self._patiently(path)
            if opened is None:
                self.say(f"{path.name} was not opened.")
                return False
            self.desk.open(opened.file, path if opened.own else None, opened.text)
        except UserError as error:
            self.show_fault(error)
            return False
        self.say(f"Opened {path.name}.")
        if opened.report:
            self.show_report(path.name, opened.report)
        return True

    def _patiently(self, path: Path) -> Opened | None:
        """Read beside the interface, with progress after half a second; None where the player cancels."""
        from concurrent.futures import ThreadPoolExecutor

        from yellow_hinge.ui.dialogs import asking

        stop = threading.Event()
        with ThreadPoolExecutor(1, thread_name_prefix="opening") as pool:
            job = pool.submit(lambda: read_data(read_bytes(path), path.name, stop.is_set))
            asking.patiently(self.window_, f"Reading {path.name}", job, stop.set)
        try:
            return job.result()
        except OvertakenError:
            return None

    def show_report(self, name: str, report: tuple[str, ...]) -> None:
        """What an import left out, guessed or kept unused."""
        from yellow_hinge.ui.dialogs import asking

        asking.report(self.window_, name, report)

    def open_named(self, name: str) -> bool:
        """Open a path or "demo:NAME"."""
        if not name.startswith(DEMO):
            return self.open_path(Path(name))
        try:
            self.open_demo(name.removeprefix(DEMO))
        except UserError as error:
            self.show_fault(error)
            return False
        return True

    def open_demo(self, name: str = FIRST) -> None:
        """Open a song that ships with the program. Raises FileFault."""
        self.desk.open(self._file(demo_song(name)), None, demo_text(name))

    def show_fault(self, error: UserError) -> None:
        """A fault of the input in a plain dialog."""
        from yellow_hinge.ui.dialogs import asking

        asking.fault(self.window_, str(error))

    def may_leave(self) -> bool:
        """Ask about work that is not saved; False when the player wants to stay."""
        if not self.desk.changed:
            return True
        from yellow_hinge.ui.dialogs import asking

        answer = asking.leaving(self.window_, self.desk.state.song.title)
        return self.save() if answer == "save" else answer == "discard"

    # --- commands ---
    def new(self) -> None:
        """Begin an empty song."""
        if self.may_leave():
            self.desk.open(self._file(Song()), None)

    def open(self) -> None:
        """Ask for a file and open it."""
        if self.may_leave():
            from yellow_hinge.ui.dialogs import asking

            name = asking.file_to_open(self.window_, self._folder(), OPEN_KINDS)
            if name:
                self.open_path(Path(name))

    def demo(self, name: str = FIRST) -> None:
        """Open a song that ships with the program, the main one where none is named."""
        if self.may_leave():
            self.open_demo(name)

    def fill_shipped(self, menu: QMenu) -> None:
        """List the songs that ship in a menu, once it is looked at."""
        if menu.isEmpty():
            for name in demo_names():
                menu.addAction(demo_title(name), lambda name=name: self.demo(name))

    def save(self) -> bool:
        """Save to the song's file, asking where when it has none. Whether it was saved."""
        return self._save_to(self.desk.path) if self.desk.path else self.save_as()

    def save_as(self) -> bool:
        """Ask for a file and save to it. Whether it was saved."""
        from yellow_hinge.ui.dialogs import asking

        proposed = self.desk.path or Path(self._folder()) / f"{self.desk.state.song.title}{ENDING}".replace("/", "-")
        name, _ = asking.file_to_write(self.window_, "Save the song", str(proposed), SAVE_KIND)
        if not name:
            return False
        path = Path(name)
        return self._save_to(path if path.suffix else path.with_suffix(ENDING))

    def _save_to(self, path: Path) -> bool:
        try:
            self.desk.save(path)
        except FileFault as error:
            self.show_fault(error)
            return False
        self.say(f"Saved {path.name}.")
        return True

    def export(self) -> None:
        """Ask for a file and export to it, the kind by its ending."""
        from yellow_hinge.ui.dialogs import asking

        kinds = ";;".join(f"{ending[1:].upper()} (*{ending})" for ending in (".mid", ".txt", ".cho", ".csv", ".json"))
        proposed = str(Path(self._folder()) / self.desk.state.song.title.replace("/", "-"))
        name, kind = asking.file_to_write(self.window_, "Export", proposed, kinds)
        if name:
            from yellow_hinge.io.export import WRITERS

            path = Path(name)
            ending = kind[kind.find("*") + 1 :].rstrip(")")
            self.export_to(path if path.suffix.lower() in WRITERS else path.with_name(path.name + ending))

    def export_to(self, path: Path) -> bool:
        """Export to a file. Whether it went well."""
        if self.desk.solution is None:
            self.say("There is nothing to export yet.")
            return False
        from yellow_hinge.io.export import export  # seldom needed, so not at start

        try:
            export(path, self.desk.solved_state.song, self.desk.solution)
        except FileFault as error:
            self.show_fault(error)
            return False
        self.say(f"Exported {path.name}.")
        return True

    def _folder(self) -> str:
        return str(self.desk.path.parent if self.desk.path else Path.home())
