"""What the window gives to its rooms."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PySide6.QtGui import QAction

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.commands import Actions, Area
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.parts.look import Look
from yellow_hinge.ui.parts.pointing.in_place import InPlace
from yellow_hinge.ui.parts.pointing.things import ThingMenus
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.ribbon import Ribbon
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys

if TYPE_CHECKING:
    from yellow_hinge.app.practice.log import PracticeLog


class Shell(NamedTuple):
    """The parts around the rooms, each of which may be used by any of them."""

    desk: Desk
    look: Look
    actions: Actions
    keys_of: Callable[[Area], list[QAction]]  # the commands whose keys work in a room or a page
    keys: KeysPanel
    ribbon: Ribbon
    listening: Listening
    live: LiveKeys
    preferences: Preferences
    teller: Teller
    things: ThingMenus
    in_place: InPlace
    ask_name: Callable[[str, str], str]  # by a question and what is proposed; "" for none
    ask_csv: Callable[[], Path | None]  # where a table is to be written
    open_song: Callable[[Path], object]  # opens a file, unless what is open is to stay
    ask_folder: Callable[[], Path | None]
    ask_file: Callable[[], Path | None]  # a song's
    ask_which: Callable[[str, Mapping[str, str]], str]  # by words, and what each value is called; "" for none
    practise: Callable[..., object]  # begin with the song that is open, or with an entry of the shelf
    mine: Path  # the folder of the player's own data
    state: Path  # the folder of what the program keeps for itself
    go_on_stage: Callable[..., object]  # with a set, its folder, its songs as they are played, and one of them
    open_log: Callable[[], PracticeLog]  # raises UserError where it cannot be kept
