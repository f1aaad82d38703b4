"""What the Sheet view does: asks for pages, shows them, keeps the player's notes, prints and exports."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import msgspec
from PySide6.QtCore import QObject, QPoint, Qt, QTimer, Signal
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QComboBox

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import written_ends
from yellow_hinge.app.edits.bars import excerpt
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_sheets import SheetSolver, Twelve, WrittenSheet, describe_chord, memo_edit
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.song import Address
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.sheet.pages_canvas import GAP
from yellow_hinge.ui.sheet.view import TWELVE, SheetView
from yellow_hinge.ui.sound.listening import Listening

WAIT_MS = 500  # before it is said that a sheet is being written
STEP, LEAST, MOST = 1.25, 1.0, 14.0  # of the zoom; pixels a millimetre


def data(box: QComboBox) -> str:
    """What is chosen in a box."""
    return str(box.currentData())


class SheetRoom(QObject, Quiet):
    """Wires view, desk and solver. `keep` remembers the choices for the next song."""

    found_ = Signal(object)

    def __init__(
        self, desk: Desk, view: SheetView, ask: SheetAsk, keep: Callable[[SheetAsk], None], listening: Listening
    ) -> None:
        super().__init__(view)
        self.desk, self.view, self.wanted, self._keep = desk, view, ask, keep
        self.solver = SheetSolver(self.found_.emit, "sheet")
        self.sheet = WrittenSheet(0, ())
        self.menu: Callable[[QPoint], object] = lambda at: None
        self.zoom = 0.0  # pixels a millimetre; 0: the width of the view
        self._late = QTimer(self)
        self._late.setSingleShot(True)
        self._late.setInterval(WAIT_MS)
        self._late.timeout.connect(lambda: view.told.setText("Writing the sheet…"))
        self.found_.connect(self._answered)
        for told in (view.changed_, view.solved_, view.seen):
            told.connect(self.ask)
        view.asked.connect(self._chosen)
        view.noted.connect(self._noted)
        view.sounded.connect(self._sounded)
        view.reselected.connect(self._reselected)
        view.remarked.connect(self._remarked)
        view.resized.connect(self._size)
        view.canvas.picked.connect(self._picked)
        view.canvas.drawn.connect(desk.selection.mark_to)
        view.canvas.struck.connect(lambda midi: listening.player.strike(((midi, "right"),)))
        listening.player.at.connect(self._follow)
        view.into.clicked.connect(lambda: self.zoom_by(STEP))
        view.out.clicked.connect(lambda: self.zoom_by(1 / STEP))
        for keys, by in (("+", STEP), ("=", STEP), ("-", 1 / STEP)):
            shortcut = QShortcut(QKeySequence(keys), view)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(lambda by=by: self.zoom_by(by))
        for keys, turn in (("PgDown", 1), ("PgUp", -1)):
            shortcut = QShortcut(QKeySequence(keys), view)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(lambda turn=turn: self.turn(turn))
        self._show_choices()

    # --- choices ---
    def _show_choices(self) -> None:
        view, ask = self.view, self.wanted
        for box, value in (
            (view.kind, ask.kind), (view.size_, ask.size), (view.paper, ask.paper),
            (view.lies, "1" if ask.landscape else ""), (view.columns, str(ask.columns or "")), (view.key, ask.key),
            (view.of, "mix" if ask.mix else "take"), (view.hands, ask.hands),
        ):  # fmt: skip
            box.setCurrentIndex(max(0, box.findData(value)))
        for part, tick in view.shown.items():
            tick.setChecked(ask.shows(part))
        self._show_kind()

    def _show_kind(self) -> None:
        twelve = self.view.kind.currentData() == TWELVE
        self.view.stretch.setVisible(twelve)
        self.view.a_page.setVisible(twelve)
        several, marked = len(self.desk.state.takes) > 1, bool(self.desk.selection.marked)
        self.view.of.setVisible(not twelve and (several or marked or self.view.of.currentData() == "mark"))

    def _chosen(self) -> None:
        view = self.view
        kind = data(view.kind)
        self.wanted = SheetAsk(
            "cheat" if kind == TWELVE else kind, data(view.size_), int(data(view.columns) or 0), data(view.paper),
            bool(data(view.lies)), tuple(part for part, tick in view.shown.items() if tick.isChecked()),
            data(view.key), data(view.of) == "mix", data(view.hands),
        )  # fmt: skip
        self._keep(msgspec.structs.replace(self.wanted, key="", mix=False))
        self._show_kind()
        self.ask()

    def _sounded(self) -> None:
        """The keyboard's transpose is set otherwise: heard and exported so, and said on the sheet."""
        key = data(self.view.sounds)
        playing = msgspec.structs.replace(self.desk.state.playing, sounds=key)
        self.desk.put_playing(f"sounds in {pretty_signs(key)}" if key else "sounds as written", playing)

    def _show_sounds(self) -> None:
        box = self.view.sounds
        sounds = self.desk.state.playing.sounds
        if sounds and box.findData(sounds) < 0:
            box.addItem(pretty_signs(sounds), sounds)
        box.setCurrentIndex(max(0, box.findData(sounds)))

    # --- pages ---
    def ask(self) -> None:
        """Have the sheet written, where the view is looked at."""
        desk, view = self.desk, self.view
        if not view.isVisible():
            return
        self._show_notes()
        self._show_kind()
        self._show_sounds()
        if not desk.song.sections or desk.solution is None or not desk.solution.voicings:
            self.solver.forget()
            self.sheet = WrittenSheet(0, (), "There is nothing to write on a sheet yet.")
            self._show()
            return
        if not desk.solved:  # the answer that is awaited asks again
            view.told.setText(desk.answers.fault)
            return
        self._late.start()
        wanted = self.wanted
        if wanted.mix and len(desk.state.takes) < 2:
            wanted = msgspec.structs.replace(wanted, mix=False)
        part = self.part()
        if part is not None:
            self.solver.ask(part, None, wanted, desk.simple_names, picks=False)
        else:
            self.solver.ask(desk.state, desk.solution, wanted, desk.simple_names, self._twelve())

    def part(self) -> State | None:
        """What is marked as a song of its own, where only that is wanted; None where nothing is marked."""
        desk = self.desk
        marked, solution = desk.selection.marked, desk.solution
        if self.view.of.currentData() != "mark" or self.view.kind.currentData() == TWELVE or not marked or not solution:
            return None
        first, last = written_ends(solution, marked)
        return excerpt(desk.state, first[:2], last[:2], solution)

    def _twelve(self) -> Twelve | None:
        if self.view.kind.currentData() != TWELVE:
            return None
        first, last = self._stretch(str(self.view.stretch.currentData()))
        return Twelve(first, last, self.view.a_page.isChecked())

    def _stretch(self, what: str) -> tuple[Address, Address]:
        """The first and the last written chord of what is asked for around the selected one."""
        desk = self.desk
        here = desk.selection.address or (0, 0, 0)
        if what == "mark" and desk.solution is not None and desk.selection.marked:
            return written_ends(desk.solution, desk.selection.marked)
        if what == "change":
            after = desk.selection.following()
            return here, after.here.address if after is not None else here
        if what == "chord":
            return here, here
        section, bar, _ = here  # where nothing is marked, the bar
        bars = desk.state.song.sections[section].bars
        ends = (bar, bar) if what in ("bar", "mark") else (0, len(bars) - 1)
        return (section, ends[0], 0), (section, ends[1], len(bars[ends[1]].slots) - 1)

    def _answered(self, sheet: WrittenSheet | Bug) -> None:
        self._late.stop()
        if isinstance(sheet, Bug):
            raise sheet.error
        if sheet.number == self.solver.asked:
            self.sheet = sheet
            self._show()

    def _show(self) -> None:
        view, sheet = self.view, self.sheet
        view.canvas.words = sheet.fault
        if not sheet.pages:
            view.canvas.setFixedSize(view.pages_area.viewport().size())
        view.canvas.show_pages(sheet.pages)
        self._size()
        self._selected()
        count = len(sheet.pages)
        view.told.setText(sheet.fault or f"{count} page{'' if count == 1 else 's'}")
        for button in (view.print_, view.export):
            button.setEnabled(bool(count))

    def _size(self) -> None:
        canvas = self.view.canvas
        if not canvas.pages:
            return
        room = self.view.pages_area.viewport().width() - 2 * GAP
        canvas.zoom(self.zoom or max(LEAST, room / max(page.w for page in canvas.pages)))

    def zoom_by(self, share: float) -> None:
        """Show the pages larger or smaller."""
        self.zoom = min(MOST, max(LEAST, self.view.canvas.scale * share))
        self._size()

    def ask_menu(self, at: QPoint) -> None:
        """What can be done with the sheet and its chord."""
        self.menu(at)

    def turn(self, by: int) -> None:
        """Go to the next page or the one before."""
        tops = self.view.canvas.tops()
        bar = self.view.pages_area.verticalScrollBar()
        now = max((n for n, top in enumerate(tops) if top <= bar.value() + 2 * GAP), default=0)
        if tops:
            bar.setValue(round(tops[min(len(tops) - 1, max(0, now + by))]) - GAP)

    # --- the selected chord and its note ---
    def _selected(self) -> None:
        canvas = self.view.canvas
        canvas.selected = self.first_pass() if self.sheet.picks else -1
        marked = self.desk.selection.marked if self.sheet.picks else ()
        canvas.marked = tuple(dict.fromkeys(map(self.first_pass, marked)))
        canvas.update()
        place = canvas.place_of(canvas.selected)
        if place is not None:
            self.view.pages_area.ensureVisible(round(place.center().x()), round(place.center().y()), 60, 120)
        self._show_notes()

    def _reselected(self) -> None:
        """Another chord: the sheet goes there; a stretch in twelve keys is another one."""
        self._selected()
        if self.view.kind.currentData() == TWELVE:
            self.ask()

    def _remarked(self) -> None:
        """Other bars are marked: a sheet of them alone is another one."""
        self._show_kind()
        self._reselected()
        if self.view.of.currentData() == "mark":
            self.ask()

    def _follow(self, index: int) -> None:
        """Mark the chord that sounds, and keep it in sight; -1 for none."""
        canvas, solution = self.view.canvas, self.desk.solution
        on = index >= 0 and solution is not None and self.sheet.picks and index < len(solution.voicings)
        now = self.first_pass(index) if on else -1
        if now != canvas.playing:
            canvas.playing = now
            canvas.update()
            place = canvas.place_of(now) if now >= 0 and self.view.isVisible() else None
            if place is not None:
                self.view.pages_area.ensureVisible(round(place.center().x()), round(place.center().y()), 60, 160)

    def first_pass(self, index: int | None = None) -> int:
        """A chord's first place in the solution, as it stands on the sheet; of the selected one where none is named."""
        solution = self.desk.solution
        if solution is None or self.desk.selection.moment is None:
            return -1
        slot = (self.desk.selection.moment if index is None else solution.voicings[index].here).slot_id
        return next(i for i, v in enumerate(solution.voicings) if v.here.slot_id == slot)

    def _picked(self, voicing: int) -> None:
        if self.sheet.picks:
            self.desk.selection.go(voicing)
            self.view.setFocus()

    def _show_notes(self) -> None:
        view, here = self.view, self.desk.selection.moment
        memos = {memo.slot: memo.words for memo in self.desk.state.memos}
        if self.desk.solution is not None and here is not None:
            words = pretty_signs(
                describe_chord(self.desk.answers.state.song, self.desk.solution, self.desk.selection.index)
            )
            view.chord_words.setText(f"Note on {words}")
        view.chord_note.setEnabled(here is not None)
        self._fill(view.chord_note, memos.get(here.slot_id, "") if here is not None else "")
        self._fill(view.song_note, memos.get(0, ""))

    @staticmethod
    def _fill(line: Any, words: str) -> None:
        if line.text() != words:
            line.setText(words)

    def _noted(self, of: str) -> None:
        here = self.desk.selection.moment
        if of == "chord" and here is None:
            return
        slot, symbol = (0, "the song") if of == "song" or here is None else (here.slot_id, here.symbol)
        line = self.view.song_note if of == "song" else self.view.chord_note
        edit = memo_edit(self.desk.state, slot, symbol, line.text())
        if edit is not None:
            self.desk.document.do(edit)

    # --- what the window's keys do here ---
    def step(self, by: int) -> None:
        """Scroll."""
        bar = self.view.pages_area.verticalScrollBar()
        bar.setValue(bar.value() + by * bar.singleStep() * 3)

    def leave(self) -> bool:
        """Give the pages the width of the view again."""
        zoomed, self.zoom = bool(self.zoom), 0.0
        self._size()
        return zoomed

    def close(self) -> None:
        """Stop the worker."""
        self.solver.close()
