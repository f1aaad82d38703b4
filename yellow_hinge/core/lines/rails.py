"""Rails: which note of every chord the right hand lands on, the shortest way through the song, half steps first."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from yellow_hinge.core.lines.scales import landing
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

LOW, HIGH = 67, 84  # G4 to C6: where a line lies
ALL = (LOW, HIGH)
RANGES = {"G4 to C6": ALL, "G4 to G5": (67, 79), "C5 to C6": (72, 84)}  # that can be chosen
OVER = 3  # semitones at least over the left hand
RAILS = ("3-7", "7-3", "9", "tune")
# What a rail likes, the best first, from chord to chord in turn; sevenths of a chord without one are its sixth.
_LIKED = {"3-7": (("3",), ("7", "6")), "7-3": (("7", "6"), ("3",)), "9": (("9",), ("13", "5", "9"))}
_STEP = (0, 2, 3, 8, 10, 14, 16, 19)  # tenths for so many semitones; more are leaps
_LEAP, _UNLIKED, _RANK, _MIDDLE = 24, 12, 2, 1


class Landing(NamedTuple):
    """A note to land on: its degree in the chord and its MIDI number."""

    degree: str
    midi: int


def degrees_at(moments: Sequence[Moment], at: int) -> tuple[str, ...]:
    """The degrees to land on at a chord, the best first."""
    moment = moments[at]
    assert moment.chord is not None
    following = moments[at + 1].chord if at + 1 < len(moments) else None
    return landing(moment.chord, moment.key, following)


def places(moments: Sequence[Moment], floors: Sequence[int], within: tuple[int, int] = ALL) -> list[list[Landing]]:
    """Every note that may be landed on at every chord, `within` the range of a line (an octave at least, MIDI) and
    `floors` (MIDI) or higher, as its left hand asks; the range alone where that leaves nothing.
    """
    found = []
    for at, moment in enumerate(moments):
        assert moment.chord is not None
        root, ranked = moment.chord.root.pc, degrees_at(moments, at)
        every = [
            Landing(degree, midi)
            for degree in ranked
            for midi in range(within[0], within[1] + 1)
            if (midi - root - degree_pc(degree)) % 12 == 0
        ]
        found.append([each for each in every if each.midi >= floors[at]] or every)
    return found


def _is(degree: str, wanted: str, chord: Chord) -> bool:
    """Whether a degree is the third, seventh, sixth and so on of a chord, however it is altered."""
    if wanted == "3":
        return degree == (chord.quality.third or "3") or degree in ("3", "b3")
    return degree.lstrip("b#") == wanted


def _liking(kind: str, turn: int, moment: Moment, landed: Landing, rank: int) -> int:
    """What a landing note costs by itself, in tenths: how little the rail likes it, how far it lies from the middle."""
    far = _MIDDLE * abs(landed.midi - MIDDLE) // 3
    if kind == "tune":
        sung = [tone.pitch.midi for tone in moment.tune if tone.onset == 0]
        near = min((abs(midi - landed.midi) % 12 for midi in sung), default=0)
        return far + min(near, 12 - near) * _RANK * 2 + rank
    assert moment.chord is not None
    liked = _LIKED[kind][turn % 2]
    place = next((n for n, wanted in enumerate(liked) if _is(landed.degree, wanted, moment.chord)), None)
    return far + (place * _RANK if place is not None else _UNLIKED + rank * _RANK)


def motion(semitones: int) -> int:
    """What it costs that a landing note moves so far, in tenths: held, half step, whole step, in that order."""
    by = abs(semitones)
    return _STEP[by] if by < len(_STEP) else _LEAP + by


def rail(
    moments: Sequence[Moment], floors: Sequence[int], kind: str, within: tuple[int, int] = ALL
) -> tuple[Landing, ...]:
    """The landing notes of least cost for a row of chords, `within` a range. Raises ValueError for another kind than
    RAILS.
    """
    if kind not in RAILS:
        raise ValueError(f"a rail is one of {', '.join(RAILS)}, not {kind!r}")
    options = places(moments, floors, within)
    costs: list[list[int]] = []
    backs: list[list[int]] = []
    turn = 0
    for at, here in enumerate(options):
        own, ranked = [], degrees_at(moments, at)
        turn += _turns(moments, at)
        for landed in here:
            own.append(_liking(kind, turn, moments[at], landed, ranked.index(landed.degree)))
        if not costs:
            costs.append(own)
            backs.append([0] * len(own))
            continue
        ways = [
            min((costs[-1][n] + motion(landed.midi - old.midi), n) for n, old in enumerate(options[at - 1]))
            for landed in here
        ]
        costs.append([way[0] + cost for way, cost in zip(ways, own, strict=True)])
        backs.append([way[1] for way in ways])
    if not costs:
        return ()
    place = min(range(len(costs[-1])), key=costs[-1].__getitem__)
    found = []
    for at in range(len(options) - 1, -1, -1):
        found.append(options[at][place])
        place = backs[at][place]
    return tuple(reversed(found))


def _turns(moments: Sequence[Moment], at: int) -> int:
    """Whether the rail takes its other degree at a chord: where the root fell a fifth; elsewhere it begins again."""
    if not at:
        return 0
    one, other = moments[at - 1].chord, moments[at].chord
    if one is None or other is None:
        return 0
    return 1 if (other.root.pc - one.root.pc) % 12 == 5 else 0


def cost_of(moments: Sequence[Moment], kind: str, row: Sequence[Landing]) -> int:
    """What a row of landing notes costs, in tenths; for comparing."""
    turn = total = 0
    for at, landed in enumerate(row):
        turn += _turns(moments, at)
        total += _liking(kind, turn, moments[at], landed, degrees_at(moments, at).index(landed.degree))
    return total + sum(motion(b.midi - a.midi) for a, b in pairwise(row))
