"""What the Playing view does: shows the bar of the selected chord, takes patterns, has rhythms tapped in, follows."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import cast

from PySide6.QtCore import QEvent, QObject, QPoint, Qt
from PySide6.QtGui import QKeyEvent

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import bar_places
from yellow_hinge.app.desk.playing.asking import (
    OWN,
    ahead_at,
    asked_pattern,
    asked_swing,
    in_pattern,
    put_ahead,
    put_swing,
    take_pattern,
)
from yellow_hinge.app.desk.playing.own import beats_of, forget_pattern, name_pattern, put_own, tapped
from yellow_hinge.app.desk.playing.places import sections_alike
from yellow_hinge.app.desk.sayings import opened_words
from yellow_hinge.core.leading.solution import stretch
from yellow_hinge.core.performing import Performance, performed
from yellow_hinge.core.pitch.key import spell_in_key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.asked import HandWish, Playing
from yellow_hinge.core.rhythm.asks import pattern_named
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.playing.editing import Editing
from yellow_hinge.ui.playing.scene import bar_scene, spoken
from yellow_hinge.ui.playing.view import USUAL_SWING, PlayingView
from yellow_hinge.ui.sound.listening import Listening

NO_SONG = "There is nothing to play yet."
TAPS = {Qt.Key.Key_F: "left", Qt.Key.Key_J: "right"}
TAPPING = "The bar goes round: tap F for the left hand and J for the right. Enter takes it, Escape leaves it."
PEDALS = {"chord": "pedal with every chord", "bass": "pedal with every bass note", "none": "no pedal"}


class PlayingRoom(QObject, Quiet):
    """Wires view, desk and listening."""

    def __init__(
        self, desk: Desk, view: PlayingView, listening: Listening, forget: Callable[[str], None],
        ask_name: Callable[[str, str], str],
    ) -> None:  # fmt: skip
        super().__init__(view)
        self.desk, self.view, self.listening = desk, view, listening
        self._forget, self._ask_name = forget, ask_name
        self.menu: Callable[[QPoint], object] = lambda at: None
        self._pointed = ""  # the pattern that is looked at before it is taken
        self._tried: tuple[object, Performance] | None = None
        self._taps: list[tuple[str, Fraction]] | None = None
        self._own = ""  # the id of the pattern of one's own that holds at the selected chord
        self.editing = Editing(desk, view, listening)
        for told in (view.changed_, view.solved_, view.reselected, view.seen, view.scoped):
            told.connect(self.refresh)
        listening.read.connect(self.refresh)
        view.canvas.resized.connect(self.redraw)
        view.canvas.picked.connect(desk.selection.go)
        view.canvas.struck.connect(lambda midi, hand: listening.player.strike(((midi, hand),)))
        view.fills.struck.connect(listening.player.strike)
        view.patterns.taken.connect(self.take_pattern)
        view.patterns.pointed.connect(self.point)
        view.swing.activated.connect(lambda _: self._take_swing(view.swing.currentText()))
        view.usual.clicked.connect(lambda: self.take_pattern(""))
        view.copy.clicked.connect(self.editing.copy)
        view.name.clicked.connect(self.name_pattern)
        view.forget.clicked.connect(self.forget_pattern)
        view.tap.clicked.connect(self._toggle_tapping)
        view.ahead.clicked.connect(self._take_ahead)
        view.keep.clicked.connect(desk.keep_others)
        view.installEventFilter(self)
        self.editing.said.connect(lambda words: self.view.told.setText(words))
        listening.player.moved.connect(self._moved)
        listening.player.at.connect(lambda place: self.view.canvas.show_mark(None) if place < 0 else None)

    # --- what is shown ---
    def _used(self) -> frozenset[str]:
        """The patterns of the selected chord, in the hands that are looked at."""
        performance, index = self.listening.ready, self.desk.selection.index
        if performance is None or self.desk.selection.moment is None or index >= len(performance.row):
            return frozenset()
        whose = ("left", "right") if self.view.hand == "both" else (self.view.hand,)
        return frozenset(performance.row[index].patterns[hand].id for hand in whose)

    def refresh(self) -> None:
        """Show what is asked and the bar of the selected chord."""
        if not self.view.isVisible():
            return
        self.redraw()
        alike = sections_alike(self.desk)
        if alike:
            self.view.name_places(alike[0].name, len(alike))
        place = self.view.for_place
        used = self._used()
        self._own = next((pattern for pattern in sorted(used) if pattern.startswith(OWN)), "")
        for button in (self.view.name, self.view.forget):
            button.setVisible(bool(self._own))
        self.view.patterns.refresh(used)
        self.view.fills.refresh()
        self._show_swing(asked_swing(self.desk, place))
        self.view.ahead.setChecked(ahead_at(self.desk, place, cast(HandWish, self.view.hand)))
        self.view.usual.setVisible(bool(asked_pattern(self.desk, place, cast(HandWish, self.view.hand))))
        opened = opened_words(self.desk)
        self.view.keep.setVisible(bool(opened))
        if self._taps is None:
            self.view.told.setText(" ".join(filter(None, (opened, self._words()))))

    def _take_ahead(self, on: bool) -> None:
        put_ahead(self.desk, self.view.for_place, cast(HandWish, self.view.hand), on)

    def _take_swing(self, text: str) -> None:
        place = self.view.for_place
        put_swing(self.desk, place, "" if text == USUAL_SWING else text.removesuffix("%"))

    def _show_swing(self, swing: str) -> None:
        """What is asked of the swing; percent of the player's own stand in the list, too."""
        text = f"{swing}%" if swing.isdecimal() else swing or USUAL_SWING
        if self.view.swing.findText(text) < 0:
            self.view.swing.addItem(text)
        self.view.swing.setCurrentText(text)

    def _words(self) -> str:
        """What holds at the selected chord, in a sentence."""
        performance = self.listening.ready
        if performance is None or self.desk.selection.index >= len(performance.row):
            return ""
        here = performance.row[self.desk.selection.index]
        right, left = here.patterns["right"], here.patterns["left"]
        both = right.name if right is left else f"right {right.name.lower()}, left {left.name.lower()}"
        song, moment = self.desk.answers.state.song, here.moment
        where = f"Bar {bar_number(song, moment.origin, moment.bar)}, {song.sections[moment.section].name}. "
        return f"{where}{both}: {right.words or 'your own'}; {PEDALS[left.pedal]}."

    def redraw(self) -> None:
        """Lay the bar out anew."""
        canvas, performance = self.view.canvas, self._shown()
        if performance is None and self.desk.solution is not None and self.desk.solution.voicings:
            return  # a long song is read first; what is shown stays
        canvas.words, canvas.selected = NO_SONG, self.desk.selection.index
        canvas.scene = None
        if performance is not None:
            canvas.scene = bar_scene(performance, self.desk.selection.index, canvas.width(), canvas.height())
        self._name_keys()
        canvas.setAccessibleDescription(spoken(canvas.scene, canvas.names) if canvas.scene is not None else "")
        canvas.update()

    def _name_keys(self) -> None:
        """What the keys of the bar are called: in the chord where they are its notes, else in the key."""
        canvas, moment, voicing = self.view.canvas, self.desk.selection.moment, self.desk.selection.voicing
        if canvas.scene is None or moment is None:
            return
        keys = {plate.midi for plate in canvas.scene.plates}
        canvas.names = {midi: pretty_signs(str(spell_in_key(midi % 12, moment.key))) for midi in keys}
        if voicing is not None:
            voiced, chord = {*voicing.left, *voicing.right}, voicing.chord
            canvas.names |= {midi: pretty_signs(str(chord.note_of(midi % 12))) for midi in keys & voiced}

    def point(self, pattern: str) -> None:
        """Show the bar as a pattern would strike it; "" as it is."""
        pattern = "" if pattern in self._used() else pattern
        if pattern != self._pointed:
            self._pointed, self.view.canvas.hit = pattern, None
            self.redraw()
            known = pattern_named(pattern, (*self.desk.state.playing.patterns, *self.desk.patterns))
            name = known.name if known is not None else ""
            self.view.told.setText(f"{name}: P plays this bar so, Enter takes it, Escape leaves it." if name else "")

    def _shown(self) -> Performance | None:
        """How the song is played, with the pattern that is pointed at."""
        playing, solution = self._playing(), self.desk.solution
        if playing is None or solution is None:
            return self.listening.ready
        asked = playing, self.desk.answers.state
        if self._tried is None or self._tried[0] != asked:
            self._tried = asked, performed(solution, self.desk.answers.state.song, playing)
        return self._tried[1]

    def _playing(self) -> Playing | None:
        """The playing that is pointed at, None for the song's own."""
        if not self._pointed or self.desk.selection.moment is None:
            return None
        return in_pattern(self.desk, self.view.for_place, cast(HandWish, self.view.hand), self._pointed)

    def hear(self) -> bool:
        """The bar in the pattern that is pointed at."""
        solution, playing = self.desk.solution, self._playing()
        if solution is None or playing is None:
            return False
        at = self.desk.selection.index
        places = bar_places(solution, range(at, at + 1))
        part = stretch(solution, places[0], places[-1])
        self.listening.other(part, self.desk.answers.state.song, playing)
        return True

    def _moved(self, frame: int) -> None:
        tick = self.listening.tick_of(frame) if self.view.isVisible() else None
        if tick is None:
            return
        scene = self.view.canvas.scene
        performance = self.listening.performance
        if scene is not None and performance is not None and not scene.bar.start <= tick < scene.bar.end:
            place = performance.place_at(tick)
            if place >= 0:
                canvas = self.view.canvas
                canvas.scene = bar_scene(performance, place, canvas.width(), canvas.height())
        self.view.canvas.show_mark(tick)

    # --- what is done ---
    def ask_menu(self, at: QPoint) -> None:
        """What can be done with the chosen stroke, else with the chord."""
        self.menu(at)

    def take_pattern(self, pattern: str) -> None:
        """Play the chosen place and hand in a pattern, "" as usual."""
        self._pointed = ""
        take_pattern(self.desk, self.view.for_place, cast(HandWish, self.view.hand), pattern)

    def name_pattern(self) -> None:
        """Ask for a name for one's own pattern."""
        known = pattern_named(self._own, self.desk.state.playing.patterns)
        name = self._ask_name("A name for this pattern:", known.name) if known is not None else ""
        if name:
            name_pattern(self.desk, self._own, name)

    def forget_pattern(self) -> None:
        """Take one's own pattern away, here and from what other songs know."""
        own = self._own
        self._forget(own)
        forget_pattern(self.desk, own)

    def step(self, by: int) -> None:
        """Go up or down the list that is shown."""
        self.view.list.step(by)

    def take(self) -> None:
        """Take what is under the cursor of the list that is shown."""
        if self._taps is not None:
            self._end_taps(True)
        else:
            self.view.list.take()

    def leave(self) -> bool:
        """Drop what is tapped or chosen; whether there was something."""
        if self._taps is not None:
            self._end_taps(False)
            return True
        had = self.view.canvas.hit is not None or bool(self._pointed)
        self.point("")
        self.view.canvas.hit = None
        self.view.canvas.update()
        return had

    # --- tapping ---
    def _toggle_tapping(self) -> None:
        if self._taps is not None:
            self._end_taps(True)
            return
        self.listening.stop()
        self._taps = []
        self.view.canvas.show_taps([])
        self.view.tap.setChecked(True)
        self.view.told.setText(TAPPING)
        self.view.setFocus(Qt.FocusReason.OtherFocusReason)
        self.listening.loop("bar", click_only=True)

    def _end_taps(self, take: bool) -> None:
        taps, self._taps = self._taps or [], None
        self.view.canvas.show_taps([])
        self.view.tap.setChecked(False)
        self.listening.stop()
        performance, moment = self.listening.performance, self.desk.selection.moment
        if take and performance is not None and moment is not None:
            bar = performance.bar_at(performance.starts[self.desk.selection.index])
            length = beats_of(bar.end - bar.start, moment) if bar else Fraction(4)
            number = 1 + sum(1 for own in self.desk.state.playing.patterns if own.id not in patterns())
            swings = performance.row[self.desk.selection.index].swings
            made = tapped(taps, length, moment.meter.compound, number, swings)
            if made is not None:
                place = self.view.for_place
                put_own(self.desk, made, place, cast(HandWish, self.view.hand), "the rhythm")
        self.refresh()

    def tap(self, hand: str) -> None:
        """One tap of a hand, where the bar is now."""
        frames, performance = self.listening.player.frame, self.listening.performance
        tick = self.listening.tick_of(frames) if frames is not None else None
        bar = performance.bar_at(tick) if performance is not None and tick is not None else None
        if self._taps is not None and bar is not None and tick is not None and self.desk.selection.moment is not None:
            self._taps.append((hand, beats_of(tick - bar.start, self.desk.selection.moment)))
            self.view.canvas.show_taps([*self.view.canvas.taps, (hand, tick)])

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if self._taps is None or not isinstance(event, QKeyEvent):
            return False
        keys: dict[int, Callable[[], None]] = {
            Qt.Key.Key_Return: lambda: self._end_taps(True), Qt.Key.Key_Enter: lambda: self._end_taps(True),
            Qt.Key.Key_Escape: lambda: self._end_taps(False),
        }  # fmt: skip
        key = Qt.Key(event.key())
        if key not in TAPS and key not in keys:
            return False
        if event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
        elif event.type() == QEvent.Type.KeyPress and not event.isAutoRepeat():
            if key in TAPS:
                self.tap(TAPS[key])
            else:
                keys[key]()
        return True
