"""Takes: whatever is done to them, undoing all of it is the first file to the bit; the mix is solved as one song."""

import itertools

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.songs import BUILDER
from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import changed_in, file_of, state_of, with_text
from yellow_hinge.app.solving.solver import answer
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.rhythm.asked import Fill
from yellow_hinge.core.rhythm.asks import with_fill, with_pattern
from yellow_hinge.core.takes.mixing import choices
from yellow_hinge.core.takes.written_out import passes_of
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

CHART = "[Verse]\n|: C | Am7 | F | G7 :|\n[Bridge]\n| Dm7 | G7 |\n[Verse]\n"


def state(chart=CHART):
    return state_of(song_file(parse_chart(chart)))


def retyped(old, text):
    return with_text(old, old, text, read_chart(text))


def written(what):
    return to_json(file_of(what))


def solved(what, builder=None):
    found = answer(builder or BUILDER, 1, what)
    assert found.solution is not None, found.fault
    return found.solution


STEPS = {
    "new": lambda s, n: takes.added(s, f"Take {n}"),
    "switch": lambda s, n: takes.switched(s, s.takes[n % len(s.takes)].id),
    "delete": lambda s, n: takes.deleted(s, s.takes[n % len(s.takes)].id),
    "move": lambda s, n: takes.moved(s, s.takes[n % len(s.takes)].id, n % 3 - 1),
    "rename": lambda s, n: takes.renamed(s, s.take, f"Name {n}"),
    "three": lambda s, n: takes.three(s),
    "copy": lambda s, n: takes.copied(s, s.takes[n % len(s.takes)].id, s.song.sections[n % 2].id),
    "type": lambda s, n: retyped(
        s, s.text.replace(("Am7", "F |", "G7", "Dm7")[n % 4], ("A7", "Fmaj7 |", "E7", "D7")[n % 4], 1)
    ),
    "wish": lambda s, n: changed_in(s, setup=msgspec.structs.replace(s.setup, colour=n % 4)),
    "mix": lambda s, n: takes.with_choice(
        s, *passes_of(s.song)[n % len(passes_of(s.song))], s.takes[n % len(s.takes)].id
    ),
}


@settings(max_examples=examples(40))
@given(st.lists(st.tuples(st.sampled_from(sorted(STEPS)), st.integers(0, 11)), max_size=14))
def test_undoing_every_step_is_the_first_file_to_the_bit(steps):
    desk = Desk(lambda _: 0)
    desk.document.open(file_of(state()), None)
    first = written(desk.state)
    for name, number in steps:
        before = desk.state
        try:
            after = STEPS[name](before, number)
        except UserError:
            continue
        desk.document.do(Edit(name, after))
        assert written(state_of(from_json(written(after), "x"))) == written(after)
        ids = [take.id for take in after.takes]
        assert len(set(ids)) == len(ids)
        assert len({take.name for take in after.takes}) == len(ids)
        assert {choice.take for choice in choices(after)} <= set(ids)
    while desk.document.undo():
        pass
    assert written(desk.state) == first


def test_an_edit_of_one_take_leaves_the_others_alone():
    two = takes.added(state(), "Other")
    edited = retyped(two, two.text.replace("Am7", "A7"))
    assert "A7" in edited.text
    assert "Am7" in takes.switched(edited, 1).text
    more = takes.switched(edited, 1)
    more = retyped(more, more.text.replace("| F |", "| F Fm6 |"))
    ids = [{slot.id for bar in take.content.chords for slot in bar.slots} for take in more.takes]
    assert len(ids[0] - ids[1]) == len(ids[0]) - len(ids[0] & ids[1])  # no id stands for two chords
    new = ids[0] - {s.id for section in two.song.sections for bar in section.bars for s in bar.slots}
    assert not new & ids[1]


def test_a_section_is_copied_with_what_is_kept_asked_and_played_in_it():
    first = state()
    slot = first.song.sections[0].bars[1].slots[0].id
    other = takes.added(first, "Other")
    other = retyped(other, other.text.replace("Am7", "A7"))
    here = other.song.sections[0].bars[1].slots[0].id
    rich = changed_in(
        other, keeps=(Keep(here, "A7", (45,), (61, 64, 67)),),
        setup=msgspec.structs.replace(other.setup, wishes=(Wish(here, colour=3), Wish(other.song.sections[0].id, lift=3))),
        playing=with_fill(with_pattern(other.playing, here, "both", "rolled"), Fill(here, "suspension"), True),
    )  # fmt: skip
    back = takes.switched(rich, 1)
    copied = takes.copied(back, rich.take, back.song.sections[0].id)
    assert copied.text == rich.text
    assert (copied.keeps, copied.setup.wishes) == (rich.keeps, rich.setup.wishes)
    assert copied.playing.wishes == rich.playing.wishes
    assert copied.playing.fills == rich.playing.fills
    again = takes.copied(copied, copied.take, back.song.sections[0].id)
    assert again == copied
    assert slot
    with pytest.raises(UserError):
        takes.copied(back, rich.take, 9999)


def test_the_only_take_stays_and_there_are_not_too_many():
    with pytest.raises(UserError, match="only take"):
        takes.deleted(state(), 1)
    many = state()
    for n in range(23):
        many = takes.added(many, f"T{n}")
    with pytest.raises(UserError, match="24 takes"):
        takes.added(many, "one more")
    with pytest.raises(UserError):
        takes.switched(many, 999)


# --- the mix ---
@pytest.mark.parametrize("name", demo_names())
def test_a_mix_of_the_current_take_alone_is_the_take(name):
    plain = state_of(song_file(demo_song(name)))
    builder = Builder()
    assert [v.both for v in solved(takes.mix_state(plain), builder).voicings] == [
        v.both for v in solved(plain, builder).voicings
    ]


def test_a_mix_plays_each_pass_as_its_take_and_costs_the_least_of_all_songs():
    """Against every way to put whole passes together: solved as one, joints included, it costs no more than any song that
    is made of the takes' own hands.
    """
    made = takes.three(state())
    ids = {take.name: take.id for take in made.takes}
    passes = passes_of(made.song)
    assert len(passes) == 5
    for own, name in zip(passes, ("Plain", "Coloured", "High", "Take 1", "Coloured"), strict=True):
        made = takes.with_choice(made, *own, ids[name])
    mix = takes.mix_state(made)
    builder = Builder()
    found = solved(mix, builder)
    assert [section.name for section in mix.song.sections] == ["Verse", "Verse", "Bridge", "Verse", "Verse"]
    asked = [found.lattice.places[i].asked for i in range(len(found.voicings))]
    assert [a.colour for a in asked][:4] == [0] * 4
    assert [a.colour for a in asked][4:8] == [2] * 4
    assert [(a.colour, a.style) for a in asked][8:10] == [(1, "Still top")] * 2
    cheapest = found.totals.cost
    ends = [0, 4, 8, 10, 14, 18]
    for names in itertools.product(("Plain", "Coloured", "High"), repeat=1):
        own = solved(takes.switched(made, ids[names[0]]), builder)
        keeps = tuple(
            Keep(found.moments[v.moment].slot_id, found.moments[v.moment].symbol, *own.voicings[i].both)
            for i, v in enumerate(found.voicings)
            if any(ends[k] <= i < ends[k + 1] for k in range(5))
        )
        assert solved(changed_in(mix, keeps=keeps), builder).totals.cost >= cheapest


def test_the_hands_are_the_players_in_every_take():
    made = takes.three(state())
    small = msgspec.structs.replace(
        made.setup.player, hands=msgspec.structs.replace(made.setup.player.hands, left_reach=7)
    )
    everywhere = takes.with_players(made, small)
    assert {takes.switched(everywhere, take.id).setup.player.hands.left_reach for take in everywhere.takes} == {7}
