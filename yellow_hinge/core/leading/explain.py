"""Why a voicing won: one sentence from the terms of its cost, its hinge, the runner-up and what the hands cannot
reach.
"""

from __future__ import annotations

from collections import Counter

from yellow_hinge.core.fingering import FINGER_NAMES
from yellow_hinge.core.leading.answer import KEPT, Option, Solution, options
from yellow_hinge.core.leading.ladder import too_wide
from yellow_hinge.core.leading.price import hinge_cost
from yellow_hinge.core.leading.prices.hinge import Both, Hinge, semitones
from yellow_hinge.core.leading.prices.placing_cost import family_terms, own_terms
from yellow_hinge.core.leading.prices.promises import PROMISES
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.shapes.placing import one_hand

# What the runner-up does worse, by the term of its price; "hinges" stands for the changes on both sides.
WORSE = {
    "hinges": "makes the fingers travel more into it and out of it",
    "mud": "is muddier",
    "muddy": "is muddy",
    "rub": "has a half step that rubs",
    "seven_rub": "has the root right over its seventh",
    "crushed": "has the sharp ninth right under the third",
    "top_rub": "has a half step under the top",
    "cluster": "crowds its notes",
    "stretch": "stretches the hand more",
    "home": "lies farther from the hands' home",
    "thin": "is thinner",
    "prefer": "is a less usual shape",
    "gap": "leaves a gap between the hands",
    "doubled": "doubles notes",
    "ninth": "has a minor ninth between the hands",
    "bare": "has less colour",
    "crowded": "has more colour than asked",
    "singer": "sits in the singer's register",
    "inverted": "puts another note in the bass",
}
_NUMBERS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")


def terms(both: Both, family: str, solution: Solution, index: int) -> Counter[str]:
    """The price of chord `index` played as `both`, in thousandths, by the weight that makes it; "hinges" is the price
    of the changes on both sides with the neighbours as they are. The melody's share is left out.
    """
    stage, weights = solution.lattice.stages[index], solution.lattice.places[index].asked.weights
    left, right = one_hand(both.left), one_hand(both.right)
    found: Counter[str] = Counter(hinges=hinge_cost(both, solution, index))
    for own in own_terms(left, right, stage.scene, weights):
        found.update({k: int(v[0]) for k, v in own.items()})
    shape = next((shape for shape in stage.shapes if shape.id == family), None)
    if shape is not None:
        for side, hand in enumerate((left, right)):
            found.update({k: int(v[0]) for k, v in family_terms(hand, shape, side, stage.scene, weights).items()})
    return found


def _number(count: int) -> str:
    return _NUMBERS[count] if count < len(_NUMBERS) else str(count)


def _moved(hinge: Hinge) -> str:
    moving = [step for step in hinge.steps if step.semitones]
    keeps = f"keeps {_number(hinge.held)}" if hinge.held else "keeps no note"
    if not moving:
        return f"no finger travels; {keeps}"
    if len(moving) == 1:
        return f"the {moving[0].hand} {FINGER_NAMES[moving[0].fingers[0]]} moves alone; {keeps}"
    return f"{_number(len(moving))} fingers move {semitones(hinge.motion)}; {keeps}"


def against(other: Option, solution: Solution, index: int) -> str:
    """What another way to play the chord does worse than the one that won; "" where no term of its price says."""
    won = solution.voicings[index]
    mine, its = terms(won.both, won.family, solution, index), terms(other.both, other.family, solution, index)
    name, most = max(((k, its[k] - mine[k]) for k in WORSE), key=lambda pair: pair[1])
    return WORSE[name] if most > 0 else ""


NEXT_TO_NOTHING = UNIT // 20


def _runner_up(way: Option, solution: Solution, index: int) -> str:
    """What the next best way costs and does worse."""
    if way.extra < -NEXT_TO_NOTHING:
        kept = any(stage.free is not None for stage in solution.lattice.stages)
        cause = "what is kept" if kept else "the tune that the top sings"
        return f"{way.family_name} would cost the whole song {-way.extra / UNIT:.1f} less, but for {cause}"
    if way.extra < NEXT_TO_NOTHING:
        return f"the next best ({way.family_name}) is as good for the whole song"
    worse = against(way, solution, index)
    price = f"the next best ({way.family_name}) costs the whole song {way.extra / UNIT:.1f} more"
    return f"{price} and {worse}" if worse else price


def reason(solution: Solution, index: int, ways: list[Option] | None = None) -> str:
    """Why chord `index` is played as it is, in one sentence. `ways` are its options, where they are at hand."""
    won = solution.voicings[index]
    if won.family == KEPT:
        return "kept as you like it"
    parts = []
    if index or solution.setup.loop:
        parts.append("into it " + _moved(solution.hinges[index - 1]))
    elif solution.hinges:
        parts.append("out of it " + _moved(solution.hinges[0]))
    ways = options(solution, index, 2) if ways is None else ways
    if len(ways) > 1:
        parts.append(_runner_up(ways[1], solution, index))
    if solution.keeps(index) is False:
        parts.append(PROMISES[solution.lattice.places[index].asked.style].words)
    wide = too_wide(solution, index)
    if wide is not None:
        parts.append(f"the wider one is {wide.past_mm} mm past your {wide.hand} hand")
    return "; ".join(parts)
