"""Keeping the open song's copy beside the interface: every edit is on disk within a second, however fast they come."""

from __future__ import annotations

import threading
from collections.abc import Callable

from yellow_hinge.app.sessions import Session
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.song_json import SongFile

PAUSE = 0.25  # seconds between two copies; an edit never puts one off


class Copier:
    """Writes the newest of what it is given, from a thread of its own. `failed` hears what cannot be written."""

    def __init__(self, session: Session, failed: Callable[[str], None]) -> None:
        self._session, self._failed = session, failed
        self._lock, self._writing = threading.Lock(), threading.Lock()
        self._due, self._ended = threading.Event(), threading.Event()
        self._text: str | None = None
        self._make: Callable[[], SongFile] | None = None
        self._path: str | None = None
        self._drop = False
        self._thread: threading.Thread | None = None

    def keep_text(self, text: str) -> None:
        """The chart was typed in, and is not read yet."""
        with self._lock:
            self._text, self._drop = text, False
        self._start()

    def keep(self, make: Callable[[], SongFile], text: str, path: str) -> None:
        """The song changed; `make` gives its file, in the thread."""
        with self._lock:
            self._make, self._text, self._path, self._drop = make, text, path, False
        self._start()

    def drop(self, path: str) -> None:
        """Nothing is unsaved."""
        with self._lock:
            self._make = self._text = None
            self._path, self._drop = path, True
        self._start()

    def flush(self) -> None:
        """Write what is due now. Raises nothing: what cannot be written is told."""
        with self._writing:
            with self._lock:
                text, make, path, drop = self._text, self._make, self._path, self._drop
                self._text = self._make = self._path = None
                self._drop = False
                self._due.clear()
            try:
                if text is not None:
                    self._session.keep_text(text)
                if make is not None:
                    self._session.keep_song(make())
                if drop:
                    self._session.drop()
                if path is not None:
                    self._session.tell_path(path)
            except UserError as error:
                self._failed(str(error))

    def _start(self) -> None:
        self._due.set()
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, name="copier", daemon=True)
            self._thread.start()

    def _run(self) -> None:
        while not self._ended.is_set():
            self._due.wait()
            if self._ended.is_set():
                return
            self.flush()
            self._ended.wait(PAUSE)

    def close(self) -> None:
        """The window closes as it should: no copy is needed."""
        self._ended.set()
        self._due.set()
        if self._thread is not None:
            self._thread.join()
        self._session.close()
