"""The fonts that ship with the program."""

from __future__ import annotations

from functools import cache

from PySide6.QtGui import QFontDatabase

from yellow_hinge.assets import ASSETS

FAMILIES = ["Inter", "Hinge Signs"]
FONT_FILES = ("Inter-Regular.otf", "Inter-SemiBold.otf", "HingeSigns.ttf")


@cache
def load_fonts() -> None:
    """Register the fonts that ship with the program, once."""
    for name in FONT_FILES:
        QFontDatabase.addApplicationFontFromData((ASSETS / "fonts" / name).read_bytes())
