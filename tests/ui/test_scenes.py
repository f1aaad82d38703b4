"""Geometry of the pictures: what a player reads off them is where it should be."""

import pytest

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import KEY_X, WHITE_MM
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.lines import STIFF
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import number_text
from yellow_hinge.io.songs.demo import demo_song
from yellow_hinge.ui.paint.keys import MOST_WIDE, keyboard, keys_scene
from yellow_hinge.ui.paint.notes import hinge_figures
from yellow_hinge.ui.paint.strand.strands import PLATE_H, PLATE_W, changed_columns, strand_scene
from yellow_hinge.ui.parts.ribbon_scene import ribbon_scene


def made(song, **wishes):
    return solve_song(Builder(), timeline(song), Setup(**wishes))


@pytest.fixture(scope="module")
def song():
    return demo_song("last-boat-to-marrow")


@pytest.fixture(scope="module")
def solution(song):
    return made(song)


def kept_third(solution):
    return [frozenset({"chord"} if index == 2 else ()) for index in range(len(solution.voicings))]


def test_held_strands_are_level_and_moving_ones_carry_their_semitones(song, solution):
    scene = strand_scene(solution, song, kept_third(solution).__getitem__, 400)
    held = [s for s in scene.between(0, len(scene.columns)) if s.kind == "held"]
    moving = [s for s in scene.between(0, len(scene.columns)) if s.kind == "moves"]
    assert all(s.y1 == s.y2 and not s.label for s in held)
    assert all(s.label[0] in "+−" and (s.y1 > s.y2) == (s.label[0] == "+") for s in moving)
    assert len(held) == sum(step.kind == "held" for hinge in solution.hinges for step in hinge.steps)
    assert sum(int(s.label[1:]) for s in moving) == solution.totals.motion
    assert [bool(c.kept) for c in scene.columns[:4]] == [False, False, True, False]
    assert [c.section for c in scene.columns if c.section] == ["Verse", "Chorus"]


@pytest.mark.parametrize("wishes", [{}, {"bass": "theirs"}, {"colour": 3}])
@pytest.mark.parametrize("height", [220, 400, 900])
def test_no_plate_covers_another(song, wishes, height):
    found = made(song, **wishes)
    for column in strand_scene(found, song, lambda _: frozenset(), height).columns:
        for a in column.plates:
            for b in column.plates:
                if a is not b:
                    assert abs(a.x - b.x) >= PLATE_W * 0.9 or abs(a.y - b.y) >= PLATE_H - 0.01


def test_the_ribbon_is_in_proportion_to_beats(song, solution):
    scene = ribbon_scene(solution, song, 1000)
    assert sum(cell.width for cell in scene.cells) == pytest.approx(1000)
    assert scene.cells[3].width == pytest.approx(scene.cells[0].width / 2)
    stiffest = max(range(len(solution.hinges)), key=lambda i: solution.hinges[i].motion)
    assert scene.cells[stiffest].joint == max(cell.joint for cell in scene.cells)
    assert [scene.cell_at(cell.x + cell.width / 2) for cell in scene.cells] == list(range(len(scene.cells)))


def test_keys_stand_in_true_proportion():
    keys = keyboard(48, 71, 0, 0, 700, 80, ())
    unit = min(MOST_WIDE, 700 / 14)
    for midi in range(48, 72):
        assert keys.centre(midi) == pytest.approx((KEY_X[midi] - KEY_X[48] + WHITE_MM / 2) / WHITE_MM * unit)
    for key in keys.keys:
        assert keys.key_at(keys.centre(key.midi), 70 if not key.black else 10) == key.midi
    assert keys.key_at(5, 200) is None


def test_finger_paths_lead_from_key_to_key(solution):
    at, hinge = next((i, h) for i, h in enumerate(solution.hinges) if not h.added and not h.lifted and h.held)
    scene = keys_scene(solution.voicings[at], solution.voicings[at + 1], hinge, 900, 190)
    assert len(scene.paths) == len(hinge.steps)
    for path, step in zip(scene.paths, hinge.steps, strict=True):
        assert path.x1 == scene.upper.centre(step.old)
        assert path.x2 == scene.lower.centre(step.new)
        assert (path.kind in ("held", "passes")) == (path.x1 == path.x2)


def test_the_last_chord_stands_alone(solution):
    scene = keys_scene(solution.voicings[-1], None, None, 900, 190)
    assert scene.lower is None
    assert scene.paths == ()


def test_small_words():
    solution = made(parse_chart("| C | C |"))
    assert hinge_figures(solution.hinges[0]).endswith("0 semitones")
    assert [number_text(n) for n in ("57sus4", "b7maj7", "5/7", "1")] == ["5\u20097sus4", "♭7\u2009maj7", "5/7", "1"]


def test_a_hinge_is_stiff_from_nine_semitones_on():
    """At the threshold itself, and one below it: in the map, the list, and on the sheet alike."""
    seen = set()
    for name in ("last-boat-to-marrow", "harbour-bell", "cork-and-rope", "slack-tide"):
        song = demo_song(name)
        found = made(song)
        scene = strand_scene(found, song, lambda _: frozenset(), 400)
        for column, hinge in zip(scene.columns, found.hinges, strict=False):
            assert column.stiff == (hinge.motion >= STIFF)
            seen.add(hinge.motion)
    assert {STIFF - 1, STIFF} <= seen


def test_a_long_map_is_made_where_it_is_looked_at():
    song = parse_chart("| " + " | ".join(["C", "Am7", "Dm7", "G7"] * 50) + " |")
    solution = made(song)
    scene = strand_scene(solution, song, lambda _: frozenset(), 400)
    assert len(scene.columns) == 200
    seen = scene.columns[20:24], scene.between(20, 23)
    assert sorted(scene.columns.made) == [20, 21, 22, 23]
    assert sorted(scene.hinges.made) == [20, 21, 22, 23]
    again = strand_scene(solution, song, lambda _: frozenset(), 400)
    assert changed_columns(scene, again) is None
    assert sorted(again.columns.made) == [20, 21, 22, 23]  # the others were never painted
    whole = [again.columns[n] for n in range(200)]
    assert tuple(whole[20:24]) == tuple(seen[0])
    other = strand_scene(solution, song, lambda index: frozenset({"chord"} if index == 22 else ()), 400)
    assert changed_columns(scene, other) == (22, 22)
    assert scene.columns[-1] is scene.columns[199]
