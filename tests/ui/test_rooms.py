"""Room beside room: what is shown, struck, written as MIDI, heard and drawn in Playing are the same notes."""

import collections
import io

import mido
import pytest

from tests.core.rhythm.truth import solved
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.io.midi.writing import midi_bytes
from yellow_hinge.sound.score import Span, frame_of, score
from yellow_hinge.ui.playing.scene import bar_scene


def midi_notes(data, part):
    """(onset in ticks, MIDI number, velocity) of a track."""
    file = mido.MidiFile(file=io.BytesIO(data))
    track = next(track for track in file.tracks if track.name.lower().startswith(part))
    found, at = [], 0
    for message in track:
        at += message.time
        if message.type == "note_on" and message.velocity:
            found.append((at, message.note, message.velocity))
    return sorted(found)


@pytest.mark.parametrize("name", [*list(patterns())[::4], "octave-answer", "walking", "suspension"])
def test_midi_sound_and_picture_have_the_same_notes(name):
    song, solution = solved("qualities", "gospel")
    fill = Fill(solution.voicings[1].here.slot_id, "bass-half")
    sounding = performed(solution, song, with_pattern(Playing(fills=(fill,)), 0, "both", name))
    data = midi_bytes(song, sounding)
    heard = score(sounding, Span(0, sounding.length), {"left": 1.0, "right": 1.0})
    drawn = collections.Counter()
    for bar in sounding.bars:
        place = next((n for n, start in enumerate(sounding.starts) if bar.start <= start < bar.end), None)
        scene = bar_scene(sounding, place, 1200, 700) if place is not None else None
        for plate in scene.plates if scene is not None else ():
            drawn[plate.place, plate.midi, plate.hand, plate.added] += 1
    for hand in ("left", "right"):
        struck = [s for s in sounding.struck if s.part == hand]
        assert midi_notes(data, hand) == sorted((s.onset, s.midi, s.velocity) for s in struck)
        notes = sorted((n.start, n.midi) for n in heard.notes if n.part == hand)
        assert notes == sorted((frame_of(sounding.clock, s.onset), s.midi) for s in struck)
    keys = collections.Counter(
        (s.place, s.midi, s.part, s.added) for s in sounding.struck if s.part in ("left", "right")
    )
    assert drawn == keys
    for place, voicing in enumerate(solution.voicings[:-1]):  # and what is practised is what is struck
        own = {
            (s.midi, s.part)
            for s in sounding.struck
            if s.place == place and not s.added and s.part in ("left", "right")
        }
        shown = {(midi, "left") for midi in voicing.left} | {(midi, "right") for midi in voicing.right}
        assert own <= shown
