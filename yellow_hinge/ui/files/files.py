"""Opening songs with the player's answers from dialogs. Faults are shown, never swallowed. Dialogs load when they are
first needed, so that the window opens sooner.
"""

from __future__ import annotations

import threading
from collections.abc import Mapping
from functools import partial
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.document import NEW_CHART
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.app.edits.takes import with_players
from yellow_hinge.app.keeping.settings import Places, Settings, load_settings
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.asking.setup import new_setup
from yellow_hinge.core.song.song import Song
from yellow_hinge.io.files import digest, read_bytes
from yellow_hinge.io.imported import NOTHING_ASKED, Opened
from yellow_hinge.io.songs.demo import FIRST, demo_file, demo_names, demo_title
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.paint.controls import READ_AS
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.telling import GOOD, Teller


class _Read(NamedTuple):
    """A song that was read, and the digest of its file."""

    opened: Opened
    digest: str | None


class Files(QObject):
    """The song's way from the disk. `opened` tells which file is open now, `begun` that a new song is, `many` which
    files are to be reported on.
    """

    opened = Signal(object)
    begun = Signal()
    many = Signal(object)

    def __init__(
        self, desk: Desk, window: QWidget, teller: Teller, preferences: Preferences, saving: Saving, places: Places
    ) -> None:
        super().__init__(window)
        self.desk, self.window_, self.teller, self.saving = desk, window, teller, saving
        self._preferences = preferences  # with the player's own hands and manner, for songs that have none saved
        self._places = places
        saving.theirs.connect(self.open_path)

    @property
    def _settings(self) -> Settings:
        return self._preferences.settings

    @property
    def recent(self) -> tuple[str, ...]:
        """The songs that were open last in this window."""
        return self._settings.recent

    def last_songs(self) -> tuple[str, ...]:
        """The songs that were open last, in any window."""
        return self._preferences.last_songs(load_settings(self._places).recent)

    def _file(self, song: Song) -> SongFile:
        """A new file of a song, with the player's hands and manner."""
        settings = self._settings
        return song_file(song, setup=new_setup(self._preferences.player, settings.manner, song))

    def open_path(self, path: Path, wanted: str = "", asks: Mapping[str, str] = NOTHING_ASKED) -> bool:
        """Open a file, as the kind of text that is `wanted` and as the player chose it (`asks`); what was open stays
        when it cannot be read. Whether it went well.
        """
        try:
            read = self._patiently(path, wanted, asks)
            if read is None:
                self.teller.say(f"{path.name} was not opened.")
                return False
            opened = read.opened
            self.saving.begin(None if opened.own else path, read.digest)
            own = path if opened.own else None
            self.desk.document.open(opened.file, own, opened.text, "" if opened.own else f"file:{read.digest}")
        except UserError as error:
            self.show_fault(error)
            return False
        anew = opened.own and not opened.file.hands
        more = " It does not remember its hands yet: they were found anew." if anew else ""
        self.teller.say(f"Opened {path.name}.{more}")
        self.opened.emit(path)
        return self._report(path, opened)

    def _report(self, path: Path, opened: Opened) -> bool:
        """Say what was found in a file that was opened; it may be opened as another kind of text then."""
        if len(opened.report) == 1 and opened.kind == "chart" and not opened.own:  # shown where it is, too
            self.teller.news.tell(f"{path.name}: {opened.report[0]}.", {READ_AS: partial(self._read_as, path), **GOOD})
        elif opened.report:
            asks, kind = self.show_report(path.name, opened)
            return self.open_path(path, kind or opened.kind, asks) if asks or kind else True
        return True

    def _read_as(self, path: Path) -> None:
        """Read a text that was taken for a chart as something else."""
        from yellow_hinge.io.formats import BY_ID, TEXTS
        from yellow_hinge.ui.dialogs import asking

        others = {BY_ID[each].name: each for each in TEXTS if each != "chart"}
        kind = others.get(asking.choose(self.window_, f"Read {path.name} as", list(others)), "")
        if kind and self.saving.may_leave():
            self.open_path(path, kind)

    def _patiently(self, path: Path, wanted: str, asks: Mapping[str, str]) -> _Read | None:
        """Read beside the interface, with progress after half a second; None where the player cancels."""
        from concurrent.futures import ThreadPoolExecutor

        from yellow_hinge.io.opening import read_data
        from yellow_hinge.ui.dialogs import asking

        stop = threading.Event()

        def read() -> _Read:
            data = read_bytes(path)
            opened = read_data(data, path.name, stop.is_set, drafts=True, wanted=wanted, asks=asks)
            return _Read(opened, digest(path))

        with ThreadPoolExecutor(1, thread_name_prefix="opening") as pool:
            job = pool.submit(read)
            asking.patiently(self.window_, f"Reading {path.name}", job.done, stop.set)
        try:
            return job.result()
        except OvertakenError:
            return None

    def show_report(self, name: str, opened: Opened) -> tuple[Mapping[str, str], str]:
        """What an import left out, guessed or kept unused; what the player wants otherwise."""
        from yellow_hinge.io.formats import BY_ID, TEXTS
        from yellow_hinge.ui.dialogs.looked_over import look_over

        kinds = [each for each in TEXTS if each != opened.kind] if opened.kind in TEXTS else []
        others = {BY_ID[each].name: each for each in kinds}
        asks, kind = look_over(self.window_, name, opened.report, opened.offers, tuple(others))
        return asks, others.get(kind, "")

    def open_named(self, name: str) -> bool:
        """Open a path or "demo:NAME"."""
        from yellow_hinge.io.opening import DEMO

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
        file, text = demo_file(name)
        if not file.others:
            self.begin(self._file(file.song), text, f"demo:{name}")
            return
        self.begin(file_of(with_players(state_of(file), self._preferences.player)))

    def begin(self, file: SongFile, text: str = "", origin: str = "") -> None:
        """Show a song that is in no file yet."""
        self.saving.begin(None)
        self.desk.document.open(file, None, text, origin)

    def show_fault(self, error: UserError) -> None:
        """A fault of the input in a plain dialog."""
        from yellow_hinge.ui.dialogs import asking

        asking.fault(self.window_, str(error))

    # --- commands ---
    def new(self) -> None:
        """Begin a song of four lines to type over, in the chart."""
        if self.saving.may_leave():
            self.begin(self._file(parse_chart(NEW_CHART)), NEW_CHART)
            self.begun.emit()

    def open(self) -> None:
        """Ask for a file and open it."""
        if self.saving.may_leave():
            from yellow_hinge.io.formats import open_kinds
            from yellow_hinge.ui.dialogs import asking

            name = asking.file_to_open(self.window_, self.saving.folder(), open_kinds())
            if name:
                self.open_path(Path(name))

    def open_many(self) -> None:
        """Ask for files, and report on all of them."""
        from yellow_hinge.io.formats import open_kinds
        from yellow_hinge.ui.dialogs import asking

        paths = asking.files_to_open(self.window_, self.saving.folder(), open_kinds())
        if paths:
            self.many.emit(paths)

    def again(self, path: Path) -> None:
        """Open a file that was open before."""
        if self.saving.may_leave():
            self.open_path(path)

    def fill_last(self, menu: QMenu) -> None:
        """List the songs that were open last in a menu."""
        menu.clear()
        for text in self.last_songs():
            path = Path(text)
            entry = menu.addAction(path.stem.replace("&", "&&"), lambda path=path: self.again(path))
            entry.setToolTip(text)
        if menu.isEmpty():
            menu.addAction("None yet").setEnabled(False)

    def demo(self, name: str = FIRST) -> None:
        """Open a song that ships with the program, the main one where none is named."""
        if self.saving.may_leave():
            self.open_demo(name)

    def fill_shipped(self, menu: QMenu) -> None:
        """List the songs that ship in a menu, once it is looked at."""
        if menu.isEmpty():
            for name in demo_names():
                menu.addAction(demo_title(name), lambda name=name: self.demo(name))


# fmt: off
COMMANDS: Commands[Files] = Commands(Files, (
    Command("new", "Song", "New", ("Ctrl+N",), "Begin an empty song", lambda files: files.new()),
    Command("open", "Song", "Open…", ("Ctrl+O",), "Open a saved song or a chart text", lambda files: files.open()),
    Command("open_many", "Song", "Many files at once…", (), "A report of all of them, and songs of them in a folder",
            lambda files: files.open_many()),
    Command("open_demo", "Song", "Open the demo song", (), "Open Last Boat to Marrow", lambda files: files.demo()),
))
# fmt: on
