"""Many files at once: each read, reported and written as another kind of file; one that is refused stops no other."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Literal, NamedTuple

from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.export import export
from yellow_hinge.io.files import FileFault, read_bytes
from yellow_hinge.io.opening import read_data

Result = Literal["right", "guessed", "refused"]
KINDS = ("hinge", "pdf", "musicxml", "mid", "cho", "chart")


class Converted(NamedTuple):
    """What came of a file: what it was written as ("" for nothing), whether it was read as it is, partly guessed or
    refused, and what is said of it.
    """

    path: str
    to: str
    result: Result
    said: tuple[str, ...]


def converted(
    paths: Sequence[Path], folder: Path, kind: str = KINDS[0], told: Callable[[int], bool] = lambda count: False
) -> Iterator[Converted]:
    """Every file as a file of a kind in a folder, under its own name or, where that is taken, the next free one. `told`
    hears how many are done, and says yes where no more are wanted. Raises UserError for no kind, and where the folder
    cannot be made.
    """
    if kind not in KINDS:
        raise UserError(f"{kind[:20]!r} is no kind to convert to; there are {', '.join(KINDS)}")
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FileFault(str(folder), f"cannot be made ({error.strerror or error})") from None
    builder = Builder()
    for count, path in enumerate(paths):
        if told(count):
            return
        yield _one(path, folder, kind, builder)


def looked_at(paths: Sequence[Path], told: Callable[[int], bool] = lambda count: False) -> Iterator[Converted]:
    """Every file as it would be read, none of which is written; `told` as in `converted`."""
    for count, path in enumerate(paths):
        if told(count):
            return
        try:
            report = read_data(read_bytes(path), path.name).report
        except UserError as error:
            yield Converted(str(path), "", "refused", (str(error),))
        else:
            yield Converted(str(path), "", "guessed" if report else "right", report)


def _one(path: Path, folder: Path, kind: str, builder: Builder) -> Converted:
    try:
        opened = read_data(read_bytes(path), path.name)
        state = state_of(opened.file, opened.text)
        solution = solve_song(builder, timeline(state.song), state.asked, state.standing)
        target = _free(folder, path.stem, f".{kind}")
        export(target, file_of(state), solution)
    except UserError as error:
        return Converted(str(path), "", "refused", (str(error),))
    return Converted(str(path), str(target), "guessed" if opened.report else "right", opened.report)


def _free(folder: Path, stem: str, ending: str) -> Path:
    """A path in a folder that nothing has."""
    target, number = folder / f"{stem}{ending}", 2
    while target.exists():
        target, number = folder / f"{stem}-{number}{ending}", number + 1
    return target
