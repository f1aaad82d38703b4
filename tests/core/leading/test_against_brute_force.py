"""The engine's prices and optimum against the plain judge."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.leading import brute
from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.key import parse_key
from yellow_hinge.core.leading.lattice import Builder, _free_stage, _long_tune, _tuned
from yellow_hinge.core.leading.motion import match, prices
from yellow_hinge.core.leading.setup import Keep, Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.leading.weights import INFINITE, STYLES, Weights
from yellow_hinge.core.shapes.forms import all_forms
from yellow_hinge.core.shapes.palette import palette
from yellow_hinge.core.timeline import timeline

HAND = st.lists(st.integers(36, 84), max_size=4, unique=True).map(lambda notes: tuple(sorted(notes)))
WEIGHTS = st.builds(
    Weights, leap=st.sampled_from([0.0, 0.6, 2.0]), hold=st.sampled_from([-0.5, 0.0]), enter=st.sampled_from([0.5, 2.2]),
    leave=st.sampled_from([0.3, 2.0]), thin=st.sampled_from([0.0, 1.6]), mud=st.sampled_from([0.1, 0.45]),
    doubled=st.sampled_from([0.2, 1.0]), bare=st.sampled_from([0.0, 0.5]), home=st.sampled_from([0.12, 0.4]),
)  # fmt: skip


@given(HAND, HAND, st.sampled_from(["left", "right"]), st.booleans(), WEIGHTS)
def test_a_change_is_priced_as_the_best_of_all_matchings(old, new, hand, mine, weights):
    if hand == "left" and mine and not (old and new):
        return
    cost, moves = match(old, new, hand, mine, prices(weights))
    assert cost == brute.hand_change(old, new, hand, mine, weights)
    assert sorted(m.old for m in moves if m.old is not None) == list(old)
    assert sorted(m.new for m in moves if m.new is not None) == list(new)


CHORDS = [
    "Dm7",
    "G7",
    "Cmaj7",
    "A7b9",
    "F6",
    "Bm7b5",
    "E7",
    "Am9",
    "Eb7",
    "C/E",
    "Fm6",
    "Bdim7",
    "G9sus4",
    "D13",
    "Abmaj7",
]
FAMILIES = [
    ("octave-triad",),
    ("guide-tones",),
    ("rootless-a", "rootless-b"),
    ("rootless-right",),
    ("octave-triad", "rootless-right"),
]


def stage_voicings(stage, scene, forms, weights):
    """(voicing, price) of every pair of hands by the plain judge, checked against the table."""
    found = []
    for l in range(len(stage.left)):
        for r in range(len(stage.right)):
            rules = [stage.shapes[f.family] for i, f in enumerate(forms)
                     if int(stage.left.rules[l]) >> i & 1 and int(stage.right.rules[r]) >> i & 1]  # fmt: skip
            both = stage.left.notes(l), stage.right.notes(r)
            price = brute.place(*both, stage.shapes, rules, scene, weights)
            assert (price >= brute.NEVER) == (int(stage.place.cost[l, r]) >= INFINITE), both
            if price < brute.NEVER:
                assert price == int(stage.place.cost[l, r]), both
                found.append((both, price))
    return found


@settings(max_examples=60)
@given(
    st.lists(st.sampled_from(CHORDS), min_size=1, max_size=3), st.sampled_from(FAMILIES), st.integers(0, 3), st.booleans(),
    st.sampled_from([7, 8, 9, 10]), WEIGHTS, st.booleans(), st.integers(0, 5),
)  # fmt: skip
def test_the_song_is_the_cheapest_of_all_songs(chords, families, colour, loop, reach, weights, melody, keep_at):
    key = parse_key("C")
    bass = "theirs" if families[0] in ("guide-tones", "rootless-a") else "mine"
    setup = Setup(bass, Hands(left_reach=reach, right_reach=reach, keys=61), colour, "Smoothest", families, loop)
    tune = "\ntune: | " + " | ".join(["E4:4"] * len(chords)) + " |" if melody else ""
    moments = timeline(parse_chart("key: C\n| " + " | ".join(chords) + " |" + tune))
    STYLES["Smoothest"], usual = weights, STYLES["Smoothest"]
    try:
        stages, keeps = [], ()
        for n, moment in enumerate(moments):
            following = moments[(n + 1) % len(moments)].chord if n + 1 < len(moments) or loop else None
            chord_palette = palette(moment.chord, key, colour, following)
            stage = _tuned(_free_stage(moment.chord, key, following, setup), _long_tune(moment), setup)
            forms = all_forms(stage.shapes, chord_palette, moment.chord.chord_class, setup.mine)
            scene = brute.Scene(
                moment.chord.root.pc, chord_palette, colour, _long_tune(moment), setup.hands, setup.mine
            )
            stages.append(stage_voicings(stage, scene, forms, weights))
        if keep_at < len(chords) and all(stages):
            both, price = stages[keep_at][len(stages[keep_at]) // 2]
            stages[keep_at] = [(both, price)]
            keeps = (Keep(moments[keep_at].address, chords[keep_at], *both),)
        if max(len(s) for s in stages) ** len(stages) > 30_000:
            return  # too many songs to try them all
        solution = solve_song(Builder(), moments, setup, keeps)
        best, _ = brute.cheapest(stages, setup.mine, loop, weights)
        assert solution.totals.cost == best
        assert solution.totals.exact
        total = sum(h.cost for h in solution.hinges) + sum(
            dict(stage)[(v.left, v.right)] for stage, v in zip(stages, solution.voicings, strict=True)
        )
        assert total == best
    finally:
        STYLES["Smoothest"] = usual
