"""Writing entries beside the window: what changes in a row is written once."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

from yellow_hinge.core.errors import UserError

SETTLE = 0.4  # seconds until a change is written


class MineWriter:
    """Writes entries into a folder from a thread of its own; `failed` hears what cannot be written."""

    def __init__(self, folder: Path, failed: Callable[[str], None]) -> None:
        self.folder, self._failed = folder, failed
        self._lock, self._writing = threading.Lock(), threading.Lock()
        self._due: dict[tuple[str, str], Any] = {}  # entries by kind and id, None for those that go
        self._timer: threading.Timer | None = None

    def put(self, kind: str, entry: Any) -> None:
        """An entry is new, or another under its id."""
        from yellow_hinge.app.mine.kinds import (
            BY_NAME,  # loaded with the first change, so that the window starts sooner
        )

        self._later((kind, BY_NAME[kind].own(entry)), entry)

    def drop(self, kind: str, own: str) -> None:
        """The entry of an id goes; its file is kept aside."""
        self._later((kind, own), None)

    def _later(self, key: tuple[str, str], entry: Any) -> None:
        with self._lock:
            self._due[key] = entry
            if self._timer is None:
                self._timer = threading.Timer(SETTLE, self.flush)
                self._timer.daemon = True
                self._timer.start()

    def flush(self) -> None:
        """Write now what changed."""
        from yellow_hinge.app.mine.folder import put_entry, take_away

        with self._writing:  # what is asked last is written last
            with self._lock:
                due, self._due, self._timer = self._due, {}, None
            for (kind, own), entry in due.items():
                try:
                    if entry is None:
                        take_away(self.folder, kind, own)
                    else:
                        put_entry(self.folder, kind, entry, instead=True)
                except UserError as error:
                    self._failed(str(error))

    def close(self) -> None:
        """Write what is due."""
        with self._lock:
            if self._timer is None:
                return
            self._timer.cancel()
        self.flush()
