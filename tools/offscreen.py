"""No screen, and large: a window opened on it has the size that is asked for."""

from pathlib import Path

PLATFORM = f"offscreen:configfile={Path(__file__).with_name('screen.json')}"
