"""What may be played at one chord of a song that is made bolder, and what it costs."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.leading.asking.manners import manner_named
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.reharm.context import Context, Idea, aside, repeats
from yellow_hinge.core.reharm.cures import cured
from yellow_hinge.core.reharm.ideas import ideas
from yellow_hinge.core.reharm.kinds.routes import pattern
from yellow_hinge.core.reharm.melody import Judged, judge
from yellow_hinge.core.reharm.table import Substitute
from yellow_hinge.core.reharm.tastes import liked
from yellow_hinge.core.song.song import Address
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord


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


SEEN_TO = ("tag",)  # kinds that are chosen by a player alone, for where the song ends
STAYING = ("walk",)  # kinds that only move a chord's bass


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
