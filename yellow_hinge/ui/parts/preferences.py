"""What the player likes and the program remembers: labels, names, text size, hands."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.keeping.settings import MOST_RECENT, Settings
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import with_player
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.ui.paint.notes import LABELS

MOST_PATTERNS = 200


class Preferences:
    """The settings, and changing them."""

    def __init__(self, settings: Settings, desk: Desk, changed: Callable[[Settings, frozenset[str]], None]) -> None:
        self.settings, self.desk, self._changed = settings, desk, changed
        desk.say_simply(settings.simple_names)
        desk.know_patterns(settings.patterns)

    def put(self, **fields: Any) -> None:
        """Remember something else."""
        names = frozenset(name for name, value in fields.items() if getattr(self.settings, name) != value)
        if names:
            self.settings = msgspec.structs.replace(self.settings, **fields)
            self._changed(self.settings, names)

    def next_labels(self, shown: str) -> str:
        """The labels after those on the plates: degrees, then names, then fingers."""
        kind = LABELS[(LABELS.index(shown) + 1) % len(LABELS)]
        self.put(labels=kind)
        return kind

    def unfold(self, name: str, on: bool) -> None:
        """Show a group of controls, or fold it, here and at the next start."""
        self.put(unfolded={**self.settings.unfolded, name: on})

    def remember_patterns(self, patterns: tuple[Pattern, ...]) -> None:
        """The player's own patterns of playing, so that other songs know them too."""
        known = {pattern.id: pattern for pattern in (*self.settings.patterns, *patterns)}
        if patterns and tuple(known.values()) != self.settings.patterns:
            self.put(patterns=tuple(known.values())[-MOST_PATTERNS:])
            self.desk.know_patterns(self.settings.patterns)

    def forget_pattern(self, pattern: str) -> None:
        """Know a pattern of the player's own no more."""
        self.put(patterns=tuple(own for own in self.settings.patterns if own.id != pattern))
        self.desk.know_patterns(self.settings.patterns)

    def remember_file(self, path: Path) -> None:
        """A song that was opened or saved, for the list of last songs."""
        named = str(path.resolve())
        self.put(recent=(named, *(old for old in self.settings.recent if old != named))[:MOST_RECENT])

    def last_songs(self, there: tuple[str, ...]) -> tuple[str, ...]:
        """The songs that were open last, here and (`there`) in other windows."""
        own = self.settings.recent
        return (*own, *(path for path in there if path not in own))[:MOST_RECENT]

    @property
    def offers_hands(self) -> bool:
        """Whether a new player is still to be asked."""
        return not self.settings.hands_offered and self.settings.hands is None

    def take_hands(self, hands: Hands, singer: tuple[int, int] | None) -> None:
        """Who plays, as the player said it: one edit, and what new songs begin with."""
        self.put(hands=hands)
        self.desk.put_setup("hands", with_player(self.desk.state.setup, hands=hands, singer=singer))
