"""Songs are as loud as each other: measured after BS.1770, foretold from the samples, and so in every file."""

import io

import numpy as np
import pytest
import soundfile

from tests import some
from tests.core.rhythm import truth
from tools.levels import curve
from yellow_hinge.cli.verbs import run
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.sound.instruments import BASS, RATE, RECORDED, Instruments
from yellow_hinge.sound.leveling import ROWS, TARGET, leveled
from yellow_hinge.sound.leveling import _curves as shipped
from yellow_hinge.sound.measuring import loudness
from yellow_hinge.sound.mixing import mastered, rendered
from yellow_hinge.sound.score import Span, score

SOME = [("cork-and-rope", "pop"), ("kettle-on-the-stove", "jazz-with-bass"), ("paper-lantern-waltz", "jazz-alone")]
HEARD = {"left": 1.0, "right": 1.0, "tune": 1.0, "bass": 1.0}


@pytest.fixture(scope="module")
def instruments():
    return Instruments()


def sine(decibels, seconds, hertz=997.0):
    at = np.arange(round(seconds * RATE)) / RATE
    one = (10 ** (decibels / 20) * np.sin(2 * np.pi * hertz * at)).astype(np.float32)
    return np.stack([one, one], 1)


def test_loudness_is_that_of_the_recommendation():
    """The first, third and fourth case that EBU Tech 3341 gives for meters, on two channels."""
    assert loudness(sine(-23, 20)) == pytest.approx(-23, abs=0.1)
    assert loudness(np.concatenate([sine(-36, 10), sine(-23, 60), sine(-36, 10)])) == pytest.approx(-23, abs=0.1)
    parts = [sine(level, seconds) for level, seconds in ((-72, 10), (-36, 10), (-23, 60), (-36, 10), (-72, 10))]
    assert loudness(np.concatenate(parts)) == pytest.approx(-23, abs=0.1)
    assert loudness(sine(-23, 20, 60.0)) < -24  # low notes are heard less
    assert loudness(np.zeros((RATE, 2), np.float32)) == loudness(np.zeros((9, 2), np.float32)) == float("-inf")


@pytest.mark.parametrize("row", range(0, len(ROWS), 11))
def test_the_levels_that_ship_are_those_of_the_recordings(instruments, row):
    assert shipped().shape == (len(ROWS), 60)
    assert np.allclose(shipped()[row], curve(instruments, *ROWS[row]), rtol=0.02, atol=1e-9)


@pytest.mark.parametrize("midi", [*RECORDED[::6], BASS[3]])
def test_no_recording_leans_to_one_side(instruments, midi):
    part = "bass" if midi == BASS[3] else "right"
    left, right = np.square(instruments.note(part, midi, 100)[:RATE].astype(float)).mean(axis=0)
    assert abs(10 * np.log10(left / right)) < 1


def heard(song, manner, pattern=""):
    song, solution = truth.solved(song, manner, bass="theirs" if manner == "jazz-with-bass" else "mine")
    playing = with_pattern(Playing(), 0, "both", pattern) if pattern else Playing()
    return performed(solution, song, playing)


def evened(sounding, levels):
    return score(sounding, Span(0, sounding.length), leveled(sounding).over(levels))


@pytest.mark.parametrize(("song", "manner"), some(SOME, 2))
def test_songs_are_as_loud_as_each_other(instruments, song, manner):
    sounding = heard(song, manner)
    audio = rendered(evened(sounding, HEARD), instruments)
    assert abs(loudness(audio) - TARGET) < 1  # as it is played, foretold
    assert abs(loudness(mastered(audio)) - TARGET) < 0.2  # in a file, measured
    left, right = np.square(audio.astype(float)).mean(axis=0)
    assert abs(10 * np.log10(left / right)) < 1


@pytest.mark.parametrize("pattern", list(patterns())[::9])
def test_tune_hands_and_drums_keep_their_distance_in_every_pattern(instruments, pattern):
    sounding = heard("cork-and-rope", "pop", pattern)
    made = {
        name: rendered(evened(sounding, dict.fromkeys(parts, 1.0)), instruments)
        for name, parts in {"hands": ("left", "right"), "tune": ("tune",), "drums": ("drums",)}.items()
    }
    sung = np.abs(made["tune"]).max(axis=1) > 0.003
    power = {name: 10 * np.log10(np.square(audio.astype(float)).mean()) for name, audio in made.items()}
    over = 10 * np.log10(np.square(made["tune"][sung]).mean() / np.square(made["hands"][sung]).mean())
    assert 2.5 <= over <= 5.5
    assert -8 <= power["drums"] - power["hands"] <= -4.5


def test_half_speed_and_a_part_alone_do_not_change_the_rest():
    sounding = heard("cork-and-rope", "pop")
    slow = sounding._replace(clock=sounding.clock.faster(50))
    assert leveled(sounding).tune == pytest.approx(leveled(slow).tune, rel=0.15)
    whole, alone = (evened(sounding, levels) for levels in (HEARD, {"left": 1.0}))
    levels = {note.level for note in whole.notes if note.part == "left"}
    assert {note.level for note in alone.notes} == levels
    assert len(levels) == 1


def test_an_exported_song_has_the_loudness_of_all(tmp_path):
    run(["export", "demo:cork-and-rope", "--to", str(tmp_path / "a.wav")])
    audio, _ = soundfile.read(io.BytesIO((tmp_path / "a.wav").read_bytes()), dtype="float32")
    assert abs(loudness(audio) - TARGET) < 0.3
    assert np.abs(audio).max() <= 1
