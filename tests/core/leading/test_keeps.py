"""What is kept or asked for one pass of a repeat holds there, and what is for all of them elsewhere."""

from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.keeps import Keep, ruling
from yellow_hinge.core.leading.asking.setup import Setup
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
