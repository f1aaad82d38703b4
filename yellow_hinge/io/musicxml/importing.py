"""Unpacking and checking MusicXML before a library reads it. Runs in the reading process."""

from __future__ import annotations

import io
import re
import zipfile
import zlib
from xml.etree.ElementTree import Element

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.io.files import MAX_BYTES, FileFault
from yellow_hinge.io.imported import Imported
from yellow_hinge.io.musicxml.held_hands import FIELD, read_held
from yellow_hinge.io.songs.song_json import check_song

KEYS_LEFT_OUT = "the part 'Keys' was left out"
HANDS_BACK = "the hands came back as they are held, kept at their chords"
_CONTAINER = "META-INF/container.xml"
_NO_ROOT = re.compile(
    rb"<(?:function|numeral)\b|<root\s*/>|<root-step\s*/>|<root-step>\s*</root-step>|<root>\s*</root>"
)


def unpacked(data: bytes, name: str) -> bytes:
    """The score inside a compressed MusicXML file. Raises FileFault; a bomb is refused before it is unpacked."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            scores = [i for i in archive.infolist() if i.filename.lower().endswith((".xml", ".musicxml"))]
            scores = [i for i in scores if i.filename != _CONTAINER]
            if not scores:
                raise FileFault(name, "is a compressed file without a score in it")
            if scores[0].file_size > MAX_BYTES:
                raise FileFault(name, f"unpacks to more than {MAX_BYTES // 1024 // 1024} MB; this is no song")
            with archive.open(scores[0]) as stream:
                score = stream.read(MAX_BYTES + 1)
    except (zipfile.BadZipFile, zlib.error, OSError, EOFError, NotImplementedError, RuntimeError, ValueError) as error:
        raise FileFault(name, f"is a damaged compressed file ({error})") from None
    if len(score) > MAX_BYTES:
        raise FileFault(name, f"unpacks to more than {MAX_BYTES // 1024 // 1024} MB; this is no song")
    return score


def _parsed(data: bytes, name: str) -> Element:
    from xml.etree import ElementTree

    try:
        return ElementTree.fromstring(data)
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise FileFault(name, f"is a damaged MusicXML file ({error})") from None


def with_roots(data: bytes, name: str) -> tuple[bytes, tuple[str, ...]]:
    """The score without chords that name no root (functions, numerals, an empty root), and a sentence for each bar
    that had one. Raises FileFault.
    """
    if not _NO_ROOT.search(data):
        return data, ()
    from xml.etree import ElementTree

    score = _parsed(data, name)
    said = []
    for number, measure in enumerate(score.iter("measure"), 1):
        strange = [each for each in measure.findall("harmony") if not (each.findtext("root/root-step") or "").strip()]
        strange = [each for each in strange if each.findtext("kind") != "none"]
        for each in strange:
            measure.remove(each)
        if strange:
            bar = measure.get("number") or str(number)
            said.append(f"bar {bar[:12]}: a chord without a root was left out; write it in letters")
    return ElementTree.tostring(score, "utf-8", xml_declaration=True), tuple(said)


def read_score(data: bytes, name: str) -> Imported:
    """Read MusicXML, compressed or not. Raises FileFault."""
    if data.startswith(b"PK"):
        data = unpacked(data, name)
    if b"<!ENTITY" in data:
        raise FileFault(name, "defines XML entities, which scores have no use for; it was not opened")
    if b"score-partwise" not in data and b"score-timewise" not in data:
        raise FileFault(name, "is XML, but no MusicXML score")
    from yellow_hinge.io.musicxml.reading import read_musicxml  # slow to load, and of no use for what is refused

    data, skipped = with_roots(data, name)
    found = read_musicxml(data, name)
    hands = read_held(_parsed(data, name)) if FIELD.encode() in data else ()
    report = (*found.report, *skipped)
    if hands:  # our own score: what it says of the hands stands for the notes of their part
        report = (*(words for words in report if words != KEYS_LEFT_OUT), HANDS_BACK)
    found = msgspec.structs.replace(found, report=report, hands=hands)
    if not found.song.sections:
        raise FileFault(name, "holds no bars")
    try:
        check_song(found.song)
    except UserError as error:
        raise FileFault(name, f"holds more than the program can use ({error})") from None
    return found
