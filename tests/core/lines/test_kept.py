"""A line that is kept chord by chord: the same in every room, key and file, and after every edit."""

import io
from fractions import Fraction
from xml.etree import ElementTree

import mido
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.songs import BUILDER
from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.practice.passes import Stretch, wanted_in
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.grid import STEPS
from yellow_hinge.core.lines.landed import NEAR, Goal, landed
from yellow_hinge.core.lines.lines import Line, lines
from yellow_hinge.core.lines.onsets import Asked
from yellow_hinge.core.lines.rails import RAILS
from yellow_hinge.core.lines.text import laid, pieces
from yellow_hinge.core.performing import performed
from yellow_hinge.core.pitch.key import key_on
from yellow_hinge.core.rhythm.asked import LinePiece, Playing
from yellow_hinge.core.rhythm.asks import with_lines
from yellow_hinge.core.rhythm.fills.degree_line import line_tones
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.midi.writing import midi_bytes
from yellow_hinge.io.musicxml.writing import musicxml_bytes
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

CHART = (
    "key: C\n[A]\n| Dm7 | G7 | Cmaj7 | N.C. |\n| Dm7 G7 | Em7 A7 | Dm7 / G7 / | % |\n[B]\nmeter: 3/4\n|: Fm7 | Bb7 :|\n"
)
SONGS = (
    CHART,
    "key: F minor\nmeter: 6/8\n| Fm7 | Bbm7 Eb7 | Abmaj7 | C7b9 |",
    "key: Eb\n| Ebmaj7 | Ab13 | Gm7b5 C7alt |",
)


def over(text, asked=None):
    """(song, solution, line, what is kept of it) over all chords of a chart."""
    song = song_file(parse_chart(text)).song
    solution = solve_song(BUILDER, timeline(song), Setup())
    moments = [voicing.here for voicing in solution.voicings]
    tops = [voicing.left[-1] if voicing.left else 0 for voicing in solution.voicings]
    found = lines(moments, tops, asked or Asked())[0]
    return song, solution, found, pieces(found, moments)


@settings(max_examples=examples(40), deadline=None)
@given(st.sampled_from(SONGS), st.sampled_from(RAILS), st.sampled_from(tuple(STEPS)), st.integers(0, 2))
def test_what_is_kept_is_the_line_in_its_first_pass_and_the_same_in_the_others(text, rail, density, bold):
    song, solution, line, kept = over(text, Asked(rail, density, bold))
    tones = line_tones(solution.moments, kept)
    first = {}
    for moment in solution.moments:
        first.setdefault(moment.slot_id, moment)
    own = {(m.quarter, m.quarter + m.quarters) for m in first.values() if m.chord is not None}
    ends = {tone.onset: tone.onset + tone.quarters for tone in tones}
    for note in line.notes:
        if any(start <= note.onset < end for start, end in own):
            assert note.onset in ends, (note, text)
            assert next(t.midi for t in tones if t.onset == note.onset) == note.midi
            assert ends[note.onset] <= note.onset + note.quarters  # no longer: bars without a chord cut it
    heard = [(s.onset, s.midi) for s in performed(solution, song, Playing(lines=kept)).struck if s.part == "line"]
    assert [midi for _, midi in heard] == [tone.midi for tone in tones]


def test_struck_midi_score_and_practice_have_one_line():
    song, solution, _, kept = over(CHART)
    playing = with_lines(Playing(), kept)
    tones = line_tones(solution.moments, kept)
    struck = performed(solution, song, playing)
    own = [(ticks(tone.onset), tone.midi) for tone in tones]
    assert [(s.onset, s.midi) for s in struck.struck if s.part == "line"] == own
    file = mido.MidiFile(file=io.BytesIO(midi_bytes(song, struck)))
    track = next(t for t in file.tracks if t.name == "line")
    at, played = 0, []
    for message in track:
        at += message.time
        if message.type == "note_on" and message.velocity:
            played.append((at, message.note))
    assert played == own
    root = ElementTree.fromstring(musicxml_bytes(song, solution, playing=playing))
    part = root.find("part[@id='Line']")
    notes = [n for n in part.iter("note") if n.find("pitch") is not None]
    notes = [n for n in notes if not [tie for tie in n.findall("tie") if tie.get("type") == "stop"]]
    steps = dict(zip("CDEFGAB", (0, 2, 4, 5, 7, 9, 11), strict=True))
    read = [
        12 * (int(n.findtext("pitch/octave")) + 1)
        + steps[n.findtext("pitch/step")]
        + int(n.findtext("pitch/alter") or 0)
        for n in notes
    ]
    once = [tone.midi for tone in tones if solution.moments[tone.at].turn == 0]
    assert read == once
    wanted, _ = wanted_in(struck, Stretch(0, struck.ends[3], "both", True), 100)
    assert [w.midi for w in wanted if w.hand == "right"] == [midi for at, midi in own if at < struck.ends[3]]


def test_a_kept_line_goes_round_the_keys_and_through_a_file_and_follows_edits():
    song, solution, _, kept = over(CHART)
    state = state_of(song_file(song, playing=Playing(lines=kept)))
    here = [tone.midi for tone in line_tones(solution.moments, kept)]
    for pc in range(12):
        there = in_key(state, key_on(pc, "major"))
        assert there.playing.lines == kept
        sung = [tone.midi for tone in line_tones(timeline(there.song), there.playing.lines)]
        assert {(b - a) % 12 for a, b in zip(here, sung, strict=True)} == {pc}
        assert max(abs(b - a) for a, b in zip(here, sung, strict=True)) <= 12
    again = from_json(to_json(song_file(song, playing=Playing(lines=kept))), "a.hinge")
    assert again.playing.lines == kept


@pytest.mark.parametrize("text", SONGS)
def test_a_line_over_a_part_leaves_every_other_note_where_it_sounds(text):
    _, solution, _, kept = over(text)
    moments, chords = solution.moments, [voicing.here for voicing in solution.voicings]
    asked = Asked("7-3", "quarters")
    for first, last in ((1, 1), (0, 1), (2, 3), (1, max(1, len(chords) - 3))):
        part = chords[first : last + 1]
        slots = {moment.slot_id for moment in part}
        others = [(t.onset, t.midi) for t in line_tones(moments, kept) if moments[t.at].slot_id not in slots]
        for own in (lines(part, [55] * len(part), asked)[1], Line((), 0.0)):
            tones = line_tones(moments, laid(kept, own, part, moments))
            there = [(t.onset, t.midi) for t in tones if moments[t.at].slot_id not in slots]
            assert there == others, (first, last)
            mine = [(t.onset, t.midi) for t in tones if moments[t.at] in part]
            assert mine == [(note.onset, note.midi) for note in own.notes]


def test_a_note_that_is_gone_is_held_no_more():
    moments = timeline(song_file(parse_chart("key: C\n| Dm7 / / G7 |")).song)
    kept = (LinePiece(moments[0].slot_id, "b3 . .", Fraction(1)), LinePiece(moments[1].slot_id, ". 3", Fraction(1, 2)))
    tones = line_tones(moments, laid(kept, Line((), 0.0), moments[:1], moments))
    assert [(t.midi % 12, t.onset) for t in tones] == [(11, Fraction(7, 2))]


def test_a_shorter_chord_cuts_its_line_and_what_cannot_be_read_is_silent():
    song = parse_chart("key: C\n| Dm7 / / G7 |")
    moments = timeline(song_file(song).song)
    slots = [moment.slot_id for moment in moments]
    tones = line_tones(
        moments,
        (LinePiece(slots[0], "b3 . 5 b7 1 b3 5 b7", Fraction(1, 2)), LinePiece(slots[1], ". 3", Fraction(1, 2))),
    )
    assert [(tone.midi % 12, tone.onset) for tone in tones] == [
        (5, 0),
        (9, 1),
        (0, Fraction(3, 2)),
        (2, 2),
        (5, Fraction(5, 2)),
        (11, Fraction(7, 2)),
    ]
    assert tones[4].quarters == 1  # held into the next chord
    assert line_tones(moments, (LinePiece(slots[0], "x y", Fraction(1)),)) == ()
    with pytest.raises(UserError):
        LinePiece(1, "3", Fraction(0))


def test_a_press_lands_one_goal_that_is_near_and_has_its_note():
    goals = [Goal(0.0, frozenset({4})), Goal(1.0, frozenset({4, 5})), Goal(2.0, frozenset({0}))]
    assert landed(goals, [(0.1, 64), (1.0 + NEAR / 2, 65), (2.0 + 2 * NEAR, 60)]) == (True, True, False)
    assert landed(goals, [(0.05, 63), (0.95, 76)]) == (False, True, False)
    assert landed([Goal(0.0, frozenset({4})), Goal(0.2, frozenset({4}))], [(0.1, 64)]).count(True) == 1
