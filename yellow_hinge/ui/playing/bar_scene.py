"""A bar of the playing as it is drawn: plates, flags, counts and heads, with where they lie."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.performing import BarLine

HEAD_H, LANE_H, PEDAL_H = 58.0, 30.0, 22.0
PLATE_W, PLATE_H = 26.0, 16.0


class StruckPlate(msgspec.Struct, frozen=True):
    """A key struck: where, how long it is held and rings on (right edges), how tall for how loud; `added`: the hands
    do not hold it.
    """

    x: float
    y: float
    held: float
    rings: float
    tall: float
    hand: str
    midi: int
    place: int
    finger: str
    added: bool = False


class Flag(msgspec.Struct, frozen=True):
    """A stroke of the pattern in its hand's lane: its left edge and width, what it says, which chord and hit it is."""

    x: float
    width: float
    y: float
    text: str
    hand: str
    place: int
    index: int


class Count(msgspec.Struct, frozen=True):
    """A beat, or a part of one: its place and name ("" between the counts)."""

    x: float
    text: str


class BarHead(msgspec.Struct, frozen=True):
    """A chord of the bar: where it begins, its name, and the patterns of its hands."""

    x: float
    width: float
    text: str
    pattern: str
    place: int


class BarScene(msgspec.Struct, frozen=True):
    """The whole picture of a bar. `left` and `scale`: pixels of its first tick, and pixels a tick."""

    plates: tuple[StruckPlate, ...]
    flags: tuple[Flag, ...]
    counts: tuple[Count, ...]
    heads: tuple[BarHead, ...]
    pedals: tuple[tuple[float, float], ...]
    low: int
    high: int
    step: float
    top: float
    lanes: dict[str, float]
    pedal_y: float
    bar: BarLine
    left: float
    scale: float
    width: float
    height: float

    def x_of(self, tick: int) -> float:
        """The horizontal place of a tick."""
        return self.left + (tick - self.bar.start) * self.scale

    def y_of(self, midi: int) -> float:
        """The vertical centre of a pitch."""
        return self.top + (self.high - midi + 0.5) * self.step

    def tick_at(self, x: float) -> int:
        """The tick under a horizontal place, inside the bar."""
        tick = round((x - self.left) / self.scale) + self.bar.start
        return min(max(tick, self.bar.start), self.bar.end - 1)

    def flag_at(self, x: float, y: float) -> Flag | None:
        """The stroke of a lane under a point."""
        inside = (f for f in self.flags if f.x - 2 <= x <= f.x + f.width and f.y <= y <= f.y + LANE_H)
        return next(inside, None)

    def lane_at(self, y: float) -> str:
        """The hand whose lane a height is in, "" for none."""
        return next((hand for hand, top in self.lanes.items() if top <= y < top + LANE_H), "")

    def plate_at(self, x: float, y: float) -> StruckPlate | None:
        """The struck key under a point."""
        near = (p for p in self.plates if p.x - 2 <= x <= p.x + PLATE_W and abs(p.y - y) <= PLATE_H / 2 + 1)
        return next(near, None)
