"""Keeping the sound system's own complaints from the terminal."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Iterator


@contextlib.contextmanager
def quiet() -> Iterator[None]:
    """The sound system's own complaints on the terminal are kept from it while a device or a keyboard is looked for."""
    kept = os.dup(2)
    try:
        with open(os.devnull, "wb") as nowhere:
            os.dup2(nowhere.fileno(), 2)
            yield
    finally:
        os.dup2(kept, 2)
        os.close(kept)
