"""A copy of every open song in the state folder, for the case that the program dies.

Each window has a folder of its own under `open`, with a lock that ends with its process whatever its number was: what
lies in a folder that nobody locks was left behind.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
from pathlib import Path
from typing import NamedTuple, TextIO

from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.core.chart.text import MAX_CHARS
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.song import Song
from yellow_hinge.io.files import FileFault, decode, read_bytes, write_atomic
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

LOCK, SONG, CHART, PATH, KNOWN = "lock", "song.hinge", "chart.txt", "path", "known"
DAMAGED = "damaged-"


class Left(NamedTuple):
    """A song that was left behind: its file's name or "", the song, its chart's text as it was typed (None where there
    is none), when it was last kept (seconds since 1970), the folder it lies in, and the digest of the file as it was
    known ("" for none, None where that was not kept).
    """

    path: str
    file: SongFile
    text: str | None
    when: float
    folder: Path
    known: str | None = None


def _open_folder(places: Places) -> Path:
    return places.state / "open"


def _locked(folder: Path) -> TextIO | None:
    """The folder's lock, now ours; None where a living process has it."""
    try:
        handle = (folder / LOCK).open("a", encoding="ascii")
    except OSError:
        return None
    try:
        fcntl.flock(handle.fileno(), fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        handle.close()
        return None
    return handle


class Session:
    """This window's folder. Its lock is held until `close`, or until the process ends however it ends."""

    def __init__(self, places: Places) -> None:
        self.folder = _open_folder(places) / os.urandom(16).hex()
        self._places = places
        self._lock: TextIO | None = None
        self._told = ""
        self._known: str | None = None

    def _ready(self) -> None:
        """The folder with its lock, made anew where somebody cleared it away."""
        if self._lock is not None and (self.folder / LOCK).exists():
            return
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise FileFault(str(self.folder), f"cannot be made ({error.strerror or error})") from None
        self._lock = _locked(self.folder)

    def tell_path(self, path: str, known: str | None = None) -> None:
        """Say which file is open here, so that other windows know, and its digest as it is known. Raises FileFault."""
        self._ready()
        if known is not None and known != self._known:
            write_atomic(self.folder / KNOWN, known.encode("ascii"))
            self._known = known
        if path != self._told or not (self.folder / PATH).exists():
            write_atomic(self.folder / PATH, path.encode("utf-8", "surrogateescape"))
            self._told = path

    def keep_text(self, text: str) -> None:
        """Keep the chart's text, as plain UTF-8. Raises FileFault."""
        self._ready()
        write_atomic(self.folder / CHART, text.encode("utf-8", "surrogatepass"))

    def keep_song(self, file: SongFile) -> None:
        """Keep the song. Raises FileFault."""
        self._ready()
        write_atomic(self.folder / SONG, to_json(file))

    def drop(self) -> None:
        """Nothing is unsaved: the copy goes, the folder stays."""
        for name in (SONG, CHART):
            with contextlib.suppress(OSError):
                (self.folder / name).unlink(missing_ok=True)

    def close(self) -> None:
        """The window closes as it should."""
        _remove(self.folder)
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    def open_elsewhere(self, path: Path) -> bool:
        """Whether another living window has this file open."""
        folder = _open_folder(self._places)
        real = os.path.realpath(path)
        for other in folder.iterdir() if folder.is_dir() else ():
            if other == self.folder or not (other / PATH).exists():
                continue
            with contextlib.suppress(OSError):
                named = _path_in(other)
                if named and os.path.realpath(named) == real and _alive(other):
                    return True
        return False


def _alive(folder: Path) -> bool:
    lock = _locked(folder)
    if lock is not None:
        lock.close()
    return lock is None


def left_behind(places: Places) -> tuple[list[Left], list[str]]:
    """(songs that processes which are gone left unsaved, the newest first; what was wrong with copies that cannot be
    read, which are set aside). A copy stays where it is until `forget`.
    """
    folder = _open_folder(places)
    found: list[Left] = []
    wrong: list[str] = []
    for place in sorted(folder.iterdir()) if folder.is_dir() else ():
        if place.name.startswith(DAMAGED):
            continue
        if place.is_dir() and _alive(place):
            continue
        try:
            left = _read(place)
        except (UserError, OSError) as error:
            aside = place.with_name(f"{DAMAGED}{place.name}")
            with contextlib.suppress(OSError):
                place.rename(aside)
            wrong.append(f"a copy of an unsaved song is damaged and was set aside as {aside} ({error})")
            continue
        if left is None:
            _clear(place)
        else:
            found.append(left)
    return sorted(found, key=lambda left: left.when, reverse=True), wrong


def _read(place: Path) -> Left | None:
    """What lies in a folder, or in a copy as programs up to 0.1 kept it, or None. Raises UserError, OSError."""
    if not place.is_dir():
        beside = place.with_suffix(".path")
        if place.suffix != ".json":
            return None
        path = beside.read_text("utf-8") if beside.exists() else ""
        return Left(path, from_json(read_bytes(place), place.name), None, place.stat().st_mtime, place)
    song, chart, named = place / SONG, place / CHART, place / PATH
    if not song.exists() and not chart.exists():
        return None
    file = from_json(read_bytes(song), "song") if song.exists() else song_file(Song())
    text = decode(read_bytes(chart), "chart")[: MAX_CHARS + 1] if chart.exists() else None
    when = max(path.stat().st_mtime for path in (song, chart) if path.exists())
    known = decode(read_bytes(place / KNOWN), "known") if (place / KNOWN).exists() else None
    return Left(_path_in(place) if named.exists() else "", file, text, when, place, known)


def _path_in(folder: Path) -> str:
    return (folder / PATH).read_bytes().decode("utf-8", "surrogateescape").replace("\0", "")


def _remove(folder: Path) -> None:
    import shutil  # not needed at the start

    shutil.rmtree(folder, ignore_errors=True)


def _clear(place: Path) -> None:
    if place.is_dir():
        _remove(place)
    elif place.suffix in (".json", ".path", ".old"):
        with contextlib.suppress(OSError):
            if place.suffix != ".path" or not place.with_suffix(".json").exists():
                place.unlink(missing_ok=True)
            if place.suffix == ".json":
                place.with_suffix(".path").unlink(missing_ok=True)


def claim(left: Left) -> TextIO | None:
    """Take a left song for this process, so that no other window takes it too; None where one just did. The claim ends
    when the lock is closed.
    """
    if not left.folder.is_dir():
        return (left.folder).open("a", encoding="ascii") if left.folder.exists() else None
    return _locked(left.folder)


def forget(left: Left) -> None:
    """The song was taken over and kept anew, or is not wanted."""
    _clear(left.folder)
