"""Piano notes and mixing."""

import numpy as np
import pytest

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.timeline import timeline
from yellow_hinge.sound.mixing import RELEASE, Sounding, mix, pcm16, score
from yellow_hinge.sound.piano import RATE, RECORDED, Piano


@pytest.fixture(scope="module")
def piano():
    return Piano()


def pitch_hz(samples):
    """The strongest frequency of a note's first second."""
    mono = samples[:RATE, 0] * np.hanning(min(RATE, len(samples)))
    spectrum = np.abs(np.fft.rfft(mono, 4 * RATE))
    low, high = 4 * 60, 4 * 1200
    return (low + int(spectrum[low:high].argmax())) / 4


@pytest.mark.parametrize("midi", [57, 60, 61, 62, 69])
def test_every_key_sounds_at_its_pitch(piano, midi):
    found = pitch_hz(piano.note(midi))
    wanted = 440 * 2 ** ((midi - 69) / 12)
    ratio = found / wanted
    assert min(abs(ratio / k - 1) for k in (1, 2, 3)) < 0.01


def test_all_recordings_ship(piano):
    assert len(RECORDED) == 30
    assert all(len(piano.note(midi)) > RATE for midi in (RECORDED[0], 48, 72))


def test_a_mix_lasts_as_long_as_its_notes_and_never_clips(piano):
    notes = [Sounding(0.5 * k, 0.5, midi, "right") for k in range(4) for midi in (48, 52, 55, 60, 64, 67, 72)]
    out = mix(notes, piano)
    assert len(out) == int((2.0 + RELEASE) * RATE) + 1
    assert 0.05 < np.abs(out).max() <= 0.981
    assert np.abs(out[-10:]).max() < 0.01
    assert len(pcm16(out)) == 4 * len(out)


def test_a_stopped_mix_leaves_the_rest_out(piano):
    assert not mix([Sounding(0, 1, 60, "left")], piano, lambda: True).any()


def test_the_score_holds_the_hands_that_are_asked_for():
    song = parse_chart("tempo: 60\n| C | Am F |\ntune: | E4:4 | C4:4 |")
    solution = solve_song(Builder(), timeline(song), Setup())
    both = score(solution, song, 0, 2, ("left", "right"))
    assert {n.part for n in score(solution, song, 0, 2, ("left",))} == {"left"}
    assert len(both) == sum(len(v.left) + len(v.right) for v in solution.voicings)
    assert [(n.start, n.length) for n in score(solution, song, 1, 2, ("tune",))] == [(0.0, 4.0)]
    assert [(n.start, n.length) for n in score(solution, song, 2, 2, ("tune",))] == [(0.0, 2.0)]
    assert max(n.start for n in both) == 6.0
