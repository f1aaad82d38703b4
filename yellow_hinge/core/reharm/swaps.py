"""Every swap for a chord of a song: made from the table and the routes, judged by the melody, solved with its
neighbours, ranked.
"""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Keep
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.reharm.ideas import ideas
from yellow_hinge.core.reharm.melody import Judged, cured, judge
from yellow_hinge.core.reharm.scene import Scene
from yellow_hinge.core.reharm.table import Kind
from yellow_hinge.core.song import Slot, Song
from yellow_hinge.core.timeline import Moment, timeline
from yellow_hinge.core.writing import write_symbol


class Swap(NamedTuple):
    """A substitute in a song: its kind, the chords with their beats, the reason, what the melody becomes, the motion
    (semitones) before, and how it is played between its neighbours as they are; `cure` is the swap with one chord
    changed so that the melody fits, None where none is needed or none is small.
    """

    kind: Kind
    chords: tuple[Chord, ...]
    beats: tuple[Fraction, ...]
    reason: str
    melody: tuple[Judged, ...]
    motion_before: int
    played: Solution
    cure: tuple[Chord, ...] | None = None

    @property
    def motion_after(self) -> int:
        """Semitones into, inside and out of it."""
        return self.played.totals.motion

    @property
    def fits(self) -> bool:
        """Whether no melody note clashes."""
        return all(note.fits for note in self.melody)


def scene_at(solution: Solution, index: int) -> Scene:
    """The chord of a solution in its surroundings."""
    voicings, loop = solution.voicings, solution.setup.loop
    before = voicings[index - 1].chord if index or loop else None
    after = voicings[(index + 1) % len(voicings)].chord if index + 1 < len(voicings) or loop else None
    moment = solution.moments[voicings[index].moment]
    return Scene(voicings[index].chord, before, after, moment.key, moment.beats, moment)


def with_swap(song: Song, at: tuple[int, int, int], chords: tuple[Chord, ...], beats: tuple[Fraction, ...]) -> Song:
    """The song with chords in the place of one slot; they have to fill its beats. Raises UserError."""
    section, bar, slot = at
    old = song.sections[section].bars[bar].slots[slot]
    if sum(beats) != old.beats or len(beats) != len(chords):
        raise UserError(f"the new chords fill {sum(beats)} beats, the old one {old.beats}")
    new = [Slot(write_symbol(chord), length) for chord, length in zip(chords, beats, strict=True)]
    new[0] = msgspec.structs.replace(new[0], cue=old.cue)
    bars = list(song.sections[section].bars)
    slots = bars[bar].slots
    bars[bar] = msgspec.structs.replace(bars[bar], slots=(*slots[:slot], *new, *slots[slot + 1 :]), same=False)
    if bar + 1 < len(bars):  # a bar that repeated this one says its chords itself
        bars[bar + 1] = msgspec.structs.replace(bars[bar + 1], same=False)
    sections = list(song.sections)
    sections[section] = msgspec.structs.replace(sections[section], bars=tuple(bars))
    done: Song = msgspec.structs.replace(song, sections=tuple(sections))
    return done


def _around(moments: tuple[Moment, ...], moment: Moment) -> tuple[int, int]:
    """Indices of the first and last moment that sound in another moment's time."""
    end = moment.start + moment.beats
    inside = [i for i, m in enumerate(moments) if moment.start <= m.start < end]
    return inside[0], inside[-1]


def tried(builder: Builder, song: Song, solution: Solution, index: int) -> Solution:
    """A changed song's chords in the time of chord `index`, solved between its neighbours as they are played."""
    moment = solution.moments[solution.voicings[index].moment]
    moments = timeline(song)
    first, last = _around(moments, moment)
    low, high = max(0, first - 1), min(len(moments), last + 2)
    keeps = []
    for beside, place in ((index - 1, first - 1), (index + 1, last + 1)):
        if 0 <= beside < len(solution.voicings) and 0 <= place < len(moments) and moments[place].chord is not None:
            both, there = solution.voicings[beside].both, moments[place]
            keeps.append(Keep(there.address, there.symbol, both.left, both.right))
    setup = solution.setup  # wishes for a bar or chord may lie elsewhere now, those for a section hold
    wishes = tuple(wish for wish in setup.wishes if wish.bar is None)
    near = msgspec.structs.replace(setup, loop=False, wishes=wishes, held=())
    return solve_song(builder, moments[low:high], near, tuple(keeps))


def _motion_now(solution: Solution, index: int) -> int:
    beside = [i for i in (index - 1, index) if 0 <= i < len(solution.hinges) and i < len(solution.voicings) - 1]
    return sum(solution.hinges[i].motion for i in beside)


def swaps(builder: Builder, song: Song, solution: Solution, index: int) -> list[Swap]:
    """Every swap for chord `index`, those that fit the melody first, then by motion; a chord no hand can play is left
    out.
    """
    scene = scene_at(solution, index)
    at, before = scene.moment.address, _motion_now(solution, index)
    found = []
    for kind, idea, beats in ideas(scene):
        melody = tuple(judge(idea.chords, beats, scene.moment, scene.after))
        try:
            played = tried(builder, with_swap(song, at, idea.chords, beats), solution, index)
        except UserError:
            continue
        cure = None if all(note.fits for note in melody) else cured(idea.chords, beats, scene.moment, scene.after)
        found.append(Swap(kind, idea.chords, beats, idea.reason, melody, before, played, cure))
    return sorted(found, key=_rank)


def _rank(swap: Swap) -> tuple[bool, bool, Fraction, int]:
    """What fits first, then what can be cured; the least motion a change, then the fewest chords."""
    changes = len(swap.chords) + 1
    return not swap.fits, swap.cure is None, Fraction(swap.motion_after, changes), len(swap.chords)
