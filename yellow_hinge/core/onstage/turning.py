"""Where one is on stage, and what turns it: presses, letters, the clock. The line that is played stands in the middle,
the next one below it, always; the one that was left stays above, small, until the next turn.
"""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.onstage.lines import ShownLine

TWICE_S = 0.4  # in which a second press takes back the first


class Spot(NamedTuple):
    """Where the song is at a time: the line on the middle of the screen, the one that sounds and its bar, and how much
    of that bar has sounded (0 to 1). Before the song the first bar is at 0.
    """

    shown: int
    line: int
    bar: int
    share: float


class Run(NamedTuple):
    """The lines in the order of tonight, and which one is played."""

    lines: tuple[ShownLine, ...]
    at: int = 0

    @property
    def line(self) -> ShownLine | None:
        """The line that is played."""
        return self.lines[self.at] if self.lines else None

    @property
    def ending(self) -> bool:
        """Whether one is in the last two lines, where the next song is announced."""
        return self.at >= len(self.lines) - 2

    def on_screen(self) -> tuple[int, ...]:
        """The lines that are seen: the one that was left, the present one and the next."""
        return tuple(range(max(0, self.at - 1), min(len(self.lines), self.at + 2)))

    def turned(self, by: int) -> Run | None:
        """So many lines on, or back; None past either end."""
        at = self.at + by
        return self._replace(at=at) if 0 <= at < len(self.lines) else None

    def to_letter(self, letter: str) -> Run:
        """At the next section, going round, whose name begins with a letter; where there is none, here."""
        count = len(self.lines)
        for step in range(1, count + 1):
            line = self.lines[(self.at + step) % count]
            if line.begins and line.section[:1].casefold() == letter.casefold():
                return self._replace(at=(self.at + step) % count)
        return self

    def once_more(self) -> Run:
        """With the section that is played once more after its end."""
        if not self.lines:
            return self
        first, last = self.at, self.at
        while first > 0 and not self.lines[first].begins:
            first -= 1
        while last + 1 < len(self.lines) and not self.lines[last + 1].begins:
            last += 1
        section = self.lines[first : last + 1]
        return self._replace(lines=(*self.lines[: last + 1], *section, *self.lines[last + 1 :]))

    def starts(self) -> tuple[float, ...]:
        """When each line from the present one on begins, in seconds from its first bar, and when the last one ends."""
        found, now = [0.0], 0.0
        for line in self.lines[self.at :]:
            now += line.seconds
            found.append(now)
        return tuple(found)

    def spot(self, seconds: float) -> Spot | None:
        """Where the song is so many seconds after the present line's first bar began; None after its end."""
        starts = self.starts()
        if seconds >= starts[-1]:
            return None
        sounding = max(0, sum(start <= seconds for start in starts) - 1)
        line, rest = self.lines[self.at + sounding], max(0.0, seconds - starts[sounding])
        left = starts[sounding + 1] - seconds
        more = left <= line.turn and self.at + sounding + 1 < len(self.lines)
        for bar, own in enumerate(line.bars):
            if rest < own.seconds or bar == len(line.bars) - 1:
                return Spot(self.at + sounding + more, self.at + sounding, bar, min(1.0, rest / own.seconds))
            rest -= own.seconds
        raise AssertionError("a line has bars")


class Presses:
    """One switch for both ways: a press goes on at once, a second one soon after takes that back and goes one further
    back.
    """

    def __init__(self) -> None:
        self._last = float("-inf")

    def press(self, now: float) -> int:
        """By how many lines a press at a time (seconds) turns: 1, or -2."""
        if now - self._last < TWICE_S:
            self._last = float("-inf")
            return -2
        self._last = now
        return 1
