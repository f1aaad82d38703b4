"""Short texts out of the chart's own words: reading them raises nothing, and a suggestion is read.

`python -m tests.fuzz.charts COUNT [SEED]` reads COUNT texts and tells how many were read without a fault.
"""

import contextlib
import random
import sys
from collections import Counter
from unittest.mock import patch

from yellow_hinge.core.chart import text as chart_text
from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import ChordSymbolError, UserError
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.texts.words_songs import read_over_words

WORDS = ["C", "F#m7", "Bb", "Am7", "H", "Es", "am", "c", "g#m7", "∆7", "Δ", "ø", "o", "dim", "sus", "4", "b9", "#11", "13", "(b9,#11)", "no3", "add9", "alt", "+", "-", "maj7", "M7", "mM7", "6/9", "/", "//", "\\", "over", "|", "|:", ":|", ":|x3", "||", "|1.", "|2.", "1.", "2.", "x2", "(2x)", "%", "N.C.", "(C)", "1", "5/7", "b7", "bVII", "V7/ii", "V65", "N6", "Ger65", "subV7", "I64", "key:", "meter:", "tempo:", "title:", "pickup:", "names:", "german", "also:", "colour:", "tune:", "cue:", "[A]", "[Coda]", "[", "]", "E4:1.5", "r:1", "G4:2~", "(3/4)", "(7/8)", ":2.5", "~", "(", ")", "segno", "coda", "fine", "(to", "coda)", "D.C.", "al", "fine", "D.S.", "DC", "♭", "♯", "𝄪", "⁷", "0", "-5", "99", "x", "x99", "La", "Verse:", "Intro", "words", "go", "here", ".", ",", ";", "'", '"', "!", "?"]  # fmt: skip
RIGHT = ["C", "F#m7", "Bb", "Am7", "G7(b9)", "Dm7/G", "%", "N.C.", "|:", ":|", ":|x3", "|", "|1.", "|2.", "||", "(segno)", "(to", "coda)", "(coda)", "(fine)", "D.C.", "D.S.", "V65", "bVII", "2m9", "ii7", "Cmaj7#11", "Eø7", "C13sus4"]  # fmt: skip
BETWEEN = ("", " ", "\n", "\t", "|", " | ")
KEYS = [parse_key(name) for name in ("C", "F# minor", "D dorian", "F lydian", "Bb harmonic minor")]


def text(chance: random.Random) -> str:
    """A short text of some words; every other one has chords in bars, most of which are right."""
    if chance.random() < 0.5:
        pieces = [chance.choice(RIGHT) for _ in range(chance.randint(1, 8))]
        return "| " + " ".join(piece + chance.choice(("", "", " |", " |\n|")) for piece in pieces) + " |"
    return "".join(chance.choice(WORDS) + chance.choice(BETWEEN) for _ in range(chance.randint(1, 12)))


def read(written: str, key: int) -> str:
    """Read a text as a symbol, as a chart and as chords above words; the word for what came of it. Raises whatever is
    no fault of the text, and AssertionError for a song that its own chart does not give again.
    """
    with contextlib.suppress(FileFault):
        read_over_words(written, "x.txt")
    try:
        parse_symbol(written[:40], KEYS[key])
    except ChordSymbolError as error:
        if error.suggestion:
            with contextlib.suppress(ChordSymbolError):
                parse_symbol(error.suggestion, KEYS[key])
    reading = read_chart(written)
    with patch.object(chart_text, "plain_bars", lambda line: ()):
        assert read_chart(written) == reading, "plain lines are read as all others are"
    if reading.faults:
        return "with mistakes"
    try:
        timeline(reading.song)
    except UserError as error:
        raise AssertionError(f"{written!r}: {error}") from error
    again = read_chart(write_chart(reading.song))
    assert not again.faults, (written, again.faults[:1])
    return "whole"


def main(count: int, seed: int) -> Counter[str]:
    """Read `count` texts. Raises AssertionError with the text."""
    tally: Counter[str] = Counter()
    for number in range(count):
        chance = random.Random(f"{seed} {number}")
        written = text(chance)
        try:
            tally[read(written, number % len(KEYS))] += 1
        except Exception as error:
            raise AssertionError(f"{written!r} (seed {seed}, text {number})") from error
    return tally


if __name__ == "__main__":
    print(main(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1))
