"""The two keyboards along the bottom, the finger paths between them and the hinge's sentence."""

from __future__ import annotations

from PySide6.QtCore import QEvent, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import fill_notes
from yellow_hinge.core.leading.answer import Option, Solution, Voicing
from yellow_hinge.core.leading.prices.hinge import Hinge
from yellow_hinge.core.leading.prices.remarks import CALM
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.controls import ElidedLabel
from yellow_hinge.ui.paint.keys import keys_scene
from yellow_hinge.ui.paint.notes import chord_text, hinge_figures, price_text, voicing_text
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font, text_scale
from yellow_hinge.ui.parts.keys_canvas import HEIGHT, MOVABLE, KeysCanvas

LOW_HEIGHT, WORDS_W = 176, 276
INSTEAD = "Upper: this chord as it is. Lower: what is tried in its place. Click a key to hear it."
STRIP_HEIGHT = 40  # of the panel where it is folded


class KeysPanel(QWidget):
    """Sentence at the left, keyboards at the right."""

    def __init__(self, desk: Desk, theme: Theme) -> None:
        super().__init__()
        self.desk = desk
        self.canvas = KeysCanvas(theme)
        self.title, self.figures, self.words, self.warning = QLabel(), QLabel(), QLabel(), QLabel()
        self.figures.setObjectName("figures")
        self.warning.setObjectName("error")
        for label, size in ((self.title, LARGE), (self.figures, BODY), (self.words, BODY), (self.warning, SMALL)):
            label.setFont(font(size, bold=label is self.title))
            label.setWordWrap(True)
            label.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.words.setAccessibleName("The hinge in words")
        side = QVBoxLayout()
        side.setContentsMargins(0, 0, 0, 0)
        side.setSpacing(4)
        for label in (self.title, self.figures, self.words, self.warning):
            side.addWidget(label)
        side.addStretch(1)
        holder = QWidget()
        holder.setLayout(side)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 8, 14, 8)
        row.setSpacing(16)
        row.addWidget(holder)
        row.addWidget(self.canvas, 1)
        self.line = ElidedLabel()  # in the place of all that, where it is folded
        self.line.setFont(font(BODY))
        self.line.setAccessibleName("The hinge in words, folded")
        row.addWidget(self.line, 1)
        self._holder, self._low, self.folded = holder, False, True
        self.fold(False)
        self._shown: tuple[Voicing, Voicing | None, Hinge | None] | None = None
        self._solution: Solution | None = None
        self._span: tuple[int, int] | None = None  # keys that stay in sight while ways are tried
        self.set_theme(theme)

    def light(self, down: frozenset[int]) -> None:
        """Show which keys are pressed on a keyboard."""
        self.canvas.down = down
        self.canvas.update()

    def set_low(self, low: bool) -> None:
        """Flatter, where the window is low."""
        self._low = low
        self._size()

    def fold(self, on: bool) -> None:
        """Nothing but what the hands do, in one line; or all of it."""
        if on != self.folded:
            self.folded = on
            self.line.setVisible(on)
            self._holder.setHidden(on)
            self.canvas.setHidden(on)
            self._size()

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.FontChange and hasattr(self, "_holder"):
            self._size()

    def _size(self) -> None:
        self._holder.setFixedWidth(round(WORDS_W * (0.4 + 0.6 * text_scale())))
        whole = LOW_HEIGHT if self._low else HEIGHT
        grown = 0.6 + 0.4 * text_scale()
        self.setFixedHeight(round((STRIP_HEIGHT if self.folded else whole) * grown))
        self.canvas.setFixedHeight(round(whole * grown) - 16)  # also while it is hidden

    def _fold_words(self) -> None:
        """What is said, in one line."""
        parts = (self.title, self.figures, self.words, self.warning)
        self.line.setText("   ".join(" ".join(part.text().split()) for part in parts if part.text()))

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = theme
        self._colour_figures(bool(self._shown and self._shown[2] and self._shown[2].moving))
        self.canvas.update()

    def _colour_figures(self, moving: bool) -> None:
        """Brass means motion: the figures of a hinge where nothing moves are plain."""
        theme = self.canvas.theme
        self.figures.setStyleSheet(f"color: {theme.brass_text if moving else theme.muted};")

    def refresh(self) -> None:
        """Show the selected chord and its hinge."""
        voicing, solution = self.desk.selection.voicing, self.desk.solution
        if voicing is None or solution is None:
            self._clear()
            return
        index = self.desk.selection.index
        hinge = solution.hinges[index] if index < len(solution.hinges) else None
        self._show(voicing, hinge, solution.words(index) if hinge else "")

    def follow(self, index: int, added: tuple[tuple[str, int], ...] = ()) -> None:
        """Show the chord that sounds and the change after it, with what the playing adds to it; -1: the selected one
        again.
        """
        solution, self.canvas.added = self.desk.solution, added
        if index < 0 or solution is None or index >= len(solution.voicings):
            self.refresh()
            return
        hinge = solution.hinges[index] if index < len(solution.hinges) else None
        after = solution.voicings[(index + 1) % len(solution.voicings)] if hinge is not None else None
        span = self.canvas.scene.span if self.canvas.scene else None
        words = solution.words(index) if hinge is not None else ""
        self._show(solution.voicings[index], hinge, words, span, None, (after,))

    def show_instead(self, other: Voicing) -> None:
        """The selected chord as it is above, and below what is tried in its place: what the hands do otherwise."""
        voicing, solution = self.desk.selection.voicing, self.desk.solution
        if voicing is not None and solution is not None:
            span = self.canvas.scene.span if self.canvas.scene else None
            self._show(voicing, *self.desk.selection.instead(other), span, other)
            new, old = chord_text(other.chord), voicing_text(voicing)
            self.title.setText(f"{new} in place of {old}" if new != old else f"{old} stays here")
            self.figures.setText(f"The exchange: {hinge_figures(self.desk.selection.instead(other)[0])}")
            self._fold_words()

    def preview(self, option: Option, faults: tuple[str, ...] = ()) -> None:
        """Show the selected chord played another way; `faults` say why it cannot be."""
        if self.desk.selection.voicing is not None:
            self._show(*self.desk.selection.previewed(option), self.canvas.scene.span if self.canvas.scene else None)
            self.canvas.refused = bool(faults)
            if faults:
                self.warning.setText(pretty_signs(f"Cannot be played: {'; '.join(faults)}"))
            elif option.extra:
                more = f"whole song {price_text(option.extra)}"
                self.title.setText(f"{self.title.text()}, trying")
                self.figures.setText(f"{self.figures.text()}\n{more[:1].upper()}{more[1:]}")

    def _clear(self) -> None:
        self._shown, self.canvas.scene = None, None
        for label in (self.title, self.figures, self.words, self.warning):
            label.setText("")
        self._fold_words()
        self.canvas.update()

    def _show(
        self,
        voicing: Voicing,
        hinge: Hinge | None,
        words: str,
        span: tuple[int, int] | None = None,
        instead: Voicing | None = None,
        following: tuple[Voicing | None] | None = None,
    ) -> None:
        self._span, self._solution = span, self.desk.solution
        after = instead or (following[0] if following is not None else self.desk.selection.following())
        self.canvas.refused, self.canvas.fixed = False, instead is not None
        self.canvas.setToolTip(INSTEAD if instead is not None else MOVABLE)
        self._shown = (voicing, after, hinge)
        name = write_symbol(voicing.chord)
        self.title.setText(
            pretty_signs(f"{name} → {write_symbol(after.chord)}" if after else f"{name}, the last chord")
        )
        bar = f"bar {bar_number(self.desk.answers.state.song, voicing.here.origin, voicing.here.bar)}"
        self.figures.setText(f"This hinge, {bar}: {hinge_figures(hinge)}" if hinge is not None else bar.capitalize())
        self._colour_figures(hinge is not None and bool(hinge.moving))
        calm = [f"{remark.words[:1].upper()}{remark.words[1:]}." for remark in voicing.remarks if remark.kind in CALM]
        self.words.setText(pretty_signs(" ".join(filter(None, (words, *calm)))))
        told = (remark.words for remark in voicing.remarks if remark.kind not in CALM)
        self.warning.setText(pretty_signs("; ".join(told)))
        self._fold_words()
        self._lay_out()

    def _place(self) -> int:
        """The index of the chord that is shown."""
        solution, shown = self.desk.solution, self._shown
        if solution is not None and shown is not None and shown[0] in solution.voicings:
            return shown[0].stage
        return self.desk.selection.index

    def _lay_out(self) -> None:
        if self._shown is not None and self._solution is not None:
            voicing, after, hinge = self._shown
            moment, setup = voicing.here, self._solution.setup
            tune = tuple(dict.fromkeys(tone.pitch.midi for tone in moment.tune))
            added = sorted(fill_notes(self.desk).get(self._place(), ())) if not self.canvas.fixed else []
            self.canvas.fills = tuple(note.midi for note in added)
            room = self.canvas.width() - 1, self.canvas.height() - 1
            self.canvas.scene = keys_scene(
                voicing, after, hinge, *room, self.desk.simple_names, tune, setup.player.singer, self._span
            )
        self.canvas.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay_out()
