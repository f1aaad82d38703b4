"""Files that ship with the program."""

from pathlib import Path

ASSETS = Path(__file__).parent  # the package is always installed as files
