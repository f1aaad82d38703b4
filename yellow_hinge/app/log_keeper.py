"""The practice log beside the interface: one thread writes and reads it, so that no key waits for the disk."""

from __future__ import annotations

import threading
from collections.abc import Callable
from queue import SimpleQueue
from typing import Any, NamedTuple

from yellow_hinge.app.practice_log import PracticeLog
from yellow_hinge.core.errors import UserError


class Kept(NamedTuple):
    """The answer to a question: its name and what was found, or why it could not be."""

    name: str
    found: Any
    fault: str = ""


class LogKeeper:
    """Opens the log with the first thing that is asked of it; `tell` hears a Kept for each, from a thread."""

    def __init__(self, open_log: Callable[[], PracticeLog], tell: Callable[[Kept], None]) -> None:
        self.open_log, self._tell = open_log, tell
        self._queue: SimpleQueue[tuple[str, Callable[[PracticeLog], Any]] | None] = SimpleQueue()
        self._thread: threading.Thread | None = None

    def ask(self, name: str, work: Callable[[PracticeLog], Any]) -> None:
        """Do something with the log, after what was asked before."""
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, name="practice log")
            self._thread.start()
        self._queue.put((name, work))

    def _run(self) -> None:
        log: PracticeLog | None = None
        while (asked := self._queue.get()) is not None:
            name, work = asked
            try:
                if log is None:
                    log = self.open_log()
                    if log.set_aside is not None:
                        self._tell(Kept("damaged", log.set_aside.name))
                self._tell(Kept(name, work(log)))
            except UserError as error:
                self._tell(Kept(name, None, str(error)))
        if log is not None:
            log.close()

    def close(self) -> None:
        """Do what was asked, then close the log; it may be used again after that."""
        if self._thread is not None:
            self._queue.put(None)
            self._thread.join()
            self._thread = None
