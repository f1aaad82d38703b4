"""What a player is told of a voicing beyond its notes."""

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.remarks import remarks
from yellow_hinge.core.leading.prices.weights import Weights
from yellow_hinge.core.song.timeline import timeline


def told(left, right, chart="key: C\n| Cmaj7 |", **hands):
    moment = timeline(parse_chart(chart))[0]
    found = remarks(Both(left, right), moment.chord, moment, True, Hands(**hands), Weights())
    return {remark.kind: remark.words for remark in found}


def test_a_comfortable_voicing_needs_no_word():
    assert told((48,), (64, 67, 71)) == {}


def test_a_stretch_is_said_near_and_past_the_limit():
    assert "near the limit of your right hand" in told((48,), (60, 67, 74))["stretch"]
    assert told((48,), (60, 67, 74), right_reach=8)["stretch"] == "24 mm past your right hand"
    assert told((36, 48), (64, 67, 71)) == {}  # an octave is no stretch worth a word


def test_mud_is_said_where_it_is_thick():
    assert "muddy" in told((36, 40), (64, 67, 71))["mud"]


def test_hands_that_meet_are_said():
    assert "neighbouring keys" in told((48, 59), (60, 64))["collision"]


def test_a_half_step_beside_a_long_melody_note_is_a_clash():
    long, short = "| Cmaj7 |\ntune: | C5:4 |", "| Cmaj7 |\ntune: | r:1 C5:1 r:2 |"
    assert told((48,), (64, 67, 71), "key: C\n" + long)["clash"] == "B4 rubs against the tune's C"
    assert "clash" not in told((48,), (64, 67, 71), "key: C\n" + short)
