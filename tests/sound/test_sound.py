"""What is heard: instruments, scores and mixing; the mark, the MIDI file and the audio agree to the frame."""

import io

import mido
import numpy as np
import pytest
import soundfile

from tests.core.rhythm import truth
from tests.core.rhythm.test_patterns import played, solved
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import with_pattern
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.io.midi.writing import midi_bytes
from yellow_hinge.sound.device import BLOCK, DeviceOutput, FrameSource, SilentOutput
from yellow_hinge.sound.files import KINDS, audio_bytes
from yellow_hinge.sound.instruments import RATE, RECORDED, Instruments
from yellow_hinge.sound.leveling import leveled
from yellow_hinge.sound.mixing import Mixer, limited, rendered
from yellow_hinge.sound.score import Note, Score, Span, frame_of, score

ALL = dict.fromkeys(("left", "right", "tune", "bass", "click", "drums"), 1.0)


@pytest.fixture(scope="module")
def instruments():
    return Instruments()


def pitch_hz(samples):
    """The strongest frequency of a note's first second."""
    mono = samples[:RATE, 0] * np.hanning(min(RATE, len(samples)))
    spectrum = np.abs(np.fft.rfft(mono, 4 * RATE))
    low, high = 4 * 35, 4 * 1200
    return (low + int(spectrum[low:high].argmax())) / 4


@pytest.mark.parametrize(
    ("part", "midi"),
    [("left", 57), ("right", 60), ("right", 61), ("left", 62), ("tune", 69), ("bass", 40), ("bass", 41)],
)
@pytest.mark.parametrize("velocity", [50, 90])
def test_every_key_sounds_at_its_pitch(instruments, part, midi, velocity):
    ratio = pitch_hz(instruments.note(part, midi, velocity)) / (440 * 2 ** ((midi - 69) / 12))
    assert min(abs(ratio / k - 1) for k in (1, 2, 3)) < 0.01


def test_all_recordings_ship_and_begin_at_once(instruments):
    assert len(RECORDED) == 30
    for velocity in (50, 90):
        for midi in RECORDED[::4]:
            note = np.abs(instruments.note("right", midi, velocity))
            assert len(note) > RATE
            assert note[:480].max() > 0.008 * note.max()
    assert all(len(instruments.note("drums", midi, 80)) > 1000 for midi in (36, 37, 40, 70, 76, 77))


def test_a_louder_key_is_louder_and_of_another_recording(instruments):
    def loud(velocity):
        return np.abs(rendered(Score((Note(0, RATE, 60, "right", velocity),), RATE), instruments)).max()

    assert loud(40) < loud(60) < loud(80) < loud(110)
    assert instruments.note("right", 60, 50) is not instruments.note("right", 60, 90)


@pytest.mark.parametrize("pattern", patterns())
def test_mark_midi_and_audio_agree_to_the_frame(pattern):
    """Onsets as a MIDI player counts them from the file are the frames at which the score strikes; the mark changes
    with the chords' first frames.
    """
    for meter in ("4/4", "7/8"):
        song, solution = solved(meter)
        sounding = performed(solution, song, with_pattern(Playing(), 0, "both", pattern))
        sheet = score(sounding, Span(0, sounding.length), ALL)
        heard = sorted((n.start, n.midi) for n in sheet.notes if n.part in ("left", "right", "click"))
        file = mido.MidiFile(file=io.BytesIO(midi_bytes(song, sounding, click=True)))
        assert file.ticks_per_beat == 480
        assert sorted(_frames(file)) == heard
        for place, start in enumerate(sounding.starts):
            frame = frame_of(sounding.clock, start)
            assert sheet.place_at(frame) == place
            assert sheet.place_at(frame - 1) == place - 1


def _frames(file):
    tempo = next(m.tempo for m in file.tracks[0] if m.type == "set_tempo")
    assert sum(m.type == "set_tempo" for m in file.tracks[0]) == 1
    for track in file.tracks[1:]:
        tick = 0
        for message in track:
            tick += message.time
            if message.type == "note_on" and message.velocity:
                yield round(tick * tempo * RATE / (480 * 1_000_000)), message.note


def test_nothing_clips_or_clicks_and_the_length_is_right(instruments):
    for pattern in ("triplets", "tremolo", "ballad"):
        _, sounding = played("12/8", pattern)
        sheet = score(sounding, Span(0, sounding.length), ALL)
        audio = rendered(sheet, instruments)
        assert len(audio) == sheet.length + int(1.5 * RATE)
        assert sheet.length == frame_of(sounding.clock, sounding.length)
        assert np.abs(audio).max() <= 1.0
        quiet = score(sounding, Span(0, sounding.length), {"left": 1.0, "right": 1.0})
        assert np.abs(np.diff(rendered(quiet, instruments), axis=0)).max() < 0.2
        assert np.abs(audio[-10:]).max() < 0.02


def test_a_loop_has_no_gap_and_repeats_to_the_frame(instruments):
    _, sounding = played("4/4", "beats")
    span = Span(0, sounding.bars[1].end)
    loop = score(sounding, span, ALL, loop=True)
    once = loop.length
    mixer = Mixer(loop, instruments)
    audio = np.concatenate([mixer.block(1000) for _ in range(3 * once // 1000)])
    second, third = audio[once : 2 * once], audio[2 * once : 3 * once - 1000]
    assert np.abs(second[: len(third)] - third).max() < 1e-4
    assert not mixer.over


def test_a_loop_counts_in_once_and_comes_back_after_the_count(instruments):
    _, sounding = played("4/4", "held")
    loop = score(sounding, Span(0, sounding.bars[0].end), {"left": 1.0, "right": 1.0}, loop=True, count_in=True)
    assert (loop.back, loop.length) == (loop.length - loop.back, 2 * loop.back)
    mixer = Mixer(loop, instruments)
    audio = np.concatenate([mixer.block(4800) for _ in range(3 * loop.length // 4800)])
    bar = loop.length - loop.back
    again = audio[loop.length : loop.length + bar], audio[loop.length + bar : loop.length + 2 * bar - 4800]
    assert np.abs(again[0][: len(again[1])] - again[1]).max() < 1e-4


def test_keys_ring_as_long_as_the_pedal_is_down():
    _, sounding = played("4/4", "ballad")
    sheet = score(sounding, Span(0, sounding.length), ALL)
    first = [
        n for n in sheet.notes if n.part in ("left", "right") and n.start < frame_of(sounding.clock, sounding.ends[0])
    ]
    assert {n.end for n in first} == {frame_of(sounding.clock, sounding.ends[0])}
    _, dry = played("4/4", "beats")
    ends = [n.end for n in score(dry, Span(0, dry.length), ALL).notes if n.part == "left" and n.start == 0]
    assert set(ends) == {frame_of(dry.clock, 480 * 85 // 100)}


def test_a_loud_mix_stays_below_one(instruments):
    notes = tuple(Note(0, RATE, midi, "right", 118) for midi in range(40, 90, 2))
    audio = rendered(Score(notes, RATE), instruments)
    assert 0.95 < np.abs(audio).max() <= 1.0


def test_blocks_of_any_size_are_the_same_audio(instruments):
    _, sounding = played("3/4", "waltz")
    sheet = score(sounding, Span(0, sounding.bars[2].end), ALL)
    whole = rendered(sheet, instruments)
    mixer = Mixer(sheet, instruments)
    parts = np.concatenate([mixer.block(317) for _ in range(-(-len(whole) // 317))])[: len(whole)]
    assert np.abs(parts - whole).max() < 1e-4


def test_what_is_too_loud_is_bent_and_never_above_one():
    ramp = np.linspace(-5, 5, 2001, dtype=np.float32)[:, None].repeat(2, axis=1)
    bent = limited(ramp)
    assert np.abs(bent).max() <= 1.0
    assert (np.diff(bent[:, 0]) >= 0).all()
    assert np.array_equal(limited(ramp * 0.1), ramp * np.float32(0.1))


def test_a_stretch_begins_with_its_chord_though_it_was_struck_before():
    _, sounding = played("4/4", "pushed")
    start = sounding.starts[1]
    sheet = score(sounding, Span(start, sounding.ends[1]), ALL)
    assert [n.midi for n in sheet.notes if n.start == 0 and n.part == "right"]
    assert sheet.place_at(0) == 1
    counted = score(sounding, Span(start, sounding.ends[1]), {"right": 1.0}, count_in=True)
    clicks = [n for n in counted.notes if n.part == "click"]
    assert [round(n.start / RATE, 3) for n in clicks] == [0, 0.667, 1.333, 2]
    assert counted.place_at(clicks[-1].start) == -1


def test_half_speed_is_twice_as_long_and_parts_have_levels():
    _, sounding = played("4/4", "held")
    half = sounding._replace(clock=sounding.clock.faster(50))
    span = Span(0, sounding.length)
    assert score(half, span, ALL).length == pytest.approx(2 * score(sounding, span, ALL).length, abs=2)
    assert {n.part for n in score(sounding, span, {"left": 0.5, "right": 0.0}).notes} == {"left"}


@pytest.mark.parametrize("ending", KINDS)
def test_audio_files_hold_what_was_mixed(ending):
    tone = np.sin(np.arange(RATE) / 20).astype(np.float32)[:, None].repeat(2, axis=1) * 0.5
    with soundfile.SoundFile(io.BytesIO(audio_bytes(tone, ending, "Quay", "N. Body"))) as file:
        assert (file.title, file.artist) == ("Quay", "N. Body")
    back, rate = soundfile.read(io.BytesIO(audio_bytes(tone, ending)))
    assert rate == RATE
    assert abs(len(back) - len(tone)) < 64
    assert np.abs(back[: len(tone)] - tone[: len(back)]).max() < 0.05


def test_rendering_can_be_stopped(instruments):
    sheet = Score((Note(0, RATE, 60, "right", 80),), 60 * RATE)
    assert len(rendered(sheet, instruments, lambda share: share > 0.1)) < 8 * RATE


def test_frames_come_in_order_and_late_ones_are_silence(instruments):
    sheet = Score((Note(0, RATE // 10, 60, "right", 80),), RATE // 10)
    frames = FrameSource(sheet, instruments)
    assert frames.ready.wait(30)
    pulled = frames.pull(BLOCK // 2)
    assert np.abs(pulled).max() > 0
    assert frames.played == BLOCK // 2
    frames.stop()


def test_a_device_that_is_not_there_says_so_and_silence_keeps_time(instruments):
    import miniaudio

    sheet = Score((Note(0, RATE // 4, 60, "right", 80),), RATE // 4)
    frames = FrameSource(sheet, instruments)
    device = DeviceOutput([miniaudio.Backend.JACK])
    device.start(frames)
    assert not device.available
    silent = SilentOutput()
    silent.start(frames)
    deadline = 400
    while not frames.over and deadline:
        import time

        time.sleep(0.02)
        deadline -= 1
    assert frames.over
    silent.stop()


def test_a_null_device_pulls_frames(instruments):
    import time

    import miniaudio

    frames = FrameSource(Score((Note(0, RATE, 60, "right", 80),), RATE), instruments)
    frames.ready.wait(30)
    device = DeviceOutput([miniaudio.Backend.NULL])
    device.start(frames)
    assert device.available
    for _ in range(400):
        if frames.played > 4 * BLOCK:
            break
        time.sleep(0.02)
    device.stop()
    frames.stop()
    assert frames.played > 4 * BLOCK


def test_a_transposed_keyboard_sounds_in_another_key_and_its_drums_do_not():
    song, solution = solved("4/4", melody="top")
    plain, higher = (performed(solution, song, Playing(sounds=key)) for key in ("", "Db"))
    assert plain.struck == higher.struck
    parts = dict.fromkeys(("left", "right", "tune", "click"), 1.0)
    notes = [score(p, Span(0, p.length), parts).notes for p in (plain, higher)]
    for one, other in zip(*notes, strict=True):
        assert other.midi - one.midi == (0 if one.part == "click" else 1)
    tracks = mido.MidiFile(file=io.BytesIO(midi_bytes(song, higher))).tracks
    assert [m.key for track in tracks for m in track if m.type == "key_signature"] == ["Db"]
    heard = {m.note for m in tracks[1] if m.type == "note_on"}
    assert heard == {s.midi + 1 for s in plain.struck if s.part == "left"}


@pytest.mark.parametrize("pattern", ["held", "comping"])
def test_the_tune_is_heard_over_the_hands_and_the_drums_under_them(instruments, pattern):
    song, solution = truth.solved("last-boat-to-marrow", "pop")
    sounding = performed(solution, song, with_pattern(Playing(), 0, "both", pattern))
    level = {}
    for name, parts in {"hands": ("left", "right"), "tune": ("tune",), "drums": ("drums",)}.items():
        evened = leveled(sounding).over(dict.fromkeys(parts, 1.0))
        sheet = score(sounding, Span(0, sounding.bars[4].end), evened)
        level[name] = 10 * np.log10(np.square(rendered(sheet, instruments)).mean())
    assert 3 <= level["tune"] - level["hands"] <= 9
    assert -9 <= level["drums"] - level["hands"] <= -3
