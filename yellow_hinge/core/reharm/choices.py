"""What may stand in the place of each written chord when a whole song is reharmonised, and what it is worth."""

from __future__ import annotations

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep, in_force
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.reharm.boldness import BOLDNESS, Protected
from yellow_hinge.core.reharm.choice import Choice, Taste
from yellow_hinge.core.reharm.context import nearer_way
from yellow_hinge.core.reharm.table import Substitute
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord


def touched(moment: Moment, setup: Setup, keeps: tuple[Keep, ...]) -> bool:
    """Whether the player has asked for something at this very chord, so that it stays."""
    at = moment.slot_id
    held = any(at in held.slots for held in setup.held)
    return held or any(wish.at == at for wish in setup.wishes) or any(in_force(keep, moment) for keep in keeps)


def _fell_a_fifth(before: Chord | None, here: Chord | None) -> bool:
    return before is not None and here is not None and (before.root.pc - here.root.pc) % 12 == 7


def _changes_part(moments: tuple[Moment, ...], at: int) -> bool:
    """Whether a section, or the song, begins or ends before chord `at`."""
    return not 0 < at < len(moments) or moments[at - 1].origin != moments[at].origin


def protected(moments: tuple[Moment, ...], what: frozenset[Protected]) -> set[int]:
    """Indices of the chords that stay as they are."""
    found: set[int] = set()
    if "cadences" in what:
        found.update(index for index in range(len(moments)) if _ends_phrase(moments, index))
    for index, moment in enumerate(moments):
        first = _changes_part(moments, index)
        last = _changes_part(moments, index + 1)
        if first and "starts" in what:
            found.add(index)
        if last and "cadences" in what:
            found.add(index)
            if index and _fell_a_fifth(moments[index - 1].chord, moment.chord):
                found.add(index - 1)
    return found


def steps_in_bass(moments: tuple[Moment, ...], index: int) -> bool:
    """Whether a chord's bass is part of a line that somebody wrote: it goes by step to or from a chord over a bass that
    is not its root.
    """
    here = moments[index].chord
    around = (moments[at].chord for at in (index - 1, index + 1) if 0 <= at < len(moments))
    return any(here is not None and other is not None and _step_over(here, other) for other in around)


def _step_over(one: Chord, other: Chord) -> bool:
    steps = (one.bass_note.pc - other.bass_note.pc) % 12 in (1, 2, 10, 11)
    return steps and (one.bass is not None or other.bass is not None)


def leaves_bass(choice: Choice, here: Chord) -> bool:
    """Whether a choice begins or ends over another bass than is written."""
    return any(chord.bass_note.pc != here.bass_note.pc for chord in (choice.chords[0], choice.chords[-1]))


def opens_on_fifth(choice: Choice) -> bool:
    """Whether a choice begins with a chord over its fifth, as no song does."""
    first = choice.chords[0]
    return first.bass is not None and (first.bass.pc - first.root.pc) % 12 == FIFTH


FIFTH = 7  # semitones
PHRASE = 4  # bars


def _ends_phrase(moments: tuple[Moment, ...], index: int) -> bool:
    """Whether a chord ends a phrase on the key's one or five."""
    here, after = moments[index], moments[index + 1] if index + 1 < len(moments) else None
    in_last = here.bar % PHRASE == PHRASE - 1
    last = after is None or (after.origin, after.bar) != (here.origin, here.bar)
    return in_last and last and here.chord is not None and (here.chord.root.pc - here.key.tonic.pc) % 12 in (0, 7)


def at_level(found: tuple[Choice, ...], level: int, most: int) -> tuple[Choice, ...]:
    """The choices of a boldness, as written first, `most` of them: the first of every kind, then the rest."""
    bold = [choice for choice in found[1:] if choice.kind is not None and choice.kind.boldness <= level]
    return (found[0], *_different(bold, most - 1))


def _different(found: list[Choice], most: int) -> list[Choice]:
    """The first of every kind, then the rest."""
    firsts: list[Choice] = []
    rest: list[Choice] = []
    seen: set[Substitute | None] = set()
    for choice in found:
        (rest if choice.kind in seen else firsts).append(choice)
        seen.add(choice.kind)
    return [*firsts, *rest][:most]


def far(one: Chord, other: Chord) -> int:
    """Semitones from one chord to another: each note to the nearest of the other, and the bass."""
    there = other.pitch_classes
    ways = (min(abs(nearer_way(pc, goal)) for goal in there) for pc in one.pitch_classes)
    return sum(ways) + abs(nearer_way(one.bass_note.pc, other.bass_note.pc))


def joined(offered: list[tuple[Choice, ...]], joints: list[tuple[int, int]], taste: Taste) -> list[tuple[Choice, ...]]:
    """The choices with the price of what they do at ways back, from a chord (its index) to an earlier one: how much
    longer the way becomes than between the chords as written.
    """
    found = list(offered)
    for last, first in joints:
        ends, begins = found[last][0].chords[-1], found[first][0].chords[0]
        plain = far(ends, begins)

        def dearer(choice: Choice, way: int, plain: int = plain) -> Choice:
            return choice._replace(price=choice.price + round(taste.joint * UNIT * (way - plain)))

        found[last] = tuple(dearer(c, far(c.chords[-1], begins)) for c in found[last])
        found[first] = tuple(dearer(c, far(ends, c.chords[0])) for c in found[first])
    return found


def meets(left: Choice, right: Choice, here: Chord, there: Chord) -> bool:
    """Whether two choices of neighbouring chords, written as `here` and `there`, may follow each other: what counts on
    its neighbour finds it there.
    """
    after, before = left.kind.after if left.kind else "", right.kind.before if right.kind else ""
    first, last = right.chords[0], left.chords[-1]
    if after == "chord" and first != there:
        return False
    if after == "root" and not _same_ground(first, there):
        return False
    return not (before == "root" and not _same_ground(last, here))


def _same_ground(one: Chord, other: Chord) -> bool:
    grounds = [(chord.root.pc, chord.bass_note.pc, chord.quality.third) for chord in (one, other)]
    return grounds[0] == grounds[1]


def beside(left: Choice, right: Choice, here: Chord, there: Chord, taste: Taste) -> int:
    """The price of two choices beside each other, in thousandths."""
    units = 0.0
    if left.kind and right.kind:
        units = taste.crowd * (taste.soft if 1 in (left.kind.boldness, right.kind.boldness) else 1.0)
    if (left.kind or right.kind) and not _moves(left.chords[-1], right.chords[0]) and _moves(here, there):
        units += taste.still
    return round(units * UNIT)


def _moves(one: Chord, other: Chord) -> bool:
    return one.bass_note.pc != other.bass_note.pc


def check_boldness(boldness: int) -> None:
    """Raises UserError for a boldness that there is none of."""
    if not 0 <= boldness < len(BOLDNESS):
        known = ", ".join(f"{number} {words}" for number, words in enumerate(BOLDNESS))
        raise UserError(f"boldness {boldness} is not one of {known}")
