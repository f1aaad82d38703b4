"""What the pitch classes of two hands are to a chord: no voicing of it, doubled, bare. Few sets of them come up, and
those are looked at once for all hands that sound the same.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.leading.prices.doubling import Doubling
from yellow_hinge.core.leading.prices.flat import Pairs, laid
from yellow_hinge.core.leading.prices.scenes import PlacingContext, Scenes, bits_of
from yellow_hinge.core.leading.prices.weights import Weights, quantised
from yellow_hinge.core.numerics import NDArray, Places, np
from yellow_hinge.core.shapes.placing import PAD, HandSet, Ints
from yellow_hinge.core.symbols.identity import reads_as_written

Terms = dict[str, Ints]  # prices by the weight that makes them


class Sets(NamedTuple):
    """Pairs of distinct sets of pitch classes of the two hands of some chords, one after the other: masks of both (n,),
    the left hand's bass as semitones above the root (n,), whose they are (n,), and at which of them every pair of
    placings is (pairs,).
    """

    left: Ints
    bass: Ints
    right: Ints
    of: Places
    at: Places

    @property
    def sounding(self) -> Ints:
        """What both hands sound."""
        found: Ints = self.left | self.right
        return found


def sets_of(pairs: Pairs, scenes: Scenes) -> Sets:
    """The sets of two hands; where the left hand has no bass of its own, the written one counts."""
    (left, right), whose = pairs.hands, (pairs.left.of, pairs.right.of)
    written = scenes.all(lambda scene: scene.palette.bass)[whose[0]]
    own = (left.low - scenes.root[whose[0]]) % 12 if scenes.one.mine else written
    bass = np.where(left.count > 0, own, written)
    chord = [of << 16 for of in whose]
    lefts, rows = np.unique(chord[0] | bass << 12 | left.mask, return_inverse=True)
    rights, columns = np.unique(chord[1] | right.mask, return_inverse=True)
    high, wide = (np.bincount(codes >> 16, minlength=len(scenes.each)) for codes in (lefts, rights))
    one, other = laid(high, wide)
    of = lefts[one] >> 16
    # A chord's first pair of sets, and its first sets of either hand.
    first, above, before = (np.cumsum(counts) - counts for counts in (high * wide, high, wide))
    at = first[pairs.of] + (rows.ravel()[pairs.rows] - above[pairs.of]) * wide[pairs.of]
    at += columns.ravel()[pairs.columns] - before[pairs.of]
    return Sets(lefts[one] & 0xFFF, lefts[one] >> 12 & 15, rights[other] & 0xFFF, of, at)


def _rotated(mask: Ints, by: int) -> Ints:
    """A mask of twelve pitch classes moved up by `by` semitones."""
    return ((mask << by) | (mask >> (12 - by))) & 0xFFF


def set_terms(sets: Sets, scenes: Scenes, weights: Weights) -> Terms:
    """Prices (n,) of what two sets of pitch classes do to each other."""
    rubbing = sets.left & ~scenes.all(_may_rub)[sets.of]
    colours = _colour_count(sets.sounding, scenes.all(lambda scene: scene.colours)[sets.of])
    asked = scenes.all(lambda scene: scene.colours_asked)[sets.of]
    return {
        "doubled": _shared(sets, scenes, weights),
        "ninth": quantised(weights.ninth) * ((_rotated(rubbing, 1) & sets.right) != 0).astype(np.int32),
        "bare": quantised(weights.bare) * np.maximum(0, asked - colours),
        "crowded": quantised(weights.crowded) * np.maximum(0, colours - asked),
    }


def _may_rub(scene: PlacingContext) -> int:
    """What may have a minor ninth above it (bits): a dominant's root, and what is written under the chord, which is no
    fault of the hands.
    """
    return (scene.palette.flat_nine and 1 << scene.root) | (scene.palette.bass and 1 << scene.bass_pc)


@lru_cache(maxsize=1024)
def _both(doubling: Doubling, root: int, doubled: float) -> Ints:
    """Prices of a pitch class that both hands sound (12,)."""
    return np.array([quantised(doubled * doubling.between[(pc - root) % 12]) for pc in range(12)], np.int32)


def _shared(sets: Sets, scenes: Scenes, weights: Weights) -> Ints:
    """Prices (n,) of the pitch classes that both hands sound."""
    prices = np.array([_both(scene.doubling, scene.root, weights.doubled) for scene in scenes.each])
    shared = (sets.left & sets.right)[:, None] >> np.arange(12) & 1
    found: Ints = (shared * prices[sets.of]).sum(1, dtype=np.int32)
    return found


def _colour_count(sounding: Ints, colours: Ints | int) -> Ints:
    """How many colours sound beyond what is written."""
    found: Ints = np.bitwise_count(sounding & colours).astype(np.int32)
    return found


def unfit(sets: Sets, scenes: Scenes) -> NDArray[np.bool_]:
    """Where (n,) something that must sound is missing, a colour sounds without the tone it needs or beside one that
    it fights with, or the notes over their bass are heard as another chord.
    """
    of, sounding = sets.of, sets.sounding
    must = scenes.all(lambda scene: scene.must)[of]
    heard = sounding | scenes.all(lambda scene: scene.given)[of]
    lacking: NDArray[np.bool_] = heard & must != must
    open_ = np.zeros_like(lacking)
    if scenes.one.thirdless:
        third = scenes.all(lambda scene: scene.bits("3", "b3"))[of]
        open_ = (must & third != 0) & (sounding & third == 0) & ((heard & must) | (must & third) == must)
        lacking &= ~open_
    for colour, tone in scenes.listed(lambda s: [(s.bits(a), s.bits(b)) for a, b in s.palette.tied], 2):
        lacking |= (sounding & colour[of] != 0) & (sounding & tone[of] == 0)
    for (fights,) in scenes.listed(lambda s: [(s.bits(*pair),) for pair in s.palette.apart]):
        lacking |= (fights[of] != 0) & (sounding & fights[of] == fights[of])
    for (some,) in scenes.listed(lambda s: [(s.bits(*group),) for group in s.palette.choice]):
        lacking |= (some[of] != 0) & (sounding & some[of] == 0)
    lacking |= scenes.all(lambda scene: scene.stands_on)[of] >> sets.bass & 1 == 0
    upper = scenes.all(lambda scene: scene.upper)[of]
    lacking |= sets.right & upper != upper
    _heard_otherwise(lacking, np.flatnonzero(~lacking & ~open_), sets, scenes)
    return lacking


def _heard_otherwise(lacking: NDArray[np.bool_], at: Places, sets: Sets, scenes: Scenes) -> None:
    """Mark those of the sets `at` whose notes over their bass are heard as another chord."""
    of, root = sets.of[at], scenes.root[sets.of[at]]
    sounding = sets.sounding[at]
    above = (sounding >> root | sounding << (12 - root)) & 0xFFF
    for place, chord, bass, notes in zip(*(each.tolist() for each in (at, of, sets.bass[at], above)), strict=True):
        quality = scenes.each[chord].quality
        lacking[place] = quality is not None and not reads_as_written(quality, bass, notes)


# --- under a tune ------------------------------------------------------------------------------------------------


def tune_table(left: HandSet, right: HandSet, tune: tuple[int, ...], scene: PlacingContext, weights: Weights) -> Ints:
    """What long melody notes (MIDI) add to the price of every pair (L, R) of a chord: half steps and minor ninths
    beside them in the hands cost, and a colour that the melody sounds is one that the hands need not bring.
    """
    mask = bits_of(tune)
    rubs = [_rubs(hand, tune, mask, scene).sum(1, dtype=np.int32) for hand in (left, right)]
    sounding = left.mask[:, None] | right.mask[None, :]
    asked, colours = scene.colours_asked, scene.colours
    bare, relieved = (np.maximum(0, asked - _colour_count(n, colours)) for n in (sounding, sounding | mask))
    beside = quantised(weights.tune) * (rubs[0][:, None] + rubs[1][None, :])
    cost: Ints = beside + quantised(weights.bare) * (relieved - bare)
    return cost


def _rubs(hand: HandSet, tune: tuple[int, ...], mask: int, scene: PlacingContext) -> NDArray[np.bool_]:
    """Where (n, SIZE) a note lies a half step or a minor ninth from a melody note, and is none itself. The flat ninth
    over a dominant's root is none.
    """
    notes = hand.pitches
    found = np.zeros(notes.shape, bool)
    for midi in tune:
        near = np.abs(notes - midi) % 12 == 1
        if scene.palette.flat_nine and (midi - scene.root) % 12 == 1:
            near &= (notes % 12 != scene.root) | (notes > midi)
        found |= near
    rubbing: NDArray[np.bool_] = found & (notes != PAD) & (mask >> notes % 12 & 1 == 0)
    return rubbing
