"""Saving and exporting with the player's answers from dialogs: nothing is written over unasked. Dialogs and writers
load when they are first needed, so that the window opens sooner.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QMenu, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.document import ENDING, OLD_ENDING
from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.files import FileFault, digest, is_there, same_file
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.telling import Teller

if TYPE_CHECKING:
    from yellow_hinge.app.edits.state import State
    from yellow_hinge.app.keeping.versions import Version
    from yellow_hinge.core.sheet.page import Page
    from yellow_hinge.io.formats import Wants
    from yellow_hinge.io.songs.migrations import SongFile

OVER, OTHER = "Write over it", "Another name…"
BEFORE, THERE = "Export the song before it", "Go there"
THEIRS, COPY = "Open what is there", "Save a copy…"


class Saving(QObject):
    """The song's way to the disk. `theirs` asks for a file to be opened in the place of the song, `mistake` for the
    chart's first mistake to be shown, `saved` tells where the song was saved.
    """

    saved = Signal(object)

    theirs = Signal(object)
    mistake = Signal()

    def __init__(
        self, desk: Desk, window: QWidget, teller: Teller, places: Places, wants: Callable[[], tuple[bool, SheetAsk]]
    ) -> None:
        super().__init__(window)
        self.desk, self.window_, self.teller, self.places = desk, window, teller, places
        self._wants = wants  # whether a click is exported too, and what exported sheets are like
        self.source: Path | None = None  # the file that an imported song was read from
        self.known: str | None = None  # what the song's own file held when it was last read or written

    def begin(self, source: Path | None, known: str | None = None) -> None:
        """Another song is open, read from a file with that digest."""
        self.source, self.known = source, known

    def may_leave(self) -> bool:
        """Ask about work that is not saved; False when the player wants to stay."""
        if not self.desk.document.changed:
            return True
        from yellow_hinge.ui.dialogs import asking

        answer = asking.leaving(self.window_, self.desk.state.song.title)
        return self.save() if answer == "save" else answer == "discard"

    # --- saving ---
    def save(self) -> bool:
        """Save to the song's file, asking where when it has none. Whether it was saved."""
        path = self.desk.document.path
        if path is None:
            return self.save_as()
        if path.suffix.lower() == OLD_ENDING:
            return self._save_beside(path)
        if is_there(path) and digest(path) != self.known:
            return self._differs(path)
        return self._save_to(path)

    def _save_beside(self, path: Path) -> bool:
        """A song of an earlier kind goes to a file beside it."""
        from yellow_hinge.ui.dialogs import asking

        new = path.with_suffix(ENDING)
        words = f"Songs end in {ENDING} now. This one is saved as {new.name}; {path.name} stays as it is."
        if is_there(new):
            words += f" {new.name} is there already and would be written over."
        answer = asking.choose(self.window_, words, [OVER if is_there(new) else "Save", OTHER])
        if answer == OTHER:
            return self.save_as()
        return bool(answer) and self._save_to(new)

    def _differs(self, path: Path) -> bool:
        """The file is another one than this window knows: somebody else saved it."""
        from yellow_hinge.ui.dialogs import asking

        words = f"{path.name} was changed by something else since it was opened or saved here."
        answer = asking.choose(self.window_, words, [OVER, COPY, THEIRS])
        if answer == COPY:
            return self.save_as()
        if answer == THEIRS:
            self.theirs.emit(path)
            return False
        return answer == OVER and self._save_to(path)

    def save_as(self) -> bool:
        """Ask for a file and save to it. Whether it was saved."""
        proposed = (
            self.desk.document.path.with_suffix(ENDING)
            if self.desk.document.path
            else Path(self.folder()) / self._name(ENDING)
        )
        path = self._ask_target("Save the song", proposed, {ENDING: "Song"}, self._why_not_save)
        return path is not None and self._save_to(path)

    def _why_not_save(self, path: Path) -> str:
        """What a song would be written over, "" for its own file as it is known here."""
        if self.desk.document.path is None or not same_file(path, self.desk.document.path):
            return "This is there already."
        return (
            "" if digest(path) == self.known else "It was changed by something else since it was opened or saved here."
        )

    def _save_to(self, path: Path) -> bool:
        try:
            data = self.desk.document.save(path)
        except FileFault as error:
            self._fault(error)
            return False
        self.source, self.known = None, digest(path)
        self.teller.say(f"Saved {path.name}.")
        self.saved.emit(path)
        from yellow_hinge.app.keeping.versions import keep_version

        try:
            keep_version(self.places, self.desk.document.own, data, datetime.now(UTC))
        except FileFault as error:
            self.teller.tell(f"Saved {path.name}, but not among its earlier versions: {error}")
        return True

    # --- earlier versions ---
    def fill_versions(self, menu: QMenu) -> None:
        """List the song's saved versions in a menu."""
        from yellow_hinge.app.keeping.versions import versions

        menu.clear()
        for version in versions(self.places, self.desk.document.own):
            when = version.when.astimezone().strftime("%d %b %Y, %H:%M:%S")
            menu.addAction(when, lambda version=version, when=when: self._back_to(version, when))
        if menu.isEmpty():
            menu.addAction("None yet: each Save keeps one").setEnabled(False)

    def _back_to(self, version: Version, when: str) -> None:
        from yellow_hinge.app.keeping.versions import read_version

        try:
            self.desk.document.put_version(f"go back to the version of {when}", read_version(version))
        except UserError as error:
            self._fault(error)
            return
        self.teller.say(f"This is the version of {when}. Undo brings back what was here.")

    # --- exporting ---
    def export(self, kind: str = "") -> None:
        """Ask for a file and export to it, the kind by its ending; of one kind where an ending is given."""
        if not self._ready():
            return
        from yellow_hinge.io.formats import WRITERS

        kinds = {ending: each.name for ending, each in WRITERS.items() if kind in ("", ending)}
        path = self.ask_export(self._name(""), kinds)
        if path is not None:
            self.export_to(path, asked=True)

    def _ready(self) -> bool:
        """Whether there is a song to export whose hands are found; a mistake in the chart is asked about."""
        from yellow_hinge.ui.dialogs import asking

        desk = self.desk
        if not desk.song.sections:
            self.teller.tell("There is nothing to export yet.")
            return False
        if desk.document.reading.faults:
            line = desk.document.reading.faults[0].line
            words = f"The chart has a mistake in line {line}. What can be exported is the song before it."
            answer = asking.choose(self.window_, words, [BEFORE, THERE])
            if answer == THERE:
                self.mistake.emit()
            if answer != BEFORE:
                return False
        if desk.answers.solving:
            cancelled: list[bool] = []
            asking.patiently(
                self.window_, "Finding the hands", lambda: bool(cancelled) or not desk.answers.solving,
                lambda: cancelled.append(True),
            )  # fmt: skip
        if not desk.solved:
            self.teller.tell(f"Nothing was exported. {desk.answers.fault}")
        return desk.solved

    def _why_not_export(self, path: Path) -> str:
        from yellow_hinge.io.export import WouldOverwriteError, check_target

        try:
            check_target(path, self.desk.document.path or self.source)
        except WouldOverwriteError as error:
            return f"{error.why[:1].upper()}{error.why[1:]}."
        return "This is there already."

    def export_to(self, path: Path, asked: bool = False) -> bool:
        """Export to a file; over a song only where the player was asked. Whether it went well."""
        if not asked and not self._ready():
            return False
        from yellow_hinge.app.edits.state import file_of
        from yellow_hinge.io.export import export  # seldom needed, so not at start

        assert self.desk.solution is not None
        file, solution = file_of(self.desk.state, self.desk.document.reading), self.desk.solution
        source = self.desk.document.path or self.source
        without = self._left_out(file, path)
        return self._exported(path, lambda wants: export(path, file, solution, source, asked, wants), without)

    def _left_out(self, file: SongFile, path: Path) -> tuple[str, ...]:
        from yellow_hinge.io.formats import WRITERS
        from yellow_hinge.io.songs.leaving import left_out

        kind = WRITERS.get(path.suffix.lower())
        return left_out(file, kind.id, self._wants()[1]) if kind else ()

    def export_other(self, state: State, name: str) -> None:
        """Ask for a file and export another song than the open one to it, such as the mix, solved for that."""
        if not self._ready():
            return
        from yellow_hinge.io.formats import WRITERS

        path = self.ask_export(name, {ending: kind.name for ending, kind in WRITERS.items()})
        if path is not None:
            self.export_state(path, state)

    def write_song(self, state: State) -> bool:
        """Ask for a file and write another song than the open one to it, as a song. Whether it was written."""
        from yellow_hinge.app.edits.state import file_of
        from yellow_hinge.io.files import write_atomic
        from yellow_hinge.io.songs.song_json import to_json

        title = state.song.title.replace("/", "-").replace("\0", "").strip()[:80] or "Song"
        proposed = Path(self.folder()) / f"{title}{ENDING}"
        path = self._ask_target(
            "Save as a song of its own", proposed, {ENDING: "Song"}, lambda _: "This is there already."
        )
        if path is None:
            return False
        try:
            write_atomic(path, to_json(file_of(state)))
        except FileFault as error:
            self._fault(error)
            return False
        self.teller.say(f"Saved {path.name}.")
        return True

    def ask_export(self, name: str, kinds: dict[str, str]) -> Path | None:
        """A file to export to, of one of some kinds (names by ending)."""
        name = name.replace("/", "-").replace("\0", "").strip()[:80] or "Song"
        return self._ask_target("Export", Path(self.folder()) / name, kinds, self._why_not_export)

    def export_pages(self, path: Path, pages: tuple[Page, ...]) -> bool:
        """Write pages to a file, or to a file each; whether it went well."""
        from yellow_hinge.io.export import export_pages

        title, source = self.desk.state.song.title, self.desk.document.path or self.source
        return self._exported(path, lambda wants: export_pages(path, title, pages, source, True, wants.told))

    def export_state(self, path: Path, state: State) -> bool:
        """Solve a state and export it to a file; whether it went well."""
        from yellow_hinge.app.edits.state import file_of
        from yellow_hinge.app.solving.solver import answer
        from yellow_hinge.core.leading.chain.lattice import Builder
        from yellow_hinge.io.export import export

        source = self.desk.document.path or self.source

        def work(wants: Wants) -> None:
            found = answer(Builder(), 0, state)
            if found.solution is None:
                raise FileFault(str(path), found.fault)
            export(path, file_of(state), found.solution, source, True, wants)

        return self._exported(path, work)

    def _exported(self, path: Path, work: Callable[[Wants], object], without: tuple[str, ...] = ()) -> bool:
        """Whether some work wrote a file; what was wrong, that it was not wanted any more, or what the file is without,
        is said.
        """
        try:
            self._worked(path.name, work)
        except FileFault as error:
            self._fault(error)
            return False
        except OvertakenError:
            self.teller.tell(f"{path.name} was not written.")
            return False
        more = f" Left out: {', '.join(without)}." if without else ""
        self.teller.say(f"Exported {path.name}.{more}")
        return True

    def _worked(self, name: str, work: Callable[[Wants], object]) -> None:
        """Do what may take long beside the interface, with progress and a way to stop it. Raises what it raises."""
        from yellow_hinge.io.formats import Wants
        from yellow_hinge.ui.dialogs import asking

        ended: list[Exception | None] = []
        stopped: list[bool] = []
        share = [0.0]

        def told(done: float) -> bool:
            share[0] = done
            return bool(stopped)

        def run() -> None:
            try:
                work(Wants(*self._wants(), self.desk.simple_names, told=told))
                ended.append(None)
            except Exception as error:
                ended.append(error)

        threading.Thread(target=run, name="exporting").start()
        asking.patiently(
            self.window_, f"Writing {name}", lambda: bool(ended), lambda: stopped.append(True), lambda: share[0]
        )
        if ended[0] is not None:
            raise ended[0]

    # --- asking for names ---
    def _ask_target(
        self, heading: str, proposed: Path, kinds: dict[str, str], why_not: Callable[[Path], str]
    ) -> Path | None:
        """A file to write to, of one of the kinds (names by ending). Its ending is added before it is asked whether to
        write over what is there.
        """
        from yellow_hinge.ui.dialogs import asking

        filters = ";;".join(f"{name} (*{ending})" for ending, name in kinds.items())
        while True:
            name, kind = asking.file_to_write(self.window_, heading, str(proposed), filters)
            if not name:
                return None
            ending = kind[kind.find("*") + 1 :].rstrip(")")
            path = Path(name) if Path(name).suffix.lower() in kinds else Path(name + ending)
            why = why_not(path) if is_there(path) else ""
            answer = asking.choose(self.window_, f"{path.name}: {why} Write over it?", [OVER, OTHER]) if why else OVER
            if answer != OTHER:
                return path if answer == OVER else None
            proposed = path

    def _name(self, ending: str) -> str:
        return (self.desk.state.song.title.replace("/", "-").replace("\0", "").strip()[:80] or "Song") + ending

    def folder(self) -> str:
        """Where dialogs begin."""
        beside = self.desk.document.path or self.source
        return str(beside.parent if beside else Path.home())

    def _fault(self, error: UserError) -> None:
        from yellow_hinge.ui.dialogs import asking

        asking.fault(self.window_, str(error))


# fmt: off
COMMANDS: Commands[Saving] = Commands(Saving, (
    Command("save", "Song", "Save", ("Ctrl+S",), "Save the song to its file", lambda saving: saving.save()),
    Command("save_as", "Song", "Save as…", ("Ctrl+Shift+S",), "Save the song to another file",
            lambda saving: saving.save_as()),
    Command("export", "Song", "Export…", ("Ctrl+E",), "Write MIDI, a table or a text sheet",
            lambda saving: saving.export()),
))
# fmt: on
