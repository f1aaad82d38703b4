"""What of the open song is selected and marked, and what is asked about the selected chord."""

from __future__ import annotations

from collections import Counter

from yellow_hinge.app.desk.answers import Answers
from yellow_hinge.app.desk.events import Event, Hub
from yellow_hinge.app.desk.marked import Marked, bar_places, marked_places, spot_of
from yellow_hinge.core.leading.answer import Option, Solution, Voicing, options
from yellow_hinge.core.leading.prices.hinge import Hinge, hinge_words, make_hinge
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import Moment


class Selection:
    """The selected chord of a solution, by its place in it, and a mark over some."""

    def __init__(self, hub: Hub, answers: Answers) -> None:
        self._hub, self._answers = hub, answers
        self.index = 0
        self.mark: Marked | None = None
        self.written: Address | None = None  # a chord that was picked where it is written
        self.this_pass = False  # what is taken, kept and asked of a repeat is for the selected pass alone
        self._counted: tuple[Solution | None, Counter[int]] = None, Counter()  # how often each chord is played
        hub.listeners.append(self._on_desk)

    def _on_desk(self, what: Event) -> None:
        if what == Event.OPENED:
            self.index, self.written = 0, None
        elif what == Event.SOLUTION:
            self.written = None
            self.index = min(self.index, max(0, len(self._voicings) - 1))
        elif what == Event.STATE and self._answers.solution is None:
            self.written = None

    @property
    def _voicings(self) -> tuple[Voicing, ...]:
        return tuple(self._answers.solution.voicings) if self._answers.solution is not None else ()

    # --- the chord ---
    def go(self, index: int) -> None:
        """Select a chord of the solution; out of range goes to the nearest end."""
        count = len(self._voicings)
        index = min(max(index, 0), count - 1) if count else 0
        self.written = None
        if index != self.index:
            self.index = index
            self._hub.tell(Event.SELECTION)
        if self.marked and index not in self.marked:
            self.unmark()

    def begin_at(self, index: int) -> None:
        """The chord that is selected once the song is solved."""
        self.index = max(0, index)

    def go_to(self, address: Address) -> None:
        """Select the chord written there, the first time it is played."""
        self.written = address
        found = (index for index, voicing in enumerate(self._voicings) if voicing.here.address == address)
        index = next(found, None)
        if index is not None:
            self.go(index)
            self.written = address

    @property
    def voicing(self) -> Voicing | None:
        """The selected chord's voicing."""
        voicings = self._voicings
        return voicings[self.index] if voicings else None

    @property
    def moment(self) -> Moment | None:
        """The selected chord in its time."""
        return self.voicing.here if self.voicing else None

    @property
    def address(self) -> Address | None:
        """Where the selected chord is written."""
        if self.written is not None:
            return self.written
        return self.voicing.here.address if self.voicing else None

    @property
    def passes(self) -> int:
        """How often the selected chord is played in the song."""
        here, solution = self.moment, self._answers.solution
        if here is None or solution is None:
            return 0
        if self._counted[0] is not solution:
            self._counted = solution, Counter(voicing.here.slot_id for voicing in solution.voicings)
        return self._counted[1][here.slot_id]

    @property
    def only(self) -> tuple[int, int] | None:
        """The pass that what is taken now is for, None for all of them."""
        return self.moment.pass_id if self.this_pass and self.moment is not None and self.passes > 1 else None

    def turn_pass(self, on: bool | None = None) -> None:
        """What is taken, kept and asked of a repeat is for one pass alone, or for all; turned where nothing is said."""
        self.this_pass = not self.this_pass if on is None else on

    # --- the mark ---
    @property
    def marked(self) -> range:
        """The places of the marked chords in the solution; empty where none are marked."""
        return marked_places(self._answers.solution, self.mark)

    def mark_to(self, index: int, anew: bool = False) -> None:
        """Draw the mark to a chord: from where it began, or from the selected chord where none is, or with `anew`."""
        voicings = self._voicings
        if not voicings:
            return
        index = min(max(index, 0), len(voicings) - 1)
        old = self.mark if self.marked and not anew else None
        self.mark = Marked(old.anchor if old else spot_of(voicings[self.index]), spot_of(voicings[index]))
        self.go(index)
        self._hub.tell(Event.MARK)

    def mark_places(self, places: range) -> None:
        """Mark a stretch of chords."""
        voicings = self._voicings
        if voicings and places:
            self.mark = Marked(spot_of(voicings[places[0]]), spot_of(voicings[places[-1]]))
            self._hub.tell(Event.MARK)

    def mark_bars(self) -> None:
        """Mark the bar of the selected chord; where whole bars are marked already, the next one too."""
        solution, now = self._answers.solution, self.marked
        if solution is None or not solution.voicings:
            return
        whole = bool(now) and bar_places(solution, now) == now
        last = min(now[-1] + 1, len(solution.voicings) - 1) if whole else self.index
        self.mark_places(bar_places(solution, range(now[0] if now else self.index, last + 1)))

    def mark_section(self) -> None:
        """Mark the section of the selected chord as it is played."""
        if self.moment is not None:
            own = [n for n, v in enumerate(self._voicings) if v.here.section == self.moment.section]
            self.mark_places(range(own[0], own[-1] + 1))

    def unmark(self) -> bool:
        """Mark nothing any more; False where nothing was marked."""
        was, self.mark = bool(self.marked), None
        if was:
            self._hub.tell(Event.MARK)
        return was

    # --- other ways to play it ---
    def options(self) -> list[Option]:
        """Ways to play the selected chord, best first; none while nothing is solved."""
        solution = self._answers.solution
        return options(solution, self.index) if solution is not None and solution.voicings else []

    def following(self) -> Voicing | None:
        """The chord after the selected one, the first after the last where the song loops."""
        solution = self._answers.solution
        if solution is None or not solution.voicings:
            return None
        after, count = self.index + 1, len(solution.voicings)
        if after == count and not solution.setup.loop:
            return None
        return solution.voicings[after % count]

    def previewed(self, option: Option) -> tuple[Voicing, Hinge | None, str]:
        """The selected chord played another way: its voicing, the hinge to the next chord and its sentence."""
        solution, old = self._answers.solution, self.voicing
        assert solution is not None
        assert old is not None
        fingers = solution.fingers_for(self.index, option.both)
        voicing = old._replace(both=option.both, family=option.family, family_name=option.family_name, fingers=fingers)
        after = self.following()
        if after is None:
            return voicing, None, ""
        way = solution.way_to(solution.voicings.index(after))
        hinge = make_hinge(voicing.both, after.both, solution.setup.mine, way, (fingers, after.fingers))
        return voicing, hinge, hinge_words(hinge, voicing.both, after.both, (voicing.chord, after.chord))

    def instead(self, new: Voicing) -> tuple[Hinge, str]:
        """What the hands do otherwise where another voicing takes the place of the selected one, and its sentence."""
        solution, old = self._answers.solution, self.voicing
        assert solution is not None
        assert old is not None
        hinge = make_hinge(
            old.both, new.both, solution.setup.mine, solution.way_to(self.index), (old.fingers, new.fingers)
        )
        return hinge, hinge_words(hinge, old.both, new.both, (old.chord, new.chord))
