"""Falling fifths link by link: every one plain or as its tritone, each mix one press away."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QWidget

from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.ui.paint.controls import as_muted, as_small, own_keys, tool_button
from yellow_hinge.ui.paint.notes import chord_text


def with_link_turned(swaps: list[Swap], swap: Swap, link: int) -> Swap | None:
    """The best chain that differs from one in a link only, None where there is none; `swaps` are ranked."""
    wanted = tuple(tritone != (i == link) for i, tritone in enumerate(swap.links))
    return next((other for other in swaps if other.links == wanted), None)


class LinkStrip(QWidget):
    """A button for every link; `turned` tells its number."""

    turned = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.row = QHBoxLayout(self)
        self.row.setContentsMargins(0, 0, 0, 0)
        self.row.setSpacing(6)
        self.buttons: dict[int, QToolButton] = {}
        self.hide()

    def show_swap(self, swap: Swap | None, swaps: list[Swap]) -> None:
        """Show the links of a chain with what each would be the other way; nothing for other swaps."""
        while self.row.count():
            item = self.row.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        self.buttons = {}
        links = swap.links if swap is not None else ()
        self.setVisible(bool(links))
        if swap is None or not links:
            return
        label = QLabel("Turn a link:")
        as_muted(label)
        self.row.addWidget(label)
        for i in range(len(links)):
            other = with_link_turned(swaps, swap, i)
            if other is not None:
                self._add(i, swap, other)
        own_keys(self)

    def _add(self, i: int, swap: Swap, other: Swap) -> None:
        old, new = chord_text(swap.chords[i + 1]), chord_text(other.chords[i + 1])
        kind = "its tritone" if other.links[i] else "plain"
        motion = f"{swap.motion_after} to {semitones(other.motion_after)}"
        button = tool_button(f"{old} → {new}", f"Take this link {kind}: {motion}", f"{old} becomes {new}, {kind}")
        as_small(button)
        button.clicked.connect(lambda _=False, i=i: self.turned.emit(i))
        self.row.addWidget(button)
        self.buttons[i] = button
