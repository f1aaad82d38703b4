"""What a line can strike at each of its onsets, and what that costs."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.lines.grid import Place
from yellow_hinge.core.lines.lattice import COUNT, NEVER, TRITONE, Onset
from yellow_hinge.core.lines.rails import ALL, HIGH, LOW, Landing
from yellow_hinge.core.lines.scales import Scale
from yellow_hinge.core.numerics import Floats64, NDArray, np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

BOLDEST = 2
_PCS = [(LOW + n) % 12 for n in range(COUNT)]  # of the lattice's pitches
# What a note costs where it stands, by what it is.
OTHER_OCTAVE, OTHER_LANDING, LESS_LIKED = 1.0, 1.5, 0.3
SCALE_STRONG, SCALE_ON, CHORD_OFF, PASSED = 1.2, 0.4, 0.15, 0.6
OUTSIDE = (NEVER, 0.7, 0.35)  # by boldness: a note outside the scale, off the beat
LEADING = 0.5  # less for one that leads into what is landed on
FROM_BELOW, FROM_ABOVE, LEAPT_TO = -0.4, -0.15, 0.6  # how a landing note is come to
ARPEGGIO = -0.55  # a third between two notes of the chord
LONG_TUNE, RUBS = Fraction(1), 2  # beats of a tune note that a line does not rub on, and semitones that do


class Asked(NamedTuple):
    """What is asked of a line: its rail, its density (see grid.STEPS), how bold from 0 to 2, the MIDI numbers that it
    has to hold at some quarters from the song's start, and the lowest and the highest note that it may have.
    """

    rail: str = "3-7"
    density: str = "eighths"
    bold: int = 0
    held: tuple[tuple[Fraction, int], ...] = ()
    within: tuple[int, int] = ALL


class Over(NamedTuple):
    """What there is to play over one chord: the scales that fit, and where its rail lands."""

    moment: Moment
    scales: tuple[Scale, ...]
    land_on: tuple[str, ...]
    landed: Landing


class _Around(NamedTuple):
    """What the pitches are over one chord: whether each is a note of it, of its scale, one only to pass, and the rank
    of the landing degree that it is (-1: none).
    """

    inside: Floats64
    scale: Floats64
    passed: Floats64
    rank: Floats64


def _around(chord: Over, bold: int) -> _Around:
    assert chord.moment.chord is not None
    whole = [scale for scale in chord.scales if len(scale.notes) > 5] or list(chord.scales)
    coloured = bold == BOLDEST and chord.moment.chord.chord_class == "dominant"
    scale = whole[min(1, len(whole) - 1) if coloured else 0]
    root = chord.moment.chord.root.pc
    ranks = {(root + degree_pc(degree)) % 12: n for n, degree in reversed(list(enumerate(chord.land_on)))}
    own, passing = set(chord.moment.chord.pitch_classes), {note.pc for note in scale.passing}
    rank = np.array([float(ranks.get(pc, -1)) for pc in _PCS])
    return _Around(_among(own), _among(scale.pcs), _among(passing - own), rank)


def _among(pcs: Iterable[int]) -> Floats64:
    """1 for every pitch of the lattice that is one of some pitch classes, else 0."""
    return np.isin(_PCS, list(pcs)).astype(np.float64)


def line_onsets(chords: tuple[Over, ...], spots: list[Place], floors: Sequence[int], asked: Asked) -> list[Onset]:
    kinds = [_around(chord, asked.bold) for chord in chords]
    held = dict(asked.held)
    owns = []
    for spot, after in zip(spots, [*spots[1:], None], strict=True):
        leads = after is not None and after.lands
        outside = _outside(asked.bold, leads)
        owns.append(_own(chords[spot.at], spot, kinds[spot.at], (floors[spot.at], *asked.within), outside))
    for n, spot in enumerate(spots):
        if spot.quarter in held:
            place = held[spot.quarter] - LOW
            owns[n] = np.where(np.arange(COUNT) == place, 0.0, NEVER)
    found = []
    for n, spot in enumerate(spots):
        after = spots[n + 1] if n + 1 < len(spots) else None
        onward = _onward(kinds[spot.at], chords[spot.at].moment.chord, after, chords, kinds, spot.quarter in held)
        found.append(Onset(owns[n], onward))
    return found


def _outside(bold: int, leads: bool) -> float:
    """What a note outside the scale costs off the beat; `leads`: right before a landing note, which it comes to."""
    return OUTSIDE[bold] - LEADING * (leads and bold > 0)


def _own(chord: Over, spot: Place, kind: _Around, bounds: tuple[int, int, int], outside: float) -> Floats64:
    """What every pitch costs at a place; `bounds`: what the left hand leaves free, the range's low and high end."""
    floor, low, high = bounds
    if spot.lands:
        same = np.array([(LOW + n - chord.landed.midi) % 12 == 0 for n in range(COUNT)])
        exact = np.arange(LOW, HIGH + 1) == chord.landed.midi
        other = np.where(kind.rank >= 0, OTHER_LANDING + LESS_LIKED * kind.rank, NEVER)
        prices = np.where(exact, 0.0, np.where(same, OTHER_OCTAVE, other))
    elif spot.strong:
        prices = np.where((kind.inside > 0) | (kind.rank >= 0), 0.0, np.where(kind.scale > 0, SCALE_STRONG, NEVER))
        prices = np.where(kind.passed > 0, NEVER, prices)
    elif spot.on:
        prices = np.where(kind.inside > 0, 0.0, np.where(kind.scale > 0, SCALE_ON, NEVER))
        prices = np.where(kind.passed > 0, NEVER, prices)
    else:
        prices = np.where(kind.inside > 0, CHORD_OFF, np.where(kind.scale > 0, 0.0, outside))
        prices = np.where(kind.passed > 0, PASSED, prices)
    midis = np.arange(LOW, HIGH + 1, dtype=np.int64)
    prices = np.where((midis < low) | (midis > high), NEVER, prices)
    open_ = np.where(midis < floor, NEVER, prices)
    rubbed = open_ + np.where(_rubs(chord.moment, spot, midis), NEVER, 0.0)
    return rubbed if rubbed.min() < NEVER else open_ if open_.min() < NEVER else prices


def sung_at(moment: Moment, quarter: Fraction) -> list[int]:
    """The long notes of the tune (MIDI numbers) that sound at a place, in quarters, over a chord."""
    at = (quarter - moment.quarter) / moment.meter.beat_quarters
    return [
        tone.pitch.midi
        for tone in moment.tune
        if tone.whole >= LONG_TUNE and tone.onset <= at < tone.onset + tone.beats
    ]


def _rubs(moment: Moment, spot: Place, midis: NDArray[np.int64]) -> NDArray[np.bool_]:
    """Which pitches lie within a second of a long note of the tune that sounds there."""
    found = np.zeros(len(midis), bool)
    for midi in sung_at(moment, spot.quarter):
        found |= (np.abs(midis - midi) <= RUBS) & (midis != midi)
    return found


def _onward(
    kind: _Around, chord: Chord | None, after: Place | None, chords: tuple[Over, ...], kinds: list[_Around], held: bool
) -> Floats64:
    """What it costs to go on from every pitch to every other at the next place."""
    here, there = np.arange(COUNT)[:, None], np.arange(COUNT)[None, :]
    by = there - here
    prices = np.zeros((COUNT, COUNT))
    if after is None:
        return prices
    foreign = (kind.inside + kind.scale == 0) & (kind.rank < 0)
    if not held:  # a note that the player holds fast goes where it can
        goal = (kinds[after.at].inside + kinds[after.at].scale > 0)[None, :]
        prices += np.where(foreign[:, None] & ~((np.abs(by) == 1) & goal), NEVER, 0.0)
        prices += np.where((kind.passed > 0)[:, None] & (np.abs(by) > 2), NEVER, 0.0)
    if after.lands:
        prices += np.where(by == 1, FROM_BELOW, np.where((by == -1) | (by == -2), FROM_ABOVE, 0.0))
        prices += np.where(np.abs(by) >= 5, LEAPT_TO, 0.0)
    inside = kind.inside > 0
    prices += np.where((np.abs(by) >= 3) & (np.abs(by) <= 4) & inside[:, None] & inside[None, :], ARPEGGIO, 0.0)
    if chord is not None and chord.chord_class == "dominant":  # its third and seventh belong together
        ends = {(chord.root.pc + degree_pc(degree)) % 12 for degree in ("3", "b7")}
        pcs = np.array([(LOW + n) % 12 in ends for n in range(COUNT)])
        prices -= np.where((np.abs(by) == 6) & pcs[:, None] & pcs[None, :], TRITONE, 0.0)
    return prices
