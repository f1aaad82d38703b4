"""The log: what went wrong, with the version it went wrong in. Files turn over, so that the log stays small."""

from __future__ import annotations

import contextlib
import faulthandler
import logging
import platform
import sys
from logging.handlers import RotatingFileHandler

from yellow_hinge import __version__
from yellow_hinge.app.keeping.settings import Places

LARGEST, KEPT = 256 * 1024, 3
LOG, CRASHES = "yellow-hinge.log", "crashes.log"
_NAME = "yellow_hinge"


def begin(places: Places) -> None:
    """Log into the state folder from now on; crashes of the interpreter too. Where the folder cannot be written, only
    to standard error.
    """
    log = logging.getLogger(_NAME)
    log.propagate = False
    log.setLevel(logging.INFO)
    for old in log.handlers[:]:
        log.removeHandler(old)
        old.close()
    with contextlib.suppress(OSError):
        places.state.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(
            places.state / LOG, maxBytes=LARGEST, backupCount=KEPT, encoding="utf-8", errors="backslashreplace",
            delay=True,
        )  # fmt: skip
        about = f"Yellow Hinge {__version__}, Python {platform.python_version()}, {platform.system()}"
        handler.setFormatter(logging.Formatter(f"%(asctime)s %(levelname)s [{about}] %(message)s"))
        log.addHandler(handler)
        _log_crashes(places)


def _log_crashes(places: Places) -> None:
    path = places.state / CRASHES
    if path.exists() and path.stat().st_size > LARGEST:
        path.replace(path.with_suffix(".log.1"))
    stream = path.open("a", encoding="utf-8")  # stays open: a crash has no time to open it
    faulthandler.enable(stream, all_threads=True)


def bug(text: str) -> None:
    """Log a bug with its traceback, on standard error too."""
    with contextlib.suppress(OSError, ValueError, AttributeError):
        print(text, file=sys.stderr)
    logging.getLogger(_NAME).error("%s", text)


def note(text: str) -> None:
    """Log something worth knowing."""
    logging.getLogger(_NAME).info("%s", text)
