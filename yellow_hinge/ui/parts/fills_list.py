"""The lead-ins and fills on offer at the selected chord: a click or Enter takes one, or lets it go."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QVBoxLayout

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import lead_in_of_own, shift_lead_in, toggle_fill
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import spell_in_key
from yellow_hinge.core.pitch.pitch import parse_pitch, pitch_of, pretty_signs
from yellow_hinge.core.rhythm.fills.offered import FillOffer, offers
from yellow_hinge.ui.paint.controls import as_muted
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.paint.rows import Row, RowList, fill_rows
from yellow_hinge.ui.paint.theme import BODY, Theme, font
from yellow_hinge.ui.sound.listening import Listening

TIP = (
    "Notes that lead into this chord or move inside it; a click or Enter takes one, or lets it go. "
    "Shift+Left and Right let a lead-in begin earlier or later"
)


class FillsList(RowList):
    """A heading and a row for every offer. `struck` asks for notes: (MIDI, hand) pairs."""

    struck = Signal(object)

    def __init__(self, desk: Desk, listening: Listening, theme: Theme) -> None:
        super().__init__(theme, "Lead-ins and fills")
        self.desk, self.listening = desk, listening
        listening.read.connect(self.refresh)
        self.heading, hint = QLabel(), QLabel(TIP)
        self.heading.setFont(font(BODY, bold=True))
        self.heading.setContentsMargins(12, 6, 8, 2)
        as_muted(hint)
        hint.setWordWrap(True)
        hint.setContentsMargins(12, 0, 10, 6)
        self.own = QLineEdit()
        self.own.setPlaceholderText("Notes of your own, such as F#4 G4")
        self.own.setToolTip("Enter leads into this chord by them, into its top or the bass, whichever is nearer")
        self.own.setAccessibleName("Notes of your own that lead into this chord")
        self.own.returnPressed.connect(self._lead_by_own)
        self.hint = hint
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.heading, hint):
            column.addWidget(part)
        column.addWidget(self.list, 1)
        foot = QHBoxLayout()
        foot.setContentsMargins(10, 4, 10, 6)
        foot.addWidget(self.own)
        column.addLayout(foot)
        for key, by in (("Shift+Left", -1), ("Shift+Right", 1)):
            own = QShortcut(QKeySequence(key), self.list, lambda by=by: self.shift(by))
            own.setContext(Qt.ShortcutContext.WidgetShortcut)

    def changed(self) -> None:
        """The song or what is asked of it was edited."""
        self.refresh()

    def solved(self) -> None:
        """There is another solution."""
        self.refresh()

    def reselect(self) -> None:
        """Another chord was selected."""
        self.refresh()

    def refresh(self) -> None:
        """Make the rows anew; nothing while it cannot be seen."""
        if self.isVisible():
            voicing = self.desk.selection.voicing
            name = pretty_signs(voicing_text(voicing)) if voicing else ""
            self.heading.setText(f"Lead-ins and fills at {name}" if name else "Lead-ins and fills")
            fill_rows(self.list, [self._row(offer) for offer in self.offers()])

    def offers(self) -> list[FillOffer]:
        """What is on offer at the selected chord."""
        performance = self.listening.ready
        if performance is None or self.desk.solution is None:
            return []
        manner = self.desk.solution.setup.manner
        return offers(performance.row, self.desk.selection.index, self.desk.state.playing, manner)

    def _row(self, offer: FillOffer) -> Row:
        moment = self.desk.selection.moment
        assert moment is not None
        names = (str(pitch_of(n.midi, spell_in_key(n.midi % 12, moment.key))) for n in offer.notes)
        words = f"{pretty_signs(' '.join(names))}; {offer.kind.words}"
        notes = tuple((note.midi, note.hand) for note in offer.notes)
        return Row(offer.kind.into, offer.kind.name, words, True, -1, notes, offer.taken, offer.kind.id)

    def take_row(self, row: Row) -> None:
        """Take a fill, or let it go."""
        if not row.ticked and not self.listening.player.playing:
            self.struck.emit(row.notes)
        toggle_fill(self.desk, row.id)

    def _lead_by_own(self) -> None:
        """Lead into the selected chord by the notes that are written."""
        try:
            midis = tuple(parse_pitch(word).midi for word in self.own.text().replace(",", " ").split())
            lead_in_of_own(self.desk, midis)
        except UserError as error:
            self.hint.setText(f"{str(error)[:1].upper()}{str(error)[1:]}.")
            return
        self.hint.setText(TIP)
        self.own.clear()

    def shift(self, by: int) -> None:
        """Let the lead-in under the cursor, where it is taken, begin a quarter of a beat later or earlier."""
        performance, item, moment = self.listening.performance, self.list.currentItem(), self.desk.selection.moment
        if performance is None or item is None or moment is None:
            return
        kind = item.data(Qt.ItemDataRole.UserRole).id
        fills = self.desk.state.playing.fills
        fill = next((own for own in fills if own.slot == moment.slot_id and own.kind == kind), None)
        if fill is not None:
            shift_lead_in(self.desk, performance.row, self.desk.selection.index, fill, by)

    def showEvent(self, event: object) -> None:
        self.refresh()
