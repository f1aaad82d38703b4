"""The strand map: the song as columns of plates with strands between them, pitch upward, scrolled and zoomed."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QScrollArea

from yellow_hinge.app.desk.answers import kept_parts
from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.moving import Trial
from yellow_hinge.app.desk.playing.asking import fill_notes
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.ui.paint.notes import price_text
from yellow_hinge.ui.paint.pitch_keys import PitchKeys
from yellow_hinge.ui.paint.strand.canvas import StrandCanvas, Tried
from yellow_hinge.ui.paint.strand.strands import (
    BESIDE,
    COLUMN_W,
    KEYS_W,
    LEAST_W,
    MOST_W,
    NARROWEST,
    RESTS,
    fills_between,
    strand_scene,
    tried_plates,
    width_for,
)
from yellow_hinge.ui.paint.theme import Theme

ZOOM_STEP = 1.25


class StrandMap(QScrollArea):
    """The scrolling map of the desk's solution. `zoomed` tells the width of a column."""

    zoomed = Signal(float)

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self.column_w = COLUMN_W
        self.fitted = False
        self.canvas = StrandCanvas(theme)
        self.setWidget(self.canvas)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Hinges of the song")
        self.keys = PitchKeys(theme, self.viewport())
        self.canvas.picked.connect(desk.selection.go)
        self.canvas.drawn.connect(desk.selection.mark_to)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = self.keys.theme = theme
        self.canvas.update()
        self.keys.update()

    def set_labels(self, kind: str) -> None:
        """Show degrees, names or fingers on the plates."""
        self.canvas.labels = kind
        self.canvas.update()

    # --- zoom ---
    def zoom(self, steps: int) -> None:
        """Wider columns, or narrower ones for negative steps, around the selected chord."""
        self.fitted = False
        self._set_width(max(NARROWEST, self.column_w * ZOOM_STEP**steps))

    def fit(self) -> None:
        """The whole song at once, or back to the usual width."""
        self.fitted = not self.fitted
        self._set_width(self._fitting() if self.fitted else COLUMN_W)

    def _fitting(self) -> float:
        count = len(self.desk.solution.voicings) if self.desk.solution else 1
        return width_for(count, float(self.viewport().width()))

    def _set_width(self, width: float) -> None:
        width = min(MOST_W, max(LEAST_W, width))
        if width != self.column_w:
            self.column_w = width
            self.refresh()
            self.zoomed.emit(width)

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier and event.angleDelta().y():
            self.zoom(1 if event.angleDelta().y() > 0 else -1)
        elif event.angleDelta().y() and not event.angleDelta().x() and not self.verticalScrollBar().maximum():
            bar = self.horizontalScrollBar()  # a plain wheel goes through the song
            bar.setValue(bar.value() - event.angleDelta().y())
        else:
            super().wheelEvent(event)

    # --- what is shown ---
    def refresh(self) -> None:
        """Lay the present solution out anew."""
        solution = self.desk.solution
        if solution is None:
            self.canvas.show_scene(None, 0)
            return
        if self.fitted:
            self.column_w = self._fitting()
        rests = {rest.slot for rest in self.desk.resting()}
        state, beside = self.desk.answers.state, self.desk.answers.beside

        def kept(index: int) -> frozenset[str]:
            moment = solution.voicings[index].here
            parts = kept_parts(state, moment)
            return parts | ({RESTS} if moment.slot_id in rests else set()) | ({BESIDE} if index in beside else set())

        height = float(self.viewport().height())
        song = self.desk.answers.state.song
        scene = strand_scene(solution, song, kept, height, self.desk.simple_names, self.column_w)
        fills = fills_between(scene.grid, fill_notes(self.desk))
        if fills != self.canvas.fills:
            self.canvas.fills = fills
            self.canvas.update()
        self.canvas.show_scene(scene, self.desk.selection.index)
        self.canvas.show_mark(self.desk.selection.marked)
        self.setAccessibleDescription(self.canvas.accessibleDescription())
        self.keys.scene = scene
        self.keys.setGeometry(0, 0, int(KEYS_W), int(scene.height))
        self.keys.update()
        self.reveal()

    def reselect(self) -> None:
        """Another chord was selected."""
        if self.canvas.scene is not None:
            self.canvas.show_scene(self.canvas.scene, self.desk.selection.index)
            self.setAccessibleDescription(self.canvas.accessibleDescription())
            self.reveal()

    def show_trial(self, trial: Trial | None, moved: int | None) -> None:
        """Show the selected chord with notes that are tried, or as it is."""
        scene, solution = self.canvas.scene, self.desk.solution
        if trial is None or scene is None or solution is None:
            self.canvas.show_tried(None)
            return
        index = self.desk.selection.index
        plates = tried_plates(scene, solution, index, trial.option.both, self.desk.simple_names)
        name = f" · {trial.name}" if trial.name else ""
        words = f"song {price_text(trial.option.extra)}{pretty_signs(name)}" if not trial.faults else trial.faults[0]
        self.canvas.show_tried(Tried(index, plates, moved, words, not trial.faults))

    def follow(self, index: int) -> None:
        """Mark the chord that sounds and keep it in sight; -1 for none."""
        self.canvas.show_playing(index)
        if self.isVisible():
            self.reveal(index if index >= 0 else None)

    def reveal(self, index: int | None = None) -> None:
        """Keep a chord and its neighbours in sight, the selected one where none is named."""
        scene, bar = self.canvas.scene, self.horizontalScrollBar()
        at = self.desk.selection.index if index is None else index
        if scene is None or at >= len(scene.columns):
            return
        x, wide = int(scene.columns[at].x), int(scene.column_w)
        left, right = bar.value() + int(KEYS_W) + wide, bar.value() + self.viewport().width() - 2 * wide
        if x < left:
            bar.setValue(x - int(KEYS_W) - wide)
        elif x > right:
            bar.setValue(x - self.viewport().width() + 2 * wide)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()
