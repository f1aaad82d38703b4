"""Where the program keeps its own files, and its settings."""

from __future__ import annotations

from pathlib import Path

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.setup import Player
from yellow_hinge.core.rhythm.patterns import Pattern
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic

_NAME = "yellow-hinge"


class Places(msgspec.Struct, frozen=True):
    """The folders of the program."""

    config: Path
    state: Path


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
    keys_folded: bool = False
    last_file: str = ""
    recent: tuple[str, ...] = ()  # songs that were open, the last one first
    chord: int = 0
    hands: Hands | None = None  # what the player said of them; None until then
    hands_offered: bool = False
    cautioned: bool = False  # whether the caution of practice was said
    large_text: bool = False
    shapes: tuple[MyShape, ...] = ()  # of the player's own
    patterns: tuple[Pattern, ...] = ()  # of playing, the player's own
    manner: str = ""  # chosen last
    column_w: float = 0.0  # of the strand map, 0 for the usual
    heard: Heard = Heard()
    sheet: SheetAsk = SheetAsk()  # what sheets are like
    version: int = 1

    @property
    def player(self) -> Player:
        """Who plays a song that has not said so yet."""
        return Player(self.hands or Hands(), None, self.shapes)

    @property
    def sensible(self) -> bool:
        """Whether every number is one that the program could have written."""
        sizes = all(100 <= side <= 20_000 for side in self.window)
        return sizes and 0 <= self.chord < 1 << 20 and 0 <= self.column_w < 10_000


def load_settings(places: Places) -> Settings:
    """The saved settings, or fresh ones where there are none or they are damaged."""
    try:
        found = msgspec.json.decode(read_bytes(places.config / "settings.json", 1 << 20), type=Settings)
    except (FileFault, msgspec.DecodeError, msgspec.ValidationError, UnicodeDecodeError, RecursionError, UserError):
        return Settings()
    return found if found.sensible else Settings(theme=found.theme, hands=found.hands)


def save_settings(places: Places, settings: Settings) -> None:
    """Write the settings. Raises FileFault."""
    write_atomic(places.config / "settings.json", msgspec.json.format(msgspec.json.encode(settings), indent=1))
