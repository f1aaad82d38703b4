"""What the player likes and the program remembers: labels, names, text size, hands."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.keeping.settings import MOST_RECENT, Settings
from yellow_hinge.app.mine.writer import MineWriter
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.setup import Player, with_player
from yellow_hinge.core.rhythm.fills.kinds import OWN, OWN_FILLS
from yellow_hinge.core.rhythm.pattern.patterns import Pattern
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.ui.paint.notes import LABELS


class Preferences:
    """The settings, and changing them."""

    def __init__(
        self, settings: Settings, desk: Desk, changed: Callable[[Settings, frozenset[str]], None], writer: MineWriter
    ) -> None:
        self.settings, self.desk, self._changed, self._writer = settings, desk, changed, writer
        self.shapes, self.patterns = settings.shapes, settings.patterns  # of the player's own
        desk.say_simply(settings.simple_names)
        desk.know_patterns(settings.patterns)

    def move_in(self) -> None:
        """What settings of an earlier version hold goes into the player's folder, and stays in them until it lies
        there.
        """
        if self.settings.shapes or self.settings.patterns:
            from yellow_hinge.app.mine.moving_in import move_in

            moved = move_in(self._writer.folder, self.settings.shapes, self.settings.patterns)
            if moved:
                self.put(shapes=(), patterns=())

    def know(self, shapes: tuple[MyShape, ...], patterns: tuple[Pattern, ...]) -> None:
        """What lies in the player's folder now; what an earlier version's settings still hold is known too."""
        left = self.settings
        self.shapes = (*(own for own in left.shapes if own.name not in {each.name for each in shapes}), *shapes)
        self.patterns = (*(own for own in left.patterns if own.id not in {each.id for each in patterns}), *patterns)
        self.desk.know_patterns(self.patterns)

    @property
    def player(self) -> Player:
        """Who plays a song that has not said so yet."""
        return Player(self.settings.hands or Hands(), None, self.shapes)

    def remember_shape(self, shape: MyShape) -> None:
        """A shape of the player's own, in place of the one of its name."""
        self.shapes = (*(own for own in self.shapes if own.name != shape.name), shape)
        self._writer.put("shape", shape)

    def forget_shape(self, name: str) -> None:
        """Know a shape of the player's own no more."""
        self.shapes = tuple(own for own in self.shapes if own.name != name)
        self._writer.drop("shape", name)

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
        known = {pattern.id: pattern for pattern in self.patterns}
        new = tuple(pattern for pattern in patterns if known.get(pattern.id) != pattern)
        for pattern in new:
            self._writer.put("pattern", pattern)
        if new:
            self.patterns = tuple((known | {pattern.id: pattern for pattern in new}).values())
            self.desk.know_patterns(self.patterns)

    def remember_fills(self, kinds: Iterable[str]) -> None:
        """The player's own lead-ins (the ids of their kinds), so that other songs offer them too."""
        new = {kind for kind in kinds if kind.startswith(OWN) and kind not in OWN_FILLS}
        if new:
            from yellow_hinge.core.own.fills import own_fill

            for made in filter(None, map(own_fill, sorted(new))):
                self._writer.put("fill", made)

    def forget_pattern(self, pattern: str) -> None:
        """Know a pattern of the player's own no more."""
        self.patterns = tuple(own for own in self.patterns if own.id != pattern)
        self._writer.drop("pattern", pattern)
        self.desk.know_patterns(self.patterns)

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
