"""What the whole song costs with one chord played in a given way, also in ways that no shape makes."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.hands import Hands, reach_mm, span_mm
from yellow_hinge.core.leading.answer import KEPT, OWN_NAME, Option, Solution, family_of
from yellow_hinge.core.leading.chain.kept_stage import row_of
from yellow_hinge.core.leading.chain.steps import Tables, step
from yellow_hinge.core.leading.prices.hinge import HANDS, Both, hinge_price
from yellow_hinge.core.leading.prices.motion import change_tables, prices
from yellow_hinge.core.leading.prices.placing_cost import own_price
from yellow_hinge.core.leading.prices.remarks import long_tune
from yellow_hinge.core.leading.prices.sets import tune_table
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import spell_in_key
from yellow_hinge.core.pitch.pitch import degree_pc, pitch_of
from yellow_hinge.core.shapes.placing import HandSet, one_hand


class Worth(NamedTuple):
    """What playing a chord in one way does to the song: `extra` thousandths more than the solution, exact or, in a loop
    and for a way that no shape makes, with the neighbours left as they are; `faults` why it cannot be played, () where
    it can.
    """

    extra: int
    faults: tuple[str, ...]


def _hand_faults(notes: tuple[int, ...], name: str, hands: Hands) -> Iterator[str]:
    low, high = hands.compass
    if span_mm(notes) > hands.limit(name, len(notes)):
        yield f"{round(span_mm(notes) - reach_mm(hands.reach(name)))} mm past your {name} hand"
    if len(notes) > hands.most(name):
        yield f"more than {hands.most(name)} notes in the {name} hand"
    if notes and not low <= notes[0] <= notes[-1] <= high:
        yield "off the keyboard"


def faults(both: Both, solution: Solution, index: int, hands: Hands | None = None) -> tuple[str, ...]:
    """Why a voicing of chord `index` cannot be played as that chord, in sentences; () where it can."""
    at = solution.lattice.places[index]
    hands = hands or at.asked.hands
    found = [fault for name in HANDS for fault in _hand_faults(both.of(name), name, hands)]
    if both.left and both.right and both.right[0] <= both.left[-1]:
        found.append("the hands cross")
    if solution.setup.mine and both.left and both.left[0] % 12 not in solution.voicings[index].chord.pitch_classes:
        found.append(f"{pitch_of(both.left[0], spell_in_key(both.left[0] % 12, at.key)).note} cannot be its bass")
    if at.top is not None and (not both.right or both.right[-1] != at.top):
        found.append(f"{pitch_of(at.top, spell_in_key(at.top % 12, at.key))} has to be on top")
    missing = missing_degrees(both, solution, index)
    if missing:
        found.append(f"it lacks {' '.join(missing)}")
    return tuple(found)


def missing_degrees(both: Both, solution: Solution, index: int) -> list[str]:
    """The degrees that must sound at chord `index` and do not."""
    scene = solution.lattice.stages[index].scene
    sounding = {note % 12 for note in (*both.left, *both.right)}
    if not scene.mine:
        sounding.add(scene.bass_pc)
    if solution.lattice.places[index].chord != solution.voicings[index].chord:  # the tune has the fourth
        sounding |= {midi % 12 for midi in long_tune(solution.voicings[index].here)}
    lacks = [d for d in scene.palette.must if (scene.root + degree_pc(d)) % 12 not in sounding]
    for colour, tone in scene.palette.tied:
        first, second = ((scene.root + degree_pc(d)) % 12 in sounding for d in (colour, tone))
        lacks += [tone] if first and not second and tone not in lacks else []
    return lacks


def _own(both: Both, solution: Solution, index: int) -> int:
    stage, weights = solution.lattice.stages[index], solution.lattice.places[index].asked.weights
    left, right = one_hand(both.left), one_hand(both.right)
    tune = long_tune(solution.voicings[index].here)
    clash = int(tune_table(left, right, tune, stage.scene, weights)[0, 0]) if tune else 0
    return own_price(left, right, stage.shapes, stage.scene, weights) + clash


def local_cost(both: Both, solution: Solution, index: int) -> int:
    """Price of a voicing that belongs to no family and of its two hinges, the neighbours as they are."""
    return _own(both, solution, index) + hinge_cost(both, solution, index)


def hinge_cost(both: Both, solution: Solution, index: int) -> int:
    """Price of the hinges on both sides of chord `index` played as `both`, the neighbours as they are."""
    voicings, count, mine = solution.voicings, len(solution.voicings), solution.setup.mine
    total = 0
    if index > 0 or (solution.setup.loop and count > 1):
        total += hinge_price(voicings[index - 1].both, both, mine, solution.way_to(index))
    if index + 1 < count or (solution.setup.loop and count > 1):
        after = (index + 1) % count
        total += hinge_price(both, voicings[after].both, mine, solution.way_to(after))
    return total


def worth(both: Both, solution: Solution, index: int) -> Worth:
    """What playing chord `index` as `both` does to the song."""
    solved, stage = solution.solved, solution.lattice.stages[index]
    assert solved is not None
    row, column = row_of(stage.left, both.left), row_of(stage.right, both.right)
    if row is not None and column is not None and int(solved.price(index)[row, column]) < INFINITE:
        return Worth(int(solved.price(index)[row, column]) - solved.cost, faults(both, solution, index))
    if not solved.behind:
        extra = local_cost(both, solution, index) - _current(solution, index)
    else:
        extra = (
            _own(both, solution, index) + _reached(both, solution, index) + _behind(both, solution, index) - solved.cost
        )
    return Worth(extra, faults(both, solution, index))


def as_option(both: Both, solution: Solution, index: int) -> Option:
    """Any voicing of chord `index` as a way to play it, priced like the listed ones; one that no shape makes is the
    player's own.
    """
    stage, extra = solution.lattice.stages[index], worth(both, solution, index).extra
    row, column = row_of(stage.left, both.left), row_of(stage.right, both.right)
    if row is None or column is None or int(stage.place.cost[row, column]) >= INFINITE:
        return Option(both, KEPT, OWN_NAME, extra, -1, -1)
    family, name = family_of(stage, (row, column))
    return Option(both, family, name, extra, row, column)


def _current(solution: Solution, index: int) -> int:
    assert solution.solved is not None
    stage, at = solution.lattice.stages[index], solution.solved.path[index]
    return int(stage.place.cost[at]) + hinge_cost(solution.voicings[index].both, solution, index)


def _change(
    old: tuple[HandSet, HandSet], new: tuple[HandSet, HandSet], solution: Solution, at: int
) -> tuple[Tables, Tables]:
    price, mine = prices(solution.way_to(at)), solution.setup.mine
    return change_tables(old[0], new[0], "left", mine, price), change_tables(old[1], new[1], "right", mine, price)


def _reached(both: Both, solution: Solution, index: int) -> int:
    """Cheapest cost from the first chord up to this one played as `both`, itself left out."""
    if index == 0:
        return 0
    assert solution.solved is not None
    before, chain = solution.lattice.stages[index - 1], solution.lattice.chain
    ahead = np.minimum(solution.solved.reached(index - 1) + chain.place[index - 1], INFINITE)
    hands = one_hand(both.left), one_hand(both.right)
    return int(step(ahead, *_change((before.left, before.right), hands, solution, index))[0, 0])


def _behind(both: Both, solution: Solution, index: int) -> int:
    """Cheapest cost from this chord played as `both` to the last, itself left out."""
    if index + 1 == len(solution.voicings):
        return 0
    assert solution.solved is not None
    after, chain = solution.lattice.stages[index + 1], solution.lattice.chain
    onward = np.minimum(solution.solved.behind[index + 1] + chain.place[index + 1], INFINITE)
    hands = one_hand(both.left), one_hand(both.right)
    left, right = _change(hands, (after.left, after.right), solution, index + 1)
    return int(step(onward, tuple(t.T for t in left), tuple(t.T for t in right))[0, 0])
