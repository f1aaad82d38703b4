"""Changing a pattern of one's own: strokes chosen, added, moved, changed and taken out, by mouse and keys."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import cast

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import offset_of, shift_lead_in
from yellow_hinge.app.desk.playing.own import (
    beats_of,
    changed_hit,
    copy_of,
    edited,
    next_what,
    on_grid,
    put_own,
    with_hit,
    written,
)
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.rhythm.asked import HandWish
from yellow_hinge.core.rhythm.fills.offered import lead_in_at
from yellow_hinge.core.rhythm.pattern.patterns import GHOST, LOUDER, SOFTER, TICK, Hit
from yellow_hinge.core.rhythm.striking import Played
from yellow_hinge.ui.parts.pointing.things import Own
from yellow_hinge.ui.playing.view import PlayingView
from yellow_hinge.ui.sound.listening import Listening

Key = Qt.Key
HELP = (
    "Click an empty place of a lane to strike there. Up and down change what is struck, Shift+left and right move it, "
    "[ and ] its length, + and - how loud, Delete takes it out."
)
FIRST = "all"
DRAG = "Drag it left or right: the lead-in begins there, and its notes share the time to the chord."
ASKED = "The hands hold these keys, so they are struck; the pattern does not write them."
STEPS_LOUD = (GHOST, SOFTER, 0, LOUDER, 2 * LOUDER)


class Editing(QObject):
    """What is done to strokes. `said` tells what could not be done."""

    said = Signal(str)

    def __init__(self, desk: Desk, view: PlayingView, listening: Listening) -> None:
        super().__init__(view)
        self.desk, self.view, self.listening = desk, view, listening
        view.canvas.installEventFilter(self)
        view.canvas.chosen.connect(self._choose)
        view.canvas.placed.connect(self._place)
        view.canvas.shifted.connect(self.move)
        view.canvas.led.connect(self._hold_lead_in)
        view.canvas.led_by.connect(self._move_lead_in)
        self._lead_in: tuple[int, int] | None = None  # the chord over which a held one sounds, and one of its notes
        self._keys: dict[int, Callable[[Hit], None]] = {
            Key.Key_Up: lambda hit: self._what(hit, -1), Key.Key_Down: lambda hit: self._what(hit, 1),
            Key.Key_Plus: lambda hit: self._loud(hit, 1), Key.Key_Equal: lambda hit: self._loud(hit, 1),
            Key.Key_Minus: lambda hit: self._loud(hit, -1), Key.Key_Delete: self._delete,
            Key.Key_Backspace: self._delete, Key.Key_BracketLeft: lambda hit: self._longer(hit, -1),
            Key.Key_BracketRight: lambda hit: self._longer(hit, 1),
        }  # fmt: skip

    # --- which stroke ---
    def _choose(self, hand: str, place: int, index: int) -> None:
        self.view.canvas.hit = (hand, place, index) if hand else None
        if hand:
            self.desk.selection.go(place)
            self.said.emit(HELP)
            here = self._here()
            if here is not None:
                self.view.canvas.step = round(here.moment.meter.beat_quarters * TICK / self._parts(here))
        self.view.canvas.update()

    @staticmethod
    def _parts(here: Played) -> int:
        """Into how many parts of a beat strokes are moved."""
        return 3 if here.moment.meter.compound else 2 if here.swings else 4

    def _here(self) -> Played | None:
        """The chord whose stroke is chosen."""
        performance, hit = self.listening.performance, self.view.canvas.hit
        return performance.row[hit[1]] if performance and hit and hit[1] < len(performance.row) else None

    def _chosen(self) -> tuple[Played, str, Hit] | None:
        """The chord, hand and stroke that are chosen, the stroke as its pattern writes it."""
        here, hit = self._here(), self.view.canvas.hit
        if here is None or hit is None or hit[2] >= len(here.hits[hit[0]]):
            return None
        found = written(here, hit[0], here.hits[hit[0]][hit[2]])
        if found is None:
            self.said.emit(ASKED)
        return (here, hit[0], found) if found is not None else None

    # --- lead-ins ---
    def _hold_lead_in(self, place: int, midi: int) -> None:
        self._lead_in = place, midi
        performance = self.listening.performance
        if performance is not None and lead_in_at(performance.row, self.desk.state.playing, place, midi) is not None:
            self.view.canvas.step = round(performance.row[place].moment.meter.beat_quarters * TICK / 4)
            self.said.emit(DRAG)

    def _move_lead_in(self, by: int) -> None:
        """The held lead-in begins earlier or later."""
        performance, held = self.listening.performance, self._lead_in
        if performance is None or held is None:
            return
        row = performance.row
        found = lead_in_at(row, self.desk.state.playing, *held)
        if found is not None:
            place, fill = found
            shift_lead_in(self.desk, row, place, fill, by)

    # --- what is done ---
    def copy(self) -> None:
        """Make the pattern of the selected chord one's own, and choose its first stroke."""
        performance = self.listening.performance
        if performance is None or self.desk.selection.voicing is None:
            return
        hand = "left" if self.view.hand == "left" else "right"
        here = performance.row[self.desk.selection.index]
        self._put(here, hand, lambda hits: hits, "copy")
        self.view.canvas.hit = (hand, self.desk.selection.index, 0)
        self.view.canvas.setFocus(Qt.FocusReason.OtherFocusReason)
        self.said.emit(HELP)

    def _put(self, here: Played, hand: str, edit: Callable[[tuple[Hit, ...]], tuple[Hit, ...]], label: str) -> None:
        beats = max(1, round(here.moment.quarters / here.moment.meter.beat_quarters))
        try:
            pattern = edited(copy_of(here, hand, self.desk.state.playing.patterns), hand, edit, beats)
        except UserError as error:
            self.said.emit(str(error))
            return
        place = self.view.for_place
        put_own(self.desk, pattern, place, cast(HandWish, self.view.hand), label)

    def _place(self, hand: str, tick: int) -> None:
        """Strike where nothing is struck."""
        performance = self.listening.performance
        if performance is None:
            return
        place = max(0, performance.place_at(tick))
        here = performance.row[place]
        at = self._grid(here, hand, tick - here.start)
        self.desk.selection.go(place)
        length = Fraction(1, 3) if here.moment.meter.compound else Fraction(1, 2)
        self._put(here, hand, lambda hits: with_hit(hits, at, length, FIRST), "a stroke")
        self._find(place, hand, at)

    def _grid(self, here: Played, hand: str, tick: int) -> Fraction:
        pattern = here.patterns[hand]
        beats = beats_of(tick, here.moment) + (offset_of(here.moment) if pattern.bar else 0)
        return on_grid(beats, here.moment.meter.compound, here.swings) % Fraction(pattern.beats or 4)

    def _find(self, place: int, hand: str, at: Fraction) -> None:
        """Choose the stroke at a place of the pattern again."""
        performance = self.listening.performance
        if performance is None or place >= len(performance.row):
            return
        here = performance.row[place]
        hits = here.hits[hand]
        places = {i: own.at for i, timed in enumerate(hits) if (own := written(here, hand, timed)) is not None}
        near = min(places, key=lambda i: abs(places[i] - at), default=None)
        self.view.canvas.hit = (hand, place, near) if near is not None else None
        self.view.canvas.update()

    def _change(self, hit: Hit, label: str, **fields: object) -> None:
        found = self._chosen()
        if found is not None:
            here, hand, _ = found
            self._put(here, hand, lambda hits: changed_hit(hits, hit.at, **fields), label)
            self._find(here.place, hand, cast(Fraction, fields.get("at", hit.at)))

    def _what(self, hit: Hit, by: int) -> None:
        found = self._chosen()
        if found is not None:
            self._change(hit, "what is struck", what=next_what(found[1], hit.what, by))

    def _loud(self, hit: Hit, by: int) -> None:
        near = min(STEPS_LOUD, key=lambda loud: abs(loud - hit.louder))
        louder = STEPS_LOUD[min(max(STEPS_LOUD.index(near) + by, 0), len(STEPS_LOUD) - 1)]
        self._change(hit, "how loud", louder=louder)

    def _longer(self, hit: Hit, by: int) -> None:
        step = Fraction(by, 4)
        self._change(hit, "how long", length=max(Fraction(1, 4), (hit.length or Fraction(1)) + step))

    def _delete(self, hit: Hit) -> None:
        found = self._chosen()
        if found is not None:
            here, hand, _ = found
            self._put(here, hand, lambda hits: tuple(h for h in hits if h.at != hit.at), "a stroke less")
            self._find(here.place, hand, hit.at)

    def move(self, by: int) -> None:
        """The chosen stroke earlier or later by a part of a beat."""
        found = self._chosen()
        if found is not None:
            here, hand, hit = found
            parts = self._parts(here)
            length = Fraction(here.patterns[hand].beats) or beats_of(here.length, here.moment)
            at = min(max(Fraction(0), hit.at + Fraction(by, parts)), length - Fraction(1, parts))
            self._change(hit, "where it is struck", at=at)

    def ways(self) -> list[Own]:
        """What can be done with the chosen stroke, in words."""
        keys = (
            ("Strike something else", Key.Key_Down, False), ("Earlier", Key.Key_Left, True),
            ("Later", Key.Key_Right, True), ("Longer", Key.Key_BracketRight, False),
            ("Shorter", Key.Key_BracketLeft, False), ("Louder", Key.Key_Plus, False),
            ("Softer", Key.Key_Minus, False), ("Take it out", Key.Key_Delete, False),
        )  # fmt: skip
        return [(words, partial(self._press, key, shift)) for words, key, shift in keys]

    def step(self, by: int) -> None:
        """Choose the next or the previous stroke of the hand."""
        here, hit = self._here(), self.view.canvas.hit
        if here is not None and hit is not None and here.hits[hit[0]]:
            self.view.canvas.hit = (hit[0], hit[1], (hit[2] + by) % len(here.hits[hit[0]]))
            self.view.canvas.update()

    # --- keys ---
    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not isinstance(event, QKeyEvent) or self.view.canvas.hit is None:
            return False
        key = event.key()
        mine = key in self._keys or key in (Key.Key_Left, Key.Key_Right, Key.Key_Escape)
        if not mine or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        if event.type() != QEvent.Type.KeyPress:
            return False
        self._press(key, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        return True

    def _press(self, key: int, shift: bool) -> None:
        if key == Key.Key_Escape:
            self._choose("", -1, -1)
        elif key in (Key.Key_Left, Key.Key_Right):
            by = 1 if key == Key.Key_Right else -1
            self.move(by) if shift else self.step(by)
        else:
            found = self._chosen()
            if found is not None:
                self._keys[key](found[2])
