"""What each style says of itself, measured over a corpus of songs; registers, sizes, keys and manners."""

import itertools
import statistics
from functools import lru_cache

import pytest
from msgspec.structs import replace

from tests import some
from tests.core.leading.test_solution import asking, solved
from tests.songs import BUILDER
from tools.taste import PROGRESSIONS
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, Wish, as_asked, chosen_manner
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.prices.motion import Way, prices
from yellow_hinge.core.leading.prices.moves import match
from yellow_hinge.core.leading.prices.promises import PROMISES
from yellow_hinge.core.leading.prices.weights import STYLES, Weights
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.song.transpose import song_in_key
from yellow_hinge.io.songs.demo import demo_song

DEMOS = [
    demo_song(n) for n in ("last-boat-to-marrow", "cork-and-rope", "harbour-bell", "kettle-on-the-stove", "slack-tide")
]
SONGS = [*DEMOS, *(parse_chart(progression.chart) for progression in some(PROGRESSIONS, 8))]


@lru_cache(maxsize=1024)
def played(song, **wishes):
    return solve_song(BUILDER, timeline(song), asking(**wishes))


def over(songs, measure, **wishes):
    """A share over all hinges of some songs: `measure` gives true and false for a solution's pairs of voicings."""
    found = []
    for song in songs:
        voicings = played(song, **wishes).voicings
        found += [measure(a, b) for a, b in itertools.pairwise(voicings) if a.right and b.right]
    return sum(found) / len(found)


def tops(solution):
    return [v.right[-1] for v in solution.voicings if v.right]


# --- Smoothest ---


@pytest.mark.parametrize(("bass", "colour"), some([("mine", 0), ("theirs", 0), ("mine", 2), ("theirs", 2)], 3))
def test_no_other_style_moves_less_than_the_smoothest(bass, colour):
    others = ("Still top", "Singing top", "Same size", "Outward") if bass == "mine" else ("Still top", "Rising line")
    for song in SONGS:
        least = played(song, bass=bass, colour=colour).totals.motion
        for style in others:
            motion = played(song, bass=bass, colour=colour, style=style).totals.motion
            assert least <= max(motion * 1.03, motion + 2), (song.title, style)


# --- lines ---


def test_a_singing_top_goes_by_steps_and_seldom_comes_back_to_the_note_before_last():
    def share_of_returns(style):
        moves = []
        for song in SONGS:
            line = tops(played(song, style=style))
            moves += [a == c != b for a, b, c in zip(line, line[1:], line[2:], strict=False)]
        return sum(moves) / len(moves)

    assert over(SONGS, lambda a, b: abs(b.right[-1] - a.right[-1]) <= 2, style="Singing top") > 0.95
    assert over(SONGS, lambda a, b: b.right[-1] != a.right[-1], style="Singing top") > 0.6
    assert share_of_returns("Singing top") < 0.08 < share_of_returns("Outward")


def test_the_shape_slides_on_half_of_the_changes():
    shares = [played(song, style="Slide along the key").totals.kept for song in SONGS]
    assert sum(kept for kept, _ in shares) >= sum(could for _, could in shares) / 2


def test_the_root_always_sounds_over_a_falling_bass():
    for song in SONGS:
        for v in played(song, style="Falling bass").voicings:
            assert v.chord.root.pc in {note % 12 for note in (*v.left, *v.right)}


FOUR = [
    "key: C\n| Cmaj7 | Am7 | Dm7 | G7 | Em7 | A7 | Dm7 G7 | Cmaj7 |",
    "key: Bb\n| Bb | Eb/Bb | F/A | Gm | Eb | Cm7 | F7 | Bb |",
    "key: Gm\n| Gm7 | Cm7 F7 | Bbmaj7 | Ebmaj7 | Am7b5 | D7b9 | Gm6 | Gm6 |",
    "key: E\n| E | C#m7 | A | B/A | G#m7 | C#m7 | F#m7 | B7sus4 B7 | E |",
]


@pytest.mark.parametrize("manner", some(["", *manners()], 4))
def test_styles_differ_and_do_what_they_promise_in_every_manner(manner):
    """Nine of eleven play other hands; each keeps its promise more often than the smoothest hands happen to."""
    hands: dict[str, list] = {style: [] for style in STYLES if not style.startswith("Lean")}
    kept = dict.fromkeys(PROMISES, (0, 0))
    for chart in FOUR:
        song, builder = parse_chart(chart), Builder()
        setup = as_asked(chosen_manner(Setup(), manner) if manner else Setup(), song)
        found = {s: solve_song(builder, timeline(song), replace(setup, style=s)) for s in hands}
        hands = {style: both + [v.both for v in found[style].voicings] for style, both in hands.items()}
        for style in PROMISES:
            both = found[style], found["Smoothest"]
            own, plain = ([s.keeps(at, style) for at in range(len(s.voicings))].count(True) for s in both)
            kept[style] = kept[style][0] + own, kept[style][1] + plain
    assert len(set(map(tuple, hands.values()))) >= 9
    assert all(own >= plain - 2 for own, plain in kept.values()), kept
    assert sum(own > plain for own, plain in kept.values()) >= (7 if setup.mine else 6), kept


def test_a_style_says_where_it_cannot_keep_its_promise():
    found = solved(FOUR[1], bass="theirs", style="Falling bass")
    assert "somebody else has the bass" in found.style_words()
    found = solved(FOUR[1], style="Rising line")
    for index in range(1, len(found.voicings)):
        rises = found.voicings[index].right[-1] > found.voicings[index - 1].right[-1]
        assert ("the top does not rise here" in reason(found, index)) is not rises


# --- wishes that vary and climb ---


def test_what_repeats_is_moved_inside():
    song = "key: D dorian\n| Dm7 | Dm7 | Dm7 | G7 | G7 | Dm7 |"
    plain, varied = solved(song), solved(song, vary=True)
    assert plain.voicings[0].right == plain.voicings[1].right
    for a, b in itertools.pairwise(varied.voicings):
        if a.chord == b.chord:
            assert a.right != b.right


def test_a_section_climbs_on_its_way_and_sinks():
    song = "key: C\n[A]\n" + "| C | Am | F | G " * 3 + "|\n[B]\n| C | G |"
    for by in (12, -7):
        line = [
            statistics.mean(v.right) for v in solved(song, wishes=(Wish(1, climb=by),), style="Still top").voicings[:12]
        ]
        first, middle, last = (statistics.mean(line[i : i + 4]) for i in (0, 4, 8))
        assert (last - first) * (1 if by > 0 else -1) >= abs(by) / 3
        assert abs(middle - first) < abs(last - first)


# --- registers ---


@pytest.mark.parametrize(("bass", "colour"), [("mine", 0), ("mine", 2), ("theirs", 2)])
def test_a_song_does_not_end_much_lower_than_it_began(bass, colour):
    for song in SONGS:
        rights = [v.right for v in played(song, bass=bass, colour=colour).voicings if v.right]
        assert statistics.mean(rights[-1]) >= statistics.mean(rights[0]) - 3


def test_repeats_of_a_section_lie_together_and_the_hands_at_home():
    for song in DEMOS:
        voicings = played(song, colour=2).voicings
        assert 62 <= statistics.mean(note for v in voicings for note in v.right) <= 70
    twice = parse_chart("key: F\n|: F | Dm7 | Gm7 | C7 :|\n| Bb | F |")
    found = [statistics.mean(v.right) for v in played(twice).voicings]
    assert abs(statistics.mean(found[:4]) - statistics.mean(found[4:8])) <= 2


def test_a_song_moves_about_as_much_in_every_key():
    for song in DEMOS[:2]:
        motions = [played(moved(song, by)).totals.motion for by in range(-5, 6)]
        assert max(motions) <= 1.25 * min(motions)


def moved(song, by):
    tonic = spell_in_key((song.the_key.tonic.pc + by) % 12, song.the_key)
    return song_in_key(song, Key(tonic, song.the_key.mode))


# --- doubling ---


def test_a_triad_over_its_third_does_not_have_it_three_times():
    for style in ("Smoothest", "Still top"):
        for colour in range(3):
            found = solved("key: C\n| F | C/E | Dm7 | C/E | F | G7 | C |", style=style, colour=colour).voicings
            assert all(sum(n % 12 == 4 for n in (*v.left, *v.right)) <= 2 for v in (found[1], found[3]))


# --- manners ---


def test_a_hymn_has_no_fifths_or_octaves_in_a_row_inside_a_hand_or_over_the_bass():
    setup = chosen_manner(Setup(), "hymn")
    chart = "key: Eb\n| Eb | Bb7/D | Eb | Ab | Eb/Bb | Bb7 | Cm | Fm7 | Bb7 | Eb |"
    song = parse_chart(chart)
    found = solve_song(BUILDER, timeline(song), as_asked(setup, song)).voicings
    for a, b in itertools.pairwise(found):
        one, other = (*a.left, *a.right), (*b.left, *b.right)
        assert len(one) == len(other) == 4
        for low, high in itertools.combinations(range(4), 2):
            apart = (one[high] - one[low]) % 12
            assert apart not in (0, 7) or (other[high] - other[low]) % 12 != apart or one[low] == other[low]


def test_a_left_hand_that_rolls_plays_tenths():
    rolled = Hands(roll=True)
    found = solved("key: C\n| C | Am | F | G |", hands=rolled, families=("tenth-bass",))
    assert all(len(v.left) == 3 and v.left[2] - v.left[0] >= 15 for v in found.voicings)
    assert any("rolled" in warning for v in found.voicings for warning in v.warnings)


def test_octaves_and_fifths_in_a_row_cost_where_they_are_priced():
    price = prices(Way(Weights(parallel=9.0, outer_parallel=2.0), basses=(0, 2)))
    plain = prices(Way(Weights()))

    def more(old, new, hand="right"):
        return match(old, new, hand, True, price)[0] - match(old, new, hand, True, plain)[0]

    assert more((52, 64), (53, 65)) == 9000  # octaves in the hand
    assert more((48, 55), (50, 57), "left") == 9000  # fifths with the bass in the hand
    assert more((52, 59), (53, 62)) == 0
    assert more((52, 67), (53, 69)) == 9000 + 2000  # fifths of the top over the bass
