"""Staves of what is struck: read back by another library, they have the keys and times of what is played."""

import os

import pytest
import verovio
from msgspec.structs import replace
from music21 import chord, converter, harmony, note
from music21.stream import PartStaff

from tests.core.sheet.charts import solved
from tests.io.test_musicxml_out import valid
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.pattern.patterns import TICK, patterns
from yellow_hinge.core.sheet.as_struck import GRACE_TICKS
from yellow_hinge.core.sheet.rhythm_line import rhythms
from yellow_hinge.io.musicxml.importing import HANDS_BACK
from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes
from yellow_hinge.io.opening import read_data
from yellow_hinge.io.songs.demo import demo_file, demo_names, demo_song
from yellow_hinge.io.songs.song_json import song_file

LATE = TICK // 4  # ticks that a short roll may come later than it is written; a long one three times that
BARS = "| Dm7 | G7 C | Am7 | Fmaj7 G7 | C | C |"
METERS = {"": ("4/4", "3/4", "6/8"), "12/8": ("12/8", "4/4")}
SOME = (
    "held",
    "octave-answer",
    "charleston",
    "pushed",
    "walking",
    "triplets",
    "swung-waltz",
    "five-vamp",
    "tremolo",
    "stride",
)


def read(data):
    """[(onset in ticks, MIDI number, hand)]; what is tied on is struck once."""
    found = []
    staves = [
        part for part in converter.parseData(data.decode(), format="musicxml").parts if isinstance(part, PartStaff)
    ]
    for hand, part in zip(("right", "left"), staves, strict=True):
        every = part.flatten().getElementsByClass((note.Note, chord.Chord))
        for each in (e for e in every if not isinstance(e, harmony.ChordSymbol)):
            for own in each.notes if isinstance(each, chord.Chord) else (each,):
                if own.tie is None or own.tie.type == "start":
                    found.append((round(float(each.offset) * TICK), own.pitch.midi, hand))
    return sorted(found)


def compared(song, late=LATE):
    """What stands in the staves and is not struck, and the other way round."""
    state = state_of(song_file(song))
    solution, playing = solved(state, BUILDER), song_file(state.song).playing
    data = musicxml_bytes(state.song, solution, (), Notation(tune=False, struck=True), playing)
    assert valid(data) is True
    written = read(data)
    missing = []
    for struck in (s for s in performed(solution, state.song, playing).struck if s.part in HANDS):
        near = [
            w for w in written if w[1:] == (struck.midi, struck.part) and -GRACE_TICKS <= struck.onset - w[0] <= late
        ]
        if near:
            written.remove(min(near, key=lambda w: abs(w[0] - struck.onset)))
        missing += [] if near else [struck]
    return written, missing


def charts():
    for name in patterns() if "ALL_KEYS" in os.environ else SOME:
        for meter in METERS.get(patterns()[name].meter, (patterns()[name].meter,)):
            yield f"key: C\nswing: straight\nmeter: {meter}\npattern: {name}\n{BARS}"


def plain(song, pattern):
    """A song without its repeats, played in a pattern: what is written is then all that is played."""
    bare = {"opens": False, "repeats": 0, "ending": 0, "signs": ()}
    sections = [
        replace(section, bars=tuple(replace(bar, **bare) for bar in section.bars), swing="")
        for section in song.sections
    ]
    asks = (*((name, value) for name, value in song.asks if name != "pattern"), *pattern)
    return replace(song, sections=tuple(sections), asks=asks, swing="straight")


def demos():
    for name in demo_names() if "ALL_KEYS" in os.environ else ("slack-tide", "harbour-bell", "cork-and-rope-bolder"):
        song = demo_song(name)
        fit = (
            [p.id for p in patterns().values() if p.meter in ("", str(song.meter))] if "ALL_KEYS" in os.environ else []
        )
        yield from ((name, pattern) for pattern in ("", *fit))


@pytest.mark.parametrize(("name", "pattern"), list(demos()))
def test_staves_of_the_demo_songs_have_what_is_struck_by_the_same_hand(name, pattern):
    song = plain(demo_song(name), (("pattern", pattern),) if pattern else ())
    assert compared(song, 3 * LATE) == ([], [])


@pytest.mark.parametrize("chart", list(charts()))
def test_staves_have_what_is_struck(chart):
    assert compared(parse_chart(chart), LATE * (1 + 2 * ("rolled" in chart))) == ([], [])


def test_a_tune_on_top_is_in_the_staves_and_thirds_have_their_three():
    song = parse_chart(
        "key: C\nmanner: hymn\nswing: swung\n| C | F G7 | C |\ntune: | E5:2 G5:2 | A5:2 G5:1 F5:1 | E5:4 |"
    )
    assert compared(song)[1] == []
    state = state_of(song_file(parse_chart("key: C\npattern: triplets\n| C | G7 | C |")))
    data = musicxml_bytes(state.song, solved(state, BUILDER), (), Notation(struck=True))
    assert data.count(b'<tuplet type="start"') == data.count(b'<tuplet type="stop"') > 0


def test_a_section_that_is_called_coda_has_its_sign():
    song = parse_chart("key: C\n[A]\n| C | F (to coda) | G |\nD.C. al coda\n[Coda]\n| C |")
    data = musicxml_bytes(song, solved(state_of(song_file(song)), BUILDER))
    assert valid(data) is True
    assert b'tocoda="coda"' in data
    assert b'<sound coda="coda"' in data


@pytest.mark.parametrize(
    "chart", ["manner: gospel\nkey: C\n", "pattern: ballad\nkey: Db\n", "pattern: bass-chord\nkey: A\n"]
)
def test_the_cheat_sheet_has_the_rhythm_that_is_struck(chart):
    """Every bar's picture, from above the staves' own onsets, is that of the performance."""
    song = parse_chart(f"{chart}swing: straight\n[A]\n{BARS}\n[B]\n| F | G7 C |\n")
    state = state_of(song_file(song))
    solution, playing = solved(state, BUILDER), song_file(state.song).playing
    performance = performed(solution, state.song, playing)
    found = rhythms(state.song, solution, playing)
    assert len(found) == len(performance.bars)
    for bar, rhythm in zip(performance.bars, found.values(), strict=True):
        own = {
            (s.part, s.onset - bar.start)
            for s in performance.struck
            if s.part in HANDS and bar.start <= s.onset + 12 < bar.end and s.length > GRACE_TICKS
        }
        drawn = {(beat.hand, round(beat.at * TICK)) for beat in rhythm.strokes}
        same = {(a, b) for a in own for b in drawn if a[0] == b[0] and -12 <= a[1] - b[1] <= LATE}
        assert {a for a, _ in same} == own
        assert {b for _, b in same} == drawn


def test_a_score_opens_in_the_engraver_without_a_warning(capfd):
    verovio.enableLog(verovio.LOG_WARNING)
    file = demo_file("slack-tide")[0]  # whose repeats break the pedal's line off
    state = state_of(file)
    made = verovio.toolkit()
    made.loadData(musicxml_bytes(state.song, solved(state), (), Notation(struck=True), file.playing).decode())
    made.renderToSVG(1)
    assert "arning" not in capfd.readouterr().err


def test_the_hands_as_held_come_back_with_our_own_score_pass_by_pass():
    file = demo_file("slack-tide")[0]
    state = state_of(file)
    solution = solved(state)
    data = musicxml_bytes(state.song, solution, (), Notation(struck=True), file.playing)
    opened = read_data(data, "x.musicxml")
    assert HANDS_BACK in opened.report
    again = solved(state_of(opened.file))
    assert [v.both for v in again.voicings] == [v.both for v in solution.voicings]
    other = data.replace(b'text="m11"', b'text="7"', 1)
    assert any("other chords stand there" in words for words in read_data(other, "x.musicxml").report)
