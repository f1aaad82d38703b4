"""What patterns ask of the hands that play them, as data (wants.toml) and as a filter over a chord's placings."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache

import msgspec

from yellow_hinge.core.leading.prices.scenes import PlacingContext
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.placing import PAD, HandSet
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.tables import read_table


class Want(msgspec.Struct, frozen=True):
    """One thing that is wanted; the fields are explained at the head of wants.toml."""

    id: str
    notes: int
    count: tuple[int, int]
    families: tuple[str, ...]
    spans: tuple[int, ...] = ()
    folded: bool = False
    least_span: int = 0
    fifth: bool = False
    low: tuple[int, int] = (0, 127)
    rest: tuple[int, int] | None = None
    broken: int = 0

    @property
    def hand(self) -> str:
        """Whose it is, "left" or "right"."""
        return self.id.partition(" ")[0]


class Wanted(msgspec.Struct, frozen=True):
    """What a pattern asks of one hand in a section, bar or chord (`at` is its id) or in the whole song (0): the id of a
    want, "" for nothing; `breaks`: it strikes that hand note by note; `own`: it was chosen for that hand alone.
    """

    at: int
    hand: str
    want: str = ""
    breaks: bool = False
    own: bool = False


class _File(msgspec.Struct, frozen=True):
    want: tuple[Want, ...]


@lru_cache(maxsize=1)
def wants() -> dict[str, Want]:
    """Everything that patterns may want, by its id."""
    return {want.id: want for want in read_table(__file__, _File).want}


def wanted_at(wanted: Iterable[Wanted], moment: Moment) -> list[Wanted]:
    """What is wanted of each hand at a chord: of the narrowest place, of two as narrow what is the hand's own."""
    found: dict[str, Wanted] = {}
    for each in sorted(wanted, key=lambda each: (moment.narrowness(each.at), each.own), reverse=True):
        if moment.narrowness(each.at) >= 0:
            found.setdefault(each.hand, each)
    return [each for each in found.values() if each.want in wants()]


def fits(want: Want, hand: HandSet, scene: PlacingContext) -> NDArray[np.bool_]:
    """Which placings (n,) of its hand meet a want."""
    span = np.where(hand.count > 1, hand.high - hand.low, 0)
    found: NDArray[np.bool_] = (hand.count >= want.count[0]) & (hand.count <= want.count[1])
    found &= (span >= want.least_span) & (hand.low >= want.low[0]) & (hand.low <= want.low[1])
    if want.spans:
        near = np.isin(span % 12 if want.folded else span, want.spans)
        if want.fifth:
            own = [(scene.root + degree_pc(degree)) % 12 for degree in scene.palette.place("5")]
            near |= (hand.low % 12 == scene.root) & np.isin(hand.high % 12, own) & (span < 12)
        found &= near
    if want.rest is not None:
        second = np.where(hand.count > 1, hand.pitches[:, 1], PAD)
        found &= (second >= want.rest[0]) & (hand.high <= want.rest[1]) & (hand.high - second <= 12)
    return found
