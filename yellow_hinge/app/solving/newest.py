"""Work beside the interface: one worker with its tables, and of several questions only the newest is answered."""

from __future__ import annotations

import threading
from collections.abc import Callable
from queue import SimpleQueue
from typing import Generic, NamedTuple, TypeVar

from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.core.leading.chain.lattice import Builder

A = TypeVar("A")


class Bug(NamedTuple):
    """The answer to question `number` where the work on it failed: it has to reach the window and the log."""

    number: int
    error: Exception


class Newest(Generic[A]):
    """Answers, or tells a Bug, through `tell` from the worker's thread; a question that a newer one overtakes is
    dropped, also while it is worked on.
    """

    def __init__(self, tell: Callable[[A | Bug], None], name: str) -> None:
        self._tell = tell
        self._builder = Builder()
        self._builder.overtaken = lambda: self._working != self.asked
        self._name = name
        self._queue: SimpleQueue[tuple[int, Callable[[Builder, int], A]] | None] = SimpleQueue()
        self._thread: threading.Thread | None = None  # started with the first question
        self._lock = threading.Lock()
        self._working = 0
        self.asked = 0  # the newest question's number

    def put(self, work: Callable[[Builder, int], A]) -> int:
        """Put a question to the worker, which calls `work` with its builder and the question's number; that number."""
        number = self._next()
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, name=self._name, daemon=True)
            self._thread.start()
        self._queue.put((number, work))
        return number

    def _run(self) -> None:
        while (question := self._queue.get()) is not None:
            self._answer(*question)

    def forget(self) -> None:
        """Want no answer any more."""
        self._next()

    def _next(self) -> int:
        with self._lock:
            self.asked += 1
            return self.asked

    def _answer(self, number: int, work: Callable[[Builder, int], A]) -> None:
        if number != self.asked:
            return
        self._working = number
        try:
            found: A | Bug = work(self._builder, number)
        except OvertakenError:
            return
        except Exception as error:
            found = Bug(number, error)
        self._tell(found)
        if not isinstance(found, Bug):
            self.go_on(found, number)

    def go_on(self, found: A, number: int) -> None:
        """Work out, after an answer was told, what will be asked of it; nothing, where nobody says more."""

    def close(self) -> None:
        """Stop what is worked on and drop the rest."""
        self._next()
        if self._thread is not None:
            self._queue.put(None)
            self._thread.join()
            self._thread = None
