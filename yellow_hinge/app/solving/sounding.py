"""How the song sounds, read beside the interface."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.performing import Performance, performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.song.song import Song

if TYPE_CHECKING:
    from yellow_hinge.core.leading.chain.lattice import Builder
    from yellow_hinge.sound.leveling import Levels


class Sounding(NamedTuple):
    """A solution as it is played; `tempo` in beats a minute is that of its song."""

    solution: Solution
    playing: Playing
    tempo: int
    performance: Performance
    levels: Levels | None = None  # where they were measured

    def fits(self, solution: Solution, playing: Playing, tempo: int) -> bool:
        """Whether that is how a solution sounds."""
        return self.solution is solution and (self.playing, self.tempo) == (playing, tempo)


def sounding(solution: Solution, song: Song, playing: Playing) -> Sounding:
    """How a solution of a song sounds."""
    return Sounding(solution, playing, song.tempo, performed(solution, song, playing))


class Performer(Newest[Sounding]):
    """Reads how solutions sound."""

    def ask(self, solution: Solution, song: Song, playing: Playing) -> int:
        """Put a solution to the worker; returns the question's number."""

        def work(builder: Builder, number: int) -> Sounding:
            from yellow_hinge.sound.leveling import leveled  # loads NumPy

            found = sounding(solution, song, playing)
            return found._replace(levels=leveled(found.performance))

        return self.put(work)
