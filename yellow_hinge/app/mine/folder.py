"""Reading, writing and taking away the player's own entries. Each file is checked by itself: a bad one costs only
itself, and is said with its line and the reason.
"""

from __future__ import annotations

import os
import re
import tomllib
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple

import msgspec

from yellow_hinge.app.mine.kinds import BY_NAME, KINDS, Kind
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.own.checks import known
from yellow_hinge.io.files import write_atomic

ENDING, OFF = ".toml", "off"  # of the files; the folder of those that were taken away
MOST_FILES, LARGEST = 2000, 64_000  # files of a kind that are read, bytes of one


class Wrong(NamedTuple):
    """A file that is left out, with the line (0 for none) and the reason."""

    path: Path
    line: int
    reason: str

    def __str__(self) -> str:
        where = f"{self.path.parent.name}/{self.path.name}" + (f", line {self.line}" if self.line else "")
        return f"{where}: {self.reason}"


class Own(NamedTuple):
    """An entry, its kind and its file."""

    kind: str
    entry: Any
    path: Path

    @property
    def id(self) -> str:
        """Its id."""
        return BY_NAME[self.kind].own(self.entry)


class Mine(NamedTuple):
    """What a folder holds, in the order of kinds and of the files' names, and what is wrong with other files."""

    entries: tuple[Own, ...] = ()
    wrong: tuple[Wrong, ...] = ()

    def of(self, kind: str) -> tuple[Any, ...]:
        """The entries of a kind."""
        return tuple(own.entry for own in self.entries if own.kind == kind)


class BadEntryError(UserError):
    """A file that is no entry; `line` counts from 1, 0 where it is not known."""

    def __init__(self, reason: str, line: int = 0) -> None:
        super().__init__(reason)
        self.line = line


def read_mine(folder: Path, only: tuple[str, ...] = tuple(BY_NAME)) -> Mine:
    """The entries of a folder, of some kinds only where those are named. What names something that is not there is
    wrong too.
    """
    entries: list[Own] = []
    wrong: list[Wrong] = []
    for kind in KINDS:
        if kind.name in only:
            _read_kind(kind, folder / kind.folder, entries, wrong)
    there = Mine(tuple(entries))
    styles = {*STYLES, *(style.name for style in there.of("style"))} if "style" in only else None
    every = {*manners(), *(manner.id for manner in there.of("manner"))} if "manner" in only else None
    for own in there.entries:
        try:
            _known_there(own, styles, every)
        except UserError as error:
            entries.remove(own)
            wrong.append(Wrong(own.path, _line_of(_text(own.path), str(error)), str(error)))
    return Mine(tuple(entries), tuple(wrong))


def _read_kind(kind: Kind, folder: Path, entries: list[Own], wrong: list[Wrong]) -> None:
    try:
        paths = sorted(path for path in folder.iterdir() if path.suffix == ENDING)
    except OSError:
        return
    seen: set[str] = set()
    for path in paths[:MOST_FILES]:
        try:
            own = Own(kind.name, read_entry(kind, path), path)
            if own.id in seen:
                raise BadEntryError(f"{own.id} is there already")
        except BadEntryError as error:
            wrong.append(Wrong(path, error.line, str(error)))
            continue
        seen.add(own.id)
        entries.append(own)
    if len(paths) > MOST_FILES:
        wrong.append(Wrong(folder, 0, f"{len(paths) - MOST_FILES} more files were not read"))


def _known_there(own: Own, styles: set[str] | None, every: set[str] | None) -> None:
    if own.kind == "manner" and own.entry.style is not None and styles is not None:
        known("style", own.entry.style, sorted(styles))
    if own.kind == "substitute" and every is not None:
        for level, names in own.entry.likes.items():
            for name in names.split():
                known(f"likes.{level}", name, sorted(every))


# --- one file ---
def _text(path: Path) -> str:
    try:
        if not path.is_file():
            raise BadEntryError("is no file")
        if path.stat().st_size > LARGEST:
            raise BadEntryError("is far larger than an entry")
        return path.read_text("utf-8")
    except UnicodeDecodeError:
        raise BadEntryError("is no UTF-8 text") from None
    except OSError as error:
        raise BadEntryError(f"cannot be read ({error.strerror or error})") from None


def read_entry(kind: Kind, path: Path) -> Any:
    """The entry of a file. Raises BadEntryError."""
    text = _text(path)
    try:
        fields = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        line = re.search(r"line (\d+)", str(error))
        raise BadEntryError(str(error), int(line[1]) if line else text.count("\n") + 1) from None
    except (RecursionError, ValueError):
        raise BadEntryError("is nested too deeply, or holds a number that is none") from None
    if kind.name == "shelf":
        fields["mine"] = True
    strange = sorted(set(fields) - set(kind.entry.__struct_fields__))
    if strange:
        near = nearest(strange[0], kind.entry.__struct_fields__)
        hint = f"; did you mean {near!r}?" if near else ""
        raise BadEntryError(f"{strange[0][:30]!r} is no field of a {kind.name}{hint}", _line_of(text, strange[0]))
    try:
        return msgspec.convert(fields, kind.entry)
    except (msgspec.ValidationError, UserError, RecursionError, OverflowError) as error:
        said = str(error)
        at = re.search(r" - at `\$(.*)`$", said)
        raise BadEntryError(
            said[: at.start()] if at else said, _line_of(text, f"{at[1]}: {said}" if at else said)
        ) from None


def _line_of(text: str, said: str) -> int:
    """The line (from 1) of what a sentence begins with, or of a path such as ".recipe[1].made"; 0 where none has it."""
    words = re.findall(r"[A-Za-z_]\w*|\[\d+\]", said.partition(":")[0])
    rows, at, found = text.splitlines(), 0, 0
    for word in words[:4]:
        if word.startswith("["):
            continue
        times = next((int(after[1:-1]) for after in words[words.index(word) + 1 :][:1] if after.startswith("[")), 0)
        begins = re.compile(rf"\s*(?:\[+\s*(?:\w+\.)*)?\"?{re.escape(word)}\"?\s*[=\].]")
        places = [n for n, row in enumerate(rows[at:], at) if begins.match(row)]
        if places:
            at = places[min(times, len(places) - 1)]
            found = at + 1
    return _quoted_line(rows, at, said) or found


def _quoted_line(rows: list[str], at: int, said: str) -> int:
    """The line from a place on that holds what a sentence quotes; 0 for none."""
    quoted = re.search(r"'([^']+)'", said)
    if quoted is None:
        return 0
    return next((n for n, row in enumerate(rows[at:], at + 1) if quoted[1] in row and not row.startswith("#")), 0)


# --- writing ---
def put_entry(folder: Path, kind: str, entry: Any, instead: bool = False) -> Path:
    """Write an entry to a file of its own, over the one of the same id where `instead` says so, else under a name that
    is free. Raises UserError where that cannot be.
    """
    own = BY_NAME[kind]
    place = folder / own.folder
    there = {known_.id: known_.path for known_ in read_mine(folder, (kind,)).entries}
    try:
        place.mkdir(parents=True, exist_ok=True)
        if instead and own.own(entry) in there:
            path = there[own.own(entry)]
        else:
            name, path = next(_free(place, own.own(entry), set(there)))
            field = "id" if "id" in entry.__struct_fields__ else "name"
            entry = msgspec.structs.replace(entry, **{field: name})
        write_atomic(path, msgspec.toml.encode(_written(entry)))
    except OSError as error:
        raise UserError(f"{place} cannot be written ({error.strerror or error})") from None
    return path


def _free(place: Path, own: str, taken: set[str]) -> Iterator[tuple[str, Path]]:
    """Ids and files that are free, the plain one first."""
    number = 1
    while True:
        name = own if number == 1 else f"{own}-{number}"
        path = place / f"{_file_name(name)}{ENDING}"
        if name not in taken and not path.exists():
            yield name, path
        number += 1


def _file_name(own: str) -> str:
    """An id as a file's name, wherever it is copied to."""
    return re.sub(r"[^\w-]+", "-", own).strip("-")[:80] or "mine"


def _written(entry: Any) -> dict[str, Any]:
    """The fields of an entry that are not the usual ones, as TOML has them."""
    found: dict[str, Any] = {}
    for field in msgspec.structs.fields(entry):
        value = getattr(entry, field.name)
        if field.name != "mine" and value is not None and (field.required or value != field.default):
            found[field.encode_name] = msgspec.to_builtins(value)
    return found


def take_away(folder: Path, kind: str, own: str) -> Path | None:
    """Put the file of an entry into the folder of those taken away, where it is kept and not read; where it is now,
    None where there is no such entry. Raises UserError where that cannot be.
    """
    path = next((each.path for each in read_mine(folder, (kind,)).entries if each.id == own), None)
    if path is None:
        return None
    off, number = path.parent / OFF / path.name, 2
    try:
        off.parent.mkdir(exist_ok=True)
        while off.exists():
            off, number = path.parent / OFF / f"{path.stem}-{number}{ENDING}", number + 1
        return path.rename(off)
    except OSError as error:
        raise UserError(f"{path.name} cannot be taken away ({error.strerror or error})") from None


def marks(folder: Path) -> tuple[tuple[str, int, int], ...]:
    """What tells that a folder's files are others than before: their names, sizes and times."""
    found = []
    for kind in KINDS:
        try:
            with os.scandir(folder / kind.folder) as rows:
                for row in rows:
                    if row.name.endswith(ENDING):
                        stat = row.stat()
                        found.append((f"{kind.folder}/{row.name}", stat.st_size, stat.st_mtime_ns))
        except OSError:
            continue
    return tuple(sorted(found))


def put_example(folder: Path, kind: str) -> Path:
    """Write the example of a kind under a name that is free, to be changed. Raises UserError where that cannot be."""
    own = BY_NAME[kind]
    place = folder / own.folder
    taken = {each.id for each in read_mine(folder, (kind,)).entries}
    plain = str(own.own(msgspec.convert(tomllib.loads(own.example), own.entry)))
    try:
        place.mkdir(parents=True, exist_ok=True)
        name, path = next(_free(place, plain, taken))
        write_atomic(path, own.example.replace(f'"{plain}"', f'"{name}"', 1).encode())
    except OSError as error:
        raise UserError(f"{place} cannot be written ({error.strerror or error})") from None
    return path
