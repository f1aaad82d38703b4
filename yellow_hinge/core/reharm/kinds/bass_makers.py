"""Makers of substitutes that change what is below: inversions, pedals, another chord over the root."""

from __future__ import annotations

from collections.abc import Iterator

from yellow_hinge.core.pitch.pitch import Note, spell
from yellow_hinge.core.reharm.context import Context, Idea, build, degree_above, on, over, shifted
from yellow_hinge.core.symbols.chord import Chord

_UPPER = {
    "minor": (("b3", ""), ("b3", "maj7"), ("5", "m"), ("5", "m7"), ("b7", ""), ("b7", "maj7")),
    "major": (("3", "m"), ("3", "m7"), ("5", ""), ("13", "m"), ("13", "m7")),
}


def upper_over_root(scene: Context) -> Iterator[Idea]:
    """A chord of the key over this chord's root."""
    own = {note.pc for note in scene.key.scale}
    if scene.here.bass is not None or scene.here.root.pc not in own:
        return
    for degree, words in _UPPER.get(scene.here.chord_class, ()):
        upper = on(scene.here.root, degree, words)
        if own.issuperset(upper.pitch_classes):
            yield Idea((over(upper, scene.here.root),), "another chord of the key over the same bass")


def _inverted(chord: Chord) -> Iterator[tuple[str, Note]]:
    """The notes of a chord but its root, with their names."""
    for degree in ("third", "fifth", "seventh"):
        kind = getattr(chord.quality, degree)
        if kind and not (degree == "third" and kind in ("4", "2")):
            yield degree, spell(chord.root, kind)


def inversion(scene: Context) -> Iterator[Idea]:
    """A chord note in the bass so that the bass steps; a diminished chord on another of its notes is the same one."""
    if scene.here.bass is not None or scene.here.stack is not None or scene.here.chord_class == "diminished":
        return
    around = [chord.bass_note.pc for chord in (scene.before, scene.after) if chord is not None]
    for degree, bass in _inverted(scene.here):
        if degree == "seventh" and not _falls_to(bass, scene.after):
            continue  # a seventh in the bass falls by step
        steps = [min((bass.pc - pc) % 12, (pc - bass.pc) % 12) for pc in around]
        if any(1 <= step <= 2 for step in steps):
            yield Idea((over(scene.here, bass),), f"its {degree} in the bass, so that the bass goes by step")


def _falls_to(bass: Note, after: Chord | None) -> bool:
    return after is not None and (bass.pc - after.bass_note.pc) % 12 in (1, 2)


def dark_slash(scene: Context) -> Iterator[Idea]:
    """One over its flat seventh on the way down to six, from its root."""
    if scene.here.bass is None and scene.step == 0 and scene.after_step == 9 and scene.here.chord_class == "major":
        dark = over(build(scene.here.root, ""), degree_above(scene.here.root, "b7"))
        yield Idea((scene.here, dark), "one over its flat seventh; the bass goes on down to six")


def pedal(scene: Context) -> Iterator[Idea]:
    """The same chord over the five or the one, where a neighbour has that bass."""
    if scene.here.stack is not None or scene.step in (0, 7):
        return
    beside = {chord.bass_note.pc for chord in (scene.before, scene.after) if chord is not None}
    for degree, word in (("5", "five"), ("1", "one")):
        bass = spell(scene.key.tonic, degree)
        third = scene.here.notes[1].pc if len(scene.here.notes) > 1 else bass.pc
        rubs = (third - bass.pc) % 12 == 1
        if bass.pc != scene.here.bass_note.pc and bass.pc in beside and not rubs:
            yield Idea((over(scene.here, bass),), f"the same chord over the {word}, which stays below")


def slide(scene: Context) -> Iterator[Idea]:
    """The same shape away and back."""
    if scene.here.quality.third not in ("3", "b3") or scene.here.stack is not None:
        return
    for degree, words in (("b9", "a half step up"), ("b7", "a whole step down"), ("9", "a whole step up")):
        away = shifted(over(scene.here, scene.here.root), degree)
        yield Idea((scene.here, away, scene.here), f"the same shape {words} and back")


def deceptive(scene: Context) -> Iterator[Idea]:
    """Another chord than the one after the five."""
    before = scene.before
    if before is None or scene.step != 0 or (before.root.pc - scene.here.root.pc) % 12 != 7:
        return
    if before.quality.third != "b3" and scene.here.chord_class == "major":
        yield Idea((on(scene.here.root, "13", "m7"),), "the five lands on six instead of one")
        yield Idea((on(scene.here.root, "b13", "maj7"),), "the five lands on the flat six instead of one")
