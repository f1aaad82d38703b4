"""What a player should know of a voicing beyond its notes, each remark with its kind and a sentence."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple

from yellow_hinge.core.hands import OCTAVE_MM, TOLERANCE_MM, BrokenHands, Hands, reach_mm, span_mm
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.leading.prices.reading import is_as_written, reads
from yellow_hinge.core.leading.prices.spacing import mud
from yellow_hinge.core.leading.prices.sung import under_tune
from yellow_hinge.core.leading.prices.weights import UNIT, Weights
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol

RemarkKind = Literal["note", "stretch", "broken", "sung", "mud", "collision", "clash", "reading"]
NEAR_REACH = 0.97  # share of the reach from which a hand is near its limit, if it spans more than an octave
CALM = ("broken", "sung")  # kinds that tell how it is, and warn of nothing
MUDDY = UNIT  # price from which low notes are muddy enough to be said
BROKEN = "broken, not held: the left hand strikes it one after the other"
LONG_SHARE = 0.34  # of a chord's beats, from which a melody note counts as long


class Remark(NamedTuple):
    """One thing to know. `kind`: note (something had to give way), stretch, broken (the hand is wider than it holds,
    and struck note by note), sung (no third, for the tune), mud, collision (the hands' thumbs meet), clash (a half
    step or minor ninth beside a long melody note), or reading (heard as another chord).
    """

    kind: RemarkKind
    words: str


def long_tune(moment: Moment) -> tuple[int, ...]:
    """The melody notes (MIDI, ascending) that fill a good part of the chord, or are struck with it and last a beat."""
    return tuple(sorted(set(long_line(moment))))


def long_line(moment: Moment) -> tuple[int, ...]:
    """The same notes as they come."""
    least = float(moment.beats) * LONG_SHARE
    long = (t for t in moment.tune if float(t.beats) >= least or (t.onset == 0 and t.beats >= 1))
    return tuple(tone.pitch.midi for tone in long)


def remarks(
    both: Both, chord: Chord, moment: Moment, mine: bool, hands: Hands, weights: Weights, notes: tuple[str, ...] = (),
    tuned: bool = False,
) -> tuple[Remark, ...]:  # fmt: skip
    """The remarks on a voicing of a chord; `mine`: the left hand has the bass; `notes` are sentences about what had to
    give way; `tuned`: the right hand plays the tune.
    """
    found = [Remark("note", words) for words in notes]
    suspended = under_tune(chord, long_line(moment))
    if suspended != chord and is_as_written(both, suspended, mine):
        found.append(Remark("sung", f"{write_symbol(suspended)} under the tune's fourth"))
    elif not is_as_written(both, chord, mine):
        found.append(Remark("reading", f"reads as {reads(both, chord, moment.key, mine)}"))
    found += [remark for hand in HANDS if (remark := _reach_of(hand, both, hands)) is not None]
    if mud((*both.left, *both.right), weights) >= MUDDY:
        found.append(Remark("mud", "low notes close together may sound muddy"))
    if both.left:
        found += _collisions(both, moment, tuned)
    return (*found, *_clashes(both, chord, moment))


def _collisions(both: Both, moment: Moment, tuned: bool) -> Iterator[Remark]:
    """What is said where the right hand, or the tune that it plays, comes to the left hand's highest note or under."""
    if both.right and both.right[0] - both.left[-1] == 1:
        yield Remark("collision", "the hands meet on neighbouring keys")
    below = [tone.pitch for tone in moment.tune if tone.pitch.midi <= both.left[-1]]
    if tuned and below:
        lowest = min(below, key=lambda pitch: pitch.midi)
        yield Remark("collision", f"the tune goes under your left hand ({lowest}): cross below it, or let go")


def strained(notes: tuple[int, ...], hand: str, hands: Hands) -> bool:
    """Whether a hand is warned of the span of some notes: they are past its reach, or near its limit."""
    found = _reach_of(hand, Both((), ())._replace(**{hand: notes}), hands)
    return found is not None and found.kind == "stretch"


def _reach_of(hand: str, both: Both, hands: Hands) -> Remark | None:
    """What is to be said of a hand's span, None where it lies well."""
    notes = both.of(hand)
    span, reach = span_mm(notes), reach_mm(hands.held.reach(hand))
    past = span > reach + TOLERANCE_MM
    if isinstance(hands, BrokenHands) and hand == "left":
        return Remark("broken", BROKEN) if past else None
    if past and span <= hands.limit(hand, len(notes)):
        return Remark("stretch", f"the {hand} hand is rolled from its lowest note, with the pedal")
    if past:
        return Remark("stretch", f"{round(span - reach)} mm past your {hand} hand")
    if span > NEAR_REACH * reach and span > OCTAVE_MM:
        return Remark("stretch", f"near the limit of your {hand} hand; roll it or leave a note out if it strains")
    return None


def _rubs(one: int, other: int, chord: Chord) -> bool:
    """Whether two notes (MIDI) lie a half step or a minor ninth apart, but for a dominant's root and flat ninth."""
    low, high = min(one, other), max(one, other)
    flat_nine = (low - chord.root.pc) % 12 == 0 and chord.chord_class in ("dominant", "suspended")
    return (high - low) % 12 == 1 and not flat_nine


def _clashes(both: Both, chord: Chord, moment: Moment) -> list[Remark]:
    found = []
    tune = long_tune(moment)
    pcs = {midi % 12 for midi in tune}
    for tone in moment.tune:
        midi = tone.pitch.midi
        beside = [n for n in (*both.left, *both.right) if n % 12 not in pcs and _rubs(n, midi, chord)]
        if midi in tune and beside:
            names = " and ".join(str(pitch_of(n, chord.note_of(n % 12))) for n in beside)
            words = f"{names} rub{'s' if len(beside) == 1 else ''} against the tune's {tone.pitch.note}"
            found.append(Remark("clash", words))
    return list(dict.fromkeys(found))
