"""Performances of charts in patterns, with the faults of hands: late, early, louder, softer, drifting."""

import io
import math
from typing import NamedTuple

import mido

from tests.songs import BUILDER
from yellow_hinge.app.practice.performer import by_hand
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing, PlayWish
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.song_json import song_file

BREATH = 0.7  # seconds before the first note
# Charts that no price was searched on.
CHARTS = {
    "dominants": "key: F\n[A]\n| F | Dm7 | Gm7 | C7 | F | F7 | Bb | Bbm6 | F/C | C7 | F | % |",
    "hymn": "key: G\ntempo: 80\n[A]\n| G C | G/D D | G | C G | Am D7 | G | Em C | D7 G |",
    "pop": "key: A\ntempo: 96\n[A]\n| A | E | F#m | D | A | E/G# | F#m7 | Dmaj7 | Bm7 | E7sus4 E7 | A | A |",
    "twos": "key: Bb\ntempo: 120\n[A]\n| Cm7 F7 | Bbmaj7 | Em7b5 A7 | Dm7 | Gm7 C7 | Fmaj7 | Bbmaj7 | % |",
    "waltz": "key: D\ntempo: 108\nmeter: 3/4\n[A]\n| D | A7 | D | G | Em7 | A7 | D | D |",
}


class Performed(NamedTuple):
    """The notes (seconds) with the hand that played each, and the song that was played."""

    tones: list
    left: list
    song: object
    second: object  # turns a quarter of the song into seconds


def chart(name):
    return demo_song(name) if name in demo_names() else parse_chart(CHARTS[name])


def perform(name, pattern, seed=1, late=0.015, drift=0.02):
    """Both hands of a chart in a pattern, as the simulated player plays them, after a breath."""
    song = chart(name)
    solution = solve_song(BUILDER, timeline(song), song_file(song).setup)
    played = performed(solution, song, Playing(wishes=(PlayWish(WHOLE_SONG, pattern=pattern),)))
    quarter = 60 / song.tempo / float(song.meter.beat_quarters)
    rows = by_hand(played, quarter, f"{name} {pattern} {seed}", late, drift)
    tones = [tone._replace(on=tone.on + BREATH, off=tone.off + BREATH) for tone, _ in rows]

    def second(quarters):
        return BREATH + quarter * (quarters + drift * 8 * (1 - math.cos(quarters / 8)))

    return Performed(tones, [left for _, left in rows], song, second)


def as_midi(tones):
    """A recording: tempo 120, and nothing on its grid."""
    events = sorted([(t.on, 1, t.midi, t.velocity) for t in tones] + [(t.off, 0, t.midi, 0) for t in tones])
    track, at = mido.MidiTrack(), 0
    for seconds, _, midi, velocity in events:
        tick = round(seconds * 960)
        track.append(mido.Message("note_on", note=midi, velocity=velocity, time=tick - at))
        at = tick
    stream = io.BytesIO()
    file = mido.MidiFile(ticks_per_beat=480)
    file.tracks.append(track)
    file.save(file=stream)
    return stream.getvalue()
