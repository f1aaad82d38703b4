"""The Practice view: what to play very large, what is asked beside it, what was practised at the right."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFont, QResizeEvent
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLabel, QSizePolicy, QVBoxLayout, QWidget

from yellow_hinge.app.practice.rounding import WAYS
from yellow_hinge.core.practice.rounds import STEPS
from yellow_hinge.ui.paint.controls import (
    ElidedLabel,
    as_small,
    choice,
    own_keys,
    strip_over,
    tool_button,
    upright_rule,
)
from yellow_hinge.ui.paint.popups import ListBox
from yellow_hinge.ui.paint.theme import BODY, LARGE, SMALL, Theme, font
from yellow_hinge.ui.parts.views import ToldView
from yellow_hinge.ui.practice.canvas import LogCanvas, PracticeCanvas
from yellow_hinge.ui.practice.rhythm_canvas import RhythmCanvas
from yellow_hinge.ui.practice.typed_keys import TypedKeys

WHAT = (
    ("song", "This song", "Its hinges, those first that are due or hard"),
    ("part", "This section", "The hinges of the selected section"),
    ("piece", "As it is played", "What is marked, or the section: the rhythm of each hand, in time"),
    ("tune", "Tune over my left hand", "The line that is kept there, else the tune, over the left hand as it is"),
    ("rounds", "Another way each pass", "What is marked, or the section, goes round: each pass is played another way"),
    ("round", "Hinge, all keys", "The selected hinge through all twelve keys"),
    ("shape", "Chord, all keys", "The selected chord's hands through all twelve keys"),
    ("stretch", "Section, all keys", "The selected section through all twelve keys"),
    ("two-five", "2 5 1, all keys", "Two, five and one of the song's mode through all twelve keys"),
    ("bass", "Hear the bass", "A hand sounds over a bass: which one is it?"),
)
PIECE = ("piece", "tune", "rounds")  # what is practised in its rhythm
ROUND = ("round", "shape", "stretch", "two-five")  # what goes round the keys
PLAYS = (
    ("both", "Both", "Both hands"),
    ("left", "Left", "The left hand alone"),
    ("right", "Right", "The right hand alone"),
)
PACES = (("wait", "Waits", "It waits for you"), ("time", "In time", "It goes on with the click"))
ROUNDS = {"fourths": "by fourths", "fifths": "by fifths", "half": "by half steps", "whole": "by whole steps"}
HUGE = 22.0  # points of what is to be played
SIDE_W, NARROW = 250, 900
BEGIN = (
    "Start begins ten minutes: hinges that are due come first, then hard ones, then joined ones.\n"
    "Play on a MIDI keyboard, with the mouse, or with the computer's keys: the two lower rows are one octave, the two "
    "upper ones the next; space is the pedal, Page Up and Down another octave."
)


class PracticeView(ToldView):
    """`asked` tells that something else is to be practised, `started`, `skipped`, `again` and `exported` the buttons,
    `answered` the number of a bass that was named, `partner` that the simulated player is to play, or not, `kept` that
    rounds are to be a mix.
    """

    asked = Signal()
    started = Signal()
    skipped = Signal()
    again = Signal()
    answered = Signal(int)
    partner = Signal(bool)
    exported = Signal()
    kept = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setAccessibleName("Practice")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.canvas, self.log = PracticeCanvas(theme), LogCanvas(theme)
        self.rhythm = RhythmCanvas(theme)
        self.rhythm.hide()
        self.typed = TypedKeys(theme)
        self.typed.hide()
        self.canvas.hint = BEGIN
        body = QHBoxLayout()
        body.setSpacing(0)
        body.addLayout(self._middle(), 1)
        body.addWidget(upright_rule())
        body.addWidget(self._side())
        strip_over(self, self._strip(), body)
        own_keys(self)

    def _strip(self) -> QHBoxLayout:
        asked = lambda _: self.asked.emit()  # noqa: E731
        self._boxes()
        hands, self.hands = choice(PLAYS, asked)
        self.pace_row, self.paces = choice(PACES, asked)
        self.hands["both"].setChecked(True)
        self.paces["wait"].setChecked(True)
        self.start = tool_button("Start", "Ten minutes of practice (Return)", "Start or end practice")
        self.skip = tool_button("Next", "Go on to something else", "Go on to something else")
        self.mix = tool_button("Keep as a mix", "The ways as takes, which the passes of the mix play", "Keep as a mix")
        for button, told in ((self.start, self.started), (self.skip, self.skipped), (self.mix, self.kept)):
            button.clicked.connect(told.emit)
        row = QHBoxLayout()
        row.setContentsMargins(12, 6, 8, 5)
        row.setSpacing(8)
        for part in (self.what, self.round, self.ways, hands, self.pace_row, self.hidden, self.rising, self.mix):
            part.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
            row.addWidget(part)
        row.addStretch(1)
        row.addWidget(self.skip)
        row.addWidget(self.start)
        self.small = (
            self.what, self.round, self.hidden, self.rising, self.ways, self.mix, *self.hands.values(),
            *self.paces.values(),
        )  # fmt: skip
        for widget in self.small:
            as_small(widget)
        for part in (self.round, self.ways, self.mix, self.skip, self.rising):
            part.hide()
        return row

    def _boxes(self) -> None:
        """What is practised, and how its passes or keys follow each other."""
        self.what, self.round, self.ways = ListBox(), ListBox(), ListBox()
        for value, text, tip in WHAT:
            self.what.addItem(text, value)
            self.what.setItemData(self.what.count() - 1, tip, Qt.ItemDataRole.ToolTipRole)
        for way in STEPS:
            self.round.addItem(ROUNDS[way], way)
            self.round.addItem(f"{ROUNDS[way]}, down", f"{way} down")
        for kind, (text, _) in WAYS.items():
            self.ways.addItem(text, kind)
        names = ("What is practised", "How the keys follow each other", "What each pass does otherwise")
        for box, name in zip((self.what, self.round, self.ways), names, strict=True):
            box.setAccessibleName(name)
        self.what.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.what.currentIndexChanged.connect(self._what_changed)
        for box in (self.round, self.ways):
            box.currentIndexChanged.connect(lambda _: self.asked.emit())
        self.hidden, self.rising = QCheckBox("hide the keys"), QCheckBox("from half speed")
        self.hidden.setToolTip("Show only what was played: names and keys come as you find them")
        self.rising.setToolTip("Begin at half the tempo; a pass that was right makes the next one faster")
        self.hidden.toggled.connect(lambda _: self.canvas.resized.emit())

    def _middle(self) -> QVBoxLayout:
        self.title, self.words, self.told = QLabel(), QLabel(), QLabel()
        huge = QFont(font(LARGE, bold=True))
        huge.setPointSizeF(huge.pointSizeF() * HUGE / LARGE)
        self.title.setFont(huge)
        self.title.setAccessibleName("What is to be played")
        self.words.setFont(font(LARGE))
        self.words.setWordWrap(True)
        self.told.setFont(font(LARGE, bold=True))
        self.told.setAccessibleName("What came of the last chord")
        self.counts = ElidedLabel()
        self.counts.setFont(font(BODY))
        self.counts.setObjectName("muted")
        head = QHBoxLayout()
        head.addWidget(self.title)
        head.addStretch(1)
        head.addWidget(self.told)
        self.answers = QWidget()
        self.answer_row = QHBoxLayout(self.answers)
        self.answer_row.setContentsMargins(0, 0, 0, 0)
        self.answers.hide()
        column = QVBoxLayout()
        column.setContentsMargins(14, 8, 14, 8)
        column.setSpacing(4)
        column.addLayout(head)
        column.addWidget(self.words)
        column.addWidget(self.answers)
        column.addWidget(self.canvas, 1)
        column.addWidget(self.typed)
        column.addWidget(self.rhythm, 1)
        column.addWidget(self.counts)
        return column

    def _side(self) -> QWidget:
        self.session, self.plugged = QLabel(), QLabel()
        self.session.setFont(font(BODY, bold=True))
        self.log_words = QLabel()
        for label in (self.session, self.plugged, self.log_words):
            label.setWordWrap(True)
        for label in (self.plugged, self.log_words):
            label.setFont(font(SMALL))
            label.setObjectName("muted")
        self.export = tool_button("Export the log…", "Write every run as a table (CSV)", "Export the log")
        as_small(self.export)
        self.export.clicked.connect(self.exported.emit)
        self.simulated = QCheckBox("simulated player")
        self.simulated.setToolTip("Somebody nearly right plays on a simulated keyboard; what it plays is kept apart")
        self.simulated.toggled.connect(self.partner.emit)
        as_small(self.simulated)
        self.side = QWidget()
        self.side.setFixedWidth(SIDE_W)
        column = QVBoxLayout(self.side)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(6)
        for part in (self.session, self.log, self.log_words, self.export, self.simulated, self.plugged):
            column.addWidget(part, 1 if part is self.log else 0)
        return self.side

    def _what_changed(self, _: int) -> None:
        bass, piece = self.chosen == "bass", self.chosen in PIECE
        self.round.setVisible(self.chosen in ROUND)
        self.rising.setVisible(piece)
        for part in (self.ways, self.mix):
            part.setVisible(self.chosen == "rounds")
        self.hidden.setVisible(not piece)
        for button in (*self.hands.values(), *self.paces.values()):
            button.setEnabled(not bass)
        if piece:  # it can wait too, chord by chord
            self.paces["time"].setChecked(True)
        self.pace_row.setVisible(self.chosen not in ("tune", "rounds"))  # which wait for nobody
        self.asked.emit()

    # --- what is asked for ---
    @property
    def chosen(self) -> str:
        """What is practised, out of WHAT."""
        return str(self.what.currentData())

    @property
    def played(self) -> str:
        """Which hands play."""
        return next(name for name, button in self.hands.items() if button.isChecked())

    @property
    def in_time(self) -> bool:
        """Whether it goes on with the click."""
        return self.paces["time"].isChecked()

    def show_going(self, going: bool) -> None:
        """Whether a session goes on."""
        self.start.setText("End" if going else "Start")
        self.skip.setVisible(going)
        self.typed.setVisible(going)
        if not going:
            self.title.setText("")
            self.words.setText("")
            self.show_answers(())

    def show_rhythm(self, on: bool) -> None:
        """Show the rhythm over the keyboards, or those alone."""
        self.rhythm.setVisible(on)

    def show_answers(self, names: tuple[str, ...]) -> None:
        """The basses that may be named."""
        while self.answer_row.count():
            item = self.answer_row.takeAt(0)
            if item is not None and (old := item.widget()) is not None:
                old.deleteLater()
        for number, name in enumerate(names):
            button = tool_button(name, f"It is {name}", f"The bass is {name}")
            button.clicked.connect(lambda _=False, number=number: self.answered.emit(number))
            self.answer_row.addWidget(button)
        if names:
            hear = tool_button("Hear it again", "Sound the hand and its bass again", "Hear it again")
            hear.clicked.connect(self.again.emit)
            self.answer_row.addStretch(1)
            self.answer_row.addWidget(hear)
        self.answers.setVisible(bool(names))
        own_keys(self)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        for part in (self.canvas, self.log, self.rhythm, self.typed):
            part.theme = theme
            part.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        narrow = event.size().width() < NARROW
        self.side.setFixedWidth(SIDE_W - 50 if narrow else SIDE_W)
