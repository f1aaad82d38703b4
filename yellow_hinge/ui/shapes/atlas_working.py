"""What the catalogue's page does: asks for its table, sounds a cell, and puts one into the song."""

from __future__ import annotations

from collections.abc import Callable

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.solving.of_shapes import ShapeFinder
from yellow_hinge.core.leading.atlas import Cell
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.ui.shapes.atlas_page import AtlasPage

BASSES = ("mine", "theirs")  # in the order of the page's box


class AtlasWork:
    """Wires the page. `strike` sounds hands, `put` plays a chord of the song so, `say` tells a sentence."""

    def __init__(
        self, desk: Desk, page: AtlasPage, finder: ShapeFinder, strike: Callable[[Both], None],
        put: Callable[[Chord, Both], None], say: Callable[[str], None],
    ) -> None:  # fmt: skip
        self.desk, self.page, self.finder = desk, page, finder
        self._strike, self._put, self._say = strike, put, say
        page.tried.connect(self._try)
        page.taken.connect(lambda _: self.take())

    def ask(self, key: Key) -> None:
        """Have the table over the selected chord's root made beside the window."""
        voicing, setup, page = self.desk.selection.voicing, self.desk.state.asked, self.page
        root = str(voicing.chord.root if voicing is not None else key.tonic)
        if page.asked is None:  # as the song has it, until one chooses
            page.bass.setCurrentIndex(BASSES.index("mine" if setup.mine else "theirs"))
        bass = BASSES[page.bass.currentIndex()]
        self.finder.ask_atlas(root, key, msgspec.structs.replace(setup, bass=bass))

    def _try(self, cell: Cell, words: str) -> None:
        self._say(words)
        if cell.making is not None:
            self._strike(cell.making.both)

    def take(self) -> None:
        """Play the selected chord with the shape under the cursor, on the cell's chord."""
        cell = self.page.cell
        if cell is not None and cell.making is not None:
            self._put(cell.chord, cell.making.both)
