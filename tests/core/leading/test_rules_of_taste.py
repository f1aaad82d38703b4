"""What one would not play is not played: counted over charts, manners and colours, and each rule by itself."""

import collections
import itertools

import pytest

from tests import some
from tests.core.leading.test_answers import solved
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.chain.stage import line_of
from yellow_hinge.core.leading.price import faults
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.remarks import long_tune
from yellow_hinge.core.leading.prices.sung import sung_over
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.regions import local_keys
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.core.symbols.symbol import parse_symbol

CHARTS = (
    "key: C\n| Cmaj7 | Fm7 Bb7 | Ebmaj7 | Am7 D7 | Gmaj7 | Dm7b5 G7 | Cm7 | Em7 A7 | Dm7 G7 | C6 |",
    "key: G\n| G | G/F# | Em7 | Em7/D | C | G/B | Am7 | D7 | G/D | C/D | D7 | G |",
    "key: D minor\n| Dm7 | Gm7 | Em7b5 | A7alt | Dm7 | Bbmaj7 | Em7b5 A7b9 | Dm6 |",
    "key: C\n| Dm7 | G7 | Cmaj7 | A7 | Dm7 | G7 | C6 | C |\n"
    "tune: | F4:2 A4:2 | Ab4:3 G4:1 | B4:2 G4:2 | C#5:2 A4:2 | C5:4 | Eb5:2 D5:2 | A4:4 | G4:4 |\n",
)
TOO_CLOSE = {1: 52, 2: 48, 3: 48, 4: 46}  # semitones apart, and the lower note under which they are never played


def played(chart, manner, colour):
    song = parse_chart(chart)
    return solve_song(BUILDER, timeline(song), as_asked(Setup(manner=manner, colour=colour), song))


def counted(found):
    """Faults of a solution, by name."""
    count = collections.Counter(all=len(found.voicings))
    for v in found.voicings:
        notes, written = (*v.left, *v.right), set(v.chord.pitch_classes)
        tune = long_tune(v.here)
        count["rub"] += any(n % 12 not in written and (t - n) % 12 == 1 for n in notes for t in tune)
        count["close"] += any(a < TOO_CLOSE.get(b - a, 0) for a, b in itertools.pairwise(sorted(notes)))
        count["mud"] += any(remark.kind == "mud" for remark in v.remarks)
        count["gap"] += bool(v.left and v.right) and v.right[0] - v.left[-1] > 20
        count["meet"] += bool(v.left and v.right) and v.right[0] - v.left[-1] == 1
    for a, b in itertools.pairwise(found.voicings):
        step = (b.chord.bass_note.pc - a.chord.bass_note.pc) % 12 in (1, 2, 10, 11)
        if found.setup.mine and step and a.left and b.left:
            count["steps"] += 1
            count["leapt"] += abs(b.left[0] - a.left[0]) in (10, 11, 13, 14)
    return count


def test_what_one_would_not_play_is_not_played():
    count = collections.Counter()
    for n, (chart, manner) in enumerate(itertools.product(CHARTS, manners())):
        count += counted(played(chart, manner, (0, 2, 3)[n % 3]))
    assert count["all"] > 300
    assert count["rub"] == count["close"] == count["meet"] == 0
    assert count["mud"] <= count["all"] / 250
    assert count["gap"] <= count["all"] / 150
    assert count["leapt"] <= max(2, count["steps"] / 18)


def test_what_is_flagged_muddy_never_wins_where_a_clean_hand_costs_a_little_more():
    for chart, manner in itertools.product(CHARTS[:2], ("gospel", "jazz-alone", "solo-ballad")):
        found = played(chart, manner, 2)
        for at, v in enumerate(found.voicings):
            if any(remark.kind == "mud" for remark in v.remarks):
                assert all(way.extra > 5000 for way in options(found, at)[1:3])


@pytest.mark.parametrize(
    ("chord", "tune", "forbidden"),
    [("G7", 68, {0, 2}), ("G7", 69, {1, 3}), ("G7", 63, {7, 9}), ("G7", 64, {8}), ("G7", 70, {1, 2}), ("Cmaj7", 72, {11}),
     ("Cm7", 62, {1})],
)  # fmt: skip
def test_one_place_has_one_colour_whoever_sounds_it(chord, tune, forbidden):
    """The half step under the tune, and the other forms of the place that it sings."""
    assert sung_over(parse_symbol(chord, parse_key("C")), (tune,)) == forbidden


def test_a_colour_leaves_for_the_tune():
    chart = "key: C\n| Dm7 | G7 | Cmaj7 |\ntune: | F4:4 | {}:4 | G4:4 |\n"
    sung = {tune: played(chart.format(tune), "rhythm-and-blues", 3).voicings[1] for tune in ("Ab4", "A4", "Eb5")}
    sounding = {tune: {(n - 67) % 12 for n in (*v.left, *v.right)} for tune, v in sung.items()}
    assert 2 not in sounding["Ab4"]  # no ninth beside the flat one
    assert not {1, 3} & sounding["A4"]
    assert 9 not in sounding["Eb5"]
    shell = played(chart.format("Eb5"), "jazz-alone", 3).voicings[1]
    assert 62 % 12 not in {n % 12 for n in (*shell.left, *shell.right)}  # nor the fifth, where the hands can do without


@pytest.mark.parametrize("manner", manners())
def test_the_third_leaves_for_a_sung_fourth(manner):
    chart = "key: C\n| C | G7 | Cmaj7 | Am7 |\ntune: | F4:2 E4:2 | C5:3 B4:1 | F5:4 | D5:4 |"
    solution = played(chart, manner, 2)
    found = solution.voicings
    own = faults(Both((52,), (60, 67, 72)), solution, 0)  # the third that is written, in the player's own bass
    assert not any("lacks" in words or "be its bass" in words for words in own)
    for v, third in zip(found, ("E", "B", "E", ""), strict=True):
        assert third not in {str(pitch.note) for hand in ("left", "right") for pitch in v.pitches(hand)}
    assert [remark.words for remark in found[1].remarks if remark.kind == "sung"] != []


def test_a_line_in_a_held_chord_stays_in_its_strand():
    pairs = [("Am", "Am(maj7)"), ("Am(maj7)", "Am7"), ("C", "Caug"), ("F", "Fm"), ("Am", "F"), ("C7", "C7sus4")]
    chords = [tuple(parse_symbol(word, parse_key("C")) for word in pair) for pair in pairs]
    assert [line_of(*pair) for pair in chords] == [
        (9, 8, True),
        (8, 7, False),
        (7, 8, False),
        (9, 8, False),
        None,
        (4, 5, False),
    ]
    found = solved("key: A minor\n| Am | Am(maj7) | Am7 | Am6 |", colour=0)
    hands = [(v.left, v.right) for v in found.voicings[1:]]
    for goes, comes, (old, new) in zip((8, 7), (7, 6), itertools.pairwise(hands), strict=True):
        for before, after in zip(old, new, strict=True):
            assert {n - 1 for n in before if n % 12 == goes} <= set(after)
            assert {n for n in after if n % 12 == comes} <= {n - 1 for n in before}


def test_regions_are_coloured_in_their_own_key():
    def keys(chart):
        return [str(key) if key else "" for key in local_keys(timeline(parse_chart(f"key: C\n{chart}")), False)]

    assert keys("| Fm7 Bb7 | Ebmaj7 | Dm7 G7 | C |") == ["Eb major"] * 3 + [""] * 3
    assert keys("| Am7 D7 | Gm |")[1:] == ["G minor"] * 2
    assert keys("| Ebm7 Ab7 | C |") == ["Db major", "", ""]
    assert keys("| C7 | F7 | C7 |") == [""] * 3  # the four of a blues is no region
    assert keys("| A7 | D | G7 | C |") == [""] * 4  # nor is a second made major


def test_a_free_right_hand_rests_and_the_left_says_the_chord():
    song = parse_chart("key: C\n| Dm9 | G13 | Cmaj9 | A7b9 | F/G | C |")
    found = solve_song(BUILDER, timeline(song), as_asked(Setup(manner="jazz-alone", right="free", bass="mine"), song))
    for v in found.voicings:
        assert not v.right
        assert v.left[0] % 12 == v.chord.bass_note.pc


def test_manners_do_not_double_the_motion():
    for manner in some(("rhythm-and-blues", "jazz-with-bass", "jazz-alone", "solo-ballad", "gospel", "pop"), 2):
        ratios = []
        for chart in CHARTS[:3]:
            song = parse_chart(chart)
            own = played(chart, manner, 2)
            plain = {name: getattr(own.setup, name) for name in ("bass", "melody", "fullness", "right")}
            least = Setup(manner="none", colour=2, style="Smoothest", families=("all",), **plain)
            best = solve_song(BUILDER, timeline(song), as_asked(least, song))
            ratios.append(own.totals.motion / best.totals.motion)
        assert sorted(ratios)[1] <= 1.8, (manner, ratios)


SEVERAL = "C Cmaj7 C6 Cm Cm7 Cm6 C7 C7sus4 Csus4 Csus2 Cm7b5 Cdim7 Cdim Caug C/E C/G C7/Bb F/G".split()
# Classes that have fewer hands than six, since no more are worth playing: manner, symbols, the least left and right ones.
FEWER = (
    ("jazz-with-bass", SEVERAL, 2, 1), ("jazz-alone", SEVERAL, 2, 6), ("solo-ballad", SEVERAL, 2, 5),
    ("modal", SEVERAL, 2, 2), ("rhythm-and-blues", ["C6"], 6, 5),
)  # fmt: skip


@pytest.mark.parametrize("manner", manners())
def test_every_chord_has_several_hands_in_every_manner(manner):
    """Placings of each hand at the manner's number of notes, over two roots, counted above the root."""
    for place, symbol in enumerate(SEVERAL):
        song, hands = parse_chart(f"key: C\n| {symbol} |"), [set(), set()]
        for key in ("C", "Ab"):
            there = song_in_key(song, parse_key(key))
            asked = as_asked(Setup(manner=manner, colour=(0, 2)[place % 2]), there)
            stage = BUILDER.lattice(timeline(there), asked, ()).stages[0]
            for side, (hand, found) in enumerate(zip((stage.left, stage.right), hands, strict=True)):
                there_at = (stage.place.cost < INFINITE).any(1 - side).nonzero()[0]
                found |= {tuple(n - there.the_key.tonic.pc for n in hand.notes(at)) for at in there_at}
        least = next(((l, r) for own, some, l, r in FEWER if own == manner and symbol in some), (6, 6))
        assert len(hands[0]) >= least[0], (symbol, hands[0])
        assert len(hands[1]) >= least[1], (symbol, hands[1])
