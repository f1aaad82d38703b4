"""What the player hears: which hands, from where, looped or not."""

from __future__ import annotations

from PySide6.QtCore import QObject

from yellow_hinge.app.desk import Desk
from yellow_hinge.core.leading.solution import Option, Solution
from yellow_hinge.core.song import Song
from yellow_hinge.sound.mixing import HANDS
from yellow_hinge.ui.player import Player


class Listening(QObject):
    """The commands of the Listen menu on the desk's solution."""

    def __init__(self, desk: Desk, parent: QObject) -> None:
        super().__init__(parent)
        self.desk = desk
        self.player = Player(self)
        self.hands = "both"
        self.tune = False

    @property
    def parts(self) -> tuple[str, ...]:
        """The parts that sound."""
        return HANDS[self.hands] + (("tune",) if self.tune else ())

    def hear(self, hands: str) -> None:
        """Hear "left", "right" or "both"."""
        self.hands = hands

    def toggle_tune(self) -> None:
        """With or without the melody."""
        self.tune = not self.tune

    def toggle(self) -> None:
        """Play from the selected chord to the end, or stop."""
        if self.player.playing:
            self.player.stop()
        elif self.desk.solution is not None and self.desk.voicing is not None:
            self._play(self.desk.selected, len(self.desk.solution.voicings) - 1, self.desk.state.setup.loop)

    def loop_hinge(self) -> None:
        """Repeat the selected chord and the next, or stop."""
        if self.player.playing:
            self.player.stop()
        elif self.desk.solution is not None and self.desk.voicing is not None:
            last = min(self.desk.selected + 1, len(self.desk.solution.voicings) - 1)
            self._play(self.desk.selected, last, True)

    def chord(self, option: Option | None = None) -> None:
        """Sound the selected chord once, as `option` plays it where one is being tried."""
        voicing = self.desk.voicing
        if voicing is not None:
            both = option.both if option is not None else voicing.both
            notes = tuple((n, "left") for n in both.left) + tuple((n, "right") for n in both.right)
            self.player.strike(tuple((n, part) for n, part in notes if part in self.parts))

    def around(self, span: int = 1) -> None:
        """Play the selected chord, or `span` of them from it on, between their neighbours as they are, or stop."""
        if self.player.playing:
            self.player.stop()
        elif self.desk.solution is not None and self.desk.voicing is not None:
            last = min(self.desk.selected + span, len(self.desk.solution.voicings) - 1)
            self._play(max(0, self.desk.selected - 1), last, False)

    def other(self, solution: Solution, song: Song) -> None:
        """Play another solution from beginning to end, such as a swap between its neighbours."""
        if self.player.playing:
            self.player.stop()
        else:
            last = len(solution.voicings) - 1  # its chords have no place on the ribbon
            self.player.play(solution, song, 0, last, self.parts, False, follow=False)

    def in_turn(self, ways: tuple[Solution, Solution], song: Song) -> None:
        """Play two ways one after the other, again and again, or stop."""
        if self.player.playing:
            self.player.stop()
        else:
            self.player.play_in_turn(ways, song, self.parts)

    def stop(self) -> None:
        """Fall silent."""
        if self.player.playing:
            self.player.stop()

    def _play(self, first: int, last: int, loop: bool) -> None:
        solution = self.desk.solution
        if solution is not None:
            self.player.play(solution, self.desk.solved_state.song, first, last, self.parts, loop)
