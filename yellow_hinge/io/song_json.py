"""The program's own song file: JSON with a version, the song, the player's setup and keeps, and text still at fault."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.core.chart_text import MAX_BARS
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.following import Piece, numbered
from yellow_hinge.core.leading.keeps import Keep
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.rhythm.asks import Playing
from yellow_hinge.core.road import check_signs
from yellow_hinge.core.song import TEMPOS, Memo, Song, Was
from yellow_hinge.core.take import Choice, Take
from yellow_hinge.core.timeline import check_length, timeline
from yellow_hinge.core.words import plain_song
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.song_places import in_letters, with_named

FORMAT = "yellow-hinge-song"
VERSION = 10
FIRST_TAKE = "Take 1"
MOST_TAKES = 24


def _from_1(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 2 only added fields with defaults: endings, own keys and meters, pickup, ties, kept lines."""
    return fields


def _from_2(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 3 only added fields with defaults: wishes, held tops, the melody's place, the singer, own shapes, parts
    of a keep.
    """
    return fields


def _from_3(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 4 only added a field with a default: what chords were before."""
    return fields


def _from_5(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 6 has who plays apart from what is asked, and manners."""
    first = {
        "style": "Smoothest",
        "melody": "free",
        "fullness": [0, 0],
        "right": "plays",
    }  # was written without being said
    setup = {name: value for name, value in fields.get("setup", {}).items() if first.get(name) != value}
    player = {name: setup.pop(name) for name in ("hands", "singer", "shapes") if name in setup}
    return fields | {"setup": setup | {"player": player}}


def _from_6(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 7 only added a field with a default: how the song is played."""
    return fields


def _from_7(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 8 only added fields with defaults: takes, their mix, and what is kept and asked of one pass."""
    return fields


def _from_8(fields: dict[str, Any]) -> dict[str, Any]:
    """Version 9 only added a field with a default: the player's notes on chords and song."""
    return fields


# How a file of each older version becomes one of the next.
MIGRATIONS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    1: _from_1, 2: _from_2, 3: _from_3, 4: with_named, 5: _from_5, 6: _from_6, 7: _from_7, 8: _from_8, 9: in_letters,
}  # fmt: skip


class SongFile(msgspec.Struct, frozen=True):
    """All that is saved of one song. `draft` is chart text that could not be read yet, as typed, or ""; `was` what
    chords were before, `gone` where things stood that the player kept and an edit took away; `document` names the
    document wherever its file goes, "" until it is first saved; `playing` how the hands are struck, `memos` the
    player's notes. This is the take `take`; `others` are the other takes in their order, in which it has `place`.
    """

    song: Song
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    draft: str = ""
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()
    document: str = ""
    playing: Playing = Playing()
    memos: tuple[Memo, ...] = ()
    take: int = 1
    name: str = FIRST_TAKE
    others: tuple[Take, ...] = ()
    place: int = 0
    last_take: int = 1
    mix: tuple[Choice, ...] = ()
    format: str = FORMAT
    version: int = VERSION


def encode_hook(value: object) -> object:
    """How JSON writes beats: whole numbers as such, others as fractions in a string."""
    if isinstance(value, Fraction):
        return value.numerator if value.denominator == 1 else str(value)
    raise NotImplementedError(f"cannot write {type(value).__name__}")


def decode_hook(kind: type, value: Any) -> Any:
    """Beats from JSON. Raises ValueError, which the reader turns into a fault with its place."""
    if kind is not Fraction:
        raise NotImplementedError(f"cannot read {kind.__name__}")
    if isinstance(value, bool) or not isinstance(value, (int, float, str)) or len(str(value)) > 24:
        raise ValueError("beats are a number or a fraction such as 4/3")
    try:
        beats = Fraction(value)
    except (ZeroDivisionError, OverflowError):
        raise ValueError("beats are a number or a fraction such as 4/3") from None
    if not 0 <= beats <= 1000 or beats.denominator > 10_000 or not math.isfinite(beats):
        raise ValueError("beats lie between 0 and 1000")
    return beats


def to_json(file: SongFile) -> bytes:
    """The file's bytes: readable JSON in UTF-8."""
    return msgspec.json.format(msgspec.json.encode(file, enc_hook=encode_hook), indent=1) + b"\n"


def from_json(data: bytes, name: str) -> SongFile:
    """Read a song file. Raises FileFault with the place of the first fault."""
    try:
        head = msgspec.json.decode(data, type=dict[str, msgspec.Raw])
        kind = msgspec.json.decode(head.get("format", msgspec.Raw(b'""')))
        version = msgspec.json.decode(head.get("version", msgspec.Raw(b"0")))
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise FileFault(name, f"is damaged or no JSON ({error})") from None
    if kind != FORMAT:
        raise FileFault(name, f"is not a song of this program (its format is {str(kind)[:40]!r})")
    if not isinstance(version, int) or version < 1:
        raise FileFault(name, "is damaged: it has no version")
    if version > VERSION:
        raise FileFault(name, f"was saved by a newer version of the program (file version {str(version)[:12]})")
    try:
        fields = msgspec.json.decode(data)
        for old in range(version, VERSION):
            fields = _migrated(fields, old)
        file = msgspec.convert(fields, SongFile, dec_hook=decode_hook)
        file = _plain(file)
        for song in (file.song, *(take.song for take in file.others)):
            check_song(song)
    except (msgspec.ValidationError, msgspec.DecodeError, UnicodeDecodeError, RecursionError, UserError) as error:
        raise FileFault(name, f"is damaged: {error}") from None
    return file


def _plain(file: SongFile) -> SongFile:
    """A file as the program writes it: songs without strange signs and with ids, takes in order. Raises UserError."""
    ids = [file.take, *(take.id for take in file.others)]
    if len(set(ids)) != len(ids) or len(ids) > MOST_TAKES or not 0 <= file.place <= len(file.others):
        raise UserError("its takes are out of order")
    others = tuple(msgspec.structs.replace(take, song=numbered(plain_song(take.song))) for take in file.others)
    found: SongFile = msgspec.structs.replace(file, song=numbered(plain_song(file.song)), others=others)
    return found


def _migrated(fields: dict[str, Any], old: int) -> dict[str, Any]:
    """The fields of a file of version `old` as of the next. Raises UserError where they are not what they should be."""
    try:
        return MIGRATIONS[old](fields) | {"version": old + 1}
    except (TypeError, KeyError, IndexError, ValueError, AttributeError, ZeroDivisionError) as error:
        raise UserError(f"a field of version {old} is missing or of another kind ({type(error).__name__})") from None


def check_song(song: Song) -> None:
    """Everything the chart reader would have refused is refused here too. Raises UserError."""
    if sum(len(section.bars) for section in song.sections) > MAX_BARS:
        raise UserError(f"a song can hold {MAX_BARS} bars")
    check_length(song)
    check_signs(song)
    if not TEMPOS[0] <= song.tempo <= TEMPOS[1]:
        raise UserError(f"{song.tempo} is not a tempo; {TEMPOS[0]} to {TEMPOS[1]} beats per minute")
    slots = [slot for section in song.sections for bar in section.bars for slot in bar.slots]
    tones = [tone for section in song.sections for bar in section.bars for tone in bar.tune]
    if any(beats <= 0 for beats in [*(slot.beats for slot in slots), *(tone.beats for tone in tones)]):
        raise UserError("beats lie above 0")
    for tone in tones:
        tone.spelled  # noqa: B018 - reading it raises on a bad pitch
    timeline(song)


def schema() -> dict[str, Any]:
    """The JSON Schema of the song file, published as docs/song.schema.json."""

    def beats(kind: type) -> dict[str, Any]:
        if kind is not Fraction:
            raise NotImplementedError
        return {"description": "beats: a number, or a fraction in a string such as 4/3", "type": ["number", "string"]}

    found = msgspec.json.schema(SongFile, schema_hook=beats)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Yellow Hinge song"} | found
