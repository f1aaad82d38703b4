"""Audio files: WAV, FLAC and Ogg Vorbis."""

from __future__ import annotations

import io

from yellow_hinge.sound.instruments import RATE, Samples

KINDS = {".wav": ("WAV", "PCM_16"), ".flac": ("FLAC", "PCM_16"), ".ogg": ("OGG", "VORBIS")}
BLOCK = 11_000  # frames: a long Ogg that is written in one go kills the process


def audio_bytes(samples: Samples, ending: str, title: str = "", composer: str = "") -> bytes:
    """Samples (n, 2) as a file of the kind that an ending says, with its tags. Raises KeyError."""
    import soundfile

    kind, coding = KINDS[ending]
    held = io.BytesIO()
    with soundfile.SoundFile(held, "w", RATE, 2, coding, format=kind) as file:
        if title:
            file.title = title
        if composer:
            file.artist = composer
        for at in range(0, len(samples), BLOCK):
            file.write(samples[at : at + BLOCK])
    return held.getvalue()
