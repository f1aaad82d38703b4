"""What the program says of the demo songs, kept as text in `said/`: whoever changes a price, a pattern or a page sees
here what becomes of the hands. `make said` writes all of it anew; read the difference before it is committed.

Large files are kept as sums, a line a piece: what they hold shows in the texts beside them.
"""

from __future__ import annotations

import io
import json
import re
import sys
from collections import Counter
from collections.abc import Iterator
from contextlib import chdir, redirect_stderr, redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory
from zlib import crc32

import mido

from tests.cli.answers import KEPT, answers
from tests.cli.made_up import made_up
from tests.cli.walked import WALKS
from tests.cli.walked_rooms import ROOMS
from tests.performances import as_midi, perform
from yellow_hinge.cli.main import main
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.opening import read_data

HERE = Path(__file__).parent
FOLDER, CORPUS, CHARTS = HERE / "said", HERE.parent / "io" / "corpus", HERE / "charts"
RUNS, FAULTY = HERE / "runs.txt", HERE / "faulty.txt"
BOAT, ROPE, BELL = "demo:last-boat-to-marrow", "demo:cork-and-rope", "demo:harbour-bell"
KETTLE, LANTERN, TIDE = "demo:kettle-on-the-stove", "demo:paper-lantern-waltz", "demo:slack-tide"

# A row: the name of the text, then the words. OUT.ending is a file that is written, and is what is kept; "heard" is what
# is heard of a chart that the simulated player plays in a pattern, "read" what is read
# of every so many of the files of a folder.
RUN = re.compile(r'"[^"]*"|\S+')


def runs() -> Iterator[tuple[str, tuple[str, ...]]]:
    """Every run: its name and its words."""
    for row in RUNS.read_text("utf-8").splitlines():
        name, *words = (word.strip('"') for word in RUN.findall(row))
        for short in ("BOAT", "ROPE", "BELL", "KETTLE", "LANTERN", "TIDE"):
            words = [re.sub(rf"^{short}(?=$|-bolder)", globals()[short], word) for word in words]
        yield name, tuple(words)


def said(words: tuple[str, ...]) -> str:
    """What a run says and writes, as text."""
    if words[0] == "read":
        files = sorted(path for path in (CORPUS / words[1]).rglob("*") if path.is_file())
        return "".join(map(_read, files[:: int(words[2])]))
    if words[0] == "made-up":
        return made_up(said, words[1])
    if words[0] in WALKS:
        return WALKS[words[0]](words[1])
    if words[0] in ROOMS:
        return ROOMS[words[0]](words[1])
    if words[0] == "faults":
        return "".join(map(_refused, FAULTY.read_text("utf-8").splitlines()))
    with (
        TemporaryDirectory() as folder, chdir(CHARTS), redirect_stdout(io.StringIO()) as out,
        redirect_stderr(io.StringIO()) as err,
    ):  # fmt: skip
        if words[0] == "heard":
            path = Path(folder) / "played.mid"
            path.write_bytes(as_midi(perform(words[1], words[2]).tones))
            words = ("hear", str(path), *words[3:])
        status = main([word.replace("OUT", f"{folder}/out") for word in words])
        files = sorted(path for path in Path(folder).iterdir() if path.name != "played.mid")
        without = [row for row in err.getvalue().splitlines(True) if row.startswith("left out:")]
        told = _compact(out.getvalue()) if not status else f"status {status}\n"
        return told + "".join((*map(_as_text, files), *without))


def _compact(out: str) -> str:
    """A document with a row for every entry of its lists; how long it took is not said."""
    if not out.startswith("{"):
        return out
    document, rows = json.loads(out), list[str]()
    document.get("total", {}).pop("seconds", None)
    for name, value in document.items():
        entries = value if isinstance(value, list) else [value]
        rows += [f"{name}: {json.dumps(entry, ensure_ascii=False, separators=(',', ':'))}" for entry in entries]
    return "\n".join(rows) + "\n"


def _refused(row: str) -> str:
    """What is said to words at fault."""
    words = [word.strip('"') for word in RUN.findall(row)]
    with TemporaryDirectory() as folder, chdir(folder), redirect_stdout(io.StringIO()) as out:
        for path in CHARTS.iterdir():
            Path(folder, path.name).write_bytes(path.read_bytes())
        with redirect_stderr(io.StringIO()) as err:
            status = main(words)
        made = sorted(path.name for path in Path(folder).iterdir() if not (CHARTS / path.name).exists())
    return f"{row}\n{status} {out.getvalue()}{err.getvalue()}{' '.join(made)}\n"


def _read(path: Path) -> str:
    """A file as the song that is read of it, with what is said."""
    try:
        opened = read_data(path.read_bytes(), path.name)
    except UserError as error:
        return f"== {path.name}: {error}\n"
    rows = "".join(f"- {words}\n" for words in opened.report)
    return f"== {path.name}\n{rows}{opened.text or write_chart(opened.file.song)}\n"


def _as_text(path: Path) -> str:
    if path.suffix == ".mid":
        return "".join(_events(path))
    text = re.sub(r"(?s)<style>.*</style>", "", path.read_text("utf-8"))  # letters carry the hour they were cut at
    if path.suffix == ".svg":
        return f"{path.name}: {_sums(re.split('(?=<[a-z])', _rounded(text)))}\n"
    if path.suffix == ".musicxml":
        return "".join(f"{_sums(bar.splitlines())}\n" for bar in text.split("</measure>"))
    return text


def _events(path: Path) -> Iterator[str]:
    """A line a track's quarter note: what begins and ends in it."""
    file = mido.MidiFile(path)
    for number, track in enumerate(file.tracks):
        now, row = 0, dict[int, list[str]]()
        for event in track:
            now += event.time
            words = f"{event.note}.{event.velocity}" if event.type.startswith("note") else str(event.dict())
            at = now % file.ticks_per_beat
            row.setdefault(now // file.ticks_per_beat, []).append(f"{event.type[5:7]}{at}:{words}")
        yield from (f"{number} {beat}: {' '.join(words)}\n" for beat, words in row.items())


def _rounded(text: str) -> str:
    return re.sub(r"-?\d+\.\d+", lambda found: f"{float(found[0]):.1f}", text)


def _sums(pieces: list[str]) -> str:
    """How many pieces of each kind, and a sum over them."""
    kinds = Counter(found[1] for piece in pieces if (found := re.match(r"\s*<([a-z-]+)", piece)))
    return f"{dict(sorted(kinds.items()))} {crc32(chr(10).join(pieces).encode()):08x}"


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name, words in runs():
        (FOLDER / f"{name}.txt").write_text(said(words), "utf-8")
        print(name, file=sys.stderr)
    KEPT.write_text(answers(), "utf-8")
