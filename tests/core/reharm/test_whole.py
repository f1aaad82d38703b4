"""A whole song reharmonised: the joint solver against every mix of choices, and what the player may count on."""

from collections import Counter
from functools import lru_cache
from itertools import pairwise, product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.core.leading.test_solution import CHORDS, TWELVE
from tests.songs import BUILDER, half_song
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import NoVoicingError, OvertakenError, UserError
from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.reharm.boldness import BOLDNESS, EVERYTHING
from yellow_hinge.core.reharm.choice import Taste, written
from yellow_hinge.core.reharm.choices import at_level, beside, joined, meets
from yellow_hinge.core.reharm.search import Search
from yellow_hinge.core.reharm.splitting import split
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.reharm.tastes import liked, most
from yellow_hinge.core.reharm.whole import bolder, joints, offers, solved_choices
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.songs.demo import demo_song

NOTHING = frozenset()
TURN = "key: C\n| Cmaj7 | Am7 | Dm7 | G7 | Cmaj7 |"


@lru_cache(maxsize=256)
def bold(song, boldness, setup=None, protect=None):
    """A whole song reharmonised, once for all tests that ask for the same; `protect`: other than usual."""
    given = () if protect is None else (protect,)
    return bolder(BUILDER, song, setup or Setup(), (), boldness, *given)


def song_of(name):
    return half_song() if name == "half" else demo_song(name)


def every_mix(moments, offered, setup, keeps, taste):
    """(cost, choices) of every mix that may be, each solved by the song solver as a song of its own."""
    builder, chords = BUILDER, [moment.chord for moment in moments]
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


@settings(max_examples=examples(12), deadline=None)
@given(
    st.lists(st.sampled_from(["57", "1maj7", "2m7", "6m7", "4", "1", "67", "5", "4m6", "1/3"]), min_size=2, max_size=4),
    TASTES, st.integers(1, 4), st.sampled_from([("4/4", "4"), ("3/4", "3")]), st.booleans(), st.sampled_from(["Smoothest", "Outward"]),
    st.booleans(),
)  # fmt: skip
def test_the_joint_solver_finds_what_every_mix_would(numbers, taste, boldness, meter, tune, style, loop):
    melody = "\ntune: | " + " | ".join(f"G4:{meter[1]}" for _ in numbers) + " |" if tune else ""
    again = ":" if loop else ""  # the way back at a repeat's end weighs, and so does a loop's
    song = parse_chart(f"key: F\nmeter: {meter[0]}\n|{again} " + " | ".join(numbers) + f" {again}|" + melody)
    played, setup = timeline(song), Setup(style=style, families=("bass-close",), loop=loop)
    moments = written(played)
    offered = [
        at_level(each, boldness, taste.most) for each in offers(moments, setup, (), boldness, NOTHING, taste, 2500)
    ]
    if loop:
        assert joints(played, setup) == [(len(numbers) - 1, 0)]
        plain, offered = offered, joined(offered, joints(played, setup), taste)
        assert [[c.chords for c in each] for each in offered] == [[c.chords for c in each] for each in plain]
    setup = Setup(style=style, families=("bass-close",))
    found = solved_choices(Search(BUILDER, setup, (), moments), offered, taste)
    mixes = list(every_mix(moments, offered, setup, (), taste))
    assert found.cost == min(cost for cost, _ in mixes)
    assert (found.cost, found.chosen) in mixes
    assert found.exact


def test_boldness_nothing_changes_nothing():
    song = parse_chart(TURN)
    assert bold(song, 0).with_changes() == song


@pytest.mark.parametrize("boldness", some(range(1, len(BOLDNESS)), 2, 1))
def test_only_kinds_as_bold_as_asked_are_used(boldness):
    found = bold(song_of(("half", "kettle-on-the-stove")[boldness % 2]), boldness)
    assert found.changes
    assert all(change.choice.kind.boldness <= boldness for change in found.changes)
    assert found.cost < found.cost_before
    assert all(note.fits for change in found.changes for note in change.choice.melody)


@pytest.mark.parametrize(("manner", "name"), some(product(["", "gospel", "hymn"], ["half", "kettle-on-the-stove"]), 4))
def test_what_a_lesser_boldness_found_is_there_or_said_to_have_given_way(name, manner):
    song = song_of(name)
    setup = as_asked(Setup(manner=manner), song)
    levels = [bold(song, level, setup) for level in range(1, 4)]
    for less, more in pairwise(levels):
        there = {change.at: change for change in more.changes}
        gone = {change.at for change in more.given_up}
        for change in less.changes:
            assert (change.at in there) != (change.at in gone)
            if change.at in there and there[change.at].choice.chords != change.choice.chords:
                assert there[change.at].instead.chords == change.choice.chords


@pytest.mark.parametrize("manner", ["pop", "jazz-alone"])
def test_no_kind_comes_more_often_than_its_share_and_none_that_the_manner_never_has(manner):
    song = half_song()
    setup = as_asked(Setup(manner=manner), song)
    for level in (2, 3):
        found = Counter(c.choice.kind.id for c in bold(song, level, setup).changes)
        bars = sum(len(section.bars) for section in song.sections)
        assert all(count <= most(kind, bars) + 1 for kind, count in found.items()), found
        assert all(liked(kind, manner) > 0 for kind in found)


def test_what_is_written_still_sounds_under_colours_and_the_one_keeps_its_name():
    for name in ("half", "kettle-on-the-stove"):
        for change in bold(song_of(name), 1, protect=NOTHING).changes:
            heard = {pc for chord in change.choice.chords for pc in (*chord.pitch_classes, chord.bass_note.pc)}
            assert heard >= set(change.was.pitch_classes)


def test_a_change_is_exchanged_for_its_next_best_and_comes_round():
    found = bold(half_song(), 3)
    change = max(found.changes, key=lambda change: len(change.others))
    turned, seen = found, [change.choice]
    for _ in change.others:
        turned = turned.exchanged(change.at)
        seen.append(next(c.choice for c in turned.changes if c.at == change.at))
    assert len({tuple(choice.chords) for choice in seen}) == len(seen)
    assert turned.exchanged(change.at).changes == found.changes
    one = found.exchanged(change.at).with_changes()
    assert one != found.with_changes()


def test_a_way_back_that_becomes_longer_costs():
    song = parse_chart("key: C\n|: C | Am7 | F | G7 :|")
    moments, setup = written(timeline(song)), Setup()
    plain = offers(moments, setup, (), 3, NOTHING, Taste(), 2500)
    dearer = joined(plain, joints(timeline(song), setup), Taste())
    assert joints(timeline(song), setup) == [(3, 0)]
    assert dearer[1:3] == plain[1:3]
    assert dearer[3][0].price == plain[3][0].price
    assert any(a.price != b.price for a, b in zip(dearer[3], plain[3], strict=True))


def test_a_wish_of_the_player_keeps_its_chord():
    song, builder = parse_chart(TURN), BUILDER
    free = {change.at for change in bold(song, 3, protect=NOTHING).changes}
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
        found = {change.at for change in bold(song, boldness, protect=EVERYTHING).changes}
        assert not found & {(0, 0, 0), (0, 3, 0), (0, 4, 0), (1, 0, 0), (1, 2, 0), (1, 3, 0)}
    free = {change.at for change in bold(song, 3, protect=NOTHING).changes}
    assert free & {(0, 0, 0), (0, 3, 0), (0, 4, 0), (1, 0, 0), (1, 2, 0), (1, 3, 0)}


def test_where_not_every_voicing_was_looked_at_that_is_said():
    song = parse_chart("key: C\n| Cmaj9 | A13 | Dm11 | G13 |")
    assert bolder(BUILDER, song, Setup(families=("free",), colour=3), (), 2, NOTHING).exact is False
    assert bold(song, 2, protect=NOTHING).exact is True


def test_a_repeated_part_is_decided_once():
    song = parse_chart("key: C\n|: Cmaj7 | Am7 | Dm7 | G7 :|")
    found = bold(song, 3, protect=NOTHING)
    assert len({change.at for change in found.changes}) == len(found.changes) <= 4


@settings(max_examples=examples(12), deadline=None)
@given(st.lists(CHORDS, min_size=2, max_size=5), st.sampled_from(TWELVE), st.sampled_from(["4/4", "3/4", "6/8"]),
    st.integers(1, 4))  # fmt: skip
def test_a_bolder_song_fills_its_bars_and_can_be_written_and_read(chords, tonic, meter, boldness):
    song = parse_chart(f"key: {tonic}\nmeter: {meter}\n| " + " | ".join(chords) + " |")
    found = bold(song, boldness, protect=NOTHING).with_changes()
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
        bold(parse_chart(TURN), 5)


def test_the_one_is_never_called_by_another_name_over_its_own_bass():
    song = parse_chart("key: C\n| F | C | F | Cmaj7 | F |")
    moments = written(timeline(song))
    offered = offers(moments, Setup(), (), 4, NOTHING, Taste(), 2500)
    for place in (1, 3):
        for choice in offered[place][1:]:
            first = choice.chords[0]
            assert len(choice.chords) > 1 or first.bass_note.pc != 0 or first.root.pc == 0


@pytest.mark.parametrize(("manner", "boldness"), some(product(["pop", "gospel", "jazz-alone"], [1, 2, 3]), 4))
def test_a_written_bass_line_stays_and_no_song_opens_on_a_six_four(manner, boldness):
    song = parse_chart("key: G\n| G | Em7 | Em7/D | C | G/B | Am7 | D7 | G |")
    setup = as_asked(Setup(manner=manner), song)
    found = bolder(BUILDER, song, setup, (), boldness, frozenset())
    basses = {change.at: [chord.bass_note for chord in change.choice.chords] for change in found.changes}
    line = [section.bars[n].slots[0] for section in song.sections for n in (1, 2, 3, 4, 5)]
    assert len(line) == 5
    for at, made in basses.items():
        if at[1] in (1, 2, 3, 4, 5):
            was = next(change.was for change in found.changes if change.at == at)
            assert {made[0].pc, made[-1].pc} == {was.bass_note.pc}
        if at == (0, 0, 0):
            assert made[0].pc != (next(c.choice.chords[0].root.pc for c in found.changes if c.at == at) + 7) % 12


def test_no_swap_brings_a_seventh_right_under_the_tune():
    song = parse_chart("key: Bb\n| Bb | Gm | Eb | F7 | Bb |\ntune: | Bb4:4 | G4:4 | Eb5:4 | F5:4 | Bb4:4 |\n")
    for boldness in (1, 2, 3, 4):
        for change in bolder(
            BUILDER, song, as_asked(Setup(manner="jazz-alone"), song), (), boldness, frozenset()
        ).changes:
            tune = {note.pitch.midi % 12 for note in change.choice.melody}
            for chord in change.choice.chords:
                assert chord.quality.seventh != "7" or chord.root.pc not in tune


@pytest.mark.parametrize(("chart", "made"), [
    ("key: F\n| F | Bb | F |\ntune: | F4:4 | C5:2 Bb4:2 | F4:4 |", "Bbdim7"),  # its resolution is in the bass
    ("key: Bb\n| Bb | Eb | F7 | Bb |\ntune: | D5:4 | Bb4:4 | A4:4 | Bb4:4 |", "Bbm(maj7)")])  # fmt: skip
def test_what_a_swap_adds_does_not_spoil_the_tune(chart, made):
    song = parse_chart(chart)
    for index in range(len(timeline(song))):
        solution = solve_song(BUILDER, timeline(song), as_asked(Setup(), song))
        assert made not in [write_symbol(c) for s in swaps(BUILDER, solution, index) for c in s.chords]
