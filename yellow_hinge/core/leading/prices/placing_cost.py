"""The price of one chord's voicings: every pair of a left and a right hand, without its neighbours."""

from __future__ import annotations

from typing import Literal, NamedTuple, TypeVar

from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.leading.prices.doubling import Doubling
from yellow_hinge.core.leading.prices.spacing import mud_table, resting, space_terms
from yellow_hinge.core.leading.prices.weights import INFINITE, Weights, quantised
from yellow_hinge.core.numerics import NDArray, later, np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.forms import Forms
from yellow_hinge.core.shapes.palette import Palette
from yellow_hinge.core.shapes.placing import PAD, SIZE, HandSet, Ints, tied_rows
from yellow_hinge.core.symbols.identity import reads_as_written
from yellow_hinge.core.symbols.quality import Quality

T = TypeVar("T", bound="np.generic")

# Colours asked for at each colour level, beyond what is written.
COLOURS_ASKED = (0, 1, 1, 2)


Outermost = Literal["", "first", "last"]


class PlaceTable(NamedTuple):
    """cost (L, R) in thousandths, INFINITE where the pair is no voicing; family (L, R) index into the shapes."""

    cost: Ints
    family: Ints


class PlacingContext(NamedTuple):
    """What a chord's voicings are judged by, its melody apart. `root` pitch class; `level` of colour; `lift` in
    semitones; `anchored` where registers count more because some part of the song is lifted; `singer` the register
    (MIDI) that the right hand leaves free; `quality` what its notes have to be heard as (None: as anything);
    `rooted` whether a left hand that has the bass has to sound the root, `ends` whether it has to stand on the
    written bass; `upper` pitch classes (bits) that the right hand has to hold by itself; `doubling` what notes cost
    that sound twice; `outermost` whether it begins or ends the song; `thirdless` whether
    hands without the third were chosen, whatever they are heard as.
    """

    root: int
    palette: Palette
    level: int
    hands: Hands
    mine: bool
    lift: int = 0
    anchored: bool = False
    singer: tuple[int, int] | None = None
    quality: Quality | None = None
    rooted: bool = False
    ends: bool = False
    upper: int = 0
    doubling: Doubling = Doubling()
    outermost: Outermost = ""
    thirdless: bool = False

    @property
    def bass_pc(self) -> int:
        """The pitch class of the written bass."""
        return (self.root + self.palette.bass) % 12


def _bits(pcs: set[int]) -> int:
    return sum(1 << pc % 12 for pc in pcs)


def _rotated(mask: Ints, by: int) -> Ints:
    """A mask of twelve pitch classes moved up by `by` semitones."""
    return ((mask << by) | (mask >> (12 - by))) & 0xFFF


Terms = dict[str, Ints]  # prices by the weight that makes them


def _sum(terms: Terms) -> Ints:
    values = list(terms.values())
    total = values[0].astype(np.int32)
    for value in values[1:]:
        total = total + value
    return total


def hand_terms(hand: HandSet, name: str, scene: PlacingContext, weights: Weights) -> Terms:
    """Prices (n,) of each placing of one hand by itself."""
    lower, upper = hand.pitches[:, :-1], hand.pitches[:, 1:]
    apart = np.maximum(upper - lower, 0)  # 0 where there is no upper note, and that costs nothing
    close = apart == 1
    seconds = ((apart == 1) | (apart == 2)).sum(1, dtype=np.int32)
    reach = reach_mm(scene.hands.reach(name))
    span = np.where(hand.count > 1, KEY_X[np.maximum(hand.high, 0)] - KEY_X[np.minimum(hand.low, 127)], 0.0)
    over = np.maximum(0.0, span - weights.comfort * reach)
    terms: Terms = {
        "mud": mud_table(weights)[apart, lower].sum(1, dtype=np.int32),
        "rub": quantised(weights.rub) * close.sum(1, dtype=np.int32),
        "seven_rub": quantised(weights.seven_rub) * (close & (upper % 12 == scene.root)).any(1).astype(np.int32),
        "cluster": quantised(weights.cluster) * np.maximum(0, seconds - 1),
        "stretch": np.round(over * quantised(weights.stretch)).astype(np.int32),
        "doubled": _octaves(hand, name, scene, weights),
    }
    if any(degree_pc(d) == 3 for d in (*scene.palette.tones, *scene.palette.colours)):
        third = close & ((upper - scene.root) % 12 == 4)
        terms["crushed"] = quantised(weights.crushed) * third.any(1).astype(np.int32)
    if name == "right":
        terms["top_rub"] = quantised(weights.top_rub) * (close & (upper == hand.high[:, None])).any(1).astype(np.int32)
    if name == "right" and scene.singer is not None:
        inside = (hand.pitches >= scene.singer[0]) & (hand.pitches <= scene.singer[1])
        terms["singer"] = quantised(weights.singer) * inside.sum(1, dtype=np.int32)
    if name == "left" and scene.mine:
        other = (hand.count > 0) & (hand.low % 12 != scene.bass_pc)
        terms["inverted"] = quantised(weights.inverted) * other.astype(np.int32)
    return terms


def _octaves(hand: HandSet, name: str, scene: PlacingContext, weights: Weights) -> Ints:
    """Prices (n,) of the notes that a hand has twice: the bass by its own price where the left hand has it."""
    price = np.zeros(len(hand), np.int32)
    twice = np.flatnonzero(np.bitwise_count(hand.mask) < hand.count)
    if not len(twice):
        return price
    notes = hand.pitches[twice]
    table = scene.doubling.within if name == "right" else scene.doubling.between
    by_pc = np.array([quantised(weights.doubled * table[(pc - scene.root) % 12]) for pc in range(12)], np.int32)
    pcs = np.where(notes == PAD, -1 - np.arange(notes.shape[1]), notes % 12)  # what is no note equals no other
    same = (pcs[:, :, None] == pcs[:, None, :]) & _LATER
    own = by_pc[notes % 12]
    if name == "left" and scene.mine:
        own[:, 0] = quantised(weights.doubled * scene.doubling.bass)
    price[twice] = (same.sum(2, dtype=np.int32) * own).sum(1, dtype=np.int32)
    return price


_LATER: NDArray[np.bool_] = later(lambda: np.triu(np.ones((SIZE, SIZE), bool), 1))  # [lower, upper]


def tune_table(left: HandSet, right: HandSet, tune: tuple[int, ...], scene: PlacingContext, weights: Weights) -> Ints:
    """What long melody notes (MIDI) add to the price of every pair (L, R): half steps and minor ninths beside them in
    the hands cost, and a colour that the melody sounds is one that the hands need not bring.
    """
    mask = _bits(set(tune))
    rubs = [_rubs(hand, tune, mask, scene).sum(1, dtype=np.int32) for hand in (left, right)]
    bare = _bare(left.mask[:, None] | right.mask[None, :], scene, weights)
    relieved = _bare(left.mask[:, None] | right.mask[None, :] | mask, scene, weights)
    cost: Ints = quantised(weights.tune) * (rubs[0][:, None] + rubs[1][None, :]) + relieved - bare
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


def _colour_count(sounding: Ints, scene: PlacingContext) -> tuple[Ints, int]:
    """(colours that sound beyond what is written, colours asked for)."""
    palette = scene.palette
    colours = {(scene.root + degree_pc(d)) % 12 for d in palette.colours}
    written = {(scene.root + degree_pc(d)) % 12 for d in palette.tones}
    asked = min(COLOURS_ASKED[scene.level], len(palette.colours))
    return np.bitwise_count(sounding & _bits(colours - written)).astype(np.int32), asked


def _bare(sounding: Ints, scene: PlacingContext, weights: Weights) -> Ints:
    colours, asked = _colour_count(sounding, scene)
    price: Ints = quantised(weights.bare) * np.maximum(0, asked - colours)
    return price


def family_terms(hand: HandSet, shape: Shape, side: int, scene: PlacingContext, weights: Weights) -> Terms:
    """Prices (n,) of one hand (side 0 left, 1 right) in a family: distance from its home register, notes short of its
    fullness and, on the left side, what the family costs.
    """
    return {name: table[0] for name, table in _family_table(hand, [shape], side, scene, weights).items()}


def _family_table(hand: HandSet, shapes: list[Shape], side: int, scene: PlacingContext, weights: Weights) -> Terms:
    """The terms of several families, (families, n) each."""
    lift = scene.lift if side else scene.lift // 2
    home = np.array([[2 * (shape.home[side] + lift)] for shape in shapes], np.int32)  # twice the middle, as below
    middle = np.where(hand.count > 0, hand.low + hand.high, home)
    near, price = weights.home_near[side], weights.home[side]
    if scene.anchored:
        near, price = weights.anchored_near, weights.anchored
    away = np.maximum(0, np.abs(middle - home) - 2 * near) * (quantised(price) // 2)
    if side and scene.outermost:  # so that no song ends much lower than it began
        wrong = middle - home if scene.outermost == "first" else home - middle
        away = away + np.maximum(0, wrong) * (quantised(weights.outermost) // 2)
    full = np.array([[shape.full[side]] for shape in shapes], np.int32)
    prefer = np.array([[0 if side else quantised(shape.prefer)] for shape in shapes], np.int32)
    return {
        "home": away.astype(np.int32),
        "thin": (np.maximum(0, full - hand.count) * quantised(weights.thin)).astype(np.int32),
        "prefer": np.broadcast_to(prefer, (len(shapes), len(hand))),
    }


class Sets(NamedTuple):
    """The distinct sets of pitch classes of two hands, since few come up: masks (a,) and (b,), the left hand's bass as
    semitones above the root (a,), and which set every placing has (L,), (R,).
    """

    left: Ints
    bass: Ints
    right: Ints
    rows: NDArray[np.intp]
    columns: NDArray[np.intp]

    def spread(self, table: NDArray[T]) -> NDArray[T]:
        """A table (a, b) over sets as one (L, R) over placings."""
        return table[self.rows][:, self.columns]


def sets_of(left: HandSet, right: HandSet, scene: PlacingContext) -> Sets:
    """The sets of two hands; where the left hand has no bass of its own, the written one counts."""
    own = (left.low - scene.root) % 12 if scene.mine else scene.palette.bass
    bass = np.where(left.count > 0, own, scene.palette.bass)
    codes, rows = np.unique(left.mask | bass.astype(np.int32) << 12, return_inverse=True)
    masks, columns = np.unique(right.mask, return_inverse=True)
    return Sets(codes & 0xFFF, codes >> 12, masks, rows.ravel(), columns.ravel())


def set_terms(sets: Sets, scene: PlacingContext, weights: Weights) -> Terms:
    """Prices (a, b) of what two sets of pitch classes do to each other."""
    lmask, rmask = sets.left[:, None], sets.right[None, :]
    root = 1 << scene.root
    rubbing = lmask & ~root if scene.palette.flat_nine else lmask
    if scene.palette.bass:  # what is written under the chord is no fault of the hands
        rubbing = rubbing & ~(1 << scene.bass_pc)
    colours, asked = _colour_count(lmask | rmask, scene)
    return {
        "doubled": _shared(lmask & rmask, scene, weights),
        "ninth": quantised(weights.ninth) * ((_rotated(rubbing, 1) & rmask) != 0).astype(np.int32),
        "bare": quantised(weights.bare) * np.maximum(0, asked - colours),
        "crowded": quantised(weights.crowded) * np.maximum(0, colours - asked),
    }


def _shared(both: Ints, scene: PlacingContext, weights: Weights) -> Ints:
    """Prices (a, b) of the pitch classes (bits) that both hands sound."""
    total = np.zeros(both.shape, np.int32)
    for semitones, price in enumerate(scene.doubling.between):
        if price:
            total += quantised(weights.doubled * price) * (both >> (scene.root + semitones) % 12 & 1).astype(np.int32)
    return total


def pair_terms(left: HandSet, right: HandSet, scene: PlacingContext, weights: Weights) -> Terms:
    """Prices (L, R) of what the two hands do to each other."""
    sets = sets_of(left, right, scene)
    spread = {name: sets.spread(table) for name, table in set_terms(sets, scene, weights).items()}
    return space_terms(left, right, max(0, scene.lift), weights) | spread


def lacking(left: HandSet, right: HandSet, sets: Sets, scene: PlacingContext) -> NDArray[np.bool_]:
    """Where (L, R) the hands cross or meet, or their notes are no voicing of the chord."""
    crossed = ~resting(left, right) & (right.low[None, :] <= left.high[:, None])
    found: NDArray[np.bool_] = crossed | sets.spread(unfit(sets, scene))
    return found


def unfit(sets: Sets, scene: PlacingContext) -> NDArray[np.bool_]:
    """Where (a, b) something that must sound is missing, a colour sounds without the tone it needs or beside one that
    it fights with, or the notes over their bass are heard as another chord.
    """
    palette, sounding = scene.palette, sets.left[:, None] | sets.right[None, :]
    must = _degree_bits(scene, *palette.must, *(("1",) if scene.rooted else ()))
    given = 0 if scene.mine else 1 << scene.bass_pc
    lacking: NDArray[np.bool_] = ((sounding | given) & must) != must
    open_ = np.zeros_like(lacking)
    third = _degree_bits(scene, "3", "b3")
    if scene.thirdless and must & third:
        open_ = ((sounding & third) == 0) & (((sounding | given) & must) | (must & third) == must)
        lacking &= ~open_
    for colour, tone in palette.tied:
        lacking |= (sounding & _degree_bits(scene, colour) != 0) & (sounding & _degree_bits(scene, tone) == 0)
    for pair in palette.apart:
        lacking |= sounding & _degree_bits(scene, *pair) == _degree_bits(scene, *pair)
    for group in palette.choice:
        lacking |= sounding & _degree_bits(scene, *group) == 0
    stands = np.zeros(12, bool)
    stands[_basses(scene)] = True
    lacking |= ~stands[sets.bass][:, None]
    lacking |= (sets.right & scene.upper != scene.upper)[None, :]
    if scene.quality is not None:
        for a, b in np.argwhere(~lacking & ~open_).tolist():
            above = _above(int(sounding[a, b]), scene.root)
            lacking[a, b] = not reads_as_written(scene.quality, int(sets.bass[a]), above)
    return lacking


def _degree_bits(scene: PlacingContext, *degrees: str) -> int:
    return _bits({scene.root + degree_pc(degree) for degree in degrees})


def _basses(scene: PlacingContext) -> list[int]:
    """What a left hand that has the bass may stand on, as semitones above the root: the written bass, and where that
    may turn the third, natural fifth or seventh.
    """
    quality, bass = scene.quality, scene.palette.bass
    if quality is None or scene.ends:
        return [bass]
    turned = (quality.third, quality.fifth if quality.fifth == "5" else "", quality.seventh)
    return [bass, *(degree_pc(degree) for degree in turned if degree)]


def _above(mask: int, root: int) -> int:
    """A mask of pitch classes as one of semitones above a root."""
    return (mask >> root | mask << (12 - root)) & 0xFFF


def own_price(left: HandSet, right: HandSet, shapes: tuple[Shape, ...], scene: PlacingContext, weights: Weights) -> int:
    """Price of one voicing that belongs to no family (hand sets of one row each), in thousandths: register and fullness
    count as in the family that judges them mildest.
    """
    alone = _sum(hand_terms(left, "left", scene, weights)) + _sum(hand_terms(right, "right", scene, weights))
    mildest = 0
    if shapes:
        one, two = (_family_table(hand, list(shapes), side, scene, weights) for side, hand in enumerate((left, right)))
        mildest = int((one["home"] + one["thin"] + two["home"] + two["thin"]).min())
    return int(alone[0]) + mildest + int(_sum(pair_terms(left, right, scene, weights))[0, 0])


def place_table(
    left: HandSet,
    right: HandSet,
    forms: tuple[Forms, ...],
    shapes: tuple[Shape, ...],
    scene: PlacingContext,
    weights: Weights,
) -> PlaceTable:
    """Price and family of every pair of hands. A pair is a voicing only where one rule allows both hands; of several
    families the cheapest counts, the first in catalogue order among equals.
    """
    lcost = _by_rule(left, 0, forms, shapes, scene, weights)
    rcost = _by_rule(right, 1, forms, shapes, scene, weights)
    loose = [index for index, entry in enumerate(forms) if not entry.pairs]
    number = np.array([entry.family for entry in forms], np.int32)
    total = np.full((len(left), len(right)), INFINITE // 2, np.int32)
    family = np.zeros((len(left), len(right)), np.int32)
    if loose:
        ways = lcost[loose][:, :, None] + rcost[loose][:, None, :]
        total = ways.min(0)
        for place in range(len(loose) - 1, -1, -1):  # the first family among equals is written last
            family[ways[place] == total] = number[loose[place]]
    for index, entry in enumerate(forms):
        if entry.pairs:
            at = tied_rows(entry, scene.root, left, right)
            cost = lcost[index, at[0]] + rcost[index, at[1]]
            better = (cost < total[at]) | (cost == total[at]) & (entry.family < family[at])
            family[at] = np.where(better, entry.family, family[at])
            total[at] = np.where(better, cost, total[at])
    total += _sum(hand_terms(left, "left", scene, weights))[:, None]
    total += _sum(hand_terms(right, "right", scene, weights))[None, :]
    sets = sets_of(left, right, scene)
    total += _sum(space_terms(left, right, max(0, scene.lift), weights)) + sets.spread(
        _sum(set_terms(sets, scene, weights))
    )
    total[lacking(left, right, sets, scene)] = INFINITE
    total[total >= INFINITE // 2] = INFINITE
    return PlaceTable(total, family)


def _by_rule(
    hand: HandSet,
    side: int,
    forms: tuple[Forms, ...],
    shapes: tuple[Shape, ...],
    scene: PlacingContext,
    weights: Weights,
) -> Ints:
    """What one hand's placings cost under every rule, (rules, n); half of INFINITE where it does not take them."""
    used = sorted({entry.family for entry in forms})
    prices = _sum(_family_table(hand, [shapes[i] for i in used], side, scene, weights))
    rows = [used.index(entry.family) for entry in forms]
    taken = (hand.rules[None, :] >> np.arange(len(forms))[:, None] & 1).astype(bool)
    found: Ints = np.where(taken, prices[rows], INFINITE // 2)
    return found
