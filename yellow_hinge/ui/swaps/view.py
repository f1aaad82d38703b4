"""The Swaps view: other chords for the one that is selected, or for the whole song, beside the song as it is."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from yellow_hinge.ui.paint.controls import ElidedLabel, as_small, level_rule, own_keys, tool_button, upright_rule
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.swaps.bold_list import BoldList
from yellow_hinge.ui.swaps.bold_strip import BoldStrip
from yellow_hinge.ui.swaps.link_strip import LinkStrip
from yellow_hinge.ui.swaps.swaps_list import SwapsList
from yellow_hinge.ui.swaps.two_maps import TwoMaps

WORDS_H = 38  # pixels: two lines

# What can be heard: (name, text, tip).
HEARD = (
    ("now", "As it is", "Play the chord between its neighbours as it is (Shift+P)"),
    ("becomes", "Changed", "Play it as it would be (P)"),
    ("turn", "In turn", "Play both in turn, again and again (I)"),
)


class SwapsView(ToldView):
    """The parts of the view; `heard` tells one of HEARD."""

    heard = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.strip = BoldStrip()
        self.swaps, self.bold = SwapsList(theme), BoldList(theme)
        self.maps = TwoMaps(theme)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Swaps")
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addWidget(self._left())
        body.addWidget(upright_rule())
        body.addLayout(self._right(), 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.strip)
        column.addWidget(level_rule())
        column.addLayout(body, 1)
        own_keys(self)

    def _left(self) -> QWidget:
        self.heading = ElidedLabel()
        self.heading.setFont(font(BODY, bold=True))
        self.fitting = QCheckBox("only what fits the tune")
        as_small(self.fitting)
        self.fitting.clicked.connect(self._filter)
        self.lists = QStackedWidget()
        self.lists.addWidget(self.swaps)
        self.lists.addWidget(self.bold)
        head = QHBoxLayout()
        head.setContentsMargins(12, 6, 10, 4)
        head.addWidget(self.heading, 1)
        head.addWidget(self.fitting)
        self.side = QWidget()
        column = QVBoxLayout(self.side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(self.lists, 1)
        return self.side

    def _right(self) -> QVBoxLayout:
        self.name, self.facts = QLabel(), ElidedLabel()
        self.name.setFont(font(LARGE, bold=True))
        self.facts.setFont(font(SMALL))
        self.facts.setObjectName("muted")
        head = QHBoxLayout()
        head.setContentsMargins(12, 6, 10, 2)
        head.setSpacing(6)
        head.addWidget(self.name)
        head.addWidget(self.facts, 1)
        self.hear: dict[str, QToolButton] = {}
        for name, text, tip in HEARD:
            button = tool_button(text, tip, tip)
            as_small(button)
            button.clicked.connect(lambda _=False, name=name: self.heard.emit(name))
            head.addWidget(button)
            self.hear[name] = button
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setFont(font(SMALL))
        self.words.setFixedHeight(WORDS_H)
        self.words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        foot = QHBoxLayout()
        foot.setContentsMargins(12, 0, 8, 4)
        foot.setSpacing(10)
        self.links = LinkStrip()
        foot.addWidget(self.links)
        foot.addWidget(self.words, 1)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(self.maps, 1)
        column.addLayout(foot)
        return column

    def _filter(self) -> None:
        self.swaps.fitting = self.fitting.isChecked()
        self.swaps.refill()

    @property
    def whole(self) -> bool:
        """Whether the whole song is looked at and not one chord."""
        return self.lists.currentWidget() is self.bold

    def show_whole(self, whole: bool) -> None:
        """List the changes of the whole song, or the swaps of one chord."""
        self.lists.setCurrentWidget(self.bold if whole else self.swaps)
        self.fitting.setVisible(not whole)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for part in (self.swaps, self.bold, self.maps):
            part.set_theme(theme)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.side.setFixedWidth(min(430, max(300, round(event.size().width() * 0.36))))
