"""Every swap for a chord of a song: made from the table and the routes, judged by the melody, solved with its
neighbours, ranked.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable
from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.weights import Weights
from yellow_hinge.core.leading.solution import Solution, Voicing, solve_song
from yellow_hinge.core.pitch.pitch import Note
from yellow_hinge.core.reharm.context import Ahead, Context, aside, nearer_way, repeats, split
from yellow_hinge.core.reharm.ideas import Offered, ideas, sound
from yellow_hinge.core.reharm.melody import Judged, cured, judge
from yellow_hinge.core.reharm.routes import pattern
from yellow_hinge.core.reharm.table import Slots, Substitute, in_slots
from yellow_hinge.core.reharm.tastes import liked
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord

MOST_AHEAD = 8
FIRST_IDEAS = 10  # shown while the others are still tried


class Swap(NamedTuple):
    """A substitute in a song: its kind, the chords with their beats, the reason, what the melody becomes, the motion
    (semitones) before, the bass from the chord before to the one after, and how it is played between its neighbours as
    they are; `cure` is the swap with one chord changed so that the melody fits, None where none is needed or small;
    `written` are the beats of the written chords that it takes the place of; `manner` the one that is played in; `led`:
    how many chords before it are played with it; `aside`: how far it leads away from where the written chord leads, 0
    for not at all.
    """

    kind: Substitute
    chords: tuple[Chord, ...]
    beats: tuple[Fraction, ...]
    reason: str
    melody: tuple[Judged, ...]
    motion_before: int
    bass: tuple[Note, ...]
    played: Solution
    cure: tuple[Chord, ...] | None = None
    written: tuple[Fraction, ...] = ()
    manner: str = ""
    led: int = 1
    aside: float = 0.0

    @property
    def span(self) -> int:
        """Written chords that it takes the place of."""
        return max(1, len(self.written))

    @property
    def slots(self) -> Slots:
        """What stands in each of them."""
        return in_slots(self.chords, self.beats, self.written or (sum(self.beats, Fraction(0)),))

    @property
    def motion_after(self) -> int:
        """Semitones into, inside and out of it."""
        return self.played.totals.motion

    @property
    def bass_moves(self) -> tuple[int, ...]:
        """Semitones of every move of the bass by the nearer way, -5 to 6."""
        return tuple(nearer_way(a.pc, b.pc) for a, b in itertools.pairwise(self.bass))

    @property
    def links(self) -> tuple[bool, ...]:
        """Of falling fifths, which links are taken as their tritone; () for other kinds."""
        after = self.played.voicings[-1].chord
        return pattern(self.chords[1:], after) if self.kind.id == "fifths" else ()

    @property
    def rubs(self) -> tuple[str, ...]:
        """What the hands find against the melody in its chords: the same remarks that they make when it is taken."""
        found = [remark.words for voicing in self.own for remark in voicing.remarks if remark.kind == "clash"]
        return tuple(dict.fromkeys(found))

    @property
    def own(self) -> tuple[Voicing, ...]:
        """How its own chords are played, without the neighbours."""
        voicings = self.played.voicings
        count = sum(len(slot) for slot in self.slots.chords)
        return voicings[self.led : self.led + count]

    @property
    def fits(self) -> bool:
        """Whether no melody note clashes, neither with the chords nor with the hands."""
        return all(note.fits for note in self.melody) and not self.rubs


def _part(moment: Moment) -> tuple[object, ...]:
    return moment.section, moment.turn, moment.key, moment.meter


def scene_at(solution: Solution, index: int) -> Context:
    """The chord of a solution in its surroundings."""
    voicings, loop = solution.voicings, solution.setup.loop
    before = voicings[index - 1].chord if index or loop else None
    after = voicings[(index + 1) % len(voicings)].chord if index + 1 < len(voicings) or loop else None
    moment = voicings[index].here
    ahead: list[Ahead] = []
    for voicing in voicings[index + 1 : index + 1 + MOST_AHEAD]:
        there = voicing.here
        if _part(there) != _part(moment):
            break
        ahead.append(Ahead(voicing.chord, there.beats))
    manner = solution.setup.manner
    return Context(voicings[index].chord, before, after, moment.key, moment.beats, moment, tuple(ahead), manner)


def tried(builder: Builder, parts: tuple[Moment, ...], solution: Solution, first: int, last: int = -1) -> Solution:
    """Other chords in the time of chords `first` to `last` (of one where that is left out), solved between the
    neighbours as they are played.
    """
    last = max(first, last)
    own, beside = {part.address for part in parts}, {}
    for at in (first - 1, last + 1):
        if 0 <= at < len(solution.voicings):
            beside[at] = solution.voicings[at].here
    keeps = tuple(
        Keep(moment.slot_id, moment.symbol, *solution.voicings[at].both)
        for at, moment in beside.items()
        if moment.address not in own
    )
    before, after = ([beside[at]] if at in beside else [] for at in (first - 1, last + 1))
    near = msgspec.structs.replace(solution.setup, loop=False, held=())
    return solve_song(builder, (*before, *parts, *after), near, keeps)


def _motion_now(solution: Solution, first: int, last: int) -> int:
    return sum(hinge.motion for hinge in solution.hinges[max(0, first - 1) : min(last + 1, len(solution.voicings) - 1)])


def swaps(
    builder: Builder, solution: Solution, index: int, so_far: Callable[[list[Swap]], None] = lambda found: None
) -> list[Swap]:
    """Every swap for chord `index`, the one worth most first; of those that sound the same the first; a chord no hand
    can play is left out. `so_far` hears those of the first FIRST_IDEAS. Raises OvertakenError.
    """
    scene = scene_at(solution, index)
    offered = ideas(scene)
    seen = {idea.chords for _, idea, _ in offered}
    found: list[Swap | None] = []
    for count, (kind, idea, beats) in enumerate(offered):
        if builder.overtaken():
            raise OvertakenError
        if count == FIRST_IDEAS:
            so_far(_ranked(found))
        swap = _of(builder, solution, index, scene, (kind, idea, beats))
        found.append(swap)
        if swap is not None and swap.cure is not None and swap.cure not in seen and not repeats(swap.cure):
            seen.add(swap.cure)
            mended = idea._replace(chords=swap.cure, reason=f"{idea.reason}; changed to suit the melody")
            found.append(_of(builder, solution, index, scene, (kind, mended, beats)))
    return _ranked(found)


def _ranked(found: list[Swap | None]) -> list[Swap]:
    """The best first, each sound once."""
    once: dict[object, Swap] = {}
    for swap in sorted((swap for swap in found if swap is not None), key=rank):
        once.setdefault((swap.span, sound(swap.chords)), swap)
    return list(once.values())


def _of(builder: Builder, solution: Solution, index: int, scene: Context, made: Offered) -> Swap | None:
    """One idea judged and played, None where no hand can play it."""
    kind, idea, beats = made
    last = index + idea.span - 1
    voicings = solution.voicings[index : last + 1]
    written = tuple(voicing.here.beats for voicing in voicings)
    slots = in_slots(idea.chords, beats, written)
    after = scene_at(solution, last).after
    parts: list[Moment] = []
    melody: list[Judged] = []
    for place, (voicing, chords, lengths, own) in enumerate(zip(voicings, *slots, strict=True)):
        following = slots.chords[place + 1][0] if place + 1 < len(voicings) else after
        parts += split(voicing.here, chords, lengths)
        judged = judge(chords, lengths, voicing.here, following)
        melody += [note._replace(chord=own[note.chord]) for note in judged]
    try:
        played = tried(builder, tuple(parts), solution, index, last)
    except UserError:
        return None
    line = tuple(chord.bass_note for chord in (scene.before, *idea.chords, after) if chord is not None)
    found = Swap(
        kind, idea.chords, beats, idea.reason, tuple(melody), _motion_now(solution, index, last), line, played, None,
        written, scene.manner, min(1, index), aside(scene, idea.chords, after) if idea.span == 1 else 0.0,
    )  # fmt: skip
    if idea.span == 1 and not found.fits:
        found = found._replace(cure=cured(idea.chords, beats, scene.moment, scene.after))
    return found


# What puts a swap behind: each beat of the melody that is only a colour, a kind that the manner does not like, and a
# bold one of those, a semitone a change, a change more, and each more written chord that a route only moves.
_COLOUR, _UNLIKED, _BOLD, _MOTION, _MORE, _EACH = 0.6, 2.0, 0.4, 0.12, 0.15, 0.5


def rank(swap: Swap) -> tuple[bool, bool, float]:
    """What fits first, then what can be cured; then by worth: the weight of melody notes that are only colours, how
    likely its kind is in the manner and how it leads, the bass line, and the motion of the hands, a change.
    """
    changes = len(swap.chords) + 1
    colours = float(sum(note.weight for note in swap.melody if note.verdict == "colour"))
    prices = Weights().bass
    fifth = prices[2] if swap.kind.group == "routes" else prices[5]  # a chain of fifths is what a route is about
    bass = sum(fifth if abs(move) == 5 else prices[abs(move)] for move in swap.bass_moves) / changes
    likely = liked(swap.kind.id, swap.manner)
    routed = _EACH * (swap.span - 1) if len(swap.chords) == swap.span else 0.0
    function = swap.aside + routed + (_UNLIKED + _BOLD * (swap.kind.boldness - 1)) * (3.0 - likely) / 3.0
    worth = _COLOUR * colours + function + bass + _MOTION * swap.motion_after / changes + _MORE * (changes - 2)
    return not swap.fits, swap.cure is None and not swap.fits, round(worth, 6)


def firsts(found: list[Swap]) -> list[Swap]:
    """The best of every kind, in their order."""
    once: dict[str, Swap] = {}
    for swap in found:
        once.setdefault(swap.kind.id, swap)
    return list(once.values())


def best(found: list[Swap], count: int = 5) -> list[Swap]:
    """The swaps to look at first: of those that fit the ones worth most, each of another kind."""
    first = firsts([swap for swap in found if swap.fits])
    route = next((swap for swap in first[count - 1 :] if swap.kind.group == "routes"), None)
    if route is not None and not any(swap.kind.group == "routes" for swap in first[: count - 1]):
        return [*first[: count - 1], route]
    return first[:count]
