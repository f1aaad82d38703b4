"""What of the player's own shelf fits from the selected chord on, offered above its ways."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.hinges.options_panel import OptionsPanel

if TYPE_CHECKING:  # loaded with the first entry of the player's own
    from yellow_hinge.app.solving.of_shapes import FoundShelf, ShapeFinder
    from yellow_hinge.core.reharm.shelf_fits import Fit

MARGINS = 52  # pixels around the words
SOON_MS = 150  # after a selection, so that going through a song stays quick


class MineOffer(QObject):
    """Looks beside the window; nothing is done as long as there is no shelf of the player's own."""

    found_ = Signal(object)

    def __init__(self, desk: Desk, panel: OptionsPanel, folder: Path) -> None:
        super().__init__(panel)
        self.desk, self.panel, self.folder = desk, panel, folder
        self.fits: tuple[Fit, ...] = ()
        self._finder: ShapeFinder | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON_MS)
        self._soon.timeout.connect(self._ask)
        self.found_.connect(self._arrived)
        panel.refreshed.connect(self._changed)
        panel.mine.clicked.connect(self.take)

    def _changed(self) -> None:
        self.fits = ()
        self.panel.offered.hide()
        self._soon.start()

    def _ask(self) -> None:
        solution = self.desk.solution
        if solution is None or not solution.voicings or not (self.folder / "shelf").is_dir():
            return
        if self._finder is None:
            from yellow_hinge.app.solving.of_shapes import ShapeFinder

            self._finder = ShapeFinder(self.found_.emit, "my shelf")
        self._finder.ask_shelf(self.folder, solution, self.desk.selection.index)

    def _arrived(self, found: FoundShelf | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if self._finder is None or found.number != self._finder.asked or found.solution is not self.desk.solution:
            return
        self.fits = tuple(own for own in found.fits if own.entry.mine)
        if self.fits:
            first, more = self.fits[0], len(self.fits) - 1
            count = len(first.hands)
            words = f"Mine: {first.entry.name}, {count} chord{'' if count == 1 else 's'}"
            whole = pretty_signs(words + (f" and {more} more in Shapes" if more else ""))
            metrics, room = self.panel.mine.fontMetrics(), self.panel.width() - MARGINS
            self.panel.mine.setText(metrics.elidedText(whole, Qt.TextElideMode.ElideRight, room))
            self.panel.offered.show()

    def take(self) -> None:
        """Play the chords with the hands of the first that fits, and keep them."""
        if self.fits:
            from yellow_hinge.app.desk.shelving import take_fit

            take_fit(self.desk, self.fits[0])

    def close(self) -> None:
        """Look no more."""
        self._soon.stop()
        if self._finder is not None:
            self._finder.close()
