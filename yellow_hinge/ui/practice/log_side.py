"""The log beside what is practised: what was played over the last weeks, and the table it is written to."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

from PySide6.QtCore import QObject

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.practice.log_keeper import LogAnswer, LogKeeper
from yellow_hinge.app.practice.runs import Run, log_csv
from yellow_hinge.app.practice.sample_log import sample_runs
from yellow_hinge.io.files import write_atomic
from yellow_hinge.ui.practice.scene import WEEKS, log_scene
from yellow_hinge.ui.practice.view import PracticeView


class LogSide(QObject):
    """Shows and writes the log; `tell` is for what must not be missed."""

    def __init__(
        self, desk: Desk, view: PracticeView, keeper: LogKeeper, tell: Callable[[str], None],
        ask_path: Callable[[], Path | None],
    ) -> None:  # fmt: skip
        super().__init__(view)
        self.desk, self.view, self.keeper, self.tell, self._ask_path = desk, view, keeper, tell, ask_path
        self.samples: frozenset[str] = frozenset()  # titles of songs that are shown with a made-up log
        view.exported.connect(self.export)
        view.log.resized.connect(self.show)

    def told(self, kept: LogAnswer) -> None:
        """What the log answered, but for what is remembered of a song."""
        if kept.fault:
            self.tell(kept.fault)
        elif kept.name == "skipped":
            rows = "1 row" if kept.found == 1 else f"{kept.found} rows"
            self.tell(f"{rows} of the practice log cannot be read; the rest is there.")
        elif kept.name == "damaged":
            self.tell(f"The practice log was damaged; it was put aside as {kept.found}.")
        elif kept.name == "runs":
            self._show_runs(*kept.found)

    def show(self) -> None:
        """Show what was practised over the last weeks."""
        if self.view.isVisible():
            first = datetime.now(UTC) - timedelta(days=7 * WEEKS)
            self.keeper.ask("runs", lambda log: (log.count(), log.runs(first)))

    def _show_runs(self, count: int, runs: list[Run]) -> None:
        now, title = datetime.now().astimezone(), self.desk.state.song.title
        made_up = not count and title in self.samples
        shown = sample_runs(title, now) if made_up else runs
        canvas = self.view.log
        canvas.show_scene(log_scene(shown, now.date(), canvas.width(), canvas.height()) if shown else None)
        words = "A made-up log, to show what yours will be." if made_up else "Nothing was practised yet."
        some = "1 chord" if count == 1 else f"{count} chords"
        self.view.log_words.setText(f"{some} so far. The log stays on this machine." if count else words)
        self.view.export.setEnabled(bool(count))

    def export(self) -> None:
        """Write the log as a table."""
        path = self._ask_path()
        if path is not None:
            self.keeper.ask("written", lambda log: write_atomic(path, log_csv(log.runs()).encode()))
