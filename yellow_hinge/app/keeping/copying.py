"""Keeping the open song's copy beside the interface: every edit is on disk within a second, however fast they come."""

from __future__ import annotations

import threading
import traceback
from collections.abc import Callable
from typing import Any, NamedTuple

from yellow_hinge.app.keeping.sessions import Session
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.songs.migrations import SongFile

PAUSE, PATIENCE = 0.25, 1.0  # seconds between two copies (an edit never puts one off), and until one is tried again


class _Due(NamedTuple):
    """What is to be written: the chart's text, what makes the song's file, whether the copy goes, and which file is
    open, with its digest as it is known.
    """

    text: str | None = None
    make: Callable[[], SongFile] | None = None
    drop: bool = False
    path: str | None = None
    known: str | None = None


class Copier:
    """Writes the newest of what it is given, from a thread of its own. `failed` hears what cannot be written; it is
    tried again until it can.
    """

    def __init__(self, session: Session, failed: Callable[[str], None]) -> None:
        self._session, self._failed = session, failed
        self._lock, self._writing = threading.Lock(), threading.Lock()
        self._due, self._ended = threading.Event(), threading.Event()
        self._next = _Due()
        self._said = ""
        self._safe: list[Callable[[], object]] = []
        self._thread: threading.Thread | None = None

    def keep_text(self, text: str) -> None:
        """The chart was typed in, and is not read yet."""
        self._put(text=text, drop=False)

    def keep(self, make: Callable[[], SongFile], text: str, path: str, known: str | None = None) -> None:
        """The song changed; `make` gives its file, in the thread."""
        self._put(make=make, text=text, path=path, known=known, drop=False)

    def drop(self, path: str, known: str | None = None) -> None:
        """Nothing is unsaved."""
        self._put(make=None, text=None, path=path, known=known, drop=True)

    def when_safe(self, do: Callable[[], object]) -> None:
        """Do something once all that was given until now is on disk."""
        with self._lock:
            self._safe.append(do)
        self._start()

    def _put(self, **fields: Any) -> None:
        with self._lock:
            self._next = self._next._replace(**fields)
        self._start()

    def flush(self) -> bool:
        """Write what is due now; whether that went well. What cannot be written is told, and stays due."""
        with self._writing:
            with self._lock:
                due, self._next = self._next, _Due()
                safe, self._safe = self._safe, []
                self._due.clear()
            try:
                self._write(due)
                for do in safe:
                    do()
            except UserError as error:
                self._again(due, safe)
                self._tell(str(error))
                return False
            except Exception:
                from yellow_hinge.app.keeping.logbook import bug

                bug(traceback.format_exc())
                self._tell("the song could not be kept; what went wrong is in the program's log")
                with self._lock:
                    self._safe = [*safe, *self._safe]
                return False
            self._said = ""
            return True

    def _write(self, due: _Due) -> None:
        if due.text is not None:
            self._session.keep_text(due.text)
        if due.make is not None:
            self._session.keep_song(due.make())
        if due.drop:
            self._session.drop()
        if due.path is not None:
            self._session.tell_path(due.path, due.known)

    def _again(self, due: _Due, safe: list[Callable[[], object]]) -> None:
        """What could not be written stays due, but for what is newer by now."""
        with self._lock:
            new = self._next
            if new == _Due():
                self._next = due
            elif not new.drop and new.make is None:
                self._next = due._replace(text=new.text, drop=False)
            self._safe = [*safe, *self._safe]
        self._due.set()

    def _tell(self, words: str) -> None:
        if words != self._said:
            self._said = words
            self._failed(words)

    def _start(self) -> None:
        self._due.set()
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._run, name="copier", daemon=True)
            self._thread.start()

    def _run(self) -> None:
        while not self._ended.is_set():
            self._due.wait()
            if self._ended.is_set():
                return
            went_well = self.flush()
            self._ended.wait(PAUSE if went_well else PATIENCE)

    def close(self) -> None:
        """The window closes as it should: no copy is needed."""
        self._ended.set()
        self._due.set()
        if self._thread is not None:
            self._thread.join()
        self._session.close()
