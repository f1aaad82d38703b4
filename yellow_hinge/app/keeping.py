"""Where the program keeps its own files: settings, and the rescue copy that a crash leaves behind."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic
from yellow_hinge.io.song_json import SongFile, from_json, to_json

_NAME = "yellow-hinge"


class Places(msgspec.Struct, frozen=True):
    """The folders of the program."""

    config: Path
    state: Path


def user_places() -> Places:
    """The user's own folders, by the platform's rules."""
    import platformdirs  # not needed where a caller names the folders, and slow to load

    return Places(platformdirs.user_config_path(_NAME), platformdirs.user_state_path(_NAME))


class Settings(msgspec.Struct, frozen=True):
    """What comes back at the next start. `theme`: light, dark or system; `labels`: degrees or names on the plates."""

    theme: str = "system"
    labels: str = "degrees"
    simple_names: bool = False
    window: tuple[int, int] = (1280, 800)
    view: str = "hinges"
    last_file: str = ""
    chord: int = 0
    hands: Hands | None = None  # what the player said of them; None until then
    hands_offered: bool = False
    large_text: bool = False
    column_w: float = 0.0  # of the strand map, 0 for the usual
    version: int = 1


def load_settings(places: Places) -> Settings:
    """The saved settings, or fresh ones where there are none or they are damaged."""
    try:
        return msgspec.json.decode(read_bytes(places.config / "settings.json", 1 << 20), type=Settings)
    except (FileFault, msgspec.DecodeError, msgspec.ValidationError, UserError):
        return Settings()


def save_settings(places: Places, settings: Settings) -> None:
    """Write the settings. Raises FileFault."""
    write_atomic(places.config / "settings.json", msgspec.json.format(msgspec.json.encode(settings), indent=1))


# --- rescue ------------------------------------------------------------------------------------------------------


class Rescue(msgspec.Struct, frozen=True):
    """A song that was open when the program last stopped without closing it. `path` is its file, or ""."""

    path: str
    file: SongFile


def _rescue_folder(places: Places) -> Path:
    return places.state / "open"


def _own_file(places: Places) -> Path:
    return _rescue_folder(places) / f"{os.getpid()}.json"


def keep_rescue(places: Places, path: str, file: SongFile) -> None:
    """Write the open song to the state folder. Raises FileFault."""
    write_atomic(_own_file(places).with_suffix(".path"), path.encode())
    write_atomic(_own_file(places), to_json(file))


def drop_rescue(places: Places) -> None:
    """The song was saved or closed: nothing is left to rescue from this process."""
    for ending in (".json", ".path"):
        with contextlib.suppress(OSError):
            _own_file(places).with_suffix(ending).unlink(missing_ok=True)


def _alive(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return Path(f"/proc/{pid}").exists() or not Path("/proc").exists()


def find_rescue(places: Places) -> Rescue | None:
    """The newest song left behind by a process that is gone, or None. Its copy stays until `claim_rescue`."""
    folder = _rescue_folder(places)
    if not folder.is_dir():
        return None
    left = [f for f in folder.glob("*.json") if f.stem.isdecimal() and not _alive(int(f.stem))]
    for copy in sorted(left, key=lambda f: f.stat().st_mtime, reverse=True):
        try:
            file = from_json(read_bytes(copy), str(copy))
            beside = copy.with_suffix(".path")
            return Rescue(beside.read_text("utf-8") if beside.exists() else "", file)
        except (FileFault, OSError):
            continue
    return None


def claim_rescue(places: Places) -> None:
    """Clear the copies of processes that are gone, after their song was taken over or refused."""
    folder = _rescue_folder(places)
    for copy in folder.glob("*.json") if folder.is_dir() else ():
        if copy.stem.isdecimal() and not _alive(int(copy.stem)):
            with contextlib.suppress(OSError):
                copy.rename(copy.with_suffix(".old"))
                copy.with_suffix(".path").unlink(missing_ok=True)
