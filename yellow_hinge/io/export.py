"""Writing a solved song to a file, the kind by its ending, and never over a song."""

from __future__ import annotations

from pathlib import Path

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.io.files import FileFault, read_bytes, same_file, write_atomic
from yellow_hinge.io.formats import WRITERS, opens_as
from yellow_hinge.io.song_json import SongFile


class WouldOverwriteError(FileFault):
    """An export would write over a song. `why` says what stands there."""

    def __init__(self, name: str, why: str) -> None:
        self.why = why
        super().__init__(name, f"{why}; it was not written over")


def check_target(path: Path, source: Path | None) -> None:
    """Refuse to write over the file a song came from, or over anything that opens as a song or chart and that this
    program did not export. Raises WouldOverwriteError.
    """
    if not path.exists():
        return
    if source is not None and same_file(path, source):
        raise WouldOverwriteError(str(path), "this is the file that the song comes from")
    try:
        found = opens_as(read_bytes(path), path.name)
    except FileFault:
        return  # what cannot be read is no song; writing says what is wrong with it
    if found:
        raise WouldOverwriteError(str(path), f"this is {found}")


def export(path: Path, file: SongFile, solution: Solution, source: Path | None = None, force: bool = False) -> None:
    """Write the solved song to `path`, by its ending. `source` is the file it came from; `force` writes over songs.
    Raises FileFault, WouldOverwriteError among them.
    """
    kind = WRITERS.get(path.suffix.lower())
    if kind is None or kind.write is None:
        raise FileFault(str(path), f"the ending {path.suffix!r} is not known; use one of {', '.join(WRITERS)}")
    if not force:
        check_target(path, source)
    write_atomic(path, kind.write(file, solution))
