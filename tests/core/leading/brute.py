"""An independent, slow and plain judge of voicings: scalar prices written from the words of the design, every path tried.

It shares only the data (weights, low-interval limits, catalogue) with the engine.
"""

from __future__ import annotations

from collections import namedtuple
from functools import cache
from itertools import combinations, pairwise, product

from yellow_hinge.core.hands import KEY_X, reach_mm
from yellow_hinge.core.leading.prices.scenes import COLOURS_ASKED
from yellow_hinge.core.leading.prices.spacing import LOW_LIMIT
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.symbols.naming import NAMED, RARE
from yellow_hinge.core.symbols.symbol import parse_symbol

NEVER = 10**9
PlacingContext = namedtuple(
    "PlacingContext",
    "root palette level tune hands mine singer lift anchored quality rooted doubling outermost thirdless",
)


def q(value):
    return round(value * 1000)


def matchings(old, new):
    """Every non-crossing matching of all notes of the smaller side, as a list of (old, new) pairs."""
    count = min(len(old), len(new))
    for a in combinations(old, count):
        for b in combinations(new, count):
            yield list(zip(a, b, strict=True))


def near(table, beyond, distance):
    last = len(table) - 1
    return q(table[distance]) if distance <= last else q(table[last] + beyond * (distance - last))


def hand_change(old, new, hand, mine, way):
    """Price of one hand's change: the cheapest of all matchings."""
    w, total = way.weights, parallels(old, new, hand, way) + strands(old, new, way)
    if not old or not new:
        return total + len(old) * q(w.leave) + len(new) * q(w.enter) + slid(len(old), len(new), w)
    if hand == "left" and mine and old and new:
        total += near(w.bass, w.bass_beyond, abs(old[0] - new[0]))
        total += q(w.bass_octave) * (abs(old[0] - new[0]) in (10, 11, 13, 14, 22, 23, 25, 26))
        total += q(w.rise) if new[0] > old[0] else q(w.fall) if old[0] - new[0] in (1, 2) else 0
    if hand == way.leads and old and new:
        leap = abs(old[-1] - new[-1])
        anew = way.anew and w.top_anew
        total += near(w.top_anew, 0.0, leap) if anew else near(w.top, w.top_beyond, leap)
        total += 0 if anew else q(w.top_rise) * (new[-1] > old[-1]) + q(w.top_fall) * (new[-1] < old[-1])
        total += q(w.repeat) * (way.repeats and old == new)
        if w.inner and len(old) > 1 and len(new) > 1:
            voice = 0 if w.inner_voice == "lowest" else -2
            total += near(w.inner, w.inner_beyond, abs(old[voice] - new[voice]))
    if w.slide:
        total += q(w.slide_count) * abs(len(old) - len(new))
        for k in range(1, min(len(old), len(new))):
            (a, b), (c, d) = ((place_on(n, way.scale) for n in (h[0], h[k])) for h in (old, new))
            total += q(w.slide) * abs((b - a) - (d - c))
    if hand == "left" and mine and old and new:
        old, new = old[1:], new[1:]
    best = NEVER
    for pairs in matchings(old, new):
        cost = (len(old) - len(pairs)) * q(w.leave) + (len(new) - len(pairs)) * q(w.enter)
        for a, b in pairs:
            d = abs(a - b)
            cost += q(w.hold) if d == 0 else q(w.move * d + w.leap * max(0, d - w.leap_over))
        best = min(best, cost)
    return total + best


def place_on(midi, scale):
    """Semitones, or two for every step of a key below a note; what lies between two steps is one above the lower."""
    if not scale:
        return midi
    below = [n for n in range(midi + 1) if n % 12 in scale]
    return 2 * len(below) - (midi % 12 in scale)


def parallels(old, new, hand, way):
    """Fifths or octaves in a row: inside a hand that keeps its number of notes, and over known basses that change."""
    w, price = way.weights, 0
    same = len(old) == len(new)
    if same:
        for i, j in combinations(range(len(old)), 2):
            apart = (old[j] - old[i]) % 12
            price += q(w.parallel) * (apart in (0, 7) and apart == (new[j] - new[i]) % 12 and old[i] != new[i])
    if hand == "right" and way.basses and way.basses[0] != way.basses[1]:
        over = [[(n - bass) % 12 for n in notes] for notes, bass in zip((old, new), way.basses, strict=True)]
        if same:
            price += q(w.parallel) * sum(a == b and a in (0, 7) for a, b in zip(*over, strict=True))
        if old and new:
            price += q(w.outer_parallel) * (over[0][-1] == over[1][-1] and over[0][-1] in (0, 7))
    return price


def strands(old, new, way):
    """Notes of a line inside a held chord that go on, or come from, another voice of the hand."""
    if way.line is None:
        return 0
    gone, come, stays = way.line
    step = (come - gone + 6) % 12 - 6
    lost = 0 if stays else sum(n % 12 == gone and n + step not in new for n in old)
    return q(way.weights.strand) * (lost + sum(n % 12 == come and n - step not in old for n in new))


def slid(old, new, w):
    return q(w.slide_count) * abs(old - new) if w.slide else 0


def change(old, new, mine, way):
    both = hand_change(old[0], new[0], "left", mine, way) + hand_change(old[1], new[1], "right", mine, way)
    return both + outer(old, new, way)


def way(old, new, note):
    if not old or not new:
        return 0
    return (new[note] > old[note]) - (new[note] < old[note])


def outer(old, new, led):
    """Bass and top the same way, or only one of them moving."""
    w, leads = led.weights, 1 if led.leads == "right" else 0
    bass, top = way(old[0], new[0], 0), way(old[leads], new[leads], -1)
    if bass and top:
        return q(w.similar) if bass == top else 0
    return q(w.oblique) if bass or top else 0


def fits(left, right, scene):
    """Whether the notes are a voicing of the chord: nothing missing, nothing that fights, heard as what is written."""
    root, palette = scene.root, scene.palette
    sounding = {n % 12 for n in (*left, *right)}
    given = set() if scene.mine else {(root + palette.bass) % 12}
    thirds = {(root + 3) % 12, (root + 4) % 12}
    must = {(root + degree_pc(d)) % 12 for d in palette.must}
    bare = scene.thirdless and thirds & must and not thirds & sounding
    if not must - (thirds if bare else set()) <= sounding | given:
        return False
    for colour, tone in palette.tied:
        if (root + degree_pc(colour)) % 12 in sounding and (root + degree_pc(tone)) % 12 not in sounding:
            return False
    for one, other in palette.apart:
        if {(root + degree_pc(one)) % 12, (root + degree_pc(other)) % 12} <= sounding:
            return False
    for group in palette.choice:
        if not {(root + degree_pc(degree)) % 12 for degree in group} & sounding:
            return False
    bass = (left[0] - root) % 12 if scene.mine and left else palette.bass
    return not (
        (scene.rooted and root not in sounding)
        or not (bare or heard(scene.quality, bass, frozenset((pc - root) % 12 for pc in sounding)))
    )


def place(left, right, shapes, rules, scene, w):
    """Price of one voicing: rules is a list of (shape, left forms fit, right forms fit) that allow it."""
    if left and right and right[0] <= left[-1]:
        return NEVER
    if not fits(left, right, scene):
        return NEVER
    best = NEVER
    for shape in rules:
        cost = q(shape.prefer)
        homes = shape.home[0] + scene.lift // 2, shape.home[1] + scene.lift
        for side, (hand, home, full) in enumerate(((left, homes[0], shape.full[0]), (right, homes[1], shape.full[1]))):
            near, away = (w.anchored_near, w.anchored) if scene.anchored else (w.home_near[side], w.home[side])
            middle = hand[0] + hand[-1] - 2 * home if hand else 0
            cost += max(0, abs(middle) - 2 * near) * (q(away) // 2)
            if side and scene.outermost:
                wrong = middle if scene.outermost == "first" else -middle
                cost += max(0, wrong) * (q(w.outermost) // 2)
            cost += max(0, full - len(hand)) * q(w.thin)
        best = min(best, cost)
    if best == NEVER:
        return NEVER
    return best + alone(left, right, scene, w) + together(left, right, scene, w)


def degrees_of(quality):
    return {degree_pc(degree) for degree in quality.degrees}


def lacks(quality, sounding):
    """The price of what a chord (root 0) lacks among some sounding semitones."""
    total = 0.0
    for degree in quality.degrees[1:]:
        if degree_pc(degree) in sounding:
            continue
        if degree in (quality.third, quality.sixth, quality.seventh):
            total += 4.0 if degree == quality.third else 3.0
        elif degree == quality.fifth:
            total += 0.35 if degree == "5" and quality.third else 2.6
        elif degree[0] in "b#":
            total += 2.6
        else:
            natural = [d for d in quality.tensions if d[0] not in "b#"]
            total += 1.6 if degree == natural[-1] else 0.25
    return total


def unlike(quality, root, sounding, bass):
    here = {(pc - root) % 12 for pc in sounding}
    over = (bass - root) % 12
    extra = here - degrees_of(quality)
    foreign = over in extra
    price = lacks(quality, here) + 4.0 * len(extra - {over}) + (1.9 if foreign else 1.1 if over else 0.0)
    return price + (0.0 if 0 in here else 3.2)


@cache
def shared_roots(quality):
    """Roots on which all that is written is a chord of its own, under a usual name."""
    known = [degrees_of(parse_symbol("C" + word).quality) for word in NAMED if word not in RARE]
    return {root for root in range(12) for pcs in known if {(root + pc) % 12 for pc in pcs} == degrees_of(quality)}


@cache
def heard(quality, bass, sounding):
    """Whether notes above a root are heard as a chord of that quality, from the words of the rule."""
    sounding, written = sounding | {bass}, degrees_of(quality)
    if sounding <= written | {bass}:
        return True
    if bass not in written:
        return not ({(bass + 3) % 12, (bass + 4) % 12} - written) & sounding
    own, rival = [], []
    for word in NAMED:
        other = parse_symbol("C" + word).quality
        plain_fifths = quality.fifth in ("5", ""), other.fifth in ("5", "")
        same = other.third == quality.third and (plain_fifths[0] or other.fifth == quality.fifth)
        same = same and (plain_fifths[1] or other.fifth == quality.fifth or quality.alt)
        same = same and quality.seventh in ("", other.seventh)
        if same and (not quality.sixth or quality.sixth == other.sixth or "13" in other.tensions):
            own.append(unlike(other, 0, sounding, bass))
        if word in RARE:
            continue
        rival += [unlike(other, root, sounding, bass) for root in range(1, 12) if root not in shared_roots(quality)]
    return min(own, default=99) < min(rival) - 1e-6


def rubs(one, other, scene):
    low, high = sorted((one, other))
    flat_nine = scene.palette.flat_nine and other == high and low % 12 == scene.root
    return (high - low) % 12 == 1 and not flat_nine


def alone(left, right, scene, w):
    """What each hand does by itself."""
    price = 0
    for hand, reach in ((left, scene.hands.left_reach), (right, scene.hands.right_reach)):
        steps = [b - a for a, b in pairwise(hand)]
        price += q(w.rub) * steps.count(1) + q(w.cluster) * max(0, sum(s <= 2 for s in steps) - 1)
        if any(b - a == 1 and b % 12 == scene.root for a, b in pairwise(hand)):
            price += q(w.seven_rub)
        if any(b - a == 1 and (b - scene.root) % 12 == 4 for a, b in pairwise(hand)):
            price += q(w.crushed)
        if hand is right and steps and steps[-1] == 1:
            price += q(w.top_rub)
        span = KEY_X[hand[-1]] - KEY_X[hand[0]] if hand else 0.0
        price += round(max(0.0, span - w.comfort * reach_mm(reach)) * q(w.stretch))
        tune_pcs = {t % 12 for t in scene.tune}
        price += q(w.tune) * sum(n % 12 not in tune_pcs and any(rubs(n, t, scene) for t in scene.tune) for n in hand)
    if scene.mine and left and left[0] % 12 != (scene.root + scene.palette.bass) % 12:
        price += q(w.inverted)
    if scene.singer:
        price += q(w.singer) * sum(scene.singer[0] <= note <= scene.singer[1] for note in right)
    return price


def together(left, right, scene, w):
    """What the hands do to each other."""
    root, palette = scene.root, scene.palette
    price = sum(q(w.mud) * max(0, LOW_LIMIT[b - a] - a) for a, b in pairwise((*left, *right)) if b - a in LOW_LIMIT)
    price += q(w.muddy) * (price >= 1000)
    if left and right:
        apart, climbs = right[0] - left[-1], max(0, scene.lift)
        price += q(w.gap) * max(0, apart - w.gap_over)
        if not w.parallel:
            price += q(w.gap_wide) * max(0, apart - max(16, w.gap_over) - climbs)
            price += q(w.gap_wider) * max(0, apart - 20 - climbs)
    for pc in {n % 12 for n in left} & {n % 12 for n in right}:
        price += q(w.doubled * scene.doubling.between[(pc - root) % 12])
    for a, b in combinations(left, 2):
        if (b - a) % 12 == 0:
            bass = a == left[0] and scene.mine
            price += q(w.doubled * (scene.doubling.bass if bass else scene.doubling.between[(a - root) % 12]))
    for a, b in combinations(right, 2):
        price += q(w.doubled * scene.doubling.within[(a - root) % 12]) * ((b - a) % 12 == 0)
    written = {root} if palette.flat_nine else set()
    written |= {(root + palette.bass) % 12} if palette.bass else set()
    if any((r - l) % 12 == 1 and l % 12 not in written for l in left for r in right):
        price += q(w.ninth)
    extra = {(root + degree_pc(d)) % 12 for d in palette.colours} - {(root + degree_pc(d)) % 12 for d in palette.tones}
    sounding = {n % 12 for n in (*left, *right)}
    colours, asked = len(sounding & extra), min(COLOURS_ASKED[scene.level], len(palette.colours))
    with_tune = len((sounding | {t % 12 for t in scene.tune}) & extra)
    return price + q(w.bare) * max(0, asked - with_tune) + q(w.crowded) * max(0, colours - asked)


def cheapest(stages, mine, loop, ways):
    """(cost, number of ties) over every sequence of (voicing, price) of the stages; ways[i] leads to stage i."""
    best, ties = NEVER, 0
    cache = {}

    def go(a, b, i):
        if (a, b, i) not in cache:
            cache[a, b, i] = change(a, b, mine, ways[i])
        return cache[a, b, i]

    for path in product(*stages):
        cost = sum(price for _, price in path)
        cost += sum(go(a[0], b[0], i) for i, (a, b) in enumerate(pairwise(path), 1))
        cost += go(path[-1][0], path[0][0], 0) if loop else 0
        if cost < best:
            best, ties = cost, 1
        elif cost == best:
            ties += 1
    return best, ties
