"""When no hand can hold a chord as it is written: what stands in the way, and the nearest that can be played instead,
so that one chord never refuses a song.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

import msgspec
from msgspec.structs import replace

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.chain.kept_stage import kept_chord
from yellow_hinge.core.leading.chain.making import trial
from yellow_hinge.core.leading.chain.stage import Place, Stage, scene_of
from yellow_hinge.core.leading.chain.widening import free_stage
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import catalogue
from yellow_hinge.core.shapes.palette import Palette

_SIMPLE = ("bass-close", "close-hands", "guide-tones", "rootless-3", "shell-root", "free")  # families that fit anything
ROLLED_REACH = 13


class Easing(NamedTuple):
    """A way to play what no hand can hold: its words, the place it is tried at, and what still has to sound."""

    words: str
    place: Place
    must: tuple[str, ...]


def _easings(at: Place, palette: Palette) -> Iterator[Easing]:
    """The nearest ways first: without what may be missed, rolled, with the notes that name it, in one hand."""
    quality, hands = at.chord.quality, at.asked.hands
    guides = tuple(d for d in (quality.third, quality.seventh, quality.sixth) if d) or ("1",)
    altered = tuple(d for d in palette.must if d[0] in "b#" and d not in guides)
    rolled = replace(
        hands, left_reach=max(hands.left_reach, ROLLED_REACH), right_reach=max(hands.right_reach, ROLLED_REACH)
    )
    wide = at._replace(asked=replace(at.asked, hands=rolled))
    yield Easing("some of its notes are left out", at, (*guides, *altered))
    yield Easing("it is rolled", wide, palette.must)
    yield Easing("only the notes that name it are played", at, guides)
    yield Easing("little of it is played", at._replace(top=None, asked=replace(at.asked, lift=0)), guides[:1])


def eased(at: Place) -> Stage:
    """The stage of a chord that no hand can hold as written; a note says what was done, why, and what would cure it."""
    scene = scene_of(at)
    shapes = tuple(shape for shape in catalogue() if shape.id in _SIMPLE and shape.suits(at.asked.bass))
    for way in _easings(at, scene.palette):
        palette = msgspec.structs.replace(scene.palette, must=way.must, tied=(), choice=())
        roomy = scene._replace(
            palette=palette, hands=way.place.asked.hands, quality=None, rooted=False, ends=True, upper=0
        )
        stage = trial(way.place, shapes, roomy)
        if stage is not None:
            return _said(stage, way.words, at)
    return _said(kept_chord(None, _two_notes(at), at), "its bass and its third are played", at)


def _said(stage: Stage, words: str, at: Place) -> Stage:
    rule, cure = relaxation(at)
    return stage._replace(notes=(*stage.notes, f"{words}: {rule}; {cure}"), eased=True)


def _two_notes(at: Place) -> Keep:
    """The least that can be said of a chord: its bass, where the player has it, and its third, or its root."""
    third = (at.chord.root.pc + degree_pc(at.chord.quality.third or "1")) % 12
    bass = 36 + at.chord.bass_note.pc
    return Keep(0, "", (bass,) if at.asked.mine else (), (60 + third,))


# --- what stands in the way --------------------------------------------------------------------------------------


def _trials(at: Place) -> Iterator[tuple[Place, str, str]]:
    """Smallest relaxations first: (the trial, the rule it lifts, what to do)."""
    asked, hands = at.asked, at.asked.hands
    if asked.lift:
        yield at._replace(asked=replace(asked, lift=0)), "the register climbs too far", "leave the register as it is"
    for level in range(asked.colour + 1, 4):
        rule = f"colour level {asked.colour} allows too few notes for the chosen shapes"
        yield at._replace(asked=replace(asked, colour=level)), rule, f"raise the colour level to {level}"
    for reach in range(min(hands.left_reach, hands.right_reach) + 1, 12):
        wider = replace(hands, left_reach=max(reach, hands.left_reach), right_reach=max(reach, hands.right_reach))
        found = at._replace(asked=replace(asked, hands=wider))
        yield found, "the hands cannot reach it", f"allow a reach of {reach} white keys"
    for notes in range(min(hands.left_notes, hands.right_notes) + 1, 6):
        more = replace(hands, left_notes=max(notes, hands.left_notes), right_notes=max(notes, hands.right_notes))
        yield (
            at._replace(asked=replace(asked, hands=more)),
            "a hand may play too few notes",
            f"allow {notes} notes a hand",
        )
    both = replace(hands, left_reach=11, right_reach=11, left_notes=5, right_notes=5)
    yield (
        at._replace(asked=replace(asked, hands=both)),
        "the hands reach too little and play too few notes",
        "allow a wider reach and more notes",
    )
    longer = at._replace(asked=replace(asked, hands=replace(hands, keys=88)))
    yield longer, "the keyboard is too short", "use 88 keys"


def relaxation(at: Place, make: Callable[[Place], Stage | None] = free_stage) -> tuple[str, str]:
    """(the rule that left nothing, the smallest way out) for a chord without voicing."""
    for changed, rule, way in _trials(at):
        if make(changed):
            return rule, way
    if at.top is not None:
        return "no shape has that note on top", "move it by an octave or let it go here"
    return "no shape of the catalogue holds all its notes", "leave out an alteration or an added note"
