"""The kinds of files: one entry each, which opening, exporting, dialogs and the command line's help go by.

Readers and writers with slow libraries load when they are first used.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, NamedTuple

import msgspec

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.text import MAX_CHARS, parse_chart, read_chart
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.manners import NONE as NO_MANNER
from yellow_hinge.core.leading.asking.setup import unknown
from yellow_hinge.core.leading.asking.wishes import OF_SONG
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, strange_patterns
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.following import numbered, same_writing
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.words import plain_song
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.io.files import MADE_BY, UTF_16, FileFault, decode
from yellow_hinge.io.imported import NOTHING_ASKED, Imported, Opened, memos_of
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import from_json, song_file, to_json

if TYPE_CHECKING:  # what only writers need loads with them
    from yellow_hinge.core.leading.answer import Solution
    from yellow_hinge.core.sheet.page import Page

# Kinds that are recognised and not opened, so that the message can say what they are.
_FOREIGN = {
    b"%PDF": "a PDF", b"\x89PNG": "a picture", **dict.fromkeys((b"RIFF", b"OggS", b"fLaC", b"ID3"), "a sound file")
}  # fmt: skip
_BAR_TOKEN = re.compile(r"[^\s|/:%]{1,40}")

Told = Callable[[float], bool]
PAGES = (".pdf", ".svg", ".png")  # the endings of sheets
Sniff = Callable[[bytes, str], bool]
Asks = Mapping[str, str]  # what the player chose otherwise than a reader, by the ids of its offers
Read = Callable[[bytes, str, Asks], Opened]


class Wants(NamedTuple):
    """What is wanted of an export beside its kind: a click track; what a sheet is like, whether its names are
    the simple ones, and the take that it says it is of; and who is told how much is done (0 to 1), and says yes where
    it is wanted no more.
    """

    click: bool = False
    sheet: SheetAsk = SheetAsk()
    simple: bool = False
    take: str = ""
    told: Told = lambda share: False


USUAL = Wants()
# A file's bytes, or those of one file a page.
Write = Callable[[SongFile, "Solution", Wants], bytes | tuple[bytes, ...]]


class Format(NamedTuple):
    """A kind of file. `endings`: the usual one first; `sniff` tells from content and name whether a file is one
    (texts are told apart by `text_kind`);
    `apart`: it is always read in a process of its own. A kind that cannot be read, or not be written, has None there.
    """

    id: str
    name: str
    endings: tuple[str, ...]
    sniff: Sniff
    read: Read | None
    write: Write | None
    apart: bool = False


def _imported(found: Imported, name: str) -> Opened:
    """An imported song as its own chart text gives it. What a chart cannot hold opens as a chart with mistakes."""
    song = plain_song(found.song)
    text = write_chart(song)
    if len(text) > MAX_CHARS:
        raise FileFault(name, "holds more words than a chart can; this is no song")
    reading = read_chart(text)
    if not reading.faults and same_writing(reading.song, song):
        from yellow_hinge.io.musicxml.held_hands import kept_hands

        keeps, without = kept_hands(found.hands, reading.song)
        file = song_file(reading.song, keeps=keeps, memos=memos_of(found.memos, reading.song))
        report = (*found.report, *filter(None, (without,)))
        return Opened(file, "", report, offers=found.offers)
    why = str(reading.faults[0]) if reading.faults else "it reads differently as a chart"
    report = (*found.report, f"see the Chart view: {why}")
    return Opened(song_file(numbered(song), draft=text), text, report, offers=found.offers)


def _read_midi(data: bytes, name: str, asks: Asks) -> Opened:
    from yellow_hinge.io.midi.performance import is_performance
    from yellow_hinge.io.midi.reading import read_midi

    if is_performance(data, name):
        from yellow_hinge.io.heard_song import opened_by_hearing

        heard = opened_by_hearing(data, name, asks)
        if heard is not None:
            return heard
    return _imported(read_midi(data, name, asks), name)


def _read_score(data: bytes, name: str, asks: Asks) -> Opened:
    from yellow_hinge.io.musicxml.importing import read_score

    return _imported(read_score(data, name, asks), name)


def with_headers(file: SongFile) -> Song:
    """The song with what is asked of the whole of it in its headers, so that its chart says it too."""
    asks = dict(file.song.asks)
    pattern = next((w.pattern for w in file.playing.wishes if w.at == WHOLE_SONG and w.hand == "both"), "")
    said = {kind.name: getattr(file.setup, kind.name) for kind in OF_SONG if kind.header} | {"pattern": pattern}
    asks |= {name: str(value) for name, value in said.items() if value not in (None, "", NO_MANNER)}
    return msgspec.structs.replace(file.song, asks=tuple(asks.items()))


def _read_chart(data: bytes, name: str, asks: Asks) -> Opened:
    text = decode(data, name).replace("\r\n", "\n")
    return Opened(song_file(parse_chart(text, name)), text)


def _read_pro(data: bytes, name: str, asks: Asks) -> Opened:
    from yellow_hinge.io.texts.chordpro import read_chordpro

    text = decode(data, name).replace("\r\n", "\n")
    return _imported(read_chordpro(text, name, int(asks.get("song", "0"))), name)


def _write_pro(file: SongFile, *_: object) -> bytes:
    from yellow_hinge.io.texts.chordpro_out import write_chordpro

    return write_chordpro(file.song, MADE_BY)


def _read_over_words(data: bytes, name: str, asks: Asks) -> Opened:
    from yellow_hinge.io.texts.barred_words import needs_chart, written_as_chart
    from yellow_hinge.io.texts.own_names import in_our_names
    from yellow_hinge.io.texts.words_songs import read_over_words

    text = decode(data, name).replace("\r\n", "\n")
    ours, said = in_our_names(text)
    if not needs_chart(ours):
        return _imported(read_over_words(text, name, int(asks.get("bars", "0"))), name)
    written = written_as_chart(ours)
    reading = read_chart(written.text)
    if reading.faults:
        raise ChartError(written.in_source(reading.faults), name)
    return Opened(song_file(reading.song), "", (*said, *written.report))


def _own(data: bytes, name: str, asks: Asks) -> Opened:
    file = from_json(data, name)
    strange = tuple(f"{words.split('; ')[0]}: it is kept, and the usual is used" for words in unknown(file.setup))
    strange += tuple(strange_patterns(file.playing, file.song))
    return Opened(file, report=strange, own=True)


def _write_midi(file: SongFile, solution: Solution, wants: Wants) -> bytes:
    from yellow_hinge.core.performing import performed
    from yellow_hinge.io.midi.writing import midi_bytes

    return midi_bytes(file.song, performed(solution, file.song, file.playing), wants.click)


def _write_score(file: SongFile, solution: Solution, wants: Wants) -> bytes:
    from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes

    show = wants.sheet.shows
    shown = Notation(show("fingers"), show("cues"), True, show("notes"), struck=wants.sheet.struck)
    return musicxml_bytes(file.song, solution, file.memos, shown, file.playing)


COMPOSERS = ("composer", "artist", "by")  # what imported files call who made a song


def _sound(ending: str) -> Write:
    def write(file: SongFile, solution: Solution, wants: Wants) -> bytes:
        from yellow_hinge.core.performing import performed
        from yellow_hinge.sound.files import audio_bytes
        from yellow_hinge.sound.instruments import Instruments
        from yellow_hinge.sound.leveling import leveled
        from yellow_hinge.sound.mixing import mastered, rendered
        from yellow_hinge.sound.score import LOUDEST, Span, score

        performance = performed(solution, file.song, file.playing)
        parts = ("left", "right", "tune", "line", "bass", *(("click",) if wants.click else ()))
        evened = leveled(performance).over(dict.fromkeys(parts, LOUDEST))
        wanted = score(performance, Span(0, performance.length), evened)
        extra = {name.lower(): value for name, value in file.song.extra}
        composer = next((extra[name] for name in COMPOSERS if name in extra), "")
        return audio_bytes(mastered(rendered(wanted, Instruments(), wants.told)), ending, file.song.title, composer)

    return write


def _table(name: str) -> Write:
    def write(file: SongFile, solution: Solution, _: Wants) -> bytes:
        from yellow_hinge.io.documents import tables

        made: bytes = getattr(tables, name)(file.song, solution)
        return made

    return write


def page_bytes(ending: str, pages: tuple[Page, ...], title: str, told: Told) -> bytes | tuple[bytes, ...]:
    """Pages as one PDF, or each as SVG or PNG, by the ending."""
    from yellow_hinge.paper import out

    if ending == ".pdf":
        return out.pdf_bytes(pages, title, told)
    made = []
    for number, page in enumerate(pages):
        if told(number / len(pages)):
            break
        made.append(out.png_bytes(page) if ending == ".png" else out.svg_bytes(page, title, MADE_BY))
    return tuple(made)


def _pages(ending: str) -> Write:
    def write(file: SongFile, solution: Solution, wants: Wants) -> bytes | tuple[bytes, ...]:
        from yellow_hinge.io.engraving.sheets import sheet_pages

        pages = sheet_pages(file, solution, wants.sheet, wants.simple, wants.take, lambda: wants.told(0.0))
        return page_bytes(ending, pages, file.song.title, wants.told)

    return write


def _is_song(data: bytes, name: str) -> bool:
    head = data[:4000]
    json = data.lstrip()[:1] == b"{"
    return json and (name.lower().endswith((".hinge", ".json")) or b'"format"' in head or b'"song"' in head)


def _is_score(data: bytes, name: str) -> bool:
    xml = data.lstrip(b"\xef\xbb\xbf \r\n\t")[:5] == b"<?xml"
    return data.startswith(b"PK\x03\x04") or b"<score-" in data[:20_000] or xml


def _never(data: bytes, name: str) -> bool:
    return False


FORMATS = (
    Format("midi", "MIDI", (".mid", ".midi"), lambda d, _: d.startswith(b"MThd"), _read_midi, _write_midi, True),
    Format("score", "MusicXML", (".musicxml", ".xml", ".mxl"), _is_score, _read_score, _write_score, True),
    Format(
        "song", "Song", (".hinge",), _is_song, _own, lambda file, *_: to_json(file),
    ),
    Format(
        "chordpro", "ChordPro", (".cho", ".crd", ".pro", ".chordpro"), _never,
        _read_pro, _write_pro,
    ),
    Format("over-words", "Chords above words", (".txt",), _never, _read_over_words, None),
    Format(
        "chart", "Chart text", (".chart", ".txt"), _never,
        _read_chart, lambda file, *_: write_chart(with_headers(file)).encode(),
    ),
    Format("sheet", "Text sheet", (".txt",), _never, None, _table("txt_bytes")),
    Format("pdf", "Sheet as PDF", (".pdf",), _never, None, _pages(".pdf")),
    Format("svg", "Sheet as SVG, a file a page", (".svg",), _never, None, _pages(".svg")),
    Format("png", "Sheet as pictures, a file a page", (".png",), _never, None, _pages(".png")),
    Format("table", "Table", (".csv",), _never, None, _table("csv_bytes")),
    Format("analysis", "Analysis as JSON", (".json",), _never, None, _table("json_bytes")),
    Format("wav", "Sound", (".wav",), _never, None, _sound(".wav")),
    Format("flac", "Sound, smaller", (".flac",), _never, None, _sound(".flac")),
    Format("ogg", "Sound, smallest", (".ogg",), _never, None, _sound(".ogg")),
)  # fmt: skip
BY_ID = {kind.id: kind for kind in FORMATS}
# What an export writes by its ending; a chart ends in .chart, since .txt is the sheet.
WRITERS = {kind.endings[0]: kind for kind in FORMATS if kind.write is not None}


def kind_of(data: bytes, name: str) -> Format:
    """What some bytes are. Raises FileFault for an empty file, for one of a kind that cannot be opened, and for bytes
    that are no text.
    """
    for mark, kind in _FOREIGN.items():
        if data.startswith(mark):
            raise FileFault(name, f"is {kind}, which cannot be opened")
    if not data.strip():
        raise FileFault(name, "is empty")
    found = next((kind for kind in FORMATS if kind.sniff(data, name)), None)
    return found or BY_ID[text_kind(decode(data, name).replace("\r\n", "\n"), name)]


def is_text(data: bytes, name: str) -> bool:
    """Whether some bytes are of a kind that is told apart by reading them as text."""
    return not any(kind.sniff(data, name) for kind in FORMATS)


def text_kind(text: str, name: str) -> str:
    """What a text is (an id out of TEXTS): a chart by its ending, or where it is read as one without a fault; else
    ChordPro or chords above words, where it looks so; else a chart with mistakes.
    """
    if name.lower().endswith(".chart") or ("|" in text and not read_chart(text).faults):
        return "chart"
    from yellow_hinge.io.texts.chordpro import looks_like_chordpro
    from yellow_hinge.io.texts.over_words import looks_over_words
    from yellow_hinge.io.texts.own_names import in_our_names

    if looks_like_chordpro(text):
        return "chordpro"
    return "over-words" if looks_over_words(in_our_names(text)[0]) else "chart"


def as_utf_8(data: bytes, name: str) -> bytes:
    """The bytes of a text in UTF-16 as UTF-8, others as they are. Raises FileFault."""
    return decode(data, name).encode() if data[:2] in UTF_16 else data


TEXTS = ("chart", "chordpro", "over-words")  # what a text may be read as


def read_kind(kind: Format, data: bytes, name: str, asks: Asks = NOTHING_ASKED) -> Opened:
    """Read a song from bytes of a known kind. `asks`: what the player chose otherwise than the reader would, by the ids
    of its offers. Raises FileFault or ChartError.
    """
    if kind.read is None:
        raise FileFault(name, f"is {kind.name}, which cannot be opened")
    opened: Opened = msgspec.structs.replace(kind.read(data, name, asks), kind=kind.id)
    return opened


def read_draft(data: bytes, name: str, wanted: str = "") -> Opened:
    """Read chart text that may hold mistakes: what could be read of it, with the whole text as a draft. Raises
    ChartError where nothing in it is a bar.
    """
    report: tuple[str, ...] = ()
    text = decode(data, name).replace("\r\n", "\n")
    kind = wanted or text_kind(text, name)
    if kind == "over-words":
        from yellow_hinge.io.texts.barred_words import written_as_chart
        from yellow_hinge.io.texts.own_names import in_our_names

        text, _, report = written_as_chart(in_our_names(text)[0])
    reading = read_chart(text)
    if not any(section.bars for section in reading.song.sections):
        raise ChartError(reading.faults, name)
    if not name.lower().endswith(".chart") and reading.faults:
        first, count = reading.faults[0], len(reading.faults)
        mistakes = "a mistake" if count == 1 else f"{count} mistakes"
        report = (
            f"it was read as a chart with {mistakes}, the first in line {first.line}, column {first.column}",
            *report,
        )
    return Opened(song_file(reading.song, draft=text), text, report, kind=kind)


def opens_as(data: bytes, name: str) -> str:
    """What a reader would open these bytes as, for the question whether to write over them: "a song", "a chart", a
    file of another kind that this program did not make; "" for anything that is no song.
    """
    try:
        data = as_utf_8(data, name)
        kind = kind_of(data, name)
    except FileFault:
        return ""
    if kind.id == "song":
        return "a song" if b'"yellow-hinge-song"' in data[-4000:] or b'"yellow-hinge-song"' in data[:4000] else ""
    if kind.id == "chart":
        return "a chart" if _has_bars(data.decode("utf-8", "replace")) else ""
    made_here = MADE_BY.encode() in data[:20_000]
    return "" if made_here else f"a {kind.name} file that this program did not make"


def _has_bars(text: str) -> bool:
    """Whether a text has a bar with a chord in it, though it may have mistakes."""
    lines = [line for line in text.splitlines()[:2000] if "|" in line]
    return any(_is_chord(token) for line in lines[:200] for token in _BAR_TOKEN.findall(line[:2000]))


def _is_chord(token: str) -> bool:
    try:
        parse_symbol(token)
    except UserError:
        return token in ("N.C.", "NC") or token[0] in "1234567"
    return True


def open_kinds() -> str:
    """What a dialog offers to open."""
    endings = dict.fromkeys(ending for kind in FORMATS if kind.read for ending in (*kind.endings, ".json"))
    return f"Songs and charts ({' '.join(f'*{ending}' for ending in endings)});;All files (*)"
