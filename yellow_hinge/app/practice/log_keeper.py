"""The practice log beside the interface: one thread writes and reads it, so that no key waits for the disk."""

from __future__ import annotations

import threading
import time
import traceback
from collections import deque
from collections.abc import Callable
from typing import Any, NamedTuple

from yellow_hinge.app.keeping.logbook import bug
from yellow_hinge.app.practice.log import BusyError, PracticeLog
from yellow_hinge.core.errors import UserError

PAUSE, LAST_TRIES = 1.0, 3  # seconds until something is tried again, and how often at the end
Asked = tuple[str, Callable[[PracticeLog], Any]]


class LogAnswer(NamedTuple):
    """The answer to a question: its name and what was found, or why it could not be."""

    name: str
    found: Any
    fault: str = ""


class LogKeeper:
    """Opens the log with the first thing that is asked of it; `tell` hears a LogAnswer for each, from a thread. What
    cannot be done now waits and is tried again, in its order; a thread that failed is started again with what waits.
    """

    def __init__(
        self, open_log: Callable[[], PracticeLog], tell: Callable[[LogAnswer], None], pause: float = PAUSE
    ) -> None:
        self.open_log, self._tell, self._pause = open_log, tell, pause
        self._work: deque[Asked] = deque()
        self._due, self._ended = threading.Event(), threading.Event()
        self._log: PracticeLog | None = None
        self._said = ""  # what was told last of why things wait
        self._thread: threading.Thread | None = None

    @property
    def waiting(self) -> int:
        """How many things wait to be done."""
        return len(self._work)

    def ask(self, name: str, work: Callable[[PracticeLog], Any]) -> None:
        """Do something with the log, after what was asked before."""
        self._work.append((name, work))
        self._due.set()
        if self._thread is None or not self._thread.is_alive():
            self._ended.clear()
            self._thread = threading.Thread(target=self._run, name="practice log")
            self._thread.start()

    def _run(self) -> None:
        last_tries = LAST_TRIES
        while True:
            self._due.wait()
            self._due.clear()
            while self._work and self._done_now():
                pass
            if self._ended.is_set() and (not self._work or last_tries == 0):
                break
            last_tries -= self._ended.is_set()
            if self._work:  # something waits
                time.sleep(self._pause) if self._ended.is_set() else self._ended.wait(self._pause)
                self._due.set()
        if self._work:
            self._tell(LogAnswer("lost", None, f"{len(self._work)} things could not be written into the practice log"))
            self._work.clear()
        if self._log is not None:
            self._log.close()
            self._log = None

    def _done_now(self) -> bool:
        """Do what was asked first; whether it need not wait."""
        name, work = self._work[0]
        try:
            if self._log is None:
                self._log = self.open_log()
                if self._log.set_aside is not None:
                    self._tell(LogAnswer("damaged", self._log.set_aside.name))
            answer = LogAnswer(name, work(self._log))
            if self._log.skipped:
                self._tell(LogAnswer("skipped", self._log.skipped))
                self._log.skipped = 0
        except BusyError as error:
            if str(error) != self._said:
                self._said = str(error)
                self._tell(
                    LogAnswer("waits", None, f"{error}. What was played waits and is written as soon as it can be.")
                )
            return False
        except UserError as error:
            answer = LogAnswer(name, None, str(error))
        except Exception:
            bug(traceback.format_exc())
            answer = LogAnswer(name, None, "the practice log failed; what went wrong is in the program's log")
        self._said = ""
        self._work.popleft()
        self._tell(answer)
        return True

    def close(self) -> None:
        """Do what was asked, then close the log; it may be used again after that."""
        if self._thread is not None:
            self._ended.set()
            self._due.set()
            self._thread.join()
            self._thread = None
