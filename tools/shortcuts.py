"""Writes docs/shortcuts.md from the table of commands: `python -m tools.shortcuts docs/shortcuts.md`."""

from __future__ import annotations

import sys
from pathlib import Path

from yellow_hinge.ui.commands import COMMANDS


def page() -> str:
    """The page."""
    rows = [f"| {c.menu} | {c.title} | {' or '.join(c.keys) or '-'} | {c.tip} |" for c in COMMANDS]
    head = "# Keys\n\nThe keys of the Chord and Listen menus work on the desk and not while text is typed.\n\n| menu | command | keys | what it does |\n|---|---|---|---|\n"
    return head + "\n".join(rows) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(page(), encoding="utf-8")
