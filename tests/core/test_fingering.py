"""Fingers: blocks as they are taught, rows of chords against every other way, facts of a hinge."""

from itertools import combinations, pairwise, product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.fingering import Fingered, alone, fingered, fingered_between, fingerings, strain
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.prices.hinge import Both, hinge_words, make_hinge
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.weights import Weights
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.songs.demo import demo_names, demo_song

RIGHT = """C4 E4 G4|1 3 5;E4 G4 C5|1 2 5;G4 C5 E5|1 3 5;Db4 F4 Ab4|1 3 5;F#4 A4 D5|1 2 5;Bb3 D4 F4|1 3 5;Eb4 G4 Bb4|1 3 5
C4 E4 G4 B4|1 2 3 5;E4 G4 B4 C5|1 2 4 5;B3 C4 E4 G4|1 2 3 5;G4 B4 C5 E5|1 2 3 5;C4 E4 G4 C5|1 2 3 5;E4 G4 C5 E5|1 2 4 5
F4 A4 B4 E5|1 2 3 5;E4 A4 Bb4 D5|1 2 3 5;F4 Bb4 Eb5|1 2 5;D4 F4|1 3;C4 G4 C5|1 3 5;Bb3 D4 F4 A4|1 2 3 5;Ab4 Db5 F5|1 3 5
D4 E4 F#4 A4|1 2 3 5;F#4 A#4 C#5|1 3 5;C4 D4 E4 G4 B4|1 2 3 4 5"""
LEFT = """C2 C3|5 1;Ab1 Ab2|5 1;C3 G3|5 1;C2 G2 C3|5 2 1;C2 G2 E3|5 2 1;Eb2 Bb2 G3|5 2 1;D2 C3|5 1;C3 E3|5 3;G2 F3 B3|5 2 1
C3 E3 G3|5 3 1;E3 G3 C4|5 3 1;G3 C4 E4|5 2 1;Bb2 D3 F3|5 3 1;E3 G3 B3 D4|5 3 2 1;F3 A3 B3 E4|5 3 2 1;B3 E4 F4 A4|5 3 2 1
Eb3 G3 Bb3 D4|5 3 2 1;C3 F3 Bb3|5 2 1;C2 G2 D3|5 2 1;F#2 C#3 F#3|5 2 1;Bb2 Ab3 D4|5 2 1;A2 E3 G3|5 2 1"""
CHORD = st.lists(st.integers(48, 67), max_size=4, unique=True).map(lambda notes: tuple(sorted(notes)))


def blocks(table):
    return [row.split("|") for row in table.replace("\n", ";").split(";")]


@pytest.mark.parametrize(
    ("hand", "notes", "fingers"), [(h, *b) for h, t in (("right", RIGHT), ("left", LEFT)) for b in blocks(t)]
)
def test_a_block_is_held_as_it_is_taught(hand, notes, fingers):
    keys = tuple(parse_pitch(name).midi for name in notes.split())
    ways, hard = fingerings(keys, hand)
    assert ways[int(hard.argmin())] == tuple(map(int, fingers.split()))


@given(CHORD, st.sampled_from(["left", "right"]))
def test_fingers_never_cross(notes, hand):
    ways, hard = fingerings(notes, hand)
    assert {tuple(sorted(way)) for way in ways} == set(combinations((1, 2, 3, 4, 5), len(notes)))
    for way, price in zip(ways, hard, strict=True):
        assert list(way) == sorted(way, reverse=hand == "left")
        assert price == pytest.approx(strain(way, notes, hand), abs=1e-6)


def go(old, one, new, other, hand):
    """The price of a change, from the words of its rule."""
    from yellow_hinge.core import fingering as f

    if not old or not new:
        return 0.0
    price = sum(f.CHANGED for note in set(old) & set(new) if one[old.index(note)] != other[new.index(note)])
    if len(old) == len(new) > 1 and all(b - a == new[0] - old[0] for a, b in zip(old, new, strict=True)):
        price += f.SHAPE_CHANGED * sum(a != b for a, b in zip(one, other, strict=True))
    sign = 1 if hand == "right" else -1
    lie = [sum(f.KEY_X[n] - sign * f.NATURAL_X[x] for n, x in zip(notes, fingers, strict=True)) / len(notes)
           for notes, fingers in ((old, one), (new, other))]  # fmt: skip
    price += f.MOVED_MM * abs(lie[0] - lie[1])
    same_top = hand == "right" and old[-1] != new[-1] and one[-1] == other[-1] == 5
    return price + (f.SAME_TOP if same_top else 0.0)


def price_of(chords, ways, hand, loop):
    total = sum(strain(way, notes, hand) for way, notes in zip(ways, chords, strict=True))
    joints = [*pairwise(range(len(chords))), *([(len(chords) - 1, 0)] if loop and len(chords) > 1 else [])]
    return total + sum(go(chords[a], ways[a], chords[b], ways[b], hand) for a, b in joints)


@settings(max_examples=examples(40))
@given(st.lists(CHORD, min_size=1, max_size=3), st.sampled_from(["left", "right"]), st.booleans())
def test_the_fingers_of_a_row_are_the_least_strain_of_all(chords, hand, loop):
    found = fingered(chords, hand, loop)
    best = min(price_of(chords, ways, hand, loop) for ways in product(*(fingerings(c, hand)[0] for c in chords)))
    assert price_of(chords, found, hand, loop) == pytest.approx(best, abs=1e-4)


@given(CHORD, CHORD, CHORD, st.sampled_from(["left", "right"]))
def test_a_chord_tried_between_neighbours_is_fingered_for_them(before, here, after, hand):
    known = fingered((before, here, after), hand)
    found = fingered_between((before, known[0]), here, (after, known[2]), hand)
    rows = [
        price_of((before, here, after), (known[0], way, known[2]), hand, False) for way in fingerings(here, hand)[0]
    ]
    assert price_of((before, here, after), (known[0], found, known[2]), hand, False) == pytest.approx(
        min(rows), abs=1e-4
    )


@given(CHORD, CHORD, CHORD, CHORD, st.booleans())
def test_held_is_the_same_finger_on_the_same_key(left, right, next_left, next_right, mine):
    old, new = Both(left, tuple(n + 24 for n in right)), Both(next_left, tuple(n + 24 for n in next_right))
    fingers = alone(*old), alone(*new)
    hinge = make_hinge(old, new, mine, Way(Weights()), fingers)
    keys = [
        (was[midi], now[midi])
        for hand in ("left", "right")
        for was, now in [
            [dict(zip(b.of(hand), f.of(hand), strict=True)) for b, f in zip((old, new), fingers, strict=True)]
        ]
        for midi in was.keys() & now.keys()
    ]
    assert hinge.held == sum(a == b for a, b in keys)
    assert hinge.common == len(keys)
    assert len(hinge.changes) == hinge.common - hinge.held
    assert hinge.added == sum(max(0, len(b) - len(a)) for a, b in zip(old, new, strict=True))
    assert hinge.lifted == sum(max(0, len(a) - len(b)) for a, b in zip(old, new, strict=True))


def sung(symbols):
    return tuple(parse_symbol(symbol) for symbol in symbols)


@pytest.mark.parametrize(
    ("old", "new", "fingers", "words"),
    [
        (((), (60, 64, 67)), ((), (60, 65, 69)), ((1, 3, 5), (1, 3, 5)), "Right middle E up to F, little G up to A; the rest holds."),
        (((), (60, 64, 67)), ((), (64, 67, 72)), ((1, 3, 5), (1, 2, 5)),
         "Right thumb C up to E, E up to G with the index finger, little G up to C."),
        (((), (60, 64)), ((), (64, 67)), ((1, 3), (3, 5)), "Right C up to E with the middle finger, E up to G with the little finger, E stays down."),
        (((36, 48), (60, 64)), ((), (60, 64)), ((1, 3), (1, 3)), "Left hand rests; the rest holds."),
        (((), (60, 64)), ((36, 43), (60, 64)), ((1, 3), (1, 3)), "Left hand plays C G; the rest holds."),
        (((), (60, 64, 67)), ((), (60, 64)), ((1, 3, 5), (1, 3)), "Right little lets G go; the rest holds."),
        (((), (60, 64)), ((), (60, 65)), ((1, 3), (1, 3)), "Right middle E up to F; the rest holds."),
        (((), (60, 65)), ((), (60, 64)), ((1, 3), (1, 3)), "Right middle F down to E; the rest holds."),
        (((), (60, 64)), ((), (60, 64, 67)), ((1, 3), (1, 3, 5)), "Right little adds G; the rest holds."),
        (((), (60, 64)), ((), (60, 64)), ((1, 3), (2, 4)), "Right C passes from the thumb to the index finger, E passes from the middle to the ring finger."),
    ],
)  # fmt: skip
def test_the_sentence_says_what_fingers_do(old, new, fingers, words):
    names = sung(("C", "C"))
    both = Both(*old), Both(*new)
    hands = [Fingered(alone(b.left, ()).left, f) for b, f in zip(both, fingers, strict=True)]
    hinge = make_hinge(*both, True, Way(Weights()), tuple(hands))
    assert hinge_words(hinge, *both, names) == words


def test_a_left_hand_that_moves_is_counted_whole():
    """Octave basses and triads that move by fifths: every note of both hands goes to a note."""
    song = parse_chart("key: F# minor\n| Bm | F#m | C#m | Bm |")
    found = solve_song(BUILDER, timeline(song), Setup(colour=0, families=("octave-triad",)))
    for old, new, hinge in zip(found.voicings, found.voicings[1:], found.hinges, strict=False):
        assert hinge.added == hinge.lifted == 0
        assert hinge.left_motion == sum(abs(a - b) for a, b in zip(old.left, new.left, strict=True))
        assert hinge.right_motion == sum(abs(a - b) for a, b in zip(old.right, new.right, strict=True))
        assert "adds" not in found.words(found.hinges.index(hinge))


def test_in_the_demo_songs_kept_keys_keep_their_fingers():
    common = changes = 0
    for name in demo_names()[:6]:
        song = demo_song(name)
        found = solve_song(BUILDER, timeline(song), as_asked(Setup(), song))
        common += sum(hinge.common for hinge in found.hinges)
        changes += sum(len(hinge.changes) for hinge in found.hinges)
    assert common > 200
    assert changes <= common // 30


def test_a_repeated_chord_keeps_its_fingers():
    chord = (60, 64, 67, 71)
    assert len(set(fingered([chord] * 5, "right"))) == 1
    assert isinstance(sung(("C",))[0], Chord)
