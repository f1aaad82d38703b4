"""A mix against every song that could be put together from its takes' own shapes, by the plain judge."""

import itertools

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.core.leading import brute
from tests.core.leading.test_against_brute_force import CHORDS, FAMILIES, judged
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.asked import asked_at
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.chain.stage import Place, way_between
from yellow_hinge.core.leading.prices.remarks import long_tune
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.content import Parts, put, whole_of
from yellow_hinge.core.takes.mixing import mixed
from yellow_hinge.core.takes.take import Choice, Content, Form, Take, Whole
from yellow_hinge.core.takes.written_out import passes_of

MINE = [families for families in FAMILIES if families[0] not in ("guide-tones", "rootless-a")]
STYLE = st.sampled_from([name for name, style in STYLES.items() if not style.sings and not style.families])


@settings(max_examples=examples(25))
@given(
    st.lists(st.sampled_from(CHORDS), min_size=2, max_size=2),
    st.lists(st.tuples(st.sampled_from(MINE), st.integers(0, 3), STYLE), min_size=2, max_size=2),
    st.lists(st.integers(1, 2), min_size=3, max_size=3), st.sampled_from(["", "pop", "hymn", "gospel"]),
)  # fmt: skip
def test_a_mix_is_the_cheapest_of_all_songs_of_its_takes(chords, asks, plays, manner):
    song = parse_chart(f"key: C\n[A]\n|: {chords[0]} :|\n[B]\n| {chords[1]} |")
    setups = [
        Setup(bass="mine", colour=colour, style=style, families=families, manner=manner)
        for families, colour, style in asks
    ]
    made = [put(Content(), Form(), Parts(song, setup)) for setup in setups]
    takes = tuple(Take(n + 1, f"T{n}", content=content) for n, (content, _) in enumerate(made))
    passes = passes_of(song)
    mix = mixed(
        Whole(made[0][1], takes, 1, 2, tuple(Choice(*own, take) for own, take in zip(passes, plays, strict=True)))
    )
    assert [choice.take for choice in mix.passes] == plays
    moments = timeline(song)  # one chord a pass, so that every one ends a section
    places = []
    for n, (moment, own) in enumerate(zip(moments, plays, strict=True)):
        following = moments[n + 1].chord if n + 1 < len(moments) else None
        end = "last" if n == len(moments) - 1 else "" if n else "first"
        places.append(
            Place(
                moment.chord,
                moment.key,
                following,
                asked_at(as_asked(setups[own - 1], song), moment),
                outermost=end,
                closes=True,
            )
        )
    stages = [
        judged(place, long_tune(moment), place.asked.weights) for place, moment in zip(places, moments, strict=True)
    ]
    if not all(stages) or max(len(stage) for stage in stages) ** 3 > 30_000:
        return
    found = solve_song(BUILDER, timeline(mix.song), mix.setup, mix.keeps)
    ways = [way_between(places[n - 1], place) for n, place in enumerate(places)]
    best, _ = brute.cheapest(stages, True, False, ways)
    assert found.totals.cost == best
    assert [v.chord for v in found.voicings] == [moment.chord for moment in moments]


def test_passes_are_told_by_section_and_repeat():
    song = parse_chart("[A]\n|: C | F :|\n| G |\n[B]\n| C |\n[A]")
    a, b, again = (section.id for section in song.sections)
    assert passes_of(song) == [(a, 0), (a, 1), (a, 0), (b, 0), (again, 0), (again, 1), (again, 0)]
    written = mixed(whole_of(song)).song
    assert [[slot.symbol for bar in section.bars for slot in bar.slots] for section in written.sections] == [
        ["C", "F"], ["C", "F"], ["G"], ["C"], ["C", "F"], ["C", "F"], ["G"],
    ]  # fmt: skip
    assert all(
        a.start == b.start and a.symbol == b.symbol for a, b in itertools.zip_longest(timeline(song), timeline(written))
    )
