"""A song is a form, takes and a mix: what is shared, what is kept, and that no kind of thing is forgotten anywhere."""

import itertools
from pathlib import Path

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits import takes
from yellow_hinge.app.edits.asking import in_key, with_memo, without_resting
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.own_hands import Beside, beside_words
from yellow_hinge.app.edits.resting import resting
from yellow_hinge.app.edits.state import changed, changed_in, file_of, retyped, state_of, state_with, with_text
from yellow_hinge.app.solving.twelve import stretch
from yellow_hinge.cli.verbs import run
from yellow_hinge.core.chart import edit as chart_edit
from yellow_hinge.core.chart.text import parse_chart, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes import things
from yellow_hinge.core.takes.form import chords_of, form_of, song_of
from yellow_hinge.core.takes.mixing import choices, mixed
from yellow_hinge.core.takes.take import apart_words
from yellow_hinge.core.takes.thing_moves import place_of
from yellow_hinge.core.takes.written_out import passes_of, repeats_apart
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.song_json import from_json, to_json

OLD = Path(__file__).parents[1] / "io" / "old" / "song-v10.json"
CHART = "title: Quay\nkey: C\n[Verse]\n|: C | Am7 | F | G7 :|\ncue: | wa | | ter |\n[Chorus]\n| Dm7 G7 | C |\n"


def typed(state, old, new):
    text = state.text.replace(old, new)
    assert text != state.text
    return with_text(state, state, text, read_chart(text))


def two():
    """A song with two takes that differ in one chord; the second is shown."""
    state = takes.added(state_with(parse_chart(CHART), CHART), "Warm")
    return typed(state, "Am7", "A7")


def symbols(state, own=None):
    there = takes.switched(state, own) if own else state
    return [slot.symbol for section in there.song.sections for bar in section.bars for slot in bar.slots]


# --- apart and together ---
@pytest.mark.parametrize("name", demo_names())
def test_a_song_taken_apart_and_put_together_is_the_song(name):
    song = demo_song(name)
    form = form_of(song, state_with(song).form)
    assert song_of(form, chords_of(song), song.asks) == song
    assert not any(bar.slots for section in form.sections for bar in section.bars)


# --- takes share the song ---
def test_swing_is_the_songs_in_every_take_in_the_mix_in_twelve_keys_and_in_the_file():
    state = typed(typed(two(), "key: C\n", "key: C\nswing: light\n"), "[Chorus]\n", "[Chorus]\nswing: straight\n")
    for take in state.takes:
        there = takes.switched(state, take.id)
        assert (there.song.swing, there.song.sections[1].swing) == ("light", "straight")
        assert "swing: light" in there.text
    verse, chorus = mixed(state).song.sections[0], mixed(state).song.sections[-1]
    assert (verse.swing, chorus.swing) == ("light", "straight")
    assert stretch(state.song, (0, 0, 0), (1, 1, 0)).sections[1].swing == "straight"
    assert state_of(from_json(to_json(file_of(state)), "x")).song == state.song
    assert in_key(state, parse_key("Db")).song.sections[1].swing == "straight"


def test_a_meter_fits_the_chords_of_every_take():
    state = typed(two(), "key: C", "key: C\nmeter: 3/4")
    for take in state.takes:
        song = takes.switched(state, take.id).song
        assert all(sum(slot.beats for slot in bar.slots) == 3 for section in song.sections for bar in section.bars)
    assert symbols(state, 1)[1] == "Am7"


def test_a_bar_that_goes_rests_in_the_take_that_plays_it_otherwise_and_comes_back_with_it():
    state = two()
    gone = changed(state, chart_edit.delete_bar(state.song, (0, 1)))
    first = takes.switched(gone, 1)
    rests = resting(first.things, first.song)
    assert [(rest.words, rest.why) for rest in rests] == [("Am7", "its bar is gone")]
    back = typed(changed_in(gone, text=write_chart(gone.song)), "| F ", "| A7 | F ")
    assert symbols(back, 1)[:4] == ["C", "Am7", "F", "G7"]
    assert not resting(takes.switched(back, 1).things, takes.switched(back, 1).song)
    assert not without_resting(first, rests).things.of(things.AWAY)


def test_the_mix_is_the_same_whichever_take_is_shown():
    state = two()
    state = takes.with_choice(state, *passes_of(state.song)[1], 2)
    mixes = [write_chart(mixed(takes.switched(state, take.id)).song) for take in state.takes]
    assert mixes[0] == mixes[1]
    assert [choice.take for choice in choices(state)] == [1, 2, 1]
    moved = takes.moved(state, 2, -1)
    assert write_chart(mixed(moved).song) == mixes[0]


def test_cues_of_a_chord_stay_on_their_beat_through_a_take_that_has_fewer_chords():
    state = state_with(parse_chart("| C F |\ncue: | one / two |"))
    state = takes.added(state, "Fewer")
    state = changed(state, chart_edit.delete_chord(state.song, (0, 0, 1)))
    assert [slot.cue for slot in state.song.sections[0].bars[0].slots] == ["one two"]
    assert [slot.cue for slot in takes.switched(state, 1).song.sections[0].bars[0].slots] == ["one", "two"]


def test_repeats_apart_are_apart_in_every_take_and_in_the_mix():
    state = two()
    state = takes.with_choice(state, *passes_of(state.song)[1], 2)
    apart = takes.with_repeats_apart(state)
    assert symbols(apart, 1)[:8] == ["C", "Am7", "F", "G7"] * 2
    assert symbols(apart)[:8] == ["C", "A7", "F", "G7"] * 2
    assert [m.symbol for m in timeline(mixed(apart).song)] == [m.symbol for m in timeline(mixed(state).song)]
    same = set(chords.slots[0].id for chords in repeats_apart(state).takes[0].content.chords)
    assert len(same) == 10


# --- old songs whose takes differ ---
def test_takes_of_an_old_file_in_another_key_keep_it_say_so_and_mix_as_before():
    file = from_json(OLD.read_bytes(), "old.hinge")
    assert [(take.name, take.form is not None) for take in file.takes] == [
        ("Take 1", False), ("Longer", True), ("Flat", True), ("Warm", False),
    ]  # fmt: skip
    song = mixed(file).song
    found = [(s.name, s.key, [slot.symbol for bar in s.bars for slot in bar.slots]) for s in song.sections]
    assert found == [
        ("Verse", "C major", ["C", "Am7", "F", "G7"]), ("Verse", "Eb major", ["Eb", "Cm7", "Ab", "Bb7"]),
        ("Chorus", "C major", ["Dm7", "G7", "G7", "C"]),
    ]  # fmt: skip
    assert [memo.words for memo in file.memos] == ["slow", "watch"]
    assert from_json(to_json(file), "x") == file
    state = state_of(file)
    assert apart_words(state).startswith("Longer has other bars and Flat is in Eb major, apart")
    assert mixed(takes.switched(state, 3)).song == song
    flat = in_key(takes.switched(state, 3), parse_key("F"))  # goes to another key alone
    keys = [takes.switched(flat, take).song.key for take in (1, 2, 3, 4)]
    assert keys == ["C major", "C major", "F major", "C major"]


def test_takes_apart_are_brought_together_or_become_a_song():
    state = state_of(from_json(OLD.read_bytes(), "old.hinge"))
    flat, longer = (next(take.id for take in state.takes if take.name == name) for name in ("Flat", "Longer"))
    one = takes.together(state, flat)
    assert symbols(one, flat)[:4] == ["C", "Am7", "F", "G7"]
    assert takes.switched(one, flat).keeps == takes.switched(one, 1).keeps
    both = takes.together(one, longer)
    assert apart_words(both) == ""
    there = takes.switched(both, longer)
    assert [rest.words for rest in resting(there.things, there.song)] == ["G7"]
    alone = takes.song_of_its_own(state, flat)
    assert (alone.song.key, alone.song.title, len(alone.takes)) == ("Eb major", "Old Quay, Flat", 1)
    with pytest.raises(Exception, match="already"):
        takes.together(both, flat)


# --- nothing forgets a kind of thing ---
class Sticker(msgspec.Struct, frozen=True):
    slot: int
    words: str


STICKERS = things.ThingKind(
    "stickers", Sticker, lambda one: (one.slot,), place_of("slot"),
    lambda one, song: None if one.slot in song.slots else things.Rest(0, one.words, "gone"),
    lambda one, shift: Sticker(one.slot, f"{one.words}{shift.by:+}"),
)  # fmt: skip


@pytest.fixture
def stickers(monkeypatch):
    monkeypatch.setattr(things, "KINDS", (*things.KINDS, STICKERS))


def stuck(state, place=(0, 1, 0)):
    slot = state.song.sections[place[0]].bars[place[1]].slots[place[2]].id
    return changed_in(state, things=state.things.put(STICKERS, (Sticker(slot, "x"),))), slot


def test_a_kind_that_one_entry_made_survives_everything(stickers, tmp_path):
    state, slot = stuck(two())
    state = takes.renamed(changed_in(state, text=write_chart(state.song)), 1, "First")
    bare = tuple(msgspec.structs.replace(take, text="" if take.id == 1 else take.text) for take in state.takes)
    state = msgspec.structs.replace(state, takes=bare)
    assert changed(state, chart_edit.insert_bar(state.song, (0, 0))).things.of(STICKERS) == (Sticker(slot, "x"),)
    assert in_key(state, parse_key("D")).things.of(STICKERS) == (Sticker(slot, "x+2"),)
    assert takes.added(state, "Third").things.of(STICKERS) == (Sticker(slot, "x"),)
    assert takes.switched(takes.switched(state, 1), 2).things.of(STICKERS) == (Sticker(slot, "x"),)
    assert takes.copied(takes.switched(state, 1), 2, state.song.sections[0].id).things.of(STICKERS)
    choice = takes.with_choice(state, *passes_of(state.song)[1], 2)
    assert len(mixed(choice).whole.things.of(STICKERS)) == 1
    assert len(takes.with_repeats_apart(state).things.of(STICKERS)) == 2
    gone = changed(state, chart_edit.delete_bar(state.song, (0, 1)))
    assert [rest.words for rest in resting(gone.things, gone.song)] == ["x"]
    assert state_of(from_json(to_json(file_of(state)), "x")) == state
    desk = Desk(lambda _: 0)
    desk.document.open(file_of(state), None)
    desk.document.do(Edit("retype", retyped(desk.state, parse_chart("| C |"))))
    desk.document.undo()
    assert desk.state.things.of(STICKERS) == (Sticker(slot, "x"),)
    (tmp_path / "a.hinge").write_bytes(to_json(file_of(choice)))
    run(["export", str(tmp_path / "a.hinge"), "--to", str(tmp_path / "b.hinge")])
    assert state_of(from_json((tmp_path / "b.hinge").read_bytes(), "b")) == choice


def test_an_unknown_kind_and_a_damaged_thing_are_said():
    data = to_json(file_of(with_memo(two(), two().song.sections[0].bars[0].slots[0].id, "here")))
    with pytest.raises(Exception, match=r"no kind of thing"):
        from_json(data.replace(b'"memos"', b'"memoes"', 1), "x")
    with pytest.raises(Exception, match=r"memos: Expected `int`"):
        from_json(data.replace(b'"slot": 3,', b'"slot": "3",', 1), "x")


def test_a_note_whose_chord_is_gone_says_that_it_rests():
    state = two()
    slot = state.song.sections[0].bars[1].slots[0].id
    state = with_memo(state, slot, "watch the drummer")
    gone = changed(state, chart_edit.delete_bar(state.song, (0, 1)))
    found = [(rest.words, rest.why) for rest in resting(gone.things, gone.song)]
    assert ("the note 'watch the drummer'", "its chord is gone") in found


def test_what_yours_move_beside_the_best_is_said_as_it_is():
    found = [beside_words(Beside(0, *pair)) for pair in ((6, 1), (3, 3), (3, 5))]
    assert found == [
        "yours 6, the best 1 semitone", "3 semitones, as in the best hands",
        "3 semitones; the best hands of the whole song take 5 here",
    ]  # fmt: skip


def test_an_exported_song_has_its_takes_and_its_mix(tmp_path):
    run(["export", "demo:last-boat-to-marrow", "--to", str(tmp_path / "a.hinge")])
    file = from_json((tmp_path / "a.hinge").read_bytes(), "a")
    assert [take.name for take in file.takes] == ["Harbour", "Warm", "High water"]
    assert len(file.mix) == 4


# --- random songs with everything in them ---
EDITS = {
    "insert": lambda s, n: changed(s, chart_edit.insert_bar(s.song, (n % 2, 0))),
    "delete": lambda s, n: changed(s, chart_edit.delete_bar(s.song, (0, n % 2))),
    "split": lambda s, n: changed(s, chart_edit.split_chord(s.song, (0, n % 2, 0))),
    "move": lambda s, n: changed(s, chart_edit.move_bar(s.song, (0, 0), n % 3)),
    "key": lambda s, n: in_key(s, parse_key(("D", "Bb", "F#", "C")[n % 4])),
    "take": lambda s, n: takes.added(s, f"T{n}"),
    "show": lambda s, n: takes.switched(s, s.takes[n % len(s.takes)].id),
    "apart": lambda s, n: takes.with_repeats_apart(s),
    "mix": lambda s, n: takes.with_choice(s, *passes_of(s.song)[0], s.takes[n % len(s.takes)].id),
    "memo": lambda s, n: with_memo(s, s.song.sections[0].bars[0].slots[0].id, f"memo {n}"),
    "song": lambda s, n: with_memo(s, 0, f"song {n}"),
    "keep": lambda s, n: changed_in(
        s, keeps=(*s.keeps, Keep(s.song.sections[0].bars[0].slots[-1].id, "C", (36 + n,), (60, 64)))
    ),
}


@settings(max_examples=examples(20))
@given(st.lists(st.tuples(st.sampled_from(sorted(EDITS)), st.integers(0, 11)), max_size=12))
def test_every_take_stays_a_song_that_its_chart_and_its_file_give_back(steps):
    state = two()
    for name, number in steps:
        try:
            state = EDITS[name](state, number)
        except UserError:  # said, and nothing is changed
            continue
        state = changed_in(state, text=write_chart(state.song))
        assert state_of(from_json(to_json(file_of(state)), "x")) == state
        ids = list(things.there(state.song).ids)
        assert len(ids) == len(set(ids))
        for take in state.takes:
            song = takes.switched(state, take.id).song
            assert [s.id for s in song.sections] == [s.id for s in state.song.sections]
            reading = read_chart(write_chart(song))
            assert not reading.faults
            bars = [bar for section in song.sections for bar in section.bars]
            assert all(sum(slot.beats for slot in bar.slots) == 4 for bar in bars)
            mix = mixed(takes.switched(state, take.id))
            assert mix.song == mixed(state).song
            rows = itertools.groupby(m.pass_id for m in timeline(mix.song))
            assert len(mix.passes) == len(list(rows))
