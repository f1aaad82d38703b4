"""What the Swaps view does: finds, tries, hears and takes other chords, for one chord or the whole song."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QListWidgetItem

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.swapping import take_bolder, take_swap
from yellow_hinge.app.edits.state import State
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.of_swaps import FoundSwaps, Preview, SwapFinder
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.reharm.words import UNTESTED, bass_words
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.symbols.writing import number_text, write_number
from yellow_hinge.ui.paint.around import from_bar, neighbourhood, same_time
from yellow_hinge.ui.paint.controls import PATIENCE_MS
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.parts.ribbon import Ribbon
from yellow_hinge.ui.parts.rooms import Quiet
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.swaps.link_strip import with_link_turned
from yellow_hinge.ui.swaps.scene import change_words, was_words
from yellow_hinge.ui.swaps.view import SwapsView

NOTHING_YET = "Choose first how bold the whole song may become."


class Swapping(QObject, Quiet):
    """Ties the view to the desk, a worker of its own, the keyboards, the ribbon and the ear."""

    _answered = Signal(object)
    _worked = Signal(float)

    def __init__(self, desk: Desk, view: SwapsView, keys: KeysPanel, ribbon: Ribbon, listening: Listening) -> None:
        super().__init__(view)
        self.desk, self.view, self.keys, self.ribbon, self.listening = desk, view, keys, ribbon, listening
        self.finder = SwapFinder(self._answered.emit, self._worked.emit, "swaps")
        self.preview: Preview | None = None
        self._for: tuple[Solution, int] | None = None  # the solution and chord that the list is for
        self.listed = False  # whether all swaps of that chord are
        self._working_on: State | None = None  # the whole song that is worked on
        self._patience = QTimer(self)
        self._patience.setSingleShot(True)
        self._patience.setInterval(PATIENCE_MS)
        self._patience.timeout.connect(lambda: view.strip.show_working(True))
        self._answered.connect(self._answer)
        self._worked.connect(lambda share: view.strip.progress.setValue(round(share * 100)))
        view.seen.connect(self.refresh)
        view.changed_.connect(self._changed)
        view.solved_.connect(self.refresh)
        view.reselected.connect(self.refresh)
        view.heard.connect(self.sound)
        view.maps.struck.connect(lambda midi: listening.player.strike(((midi, "right"),)))
        view.swaps.tried.connect(lambda _: self._show())
        view.swaps.taken.connect(lambda swap: take_swap(desk, swap))
        view.links.turned.connect(self._turn)
        view.bold.looked_at.connect(self._look)
        view.bold.refused_changed.connect(self._without)
        view.strip.asked.connect(self.ask_whole)
        view.strip.taken.connect(self.take_whole)
        view.strip.left.connect(self.leave_whole)

    def close(self) -> None:
        """Stop the worker."""
        self.finder.close()

    # --- asking ---
    def refresh(self) -> None:
        """Ask for the swaps of the selected chord, where they are looked at, and show the place anew."""
        desk = self.desk
        if not self.view.isVisible() or desk.selection.voicing is None or desk.solution is None:
            return
        at = desk.selection.index
        if not self._is_for(desk.solution, at) and not self.view.whole and self._working_on is None:
            self._for, self.listed = (desk.solution, at), False
            self.view.heading.setText(f"Swaps for {voicing_text(desk.selection.voicing)}, looking…")
            self.view.swaps.show_swaps([], None)
            self.finder.ask(desk.solution, desk.selection.index)
        if self.view.whole:
            self.view.bold.look_at(desk.selection.address)
        self._show()

    def _is_for(self, solution: Solution, chord: int) -> bool:
        """Whether the list is for a chord of a solution."""
        return self._for is not None and self._for[0] is solution and self._for[1] == chord

    def ask_whole(self) -> None:
        """Ask for what the whole song becomes at the boldness that is set."""
        strip, state = self.view.strip, self.desk.state
        if strip.boldness == 0 or not state.song.sections:
            self.leave_whole()
            return
        self._patience.start()
        self._working_on = state
        if not self.view.whole:  # swaps of one chord wait
            self._for = None
            self.view.heading.setText("Working on the whole song…")
            self.view.swaps.show_swaps([], None)
            self._show()
        self.finder.ask_whole(state, strip.boldness, strip.protect, strip.apart.isChecked())

    def _without(self) -> None:
        if self.preview is not None and self.preview.bolder is not None:
            self.finder.ask_without(self.preview, self.preview.bolder, self.view.bold.refused)

    def exchange(self) -> None:
        """Put the next best in the place of the change under the cursor."""
        at = self.view.bold.at
        if self.preview is not None and self.preview.bolder is not None and at is not None:
            found = self.preview.bolder.exchanged(at)
            self.view.bold.put_changes(found)
            self.finder.ask_without(self.preview, found, self.view.bold.refused)

    # --- answers ---
    def _answer(self, found: FoundSwaps | Preview | Bug) -> None:
        if isinstance(found, Bug):
            raise found.error
        if found.number != self.finder.asked:
            return
        if isinstance(found, Preview):
            self._show_preview(found)
        elif self._is_for(found.solution, found.chord):
            self._list(found)

    def _list(self, found: FoundSwaps) -> None:
        voicing = found.solution.voicings[found.chord]
        moment, count, self.listed = voicing.here, len(found.swaps), found.whole
        name = voicing_text(voicing)
        words = f"This chord: {count} swaps for {name}" if count else f"No swap fits {name} here"
        self.view.heading.setText(words if found.whole else f"This chord: {count} swaps for {name} so far…")
        self.view.swaps.show_swaps(found.swaps, moment.key, more=True)
        self._show()

    def _show_preview(self, found: Preview) -> None:
        self._stop_waiting()
        strip, view = self.view.strip, self.view
        if found.bolder is None or found.solution is None:
            strip.show_preview(found.fault, False)
            return
        fresh = self.preview is None or not view.bold.shows(found.bolder)
        self.preview = found
        if fresh:
            view.bold.show_changes(found.bolder)
        view.show_whole(True)
        count = sum(1 for change in found.bolder.changes if change.at not in found.refused)
        view.heading.setText(f"Whole song: {count} of {len(found.bolder.changes)} changes ticked")
        before = self.desk.solution.totals.motion if self.desk.solution else 0
        unsure = "" if found.bolder.exact else "; another mix may be a little easier"
        gone = len(found.bolder.given_up)
        less = f"; {gone} of a lesser boldness gave way" if gone else ""
        words = f"{before} → {semitones(found.solution.totals.motion)} in the whole song{less}{unsure}"
        strip.show_preview(words, bool(count))
        self.ribbon.mark(frozenset(change.at for change in found.bolder.changes) - found.refused)
        if (
            fresh
            and found.bolder.changes
            and self.desk.selection.address not in {change.at for change in found.bolder.changes}
        ):
            self.desk.selection.go_to(found.bolder.changes[0].at)
        view.bold.look_at(self.desk.selection.address)
        self._show()

    def _look(self, at: Address) -> None:
        if at != self.desk.selection.address:
            self.desk.selection.go_to(at)

    def _turn(self, link: int) -> None:
        swaps = self.view.swaps
        other = with_link_turned(swaps.swaps, swaps.current, link) if swaps.current is not None else None
        if other is not None:
            swaps.go_to(other)

    # --- what is shown ---
    @property
    def becomes(self) -> tuple[Solution, int] | None:
        """What is tried, with the place of its first new chord; None while nothing is."""
        solution, swap = self.desk.solution, self.view.swaps.current
        if solution is None or self.desk.selection.voicing is None:
            return None
        if self.view.whole:
            preview = self.preview
            if preview is None or preview.solution is None or not preview.solution.voicings:
                return None
            return same_time(solution, preview.solution, self.desk.selection.index)
        return (swap.played, min(1, self.desk.selection.index)) if swap is not None else None

    @property
    def _span(self) -> int:
        """How many chords are looked at together."""
        swap = self.view.swaps.current
        return swap.span if swap is not None and not self.view.whole else 1

    def _show(self) -> None:
        desk, view = self.desk, self.view
        voicing, solution, becomes = desk.selection.voicing, desk.solution, self.becomes
        if voicing is None or solution is None or not view.isVisible():
            view.maps.clear()
            return
        moment = voicing.here
        view.name.setText(voicing_text(voicing))
        number = number_text(write_number(voicing.chord, moment.key))
        view.facts.setText("  ·  ".join(filter(None, (number, was_words(desk.was())))))
        now = neighbourhood(solution, desk.selection.index, self._span)
        view.links.show_swap(None if view.whole else view.swaps.current, view.swaps.swaps)
        view.maps.show_maps(now, becomes, desk.answers.state.song, desk.simple_names, self._title())
        view.words.setText(self._words(view.swaps.current, bool(moment.tune)))
        for name in ("becomes", "turn"):
            view.hear[name].setEnabled(becomes is not None)
        view.setAccessibleDescription(self._described(view.swaps.current))
        if becomes is None:
            self.keys.refresh()
        else:
            self.keys.show_instead(becomes[0].voicings[becomes[1]])

    def _described(self, swap: Swap | None) -> str:
        """What is under the cursor, for screen readers."""
        item: QListWidgetItem | None
        if self.view.whole:
            item = self.view.bold.currentItem()
        else:
            item = self.view.swaps.currentItem() if swap is not None else None
        return item.text() if item is not None else ""

    def _title(self) -> str:
        if self.view.whole:
            return "As it would be"
        return "With the swap"

    def _words(self, swap: Swap | None, tested: bool) -> str:
        if self.view.whole:
            return self._why_changed()
        if swap is None:
            return "Up and down try a swap; Enter takes it." if tested else f"Up and down try a swap; {UNTESTED}."
        return pretty_signs(f"{swap.reason}; {bass_words(swap.bass, swap.bass_moves)}")

    def _why_changed(self) -> str:
        """Why the chord under the cursor changes, in full, and what can be done about it."""
        at = self.view.bold.at
        change = next((c for c in self.view.bold.changes if c.at == at), None)
        if change is None:
            return "Up and down go through the changes; Enter leaves one out, X puts the next best in its place."
        return f"{change_words(change)[1]}. Enter leaves it out, X is the next best, P plays on from this bar."

    # --- hearing and taking ---
    def hear(self) -> bool:
        """Play what is tried."""
        self.sound("becomes")
        return True

    def in_turn(self) -> bool:
        """Play it as it is, then changed."""
        self.sound("turn")
        return True

    def sound(self, what: str) -> None:
        """Play "now", "becomes" or both in "turn"."""
        solution, becomes, song = self.desk.solution, self.becomes, self.desk.answers.state.song
        if solution is None or self.desk.selection.voicing is None:
            return
        if what == "now" or becomes is None:
            self.listening.around(self._span)
        elif what == "turn":
            now, _ = neighbourhood(solution, self.desk.selection.index, self._span)
            self.listening.in_turn((now, becomes[0]), song)
        elif self.view.whole and self.preview is not None and self.preview.solution is not None:
            made = self.preview
            from_here = from_bar(solution, self.preview.solution, self.desk.selection.index)
            self.listening.other(from_here, made.becomes.song, made.becomes.playing)
        else:
            self.listening.other(becomes[0], song)

    def step(self, by: int) -> None:
        """Up or down the list."""
        (self.view.bold if self.view.whole else self.view.swaps).step(by)

    def take(self) -> None:
        """Take the swap under the cursor; in the whole song, refuse the change there or take it back in."""
        if self.view.whole:
            self.view.bold.toggle()
        else:
            self.view.swaps.take()

    def take_whole(self) -> None:
        """Make the song what the preview shows."""
        if self.preview is None or self.preview.bolder is None:
            self.view.strip.show_preview(NOTHING_YET, False)
            return
        found, refused = self.preview.bolder, self.view.bold.refused
        becomes = self.preview.becomes if self.preview.apart is not None else None
        self.leave_whole()
        count = take_bolder(self.desk, found, refused, becomes)
        if count:
            self.view.strip.show_preview(f"{count} of {len(found.changes)} changes taken", False)

    def leave(self) -> bool:
        """Try nothing any more; whether something was tried."""
        if self.view.whole or self._working_on is not None:
            self.leave_whole()
            return True
        return self.view.swaps.leave()

    def leave_whole(self) -> None:
        """Leave the preview; the song is as it was."""
        self._stop_waiting()
        self.finder.forget()
        self.preview = None
        self.view.strip.set_boldness(0)
        self.view.strip.show_preview("", False)
        self.view.show_whole(False)
        self.ribbon.mark(frozenset())
        self._for = None
        self.refresh()

    def _stop_waiting(self) -> None:
        self._working_on = None
        self._patience.stop()
        self.view.strip.show_working(False)

    def _changed(self) -> None:
        """A preview of another song is worth nothing now, one for other wishes or keeps is made anew."""
        old, new = self._working_on or (self.preview.state if self.preview else None), self.desk.state
        if old is None:
            return
        if old.question[0] != new.question[0]:
            self.leave_whole()
        elif (old.setup, old.keeps) != (new.setup, new.keeps):
            self.ask_whole()
