"""Fingers read back from the engraved page are those of the song, hand by hand, stroke by stroke."""

import re
from xml.etree.ElementTree import fromstring

import pytest

from tests.core.sheet.charts import solved
from yellow_hinge.app.state import state_of
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.sheet.as_struck import one_stack, struck_bars
from yellow_hinge.core.sheet.bars import measures
from yellow_hinge.io.demo import demo_file
from yellow_hinge.io.engraved import SVG, engrave
from yellow_hinge.io.musicxml_out import Notation, musicxml_bytes

STACK = 60  # of the engraver's units, within which fingers stand over each other


def of_class(root, name):
    return [g for g in root.iter(f"{SVG}g") if (g.get("class") or "").split()[:1] == [name]]


def stacks(measure):
    """For each hand the stacks of fingers from left to right, each from below."""
    lines = [[float(n) for n in re.findall(r"[ML][\d.-]+ ([\d.-]+)", s.find(f"{SVG}path").get("d"))] for s in
             of_class(measure, "staff")]  # fmt: skip
    border = max(lines[0]) if max(lines[0]) > 0 else 0
    found = {"right": [], "left": []}
    for text in [g.find(f"{SVG}text") for g in of_class(measure, "fing")]:
        x, y = float(text.get("x")), float(text.get("y"))
        row = found["right" if y < border else "left"]
        own = next((stack for stack in row if abs(stack[0][0] - x) < STACK), None)
        row.append([(x, y, text)]) if own is None else own.append((x, y, text))
    return {
        hand: [
            [int("".join(t.itertext())) for _, _, t in sorted(s, key=lambda each: -each[1])]
            for s in sorted(row, key=lambda stack: stack[0][0])
        ]
        for hand, row in found.items()
    }


@pytest.mark.parametrize("name", ["slack-tide", "last-boat-to-marrow", "harbour-bell"])
@pytest.mark.parametrize("struck", [True, False])
def test_fingers_are_the_right_way_up(name, struck):
    file = demo_file(name)[0]
    state = state_of(file)
    solution = solved(state, Builder())
    wants = Notation(tune=False, cues=False, engraved=True, system=230, struck=struck, pedal=False)
    pages = engrave(musicxml_bytes(state.song, solution, (), wants, file.playing), 230, 3000)
    found = [stacks(measure) for page in pages for measure in of_class(fromstring(page), "measure")]
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
        assert here["right"][: len(own["right"])] == [stack for stack in own["right"] if stack]
