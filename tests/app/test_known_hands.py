"""A song remembers its hands, and an edit says what it changed elsewhere."""

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.app.test_desk import make_desk
from tests.songs import BUILDER
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.asking import in_key, with_new_hands, with_setup
from yellow_hinge.app.edits.state import changed, changed_in, file_of, state_of, state_with
from yellow_hinge.app.solving.elsewhere import Before, elsewhere
from yellow_hinge.app.solving.solver import answer
from yellow_hinge.cli.verbs import run
from yellow_hinge.core.chart import edit as chart_edit
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.setup import Wish
from yellow_hinge.core.leading.prices.weights import PRICES
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.takes.known import as_known, hands_of, holds
from yellow_hinge.core.takes.things import KNOWN
from yellow_hinge.io.songs.demo import demo_file, demo_names
from yellow_hinge.io.songs.song_json import from_json, to_json

CHART = "key: C\n[A]\n| C | Am7 | Dm7 | G7 |\n[B]\n|: F | Fm6 :|\n| C |"


def solved(state):
    found = answer(BUILDER, 1, state).solution
    assert found is not None
    return found


def hands(solution):
    return [voicing.both for voicing in solution.voicings]


def moved(known, by=12, at=(1,)):
    """Hands as other prices might have made them: some chords an octave lower in the right hand."""
    found = [
        msgspec.structs.replace(hand, right=tuple(note - by for note in hand.right)) if n in at else hand
        for n, hand in enumerate(known.hands)
    ]
    return msgspec.structs.replace(known, prices=PRICES - 1, hands=tuple(found))


@pytest.fixture
def old():
    """A file whose hands other prices made, and those hands."""
    state = state_with(parse_chart(CHART))
    known = moved(hands_of(state.take, solved(state)))
    return msgspec.structs.replace(file_of(state), hands=(known,)), known


@pytest.mark.parametrize("name", [name for name in demo_names() if demo_file(name)[0].hands])
def test_shipped_songs_have_the_hands_of_todays_prices(name):
    """Where this fails: raise PRICES, then `make songs`."""
    file, _ = demo_file(name)
    assert {found.take for found in file.hands} == {take.id for take in file.takes}
    for found in file.hands:
        assert found.prices == PRICES
        there = takes.switched(state_of(file), found.take)
        assert hands_of(found.take, solved(there)) == found


def test_a_song_opens_with_the_hands_it_knows_under_other_prices(old):
    file, known = old
    state = state_of(from_json(to_json(file), "x"))
    assert holds(state)
    assert [(both.left, both.right) for both in hands(solved(state))] == [(h.left, h.right) for h in known.hands]
    new = with_new_hands(state)
    assert not holds(new)
    assert hands(solved(new)) != hands(solved(state))


def test_hands_of_todays_prices_need_no_keeping(old):
    file, known = old
    again = msgspec.structs.replace(known, prices=PRICES)
    assert not holds(state_of(msgspec.structs.replace(file, hands=(again,))))


def test_known_hands_give_way_to_what_is_asked(old):
    state = state_of(old[0])
    section = state.song.sections[1]
    part = with_setup(state, msgspec.structs.replace(state.setup, wishes=(Wish(section.id, colour=2),)))
    inside = {slot.id for bar in section.bars for slot in bar.slots}
    assert {keep.slot for keep in part.things.of(KNOWN)} == {k.slot for k in state.things.of(KNOWN)} - inside
    assert not holds(with_setup(state, msgspec.structs.replace(state.setup, colour=1)))
    assert not holds(in_key(state, parse_key("D")))
    typed = changed(state, chart_edit.insert_bar(state.song, (0, 0)))
    assert typed.things.of(KNOWN) == state.things.of(KNOWN)
    assert len(solved(typed).voicings) == len(known_count(state)) + 1


def known_count(state):
    return solved(state).voicings


def test_a_saved_song_remembers_the_hands_of_all_its_takes(tmp_path):
    desk = make_desk(CHART)
    desk.document.do(desk_edit(takes.added(desk.state, "Warm")))
    desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
    desk.change_setup("colour", colour=2)
    desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
    desk.document.save(tmp_path / "a.hinge")
    file = from_json((tmp_path / "a.hinge").read_bytes(), "a")
    assert [found.take for found in file.hands] == [1, 2]
    assert file.hands[1] == hands_of(2, solved(state_of(file)))
    desk.document.open(file, tmp_path / "a.hinge")
    desk.document.save(tmp_path / "a.hinge")  # before anything is solved
    assert from_json((tmp_path / "a.hinge").read_bytes(), "a").hands == file.hands


def desk_edit(state):
    from yellow_hinge.app.edits.editing import Edit

    return Edit("x", state)


def test_the_command_line_says_whose_hands_they_are(old, tmp_path, capsys):
    file, known = old
    (tmp_path / "a.hinge").write_bytes(to_json(file))

    def voiced(*words):
        run(["voice", str(tmp_path / "a.hinge"), "--json", *words])
        document = msgspec.json.decode(capsys.readouterr().out)
        return document["hands"], [v["right"] for v in document["voicings"]]

    assert voiced() == ("known", [list(hand.right) for hand in known.hands])
    assert voiced("--colour", "2")[0] == "solved"
    assert voiced("--key", "D")[0] == "solved"
    assert voiced("--style", "Still top")[0] == "solved"
    run(["export", str(tmp_path / "a.hinge"), "--to", str(tmp_path / "b.hinge")])
    again = from_json((tmp_path / "b.hinge").read_bytes(), "b")
    assert [hand.right for hand in again.hands[0].hands] == [hand.right for hand in known.hands]


def test_hands_that_are_none_are_a_damaged_file(old):
    data = to_json(old[0]).replace(b'"only": [', b'"only": ["x", ', 1)
    with pytest.raises(Exception, match="damaged"):
        from_json(data, "x")
    bad = msgspec.structs.replace(old[1].hands[0], right=(999,))
    with pytest.raises(Exception, match="MIDI has 0 to 127"):
        as_known(msgspec.structs.replace(old[1], hands=(bad,)))


# --- what an edit changed elsewhere ---
def test_a_bar_at_the_end_marks_what_it_changed_elsewhere_and_keeping_it_is_one_step():
    desk = make_desk("key: C\n| C | Am7 | Dm7 | G7 | C | F | Dm7 | G7 |")
    first = hands(desk.solution)
    marked = 0
    for chord in ("Abmaj7", "F#m7b5", "Db", "Bb13"):
        desk.type_text(f"{desk.state.text.rstrip().rstrip('|')}| {chord} |")
        desk.document.history.end_group()
        desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
        new = hands(desk.solution)
        changed_ = {n for n, both in enumerate(first) if new[n] != both}
        assert desk.answers.beside == changed_
        marked += len(changed_)
        desk.keep_others()
        desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
        assert hands(desk.solution)[: len(first)] == first
        if changed_:
            assert desk.document.undo().startswith("keep ")
            desk.document.redo()
            desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
        first = hands(desk.solution)
    assert marked > 0


def test_what_is_asked_of_the_whole_song_marks_nothing():
    desk = make_desk(CHART)
    desk.change_setup("colour", colour=2)
    desk.accept(answer(BUILDER, desk.answers.asked, desk.state))
    assert desk.answers.beside == frozenset()


@settings(max_examples=examples(15))
@given(st.integers(0, 6), st.integers(0, 3))
def test_only_untouched_chords_are_marked(at, colour):
    state = state_with(parse_chart(CHART))
    before = Before(state, solved(state))
    slot = before.solution.voicings[at].here.slot_id
    after = changed_in(state, setup=msgspec.structs.replace(state.setup, wishes=(Wish(slot, colour=colour),)))
    new = solved(after)
    found = elsewhere(before, after, new)
    olds = hands(before.solution)
    others = {n for n, v in enumerate(new.voicings) if v.both != olds[n] and v.here.slot_id != slot}
    assert found == others
