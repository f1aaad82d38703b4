"""In which order swaps are shown: what the tune and the hands say, and one of each kind first."""

from __future__ import annotations

import itertools
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.prices.weights import Weights
from yellow_hinge.core.pitch.pitch import Note
from yellow_hinge.core.reharm.context import nearer_way
from yellow_hinge.core.reharm.kinds.routes import pattern
from yellow_hinge.core.reharm.melody import Judged
from yellow_hinge.core.reharm.table import Slots, Substitute, in_slots
from yellow_hinge.core.reharm.tastes import liked
from yellow_hinge.core.symbols.chord import Chord


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


# What puts a swap behind: each beat of the melody that is only a colour, a kind that the manner does not like, and a
# bold one of those, a semitone a change, a change more, and each more written chord that a route only moves.
_COLOUR, _UNLIKED, _BOLD, _MOTION, _MORE, _EACH = 0.6, 2.0, 0.4, 0.12, 0.15, 0.5


def rank(swap: Swap) -> tuple[bool, bool, bool, float]:
    """What fits first, then what can be cured; then what lies on the player's shelf; then by worth: the weight of
    melody notes that are only colours, how likely its kind is in the manner and how it leads, the bass line, and the
    motion of the hands, a change.
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
    return not swap.fits, swap.cure is None and not swap.fits, not swap.kind.mine, round(worth, 6)


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
