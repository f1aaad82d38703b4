"""Renders the bass and the drums that play along, once: `python -m tools.band_samples SOUNDFONT.sf2`.

Needs Debian's fluidsynth and fluid-soundfont-gm; what comes of it is committed in yellow_hinge/assets/band.
"""

from __future__ import annotations

import io
import subprocess
import sys
import tempfile
from pathlib import Path

import mido
import numpy as np
import soundfile
import soxr

from yellow_hinge.assets import ASSETS

RATE = 44_100
BASS = {midi: 2.4 for midi in range(28, 65, 3)}
DRUMS = {36: 0.5, 37: 0.4, 40: 0.7, 70: 0.3, 76: 0.3, 77: 0.3}
QUIET = 10 ** (-60 / 20)


def rendered(font: str, note: int, seconds: float, channel: int, program: int) -> np.ndarray:
    """One note in mono, its silence cut off."""
    file = mido.MidiFile(ticks_per_beat=480)
    track = mido.MidiTrack()
    ticks = round(seconds * 960)
    track += [
        mido.Message("program_change", channel=channel, program=program),
        mido.Message("note_on", channel=channel, note=note, velocity=90),
        mido.Message("note_off", channel=channel, note=note, time=ticks),
        mido.MetaMessage("end_of_track", time=200),
    ]
    file.tracks.append(track)
    with tempfile.TemporaryDirectory() as folder:
        midi, wav = Path(folder) / "x.mid", Path(folder) / "x.wav"
        file.save(midi)
        subprocess.run(
            ["fluidsynth", "-ni", "-R", "0", "-C", "0", "-g", "0.8", "-r", str(RATE), "-F", str(wav), font, str(midi)],
            check=True, stdout=subprocess.DEVNULL,
        )  # fmt: skip
        samples, _ = soundfile.read(wav, dtype="float32", always_2d=True)
    mono = samples.mean(axis=1)
    loud = np.flatnonzero(np.abs(mono) > QUIET)
    mono = mono[loud[0] : min(loud[-1], round(seconds * RATE))]
    fade = min(len(mono), 2205)
    mono[-fade:] *= np.linspace(1, 0, fade, dtype=np.float32)
    return mono / np.abs(mono).max() * 0.8


def write(path: Path, samples: np.ndarray, rate: int) -> None:
    """Mono Ogg Vorbis at `rate`."""
    held = io.BytesIO()
    soundfile.write(held, soxr.resample(samples, RATE, rate), rate, format="OGG", subtype="VORBIS")
    path.write_bytes(held.getvalue())


def main() -> None:
    """Render everything."""
    font, folder = sys.argv[1], ASSETS / "band"
    folder.mkdir(exist_ok=True)
    for midi, seconds in BASS.items():
        write(folder / f"bass-{midi}.ogg", rendered(font, midi, seconds, 0, 32), 22_050)
    for midi, seconds in DRUMS.items():
        write(folder / f"drum-{midi}.ogg", rendered(font, midi, seconds, 9, 40 if midi == 40 else 0), RATE)


if __name__ == "__main__":
    main()
