"""What comes next, how well it is remembered, the rounds of keys and the bass questions: all deterministic."""

import random
from datetime import UTC, datetime, timedelta

import pytest

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.practice.bass_ear import bass_question
from yellow_hinge.core.practice.choosing import SURE, Item, Progress, Task, _run, next_task
from yellow_hinge.core.practice.marking import Mark
from yellow_hinge.core.practice.memory import due, known, rating, reviewed
from yellow_hinge.core.practice.rounds import round_keys
from yellow_hinge.core.symbols.symbol import parse_symbol

NOW = datetime(2026, 5, 1, 12, tzinfo=UTC)
RIGHT, SLOW, SLIP, WRONG = Mark(0.8), Mark(4.0), Mark(1.0, extra=(61,)), Mark(5.0, missing=(60, 64, 67))
ITEMS = [Item(f"h{n}", n, difficulty, 0) for n, difficulty in enumerate((3.0, 9.0, 5.0, 1.0))]


def test_marks_are_rated_by_errors_and_time():
    found = [rating(mark).name for mark in (RIGHT, Mark(2.0), SLOW, SLIP, WRONG)]
    assert found == ["Easy", "Good", "Hard", "Hard", "Again"]


def test_memory_is_deterministic_and_grows_with_what_is_right():
    card, other, at = "", "", NOW
    gaps = []
    for _ in range(5):
        card, other = reviewed(card, "h1", RIGHT, at), reviewed(other, "h1", RIGHT, at)
        assert card == other
        gaps.append(due(card) - at)
        at = due(card)
    assert gaps == sorted(gaps)
    assert known(card, at) < known(card, at - gaps[-1] + timedelta(minutes=1)) <= 1
    assert due(reviewed(card, "h1", WRONG, at)) - at <= timedelta(days=1)
    assert known("", NOW) == 0
    with pytest.raises(UserError, match="damaged"):
        due("{}")


def test_due_comes_before_hard_before_the_rest():
    soon = reviewed("", "h3", WRONG, NOW - timedelta(days=1))
    later = reviewed("", "h1", RIGHT, NOW)
    assert next_task(ITEMS, {}, Progress(), NOW) == Task("hinge", 1, 2)
    assert next_task(ITEMS, {"h3": soon, "h1": later}, Progress(), NOW) == Task("hinge", 3, 4)
    assert next_task(ITEMS, {"h1": later}, Progress(), NOW) == Task("hinge", 2, 3)
    assert next_task([], {}, Progress(), NOW) is None


def test_a_whole_session_joins_what_is_sure_and_ends_with_the_part_in_time():
    progress, cards, seen, now = Progress(), {}, [], NOW
    for _ in range(40):
        task = next_task(ITEMS, cards, progress, now)
        seen.append(task)
        own = [item for item in ITEMS if task.first <= item.place < task.last]
        for item in own:
            cards[item.id] = reviewed(cards.get(item.id, ""), item.id, RIGHT, now)
        progress = progress.after(task, own, {item.id: True for item in own})
        now += timedelta(seconds=8)
        if task.kind == "part":
            break
    kinds = [task.kind for task in seen]
    assert kinds[0] == "hinge"
    assert kinds.index("run") >= 2 * SURE
    assert seen[-1] == Task("part", 0, 4)
    assert next_task(ITEMS, cards, progress, now) is not None


def test_what_was_wrong_comes_again_and_is_not_joined():
    progress = Progress({item.id: SURE for item in ITEMS[:2]} | {"h2": 0, "h3": SURE})
    assert next_task(ITEMS, {}, progress, NOW) == Task("run", 0, 2)
    progress = progress.after(Task("run", 0, 2), ITEMS[:2], {"h0": True, "h1": False})
    assert progress.streaks["h1"] == 0
    assert next_task(ITEMS, {}, progress, NOW).kind == "hinge"


@pytest.mark.parametrize(("way", "third"), [("fourths", "Bb"), ("fifths", "D"), ("half", "D"), ("whole", "E")])
def test_rounds_go_through_all_twelve_keys(way, third):
    for down in (False, True):
        found = round_keys(parse_key("C"), way, down)
        assert len({key.tonic.pc for key in found}) == 12
        assert all(key.mode == "major" for key in found)
    assert str(round_keys(parse_key("C"), way)[2].tonic) == third
    assert str(round_keys(parse_key("F# minor"), "fourths")[1]) == "B minor"


def test_bass_questions_get_harder_and_say_which_chord_it_makes():
    chord, chance = parse_symbol("Am7"), random.Random(3)
    counts = [len(bass_question(chord, (60, 64, 67), level, chance.choice).answers) for level in range(3)]
    assert counts == [3, 4, 12]
    asked = bass_question(chord, (60, 64, 67), 2, lambda some: 5)
    assert (str(asked.right), asked.makes) == ("D", "D9sus4")
    assert asked.bass < 60
    assert asked.bass % 12 == 2


def test_what_was_wrong_waits_until_others_were_played():
    progress, tasks = Progress(), []
    for _ in range(12):
        task = next_task(ITEMS, {}, progress, NOW)
        tasks.append(task)
        own = [item for item in ITEMS if item.place == task.first]
        progress = progress.after(task, own, {item.id: False for item in own})
    for place, task in enumerate(tasks):
        assert task not in tasks[max(0, place - 3) : place]


def test_changes_are_joined_inside_a_part_and_never_over_its_end():
    items = [Item(f"i{n}", n, 1.0, 0 if n < 3 else 1) for n in range(6)]
    sure = Progress({item.id: SURE for item in items})
    first = _run(items, sure)
    assert first == Task("run", 0, 3)  # three changes, which are four chords
    later = sure._replace(tasks=(first, Task("part", 0, 3)))
    assert _run(items, later) == Task("run", 3, 6)
    assert _run(items[:2], Progress({"i0": SURE, "i1": SURE - 1})) is None
    assert _run([items[0], items[2]], sure) is None  # they do not touch
