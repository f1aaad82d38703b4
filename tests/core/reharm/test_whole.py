"""A whole song reharmonised: the joint solver against every mix of choices, and what the player may count on."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.leading.test_solution import CHORDS, TWELVE
from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.errors import NoVoicingError, OvertakenError, UserError
from yellow_hinge.core.following import same_writing
from yellow_hinge.core.leading.keeps import HeldTop, Keep
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Setup, Wish
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.choices import BOLDNESS, Taste, beside, meets, written
from yellow_hinge.core.reharm.context import split
from yellow_hinge.core.reharm.whole import EVERYTHING, bolder, offers, solved_choices
from yellow_hinge.core.timeline import timeline
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.demo import demo_song

NOTHING = frozenset()
TURN = "key: C\n| Cmaj7 | Am7 | Dm7 | G7 | Cmaj7 |"


def every_mix(moments, offered, setup, keeps, taste):
    """(cost, choices) of every mix that may be, each solved by the song solver as a song of its own."""
    builder, chords = Builder(), [moment.chord for moment in moments]
    for mix in product(*(range(len(options)) for options in offered)):
        chosen = [options[n] for options, n in zip(offered, mix, strict=True)]
        pairs = [(i, chosen[i], chosen[i + 1]) for i in range(len(chosen) - 1)]
        if not all(meets(a, b, chords[i], chords[i + 1]) for i, a, b in pairs):
            continue
        song = tuple(
            part
            for moment, choice in zip(moments, chosen, strict=True)
            for part in split(moment, choice.chords, choice.beats)
        )
        try:
            found = solve_song(builder, song, setup, keeps)
        except NoVoicingError:
            continue
        prices = sum(c.price for c in chosen) + sum(beside(a, b, chords[i], chords[i + 1], taste) for i, a, b in pairs)
        yield found.totals.cost + prices, mix


TASTES = st.builds(
    Taste, worth=st.tuples(*[st.floats(0, 12).map(lambda x: round(x, 1))] * 5), crowd=st.sampled_from([0.0, 5.0]),
    still=st.sampled_from([0.0, 4.0]), most=st.integers(2, 4),
)  # fmt: skip


@settings(max_examples=25, deadline=None)
@given(
    st.lists(st.sampled_from(["57", "1maj7", "2m7", "6m7", "4", "1", "67", "5", "4m6", "1/3"]), min_size=2, max_size=4),
    TASTES, st.integers(1, 4), st.sampled_from([("4/4", "4"), ("3/4", "3")]), st.booleans(), st.sampled_from(["Smoothest", "Outward"]),
)  # fmt: skip
def test_the_joint_solver_finds_what_every_mix_would(numbers, taste, boldness, meter, tune, style):
    melody = "\ntune: | " + " | ".join(f"G4:{meter[1]}" for _ in numbers) + " |" if tune else ""
    song = parse_chart(f"key: F\nmeter: {meter[0]}\n| " + " | ".join(numbers) + " |" + melody)
    moments, setup = written(timeline(song)), Setup(style=style, families=("bass-close",))
    offered = offers(moments, setup, (), boldness, NOTHING, taste, 2500)
    found = solved_choices(Builder(), moments, setup, (), offered, taste)
    mixes = list(every_mix(moments, offered, setup, (), taste))
    assert found.cost == min(cost for cost, _ in mixes)
    assert (found.cost, found.chosen) in mixes
    assert found.exact


def test_boldness_nothing_changes_nothing():
    song = parse_chart(TURN)
    assert bolder(Builder(), song, Setup(), (), 0).with_changes() == song


@pytest.mark.parametrize("boldness", range(1, len(BOLDNESS)))
def test_only_kinds_as_bold_as_asked_are_used(boldness):
    for name in ("last-boat-to-marrow", "kettle-on-the-stove"):
        found = bolder(Builder(), demo_song(name), Setup(), (), boldness)
        assert found.changes
        assert all(change.choice.kind.boldness <= boldness for change in found.changes)
        assert found.cost < found.cost_before
        assert all(note.fits for change in found.changes for note in change.choice.melody)


def test_bolder_is_never_dearer():
    song = demo_song("kettle-on-the-stove")
    costs = [bolder(Builder(), song, Setup(), (), b, taste=Taste(most=99)).cost for b in range(5)]
    assert costs == sorted(costs, reverse=True)


def test_a_wish_of_the_player_keeps_its_chord():
    song, builder = parse_chart(TURN), Builder()
    free = {change.at for change in bolder(builder, song, Setup(), (), 3, NOTHING).changes}
    assert free
    for at in free:
        voicing = solve_song(builder, timeline(song), Setup()).voicings[at[1]]
        slot = song.sections[0].bars[at[1]].slots[0]
        for setup, keeps in (
            (Setup(), (Keep(slot.id, slot.symbol, *voicing.both, part="top"),)),
            (Setup(wishes=(Wish(slot.id, colour=1),)), ()),
            (Setup(held=(HeldTop((slot.id,), voicing.right[-1]),)), ()),
        ):
            assert at not in {change.at for change in bolder(builder, song, setup, keeps, 3, NOTHING).changes}


def test_section_starts_and_cadences_stay_where_they_are_protected():
    song = parse_chart("key: C\n[A]\n| C | Am7 | Dm7 | G7 | C |\n[B]\n| F | Dm7 | G7 | C |")
    for boldness in range(1, 5):
        found = {change.at for change in bolder(Builder(), song, Setup(), (), boldness, EVERYTHING).changes}
        assert not found & {(0, 0, 0), (0, 3, 0), (0, 4, 0), (1, 0, 0), (1, 2, 0), (1, 3, 0)}
    free = {change.at for change in bolder(Builder(), song, Setup(), (), 3, NOTHING).changes}
    assert free & {(0, 0, 0), (0, 3, 0), (0, 4, 0), (1, 0, 0), (1, 2, 0), (1, 3, 0)}


def test_changes_can_be_refused_one_by_one():
    song = demo_song("last-boat-to-marrow")
    found = bolder(Builder(), song, Setup(), (), 3)
    assert found.with_changes(frozenset(change.at for change in found.changes)) == song
    for change in found.changes[:4]:
        kept = found.with_changes(frozenset({change.at}))
        section, bar, _ = change.at
        assert write_symbol(change.was) in {slot.symbol for slot in kept.sections[section].bars[bar].slots}
    only = found.with_changes(frozenset(change.at for change in found.changes[1:]))
    assert [b for s in only.sections for b in s.bars if b not in [x for y in song.sections for x in y.bars]]


def test_where_not_every_voicing_was_looked_at_that_is_said():
    song = parse_chart("key: C\n| Cmaj9 | A13 | Dm11 | G13 |")
    assert bolder(Builder(), song, Setup(families=("free",), colour=3), (), 2, NOTHING).exact is False
    assert bolder(Builder(), song, Setup(), (), 2, NOTHING).exact is True


def test_a_repeated_part_is_decided_once():
    song = parse_chart("key: C\n|: Cmaj7 | Am7 | Dm7 | G7 :|")
    found = bolder(Builder(), song, Setup(), (), 3, NOTHING)
    assert len({change.at for change in found.changes}) == len(found.changes) <= 4


@settings(max_examples=12, deadline=None)
@given(
    st.lists(CHORDS, min_size=2, max_size=5),
    st.sampled_from(TWELVE),
    st.sampled_from(["4/4", "3/4", "6/8"]),
    st.integers(1, 4),
)
def test_a_bolder_song_fills_its_bars_and_can_be_written_and_read(chords, tonic, meter, boldness):
    song = parse_chart(f"key: {tonic}\nmeter: {meter}\n| " + " | ".join(chords) + " |")
    found = bolder(Builder(), song, Setup(), (), boldness, NOTHING).with_changes()
    assert same_writing(parse_chart(write_chart(found)), found)
    assert [sum(slot.beats for slot in bar.slots) for bar in found.sections[0].bars] == [
        sum(slot.beats for slot in bar.slots) for bar in song.sections[0].bars
    ]


def test_work_that_nobody_waits_for_stops_and_progress_is_told():
    song, builder, told = parse_chart(TURN), Builder(), []
    bolder(builder, song, Setup(), (), 2, told=told.append)
    assert told == sorted(told)
    assert told[-1] == 1
    builder.overtaken = lambda: True
    with pytest.raises(OvertakenError):
        bolder(builder, song, Setup(), (), 3)


def test_a_boldness_that_there_is_none_of_is_refused():
    with pytest.raises(UserError, match="boldness 5"):
        bolder(Builder(), parse_chart(TURN), Setup(), (), 5)
