"""Sheets and scores of some songs as they are today, to the hundredth of a millimetre. Where one changes on purpose:
look at what is new, then `python -m tests.core.sheet.test_as_they_are` writes the table anew.
"""

import hashlib
from functools import cache
from pathlib import Path

import msgspec
import pytest

from tests.core.sheet.charts import opened, solved
from tests.songs import BUILDER
from tests.tables import rows
from yellow_hinge.app.edits.state import changed_in
from yellow_hinge.app.solving.twelve import in_twelve, keys_sheet
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, with_pattern
from yellow_hinge.core.sheet.asks import SHOWN, SheetAsk
from yellow_hinge.core.sheet.cheat import cheat_pages
from yellow_hinge.core.sheet.content import Writer, content
from yellow_hinge.core.sheet.symbols import symbol_pages
from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes
from yellow_hinge.io.songs.demo import demo_text

TABLE = "as_they_are.tsv"
ROAD = Path(__file__).with_name("road.chart.txt").read_text("utf-8")
CROWDED = """title: Everything at once, and a title that needs two lines of the narrowest page there is
key: F#m
meter: 6/8
[A part with a name that is long]
|: F#m7b5 B7alt | C#m7:0.5 F#7#9:0.5 Bm9:0.5 E13sus4:0.5 | A6/9 | Amaj7#11:0.5 D#dim7:0.5 G#7:0.5 C#7:0.5 :|x3
cue: | every one of these words stands / a-word-that-nobody-sings-in-one-breath | la | hm |
"""
SONGS = {
    "road": ROAD,
    "crowded": CROWDED,
    "boat": demo_text("last-boat-to-marrow"),
    "waltz": demo_text("paper-lantern-waltz"),
}
SIGNS = (  # the most that can be shown, and the least
    {"show": tuple(sorted(SHOWN))}, {"show": (), "size": "s"}, {"size": "stage", "landscape": True, "columns": 3},
)  # fmt: skip
PATTERNS = ("held", "octave-answer", "charleston", "walking", "tremolo", "five-vamp", "swung-waltz", "ballad", "stride")


@cache
def song(name):
    state = opened(SONGS[name])
    return state, solved(state, BUILDER)


def pages(name, kind, number):
    state, solution = song(name)
    if kind == "keys":
        ends = (0, 0, 0), (0, 1, 0)
        return keys_sheet(in_twelve(BUILDER, state, *ends, "fifths", False), SheetAsk(**SIGNS[number]), number == 1)
    found = content(Writer(state.song, solution, state.memos, False, state.playing), "facts")
    ask = SheetAsk(**SIGNS[number] | {"kind": kind})
    return (symbol_pages if kind == "line" else cheat_pages)(ask, found)


def rounded(value):
    if isinstance(value, float):
        return round(value, 2) + 0.0
    if isinstance(value, dict):
        return {key: rounded(each) for key, each in value.items()}
    return [rounded(each) for each in value] if isinstance(value, list | tuple) else value


def score(name, pattern):
    state, solution = song(name)
    playing = with_pattern(state.playing, WHOLE_SONG, "both", pattern)
    played = changed_in(state, playing=playing)
    return musicxml_bytes(state.song, solution, state.memos, Notation(struck=True), played.playing)


def sign(data):
    return hashlib.sha256(data).hexdigest()[:12]


def found(case):
    what, name, how = case
    if what == "score":
        return sign(score(name, how))
    kind, number = how.split()
    made = [rounded(msgspec.to_builtins(page)) for page in pages(name, kind, int(number))]
    return sign(msgspec.json.encode(made))


CASES = [("sheet", name, f"{kind} {n}") for name in SONGS for kind in ("cheat", "line") for n in range(len(SIGNS))]
CASES += [("sheet", "crowded", f"keys {n}") for n in range(2)]
CASES += [("score", name, pattern) for name in SONGS for pattern in (PATTERNS if name == "road" else PATTERNS[1:3])]


@pytest.mark.parametrize("case", CASES, ids=" ".join)
def test_a_page_and_a_score_are_what_they_were(case):
    known = {tuple(row[:3]): row[3] for row in rows(__file__, TABLE)}
    assert found(case) == known[case]


if __name__ == "__main__":
    lines = ["\t".join((*case, found(case))) + "\n" for case in CASES]
    Path(__file__).with_name(TABLE).write_text("".join(lines), "utf-8")
