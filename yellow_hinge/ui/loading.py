"""Qt, loaded without the hook that it leaves in Python's imports."""

from __future__ import annotations

import builtins


def load_qt() -> None:
    """Load Qt's Python binding and take its hook out again. The hook reads the source of every module that is loaded
    after it, for a naming feature that this program does not use; without it the window is there a tenth sooner.
    """
    plain = builtins.__import__
    import PySide6.QtCore  # noqa: F401

    builtins.__import__ = plain
