"""The songs that ship with the program."""

from __future__ import annotations

from pathlib import Path

from yellow_hinge.assets import ASSETS
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.song.song import Song
from yellow_hinge.io.files import FileFault, write_atomic
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import from_json, song_file

FIRST = "last-boat-to-marrow"
BOLDER = "-bolder"  # ends the name of a song's reharmonised companion
_ENDING, _TAKES = ".chart", ".hinge"
_FOLDER, _EVENING = ASSETS / "demo", ASSETS / "evening"


def demo_names() -> tuple[str, ...]:
    """Names of the shipped songs, sorted, the main one first, each before its reharmonised companion."""
    names = sorted(entry.name.removesuffix(_ENDING) for entry in _FOLDER.iterdir() if entry.name.endswith(_ENDING))
    return tuple(sorted(names, key=lambda name: (name.removesuffix(BOLDER) != FIRST, name)))


def demo_text(name: str) -> str:
    """The chart text of a shipped song. Raises FileFault."""
    if name not in demo_names():
        raise FileFault(f"demo:{name[:40]}", f"no such song ships; there are {', '.join(demo_names())}")
    return (_FOLDER / f"{name}{_ENDING}").read_text("utf-8")


def demo_file(name: str) -> tuple[SongFile, str]:
    """A shipped song as it opens, with its takes if it has some, and its chart as written. Raises FileFault."""
    text = demo_text(name)
    path = _FOLDER / f"{name}{_TAKES}"
    if path.is_file():
        return from_json(path.read_bytes(), f"demo:{name}"), ""
    return song_file(parse_chart(text, f"demo:{name}")), text


def put_book(folder: Path) -> Path:
    """Copy the boat's book, all shipped songs and an evening's set, into a folder; what is there already stays. Raises
    FileFault.
    """
    shipped = {name: _FOLDER / f"{name}{_ENDING}" for name in demo_names() if not name.endswith(BOLDER)}
    for name, path in shipped.items():
        takes = path.with_suffix(_TAKES)
        shipped[name] = takes if takes.is_file() else path
    for path in (*shipped.values(), *sorted(_EVENING.iterdir())):
        if not (folder / path.name).exists():
            write_atomic(folder / path.name, path.read_bytes())
    return folder


def demo_title(name: str) -> str:
    """The title of a shipped song; its chart begins with it. Raises FileFault."""
    return demo_text(name).partition("\n")[0].removeprefix("title:").strip()


def demo_titles() -> frozenset[str]:
    """The titles of all shipped songs."""
    return frozenset(demo_title(name) for name in demo_names())


def demo_song(name: str) -> Song:
    """A shipped song. Raises FileFault."""
    return parse_chart(demo_text(name), f"demo:{name}")
