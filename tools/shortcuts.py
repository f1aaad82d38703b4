"""Writes docs/shortcuts.md from the table of commands: `python -m tools.shortcuts docs/shortcuts.md`."""

from __future__ import annotations

import sys
from pathlib import Path

from yellow_hinge.ui.help.pages import keys_page
from yellow_hinge.ui.shell.table import COMMANDS

if __name__ == "__main__":
    Path(sys.argv[1]).write_text(keys_page(COMMANDS), encoding="utf-8")
