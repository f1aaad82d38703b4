"""Every voicing is heard as the chord that is written, whatever is asked: sampled here, complete in `make sweep`."""

import random
import sys
from functools import lru_cache
from itertools import product

import pytest

from tests import some
from tests.core.leading import brute
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import NoVoicingError
from yellow_hinge.core.hands import KEY_X, Hands, reach_mm
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.pitch import degree_pc, parse_note
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.identity import reads_as_written
from yellow_hinge.core.symbols.symbol import parse_symbol

QUALITIES = (
    "", "m", "7", "maj7", "m7", "m7b5", "dim7", "dim", "6", "m6", "6/9", "9", "m9", "maj9", "13", "m11", "add9", "madd9", "sus4",
    "sus2", "7sus4", "9sus4", "13sus4", "5", "aug", "m(maj7)", "7b9", "7#9", "7#11", "7b13", "7#5", "7b5", "13(b9)", "7alt", "maj7#11",
)  # fmt: skip
BASSES = ("", "/3", "/5", "/b7", "/2")  # semitones are those of the degree above the root
ROOTS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")
AFTER = ("F", "Gm", "C7")  # fifths below C, Db... by key
HANDS = (Hands(), Hands(left_reach=8, right_reach=8, left_notes=2, right_notes=3, keys=61), Hands(10, 10, 4, 5, 88))
ALL = list(product(QUALITIES, BASSES, ROOTS, ("mine", "theirs"), range(4), STYLES, range(len(HANDS)), range(3)))


def chart_of(quality, bass, root, after):
    """The chord, a chord that follows, and the chord again at the end."""
    note = parse_note(root)
    under = "" if not bass else "/" + ROOTS[(note.pc + degree_pc(bass[1:])) % 12]
    next_root = ROOTS[(note.pc + 5) % 12]
    following = next_root + ("", "m7", "7")[after]
    return f"key: {root}\n| {root}{quality}{under} | {following} | {root}{quality}{under} |"


@lru_cache(maxsize=1)
def builder():
    return Builder()


def check(case):
    """Raises AssertionError where a voicing is not its chord."""
    quality, bass, root, who, colour, style, hands, after = case
    song = parse_chart(chart_of(quality, bass, root, after))
    setup = Setup(bass=who, player=Player(HANDS[hands]), colour=colour, style=style)
    try:
        found = solve_song(builder(), timeline(song), setup)
    except NoVoicingError:
        return
    for index, voicing in enumerate(found.voicings):
        if found.lattice.stages[index].eased:
            assert voicing.warnings, case
            continue
        about = (case, voicing.chord, voicing.left, voicing.right)
        notes = (*voicing.left, *voicing.right)
        above = {(n - voicing.chord.root.pc) % 12 for n in notes}
        written = voicing.chord.bass_note.pc
        low = voicing.left[0] % 12 if who == "mine" and voicing.left else written
        whole = above | {(low - voicing.chord.root.pc) % 12}
        assert brute.heard(voicing.chord.quality, (low - voicing.chord.root.pc) % 12, frozenset(above)), about
        if who == "mine":
            assert 0 in above, about
        if who == "mine" and (style != "Falling bass" or index == 2):
            assert low == written, about
        must_sound(voicing.chord, whole, about)
        must_not(voicing.chord.quality, above - {(written - voicing.chord.root.pc) % 12}, about)
        for hand, reach, most in ((voicing.left, setup.player.hands.left_reach, setup.player.hands.left_notes),
                                  (voicing.right, setup.player.hands.right_reach, setup.player.hands.right_notes)):  # fmt: skip
            assert len(hand) <= most, about
            assert not hand or KEY_X[hand[-1]] - KEY_X[hand[0]] <= reach_mm(reach) + 1e-6, about


def must_not(quality, above, about):
    """What the written bass apart nobody may add."""
    if quality.alt:
        assert not above & {2, 7, 9}, about
    if quality.third in ("", "2"):
        assert not above & {3, 4}, about
    if quality.third == "2":
        assert 5 not in above, about


def must_sound(chord, above, about):
    """What the writer wrote: third, seventh, alterations, the extension that names it; nothing that turns it."""
    quality = chord.quality
    for degree in (
        quality.third,
        quality.seventh,
        quality.sixth,
        quality.fifth if quality.fifth in ("b5", "#5") else "",
    ):
        assert not degree or degree_pc(degree) in above, about
    if quality.alt:
        assert above & {1, 3}, about
        assert above & {6, 8}, about
    else:
        natural = [d for d in quality.tensions if d[0] not in "b#"]
        for degree in (*(d for d in quality.tensions if d[0] in "b#"), *natural[-1:]):
            assert degree_pc(degree) in above, about
    foreign = chord.bass_note.pc not in chord.pitch_classes
    if foreign and not quality.seventh and quality.fifth:
        assert degree_pc(quality.fifth) in above, about


def test_every_voicing_is_its_chord():
    for case in random.Random(20261125).sample(ALL, 80):
        check(case)


@pytest.mark.parametrize(
    ("symbol", "notes", "as_written"),
    [
        ("E", "E G# B C", False), ("Am6", "A C E F# D", False), ("G/D", "G B D E", False), ("C/G", "C E G A", False),
        ("Gm/Bb", "G Bb D F", False), ("Dm/F", "D F A C", False), ("Cm6", "C Eb G A F", False), ("Bb/C", "Bb D F E", False),
        ("C", "C E G D", True), ("C", "C E G A", True), ("C/E", "C E G D", True), ("Bdim7/D", "B D F Ab", True), ("F/G", "F A C G", True),
        ("Gm/Bb", "G Bb D", True), ("Am7", "A C G D", True), ("G7", "G B F Ab Eb", True), ("Dm7b5", "D F Ab C G", True),
        ("F7alt", "F A Eb Gb Db", True), ("C+", "C E G# D", True), ("C9sus4", "C Bb D F A", True), ("Bb/C", "Bb D F G A", True),
    ],
)  # fmt: skip
def test_what_a_set_of_notes_is_heard_as(symbol, notes, as_written):
    chord = parse_symbol(symbol)
    above = {(parse_note(name).pc - chord.root.pc) % 12 for name in notes.split()}
    bass = (chord.bass_note.pc - chord.root.pc) % 12
    assert reads_as_written(chord.quality, bass, sum(1 << pc for pc in above)) is as_written
    assert brute.heard(chord.quality, bass, frozenset(above)) is as_written


def solved(chart, keeps=(), **wishes):
    song = parse_chart(chart)
    return solve_song(BUILDER, timeline(song), Setup(**wishes), keeps)


def test_a_keep_of_the_players_own_says_what_it_reads_as():
    song = parse_chart("key: C\n| C/G | F |")
    keep = Keep(song.sections[0].bars[0].slots[0].id, "C/G", (43,), (60, 64, 69))
    found = solved("key: C\n| C/G | F |", (keep,))
    assert [r.words for r in found.voicings[0].remarks if r.kind == "reading"] == ["reads as C6/G"]
    assert not any(r.kind == "reading" for r in found.voicings[1].remarks)


def test_a_bass_that_nobody_wrote_names_another_chord():
    song = parse_chart("key: C\n| C | F |")
    keep = Keep(song.sections[0].bars[0].slots[0].id, "C", (45,), (60, 64, 67))
    found = solved("key: C\n| C | F |", (keep,))
    assert [r.words for r in found.voicings[0].remarks if r.kind == "reading"] == ["reads as Am7"]


@pytest.mark.parametrize("colour", [0, 3])
@pytest.mark.parametrize("bass", ["mine", "theirs"])
@pytest.mark.parametrize(
    "symbol", ["Bbmaj7 over C7", "D over C7", "F#m7 over E", "Ab over C7", "A over G7", "E over C7", "Bb over Cmaj7", "Am over C7"]
)  # fmt: skip
def test_one_chord_over_another_keeps_the_upper_one_whole_in_the_right_hand(symbol, bass, colour):
    for voicing in solved(f"key: C\n| {symbol} | F |", bass=bass, colour=colour).voicings[:1]:
        upper, lower = voicing.chord.stack
        assert {n % 12 for n in voicing.right} >= set(upper.pitch_classes)
        below = {n % 12 for n in voicing.left} - {lower.root.pc}
        rubs = any((a - b) % 12 in (1, 11) for a in below for b in upper.pitch_classes)
        assert not rubs or len(upper.pitch_classes) > 3


@pytest.mark.parametrize("colour", [0, 1, 2, 3])
def test_a_line_inside_a_held_root_has_its_notes_to_itself(colour):
    found = solved("key: A minor\n| Am | Am(maj7) | Am7 | Am6 | F |", colour=colour)
    for voicing, moving in zip(found.voicings, (0, 11, 10, 9), strict=False):
        above = {(n - 9) % 12 for n in (*voicing.left, *voicing.right)}
        assert above & {8, 9, 10, 11} == ({moving} if moving else set())


def test_the_change_to_the_relative_chord_stays_a_change():
    for chart in ("key: C\n| C | Am | F |", "key: G\n| G | Em | C |"):
        first = solved(chart, colour=3).voicings[0]
        assert 9 not in {(n - first.chord.root.pc) % 12 for n in (*first.left, *first.right)}


@pytest.mark.parametrize("colour", [0, 1, 2, 3])
@pytest.mark.parametrize("bass", ["mine", "theirs"])
def test_no_hand_plays_a_minor_ninth_over_the_other_but_a_dominants(bass, colour):
    for root in some(range(12), 4, colour):
        one, two, three, four, five, six, seven = (ROOTS[(root + up) % 12] for up in (0, 2, 4, 5, 7, 9, 11))
        chart = f"key: {one}\n| {two}m7 | {five}7 | {one}maj7 | {six}7 | {two}m7 | {five}7 | {one}maj7 |\n"
        chart += f"\n[B]\n| {one}maj7 | {four}maj7 | {seven}m7b5 {three}7 | {six}m7 | {one}maj7 |"
        for voicing in solved(chart, bass=bass, colour=colour).voicings:
            dominant = voicing.chord.quality.third == "3" and voicing.chord.quality.seventh == "b7"
            for low in voicing.left:
                over = {high for high in voicing.right if (high - low) % 12 == 1}
                assert not over or (dominant and low % 12 == voicing.chord.root.pc), (voicing.left, voicing.right)


@pytest.mark.parametrize("colour", [1, 2, 3])
def test_a_bare_five_of_minor_darkens_and_never_becomes_augmented(colour):
    for voicing in solved("key: A minor\n| Am | E | Am | E | F |", colour=colour).voicings:
        if str(voicing.chord.root) == "E":
            above = {(n - 4) % 12 for n in (*voicing.left, *voicing.right)}
            assert not above & {2, 9}  # no natural ninth, no thirteenth
            assert 8 not in above or (7 not in above and 10 in above)


@pytest.mark.parametrize(("midi", "clash"), [(72, True), (71, False), (60, True)])
def test_the_tune_rubs_by_register(midi, clash):
    """C over a B below it is a half step or a minor ninth; the B over a C is a major seventh."""
    note = {72: "C5", 71: "B4", 60: "C4"}[midi]
    chart = f"key: C\n| Cmaj7 |\ntune: | {note}:4 |"
    song = parse_chart(chart)
    keep = Keep(song.sections[0].bars[0].slots[0].id, "Cmaj7", (36,), (55, 59, 64) if clash else (55, 60, 64, 71))
    kinds = [r.kind for r in solved(chart, (keep,)).voicings[0].remarks]
    assert ("clash" in kinds) is clash


if __name__ == "__main__":  # make sweep: every case whose number leaves a rest of its own, by COUNT parts
    part, parts = int(sys.argv[1]), int(sys.argv[2])
    for number, each in enumerate(ALL[part::parts]):
        check(each)
        if number % 2000 == 0:
            print(number, "of", len(ALL[part::parts]), flush=True)
    print(len(ALL[part::parts]), "cases, each of three chords: all are heard as written")
