"""Engraved pages: their fingers are those of the song, hand by hand, and nothing lies outside or over anything else."""

import os
from collections import Counter

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests import examples
from tests.core.sheet.charts import charts, opened, solved
from tests.core.sheet.test_layout import outside, overlapping
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.core.sheet.as_struck import one_stack, struck_bars
from yellow_hinge.core.sheet.asks import SHOWN, SheetAsk
from yellow_hinge.core.sheet.bars import measures
from yellow_hinge.core.sheet.staves.systems import SIGN
from yellow_hinge.io.engraving.engraved import engraved_lines
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes
from yellow_hinge.io.songs.demo import demo_file


def stacks(system):
    """For each bar of a line the fingers of each hand from left to right, each stack from below."""
    for bar in system.bars:
        own = [stack for stack in system.stacks() if bar.left - SIGN <= stack.middle < bar.right - SIGN]
        yield {
            hand: [[int(system.on.texts[n].words) for n in reversed(s.texts)] for s in own if s.hand == hand]
            for hand in ("left", "right")
        }


@pytest.mark.parametrize("name", ["slack-tide", "kettle-on-the-stove", "harbour-bell"])
@pytest.mark.parametrize("struck", [True, False])
def test_fingers_are_the_right_way_up(name, struck):
    file = demo_file(name)[0]
    state = state_of(file)
    solution = solved(state, BUILDER)
    wants = Notation(tune=False, cues=False, engraved=True, system=230, struck=struck, pedal=False)
    score = musicxml_bytes(state.song, solution, (), wants, file.playing)
    found = [bar for line in engraved_lines(score, 230, 1.0, frozenset(), lambda: False) for bar in stacks(line)]
    made = measures(state.song, solution, False)
    if struck:
        bars = [bar.hands for bar in struck_bars(solution, state.song, file.playing, made, True)]
        bars = [{hand: one_stack(voices)[0] for hand, voices in bar.items()} for bar in bars]
        wanted = [{h: [[*s.fingers] for s in row if s.fingers] for h, row in bar.items()} for bar in bars]
    else:
        at = {voicing.here: voicing for voicing in solution.voicings}
        wanted = [
            {hand: [[*at[m].fingers.of(hand)] for m in bar.moments if m in at] for hand in ("right", "left")}
            for bar in made
        ]
    assert len(found) == len(wanted)
    for here, own in zip(found, wanted, strict=True):
        assert here["left"] == [stack for stack in own["left"] if stack]
        assert here["right"] == [stack for stack in own["right"] if stack]


CROWDED = """title: A title that is quite long for a page
key: Eb
manner: gospel
[Introduction and first verse of many]
| Ebmaj9 | Abmaj7#11 G7b9b13 Cm11 F13#11 | Fm9 Bb13sus4 Bb7b9 | Ebmaj7/G C7#9#5 Fm11 Bb7alt |
cue: | Lamplight falling on the water now | by the / harbour wall / evermore / and more | so / sweetly / sing | one / two |
[B]
|: Gm7b5 | C7b9 | Fm9 | Bb13 |1. Eb6/9 | Fm7 Bb7 :|2. Eb6/9 | Eb6/9 ||
"""
shown = st.sampled_from([tuple(SHOWN), ("fingers",), ("tune", "pedal", "cues")])
asks = st.builds(
    SheetAsk, st.just("staves"), st.sampled_from(("s", "m", "l", "stage")), paper=st.sampled_from(("a4", "tablet")),
    show=shown, hands=st.sampled_from(("struck", "held")),
)  # fmt: skip


@settings(max_examples=examples(4) if "ALL_KEYS" not in os.environ else 200)
@example(CROWDED, SheetAsk("staves", "l", paper="tablet", show=tuple(SHOWN)))
@example(CROWDED, SheetAsk("staves", "m", show=tuple(SHOWN)))
@given(charts(6), asks)
def test_pages_of_staves_hold_all_within_their_margins_and_nothing_over_anything(text, ask):
    state = opened(text)
    solution = solved(state, BUILDER)
    pages = sheet_pages(file_of(state), solution, ask)
    for page in pages:
        assert not outside(page)
        assert not overlapping(page)
        for outline in page.outlines:
            points = [numbers[-2:] for _, numbers in outline.path if numbers]  # where its curves end
            xs, ys = zip(*points, strict=True)
            assert min(xs) >= ask.margin - 0.1
            assert max(xs) <= page.w - ask.margin + 0.1
            assert min(ys) >= ask.margin - 0.1
            assert max(ys) <= page.h - ask.margin
    first = {v.here.slot_id: at for at, v in reversed([*enumerate(solution.voicings)])}
    clicked = Counter(area.voicing for page in pages for area in page.areas)
    assert all(clicked[at] >= 1 for at in first.values())
