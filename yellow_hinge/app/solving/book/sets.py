"""A set: the songs of one evening in their order, each in its key and take for tonight, as a small open file."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from itertools import pairwise
from pathlib import Path
from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.asking import in_key
from yellow_hinge.app.edits.state import State, alone, file_of, state_of
from yellow_hinge.app.edits.takes import mix_state, switched, take_named
from yellow_hinge.app.solving.book.songbook import facts_of, song_paths, song_row
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.chain.stage import way_between
from yellow_hinge.core.leading.prices.hinge import hinge_words, make_hinge
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.order import OrderRow, order_pages
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.export import export
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic
from yellow_hinge.io.opening import read_data

SOUNDS = ("mid", "wav")  # what a song of a set is written as
FORMAT, VERSION, ENDING, MIX = "yellow-hinge-set", 1, ".set", "mix"
MOST_SONGS, LARGEST = 500, 1 << 20  # bytes of a set
_FOOT = re.compile(r"\d+ of \d+")


class SetSong(msgspec.Struct, frozen=True):
    """A song of a set: its id, where it lies (from the set's folder), its key and take for tonight ("" as it is), and
    a note that stands before it.
    """

    id: str = ""
    path: str = ""
    key: str = ""
    take: str = ""
    note: str = ""


class SongSet(msgspec.Struct, frozen=True):
    """The songs in their order. Fields of other versions are forgiven."""

    title: str = "Tonight"
    songs: tuple[SetSong, ...] = ()
    format: str = FORMAT
    version: int = VERSION

    def __post_init__(self) -> None:
        if self.format != FORMAT:
            raise UserError(f"{self.format[:30]!r} is no set")
        if len(self.songs) > MOST_SONGS:
            raise UserError(f"a set holds {MOST_SONGS} songs")


class Tonight(NamedTuple):
    """A song of a set as it is played: where it was found, solved in its key and take; `problem` says why it is not.
    `takes` are the names of all that its file has, `whole` has them.
    """

    song: SetSong
    title: str
    key: str
    minutes: float
    path: Path | None = None
    state: State | None = None
    solution: Solution | None = None
    problem: str | None = None
    tempo: int = 0
    takes: tuple[str, ...] = ()
    whole: State | None = None


class Join(NamedTuple):
    """From one song to the next: semitones of the hands, and what changes in words."""

    motion: int
    words: str


def schema() -> dict[str, object]:
    """The JSON schema of a set, as docs/set.schema.json has it."""
    made = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Yellow Hinge set"}
    return made | msgspec.json.schema(SongSet)


def read_set(path: Path) -> SongSet:
    """A set of a file. Raises FileFault."""
    try:
        found: SongSet = msgspec.json.decode(read_bytes(path, LARGEST), type=SongSet)
    except (msgspec.ValidationError, msgspec.DecodeError, UnicodeDecodeError, RecursionError, UserError) as error:
        raise FileFault(str(path), f"is no set: {error}") from None
    if found.version > VERSION:
        raise FileFault(str(path), "was saved by a newer version of the program")
    return found


def write_set(path: Path, songs: SongSet) -> None:
    """Write a set whole, or not at all. Raises FileFault."""
    write_atomic(path, msgspec.json.format(msgspec.json.encode(songs), indent=1) + b"\n")


def set_song(path: Path, folder: Path, key: str = "", take: str = "") -> SetSong:
    """A song of a file for a set in a folder. Raises UserError for what is no song, no key, or no take of it."""
    row = song_row(path)
    if row.problem is not None:
        raise FileFault(str(path), row.problem)
    made = SetSong(row.id, beside(path, folder), key, take)
    played = tonight(made, folder, Builder())
    if played.problem is not None:
        raise FileFault(str(path), played.problem)
    return made


def beside(path: Path, folder: Path) -> str:
    """Where a song lies, as a set in a folder says it."""
    try:
        return path.resolve().relative_to(folder.resolve()).as_posix()
    except ValueError:
        return str(path.resolve())


def _found(song: SetSong, folder: Path) -> Path | None:
    """Where a song lies: at its path, else anywhere beside the set under its id."""
    path = folder / song.path
    if path.is_file():
        return path
    return next((other for other in song_paths([folder]) if song.id and song_row(other).id == song.id), None)


def tonight(song: SetSong, folder: Path, builder: Builder) -> Tonight:
    """A song of a set as it is played; what keeps it from being played is its problem."""
    path = _found(song, folder)
    if path is None:
        return Tonight(song, Path(song.path).stem, song.key, 0.0, problem=f"is not at {song.path}")
    try:
        opened = read_data(read_bytes(path), path.name)
        there = state_of(opened.file, opened.text)
        state = _as_asked(there, song)
        solution = solve_song(builder, timeline(state.song), state.asked, state.standing)
    except UserError as error:
        return Tonight(song, path.stem, song.key, 0.0, path, problem=str(error))
    title, key, tempo, minutes, *_ = facts_of(state)
    takes = tuple(own.name for own in there.takes)
    return Tonight(song, title, key, minutes, path, state, solution, None, tempo, takes, there)


def check(song: SetSong, takes: Sequence[str]) -> None:
    """See that a song of these takes can be played as a set asks. Raises UserError."""
    if song.key:
        parse_key(song.key)
    if song.take and song.take.strip().casefold() not in {MIX, *(name.casefold() for name in takes)}:
        raise UserError(f"{song.take[:30]!r} is not a take of this song; there are {', '.join(takes)}, and {MIX}")


def _as_asked(state: State, song: SetSong) -> State:
    """A song in its take and key for tonight. Raises UserError."""
    check(song, [own.name for own in state.takes])
    if song.take.strip().casefold() == MIX:
        state = mix_state(state)
    elif song.take:
        take = take_named(state, song.take)
        assert take is not None  # checked
        state = alone(switched(state, take.id))
    return in_key(state, parse_key(song.key)) if song.key else state


Played = dict[tuple[str, str, str, str, int, int], Tonight]  # by path, id, key and take, and the file's time and size


def evening(
    songs: SongSet, folder: Path, told: Callable[[int], None] = lambda count: None, known: Played | None = None
) -> list[Tonight]:
    """Every song of a set as it is played; `told` hears how many are done. What is `known` of files that have not
    changed is not solved again, and what is new comes to it.
    """
    builder, found, known = Builder(), list[Tonight](), {} if known is None else known
    for count, song in enumerate(songs.songs, 1):
        asked = _as_known(song, folder)
        own = known.get(asked) if asked is not None else None
        own = own._replace(song=song) if own is not None else tonight(song, folder, builder)
        if asked is not None:
            known[asked] = own
        found.append(own)
        told(count)
    return found


def _as_known(song: SetSong, folder: Path) -> tuple[str, str, str, str, int, int] | None:
    try:
        there = (folder / song.path).stat()
    except OSError:
        return None
    return str(folder / song.path), song.id, song.key, song.take, there.st_mtime_ns, there.st_size


def joins(row: Sequence[Tonight]) -> list[Join]:
    """From each song to the next, those that are played."""
    played = [own for own in row if own.solution is not None and own.solution.voicings]
    return [_join(one, other) for one, other in pairwise(played)]


def _join(one: Tonight, other: Tonight) -> Join:
    assert one.solution is not None
    assert other.solution is not None
    last, first = one.solution.voicings[-1], other.solution.voicings[0]
    way = way_between(one.solution.lattice.places[-1], other.solution.lattice.places[0])
    hinge = make_hinge(last.both, first.both, other.solution.setup.mine, way)
    said = [hinge_words(hinge, last.both, first.both, (last.chord, first.chord))]
    for old, new in ((one.key, other.key), (f"{one.tempo} beats", f"{other.tempo} beats")):
        if old != new:
            said.insert(0, f"{old} to {new}.")
    return Join(hinge.motion, " ".join(said))


def total(row: Sequence[Tonight]) -> float:
    """Minutes of all songs."""
    return round(sum(own.minutes for own in row), 2)


def write_songs(
    row: Sequence[Tonight], folder: Path, kind: str, told: Callable[[int], None] = lambda count: None
) -> int:
    """Every song that can be played as a file of a kind out of SOUNDS in a folder, in tonight's key and take, numbered;
    how many. `told` hears how many are done. Raises UserError.
    """
    count = 0
    for number, own in enumerate(row, 1):
        told(number)
        if own.state is not None and own.solution is not None:
            name = "".join(sign if sign.isalnum() or sign in " -_" else "-" for sign in own.title).strip()
            export(folder / f"{number:02} {name}.{kind}", file_of(own.state), own.solution)
            count += 1
    return count


def set_pages(songs: SongSet, row: Sequence[Tonight], ask: SheetAsk) -> tuple[Page, ...]:
    """The order of a set, and its sheets one after the other, numbered through; what cannot be played has no page."""
    pages = list(order_pages(songs.title, _listed(row), clock(total(row)), ask))
    for own in row:
        if own.state is not None and own.solution is not None:
            take = own.song.take or own.state.name
            pages += sheet_pages(file_of(own.state), own.solution, ask, take=take)
    return tuple(_numbered(page, number, len(pages)) for number, page in enumerate(pages, 1))


def _listed(row: Sequence[Tonight]) -> list[OrderRow]:
    return [
        OrderRow(
            pretty_signs(own.title), own.problem or pretty_signs(f"{own.key}, {own.tempo}"),
            "" if own.problem else clock(own.minutes), own.song.take, own.song.note,
        )
        for own in row
    ]  # fmt: skip


def clock(minutes: float) -> str:
    """Minutes and seconds, such as 3:05."""
    whole, seconds = divmod(round(minutes * 60), 60)
    return f"{whole}:{seconds:02}"


def _numbered(page: Page, number: int, count: int) -> Page:
    """A page with its number in all of them at its foot."""
    texts = tuple(
        msgspec.structs.replace(text, words=f"{number} of {count}", w=text.w + 8, x=text.x - 8)
        if text.align == "right" and _FOOT.fullmatch(text.words)
        else text
        for text in page.texts
    )
    found: Page = msgspec.structs.replace(page, texts=texts)
    return found
