"""What the engine says about its voicings: prices, ways out, hard changes, lines, reasons, other basses."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.core.leading.test_solution import CHORDS, solved
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands, reach_mm, span_mm
from yellow_hinge.core.leading import solution as solutions
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain import lattice as lattices
from yellow_hinge.core.leading.chain import stage as stages
from yellow_hinge.core.leading.chain import widest
from yellow_hinge.core.leading.chain.kept_stage import row_of
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.ladder import RUNGS, ladder, too_wide
from yellow_hinge.core.leading.lines import bass_line, stiff, voice_lines
from yellow_hinge.core.leading.price import faults, worth
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.other_basses import over_basses
from yellow_hinge.io.songs.demo import demo_song

SONG = "key: C\n| Cmaj7 | Am7 | Dm7 | G7 | C |"


# --- the price of any voicing ---


@pytest.mark.parametrize("loop", [False, True])
def test_the_worth_of_an_option_is_its_price(loop):
    found = solved(SONG, loop=loop)
    for index in range(len(found.voicings)):
        for option in options(found, index):
            assert worth(option.both, found, index).extra == option.extra
            assert worth(option.both, found, index).faults == ()


@settings(max_examples=examples(25), deadline=None)
@given(st.lists(CHORDS, min_size=2, max_size=4), st.data())
def test_the_worth_of_foreign_notes_is_what_keeping_them_costs(chords, data):
    moments = timeline(parse_chart("key: C\n| " + " | ".join(chords) + " |"))
    found = solve_song(BUILDER, moments, Setup())
    index = data.draw(st.integers(0, len(chords) - 1))
    left = (36 + found.voicings[index].chord.bass_note.pc,)
    right = tuple(sorted(data.draw(st.sets(st.integers(60, 71), min_size=2, max_size=4))))
    stage = found.lattice.stages[index]
    if row_of(stage.left, left) is not None and row_of(stage.right, right) is not None:
        return  # a shape makes them
    kept = solve_song(BUILDER, moments, Setup(), (Keep(moments[index].slot_id, chords[index], left, right),))
    assert worth(Both(left, right), found, index).extra == kept.totals.cost - found.totals.cost


@pytest.mark.parametrize(
    ("left", "right", "words"),
    [
        ((38, 55), (60, 65, 69), "mm past your left hand"), ((38,), (53, 72, 74), "mm past your right hand"),
        ((38, 60), (57, 65), "the hands cross"), ((38,), (57, 60, 62), "it lacks b3"), ((5,), (60, 65), "off the keyboard"),
        ((38,), (60, 62, 65, 67, 69), "more than 4 notes in the right hand"),
    ],
)  # fmt: skip
def test_what_cannot_be_played_says_why(left, right, words):
    assert any(words in fault for fault in faults(Both(left, right), solved(SONG), 2))


# --- too wide ---


def test_the_ladder_offers_playable_ways_out_in_the_players_order():
    seen = set()
    for chart in (SONG, "key: Eb\n| Ebmaj9 | Cm9 | Fm9 | Bb13 | Gm7 |", "key: A\n| A6 | F#m9 | D6 | Esus4 E7 |"):
        for families in (("open-left", "tenth-bass"), ("left-inverted",), ("drop24",), ("free",)):
            found = solved(chart, hands=Hands(left_reach=7, right_reach=7), families=families)
            for index in range(len(found.voicings)):
                wide = too_wide(found, index)
                if wide is None:
                    continue
                hands = found.setup.player.hands
                assert wide.past_mm > 0
                assert span_mm(wide.both.of(wide.hand)) > reach_mm(hands.reach(wide.hand))
                offers = ladder(found, index, wide.both)
                kinds = [offer.kind for offer in offers]
                assert kinds == [kind for kind in RUNGS if kind in kinds]
                for offer in offers:
                    beyond = [
                        f for f in faults(offer.both, found, index) if not (offer.kind == "roll" and "mm past" in f)
                    ]
                    assert beyond == []
                    assert offer.extra == worth(offer.both, found, index).extra
                seen.update(kinds)
    assert seen >= {"thin the left", "move across", "roll"}


def test_a_wide_fifth_may_be_dropped():
    found = solved(SONG)
    kinds = {offer.kind: offer.both for offer in ladder(found, 0, Both((36,), (52, 59, 67)))}
    assert kinds["drop the fifth"] == Both((36,), (52, 59))


def test_an_octave_gives_way_to_a_single_note():
    found = solved("key: C\n| C | F |", hands=Hands(left_reach=7), families=("octave-triad",))
    wide = too_wide(found, 0)
    assert "single note" in {offer.kind for offer in ladder(found, 0, wide.both)}


# --- lines ---


def test_stiff_changes_are_those_with_most_motion_and_say_why():
    found = solved("key: C\n| C | F#m7b5 | C | C | G/B |")
    hard = stiff(found)
    assert [h.hinge.motion for h in hard] == sorted((h.hinge.motion for h in hard), reverse=True)
    assert 2 not in [h.at for h in hard]  # nothing moves from C to C
    assert all(h.why for h in hard)


def test_the_bass_line_is_classified_and_offers_passing_notes():
    found = solved("key: C\n| C | C | C/B | Am | G | C |")
    moves = bass_line(found)
    assert [move.kind for move in moves] == ["hold", "chromatic", "step", "step", "leap"]
    names = {p.name[:-1] for p in moves[-1].passing}
    assert names & {"B", "Db", "C#"}
    assert moves[0].passing == moves[1].passing == ()


def test_every_note_is_in_one_line():
    found = solve_song(BUILDER, timeline(demo_song("last-boat-to-marrow")), Setup())
    lines = voice_lines(found)
    heard = sorted((index, midi) for line in lines for index, midi in line.notes)
    assert heard == sorted((i, midi) for i, v in enumerate(found.voicings) for midi in (*v.left, *v.right))
    assert sum(line.motion for line in lines) == found.totals.motion
    for line in lines:
        assert [index for index, _ in line.notes] == list(range(line.notes[0][0], line.notes[-1][0] + 1))


# --- reasons ---


def test_a_reason_names_what_moves_what_holds_and_the_runner_up():
    found = solved(SONG, style="Still top")
    words = reason(found, 1)
    assert "keeps two" in words
    assert "the next best" in words
    assert "costs the whole song" in words
    assert reason(found, 0).startswith("out of it")


def test_a_way_that_is_cheaper_but_for_the_tune_says_so():
    found = solve_song(BUILDER, timeline(demo_song("kettle-on-the-stove")), Setup(style="Singing top"))
    cheaper = [i for i in range(len(found.voicings)) if any(o.extra < -100 for o in options(found, i, 2))]
    assert cheaper
    assert all("less, but for the tune that the top sings" in reason(found, i) for i in cheaper)


# --- one hand over other basses ---


def test_a_hand_over_twelve_basses():
    table = over_basses((64, 67, 71), parse_key("C"))
    assert [row.bass for row in table] == [(4 + step) % 12 for step in range(12)]
    names = {row.bass: row.reading.symbol for row in table if row.reading}
    assert names[0] == "Cmaj7"
    assert names[4] == "Em"
    assert names[2] == "G6/D"
    with pytest.raises(UserError):
        over_basses((), None)


# --- large questions ---


@pytest.mark.parametrize("style", some(STYLES, 2))
@pytest.mark.parametrize("loop", [False, True])
def test_a_large_question_has_the_answer_of_the_plain_solver(monkeypatch, style, loop):
    """Bounds drop what cannot be cheapest, and nothing else; where songs are cut, the gap they say is true."""
    moments = timeline(parse_chart("key: C\n| C | Am7 | F | G7 | Cmaj7 |"))
    setup = Setup(families=("bass-close", "spread-two", "drop2"), style=style, loop=loop, colour=1)
    keeps = (Keep(moments[2].slot_id, "F", (41,), (60, 65, 69)),)
    for kept in ((), keeps):
        best = solve_song(BUILDER, moments, setup, kept)
        monkeypatch.setattr(solutions, "MOST_WORK", 10)
        for enough in (10, 10**9):
            monkeypatch.setattr(widest, "ENOUGH", enough)
            found = solve_song(BUILDER, moments, setup, kept)
            assert found.totals.exact
            assert found.totals.cost == best.totals.cost
            assert loop or [v.both for v in found.voicings] == [v.both for v in best.voicings]
            assert len(found.lattice.stages[1].left) < len(best.lattice.stages[1].left)
        monkeypatch.setattr(lattices, "MOST_CELLS", 1)
        monkeypatch.setattr(stages, "MOST_WORK", 10)
        for rows, columns in ((1, 2), (4, 40)):
            monkeypatch.setattr(stages, "KEPT_ROWS", rows)
            monkeypatch.setattr(stages, "KEPT_COLUMNS", columns)
            near = solve_song(BUILDER, moments, setup, kept).totals
            assert near.cost >= best.totals.cost >= near.cost - near.gap
            assert not near.exact
        monkeypatch.undo()


# --- nothing fits ---


@pytest.mark.parametrize(("chart", "wishes", "rule", "way"), [("| C13(b9,#11) |", {"hands": Hands(left_notes=1,
    right_notes=2)}, "too few notes", "allow"), ("| C13(b9,#11) |", {"hands": Hands(5, 5, 3, 3)}, "cannot reach",
    "allow a reach of")])  # fmt: skip
def test_an_empty_slot_names_its_rule_and_the_way_out(chart, wishes, rule, way):
    said = solved(chart, **wishes).voicings[0].warnings[0]
    assert rule in said
    assert way in said


def test_a_family_that_needs_more_colour_gets_it_and_says_so():
    found = solved("key: C\n| Dm7 | G7 |", colour=1, families=("stacked-minor", "rootless-right"))
    assert found.voicings[0].family in ("stacked-minor", "rootless-right")
    assert "needs colour level" in found.voicings[0].warnings[0]
    assert np.all([v.family != "kept" for v in found.voicings])
    found = solved("key: C\n| F | Dm7 | G7 | Am |", colour=0, families=("frame-159",)).voicings
    assert all({n % 12 for n in (*v.left, *v.right)} <= set(v.chord.pitch_classes) for v in found)
    assert {v.family for v in found} == {"frame-159"}
