"""Reading damaged files of every kind: a song that survives its own chart text, or a fault that says what is wrong.

`python -m tests.fuzz.readers COUNT [SEED]` reads COUNT damaged files of each kind and tells what came of them.
"""

import contextlib
import random
import resource
import sys
import time
from collections import Counter
from typing import NamedTuple

from tests.fuzz.mutate import changed_elements, changed_fields, changed_messages, damaged
from tests.fuzz.seeds import NAMES, seeds
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.core.chart.text import MAX_CHARS, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.following import same_writing
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.formats import as_utf_8, kind_of, read_draft, read_kind
from yellow_hinge.io.songs.song_json import from_json, to_json

SOLVED = 5  # of so many song files one is solved
BUILDER = Builder()


class Found(NamedTuple):
    """What came of reading: the word for it, and the seconds it took."""

    word: str
    seconds: float


def read(data: bytes, name: str) -> Found:
    """Read as the window does, in this process. Raises whatever is no fault of the file, and AssertionError where a
    song does not survive its own chart text or its own file.
    """
    start = time.process_time()
    try:
        data = as_utf_8(data, name)
        opened = read_kind(kind_of(data, name), data, name)
    except UserError as error:
        assert str(error).strip()
        with contextlib.suppress(UserError):
            read_draft(data, name)
        return Found("refused", time.process_time() - start)
    took = time.process_time() - start
    song = opened.file.song
    text = write_chart(song)
    assert len(text) <= MAX_CHARS or opened.own
    reading = read_chart(text)
    whole = not reading.faults and same_writing(reading.song, song)
    assert whole or opened.file.text or opened.own, (reading.faults[:1], text)
    again = from_json(to_json(opened.file), "again")
    assert again.song == song
    return Found("whole" if whole else "with mistakes", took)


WAYS = {"fields": changed_fields, "elements": changed_elements, "messages": changed_messages}


def solve(data: bytes) -> None:
    """Find the hands of a song file as the window does."""
    try:
        state = state_of(from_json(data, "song"))
        solve_song(BUILDER, timeline(state.song), state.setup, state.keeps)
    except UserError as error:
        assert str(error).strip()


def run(kind: str, count: int, seed: int) -> tuple[Counter[str], float]:
    """(how many files came to what, the longest time) of `count` damaged files of a kind. Raises AssertionError with
    the seed of the file where something else came of one.
    """
    tally: Counter[str] = Counter()
    longest = 0.0
    whole = seeds()[kind]
    for number in range(count):
        chance = random.Random(f"{kind} {seed} {number}")
        data = WAYS.get(kind, damaged)(chance.choice(whole), chance)
        try:
            found = read(data, NAMES[kind])
            if kind == "fields" and number % SOLVED == 0:
                solve(data)
        except Exception as error:
            raise AssertionError(f"{kind} {seed} {number}: {error!r}\n{data[:2000]!r}") from error
        tally[found.word] += 1
        longest = max(longest, found.seconds)
    return tally, longest


if __name__ == "__main__":
    many, first = int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1
    for name in sys.argv[3:] or NAMES:
        result, slowest = run(name, many, first)
        most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
        print(f"{name}: {dict(result)}, longest {slowest:.2f} s, memory so far {most} MB", flush=True)
