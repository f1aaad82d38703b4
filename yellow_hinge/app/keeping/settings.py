"""Where the program keeps its own files, and its settings."""

from __future__ import annotations

import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, get_args

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.onstage.asks import StageAsk
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic

_NAME = "yellow-hinge"
ONSTAGE = "onstage.json"  # where one is on stage, in the folder of what the program keeps for itself
MOST_RECENT = 9
SETTLE = 0.4  # seconds until a change of settings is written


class Places(msgspec.Struct, frozen=True):
    """The folders of the program."""

    config: Path
    state: Path

    @property
    def mine(self) -> Path:
        """Where the player's own data lies: shelf, shapes, patterns, styles and more, a folder each."""
        return self.config / "mine"


def user_places() -> Places:
    """The user's own folders, by the platform's rules."""
    import platformdirs  # not needed where a caller names the folders, and slow to load

    return Places(platformdirs.user_config_path(_NAME), platformdirs.user_state_path(_NAME))


class Heard(msgspec.Struct, frozen=True):
    """What is heard beside the hands, each with its level (0 to 1), and how: after a bar of clicks, at half speed."""

    tune: bool = False
    bass: bool = True
    click: bool = False
    drums: bool = False
    count_in: bool = False
    half: bool = False
    levels: dict[str, float] = {}

    def level(self, part: str) -> float:
        """The level of a part."""
        return min(1.0, max(0.0, self.levels.get(part, USUAL_LEVELS.get(part, 1.0))))


USUAL_LEVELS = {"hands": 1.0, "tune": 0.9, "bass": 0.8, "click": 0.6, "drums": 0.6}


class Settings(msgspec.Struct, frozen=True):
    """What comes back at the next start. `theme`: light, dark or system; `labels`: degrees or names on the plates."""

    theme: str = "system"
    labels: str = "degrees"
    simple_names: bool = False
    window: tuple[int, int] = (1280, 800)
    view: str = "hinges"
    maximised: bool = False
    keyboards: dict[str, bool] = msgspec.field(default_factory=dict)  # by view: whether they are shown whole
    unfolded: dict[str, bool] = msgspec.field(default_factory=dict)  # groups of controls that are seldom wanted
    last_file: str = ""
    recent: tuple[str, ...] = ()  # songs that were open, the last one first
    chord: int = 0
    hands: Hands | None = None  # what the player said of them; None until then
    hands_offered: bool = False
    cautioned: bool = False  # whether the caution of practice was said
    large_text: bool = False
    shapes: tuple[MyShape, ...] = ()  # of the player's own, until they move into the player's folder
    patterns: tuple[Pattern, ...] = ()  # likewise
    manner: str = ""  # chosen last
    column_w: float = 0.0  # of the strand map, 0 for the usual
    heard: Heard = Heard()
    sheet: SheetAsk = SheetAsk()  # what sheets are like
    songbook: str = ""  # the folder whose songs are listed, where the set lies
    more_songs: tuple[str, ...] = ()  # other folders whose songs are listed too
    stage: StageAsk = StageAsk()  # what the screen on stage is like
    seen: str = ""  # the version of the program that was used last
    version: int = 1

    @property
    def sensible(self) -> bool:
        """Whether every number is one that the program could have written."""
        sizes = all(100 <= side <= 20_000 for side in self.window)
        return sizes and 0 <= self.chord < 1 << 20 and 0 <= self.column_w < 10_000


NAME, LAST = "settings.json", "settings.last.json"  # LAST: the last ones that could be read


def load_settings(places: Places) -> Settings:
    """The saved settings; a field that is damaged is the usual one. Where the file cannot be read the last good one
    counts, and fresh ones where there is none.
    """
    for name in (NAME, LAST):
        fields = _fields(places.config / name)
        if fields is not None:
            return _sensible(fields)
    return Settings()


def _fields(path: Path) -> dict[str, msgspec.Raw] | None:
    try:
        return msgspec.json.decode(read_bytes(path, 1 << 20), type=dict[str, msgspec.Raw])
    except (FileFault, msgspec.DecodeError, msgspec.ValidationError, UnicodeDecodeError, RecursionError):
        return None


def _sensible(raw: dict[str, msgspec.Raw]) -> Settings:
    """Settings of the fields that can be read, and are what the program could have written."""
    found = Settings()
    for field in msgspec.structs.fields(Settings):
        if field.name not in raw:
            continue
        value = _read(raw[field.name], field.type)
        if value is not None:
            changed = msgspec.structs.replace(found, **{field.name: value})
            found = changed if changed.sensible else found
    return found


def _read(raw: msgspec.Raw, kind: Any) -> Any:
    """A field of a kind, None where it is damaged; of a list all that can be read."""
    try:
        return msgspec.json.decode(raw, type=kind)
    except (msgspec.DecodeError, msgspec.ValidationError, UnicodeDecodeError, RecursionError, UserError):
        pass
    each, *more = get_args(kind) or (None,)
    if more != [...]:
        return None
    try:
        rows = msgspec.json.decode(raw, type=list[msgspec.Raw])
    except (msgspec.DecodeError, msgspec.ValidationError):
        return None
    return tuple(found for found in (_read(row, each) for row in rows) if found is not None)


def save_settings(places: Places, settings: Settings) -> None:
    """Write the settings; the ones before stay as the last good ones, where they can be read. Raises FileFault."""
    path = places.config / NAME
    if _fields(path) is not None:
        write_atomic(places.config / LAST, read_bytes(path, 1 << 20))
    write_atomic(path, msgspec.json.format(msgspec.json.encode(settings), indent=1))


def merged_settings(places: Places, settings: Settings, changed: frozenset[str]) -> Settings:
    """What is saved, by another window perhaps, with the fields that changed here; lists of last songs are joined."""
    there = load_settings(places)
    fields = {name: getattr(settings, name) for name in changed}
    if "recent" in changed:
        joined = (*settings.recent, *(path for path in there.recent if path not in settings.recent))
        fields["recent"] = joined[:MOST_RECENT]
    merged: Settings = msgspec.structs.replace(there, **fields)
    return merged


class SettingsWriter:
    """Writes changed settings within a second, from a thread of its own; `failed` hears what cannot be written."""

    def __init__(self, places: Places, failed: Callable[[str], None]) -> None:
        self._places, self._failed = places, failed
        self._lock, self._due, self._ended = threading.Lock(), threading.Event(), threading.Event()
        self._settings, self._changed = Settings(), frozenset[str]()
        self._thread: threading.Thread | None = None

    def put(self, settings: Settings, changed: frozenset[str]) -> None:
        """Some fields changed."""
        with self._lock:
            self._settings, self._changed = settings, self._changed | changed
        self._due.set()
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._run, name="settings", daemon=True)
            self._thread.start()

    def flush(self) -> None:
        """Write now what changed."""
        with self._lock:  # not while the disk is written: who changes something waits for nothing
            self._due.clear()
            settings, changed, self._changed = self._settings, self._changed, frozenset()
        if not changed:
            return
        try:
            save_settings(self._places, merged_settings(self._places, settings, changed))
        except UserError as error:
            with self._lock:
                self._changed |= changed
            self._failed(str(error))

    def _run(self) -> None:
        while not self._ended.is_set():
            self._due.wait()
            if not self._ended.wait(SETTLE):  # what changes together is written together
                self.flush()

    def close(self) -> None:
        """Write what is due, and end."""
        self._ended.set()
        self._due.set()
        if self._thread is not None:
            self._thread.join()
        self.flush()
