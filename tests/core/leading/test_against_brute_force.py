"""The engine's prices and optimum against the plain judge."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.core.leading import brute
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.asked import asked_at
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup, Wish
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.chain.stage import Place, tuned, way_between
from yellow_hinge.core.leading.chain.widening import free_stage
from yellow_hinge.core.leading.prices.many import Change, tables_of
from yellow_hinge.core.leading.prices.motion import Way, change_table, change_tables, prices
from yellow_hinge.core.leading.prices.moves import match
from yellow_hinge.core.leading.prices.remarks import long_tune
from yellow_hinge.core.leading.prices.sung import sung_over
from yellow_hinge.core.leading.prices.weights import INFINITE, STYLES, Style, Weights
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.forms import all_forms
from yellow_hinge.core.shapes.placing import Placing, PlacingRoom, hand_set, one_hand, place_forms
from yellow_hinge.core.shapes.regions import local_keys
from yellow_hinge.core.song.timeline import timeline

HAND = st.lists(st.integers(36, 84), max_size=4, unique=True).map(lambda notes: tuple(sorted(notes)))
WEIGHTS = st.builds(
    Weights, leap=st.sampled_from([0.0, 0.6, 2.0]), hold=st.sampled_from([-0.5, 0.0]), enter=st.sampled_from([0.5, 2.2]),
    leave=st.sampled_from([0.3, 2.0]), thin=st.sampled_from([0.0, 1.6]), mud=st.sampled_from([0.1, 0.45]),
    doubled=st.sampled_from([0.2, 1.0]), bare=st.sampled_from([0.0, 0.5]), home=st.sampled_from([(0.12, 0.24), (0.4, 0.1)]),
    rise=st.sampled_from([0.0, 2.0]), fall=st.sampled_from([0.0, -0.8]), slide=st.sampled_from([0.0, 1.2]),
    slide_count=st.sampled_from([0.0, 4.0]), similar=st.sampled_from([0.0, 2.4]), oblique=st.sampled_from([0.0, 0.5]),
    inverted=st.sampled_from([0.5, 3.0]), singer=st.sampled_from([0.0, 0.8]), outermost=st.sampled_from([0.0, 3.0]),
    top_rise=st.sampled_from([0.0, 1.0]), top_fall=st.sampled_from([0.0, 3.0]), repeat=st.sampled_from([0.0, 6.0]),
    inner=st.sampled_from([(), (), (2.2, -1.6, 0.6)]), inner_voice=st.sampled_from(["lowest", "under the top"]),
    parallel=st.sampled_from([0.0, 9.0]), outer_parallel=st.sampled_from([0.0, 1.5]),
    slide_by=st.sampled_from(["semitones", "key"]),
) | st.sampled_from([style.weights for style in STYLES.values()])  # fmt: skip


PC = st.integers(0, 11)
WAYS = st.builds(
    Way,
    WEIGHTS,
    st.booleans(),
    st.none() | st.tuples(PC, PC),
    st.sampled_from([(), (0, 2, 4, 5, 7, 9, 11), (1, 4, 6, 9, 11)]),
    leads=st.sampled_from(["right", "left"]),
    anew=st.booleans(),
)


@given(HAND, HAND, st.sampled_from(["left", "right"]), st.booleans(), WAYS)
def test_a_change_is_priced_as_the_best_of_all_matchings(old, new, hand, mine, way):
    cost, moves = match(old, new, hand, mine, prices(way))
    assert cost == brute.hand_change(old, new, hand, mine, way)
    assert sorted(m.old for m in moves if m.old is not None) == list(old)
    assert sorted(m.new for m in moves if m.new is not None) == list(new)
    matched = [m for m in moves if m.old is not None and m.new is not None]
    assert len(matched) == min(len(old), len(new))
    assert [m.old for m in matched] == sorted(m.old for m in matched)
    assert [m.new for m in matched] == sorted(m.new for m in matched)


@given(st.lists(HAND, min_size=1, max_size=6), st.lists(HAND, min_size=1, max_size=6), st.sampled_from(["left",
    "right"]), st.booleans(), WAYS)  # fmt: skip
def test_the_table_of_all_changes_has_the_price_of_each(olds, news, hand, mine, way):
    """Sorted as hand sets are, and with rows behind that keeps added."""
    price = prices(way)
    sets = [sorted(set(hands), key=lambda notes: (len(notes), notes)) + hands[:1] for hands in (olds, news)]
    old, new = (hand_set(np.concatenate([one_hand(n).pitches for n in hands])) for hands in sets)
    table = change_table(old, new, hand, mine, price)
    assert table.tolist() == [[match(a, b, hand, mine, price)[0] for b in sets[1]] for a in sets[0]]
    back = way._replace(basses=way.basses and way.basses[::-1])
    many = [Change(a, b, hand, mine, led) for a, b, led in ((old, new, way), (new, old, back), (new, new, way))]
    for each, together in zip(many, tables_of(many), strict=True):
        alone = change_tables(*each[:4], prices(each.way))
        assert [(part.dtype, part.tolist()) for part in together] == [(part.dtype, part.tolist()) for part in alone]


def test_the_strand_of_a_line_is_priced_as_the_plain_judge_does():
    for line, new in [((9, 8, False), (53, 56, 60)), ((9, 8, True), (56, 60, 64)), ((4, 5, False), (53, 60, 65))]:
        way = Way(STYLES["Smoothest"].weights, line=line)
        for old in ((52, 57, 60), (57, 60, 64), (53, 60, 64)):
            assert match(old, new, "right", False, prices(way))[0] == brute.hand_change(old, new, "right", False, way)


CHORDS = ["Dm7", "G7", "Cmaj7", "A7b9", "F6", "Bm7b5", "E7", "Am9", "Eb7", "C/E", "Fm6", "Bdim7", "G9sus4", "D13",
    "Abmaj7"]  # fmt: skip
FAMILIES = [
    ("drop2",),
    ("left-inverted",),
    ("upper-triad",),
    ("octave-triad",),
    ("guide-tones",),
    ("rootless-a", "rootless-b"),
    ("rootless-right",),
    ("octave-triad", "rootless-right"),
]


KEPT_PART = {
    "chord": lambda v: v,
    "left": lambda v: v[0],
    "right": lambda v: v[1],
    "top": lambda v: v[1][-1:],
    "bass": lambda v: v[0][:1],
}


def tied(forms, left, right, root):
    """Whether both hands are one pair of a tied rule over the same root."""
    return any(
        (left, right) == (tuple(base + n for n in a), tuple(base + n for n in b))
        for a, b in forms.pairs
        for base in range(root, 128, 12)
    )


def allowed(hand, side, at, stage, forms):
    """Which rules take each placing of a hand."""
    room = PlacingRoom(at.asked.hands, at.asked.mine, at.asked.lift, top=at.top)
    placed = place_forms([Placing(forms, stage.shapes, side, stage.scene.root, room)])
    rules = {placed.hand.notes(n): placed.rules[n] for n in range(len(placed.of))}
    return [rules[hand.notes(n)] for n in range(len(hand))]


def stage_voicings(stage, scene, forms, weights, at):
    """(voicing, price) of every pair of hands by the plain judge, checked against the table."""
    found = []
    lefts, rights = allowed(stage.left, "left", at, stage, forms), allowed(stage.right, "right", at, stage, forms)
    for l in range(len(stage.left)):
        for r in range(len(stage.right)):
            rules = [stage.shapes[f.family] for i, f in enumerate(forms) if lefts[l][i] and rights[r][i]
                     and (not f.pairs or tied(f, stage.left.notes(l), stage.right.notes(r), scene.root))]  # fmt: skip
            both = stage.left.notes(l), stage.right.notes(r)
            price = brute.place(*both, stage.shapes, rules, scene, weights)
            assert (price >= brute.NEVER) == (int(stage.place.cost[l, r]) >= INFINITE), both
            if price < brute.NEVER:
                assert price == int(stage.place.cost[l, r]), both
                found.append((both, price))
    return found


def judged(at, tune, weights):
    """The stage of a place by the plain judge."""
    stage, asked = tuned(free_stage(at), tune, at), at.asked
    forms = all_forms(stage.shapes, stage.scene.palette, at.chord.chord_class, asked.mine, True)
    seen = stage.scene  # its level is higher than asked where a chosen family needs that
    scene = brute.PlacingContext(
        at.chord.root.pc,
        seen.palette,
        seen.level,
        tune,
        asked.hands,
        asked.mine,
        asked.singer,
        asked.lift,
        asked.anchored,
        at.chord.quality,
        asked.mine and not asked.families,
        seen.doubling,
        seen.outermost,
        seen.thirdless,
    )
    return stage_voicings(stage, scene, forms, weights, at)


@settings(max_examples=examples(60))
@given(
    st.lists(st.sampled_from(CHORDS), min_size=1, max_size=3), st.sampled_from(FAMILIES), st.integers(0, 3), st.booleans(),
    st.sampled_from([7, 8, 9, 10]), WEIGHTS, st.booleans(), st.integers(0, 5),
    st.sampled_from(["chord", "chord", "left", "right", "top", "bass"]), st.sampled_from([None, None, (60, 72)]), st.sampled_from([0, 0, 5, -4]),
)  # fmt: skip
def test_the_song_is_the_cheapest_of_all_songs(
    chords, families, colour, loop, reach, weights, melody, keep_at, part, singer, lift
):
    key = parse_key("C")
    bass = "theirs" if families[0] in ("guide-tones", "rootless-a") else "mine"
    setup = Setup(
        bass=bass,
        player=Player(Hands(left_reach=reach, right_reach=reach, keys=61), singer),
        colour=colour,
        style="As drawn",
        families=families,
        loop=loop,
        wishes=(Wish(1, lift=lift),) if lift else (),
    )
    tune = "\ntune: | " + " | ".join(["E4:4"] * len(chords)) + " |" if melody else ""
    moments = timeline(parse_chart("key: C\n| " + " | ".join(chords) + " |" + tune))
    STYLES.put_own({"As drawn": Style("as drawn", weights)})
    try:
        stages, places, tunes, keeps, local = [], [], [], (), local_keys(moments, loop)
        for n, moment in enumerate(moments):
            following = moments[(n + 1) % len(moments)].chord if n + 1 < len(moments) or loop else None
            end = "" if loop else "last" if n == len(moments) - 1 else "" if n else "first"
            tunes.append(long_tune(moment))
            avoid, asked = sung_over(moment.chord, tunes[-1]), asked_at(setup, moment)
            places.append(
                Place(
                    moment.chord, key, following, asked, outermost=end, avoid=avoid, local=local[n], closes=moment.ends
                )
            )
            stages.append(judged(places[-1], tunes[-1], weights))
        if keep_at < len(chords) and all(stages):
            both, _ = stages[keep_at][len(stages[keep_at]) // 2]
            if part == "top" and both[1]:  # the kept note may also be laid on top of a lower shape
                stages[keep_at] = judged(places[keep_at]._replace(top=both[1][-1]), tunes[keep_at], weights)
            stages[keep_at] = [(v, p) for v, p in stages[keep_at] if KEPT_PART[part](v) == KEPT_PART[part](both)]
            keeps = (Keep(moments[keep_at].slot_id, chords[keep_at], *both, part),)
        if max(len(s) for s in stages) ** len(stages) > 30_000:
            return  # too many songs to try them all
        solution = solve_song(Builder(), moments, setup, keeps)
        ways = [way_between(places[n - 1], place) for n, place in enumerate(places)]
        best, _ = brute.cheapest(stages, setup.mine, loop, ways)
        assert solution.totals.cost == best
        assert solution.totals.exact
        total = sum(h.cost for h in solution.hinges) + sum(
            dict(stage)[(v.left, v.right)] for stage, v in zip(stages, solution.voicings, strict=True)
        )
        assert total == best
    finally:
        STYLES.put_own({})
