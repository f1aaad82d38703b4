"""The parts of the Shapes view: the keys, what they read as, and lists of where else they live."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QListWidget, QStackedWidget, QVBoxLayout, QWidget

from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    Tabs,
    as_muted,
    as_small,
    level_rule,
    own_keys,
    strip_row,
    tool_button,
    upright_rule,
)
from yellow_hinge.ui.paint.rows import Row, RowPainter
from yellow_hinge.ui.paint.theme import BODY, LARGE, Theme, font
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.shapes.atlas_page import AtlasPage
from yellow_hinge.ui.shapes.held_keys import HeldKeys
from yellow_hinge.ui.shapes.ring import RingCanvas

PAGES = {
    "basses": ("Basses", "This hand over all twelve basses; Enter takes it into the song"),
    "above": ("Above", "Triads and sevenths over this left hand"),
    "keys": ("Keys", "These hands in all twelve keys"),
    "ways": ("All shapes", "Every family of shapes on this chord, within your reach"),
    "idea": (
        "One idea",
        "This shape on every chord of the song that it fits; Enter plays a chord so, Ctrl+P prints it",
    ),
    "shelf": ("Shelf", "What of the shelf fits from the selected chord on; Enter plays it"),
    "atlas": ("Catalogue", "Every shape on every class of chord over this chord's root; Enter plays it here"),
    "song": ("Song", "Where in the song these hands could stand, and what that costs"),
}
ATLAS = "atlas"
NOTHING = "Hold some keys: click them, play them, or write their names."


class RowsList(QListWidget):
    """A list of rows. `taken` tells one that was chosen, `tried` the one under the cursor."""

    taken = Signal(object)
    tried = Signal(object)

    def __init__(self, theme: Theme, name: str, column: int = 64) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setUniformItemSizes(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.painter_ = RowPainter(theme, self, column)
        self.setItemDelegate(self.painter_)
        self.itemDoubleClicked.connect(lambda item: self.taken.emit(item.data(Qt.ItemDataRole.UserRole)))
        self.itemClicked.connect(lambda item: self.tried.emit(item.data(Qt.ItemDataRole.UserRole)))

    @property
    def cursor_row(self) -> Row | None:
        """The row under the cursor."""
        item = self.currentItem()
        found: Row | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        return found

    def step(self, by: int) -> None:
        """Go up or down."""
        self.setCurrentRow(min(max(self.currentRow() + by, 0), self.count() - 1))
        self.tried.emit(self.cursor_row)


class ShapesView(ToldView):
    """`typed` tells names of notes that were written, `paged` the list that is shown."""

    typed = Signal(str)
    paged = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Shapes")
        self.keys, self.ring = HeldKeys(theme), RingCanvas(theme)
        self.readings = RowsList(theme, "What these notes are", 16)
        self.lists = {name: RowsList(theme, tip, 78) for name, (_, tip) in PAGES.items() if name != ATLAS}
        self.atlas = AtlasPage(theme)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._strip())
        column.addWidget(self.keys)
        column.addWidget(level_rule())
        body = QHBoxLayout()
        body.setSpacing(0)
        self.side, self.rule = self._left(), upright_rule()
        body.addWidget(self.side, 2)
        body.addWidget(self.rule)
        body.addWidget(self._right(), 3)
        column.addLayout(body, 1)
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        row = strip_row()
        self.names = QLineEdit()
        self.names.setPlaceholderText("Notes, such as Db3 F3 Cb4 G4")
        self.names.setAccessibleName("Notes by name")
        self.names.setToolTip("Names with their octaves; how they are spelled decides between names that sound alike")
        self.names.returnPressed.connect(lambda: self.typed.emit(self.names.text()))
        self.read = tool_button("The chord's hands", "The hands of the selected chord (R)", "Read the chord's hands")
        self.clear = tool_button("Let go", "No key is held any more (Delete)", "Let all keys go")
        self.hear = tool_button("▶ Hear", "All keys together (P)", "Hear these notes")
        self.mine = tool_button(
            "Shape of mine", "These hands become a shape that every chord may use (M)", "Shape of mine"
        )
        self.put = tool_button("Into the song", "The selected chord gets these hands (Enter)", "Into the song")
        row.addWidget(self.names, 1)
        for button in (self.read, self.clear, self.hear, self.mine, self.put):
            as_small(button)
            row.addWidget(button)
        return row

    def _left(self) -> QWidget:
        side = QWidget()
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(2)
        self.heading, self.told = QLabel(), ElidedLabel()
        self.heading.setFont(font(LARGE, bold=True))
        self.heading.setContentsMargins(16, 2, 8, 0)
        as_muted(self.told)
        self.told.setContentsMargins(16, 0, 8, 4)
        for part in (self.heading, self.told):
            column.addWidget(part)
        column.addWidget(self.readings, 1)
        return side

    def _right(self) -> QWidget:
        side = QWidget()
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.tabs, self.pages = Tabs(PAGES, "What is found"), QStackedWidget()
        self.tabs.chosen.connect(self.show_page)
        for name in PAGES:
            made = self.atlas if name == ATLAS else self.lists[name]
            if name != "basses":
                self.pages.addWidget(made)
                continue
            holder = QWidget()
            both = QHBoxLayout(holder)
            both.setContentsMargins(0, 0, 0, 0)
            both.addWidget(self.ring, 3)
            both.addWidget(made, 2)
            self.pages.addWidget(holder)
        self.foot = ElidedLabel()
        self.foot.setFont(font(BODY))
        self.foot.setContentsMargins(12, 4, 8, 6)
        column.addWidget(self.tabs)
        column.addWidget(self.pages, 1)
        column.addWidget(self.foot)
        return side

    def show_page(self, name: str) -> None:
        """Show one of the lists."""
        self.pages.setCurrentIndex(list(PAGES).index(name))
        for part in (self.side, self.rule, self.keys):  # the table is wide
            part.setVisible(name != ATLAS)
        self.tabs.mark(name)
        self.paged.emit()

    @property
    def page(self) -> str:
        """The list that is shown."""
        return list(PAGES)[self.pages.currentIndex()]

    @property
    def list(self) -> RowsList:
        """It, as a list; that of the basses beside the table."""
        return self.lists["basses" if self.page == ATLAS else self.page]

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for painted in (self.keys, self.ring):
            painted.theme = theme
            painted.update()
        for made in (self.readings, *self.lists.values()):
            made.painter_.theme = theme
            made.viewport().update()
        self.atlas.set_theme(theme)
