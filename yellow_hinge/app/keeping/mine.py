"""The player's own entries as small files in one folder: one entry a file, each checked when it is read; a bad file
costs only itself, and is said.
"""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.reharm.shelf import ShelfEntry
from yellow_hinge.io.files import write_atomic

ENDING, OFF = ".toml", "off"  # of the files; the folder of those that were taken off the shelf
MOST_FILES, LARGEST = 2000, 64_000  # files that are read, bytes of one


class Mine(NamedTuple):
    """What a folder holds: the entries of the shelf, and what is wrong with other files, a sentence each."""

    shelf: tuple[ShelfEntry, ...] = ()
    wrong: tuple[str, ...] = ()


def read_mine(folder: Path) -> Mine:
    """The entries of a folder, in the order of their files' names; one of each id."""
    found: dict[str, ShelfEntry] = {}
    wrong: list[str] = []
    try:
        paths = sorted(path for path in folder.iterdir() if path.suffix == ENDING)
    except OSError:
        return Mine()
    for path in paths[:MOST_FILES]:
        try:
            entry = _entry(path)
        except UserError as error:
            wrong.append(f"{path.name}: {error}")
            continue
        if entry.id in found:
            wrong.append(f"{path.name}: {entry.id} is there already")
            continue
        found[entry.id] = entry
    if len(paths) > MOST_FILES:
        wrong.append(f"{len(paths) - MOST_FILES} more files were not read")
    return Mine(tuple(found.values()), tuple(wrong))


def _entry(path: Path) -> ShelfEntry:
    try:
        if path.stat().st_size > LARGEST:
            raise UserError("is far larger than an entry")
        text = path.read_text("utf-8")
        return msgspec.structs.replace(msgspec.convert(tomllib.loads(text), ShelfEntry), mine=True)
    except tomllib.TOMLDecodeError as error:
        raise UserError(str(error)) from None
    except (msgspec.ValidationError, UnicodeDecodeError, RecursionError) as error:
        raise UserError(f"is no entry: {error}") from None
    except OSError as error:
        raise UserError(f"cannot be read ({error.strerror or error})") from None


def put_on_shelf(folder: Path, entry: ShelfEntry) -> Path:
    """Write an entry to a file of its own, under a name that is free. Raises UserError where that cannot be."""
    taken = {own.id for own in read_mine(folder).shelf}
    own, number = entry.id, 2
    while own in taken or (folder / f"{own}{ENDING}").exists():
        own, number = f"{entry.id}-{number}", number + 1
    try:
        folder.mkdir(parents=True, exist_ok=True)
        path = folder / f"{own}{ENDING}"
        write_atomic(path, _written(msgspec.structs.replace(entry, id=own)).encode())
    except OSError as error:
        raise UserError(f"the shelf cannot be written ({error.strerror or error})") from None
    return path


def _written(entry: ShelfEntry) -> str:
    """An entry as a small TOML file."""
    head = "".join(f"{name} = {_quoted(getattr(entry, name))}\n" for name in ("id", "name", "words", "manner", "kind"))
    return f"{head}chords = [\n{_lines(entry.chords)}]\n"


def _lines(chords: Sequence[str]) -> str:
    return "".join(f"    {_quoted(chord)},\n" for chord in chords)


def _quoted(text: str) -> str:
    """A TOML string; msgspec's JSON strings are such."""
    return msgspec.json.encode(text).decode()


def take_off_shelf(folder: Path, own: str) -> Path | None:
    """Put the file of an entry into the folder of those taken off, where it is kept and not read; where it is now,
    None where there is no such entry. Raises UserError where that cannot be.
    """
    for path in sorted(folder.glob(f"*{ENDING}")):
        try:
            if _entry(path).id == own:
                off, number = folder / OFF / path.name, 2
                off.parent.mkdir(exist_ok=True)
                while off.exists():
                    off, number = folder / OFF / f"{path.stem}-{number}{ENDING}", number + 1
                return path.rename(off)
        except OSError as error:
            raise UserError(f"{path.name} cannot be taken away ({error.strerror or error})") from None
        except UserError:
            continue
    return None
