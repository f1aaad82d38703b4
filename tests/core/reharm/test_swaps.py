"""Known swaps in all keys, the melody as judge, and what every swap of every kind must keep."""

from fractions import Fraction
from itertools import pairwise

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import ALL, examples, some
from tests.core.leading.test_solution import CHORDS, TWELVE
from tests.songs import BUILDER
from tests.tables import rows
from yellow_hinge.core.chart.edit import with_chords
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import NoVoicingError, UserError
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, Wish
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import parse_note
from yellow_hinge.core.reharm.context import parts
from yellow_hinge.core.reharm.cures import cures
from yellow_hinge.core.reharm.ideas import ideas, sound
from yellow_hinge.core.reharm.melody import becomes, judge, verdict
from yellow_hinge.core.reharm.ranking import best
from yellow_hinge.core.reharm.splitting import split
from yellow_hinge.core.reharm.swaps import scene_at, swaps, tried
from yellow_hinge.core.reharm.table import SUBSTITUTES
from yellow_hinge.core.reharm.tastes import likes_of
from yellow_hinge.core.reharm.words import bass_words, swap_words
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_number, write_symbol

TABLE = tuple(SUBSTITUTES.values())


def solved(chart, **wishes):
    song = parse_chart(chart)
    return song, solve_song(BUILDER, timeline(song), Setup(**wishes))


def numbers(chart, index):
    """{kind: [chords by number]} of every idea for a chord."""
    song, solution = solved(chart)
    scene, found = scene_at(solution, index), {}
    for kind, idea, _ in ideas(scene):
        found.setdefault(kind.id, []).append(" ".join(write_number(chord, song.the_key) for chord in idea.chords))
    return found


def sounds(chords):
    """Chords apart from their spelling: a flat second may be read as a raised first."""
    return [(chord.root.pc, chord.quality, chord.bass_note.pc) for chord in chords]


# --- the table ---

KNOWN = [
    (kind, chart.replace("; ", "\n"), int(index), wanted.split("; "))
    for kind, chart, index, wanted in rows(__file__, "swaps.tsv")
]


# Every row in three of the keys, another three for the next; in all of them by `make sweep`.
IN_KEYS = [(*row, tonic) for n, row in enumerate(KNOWN) for tonic in (TWELVE if ALL else TWELVE[n % 4 :: 4])]


@pytest.mark.parametrize(("kind", "chart", "index", "wanted", "tonic"), IN_KEYS)
def test_the_table_in_every_key(kind, chart, index, wanted, tonic):
    mode = " minor" if chart.startswith("key: C minor") else ""
    song, solution = solved(f"key: {tonic}{mode}\n{chart.removeprefix('key: C minor')}")
    found = [sounds(idea.chords) for row, idea, _ in ideas(scene_at(solution, index)) if row.id == kind]
    key = Key(song.the_key.tonic, "major")
    for one in wanted:
        read = tuple(parse_symbol(word.replace("M", "maj", 1) if "M" in word else word, key) for word in one.split())
        assert sounds(read) in found, [
            " ".join(write_number(c, key) for c in i.chords)
            for r, i, _ in ideas(scene_at(solution, index))
            if r.id == kind
        ]


def test_every_row_of_the_table_is_proven_here():
    assert {kind.id for kind in TABLE} <= {row[0] for row in KNOWN}


def test_a_manner_likes_every_kind_once_wherever_that_is_said():
    hymn = manners()["hymn"]
    without = msgspec.structs.replace(hymn.likes, never=hymn.likes.never.replace("tritone", ""))
    shorter = msgspec.structs.replace(hymn, likes=without)
    there = tuple(kind._replace(likes=(("hymn", "low"),)) if kind.id == "tritone" else kind for kind in TABLE)
    assert likes_of([shorter], there)["hymn"]["tritone"] == 0.3
    polka = msgspec.structs.replace(hymn.likes, low=hymn.likes.low + " polka")
    for manner, kinds, name in (
        (shorter, TABLE, "tritone"), (hymn, there, "tritone"), (msgspec.structs.replace(hymn, likes=polka), TABLE, "polka"),
    ):  # fmt: skip
        with pytest.raises(ValueError, match=name):
            likes_of([manner], kinds)


@pytest.mark.parametrize(
    ("symbol", "note", "wanted"),
    [
        ("Am7/D", "F", ("b3", "colour")), ("F/G", "E", ("13", "colour")), ("C/D", "B", ("13", "colour")),
        ("C7b9", "D", ("9", "clash")), ("C13", "Ab", ("b13", "clash")), ("C7b13", "A", ("13", "clash")),
        ("C7b9", "D#", ("#9", "colour")), ("C7", "F#", ("#11", "colour")), ("C9", "Db", ("b9", "clash")),
        ("C7#5", "G", ("5", "clash")), ("Am7/G", "F", ("b13", "clash")),
    ],
)  # fmt: skip
def test_verdicts_are_over_the_bass_that_sounds_and_no_tension_stands_beside_its_alteration(symbol, note, wanted):
    chord, pc = parse_symbol(symbol), parse_note(note).pc
    assert (becomes(pc, chord), verdict(pc, chord, parse_key("C"), None, False)) == wanted


# --- what is offered ---

SONGS = [
    "key: C\n| C | Am7 | Dm7 | G7 | C |\ntune: | E4:4 | C5:2 G4:2 | F4:4 | D5:2 B4:2 | C5:4 |",
    "key: A minor\n| Am | F | Bm7b5 | E7 | Am |\ntune: | E4:4 | C5:4 | D5:4 | G#4:4 | A4:4 |",
    "key: Eb\nmeter: 3/4\n| Eb | Cm7 | Ab | Bb7/D Eb |\ntune: | G4:3 | Eb5:2 D5:1 | C5:3 | Bb4:2 G4:1 |",
    "key: F\n| F | F | Bb/D | C7sus4 C7 | F |\ntune: | A4:4 | C5:4 | Bb4:4 | G4:2 E4:2 | F4:4 |",
]


@pytest.mark.parametrize("chart", some(SONGS, 2, 1))
def test_no_swap_that_fits_is_a_clash_in_the_hands_and_none_sound_the_same(chart):
    _, solution = solved(chart)
    for index in range(len(solution.voicings)):
        found = swaps(BUILDER, solution, index)
        heard = [(swap.span, sound(swap.chords)) for swap in found]
        assert len(set(heard)) == len(heard)
        now = (1, sound((solution.voicings[index].chord,)))
        assert now not in heard
        for swap in found:
            marks = [r for voicing in swap.own for r in voicing.remarks if r.kind == "clash"]
            assert not (swap.fits and marks)
            assert [v.chord for v in swap.own] == [c for slot in swap.slots.chords for c in slot]


@pytest.mark.parametrize("chart", some(SONGS, 2))
def test_every_claim_of_a_reason_is_so(chart):
    _, solution = solved(chart)
    for index in range(len(solution.voicings)):
        for swap in swaps(BUILDER, solution, index):
            bass, told = [note.pc for note in swap.bass], bass_words(swap.bass, swap.bass_moves)
            if "stays below" in swap.reason:
                assert any(a == b for a, b in pairwise(bass)), swap.reason
            if "same third and seventh" in swap.reason:
                old, new = solution.voicings[index].chord, swap.chords[-1]
                assert {(old.root.pc + 4) % 12, (old.root.pc + 10) % 12} <= set(new.pitch_classes)
            if "by half steps" in told:
                assert all(abs(move) <= 1 for move in swap.bass_moves)
            if "by step" in swap.reason and swap.kind.id in ("bass-line", "inversion"):
                assert any(1 <= abs(move) <= 2 for move in swap.bass_moves)
            if "one note stays" in swap.reason:
                assert set(solution.voicings[index].chord.pitch_classes) & set(swap.chords[0].pitch_classes)
            if "rises a half step" in swap.reason or "into it by a half step" in swap.reason:
                assert swap.bass_moves[-1] == 1, swap.reason


def test_the_best_five_are_of_five_kinds_fit_and_have_a_route():
    _, solution = solved("key: C\n| Am | Am | F | G7 | C |", manner="jazz-alone")
    found = swaps(BUILDER, solution, 0)
    first = best(found)
    assert len({swap.kind.id for swap in first}) == 5
    assert all(swap.fits for swap in first)
    assert any(swap.kind.group == "routes" for swap in first)
    assert ["Am", "D7", "Gm7", "C7"] in [[write_symbol(c) for c in swap.chords] for swap in found]


@pytest.mark.parametrize(
    ("kind", "chart", "index"),
    [("tritone", "| 57 | 4 |", 0), ("backdoor", "| 57 | 6m |", 0), ("leading-tone", "| 27 | 57 |", 0),
     ("dark-slash", "| 1 | 4 |", 0), ("deceptive", "| 4 | 1 |", 1), ("dominant", "| 4 | 1 |", 0), ("borrowed", "| 1 | 4 |", 0),
     ("dominant", "| 1 | 6m | 4 |", 1), ("pedal", "| 4 | 2m | 4 |", 1), ("approach", "| 1 | 1 |", 0), ("six-four", "| 57 | 6m |", 0),
     ("turnaround", "| 1 | 4 |", 0), ("picardy", "| 57 | 1 |", 1), ("mediant", "| 1 | 57 |", 1), ("relative", "| 57 | 1 |", 1)],
)  # fmt: skip
def test_a_kind_stays_away_where_it_does_not_fit(kind, chart, index):
    assert kind not in numbers(f"key: F\n{chart}", index)


def test_the_tritone_keeps_third_seventh_and_right_hand():
    _song, solution = solved("key: C\n| Dm7 | G7 | Cmaj7 |", families=("rootless-right",), colour=3)
    found = next(s for s in swaps(BUILDER, solution, 1) if s.kind.id == "tritone" and len(s.chords) == 1)
    old, new = parse_symbol("G7"), found.chords[0]
    keep = {(old.root.pc + 4) % 12, (old.root.pc + 10) % 12}
    assert keep <= set(new.pitch_classes)
    after = found.played
    assert keep <= {n % 12 for n in after.voicings[1].right}


def test_swaps_are_spelled_for_their_key():
    _, solution = solved("key: Gb\n| Gb | Ebm7 | Db7 | Gb |")
    names = {
        write_symbol(chord)
        for index in range(4)
        for _, idea, _ in ideas(scene_at(solution, index))
        for chord in idea.chords
    }
    assert {"Cb/Gb", "Abm7", "Cb/Db"} & names
    assert not any(name.startswith("B") and not name.startswith("Bb") for name in names)
    assert not any("bb" in name.split("b5")[0] for name in names)


# --- routes ---


# --- time ---


@pytest.mark.parametrize(
    ("chart", "count", "wanted"),
    [("| C |", 2, (2, 2)), ("| C |", 3, (2, 1, 1)), ("| C |", 4, (1, 1, 1, 1)), ("meter: 3/4\n| C |", 2, (1, 2)),
     ("| C F |", 2, (1, 1)), ("| C F G Am |", 2, None), ("meter: 6/8\n| C |", 2, (1, 1)), ("meter: 6/8\n| C |", 3, None)],
)  # fmt: skip
def test_time_is_split_on_strong_beats(chart, count, wanted):
    _, solution = solved(f"key: C\n{chart}")
    found = parts(scene_at(solution, 0), count)
    assert found == (None if wanted is None else tuple(Fraction(n) for n in wanted))


# --- melody ---


def over(symbol, tune, chart="57"):
    moment = timeline(parse_chart(f"key: C\n| {chart} | 1 |\ntune: | {tune} | C4:4 |"))[0]
    chord = parse_symbol(symbol)
    return judge((chord,), (moment.beats,), moment, parse_symbol("C"))


def test_a_melody_note_is_told_what_it_becomes():
    assert [(n.becomes, n.verdict) for n in over("Db7", "G4:4")] == [("#11", "colour")]
    assert [(n.becomes, n.verdict) for n in over("G7", "D5:4")] == [("5", "chord note")]
    assert [(n.becomes, n.verdict) for n in over("G7", "C5:4")] == [("11", "clash")]
    assert [(n.becomes, n.verdict) for n in over("Cmaj7", "F4:4")] == [("11", "clash")]


def test_long_and_strong_notes_weigh_more_and_short_weak_steps_pass():
    found = over("G7", "D5:3 C5:1/2 B4:1/2")
    assert [n.verdict for n in found] == ["chord note", "passing", "chord note"]
    assert [n.weight for n in found] == [6, Fraction(1, 2), Fraction(1, 2)]


def test_the_leading_tone_dominant_stands_where_the_plain_one_clashes():
    """Over the fifth of the seventh step the plain five clashes; its stand-in sounds it as its own fifth."""
    assert over("G7", "F#4:4")[0].fits is False
    assert over("B7b9", "F#4:4")[0].verdict == "chord note"


@pytest.mark.parametrize(
    ("symbol", "note", "cured"), [
        ("G7", 0, "G7sus4"), ("G9", 8, "G7b9"), ("G7", 3, "G7b13"), ("C", 5, "Csus4"), ("Cmaj7", 0, "C6"),
        ("Cm(maj7)", 5, "Cm(maj7)11"), ("Bm7b5", 4, "Bm7b5(11)"), ("C/E", 5, None), ("Cmaj7", 5, None), ("C7b9", 2, "C9"),
    ],
)  # fmt: skip
def test_a_clash_has_its_smallest_cure(symbol, note, cured):
    assert next(cures(parse_symbol(symbol), note), None) == (parse_symbol(cured) if cured else None)


def test_a_swap_says_what_it_needs_the_melody_to_be_and_that_nothing_was_tested():
    _, solution = solved("key: C\n| Dm7 | G7 | C |\ntune: | D5:4 | G4:4 | C5:4 |")
    sub = next(s for s in swaps(BUILDER, solution, 1) if s.kind.id == "tritone" and len(s.chords) == 1)
    assert "needs G as the sharp eleven of Db7" in swap_words(sub)
    _, solution = solved("key: C\n| Dm7 | G7 | C |\ntune: | D5:4 | C5:4 | C5:4 |")
    sub = next(s for s in swaps(BUILDER, solution, 1) if s.kind.id == "suspend" and "C is 11 of G7" in swap_words(s))
    assert "C is 11 of G7" in swap_words(sub)
    _, solution = solved("key: C\n| Dm7 | G7 | C |")
    assert all("nothing was tested" in swap_words(swap) for swap in swaps(BUILDER, solution, 1))


def test_a_cure_is_a_swap_of_its_own():
    _, solution = solved("key: C\n| Dm7 | G7 | C |\ntune: | D5:4 | C5:4 | C5:4 |")
    found = swaps(BUILDER, solution, 1)
    clashing = [swap for swap in found if swap.cure is not None and len(swap.chords) == 1]
    assert clashing
    for swap in clashing:
        mended = next(other for other in found if other.chords == swap.cure)
        assert mended.fits
        assert found.index(mended) < found.index(swap)


@pytest.mark.parametrize("tonic", some(TWELVE, 4))
def test_a_pedal_goes_through_several_chords_as_one_swap(tonic):
    song, solution = solved(f"key: {tonic}\n| 1 | 4 | 2m7 | 57 | 1 |")
    found = {tuple(write_number(chord, song.the_key) for chord in s.chords): s
             for s in swaps(BUILDER, solution, 1) if s.kind.id == "pedal-through"}  # fmt: skip
    assert set(found) == {("4/5", "2m7/5"), ("4/1", "2m7/1", "57/1")}
    swap = found["4/5", "2m7/5"]
    assert swap.span == 2
    assert swap.motion_before == sum(hinge.motion for hinge in solution.hinges[:3])
    assert [v.both for v in swap.played.voicings][::3] == [solution.voicings[0].both, solution.voicings[3].both]
    assert "stays below 2 chords as the five" in swap.reason


def test_a_pedal_stays_in_its_section_and_hears_the_melody():
    _, solution = solved("key: C\n[A]\n| C | F | Dm7 |\n[B]\n| F | G7 |\ntune: | A4:4 | B4:4 |")
    assert {s.span for s in swaps(BUILDER, solution, 1) if s.kind.id == "pedal-through"} == {2}
    through = [s for s in swaps(BUILDER, solution, 3) if s.kind.id == "pedal-through"]
    assert [(s.span, [n.chord for n in s.melody]) for s in through] == [(2, [0, 1])]


# --- what every swap keeps ---


@settings(max_examples=examples(25), deadline=None)
@given(st.lists(CHORDS, min_size=2, max_size=4), st.sampled_from(TWELVE), st.sampled_from(["4/4", "3/4", "6/8",
    "12/8"]), st.data())  # fmt: skip
def test_every_swap_fills_its_beats_parses_and_goes_back(chords, tonic, meter, data):
    chart = f"key: {tonic}\nmeter: {meter}\n| " + " | ".join(chords) + " |"
    song = parse_chart(chart)
    try:
        solution = solve_song(BUILDER, timeline(song), Setup())
    except NoVoicingError:
        return
    index = data.draw(st.integers(0, len(chords) - 1))
    at = (0, index, 0)
    for _, idea, beats in ideas(scene_at(solution, index)):
        if idea.span > 1:
            assert sum(beats) == sum(b.slots[0].beats for b in song.sections[0].bars[index : index + idea.span])
            continue
        assert sum(beats) == song.sections[0].bars[index].slots[0].beats
        changed = with_chords(song, at, idea.chords, beats)
        assert same_writing(parse_chart(write_chart(changed)), changed)  # it can be written and read
        assert sum(m.beats for m in timeline(changed)) == sum(m.beats for m in timeline(song))
        assert all(
            abs(chord.root.alter) < 2 for chord in idea.chords if chord.root != solution.voicings[index].chord.root
        )
        slots = changed.sections[0].bars[index].slots
        assert "".join(slot.cue for slot in slots) == "".join(s.cue for s in song.sections[0].bars[index].slots)
        assert idea.reason
        assert idea.reason[-1] != "."


def test_every_swap_offered_is_solved_with_its_neighbours_as_they_are():
    song, solution = solved("key: C\n| Cmaj7 | Am7 | Dm7 | G7 | C |")
    found = swaps(BUILDER, solution, 2)
    assert len(found) > 25
    found = [swap for swap in found if swap.span == 1]
    for swap in found[:12]:
        changed = with_chords(song, (0, 2, 0), swap.chords, swap.beats)
        played = tried(BUILDER, timeline(changed)[2:-2], solution, 2)
        assert [v.both for v in played.voicings] == [v.both for v in swap.played.voicings]
        assert played.voicings[0].both == solution.voicings[1].both
        assert played.voicings[-1].both == solution.voicings[3].both
        assert played.totals.motion == swap.motion_after
    assert {swap.motion_before for swap in found} == {solution.hinges[1].motion + solution.hinges[2].motion}


def test_chords_that_do_not_fill_the_time_are_refused():
    song, _ = solved("key: C\n| C |")
    with pytest.raises(UserError, match="3 beats"):
        with_chords(song, (0, 0, 0), (parse_symbol("F"),), (Fraction(3),))


def test_a_swap_is_played_with_the_wishes_of_its_section():
    song = parse_chart("key: C\n| Cmaj7 | Am7 | Dm7 | G7 |")
    solution = solve_song(BUILDER, timeline(song), Setup(wishes=(Wish(1, families=("drop2",), colour=1),)))
    for swap in swaps(BUILDER, solution, 2)[:5]:
        assert all(place.asked.families == ("drop2",) for place in swap.played.lattice.places)


@pytest.mark.parametrize(
    ("symbol", "note", "wanted"),
    [
        ("Caug", "A", "clash"), ("Cmaj7#5", "A", "clash"), ("C", "A", "colour"), ("C7#5", "A", "clash"),  # a rub over the fifth
        ("C", "F", "clash"), ("Cmaj7", "F", "clash"), ("C7", "F", "clash"), ("Cm7", "F", "colour"), ("Cm", "F", "colour"),
        ("Cmaj7#11", "F#", "chord note"), ("Cm7b5", "F", "colour"), ("C7sus4", "F", "chord note"),
    ],
)  # fmt: skip
def test_rubs_and_the_natural_eleven_are_judged_by_the_chord(symbol, note, wanted):
    key = parse_key("C")
    assert verdict(parse_note(note).pc, parse_symbol(symbol, key), key, None, False) == wanted


def test_chords_in_the_time_of_one_have_their_own_part_of_the_tune():
    moment = timeline(parse_chart("key: C\n| C |\ntune: | C5:1 E5:2 G5:1 |"))[0]
    chords = tuple(parse_symbol(symbol) for symbol in ("Em7", "A7"))
    one, other = split(moment, chords, (Fraction(2), Fraction(2)))
    told = [[(str(t.pitch), t.onset, t.beats, t.begins) for t in each.tune] for each in (one, other)]
    assert told == [[("C5", 0, 1, True), ("E5", 1, 1, True)], [("E5", 0, 1, False), ("G5", 1, 1, True)]]
    assert [(each.beat, each.start, each.beats) for each in (one, other)] == [(1, 0, 2), (3, 2, 2)]
