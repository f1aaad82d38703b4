"""A line of the right hand over a part of a song: it lands where its rail says, goes there by the scales, and says why
every note is there.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.devices import Told, named
from yellow_hinge.core.lines.grid import Place, grid
from yellow_hinge.core.lines.lattice import COUNT, NEVER, TRITONE, Onset, cheapest
from yellow_hinge.core.lines.rails import ALL, HIGH, LOW, OVER, RAILS, Landing, degrees_at, rail
from yellow_hinge.core.lines.scales import Scale, scales_at
from yellow_hinge.core.numerics import Floats64, NDArray, np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

BOLDEST = 2
OCTAVE = 12  # semitones
_PCS = [(LOW + n) % 12 for n in range(COUNT)]  # of the lattice's pitches
# What a note costs where it stands, by what it is.
OTHER_OCTAVE, OTHER_LANDING, LESS_LIKED = 1.0, 1.5, 0.3
SCALE_STRONG, SCALE_ON, CHORD_OFF, PASSED = 1.2, 0.4, 0.15, 0.6
OUTSIDE = (NEVER, 0.7, 0.35)  # by boldness: a note outside the scale, off the beat
LEADING = 0.5  # less for one that leads into what is landed on
FROM_BELOW, FROM_ABOVE, LEAPT_TO = -0.4, -0.15, 0.6  # how a landing note is come to
ARPEGGIO = -0.55  # a third between two notes of the chord
LONG_TUNE = Fraction(1)  # beats of a tune note that a line does not rub on


class Asked(NamedTuple):
    """What is asked of a line: its rail, its density (see grid.STEPS), how bold from 0 to 2, the MIDI numbers that it
    has to hold at some quarters from the song's start, and the lowest and the highest note that it may have.
    """

    rail: str = "3-7"
    density: str = "eighths"
    bold: int = 0
    held: tuple[tuple[Fraction, int], ...] = ()
    within: tuple[int, int] = ALL


class LineNote(NamedTuple):
    """A note of a line: quarters from the song's start, its length in quarters, its MIDI number, the index of its chord
    among those of the part, the degree it has in it, and why it is there.
    """

    onset: Fraction
    quarters: Fraction
    midi: int
    at: int
    degree: str
    why: str


class Line(NamedTuple):
    """A line and its cost."""

    notes: tuple[LineNote, ...]
    cost: float


class Over(NamedTuple):
    """What there is to play over one chord: the scales that fit, and where its rail lands."""

    moment: Moment
    scales: tuple[Scale, ...]
    land_on: tuple[str, ...]
    landed: Landing


def over(
    moments: Sequence[Moment], kind: str, left_tops: Sequence[int], within: tuple[int, int] = ALL
) -> tuple[Over, ...]:
    """What there is to play over every chord of a row. `left_tops` is the highest MIDI number of the left hand at each
    (0 where it rests): what is landed on keeps a third over it, `within` a range of MIDI numbers. Raises UserError for
    no rail, and for a range in which not every note can be landed on.
    """
    if kind not in RAILS:
        raise UserError(f"a rail is one of {', '.join(RAILS)}, not {kind!r}")
    low, high = within
    if not (low >= LOW and low + OCTAVE <= high <= HIGH):
        raise UserError("a line lies from G4 to C6, an octave of it at least")
    row, found = rail(moments, _floors(left_tops), kind, within), []
    before = frozenset[int]()
    for at, (moment, landed) in enumerate(zip(moments, row, strict=True)):
        assert moment.chord is not None
        following = moments[at + 1].chord if at + 1 < len(moments) else None
        sung = frozenset(tone.pitch.midi % 12 for tone in moment.tune if tone.whole >= LONG_TUNE)
        scales = scales_at(moment.chord, moment.key, following, before, sung)
        before = scales[0].pcs
        found.append(Over(moment, scales, degrees_at(moments, at), landed))
    return tuple(found)


def lines(
    moments: Sequence[Moment],
    left_tops: Sequence[int],
    asked: Asked = Asked(),  # noqa: B008 - frozen
    most: int = 2,
    apart: int = 1,
) -> tuple[Line, ...]:
    """The best lines over a row of chords, as `lines_over` finds them."""
    return lines_over(over(moments, asked.rail, left_tops, asked.within), left_tops, asked, most, apart)


def lines_over(
    chords: tuple[Over, ...], left_tops: Sequence[int], asked: Asked, most: int, apart: int = 1
) -> tuple[Line, ...]:
    """The best lines over chords as `over` tells them, the cheapest first, up to `most`, each at `apart` notes or more
    another than those before it. Raises UserError where none can be played.
    """
    if not 0 <= asked.bold <= BOLDEST:
        raise UserError(f"a line is 0 to {BOLDEST} bold, not {asked.bold}")
    spots = grid([chord.moment for chord in chords], asked.density)
    if not spots:
        return ()
    onsets = _onsets(chords, spots, _floors(left_tops), asked)
    found = cheapest(onsets, most, apart)
    if not found:
        raise UserError("no line can be played so: ask for another density or rail, or let a held note go")
    return tuple(Line(_told(chords, spots, each.path), round(each.cost, 4)) for each in found)


def _floors(left_tops: Sequence[int]) -> list[int]:
    """The lowest note of a line at every chord."""
    return [max(LOW, top + OVER) for top in left_tops]


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


def _onsets(chords: tuple[Over, ...], spots: list[Place], floors: Sequence[int], asked: Asked) -> list[Onset]:
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


def _rubs(moment: Moment, spot: Place, midis: NDArray[np.int64]) -> NDArray[np.bool_]:
    """Which pitches lie within a second of a long note of the tune that sounds there."""
    at = (spot.quarter - moment.quarter) / moment.meter.beat_quarters
    found = np.zeros(len(midis), bool)
    for tone in moment.tune:
        if tone.whole >= LONG_TUNE and tone.onset <= at < tone.onset + tone.beats:
            found |= (np.abs(midis - tone.pitch.midi) <= 2) & (midis != tone.pitch.midi)
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


# --- why ---


def _told(chords: tuple[Over, ...], spots: list[Place], path: tuple[int, ...]) -> tuple[LineNote, ...]:
    found = []
    names = named([_known(chords[spot.at], spot, LOW + place) for spot, place in zip(spots, path, strict=True)])
    for n, (spot, place) in enumerate(zip(spots, path, strict=True)):
        chord = chords[spot.at].moment.chord
        assert chord is not None
        midi = LOW + place
        why = names.get(n) or _why(chords, spots, path, n)
        found.append(LineNote(spot.quarter, spot.quarters, midi, spot.at, chord.degree_of(midi % 12), why))
    return tuple(found)


def _known(over_: Over, spot: Place, midi: int) -> Told:
    chord = over_.moment.chord
    assert chord is not None
    inside = midi % 12 in chord.pitch_classes or any(midi % 12 in scale.pcs for scale in over_.scales)
    return Told(midi, spot.at, chord.degree_of(midi % 12), spot.lands, inside)


def _why(chords: tuple[Over, ...], spots: list[Place], path: tuple[int, ...], n: int) -> str:
    """Why a note of a line is there."""
    before = path[n] - path[n - 1] if n else 0
    after = path[n + 1] - path[n] if n + 1 < len(path) else 0
    if spots[n].lands:
        return "landing"
    if before == 0 and n:
        return "repeated"
    return _way(chords, spots[n], path, n, before, after)


def _way(chords: tuple[Over, ...], spot: Place, path: tuple[int, ...], n: int, before: int, after: int) -> str:
    """How a note that is no landing is come to: by arpeggio, in a scale, passing by half steps."""
    over_ = chords[spot.at]
    assert over_.moment.chord is not None
    own = set(over_.moment.chord.pitch_classes)
    pc = (LOW + path[n]) % 12
    if pc not in own and not any(pc in scale.pcs for scale in over_.scales):
        return "passing"
    if abs(before) <= 2 and n:
        return "scale"
    if pc in own and (not n or (LOW + path[n - 1]) % 12 in own):
        return "arpeggio"
    return "skip and turn" if before * after < 0 else "skip"
