"""The songs of some folders: what a player looks for in each, read from the files, none of which is written."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from pathlib import Path
from typing import NamedTuple

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.performing import clock_of
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.takes.take import Whole
from yellow_hinge.io.files import FileFault, digest, read_bytes
from yellow_hinge.io.formats import FORMATS
from yellow_hinge.io.opening import read_data

READ = frozenset(ending for kind in FORMATS if kind.read is not None for ending in kind.endings) | {".chart"}
TAGS = "tags"  # what a song's own lines call them
MOST = 20_000  # files that are looked at


class SongRow(NamedTuple):
    """A song of the book: its id (its document's, or what its file holds), what it says of itself, how long it is in
    minutes, where it lies, and what is wrong with it.
    """

    id: str
    title: str
    key: str
    tempo: int
    minutes: float
    manner: str
    tags: tuple[str, ...]
    path: str
    problem: str | None = None
    words: str = ""  # what else is searched: sections and cue words

    @property
    def read(self) -> bool:
        """Whether there is a song; a problem may be said of one all the same."""
        return self.tempo > 0

    def has(self, text: str) -> bool:
        """Whether every word of a text is found in it, whatever the case."""
        own = " ".join((self.title, self.key, self.manner, *self.tags, self.words)).casefold()
        return all(word in own for word in text.casefold().split())


def song_paths(folders: Sequence[Path]) -> Iterator[Path]:
    """The files of some folders, and of those inside them, that a reader may open. Raises FileFault for no folder."""
    count = 0
    for folder in folders:
        if not folder.is_dir():
            raise FileFault(str(folder), "is no folder")
        for path in sorted(folder.rglob("*")):
            if path.suffix.lower() in READ and path.is_file() and not path.name.startswith("."):
                count += 1
                if count > MOST:
                    return
                yield path


def song_row(path: Path) -> SongRow:
    """A song as its file says it; a damaged one is a row that says so."""
    try:
        opened = read_data(read_bytes(path), path.name)
    except (ChartError, UserError) as error:
        return SongRow(digest(path) or str(path), path.stem, "", 0, 0.0, "", (), str(path), str(error))
    whole = opened.file
    own = whole.document or digest(path) or str(path)
    return SongRow(own, *facts_of(whole), str(path), None, _words(whole))


def facts_of(whole: Whole) -> tuple[str, str, int, float, str, tuple[str, ...]]:
    """(title, key, tempo, minutes, manner, tags) of a song."""
    song, moments = whole.song, timeline(whole.song)
    length = max((ticks(moment.quarter + moment.quarters) for moment in moments), default=0)
    minutes = round(float(clock_of(song, moments).seconds(length)) / 60, 2)
    said = next((value for name, value in song.extra if name.lower() == TAGS), "")
    tags = tuple(tag.strip() for tag in said.split(",") if tag.strip())
    manner = song.asked("manner") or str(whole.setup.manner or "")
    return song.title, song.key, song.tempo, minutes, manner, tags


def _words(whole: Whole) -> str:
    names = [section.name for section in whole.song.sections]
    cues = [slot.cue for section in whole.song.sections for bar in section.bars for slot in bar.slots if slot.cue]
    return " ".join((*names, *cues))


def songbook(folders: Sequence[Path], find: str = "") -> list[SongRow]:
    """The songs of some folders by their titles, those that have every word of `find`; two files of one id are said."""
    return [row for row in by_title(song_row(path) for path in song_paths(folders)) if row.has(find)]


def by_title(rows: Iterable[SongRow]) -> list[SongRow]:
    """Songs by their titles; two files of one id are said."""
    first: dict[str, str] = {}
    found = []
    for row in sorted(rows, key=lambda row: (row.title.casefold(), row.path)):
        there = first.setdefault(row.id, row.path)
        doubled = there != row.path and row.problem is None
        found.append(row._replace(problem=f"the same song as {there}") if doubled else row)
    return found
