"""Kill a process that reads a songbook, writes its set and goes on stage, and see that nothing kept is lost.

`python -m tests.kills.book COUNT [SEED]`: each time the songs are bit for bit as they were, the set is one that was
written whole, the index is read or made anew, and the mark of the stage is a whole one.
"""

import random
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from yellow_hinge.app.keeping.settings import ONSTAGE
from yellow_hinge.app.onstage.mark import Mark, StageMark
from yellow_hinge.app.solving.book.finding import BookReader
from yellow_hinge.app.solving.book.index import BookIndex
from yellow_hinge.app.solving.book.sets import SetSong, SongSet, read_set, write_set
from yellow_hinge.io.songs.demo import put_book

SONGS = 40


def begin(folder: Path) -> dict[str, bytes]:
    """A folder of many songs; what is in each."""
    put_book(folder)
    text = (folder / "ropewalk.chart").read_text()
    for number in range(SONGS):
        (folder / f"walk-{number}.chart").write_text(text.replace("Ropewalk", f"Ropewalk {number}"))
    return {path.name: path.read_bytes() for path in folder.iterdir() if path.suffix != ".set"}


def work(folder: Path, state: Path) -> None:
    """Read the songs anew again and again, write sets that know their length, and marks, without a pause."""
    songs, mark = tuple(SetSong(path=f"walk-{number}.chart") for number in range(11)), StageMark(state)
    for turn in range(10**9):
        for path in folder.glob("walk-*.chart"):
            path.touch()
        reader = BookReader(lambda found: None, "killed", BookIndex(state))
        reader.ask([folder])
        print(turn, flush=True)
        for count in range(200):
            some = SongSet(f"{count % (len(songs) + 1)} songs", songs[: count % (len(songs) + 1)])
            write_set(folder / "tonight.set", some)
            mark.put(Mark(SongSet(songs=songs), str(folder), count % len(songs), count))
        reader.close()


def kill(folder: Path, state: Path, seed: str, before: dict[str, bytes]) -> str:
    """Start, kill, and look; what was left. Raises AssertionError."""
    process = subprocess.Popen(
        [sys.executable, "-m", "tests.kills.book", "work", str(folder), str(state)], stdout=subprocess.PIPE
    )
    assert process.stdout is not None
    process.stdout.readline()
    time.sleep(random.Random(seed).uniform(0.0, 2.5))
    assert process.poll() is None, "it ended by itself"
    process.send_signal(signal.SIGKILL)
    process.wait()
    after = {path.name: path.read_bytes() for path in folder.iterdir() if path.suffix in (".chart", ".hinge")}
    assert after == before, "a song was changed"
    songs = read_set(folder / "tonight.set")
    assert songs.title in {f"{len(songs.songs)} songs", "Evening boat"}, "a set was written in part"
    known = BookIndex(state).known()
    assert all(Path(path).name in before for path in known)
    mark = StageMark(state).read()
    assert mark is not None or not (state / ONSTAGE).exists(), "a mark was written in part"
    return (
        f"{len(known)} songs in the index, a set of {len(songs.songs)}, the stage at {mark.at if mark else 'nothing'}"
    )


def main(count: int, seed: int) -> None:
    with tempfile.TemporaryDirectory() as place:
        folder, state = Path(place) / "songs", Path(place) / "state"
        before = begin(folder)
        state.mkdir()
        for number in range(count):
            print(f"kill {number + 1}: {kill(folder, state, f'{seed}-{number}', before)}", flush=True)
    print(f"{count} kills: nothing was lost")


if __name__ == "__main__":
    if sys.argv[1] == "work":
        work(Path(sys.argv[2]), Path(sys.argv[3]))
    else:
        main(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1)
