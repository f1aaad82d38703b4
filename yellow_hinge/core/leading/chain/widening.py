"""The stage of a chord where nothing is kept: with the families asked for, else with the next wider ones."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from yellow_hinge.core.leading.asking.asked import Asked, chosen_shapes, of_all, widenings
from yellow_hinge.core.leading.asking.wish_words import COLOUR_LEVELS
from yellow_hinge.core.leading.chain.making import making_of, stages_of, trial
from yellow_hinge.core.leading.chain.stage import Place, Stage, scene_of, used
from yellow_hinge.core.shapes.catalogue import Shape


def first_stages(places: Sequence[Place]) -> list[Stage | None]:
    """The stages of some chords with the families asked for, made in one pass; None where they have no voicing."""
    shapes = {asked: chosen_shapes(asked) for asked in dict.fromkeys(at.asked for at in places)}
    return stages_of([making_of(at, shapes[at.asked], scene_of(at)) for at in places])


def free_stage(at: Place) -> Stage | None:
    """The stage of a chord; where no family asked for fits, the nearest wider one, which a note says. None also where
    it has no hands that its patterns want.
    """
    scene = scene_of(at)
    if at.asked.wants:
        own = chosen_shapes(at.asked)
        return trial(at, own, scene) or trial(at, tuple(dict.fromkeys((*own, *of_all(at.asked)))), scene)
    for attempt, shapes in enumerate(widenings(at.asked)):
        if attempt == 1 and at.asked.families:
            brighter = _at_higher_level(at)
            if brighter is not None:
                return brighter
        stage = trial(at, shapes, scene)
        if stage is not None:
            wider = attempt > 0 and not _is_usual(at.asked, shapes)
            return _said_wider(stage, at, shapes) if wider else stage
    return None


def _said_wider(stage: Stage, at: Place, shapes: tuple[Shape, ...]) -> Stage:
    names = ", ".join(shape.name for shape in shapes if shape in used(stage))
    which = "chosen" if at.asked.families else "usual"
    return stage._replace(notes=(f"no {which} shape fits this chord, so a wider one is used: {names}",))


def _is_usual(asked: Asked, shapes: tuple[Shape, ...]) -> bool:
    """Whether nobody asked for others: where a manner has no hands for a chord, it takes the usual ones."""
    return not asked.families and all(shape.usual for shape in shapes)


def _at_higher_level(at: Place) -> Stage | None:
    """The stage of the families asked for at the next colour level that lets them sound; their choice weighs more."""
    for level in range(at.asked.colour + 1, len(COLOUR_LEVELS)):
        found = at._replace(asked=replace(at.asked, colour=level))
        stage = trial(found, chosen_shapes(at.asked), scene_of(found))
        if stage is not None:
            return stage._replace(notes=(f"this shape needs colour level {level} here: {COLOUR_LEVELS[level]}",))
    return None
