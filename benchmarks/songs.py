"""Made-up charts of any length for the benchmarks."""

from __future__ import annotations

import random

ROOTS = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]
WORDS = ["m7", "7", "maj7", "m7b5", "13", "9sus4", "m9", "6", "dim7", "7b9"]


def random_chart(bars: int, seed: int = 1) -> str:
    """A chart of `bars` unrelated chords, one a bar: harder than any real song, since little repeats."""
    rng = random.Random(seed)
    chords = [rng.choice(ROOTS) + rng.choice(WORDS) for _ in range(bars)]
    return "title: Bench\nkey: C\n" + "\n".join(f"| {chord} |" for chord in chords)


def song_like_chart(bars: int) -> str:
    """Turns of a ballad repeated to `bars` bars, as songs do."""
    turn = [
        "Cmaj7",
        "Am7",
        "Dm7",
        "G7",
        "Em7",
        "A7b9",
        "Dm9",
        "G13",
        "C/E",
        "F6",
        "Fm6",
        "Cmaj7",
        "Bm7b5",
        "E7",
        "Am9",
        "G9sus4",
    ]
    return "title: Bench\nkey: C\n" + "\n".join(f"| {turn[n % len(turn)]} |" for n in range(bars))


def in_four_sections(bars: int) -> str:
    """A song of so many bars in four sections."""
    return "\n".join(f"[{name}]\n{song_like_chart(bars // 4)}" for name in "ABCD")
