"""What may stand in the place of each written chord when a whole song is reharmonised, and what it is worth."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep, in_force
from yellow_hinge.core.leading.asking.manners import manner_named
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.reharm.context import Context, Idea, aside, nearer_way, repeats
from yellow_hinge.core.reharm.ideas import ideas
from yellow_hinge.core.reharm.melody import Judged, cured, judge
from yellow_hinge.core.reharm.routes import pattern
from yellow_hinge.core.reharm.table import Substitute
from yellow_hinge.core.reharm.tastes import liked
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

Protected = Literal["starts", "cadences"]
PROTECTED: dict[Protected, str] = {
    "starts": "the first chord of every section stays",
    "cadences": "the last chord of every section stays, and the five before it; so do halves and ends of phrases",
}
BOLDNESS = ("as written", "colours and inversions", "two-fives and secondary dominants",
            "tritones, borrowed, diminished", "leading tones, mode shifts, chains")  # fmt: skip


class Taste(msgspec.Struct, frozen=True):
    """What changing a song is worth, in the units of the voice leading (one is one semitone of one finger)."""

    worth: tuple[float, ...] = (0.0, 3.0, 6.5, 8.0, 8.5)  # of a swap, by how bold its kind is
    modest: tuple[str, ...] = ("relative", "approach", "slide")  # kinds that tire soon
    less: float = 2.5  # what those are worth less
    crowd: float = 6.0  # a changed chord right after another
    soft: float = 0.3  # of that, where one of the two is a colour or an inversion
    still: float = 5.0  # a chord over the root and bass of the one before, where the written ones moved on
    hurry: float = 1.5  # a chord of less than two beats
    colour: float = 0.8  # per melody note and beat of weight that is a colour and no chord note
    most: int = 7  # choices of one chord, the written one included
    manner: tuple[tuple[float, float], ...] = ((3.0, 1.25), (1.0, 0.9), (0.3, 0.45))  # of its worth, by how liked it is
    aside: float = 1.5  # for leading away from where the written chord leads
    inside: float = 0.4  # of what a chord costs on average, that more of them inside one chord may cost
    stays: float = 1.0  # of what a lesser boldness chose, for being chosen again
    bolder: float = 4.0  # of a kind that only this boldness allows, where none paid by itself
    joint: float = 0.25  # per semitone that a way back to an earlier chord becomes longer


class Choice(NamedTuple):
    """What may stand in a chord's place: its kind (None: as written), the chords and beats, why, what the melody
    becomes, and its price in thousandths; what it is worth makes it negative.
    """

    kind: Substitute | None
    chords: tuple[Chord, ...]
    beats: tuple[Fraction, ...]
    reason: str
    melody: tuple[Judged, ...]
    price: int


def written(moments: tuple[Moment, ...]) -> tuple[Moment, ...]:
    """Every sounding chord once, as written: where a song repeats, what it is the first time."""
    found: dict[Address, Moment] = {}
    for moment in moments:
        if moment.chord is not None:
            found.setdefault(moment.address, moment)
    return tuple(found.values())


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
SEEN_TO = ("tag",)  # kinds that are chosen by a player alone, for where the song ends
STAYING = ("walk",)  # kinds that only move a chord's bass


def _ends_phrase(moments: tuple[Moment, ...], index: int) -> bool:
    """Whether a chord ends a phrase on the key's one or five."""
    here, after = moments[index], moments[index + 1] if index + 1 < len(moments) else None
    in_last = here.bar % PHRASE == PHRASE - 1
    last = after is None or (after.origin, after.bar) != (here.origin, here.bar)
    return in_last and last and here.chord is not None and (here.chord.root.pc - here.key.tonic.pc) % 12 in (0, 7)


def as_written(moment: Moment) -> Choice:
    """The chord that is there."""
    assert moment.chord is not None
    return Choice(None, (moment.chord,), (moment.beats,), "", (), 0)


def choices(scene: Context, boldness: int, taste: Taste, chord_price: int) -> tuple[Choice, ...]:
    """What may stand at a chord up to a boldness, as written first, then the ones worth most. `chord_price` is what a
    chord of the song costs on average, so that more chords are not dearer for being more. Nothing that the melody
    clashes with.
    """
    found = []
    for kind, idea, beats in ideas(scene):
        if kind.boldness <= boldness and idea.span == 1 and _may(kind, idea, scene):
            made = _fitting(scene, kind, idea, beats)
            if made is not None and not (kind.boldness == 1 and _removes(made, scene)):
                found.append(made._replace(price=_price(made, scene, taste, chord_price)))
    found.sort(key=lambda choice: choice.price + (len(choice.chords) - 1) * chord_price)  # by worth alone
    return (as_written(scene.moment), *found)


def at_level(found: tuple[Choice, ...], level: int, most: int) -> tuple[Choice, ...]:
    """The choices of a boldness, as written first, `most` of them: the first of every kind, then the rest."""
    bold = [choice for choice in found[1:] if choice.kind is not None and choice.kind.boldness <= level]
    return (found[0], *_different(bold, most - 1))


def _for_voices(parts: int, idea: Idea, scene: Context) -> bool:
    """Whether `parts` voices sing it: with no more notes than there are voices, and they end on the plain tonic."""
    if any(len(chord.degrees) > max(parts, len(scene.here.degrees)) for chord in idea.chords):
        return False
    return scene.after is not None or scene.step != 0 or idea.chords[-1] == scene.here


def _may(kind: Substitute, idea: Idea, scene: Context) -> bool:
    """Whether a whole song may have it without being asked."""
    turned = kind.id == "fifths" and scene.after is not None and any(pattern(idea.chords[1:], scene.after))
    if turned and not liked("tritone", scene.manner):
        return False  # no link as a tritone where the manner has none
    known = manner_named(scene.manner)
    if known and known.parts and not _for_voices(known.parts, idea, scene):
        return False
    return kind.id not in SEEN_TO and liked(kind.id, scene.manner) > 0 and not _gives_up(idea, scene)


def _gives_up(idea: Idea, scene: Context) -> bool:
    """Whether the key's one would be called by another name over its own bass."""
    first = idea.chords[0]
    same_bass = first.bass_note.pc == scene.here.bass_note.pc
    return scene.step == 0 and len(idea.chords) == 1 and same_bass and first.root.pc != scene.here.root.pc


def _removes(choice: Choice, scene: Context) -> bool:
    """Whether something that is written no longer sounds."""
    sounds = {pc for chord in choice.chords for pc in (*chord.pitch_classes, chord.bass_note.pc)}
    return not sounds.issuperset(scene.here.pitch_classes)


def _different(found: list[Choice], most: int) -> list[Choice]:
    """The first of every kind, then the rest."""
    firsts: list[Choice] = []
    rest: list[Choice] = []
    seen: set[Substitute | None] = set()
    for choice in found:
        (rest if choice.kind in seen else firsts).append(choice)
        seen.add(choice.kind)
    return [*firsts, *rest][:most]


def _fitting(scene: Context, kind: Substitute, idea: Idea, beats: tuple[Fraction, ...]) -> Choice | None:
    chords = idea.chords
    melody = tuple(judge(chords, beats, scene.moment, scene.after))
    if not all(note.fits for note in melody):
        better = cured(chords, beats, scene.moment, scene.after)
        bound = kind.group == "inside" or kind.after == "chord"  # its shape is what it is about
        if better is None or bound or better == (scene.here,) or repeats(better):
            return None
        chords, melody = better, tuple(judge(better, beats, scene.moment, scene.after))
    return Choice(kind, chords, beats, idea.reason, melody, 0)


def _price(choice: Choice, scene: Context, taste: Taste, chord_price: int) -> int:
    assert choice.kind is not None
    likes = dict(taste.manner)
    units = -taste.worth[choice.kind.boldness] * likes.get(liked(choice.kind.id, scene.manner), 1.0)
    units += taste.less if choice.kind.id in taste.modest else 0.0
    units += taste.aside * aside(scene, choice.chords, scene.after)
    units += taste.hurry * sum(1 for beats in choice.beats if beats < 2 and scene.moment.meter.beats > 3)
    units += taste.colour * float(sum(note.weight for note in choice.melody if note.verdict == "colour"))
    more = (len(choice.chords) - 1) * chord_price
    inside = choice.kind.group == "inside" or choice.kind.id in STAYING
    return round(units * UNIT) - round(more * (taste.inside if inside else 1.0))


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
