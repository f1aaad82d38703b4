"""Substitutes that are more than a recipe: when each applies, what it yields and why."""

from __future__ import annotations

from collections.abc import Iterator

from yellow_hinge.core.leading.asking.manners import kin_of
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import spell
from yellow_hinge.core.reharm.context import Context, Idea, build, degree_above, on, over, shifted
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import own_chords


def _two_of(dominant: Chord, minor: bool) -> Chord:
    """The minor seventh, or half-diminished toward minor, a fifth above a dominant."""
    return on(dominant.root, "5", "m7b5" if minor else "m7")


def _toward_minor(scene: Context) -> bool:
    return scene.after is not None and scene.after.quality.third == "b3"


_COLOURS = {
    ("major", False): (("add9", "a ninth beside the third, nothing else moves"), ("6/9", "open: sixth and ninth")),
    ("major", True): (("maj9", "the ninth that the key has on top of the seventh"),),
    ("minor", False): (("madd9", "a ninth beside the third, nothing else moves"), ("m7", "the key's own seventh")),
    ("minor", True): (
        ("m9", "the key's own ninth on top of the seventh"),
        ("m11", "ninth and eleventh, wide and soft"),
    ),
    ("dominant", True): (
        ("9", "the ninth on top of the seventh"),
        ("13", "ninth and thirteenth, as bright as it gets"),
    ),
}


def _is_plain(chord: Chord) -> bool:
    """Whether a chord is a triad or a seventh chord with its own third and fifth, over a note of its own."""
    quality = chord.quality
    if quality.tensions or quality.sixth or chord.stack is not None:
        return False
    foreign = chord.bass is not None and chord.bass.pc not in over(chord, chord.root).pitch_classes
    return quality.third in ("3", "b3") and quality.fifth == "5" and not foreign


def colour(scene: Context) -> Iterator[Idea]:
    """The same chord with the ninth, the sixth or the eleventh that its key has."""
    here, own = scene.here, {note.pc for note in scene.key.scale}
    if not _is_plain(here):
        return
    words = _COLOURS.get((here.chord_class, bool(here.quality.seventh)), ())
    for said, reason in words[: 1 if here.bass else 2]:  # what is spoken over a bass stays short
        richer = build(here.root, said, here.bass)
        if own.issuperset(richer.pitch_classes) or (here.chord_class == "dominant" and not _toward_minor(scene)):
            yield Idea((richer,), reason)


def tritone(scene: Context) -> Iterator[Idea]:
    """The dominant a tritone away, alone and with its two."""
    if scene.is_dominant and scene.falls_a_fifth and scene.after is not None:
        sub = on(scene.after.root, "b9", "7")
        yield Idea((sub,), "same third and seventh; the bass slides down a half step")
        yield Idea((_two_of(sub, False), sub), "the tritone's dominant with its own two before it")


def its_two(scene: Context) -> Iterator[Idea]:
    """A dominant's own two before it."""
    if scene.here.chord_class == "dominant" or scene.is_dominant:
        five = scene.here if scene.here.quality.seventh else build(scene.here.root, "7")
        two = _two_of(five, _toward_minor(scene) and scene.falls_a_fifth)
        if scene.before is None or scene.before.root.pc != two.root.pc:
            yield Idea((two, five), "its own two shares its time and leads into it by a fifth")


def leading_tone(scene: Context) -> Iterator[Idea]:
    """The dominant on seven instead of five, of the key's one or of any chord that a five lands on."""
    if scene.lands and scene.after is not None:
        seven = on(scene.after.root, "7", "7b9")
        yield Idea((seven,), "a dominant on the leading tone; its root and third rise into the one")
        yield Idea((_two_of(seven, True), seven), "the leading tone's dominant with its half-diminished two")


def backdoor(scene: Context) -> Iterator[Idea]:
    """Home by way of the minor four and the flat seven, to the key's one or any major chord that a five lands on."""
    if scene.lands and scene.after is not None and scene.after.chord_class == "major":
        one = scene.after.root
        four, seven = on(one, "11", "m7"), on(one, "b7", "9")
        yield Idea((seven,), "the flat seventh step's dominant comes home by a whole step")
        yield Idea((four, seven), "minor four, then the flat seventh's dominant: home by the back")
        yield Idea((four, on(one, "b7", "9sus4"), seven), "minor four, then the flat seventh, held back and let go")


def secondary(scene: Context) -> Iterator[Idea]:
    """A dominant a fifth above the next chord, before it."""
    after = scene.after
    if after is None or after.root.pc == scene.here.root.pc or after.chord_class == "diminished":
        return
    five = on(after.root, "5", "7b9" if after.quality.third == "b3" else "7")
    if scene.here.root.pc == five.root.pc and scene.here.chord_class in ("dominant", "suspended"):
        return
    yield Idea((scene.here, five), "the next chord's own dominant leads into it")
    two = _two_of(five, after.quality.third == "b3")
    yield Idea((scene.here, two, five), "the next chord's own two and five lead into it")


def secondary_third(scene: Context) -> Iterator[Idea]:
    """The next chord's dominant over its third, before it."""
    after = scene.after
    if (
        after is None
        or after.bass is not None
        or after.chord_class not in ("major", "minor")
        or scene.here.stack is not None
    ):
        return
    five = on(after.root, "5", "7")
    if five.root.pc == scene.here.root.pc or after.root.pc == scene.here.root.pc:
        return
    third = spell(five.root, "3")
    reason = "the next chord's own dominant over its third; the bass rises into it by a half step"
    yield Idea((scene.here, over(five, third)), reason)
    yield Idea((scene.here, over(build(five.root, ""), third)), reason)


def _opens_into(scene: Context, after: Chord) -> str:
    if scene.after_step == 5 and after.chord_class == "major" and scene.step in (2, 4):
        return "it rises into the four"
    if scene.after_step == 0 and (after.bass_note.pc - scene.key.tonic.pc) % 12 == 7 and scene.step == 2:
        return "it opens into one over five"
    return ""


def minor_to_dominant(scene: Context) -> Iterator[Idea]:
    """Two, three or six as a dominant where it leads: down a fifth, to the four, to its own minor, to one over five."""
    here, after = scene.here, scene.after
    if here.chord_class != "minor" or scene.step not in (2, 4, 9) or scene.key.is_minor or after is None:
        return
    five = build(here.root, "7")
    if scene.falls_a_fifth:
        yield Idea((five,), "the same root as a dominant; it falls a fifth into the next chord")
        if scene.step == 2 and after.chord_class in ("dominant", "suspended"):
            yield Idea((five, here), "first as a dominant, then the minor two as written")
    elif words := _opens_into(scene, after):
        yield Idea((five,), f"the same root as a dominant; {words}")


_DARK = ("jazz-with-bass", "jazz-alone", "modal")  # manners that hold back toward minor with a flat nine


def _held_words(scene: Context) -> tuple[str, ...]:
    """What a dominant is held back as."""
    if not (_toward_minor(scene) and scene.falls_a_fifth):
        return ("9sus4",)
    return ("7sus4b9", "7sus4") if kin_of(scene.manner) in _DARK else ("7sus4",)


def suspend(scene: Context) -> Iterator[Idea]:
    """Held back, then let go."""
    if scene.is_dominant and scene.here.quality.third == "3":
        five = scene.here if scene.here.quality.seventh else build(scene.here.root, "7")
        for words in _held_words(scene):
            held = build(scene.here.root, words)
            yield Idea((held, five), "the fourth is held back and falls into the third")
            yield Idea((held,), "the fourth in place of the third: softer, the two over the five")
    elif scene.is_dominant and scene.here.chord_class == "suspended":
        let_go = build(scene.here.root, "7", scene.here.bass)
        yield Idea((scene.here, let_go), "the fourth falls into the third before it goes on")
        yield Idea((let_go,), "the third in place of the fourth: it leads more strongly")


def diminished(scene: Context) -> Iterator[Idea]:
    """A diminished seventh on the way, between the basses that sound, spelled by where it leads."""
    after = scene.after
    if after is None or after.chord_class == "diminished":
        return
    here, goal = scene.here.bass_note, after.bass_note
    up = (goal.pc - here.pc) % 12
    if up == 2:
        between = build(degree_above(here, "#1"), "dim7")
        yield Idea((scene.here, between), "a diminished seventh fills the bass's whole step upward")
    elif up == 10:
        between = build(degree_above(goal, "b9"), "dim7")
        yield Idea((scene.here, between), "a diminished seventh fills the bass's whole step downward")
    elif up not in (0, 1) and not (up == 5 and scene.here.chord_class == "dominant"):  # that would be the same chord
        below = build(degree_above(goal, "7"), "dim7")
        yield Idea((scene.here, below), "the bass rises a half step from a diminished seventh", "late")


def _stays(scene: Context) -> bool:
    """Whether the next chord is the same one."""
    return scene.after is not None and scene.after.root.pc == scene.here.root.pc


def approach(scene: Context) -> Iterator[Idea]:
    """The next chord's own shape with its bass a half step away, on the last beat."""
    after = scene.after
    if after is None or after.stack is not None or after.chord_class == "diminished" or _stays(scene):
        return
    for degree, words in (("b9", "above"), ("7", "below")):
        near = shifted(after, degree)
        if near.bass_note.pc != scene.here.bass_note.pc and near.root.pc != scene.here.root.pc:
            yield Idea((scene.here, near), f"the next chord's own shape slides in from a half step {words}", "late")


# What is heard as borrowed: two half-diminished, minor four and five, flat two, three, six and seven.
_HEARD_BORROWED = (
    (1, "major"), (2, "half-diminished"), (3, "major"), (5, "minor"), (7, "minor"), (8, "major"), (10, "major"),
    (10, "dominant"),
)  # fmt: skip
_PARALLEL = ("minor", "dorian", "phrygian", "mixolydian", "lydian")


def borrowed(scene: Context) -> Iterator[Idea]:
    """The parallel modes' chord on the same step of the key; a dominant stays one."""
    written_bass = scene.here.bass is not None or scene.here.stack is not None
    if (
        scene.key.mode != "major"
        or written_bass
        or scene.step == 7
        or scene.here.chord_class in ("dominant", "suspended")
    ):
        return
    home = {note.pc for note in scene.key.scale}
    if scene.here.root.pc not in home or not home.issuperset(scene.here.pitch_classes) or scene.step == 0:
        return
    index = [note.pc for note in scene.key.scale].index(scene.here.root.pc)
    seen = {scene.here}
    for mode in _PARALLEL:
        key = Key(scene.key.tonic, mode)
        for sevenths in (True, False):
            chord = own_chords(key, sevenths)[index]
            same = (chord.root, chord.quality) == (scene.here.root, scene.here.quality)
            if (
                sevenths != bool(scene.here.quality.seventh)
                or chord in seen
                or same
                or chord.chord_class == "diminished"
            ):
                continue
            seen.add(chord)
            if ((chord.root.pc - scene.key.tonic.pc) % 12, chord.chord_class) not in _HEARD_BORROWED:
                continue
            yield Idea((chord,), f"the chord that {mode} has on this step, borrowed from the same tonic")


def mode_shift(scene: Context) -> Iterator[Idea]:
    """A long chord turned into its other mode, or lit from its second step."""
    if scene.before is None or scene.before.root.pc != scene.here.root.pc or scene.beats < scene.moment.meter.beats:
        return
    if scene.here.chord_class == "minor":
        yield Idea((build(scene.here.root, "maj7#11"),), "the same root in its bright mode while the chord stays")
    elif scene.here.chord_class == "major":
        yield Idea((build(scene.here.root, "m9"),), "the same root in its dark mode while the chord stays")
    else:
        return
    second = on(scene.here.root, "9", "m11")
    yield Idea((over(second, scene.here.root),), "the second step's minor eleventh over the same bass")


def relative(scene: Context) -> Iterator[Idea]:
    """The chord a third away that shares two notes, where it is no neighbour's and no two or five has to fall; the
    tonic at home stays.
    """
    if scene.step == 0 and (scene.moment.ends or scene.before is None):
        return
    leads = scene.falls_a_fifth and scene.after is not None and scene.after.chord_class == "dominant"
    if leads or scene.here.bass is not None or scene.here.stack is not None:
        return
    beside = {chord.root.pc for chord in (scene.before, scene.after) if chord is not None}
    words = "7" if scene.here.quality.seventh else ""
    root, own = scene.here.root, {note.pc for note in scene.key.scale}
    if scene.here.chord_class == "major":
        found = (on(root, "13", f"m{words}"), on(root, "3", f"m{words}"))
    elif scene.here.chord_class == "minor":
        major = "maj7" if words else ""
        found = (on(root, "b3", major), on(root, "b13", major))
    else:
        return
    for chord in found:
        if chord.root.pc in own - beside:
            yield Idea((chord,), "a third away; two notes of the triad stay")
