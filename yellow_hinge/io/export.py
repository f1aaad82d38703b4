"""Writing a solved song to a file, the kind by its ending, and never over a song."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.io.files import FileFault, is_there, read_bytes, same_file, write_atomic
from yellow_hinge.io.formats import PAGES, USUAL, WRITERS, Told, Wants, opens_as, page_bytes
from yellow_hinge.io.songs.migrations import SongFile


class WouldOverwriteError(FileFault):
    """An export would write over a song. `why` says what stands there."""

    def __init__(self, name: str, why: str) -> None:
        self.why = why
        super().__init__(name, f"{why}; it was not written over")


def check_target(path: Path, source: Path | None) -> None:
    """Refuse to write over the file a song came from, or over anything that opens as a song or chart and that this
    program did not export. Raises WouldOverwriteError.
    """
    if not is_there(path):
        return
    if source is not None and same_file(path, source):
        raise WouldOverwriteError(str(path), "this is the file that the song comes from")
    try:
        found = opens_as(read_bytes(path), path.name)
    except FileFault:
        return  # what cannot be read is no song; writing says what is wrong with it
    if found:
        raise WouldOverwriteError(str(path), f"this is {found}")


def page_paths(path: Path, count: int) -> list[Path]:
    """The files of so many pages: the path itself for one, "name-1.svg", "name-2.svg" for more."""
    return [path] if count == 1 else [path.with_stem(f"{path.stem}-{number}") for number in range(1, count + 1)]


def export(
    path: Path, file: SongFile, solution: Solution, source: Path | None = None, force: bool = False,
    wants: Wants = USUAL,
) -> list[Path]:  # fmt: skip
    """Write the solved song to `path`, by its ending, or its pages to files beside it; the files written. `source` is
    the file it came from; `force` writes over songs. Raises FileFault, WouldOverwriteError among them, and
    OvertakenError where it is wanted no more.
    """
    kind = WRITERS.get(path.suffix.lower())
    write = kind.write if kind is not None else None
    if write is None:
        raise FileFault(str(path), f"the ending {path.suffix!r} is not known; use one of {', '.join(WRITERS)}")
    if not force:
        check_target(path, source)
    return _written(path, lambda told: write(file, solution, wants._replace(told=told)), source, force, wants.told)


def export_pages(
    path: Path, title: str, pages: tuple[Page, ...], source: Path | None = None, force: bool = False,
    told: Told = USUAL.told,
) -> list[Path]:  # fmt: skip
    """Write pages to `path` (.pdf), or each to a file beside it (.svg, .png); the files written. Raises as `export`."""
    ending = path.suffix.lower()
    if ending not in PAGES:
        raise FileFault(str(path), f"pages end in one of {', '.join(PAGES)}")
    return _written(path, lambda inner: page_bytes(ending, pages, title, inner), source, force, told)


def _written(
    path: Path, make: Callable[[Told], bytes | tuple[bytes, ...]], source: Path | None, force: bool, told: Told
) -> list[Path]:
    stopped: list[bool] = []

    def heard(share: float) -> bool:
        if not stopped and told(share):
            stopped.append(True)
        return bool(stopped)

    data = make(heard)
    if stopped:
        raise OvertakenError
    pages = data if isinstance(data, tuple) else (data,)
    paths = page_paths(path, len(pages))
    if not force:
        for one in paths:
            check_target(one, source)
    for one, content in zip(paths, pages, strict=True):
        write_atomic(one, content)
    return paths
