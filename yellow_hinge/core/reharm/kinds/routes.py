"""Routes: chords that lead from a chord to the one after it, or through several written chords."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import product

from yellow_hinge.core.pitch.pitch import Note, simple_note, spell
from yellow_hinge.core.reharm.context import Context, Idea, build, nearer_way, over
from yellow_hinge.core.reharm.kinds.recipe_table import RECIPES
from yellow_hinge.core.reharm.kinds.recipes import cook
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol

MOST_LINKS = 5
MOST_TWOS = 3  # pairs of two and five
MOST_HELD = 4  # written chords that a held chord lasts
MOST_THROUGH = 8  # written chords over one bass, or on one bass line
LEAST_LINE = 4
_WORDS = ("no", "one", "two", "three", "four", "five")


def chain(target: Note, links: int) -> list[Note]:
    """The roots of the last `links` fifths that fall to a target, the first one first."""
    roots = []
    at = target
    for _ in range(links):
        at = simple_note(spell(at, "5"))
        roots.append(at)
    return roots[::-1]


def link(root: Note, following: Note, as_tritone: bool) -> Chord:
    """A dominant on a root, or a half step above what follows, which is its tritone."""
    return build(simple_note(spell(following, "b9")), "7") if as_tritone else build(root, "7")


def falling_fifths(scene: Context) -> Iterator[Idea]:
    """Every chain of one to five links before the next chord, in every combination of plain and tritone; the chord that
    is there keeps the first of its beats.
    """
    for window, span in held(scene):
        yield from (idea._replace(span=span) for idea in _fifths(window))


def _fifths(scene: Context) -> Iterator[Idea]:
    after = scene.after
    if after is None or after.root.pc == scene.here.root.pc or after.chord_class == "diminished":
        return
    for links in range(1, min(MOST_LINKS, int(scene.beats) - 1) + 1):
        roots = [*chain(after.root, links), after.root]
        for tritones in product((False, True), repeat=links):
            chords = tuple(link(roots[i], roots[i + 1], tritones[i]) for i in range(links))
            if chords[0].root.pc == scene.here.root.pc:
                continue
            count = sum(tritones)
            taken = f"{_WORDS[count]} as tritone" if count else "all plain"
            words = f"{_WORDS[links]} falling fifth{'s' if links > 1 else ''}, {taken}"
            yield Idea((scene.here, *chords), words)


def held(scene: Context) -> Iterator[tuple[Context, int]]:
    """(scene, written chords) of the chord alone and, where those after it have its root, of all of them as one."""
    yield scene, 1
    for count in range(2, MOST_HELD + 1):
        same = len(scene.ahead) >= count and scene.ahead[count - 2].chord.root.pc == scene.here.root.pc
        window = scene.window(count) if same else None
        if window is None:
            return
        yield window, count


def two_fives(scene: Context) -> Iterator[Idea]:
    """Twos and fives that fall in a chain to the next chord, from the chord that is there or from the two it is."""
    yield from _two_fives(scene, False)


def half_step_two_fives(scene: Context) -> Iterator[Idea]:
    """The same with every five as its tritone: ninths on two and sevenths, whose bass falls by half steps."""
    yield from _two_fives(scene, True)


def _twos(roots: Sequence[Note], after: Chord) -> list[Chord]:
    made = [build(root, "m7" if place % 2 == 0 else "7") for place, root in enumerate(roots)]
    if after.quality.third == "b3":
        made[-2:] = [build(roots[-2], "m7b5"), build(roots[-1], "7b9")]
    return made


def _twos_as_tritones(roots: Sequence[Note], after: Chord) -> list[Chord]:
    goals = (*roots, after.root)
    return [link(goals[at], goals[at + 1], True) if at % 2 else build(root, "m9") for at, root in enumerate(roots)]


def _two_fives(scene: Context, tritones: bool) -> Iterator[Idea]:
    for window, span in held(scene):
        after = window.after
        if after is None or after.chord_class == "diminished" or after.root.pc == window.here.root.pc:
            continue
        for pairs in range(2 if span == 1 else 1, MOST_TWOS + 1):
            roots = chain(after.root, 2 * pairs)
            made = _twos_as_tritones(roots, after) if tritones else _twos(roots, after)
            own = roots[0].pc == window.here.root.pc
            if own and window.here.quality.third != "b3":
                continue
            words = f"{_WORDS[pairs]} two-five{'s' if pairs > 1 else ''} fall into the next chord"
            words += ", every five as its tritone" * tritones
            yield Idea((window.here, *(made[1:] if own else made)), words, span=span)


def _is_minor_on(chord: Chord | None, root: Note) -> bool:
    return chord is not None and chord.root.pc == root.pc and chord.quality.third == "b3"


def cliche(scene: Context) -> Iterator[Idea]:
    """A line that moves inside a held chord, also through several written chords on its root, or goes on where the
    chord before began it.
    """
    before, here = scene.before, scene.here
    if here.bass is not None or here.quality.tensions:
        return
    for _, span in held(scene):
        if here.stack is None and all(each.chord == here for each in scene.ahead[: span - 1]):
            for words, made in _LINES.get(here.chord_class, ()):
                yield Idea(tuple(build(here.root, word) for word in made), words, span=span)
    if here.chord_class == "minor" and _is_minor_on(before, here.root):
        yield Idea((build(here.root, "m7"), build(here.root, "m6")), "the line inside the chord falls on to its sixth")


_LINES = {
    "minor": (
        ("inside the chord a voice falls from the root by half steps", ("m", "m(maj7)", "m7", "m6")),
        ("inside the chord a voice falls from the root by a half step", ("m", "m(maj7)")),
    ),
    "major": (
        ("inside the chord a voice falls from the root", ("", "maj7", "7", "6")),
        ("inside the chord the fifth rises by half steps", ("", "aug", "6")),
    ),
}


def round_trips(scene: Context) -> Iterator[Idea]:
    """Turnarounds, where the one is held before it comes again."""
    for window, span in held(scene):
        yield from (idea._replace(span=span) for idea in cook(RECIPES["turnaround"])(window))


def pedal_through(scene: Context) -> Iterator[Idea]:
    """The chords of a part over the key's five or one, up to one that has that bass anyhow."""
    chords = (scene.here, *(each.chord for each in scene.ahead))
    for degree, word in (("5", "five"), ("1", "one")):
        bass = spell(scene.key.tonic, degree)
        made: list[Chord] = []
        for chord in chords[:MOST_THROUGH]:
            if chord.stack is not None or chord.bass_note.pc == bass.pc:
                break
            made.append(over(chord, bass))
        if len(made) > 1:
            until = f", until {write_symbol(chords[len(made)])}" if len(made) < len(chords) else ""
            yield Idea(tuple(made), f"{bass} stays below {len(made)} chords as the {word}{until}", "each", len(made))


def bass_line(scene: Context) -> Iterator[Idea]:
    """The chords of a part in inversions over a bass that goes one way by step."""
    chords = (scene.here, *(each.chord for each in scene.ahead))[:MOST_THROUGH]
    for way, word in ((-1, "down"), (1, "up")):
        line = _line(chords, way)
        made = tuple(over(chord, bass) for chord, bass in zip(chords, line, strict=False))
        if len(made) >= LEAST_LINE and made != chords[: len(made)]:
            names = " ".join(str(bass) for bass in line)
            yield Idea(made, f"the bass goes {word} by step: {names}", "each", len(made))


def _line(chords: tuple[Chord, ...], way: int) -> list[Note]:
    """The longest line of chord notes from the first chord's bass that goes one way by half or whole steps."""
    best: list[Note] = []

    def onward(place: int, line: list[Note]) -> None:
        nonlocal best
        if len(line) > len(best):
            best = line
        if place == len(chords) or len(best) == len(chords) or chords[place].stack is not None:
            return
        for note in chords[place].notes[:4]:
            if 1 <= way * nearer_way(line[-1].pc, note.pc) <= 2:
                onward(place + 1, [*line, note])

    onward(1, [chords[0].bass_note])
    return best


def pattern(links: tuple[Chord, ...], after: Chord) -> tuple[bool, ...]:
    """Which links of a chain of fifths before a chord are taken as their tritone."""
    return tuple(one.root.pc != root.pc for one, root in zip(links, chain(after.root, len(links)), strict=True))
