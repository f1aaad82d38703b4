"""The program's own song file: JSON with a version, the song, the player's setup and keeps, and text still at fault."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.core.chart.text import MAX_BARS, MAX_TOKENS
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.following import numbered
from yellow_hinge.core.song.road import check_signs
from yellow_hinge.core.song.song import LONGEST_MEMO, TEMPOS, Bar, Section, Song, short_beats
from yellow_hinge.core.song.timeline import check_length, check_read
from yellow_hinge.core.song.words import plain, plain_song
from yellow_hinge.core.takes.content import Parts, put, whole_of
from yellow_hinge.core.takes.form import Cue, Form, bar_beats, bars_of, form_of, skeleton, slots_of, song_of
from yellow_hinge.core.takes.known import as_known
from yellow_hinge.core.takes.things import KINDS, Things
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.songs.migrations import FORMAT, VERSION, SongFile, decode_hook, encode_hook, file_with, migrated

MOST_TAKES = 24


def song_file(song: Song, draft: str = "", document: str = "", **parts: Any) -> SongFile:
    """The file of a song of one take; `draft` is chart text that is at fault, `parts` as in Parts."""
    whole = whole_of(song, **parts)
    takes = (msgspec.structs.replace(whole.takes[0], text=draft),)
    return file_with(msgspec.structs.replace(whole, takes=takes), document)


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
            fields = migrated(fields, old)
        file = msgspec.convert(fields, SongFile, dec_hook=decode_hook)
        file = _plain(file)
    except (msgspec.ValidationError, msgspec.DecodeError, UnicodeDecodeError, RecursionError, UserError) as error:
        raise FileFault(name, f"is damaged: {error}") from None
    return file


def _plain(file: SongFile) -> SongFile:
    """A file as the program writes it: songs without strange signs and with ids, takes in order. Raises UserError."""
    _check_takes(file)
    form = with_ids(plain_form(file.form))
    takes = []
    for take in file.takes:
        own = None if take.form is None else with_ids(plain_form(take.form))
        song = numbered(plain_song(song_of(own or form, take.content.chords, take.content.asks)))
        check_song(song)
        content = put(take.content, own or form, Parts(song))[0]
        form = form if own else msgspec.structs.replace(form, next_id=max(form.next_id, song.next_id))
        own = own and msgspec.structs.replace(own, next_id=song.next_id)
        takes.append(msgspec.structs.replace(take, content=content, form=own))
    found: SongFile = msgspec.structs.replace(file, form=form, takes=tuple(takes))
    _check_asked(found)
    return found


def _check_takes(file: SongFile) -> None:
    """Refuse takes without an order. Raises UserError."""
    ids = [take.id for take in file.takes]
    if len(set(ids)) != len(ids) or not 1 <= len(ids) <= MOST_TAKES or file.take not in ids:
        raise UserError("its takes are out of order")
    if all(take.form is not None for take in file.takes):
        raise UserError("no take has the song's own form")


def _check_asked(file: SongFile) -> None:
    """Refuse hands that are none, and what nobody can ask. Raises UserError."""
    for known in file.hands:
        as_known(known)
    for take in file.takes:  # what is asked is checked when it is put together
        shown = msgspec.structs.replace(file, take=take.id)
        _ = (shown.setup, shown.playing)


def plain_form(form: Form) -> Form:
    """A form without strange signs in its words. Raises UserError."""
    bare = skeleton(form)
    cues = tuple(Cue(cue.bar, cue.beat, plain(cue.words)) for cue in form.cues)
    plain_ = msgspec.structs.replace(form, cues=cues, memo=plain(form.memo, LONGEST_MEMO))
    found: Form = form_of(plain_song(bare), plain_)
    return msgspec.structs.replace(found, cues=cues)


def with_ids(form: Form) -> Form:
    """A form with an id for every section and bar."""
    return msgspec.structs.replace(form_of(numbered(skeleton(form)), form), cues=form.cues)


def check_song(song: Song) -> None:
    """Everything the chart reader would have refused is refused here too. Raises UserError."""
    if sum(len(section.bars) for section in song.sections) > MAX_BARS:
        raise UserError(f"a song can hold {MAX_BARS} bars")
    check_length(song)
    check_signs(song)
    if not TEMPOS[0] <= song.tempo <= TEMPOS[1]:
        raise UserError(f"{song.tempo} is not a tempo; {TEMPOS[0]} to {TEMPOS[1]} beats per minute")
    slots = [slot for _, _, slot in slots_of(song)]
    tones = [tone for _, bar in bars_of(song) for tone in bar.tune]
    if any(slot.beats <= 0 for slot in slots) or any(tone.beats <= 0 for tone in tones):
        raise UserError("beats lie above 0")
    for tone in tones:
        tone.spelled  # noqa: B018 - reading it raises on a bad pitch
    if song.pickup > song.meter.beats:
        raise UserError("the pickup is longer than a bar")
    for section, bar in bars_of(song):
        _check_bar(song, section, bar)
    check_read(song)


def _check_bar(song: Song, section: Section, bar: Bar) -> None:
    """Refuse a bar whose chords do not fill it, or with more in it than a chart can hold. Raises UserError."""
    beats, filled = bar_beats(song, section, bar), sum((slot.beats for slot in bar.slots), Fraction(0))
    full = max(len(bar.slots), len(bar.tune)) > MAX_TOKENS
    if full or (bar.slots and filled != beats) or sum((t.beats for t in bar.tune), Fraction(0)) > 4 * beats:
        where = f"bar {section.bars.index(bar) + 1} of {section.name[:40]!r}"
        lasts = f"lasts {short_beats(filled)} beats, it has {short_beats(beats)}"
        raise UserError(f"{where} {'holds more than a bar can' if full or filled == beats else lasts}")


def schema() -> dict[str, Any]:
    """The JSON Schema of the song file, published as docs/song.schema.json."""

    def beats(kind: type) -> dict[str, Any]:
        if kind is Things:
            return {"description": "lists of what stands at places, by the names of their kinds", "type": "object",
                    "properties": {each.name: {"type": "array"} for each in KINDS}}  # fmt: skip
        if kind is not Fraction:
            raise NotImplementedError
        return {"description": "beats: a number, or a fraction in a string such as 4/3", "type": ["number", "string"]}

    found = msgspec.json.schema(SongFile, schema_hook=beats)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Yellow Hinge song"} | found
