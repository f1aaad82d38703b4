"""The answer for a whole song as it is read: voicings, hinges, totals, and other ways for each chord."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.fingering import Fingered, fingered_between, parted
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.asking.wants import wants
from yellow_hinge.core.leading.asking.wishes import FIRST
from yellow_hinge.core.leading.chain.lattice import Lattice
from yellow_hinge.core.leading.chain.stage import Place, Stage, way_between
from yellow_hinge.core.leading.chain.steps import Cheapest
from yellow_hinge.core.leading.prices.hinge import HANDS, Both, Hinge, hinge_words
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.promises import HandChange, keeps, style_words
from yellow_hinge.core.leading.prices.remarks import Remark
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.pitch.pitch import Pitch, pitch_of
from yellow_hinge.core.shapes.describe import shape_label
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

KEPT = "kept"
OWN_NAME = "Your own"


class Voicing(NamedTuple):
    """Both hands of one chord. `moment` indexes the timeline, `stage` the lattice; `family` is a shape id or KEPT;
    `remarks` are what the player should know of it; `fingers` play it between its neighbours; `here` is
    its moment.
    """

    moment: int
    stage: int
    chord: Chord
    both: Both
    family: str
    family_name: str
    remarks: tuple[Remark, ...]
    fingers: Fingered
    here: Moment

    @property
    def warnings(self) -> tuple[str, ...]:
        """The remarks' sentences."""
        return tuple(remark.words for remark in self.remarks)

    @property
    def broken(self) -> bool:
        """Whether the left hand is wider than it holds, and struck one after the other."""
        return any(remark.kind == "broken" for remark in self.remarks)

    def pitches(self, hand: str) -> tuple[Pitch, ...]:
        """The notes of the "left" or "right" hand, spelled as degrees of the chord."""
        return tuple(pitch_of(note, self.chord.note_of(note % 12)) for note in self.both.of(hand))

    @property
    def left(self) -> tuple[int, ...]:
        """Left-hand notes."""
        return self.both.left

    @property
    def right(self) -> tuple[int, ...]:
        """Right-hand notes."""
        return self.both.right


class Option(NamedTuple):
    """Another way to play a chord: `extra` is what the whole song costs more with it, in thousandths; `row` and
    `column` are its state.
    """

    both: Both
    family: str
    family_name: str
    extra: int
    row: int
    column: int


class Totals(NamedTuple):
    """Sums over a song: semitones in all and per hand, notes held, largest single move, cost in thousandths. Where not
    `exact`, no song is cheaper by more than `gap`. `kept`: changes that do what the song's style promises, and that
    could.
    """

    motion: int
    left_motion: int
    right_motion: int
    held: int
    largest_move: int
    cost: int
    exact: bool
    gap: int = 0
    kept: tuple[int, int] = (0, 0)


class Solution(NamedTuple):
    """`hinges[i]` leads from voicing i to i + 1, or back to 0 where the song loops. `setup` is what was asked."""

    moments: tuple[Moment, ...]
    voicings: tuple[Voicing, ...]
    hinges: tuple[Hinge, ...]
    totals: Totals
    setup: Setup
    lattice: Lattice
    solved: Cheapest | None

    def words(self, index: int, hands: str = "both") -> str:
        """The sentence of a hinge, of "both" hands or one."""
        old, new = self.voicings[index], self.voicings[(index + 1) % len(self.voicings)]
        who = HANDS if hands == "both" else (hands,)
        return hinge_words(self.hinges[index], old.both, new.both, (old.chord, new.chord), who)

    def fingers_for(self, index: int, both: Both) -> Fingered:
        """The fingers of chord `index` played as `both`, its neighbours as they are."""
        beside = []
        for at in (index - 1, index + 1):
            inside = 0 <= at < len(self.voicings) or (self.setup.loop and len(self.voicings) > 1)
            beside.append(self.voicings[at % len(self.voicings)] if inside else None)
        found = []
        for hand in HANDS:
            known = [(v.both.of(hand), v.fingers.of(hand)) if v is not None else None for v in beside]
            found.append(fingered_between(known[0], both.of(hand), known[1], hand))
        return as_struck(Fingered(*found), both, self.lattice.places[index])

    def keeps(self, index: int, style: str = "") -> bool | None:
        """Whether the change to chord `index` keeps what its style, or another one, promises; see `promises.keeps`."""
        if len(self.voicings) < 2 or (index == 0 and not self.setup.loop):
            return None
        change = HandChange(self.voicings[index - 1].both, self.voicings[index].both, self.way_to(index))
        return keeps(style or self.lattice.places[index].asked.style, change, self.setup.mine)

    def style_words(self) -> str:
        """How far the song's style keeps what it promises, in a sentence."""
        return style_words(self.setup.style or FIRST.style, self.setup.mine, self.totals.kept)

    def way_to(self, index: int) -> Way:
        """What the change is led by that arrives at chord `index`."""
        places = self.lattice.places
        return way_between(places[index - 1], places[index])


def family_of(stage: Stage, at: tuple[int, int]) -> tuple[str, str]:
    """(id, name) of the family of a state; a kept voicing that no shape makes is the player's own."""
    if stage.foreign == at or not stage.shapes:
        return KEPT, OWN_NAME
    shape = stage.shapes[int(stage.place.family[at])]
    return shape.id, shape.name


def as_struck(fingers: Fingered, both: Both, place: Place) -> Fingered:
    """Fingers of a chord; of a left hand that leaps from its bass to its chord, chosen for each of them by itself."""
    leaps = any(wants()[name].rest is not None for name in place.asked.wants)
    return fingers._replace(left=parted(both.left, "left")) if leaps and len(both.left) > 1 else fingers


_LOOKED_AT = 600
_SAME_RIGHT, _SAME_FAMILY = 2, 8


def _cheapest(price: NDArray[np.int32]) -> list[tuple[int, int]]:
    """(row, column) of the states that are looked at, the cheapest first."""
    flat = price.ravel()
    count = min(_LOOKED_AT, flat.size)
    near = np.argpartition(flat, count - 1)[:count] if count < flat.size else np.arange(flat.size)
    return [divmod(int(n), price.shape[1]) for n in near[np.lexsort((near, flat[near]))]]


def options(solution: Solution, index: int, most: int = 24) -> list[Option]:
    """Ways to play chord `index`, the cheapest for the song first, thinned to different ideas: at most two with the
    same right hand and, where there are several, eight of a family. The first is the one in the solution.
    """
    assert solution.solved is not None
    stage, price = solution.lattice.stages[index], solution.solved.price(index)
    chosen_state = solution.solved.path[index]
    states = [chosen_state, *_cheapest(price)]
    found: list[Option] = []
    rights: dict[tuple[int, ...], int] = {}
    families: dict[str, int] = {}
    of_one = _SAME_FAMILY if len(stage.shapes) > 2 else most
    for row, column in states:
        extra = int(price[row, column]) - solution.solved.cost
        right, (family, name) = stage.right.notes(column), family_of(stage, (row, column))
        seen = bool(found) and (row, column) == chosen_state
        full = (rights.get(right, 0) >= _SAME_RIGHT and bool(right)) or families.get(family, 0) >= of_one
        if seen or full or int(price[row, column]) >= INFINITE:
            continue
        rights[right] = rights.get(right, 0) + 1
        families[family] = families.get(family, 0) + 1
        left = stage.left.notes(row)
        if family != KEPT:
            shape, at = stage.shapes[int(stage.place.family[row, column])], solution.lattice.places[index]
            name = shape_label(shape, at.chord, at.key, left, right)
        found.append(Option(Both(left, right), family, name, extra, row, column))
        if len(found) == most:
            break
    return found
