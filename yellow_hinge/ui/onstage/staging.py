"""Going on stage, with the open song or with tonight's set, and coming back; after a crash one is there again."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer
from PySide6.QtWidgets import QWidget

from yellow_hinge.app.edits.state import alone
from yellow_hinge.app.keeping.settings import ONSTAGE
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.parts.shell import Shell

if TYPE_CHECKING:  # loaded with the first stage
    from yellow_hinge.app.solving.book.sets import SetSong, SongSet, Tonight
    from yellow_hinge.core.onstage.asks import StageAsk
    from yellow_hinge.ui.onstage.screen import StageScreen
    from yellow_hinge.ui.onstage.working import Programme

NOTHING = "There is nothing to go on stage with: the song has no chords yet."


class Staging(QObject):
    """Puts songs on stage; there is one stage at a time."""

    def __init__(self, window: QWidget, shell: Shell) -> None:
        super().__init__(window)
        self.window_, self.shell = window, shell
        self.screen: StageScreen | None = None

    # --- going there ---
    def go_song(self) -> None:
        """The open song, from the line of the selected chord."""
        from yellow_hinge.app.onstage.making import Entry
        from yellow_hinge.app.onstage.mark import StageMark
        from yellow_hinge.ui.onstage.working import Programme

        desk = self.shell.desk
        solution = desk.solution
        if solution is None or not solution.voicings:
            self.shell.teller.say(NOTHING)
            return
        state = desk.state
        song, title = StageMark(self.shell.state).song, state.song.title or "this song"
        entry = Entry(song, title, alone(state), solution, state)
        here = solution.voicings[desk.selection.index].here.quarter
        self._ask(Programme((entry,), self.shell.state, own=state), title, here=here)

    def go_set(self, songs: SongSet, folder: Path, row: Sequence[Tonight], at: int) -> None:
        """Tonight's set from a song of it on; those that were solved already are known."""
        from yellow_hinge.app.onstage.making import Entry, entry_of
        from yellow_hinge.ui.onstage.working import Programme

        def entry(song: SetSong) -> Entry:
            own = next((own for own in row if own.song == song and own.state is not None), None)
            return entry_of(own) if own is not None else Entry(song, Path(song.path).stem)

        count = len(songs.songs)
        if count:
            words = f"{count} songs of {songs.title}" if count > 1 else "one song"
            self._ask(Programme(tuple(map(entry, songs.songs)), folder, songs.title), words, max(0, at))

    def _ask(self, programme: Programme, words: str, at: int = 0, here: Fraction | None = None) -> None:
        from yellow_hinge.ui.onstage.dialog import StageDialog

        dialog = StageDialog(self.window_, pretty_signs(words), self.shell.preferences.settings.stage)
        heard = lambda data, name, when: dialog.message(bytes(data))  # noqa: E731
        self.shell.live.message.connect(heard)
        chosen = dialog.exec()
        self.shell.live.message.disconnect(heard)
        if chosen:
            self.shell.preferences.put(stage=dialog.wanted)
            self.show(programme, dialog.wanted, at, here=here)

    def show(
        self, programme: Programme, ask: StageAsk, at: int = 0, line: int = 0, here: Fraction | None = None
    ) -> None:
        """Be on stage with a song of a programme, from a line of it, or from where so many quarter notes are played."""
        from yellow_hinge.app.onstage.mark import StageMark
        from yellow_hinge.ui.onstage.screen import StageScreen
        from yellow_hinge.ui.onstage.working import OnStage

        if self.screen is not None:
            return
        shell = self.shell
        shell.listening.stop()
        stage = OnStage(
            self, programme, ask, shell.desk.simple_names, shell.listening.player, StageMark(shell.state, programme.own)
        )
        self.screen = StageScreen(stage)
        shell.live.message.connect(self._heard)
        self.screen.left.connect(self._left)
        self.screen.setGeometry(self.window_.screen().geometry())
        self.screen.showFullScreen()
        stage.begin(at, line, here)

    def _heard(self, data: bytes, name: str, when: float) -> None:
        if self.screen is not None:
            self.screen.message(bytes(data))

    def _left(self) -> None:
        screen, self.screen = self.screen, None
        self.shell.live.message.disconnect(self._heard)
        if screen is not None:
            screen.deleteLater()
        self.window_.activateWindow()

    # --- coming back ---
    def resume(self) -> None:
        """Be on stage again where the program ended there."""
        from yellow_hinge.app.onstage.making import Entry
        from yellow_hinge.app.onstage.mark import StageMark
        from yellow_hinge.ui.onstage.working import Programme

        mark = StageMark(self.shell.state).read()
        if mark is not None:
            entries = tuple(Entry(song, Path(song.path).stem) for song in mark.songs.songs)
            programme = Programme(entries, Path(mark.folder), mark.songs.title)
            self.show(programme, self.shell.preferences.settings.stage, mark.at, mark.line)

    def look(self) -> None:
        """See soon whether the program ended on stage."""
        if (self.shell.state / ONSTAGE).exists():
            QTimer.singleShot(0, self, self.resume)

    def close(self) -> None:
        """The window closes: the stage is left."""
        if self.screen is not None:
            self.screen.close()


# fmt: off
COMMANDS: Commands[Staging] = Commands(Staging, (
    Command("stage", "View", "On stage…", ("F11",), "Very large, full screen, turned by a foot switch or by itself",
            lambda staging: staging.go_song()),
))
# fmt: on
