"""A line of the right hand over a part of a song: it lands where its rail says, goes there by the scales, and says why
every note is there.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.lines.devices import Told, named
from yellow_hinge.core.lines.grid import Place, grid
from yellow_hinge.core.lines.lattice import cheapest
from yellow_hinge.core.lines.onsets import BOLDEST, LONG_TUNE, Asked, Over, line_onsets
from yellow_hinge.core.lines.rails import ALL, HIGH, LOW, OVER, RAILS, degrees_at, rail
from yellow_hinge.core.lines.scales import scales_at
from yellow_hinge.core.song.timeline import Moment

OCTAVE = 12  # semitones


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
    onsets = line_onsets(chords, spots, _floors(left_tops), asked)
    found = cheapest(onsets, most, apart)
    if not found:
        raise UserError("no line can be played so: ask for another density or rail, or let a held note go")
    return tuple(Line(_told(chords, spots, each.path), round(each.cost, 4)) for each in found)


def _floors(left_tops: Sequence[int]) -> list[int]:
    """The lowest note of a line at every chord."""
    return [max(LOW, top + OVER) for top in left_tops]


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
