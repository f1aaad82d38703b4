"""Two strand maps side by side: a chord between its neighbours as it is, and as it would be."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.paint.around import around_scene
from yellow_hinge.ui.paint.controls import ElidedLabel
from yellow_hinge.ui.paint.pitch_keys import PitchKeys
from yellow_hinge.ui.paint.strand.canvas import StrandCanvas
from yellow_hinge.ui.paint.strand.strands import KEYS_W
from yellow_hinge.ui.paint.theme import BODY, Theme, font

TITLE_H, GAP = 26, 10


class _Map(QWidget):
    """One map with its title."""

    def __init__(self, theme: Theme, parent: QWidget, name: str) -> None:
        super().__init__(parent)
        self.title = ElidedLabel()
        self.title.setParent(self)
        self.title.setFont(font(BODY, bold=True))
        self.canvas = StrandCanvas(theme)
        self.canvas.setParent(self)
        self.canvas.setAccessibleName(name)
        self.keys = PitchKeys(theme, self)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.title.setGeometry(12, 0, self.width() - 16, TITLE_H)


class TwoMaps(QWidget):
    """`struck` asks for a note's sound."""

    struck = Signal(int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.now = _Map(theme, self, "The chord between its neighbours as it is")
        self.becomes = _Map(theme, self, "The chord between its neighbours as it would be")
        for one in (self.now, self.becomes):
            one.canvas.movable = False
            one.canvas.struck.connect(self.struck.emit)
        self._shown: tuple[Solution, int, Solution | None, int, Song, bool, str] | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def minimumSizeHint(self) -> QSize:
        return QSize(320, 200)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for one in (self.now, self.becomes):
            one.canvas.theme = one.keys.theme = theme
            one.canvas.update()
            one.keys.update()

    def clear(self) -> None:
        """Show nothing."""
        self._shown = None
        for one in (self.now, self.becomes):
            one.hide()

    def show_maps(
        self, now: tuple[Solution, int], becomes: tuple[Solution, int] | None, song: Song, simple: bool, title: str
    ) -> None:
        """Show a stretch of the song with its chosen chord, and what it would be, with what that is called."""
        self._shown = (*now, *(becomes or (None, 0)), song, simple, title)
        self._lay_out()

    def _lay_out(self) -> None:
        if self._shown is None or self.width() < 40:
            return
        now, chosen, becomes, there, song, simple, title = self._shown
        room = float(self.width() - GAP), float(self.height() - TITLE_H)
        scene = around_scene(now, becomes, song, room, simple, title)
        self.now.title.setText(scene.title)
        self.becomes.title.setText(scene.becomes_title)
        left = 0
        maps = ((self.now, scene.now, chosen), (self.becomes, scene.becomes, there))
        for one, found, selected in maps:
            one.setVisible(found is not None)
            if found is None:
                continue
            wide = int(found.width) if one is self.now else max(int(found.width), self.width() - left)
            one.setGeometry(QRect(left, 0, wide, self.height()))
            one.keys.scene = found
            one.canvas.move(0, TITLE_H)
            one.canvas.show_scene(found, selected)
            one.keys.setGeometry(0, TITLE_H, int(KEYS_W), int(found.height))
            one.keys.raise_()
            one.keys.update()
            left += wide + GAP

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._lay_out()
