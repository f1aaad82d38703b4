"""Too wide for the hand: what players do about it, each way with its price for the song."""

from __future__ import annotations

from typing import Literal, NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.hands import OCTAVE_MM, Hands, reach_mm, span_mm
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.asked import chosen_shapes
from yellow_hinge.core.leading.chain.making import trial
from yellow_hinge.core.leading.chain.stage import Place, Stage, scene_of
from yellow_hinge.core.leading.price import Worth, faults, worth
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.motion import change_tables, prices
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.placing import one_hand

Kind = Literal["thin the left", "single note", "drop the fifth", "move across", "roll"]
# The ladder in the order in which players try it, and how each rung is said.
RUNGS: dict[Kind, str] = {
    "thin the left": "leave out the upper left-hand notes",
    "single note": "a single note for the octave",
    "drop the fifth": "drop the fifth",
    "move across": "move a note to the other hand",
    "roll": "roll it with the pedal",
}
ROLLED_MM = 2 * OCTAVE_MM  # two octaves: what a hand can still roll while the pedal holds


class EasierWay(NamedTuple):
    """One way out: its rung and words, the voicing, and what it costs the song more (thousandths)."""

    kind: Kind
    words: str
    both: Both
    extra: int


class TooWide(NamedTuple):
    """The voicing that would be played if the hands were wider: by how many mm it is past which hand."""

    both: Both
    hand: str
    past_mm: int
    saves: int  # thousandths by which it would be cheaper beside the neighbours as they are


def _wide_place(at: Place) -> Place:
    hands = replace(at.asked.hands, left_reach=13, right_reach=13, left_notes=5, right_notes=5)
    return at._replace(asked=replace(at.asked, hands=hands))


def _past(both: Both, hands: Hands) -> tuple[int, str]:
    """(mm, hand) of the hand that is farthest past its reach; 0 mm where both hold."""
    over = {name: span_mm(both.of(name)) - reach_mm(hands.reach(name)) for name in HANDS}
    hand = max(over, key=lambda name: over[name])
    return max(0, round(over[hand])), hand


def _beside_neighbours(stage: Stage, solution: Solution, index: int) -> np.ndarray:
    """Price (L, R) of every voicing of a stage and its hinges, the neighbours as they are."""
    total = stage.place.cost.astype(np.int64)
    mine, count = solution.setup.mine, len(solution.voicings)
    sets = {"left": stage.left, "right": stage.right}
    closed = solution.setup.loop and count > 1
    if index > 0 or closed:
        before = solution.voicings[index - 1].both
        price = prices(solution.way_to(index))
        ways = [change_tables(one_hand(before.of(h)), sets[h], h, mine, price) for h in HANDS]
        total = total + np.minimum.reduce([l[0][:, None] + r[0][None, :] for l, r in zip(*ways, strict=True)])
    if index + 1 < count or closed:
        after = (index + 1) % count
        price = prices(solution.way_to(after))
        ways = [change_tables(sets[h], one_hand(solution.voicings[after].both.of(h)), h, mine, price) for h in HANDS]
        total = total + np.minimum.reduce([l[:, 0][:, None] + r[:, 0][None, :] for l, r in zip(*ways, strict=True)])
    return total


def too_wide(solution: Solution, index: int) -> TooWide | None:
    """The voicing of the shapes asked for that wider hands would take at chord `index`, where these hands cannot hold
    it and it would be cheaper, or where they hold none of those shapes.
    """
    at = _wide_place(solution.lattice.places[index])
    stage = trial(at, chosen_shapes(at.asked), scene_of(at))
    if stage is None:
        return None
    hands = solution.lattice.places[index].asked.hands
    cost = _beside_neighbours(stage, solution, index)
    left, right = (_over(stage, name, hands) for name in HANDS)
    cost = np.where(left[:, None] | right[None, :], cost, 4 * INFINITE)
    if int(cost.min()) >= INFINITE:
        return None
    l, r = divmod(int(cost.argmin()), cost.shape[1])
    both = Both(stage.left.notes(l), stage.right.notes(r))
    own = _beside_neighbours(solution.lattice.stages[index], solution, index)
    assert solution.solved is not None
    saves = int(own[solution.solved.path[index]]) - int(cost[l, r])
    mm, hand = _past(both, hands)
    forced = bool(solution.lattice.stages[index].notes)
    return TooWide(both, hand, mm, saves) if mm and (saves > 0 or forced) else None


def _over(stage: Stage, hand: str, hands: Hands) -> np.ndarray:
    sets = stage.left if hand == "left" else stage.right
    return np.array([span_mm(sets.notes(i)) > hands.limit(hand, int(sets.count[i])) for i in range(len(sets))])


def _rungs(wide: Both, hands: Hands, fifth: int) -> list[tuple[Kind, Both]]:
    left, right = wide
    found: list[tuple[Kind, Both]] = [("thin the left", Both(left[:k], right)) for k in range(len(left) - 1, 0, -1)]
    octave = [note for note in left if note - 12 in left]
    if octave:
        found.append(("single note", Both(tuple(n for n in left if n not in octave), right)))
    for hand in HANDS:
        notes = tuple(n for n in wide.of(hand) if n % 12 != fifth)
        if notes != wide.of(hand) and notes:
            found.append(("drop the fifth", Both(notes, right) if hand == "left" else Both(left, notes)))
    if len(left) > 1:
        found.append(("move across", Both(left[:-1], tuple(sorted({left[-1], *right})))))
    if len(right) > 1:
        found.append(("move across", Both(tuple(sorted({*left, right[0]})), right[1:])))
    if all(span_mm(wide.of(hand)) <= ROLLED_MM for hand in HANDS):
        found.append(("roll", wide))
    return found


def ladder(solution: Solution, index: int, wide: Both) -> list[EasierWay]:
    """What to do about a voicing of chord `index` that is too wide, in the order of RUNGS: of each rung the cheapest
    way that holds what the chord must hold and fits the hands; a rolled one stays as wide as it is.
    """
    at = solution.lattice.places[index]
    hands = at.asked.hands
    fifth = (at.chord.root.pc + degree_pc(at.chord.quality.fifth or "5")) % 12
    best: dict[Kind, tuple[int, Both]] = {}
    for kind, both in _rungs(wide, hands, fifth):
        roomy = replace(hands, left_reach=13, right_reach=13) if kind == "roll" else hands
        beyond = faults(both, solution, index, roomy)
        if kind == "roll":
            beyond = tuple(fault for fault in beyond if "mm past" not in fault)
        found: Worth = worth(both, solution, index)
        if not beyond and (kind not in best or found.extra < best[kind][0]):
            best[kind] = (found.extra, both)
    return [EasierWay(kind, RUNGS[kind], best[kind][1], best[kind][0]) for kind in RUNGS if kind in best]
