"""`make bench`: measures, prints ratios and writes benchmarks/RESULTS.md. Medians of several runs in one process."""

from __future__ import annotations

import compileall
import datetime
import os
import platform
import random
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import yellow_hinge
from benchmarks import taking
from benchmarks.baselines import networkx_path, pairwise_viterbi
from benchmarks.fresh import fresh
from benchmarks.playing import figures
from benchmarks.songs import in_four_sections, random_chart, song_like_chart
from benchmarks.window import window_figures
from tools.offscreen import PLATFORM
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.minplus import solve
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.reharm.whole import bolder
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.naming import name_notes
from yellow_hinge.core.symbols.symbol import _parse, parse_symbol
from yellow_hinge.io.songs.demo import demo_song


def timed(do: Callable[[], object], runs: int = 5) -> float:
    """Median seconds of `runs` calls."""
    found = []
    for _ in range(runs):
        started = time.perf_counter()
        do()
        found.append(time.perf_counter() - started)
    return statistics.median(found)


def first_solve(song: Song, **wishes: object) -> float:
    """Seconds of a first solve with nothing kept from before."""
    moments = timeline(song)
    return timed(lambda: solve_song(fresh(), moments, Setup(**wishes)))


def one_edit(song: Song) -> float:
    """Seconds to solve again after one chord in the middle changed, tables of the rest kept."""
    found = []
    for word in ("F#7b9", "Ebmaj9", "Bbm6", "Ab13", "Gm11"):
        builder = fresh()
        solve_song(builder, timeline(song), Setup())
        text = random_chart(64).split("\n")
        text[34] = f"| {word} |"
        edited = parse_chart("\n".join(text))
        found.append(timed(lambda e=edited, b=builder: solve_song(b, timeline(e), Setup()), 1))
    return statistics.median(found)


def freely(song: Song) -> tuple[float, float]:
    """(seconds of a first solve with every family and free, gap over cost)."""
    moments, found = timeline(song), []
    seconds = timed(lambda: found.append(solve_song(fresh(), moments, Setup(families=("all", "free")))), 1)
    return seconds, found[0].totals.gap / found[0].totals.cost


def peak_megabytes() -> float:
    """Peak memory of a process that solves 64 chords, prices every chord's options and ends."""
    code = """
from benchmarks.fresh import fresh
from benchmarks.songs import in_four_sections, random_chart
from benchmarks.window import window_figures
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.leading.answer import options
from yellow_hinge.core.song.timeline import timeline
found = solve_song(fresh(), timeline(parse_chart(random_chart(64))), Setup())
for i in range(len(found.voicings)): options(found, i)
status = open("/proc/self/status").read()  # the peak of this program alone, not of what started it
print(int(status.split("VmHWM:")[1].split()[0]) / 1024)
"""
    done = subprocess.run([sys.executable, "-c", code], check=True, capture_output=True, text=True)
    return float(done.stdout)


_RNG = random.Random(1)
HELD = [tuple(sorted(_RNG.sample(range(40, 80), _RNG.randint(3, 7)))) for _ in range(200)]


def naming() -> None:
    """Name every chord of HELD."""
    for midis in HELD:
        name_notes(midis, None, parse_key("C"))


BARE = """
from PySide6.QtWidgets import QApplication, QLabel, QMainWindow
from PySide6.QtCore import QTimer
class W(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event); QTimer.singleShot(0, lambda: __import__('os')._exit(0))
app = QApplication([]); w = W(); w.setCentralWidget(QLabel("Hello")); w.resize(1280, 800); w.show(); app.exec()
"""
ARRAYS = "import numpy"
VERB = "from yellow_hinge.cli.main import main; main({!r})"
OURS = """
import os, sys, tempfile
os.environ |= dict.fromkeys(("XDG_STATE_HOME", "XDG_CONFIG_HOME"), tempfile.mkdtemp())
from yellow_hinge.cli.main import main

class Watch:
    # Leaves when the widget has painted, solved or not; hooked in when Qt first asks for it, as the program starts.
    def find_spec(self, name, path=None, target=None):
        if name == "yellow_hinge.ui.files.files":  # one of the last to be loaded
            from PySide6.QtCore import QTimer
            from yellow_hinge.ui.parts.ribbon import Ribbon
            from yellow_hinge.ui.paint.strand.canvas import StrandCanvas
            def watched(widget, paint):
                def painted(self, event):
                    paint(self, event)
                    if not SOLVED or self.scene is not None and self.scene.columns:
                        QTimer.singleShot(0, lambda: os._exit(0))
                widget.paintEvent = painted
            kind = StrandCanvas if SOLVED else Ribbon
            watched(kind, kind.paintEvent)
sys.meta_path.insert(0, Watch())
main(["--demo"])
"""


def _once(code: str) -> tuple[float, float]:
    """Seconds of a process by the clock, and of its threads' processor time."""
    env = os.environ | {"QT_QPA_PLATFORM": PLATFORM}
    started, before = time.perf_counter(), resource.getrusage(resource.RUSAGE_CHILDREN)
    subprocess.run([sys.executable, "-c", code], env=env, check=True, capture_output=True)
    took, after = time.perf_counter() - started, resource.getrusage(resource.RUSAGE_CHILDREN)
    return took, after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime


def against(other: str, code: str, runs: int = 15) -> str:
    """A process against another, in turn, since the machine's speed drifts: medians of the pairs, as the table says
    them. Threads that work beside the window are in the processor time alone.
    """
    _once(code), _once(other)
    pairs = [(_once(code), _once(other)) for _ in range(runs)]
    clock, work = (statistics.median(a[n] / b[n] for a, b in pairs) for n in (0, 1))
    seconds = statistics.median(a[0] for a, _ in pairs)
    return f"x {clock:.2f} ({seconds:.2f} s; processor x {work:.2f})"


def starts(chart: str) -> list[tuple[str, str, str]]:
    """What starting costs: the window against one that holds a label, the verbs against loading NumPy."""
    compileall.compile_dir(str(Path(yellow_hinge.__file__).parent), quiet=2)  # as after one start
    path = Path(tempfile.mkdtemp()) / "song.txt"
    path.write_text(chart, encoding="utf-8")
    shown, solved = (against(BARE, f"SOLVED = {solved}\n{OURS}") for solved in (False, True))
    voice = VERB.format(["voice", str(path)])
    return [
        ("start to first paint, against a window with a label", shown, "x 1.9"),
        ("start to the solved demo on screen, against a window with a label", solved, "x 2.6"),
        ("`chord C7`, against loading NumPy", against(ARRAYS, VERB.format(["chord", "C7"])), "x 1.4"),
        ("`voice` of 64 chords, against loading NumPy", against(ARRAYS, voice, 7), "x 3"),
    ]


def whole_song(song: Song) -> float:
    """Median seconds of reharmonising a song at boldness 3, nothing known before."""
    return timed(lambda: bolder(fresh(), song, Setup(), (), 3), 3)


def rows() -> list[tuple[str, str, str]]:
    """(what, measured, wanted) of every figure."""
    hard, like = parse_chart(random_chart(64)), parse_chart(song_like_chart(64))
    solve_song(fresh(), timeline(hard), Setup())  # forms of the qualities, once a process
    solution = solve_song(fresh(), timeline(hard), Setup())
    chain = solution.lattice.chain
    ours, cost = timed(lambda: solve(chain)), solve(chain).cost
    short = fresh().lattice(timeline(hard)[:12], Setup(), ()).chain
    same = pairwise_viterbi(chain) == cost and networkx_path(short) == solve(short).cost
    long = parse_chart(random_chart(1000))
    t64, t1000 = first_solve(hard), first_solve(long)
    demo = demo_song("last-boat-to-marrow")
    free = freely(hard)
    seen = window_figures()
    return [
        ("64 unrelated chords, first solve", f"{t64 * 1e3:.0f} ms", "150 ms"),
        ("64 chords of a song, first solve", f"{first_solve(like) * 1e3:.0f} ms", "150 ms"),
        ("the demo song, first solve", f"{first_solve(demo) * 1e3:.0f} ms", ""),
        ("64 unrelated chords closed to a loop", f"{first_solve(hard, loop=True) * 1e3:.0f} ms", ""),
        ("one edit at 64 chords", f"{one_edit(hard) * 1e3:.0f} ms", "20 ms"),
        ("every family and free, 64 chords, first solve", f"{free[0]:.2f} s", "5 s"),
        ("its proven gap, share of its cost", f"{free[1]:.1%}", ""),
        ("64 unrelated chords, Outward", f"{first_solve(hard, style='Outward') * 1e3:.0f} ms", ""),
        ("options of a chord", f"{timed(lambda: options(solution, 30), 20) * 1e3:.1f} ms", "5 ms"),
        ("1000 chords against 64, per chord", f"x {t1000 / 1000 / (t64 / 64):.2f}", "x 1.3"),
        ("share of a first solve that is not the factorised step", f"{1 - ours / t64:.0%}", ""),
        ("all three find the same optimum", "yes" if same else "NO", "yes"),
        ("naming a held chord", f"{timed(naming, 5) / len(HELD) * 1e3:.2f} ms", "2 ms"),
        (
            "reading a symbol, cached",
            f"{timed(lambda: [parse_symbol('C13(b9,#11)/E') for _ in range(1000)]) * 1e3:.2f} us",
            "20 us",
        ),
        (
            "reading a symbol, not cached",
            f"{timed(lambda: [_parse.__wrapped__('C13(b9,#11)/E', None) for _ in range(1000)]) * 1e3:.1f} us",
            "20 us",
        ),
        *starts(song_like_chart(64)),
        ("a whole song of 64 bars at boldness 3", f"{whole_song(like):.2f} s", "2 s"),
        ("64 unrelated chords at boldness 3", f"{whole_song(hard):.2f} s", ""),
        ("painting the map, 200 chords", f"{seen['paint']:.1f} ms", "8 ms"),
        ("painting the map, 200 chords at once", f"{seen['paint fitted']:.1f} ms", "8 ms"),
        ("an edit at 64 chords until its hands are on screen", f"{seen['edit']:.0f} ms", "50 ms"),
        *figures(demo),
        *taking.figures(parse_chart(in_four_sections(128)), like),
        ("peak memory of a process that solves 64 chords", f"{peak_megabytes():.0f} MB", "300 MB"),
    ]


def main() -> None:
    """Print the table and write it."""
    table = rows()
    lines = ["| what | measured | wanted |", "|---|---|---|", *(f"| {a} | {b} | {c} |" for a, b, c in table)]
    head = f"{datetime.date.today()}, {platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}"
    text = f"# Benchmark results\n\nMade by `make bench`. {head}. Shared machine: trust ratios more than times.\n\n"
    stretches = subprocess.run(
        [sys.executable, "-m", "benchmarks.stretches"], check=True, capture_output=True, text=True
    )
    lines += ["", *stretches.stdout.splitlines()]
    print("\n".join(lines))
    Path(__file__).with_name("RESULTS.md").write_text(text + "\n".join(lines) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
