"""`make compare REV=...`: what this tree and another one say of 200 made-up songs and the demo songs, in every manner, is the
same to the letter: hands, hinges, reasons. Says which differ. For changes that are to change nothing but time.

python -m tools.compare REV [COUNT]
"""

from __future__ import annotations

import json
import random
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
ROOTS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")
KINDS = (
    "",
    "m",
    "7",
    "m7",
    "maj7",
    "m7b5",
    "dim7",
    "sus4",
    "7sus4",
    "6",
    "m6",
    "9",
    "m9",
    "maj9",
    "13",
    "7b9",
    "7#5",
    "add9",
    "m11",
)
METERS = ("4/4", "4/4", "4/4", "3/4", "6/8", "12/8", "5/4")
MANNERS = ("hymn", "pop", "rhythm-and-blues", "gospel", "jazz-with-bass", "jazz-alone", "solo-ballad", "modal")
# Run in either tree: the command line says it, whose fields are fixed. Seconds are left out.
SAYS = """
import contextlib, hashlib, io, json, sys
from yellow_hinge.cli.main import main
for line in sys.stdin:
    words = json.loads(line)
    out = io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(io.StringIO()):
        status = main(words)
    text = "".join(row for row in out.getvalue().splitlines(True) if '"seconds"' not in row)
    print(status, hashlib.sha256(text.encode()).hexdigest()[:16], *words, flush=True)
"""


def chart(chance: random.Random) -> str:
    """A made-up song: some sections of some bars, repeats, slashes, a tune now and then."""
    rows = [f"key: {chance.choice(ROOTS)}", f"meter: {chance.choice(METERS)}", f"tempo: {chance.randint(50, 200)}"]
    for name in "ABC"[: chance.randint(1, 3)]:
        bars = []
        for _ in range(chance.choice((4, 8, 12))):
            chords = [chance.choice(ROOTS) + chance.choice(KINDS) for _ in range(chance.choice((1, 1, 1, 2)))]
            bars.append(" ".join(c + (f"/{chance.choice(ROOTS)}" if chance.random() < 0.1 else "") for c in chords))
        ends = ("|:", ":|") if chance.random() < 0.3 else ("|", "|")
        rows += [f"[{name}]", f"{ends[0]} {' | '.join(bars)} {ends[1]}"]
    return "\n".join(rows) + "\n"


def asked(folder: Path, count: int) -> list[str]:
    """The command lines, as JSON, a line each."""
    found = []
    for number in range(count):
        chance = random.Random(f"song {number}")
        path = folder / f"song-{number}.chart"
        path.write_text(chart(chance), "utf-8")
        manner, colour = chance.choice(MANNERS), str(chance.randint(0, 3))
        words = ["voice", str(path), "--json", "--manner", manner, "--colour", colour]
        words += chance.choice(([], ["--explain"], ["--loop"], ["--vary"], ["--boldness", "2"], ["--left-reach", "8"]))
        found.append(json.dumps(words))
    for name in ("last-boat-to-marrow", "cork-and-rope", "harbour-bell", "kettle-on-the-stove", "slack-tide"):
        found += [json.dumps(["voice", f"demo:{name}", "--json", "--manner", manner]) for manner in MANNERS]
    return found


def says(tree: Path, lines: list[str]) -> list[str]:
    """What a tree says of them."""
    done = subprocess.run(
        [sys.executable, "-c", SAYS], input="\n".join(lines), cwd=tree, env={"PYTHONPATH": str(tree), "PATH": "/usr/bin:/bin"},
        stdout=subprocess.PIPE, text=True, check=True,
    )  # fmt: skip
    return done.stdout.splitlines()


def main(revision: str, count: int) -> int:
    """Compare."""
    with tempfile.TemporaryDirectory() as place:
        other = Path(place) / "other"
        subprocess.run(["git", "clone", "-q", str(ROOT), str(other)], check=True)
        subprocess.run(["git", "-C", str(other), "checkout", "-q", revision], check=True)
        folder = Path(place) / "songs"
        folder.mkdir()
        lines = asked(folder, count)
        wrong = [
            f"- {old}\n+ {new}" for old, new in zip(says(other, lines), says(ROOT, lines), strict=True) if old != new
        ]
    print("\n".join(wrong))
    print(f"{len(lines) - len(wrong)} of {len(lines)} are the same as in {revision}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], int(sys.argv[2]) if len(sys.argv) > 2 else 200))
