"""The two keyboards along the bottom, the finger paths between them and the hinge's sentence."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing import fill_notes
from yellow_hinge.core.leading.prices.hinge import Hinge
from yellow_hinge.core.leading.prices.remarks import CALM
from yellow_hinge.core.leading.solution import Option, Solution, Voicing
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.controls import ElidedLabel
from yellow_hinge.ui.paint.keys import BLACK_LONG, FINGERS_H, FingerPath, Keyboard, KeysScene, keys_scene
from yellow_hinge.ui.paint.notes import chord_text, hinge_figures, price_text, voicing_text
from yellow_hinge.ui.paint.painting import draw_fingers, draw_keyboard, hair, plate
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font, text_scale

HEIGHT, LOW_HEIGHT, WORDS_W = 208, 176, 276
MOVABLE = (
    "Upper: this chord. Lower: the next one. Click a key to hear it, drag a held key to move the note, "
    "Shift+click adds or lifts a note."
)
INSTEAD = "Upper: this chord as it is. Lower: what is tried in its place. Click a key to hear it."
STRIP_HEIGHT = 40  # of the panel where it is folded


class KeysCanvas(QWidget):
    """Paints a KeysScene. `struck` asks for a key's sound; `dragged` and `dropped` a sounding key of the upper one:
    hand, its MIDI number, the key it is over; `toggled` adds or lifts a note: hand, MIDI number.
    """

    struck = Signal(int)
    dragged = Signal(str, int, int)
    dropped = Signal(str, int, int)
    toggled = Signal(str, int)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scene: KeysScene | None = None
        self.refused = False  # what is shown cannot be played
        self.fills: tuple[int, ...] = ()  # keys that lead on from the upper chord, in their order
        self.fixed = False  # what is shown is another song's: its notes cannot be moved
        self.down: frozenset[int] = frozenset()  # keys that are pressed on a keyboard
        self.added: tuple[tuple[str, int], ...] = ()  # what the playing adds to the upper hands: hand, MIDI number
        self._grip: tuple[str, int] | None = None
        self._over: int | None = None
        self.setAccessibleName("The two keyboards")
        self.setToolTip(MOVABLE)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(640, HEIGHT - 16)

    # --- input ---
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.scene is None:
            return
        at, keys = event.position(), self.scene.upper
        midi = keys.key_at(at.x(), at.y())
        if midi is not None and not self.fixed and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.toggled.emit(self._hand_for(midi), midi)
            return
        hands = {mark.midi: mark.hand for mark in keys.marks}
        if midi in hands and not self.fixed:
            self._grip, self._over = (hands[midi], midi), None
        elif midi is None and self.scene.lower is not None:
            midi = self.scene.lower.key_at(at.x(), at.y())
        if midi is not None:
            self.struck.emit(midi)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is None or self.scene is None:
            return
        keys = self.scene.upper
        inside = min(max(event.position().y(), keys.y + 1), keys.y + keys.height - 1)
        midi = keys.key_at(event.position().x(), inside)
        if midi is not None and midi != (self._over or self._grip[1]):
            self._over = midi
            self.dragged.emit(*self._grip, midi)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        grip, over, self._grip, self._over = self._grip, self._over, None, None
        if grip is not None and over is not None:
            self.dropped.emit(*grip, over)

    def _hand_for(self, midi: int) -> str:
        """The hand a new note goes to: the one whose notes lie nearer, the right one above middle C."""
        assert self.scene is not None
        marks = self.scene.upper.marks
        near = min(marks, key=lambda mark: abs(mark.midi - midi), default=None)
        return near.hand if near else "right" if midi >= 60 else "left"

    # --- painting ---
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(event.rect(), self.theme.color("paper"))
        if self.scene is None:
            painter.end()
            return
        draw_keyboard(painter, self.theme, self.scene.upper, "names")
        draw_fingers(painter, self.theme, self.scene.upper, 0, FINGERS_H)
        self._others(painter, self.scene)
        for hand, midi in self.added:
            self._added(painter, self.scene.upper, hand, midi)
        for midi in self.down:
            self._pressed(painter, self.scene.upper, midi)
        if self.scene.lower is not None:
            draw_keyboard(painter, self.theme, self.scene.lower, "names")
            lower = self.scene.lower
            draw_fingers(painter, self.theme, lower, lower.y + lower.height, FINGERS_H)
            top = self.scene.upper.y + self.scene.upper.height
            for path in self.scene.paths:
                self._path(painter, path, top, self.scene.lower.y)
        if self.refused:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(hair(self.theme.color("error"), 2.0))
            keys = self.scene.upper
            first, last = keys.keys[0], max(keys.keys, key=lambda key: key.x)
            painter.drawRect(QRectF(first.x + 1, keys.y + 1, last.x + last.width - first.x - 2, keys.height - 2))
        painter.end()

    def _added(self, painter: QPainter, keys: Keyboard, hand: str, midi: int) -> None:
        """A key that the playing adds while the song plays: a hollow note of its hand."""
        key = next((key for key in keys.keys if key.midi == midi), None)
        if key is not None:
            y = keys.y + keys.height * (BLACK_LONG * 0.62 if key.black else 0.8)
            plate(painter, self.theme, QRectF(keys.centre(midi) - 6, y - 6, 12, 12), hand, "", hollow=True)

    def _pressed(self, painter: QPainter, keys: Keyboard, midi: int) -> None:
        """A key that is down: a heavy frame inside it."""
        key = next((key for key in keys.keys if key.midi == midi), None)
        if key is not None:
            tall = keys.height * (BLACK_LONG if key.black else 1.0)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(hair(self.theme.color("paper" if key.black else "ink"), 3.0))
            painter.drawRect(QRectF(key.x + 3, keys.y + 3, key.width - 6, tall - 6))

    def _others(self, painter: QPainter, scene: KeysScene) -> None:
        """Faintly, what is not under the hands: the melody's notes and the singer's register; and what leads on."""
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for midi in scene.tune:
            x = scene.upper.centre(midi)
            painter.setPen(hair(self.theme.color("muted"), 1.6))
            painter.setBrush(self.theme.color("paper"))
            painter.drawEllipse(QPointF(x, scene.upper.y + 9), 4.5, 3.5)
        painter.setFont(font(SMALL, bold=True))
        for number, midi in enumerate(self.fills, 1):
            if scene.span[0] <= midi <= scene.span[1]:
                area = QRectF(scene.upper.centre(midi) - 7, scene.upper.y + 2, 14, 14)
                painter.setPen(hair(self.theme.color("brass"), 1.6))
                painter.setBrush(self.theme.color("paper"))
                painter.drawRect(area)
                painter.setPen(self.theme.color("brass_text"))
                painter.drawText(area, Qt.AlignmentFlag.AlignCenter, str(number))
        if scene.singer is not None:
            y = scene.upper.y + scene.upper.height + 3
            painter.setPen(hair(self.theme.color("muted"), 1.2))
            left, right = scene.singer
            painter.drawLine(QPointF(left, y), QPointF(right, y))
            for x in (left, right):
                painter.drawLine(QPointF(x, y - 3), QPointF(x, y + 3))

    def _path(self, painter: QPainter, path: FingerPath, top: float, bottom: float) -> None:
        moving = path.kind not in ("held", "passes")
        painter.setPen(
            hair(self.theme.color("brass") if moving else self.theme.hand(path.hand), 3.0 if moving else 1.6)
        )
        if path.kind == "leaves":
            painter.drawLine(QPointF(path.x1, top), QPointF(path.x1, top + 9))
            painter.drawLine(QPointF(path.x1 - 4, top + 9), QPointF(path.x1 + 4, top + 9))
        elif path.kind == "enters":
            painter.drawLine(QPointF(path.x2, bottom - 9), QPointF(path.x2, bottom))
            painter.drawLine(QPointF(path.x2 - 4, bottom - 9), QPointF(path.x2 + 4, bottom - 9))
        else:
            painter.drawLine(QPointF(path.x1, top + 2), QPointF(path.x2, bottom - 2))
        if path.label:
            x, y = (path.x1 + path.x2) / 2, (top + bottom) / 2
            area = QRectF(x - 13, y - 8, 26, 16)
            painter.fillRect(area, self.theme.color("paper"))
            painter.setPen(self.theme.color("brass_text" if moving else "muted"))
            painter.setFont(font(BODY, bold=True))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, path.label)


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
        holder.setFixedWidth(round(WORDS_W * (0.4 + 0.6 * text_scale())))
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

    def _size(self) -> None:
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
