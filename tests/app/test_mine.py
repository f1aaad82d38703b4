"""The player's own data: a folder of small files, checked one by one, laid beside what ships."""

import msgspec
import pytest

from yellow_hinge.app.keeping.settings import Settings
from yellow_hinge.app.mine.folder import LARGEST, OFF, marks, put_entry, put_example, read_mine, take_away
from yellow_hinge.app.mine.kinds import BY_NAME, KINDS
from yellow_hinge.app.mine.listing import every_row
from yellow_hinge.app.mine.moving_in import move_in
from yellow_hinge.app.mine.using import use
from yellow_hinge.app.mine.writer import MineWriter
from yellow_hinge.cli.main import main
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.manners import kin_of, manners
from yellow_hinge.core.leading.asking.setup import Setup, chosen_manner
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.scales import scales_at
from yellow_hinge.core.own.fills import OwnFill, own_fill
from yellow_hinge.core.performing import performed
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import with_fill
from yellow_hinge.core.rhythm.fills.offered import offers
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol

ENTRY = ShelfEntry("two-home", 'Two, "home"', "hands", ("2m7 4 1 b7 | b3 5", "1 4 1 5 | 3 1"), "äöü", "pop", True)


@pytest.fixture
def folder(tmp_path):
    yield tmp_path / "mine"
    use(read_mine(tmp_path / "none"))


@pytest.fixture
def examples(folder):
    for kind in KINDS:
        put_example(folder, kind.name)
    return folder


def test_every_example_is_read_and_is_written_again_as_it_was(examples, folder):
    mine = read_mine(examples)
    assert mine.wrong == ()
    assert [own.kind for own in mine.entries] == [kind.name for kind in KINDS]
    for own in mine.entries:
        path = put_entry(folder, own.kind, own.entry)
        written = next(each for each in read_mine(folder, (own.kind,)).entries if each.path == path)
        named = {"id": written.id} if "id" in own.entry.__struct_fields__ else {"name": written.id}
        assert written.id == f"{own.id}-2"
        assert msgspec.structs.asdict(written.entry) == msgspec.structs.asdict(own.entry) | named


WRONG = [
    ("style", "leap = 2.5", "leep = 2.5", "did you mean 'leap'", "leep"), ("style", "hold = -0.6", "hold = inf", "hold", "hold"),
    ("style", "hold = -0.6", "hold = -60.0", "not within", "hold"), ("style", '"Still top"', '"Stil top"', "'Still top'", "like"),
    ("manner", '"hymn"', '"hymm"', "did you mean 'hymn'", "like"), ("manner", "parts = 5", "parts = 50", "parts", "parts"),
    ("manner", '"Singing top"', '"Singing tops"', "'Singing top'", "style"), ("manner", "tritone planing", "tritones", "tritone", "never"),
    ("substitute", "boldness = 3", "boldness = 9", "boldness", "boldness"), ("substitute", '"5D"', '"8D"', "is no place", "here"),
    ("substitute", '"4m6"', '"4m6x"', "made", "made"), ("substitute", "gospel rhythm", "gospels rhythm", "gospel", "high"),
    ("substitute", '"lantern-four"', '"tritone"', "ships already", "id"), ("scale", "1 2 3 5 6 b7", "1 3 2", "rise from 1", "notes"),
    ("scale", '["dominant"]', '["dominants"]', "did you mean 'dominant'", "over"), ("pattern", "beats = 4", "beats = 400", "beats long", "Slow answer"),
    ("shape", '"1 7"', '"1 7 q"', "places of a chord", "name"), ("shelf", "chords = [", "cords = [", "did you mean 'chords'", "cords"),
    ("shelf", '"cadence"', '"cadenza"', "no kind of entry", "kind"), ("scale", "id =", "id :", "line", "id"), ("fill", "[-5, -3, -1]", "[-5, -30, -1]", "not within", "steps"),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "old", "new", "said", "where"), WRONG, ids=[f"{row[0]}-{row[2]}" for row in WRONG])
def test_what_is_wrong_is_said_with_its_line_and_costs_only_itself(examples, kind, old, new, said, where):
    path = next(own.path for own in read_mine(examples).entries if own.kind == kind)
    text = path.read_text("utf-8")
    head, body = text[: text.index("\n\n")], text[text.index("\n\n") :]
    assert old in body
    text = head + body.replace(old, new, 1)
    path.write_text(text, "utf-8")
    mine = read_mine(examples)
    (wrong,) = mine.wrong
    assert len(mine.entries) == len(KINDS) - 1
    assert (wrong.path, said in wrong.reason) == (path, True), wrong.reason
    if wrong.line:
        assert where in text.splitlines()[wrong.line - 1]
    else:
        assert kind in ("pattern", "shape", "shelf")


def test_files_that_are_none_are_said_and_others_are_not_looked_at(folder):
    assert read_mine(folder) == ((), ())
    put_entry(folder, "shelf", ENTRY)
    put_entry(folder, "shelf", ENTRY)
    shelf = folder / "shelf"
    assert sorted(path.name for path in shelf.iterdir()) == ["two-home-2.toml", "two-home.toml"]
    for name, text in (
        ("broken", "id = "), ("empty", ""), ("large", "#" * (LARGEST + 1)), ("nested", "a = " + "[" * 5000),
        ("zwei", (shelf / "two-home.toml").read_text("utf-8")), ("number", "a = " + "9" * 5000),
    ):  # fmt: skip
        (shelf / f"{name}.toml").write_text(text, "utf-8")
    (shelf / "bytes.toml").write_bytes(b"\xff\xfe")
    (shelf / "folder.toml").mkdir()
    (shelf / "other.txt").write_text("not looked at", "utf-8")
    found = read_mine(folder)
    assert [own.id for own in found.entries] == ["two-home-2", "two-home"]
    assert found.of("shelf")[1] == ENTRY
    assert len(found.wrong) == 8
    written = (shelf / "two-home.toml").read_bytes()
    off = take_away(folder, "shelf", "two-home")
    assert off is not None
    assert (off.parent.name, off.read_bytes()) == (OFF, written)
    assert [own.id for own in read_mine(folder).entries] == ["two-home-2", "two-home"]  # the copy counts now
    assert take_away(folder, "shelf", "nobody") is None


def test_own_styles_manners_substitutes_and_scales_are_used_and_gone_with_their_files(examples):
    song = parse_chart("key: C\n[Verse]\n| C | Am | Dm7 | G7 | C |\n")
    plain = solve_song(Builder(), timeline(song), chosen_manner(Setup(), "hymn"))
    builder = Builder()
    assert use(read_mine(examples))
    assert not use(read_mine(examples))
    mine = chosen_manner(Setup(), "late-service")
    assert (mine.manner, kin_of("late-service")) == ("late-service", "hymn")
    solution = solve_song(builder, timeline(song), mine)
    assert [v.both for v in solution.voicings] != [v.both for v in plain.voicings]
    quiet = solve_song(builder, timeline(song), Setup(style="Quiet hands"))
    assert "lantern-four" in {swap.kind.id for swap in swaps(builder, quiet, 3)}
    five, key = parse_symbol("G7"), parse_key("C")
    own = next(scale for scale in scales_at(five, key, parse_symbol("C")) if scale.id == "harbour-six")
    assert [str(note) for note in own.notes] == ["G", "A", "B", "D", "E", "F"]
    style = next(own.path for own in read_mine(examples).entries if own.kind == "style")
    style.write_text(style.read_text("utf-8").replace("top = [-1.0", "top = [9.0"), "utf-8")
    assert use(read_mine(examples))
    changed = solve_song(builder, timeline(song), Setup(style="Quiet hands"))
    assert changed.totals.cost != quiet.totals.cost  # tables that were kept are made anew
    assert use(read_mine(examples / "nowhere"))
    assert "Quiet hands" not in STYLES
    assert "late-service" not in manners()
    again = solve_song(builder, timeline(song), chosen_manner(Setup(), "hymn"))
    assert [v.both for v in again.voicings] == [v.both for v in plain.voicings]


def test_every_entry_is_listed_with_where_it_is_from(examples):
    rows = every_row(read_mine(examples))
    assert sum(row.mine for row in rows) == len(KINDS)
    assert {row.kind for row in rows if not row.mine} == set(BY_NAME) - {"line"}
    assert next(row for row in rows if row.id == "tritone").place == "ships"


def test_shapes_and_patterns_of_older_settings_move_in_once(folder):
    pattern = BY_NAME["pattern"].entry(id="mine 1", name="Mine", left="0/1 all", beats=1)
    settings = Settings(shapes=(MyShape("Open; wide", "1 5", "3 7"),), patterns=(pattern,))
    assert move_in(folder, settings.shapes, settings.patterns)
    mine = read_mine(folder)
    assert (mine.of("shape"), mine.of("pattern"), mine.wrong) == (settings.shapes, settings.patterns, ())
    assert move_in(folder, settings.shapes, settings.patterns)
    assert len(read_mine(folder).entries) == 2
    (folder / "shapes").rename(folder / "other")
    (folder / "shapes").write_text("in the way", "utf-8")
    assert not move_in(folder, settings.shapes, settings.patterns)


def test_the_writer_writes_the_last_of_each_and_says_what_it_cannot(folder):
    said = []
    writer = MineWriter(folder, said.append)
    for left in ("1", "1 5", "1 7"):
        writer.put("shape", MyShape("Own", left, "3"))
    writer.flush()
    before = marks(folder)
    assert read_mine(folder).of("shape") == (MyShape("Own", "1 7", "3"),)
    writer.drop("shape", "Own")
    writer.close()
    assert (read_mine(folder).entries, said) == ((), [])
    assert marks(folder) != before
    (folder / "patterns").write_text("", "utf-8")
    writer.put("pattern", BY_NAME["pattern"].entry(id="x", name="X", left="0/1 all"))
    writer.close()
    assert len(said) == 1


def test_the_verb_lists_checks_and_gives_examples(examples, capsys):
    assert main(["data", "example", "style"]) == 0
    assert "[prices]" in capsys.readouterr().out
    assert main(["data", "check", str(examples), "--json"]) == 0
    assert capsys.readouterr().out.count('"kind"') == len(KINDS)
    (examples / "styles" / "bad.toml").write_text("id = 1", "utf-8")
    assert main(["data", "check", str(examples)]) == 2
    out, err = capsys.readouterr()
    assert "left out: styles/bad.toml, line 1" in out
    assert f"1 of {len(KINDS) + 1} files" in err
    assert main(["data", "check", str(examples / "styles")]) == 2
    assert main(["data", "list", "--kind", "manner"]) == 0
    assert "Hymn" in capsys.readouterr().out


def test_the_shelf_is_found_first_among_swaps_where_a_song_goes_straight_from_its_first_chord_to_its_last(folder):
    rows = ("1 2 1 8 | 3 5 1", "5/7 2 3 3 | 5 1 5", "6m 4 1 8 | 5 1 b3")
    put_entry(folder, "shelf", ShelfEntry("walk-six", "Walk to six", "passing", rows, "the bass walks"))
    assert not use(read_mine(folder))  # no hands are chosen by it
    song = parse_chart("key: Eb\n| Eb | Cm | Eb | Bb7 | Eb Cm | Eb |")
    solution = solve_song(Builder(), timeline(song), Setup())
    first = swaps(Builder(), solution, 0)[0]
    assert (first.kind.name, first.reason) == ("Walk to six", "mine: the bass walks")
    assert [write_symbol(chord) for chord in first.chords] == ["Eb", "Bb/D"]
    assert first.beats == (2, 2)
    assert all(not swap.kind.mine for swap in swaps(Builder(), solution, 2))  # it goes on to another chord
    assert [swap.beats for swap in swaps(Builder(), solution, 4) if swap.kind.mine] == [(1, 1)]


def test_lead_ins_of_ones_own_are_offered_first_in_every_song_under_their_names(examples):
    assert own_fill("own bass h-2 h+1") == OwnFill("bass-down2-up1", "-2 1 into the bass", (-2, 1), "bass")
    assert own_fill("walk-up-three") is None
    use(read_mine(examples))
    song = parse_chart("key: C\n| C | F | G7 | C |")
    solution = solve_song(Builder(), timeline(song), Setup())
    row = performed(solution, song).row
    first = offers(row, 1, Playing())[0]
    assert (first.kind.name, first.taken) == ("Three from below", False)
    assert [solution.voicings[1].right[-1] - note.midi for note in first.notes] == [5, 3, 1]
    taken = with_fill(Playing(), Fill(solution.voicings[1].here.slot_id, first.kind.id), True)
    again = [offer for offer in offers(row, 1, taken) if offer.kind.id == first.kind.id]
    assert [(offer.kind.name, offer.taken) for offer in again] == [("Three from below", True)]
