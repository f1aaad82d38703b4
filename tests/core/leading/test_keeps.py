"""What is kept or asked for one pass of a repeat holds there, and what is for all of them elsewhere."""

from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.keeps import Keep, ruling
from yellow_hinge.core.leading.asking.setup import Setup, Wish
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline

SONG = parse_chart("[Verse]\n|: C | Am7 | F | G7 :|\n[Bridge]\n| Dm7 |\n[Verse]")


def solved(*keeps, setup=None):
    return solve_song(BUILDER, timeline(SONG), setup or Setup(), keeps)


def test_a_keep_of_one_pass_overrules_there_and_only_there():
    plain = solved()
    places = [i for i, v in enumerate(plain.voicings) if plain.moments[v.moment].slot_id == plain.moments[1].slot_id]
    assert len(places) == 4
    moments = [plain.moments[plain.voicings[i].moment] for i in places]
    assert len({moment.pass_id for moment in moments}) == 4
    ways = [way.both for way in options(plain, 1)]
    slot, symbol = moments[0].slot_id, moments[0].symbol
    everywhere = Keep(slot, symbol, *ways[1])
    once = Keep(slot, symbol, *ways[2], "chord", moments[2].pass_id)
    found = solved(everywhere, once)
    assert [found.voicings[i].both for i in places] == [ways[1], ways[1], ways[2], ways[1]]
    top = Keep(slot, symbol, (), ways[3].right, "top", moments[1].pass_id)
    hand = Keep(slot, symbol, ways[1].left, (), "left")
    assert ruling((hand, top, once), moments[1]) == (hand, top)
    assert ruling((hand, top, once), moments[2]) == (once,)
    assert ruling((hand, top, once), moments[0]) == (hand,)


def test_a_wish_of_one_pass_colours_that_pass_alone():
    moments = timeline(SONG)
    g7 = [moment for moment in moments if moment.symbol == "G7"]
    wish = Wish(g7[0].slot_id, colour=3, only=g7[2].pass_id)
    found = solved(setup=Setup(colour=0, wishes=(wish,)))
    plain = solved(setup=Setup(colour=0))
    colours = [
        set(v.chord.degree_of(n) for n in (*v.left, *v.right))
        for v in found.voicings
        if found.moments[v.moment].symbol == "G7"
    ]
    assert all(colours[i] <= {"1", "3", "5", "b7"} for i in (0, 1, 3))
    assert colours[2] - {"1", "3", "5", "b7"}
    assert plain.totals.exact
