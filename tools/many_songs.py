"""A folder of thousands of made-up songs, and how long the songbook takes to read it, first and again:
`python -m tools.many_songs FOLDER [COUNT]`.
"""

from __future__ import annotations

import re
import sys
import threading
from pathlib import Path
from random import Random
from time import perf_counter

from yellow_hinge.app.solving.book.finding import BookReader
from yellow_hinge.app.solving.book.index import BookIndex
from yellow_hinge.assets import ASSETS

WORDS = [
    "Harbour",
    "Bell",
    "Slack",
    "Tide",
    "Lantern",
    "Rope",
    "Kettle",
    "Boat",
    "Ferry",
    "Gull",
    "Pier",
    "Salt",
    "Lamp",
    "Anchor",
    "Net",
    "Fog",
    "Quay",
    "Oar",
    "Sail",
]
A_FOLDER = 500  # songs


def make(folder: Path, count: int) -> None:
    """Write that many songs: the demo charts under names and tempos of their own."""
    charts, random = sorted((ASSETS / "demo").glob("*.chart")), Random(20261201)
    for n in range(count):
        title = f"{random.choice(WORDS)} {random.choice(WORDS)} {n}"
        text = re.sub("^title:.*$", f"title: {title}", charts[n % len(charts)].read_text(), flags=re.M)
        text = re.sub("^tempo:.*$", f"tempo: {random.randint(50, 200)}", text, flags=re.M)
        path = folder / "songs" / str(n // A_FOLDER) / f"{n}.chart"
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)


def timed(folder: Path) -> tuple[int, float]:
    """How many songs are read, in how many seconds, by a reader that has just begun."""
    done, counts, begun = threading.Event(), list[int](), perf_counter()

    def told(found: object) -> None:
        counts.append(len(getattr(found, "rows", ())))
        if getattr(found, "whole", True):
            done.set()

    reader = BookReader(told, "many", BookIndex(folder))
    reader.ask([folder / "songs"])
    done.wait()
    reader.close()
    return counts[-1], perf_counter() - begun


def main(folder: Path, count: int) -> None:
    """Make the songs and print the figures."""
    make(folder, count)
    for turn in ("first", "again"):
        songs, seconds = timed(folder)
        print(f"{turn}: {songs} songs in {seconds:.2f} s")


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 5000)
