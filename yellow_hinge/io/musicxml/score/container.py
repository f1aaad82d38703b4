"""A score's text out of whatever it is wrapped in: compressed or not, in the encoding that it declares."""

from __future__ import annotations

import codecs
import io
import re
import zipfile
import zlib
from xml.etree.ElementTree import Element, ParseError, fromstring

from yellow_hinge.io.files import MAX_BYTES, UTF_16, FileFault

_CONTAINER = "META-INF/container.xml"
_LARGEST_CONTAINER = 65_536
_SCORES = (".musicxml", ".xml")
_DECLARED = re.compile(rb"""^\s*<\?xml[^>]{0,200}?encoding\s*=\s*["']([A-Za-z0-9._-]{1,40})["']""")
_DECLARATION = re.compile(r"^\s*<\?xml.{0,400}?\?>", re.DOTALL)
_ENTITY = re.compile(r"<!ENTITY\b")
_TEXTS = (
    "utf-8",
    "ascii",
    "iso8859",
    "latin",
    "cp125",
    "windows-125",
    "mac-",
    "koi8",
    "shift_jis",
    "euc",
    "gb",
    "big5",
)
MOST_DEPTH = 60  # elements inside each other; scores have about ten


def unpacked(data: bytes, name: str) -> bytes:
    """The score inside a compressed MusicXML file: the one that its container names, else the first that is there.
    Raises FileFault; a bomb is refused before it is unpacked.
    """
    too_large = f"unpacks to more than {MAX_BYTES // 1024 // 1024} MB; this is no song"
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            score = _score_in(archive)
            if score is None:
                raise FileFault(name, "is a compressed file without a score in it")
            if score.file_size > MAX_BYTES:
                raise FileFault(name, too_large)
            with archive.open(score) as stream:
                found = stream.read(MAX_BYTES + 1)
    except (zipfile.BadZipFile, zlib.error, OSError, EOFError, NotImplementedError, RuntimeError, ValueError) as error:
        raise FileFault(name, f"is a damaged compressed file ({error})") from None
    if len(found) > MAX_BYTES:
        raise FileFault(name, too_large)
    return found


def _score_in(archive: zipfile.ZipFile) -> zipfile.ZipInfo | None:
    inside = {info.filename: info for info in archive.infolist()}
    for path in _named(archive, inside.get(_CONTAINER)):
        if path in inside and path.lower().endswith(_SCORES):
            return inside[path]
    scores = [info for path, info in inside.items() if path.lower().endswith(_SCORES) and path != _CONTAINER]
    return next((info for info in scores if "/" not in info.filename), scores[0] if scores else None)


def _named(archive: zipfile.ZipFile, container: zipfile.ZipInfo | None) -> list[str]:
    """The paths that the container names; a damaged one is not needed, since the scores are there."""
    if container is None or container.file_size > _LARGEST_CONTAINER:
        return []
    try:
        with archive.open(container) as stream:
            root = fromstring(stream.read(_LARGEST_CONTAINER))
    except (ParseError, ValueError, LookupError):
        return []
    return [each.get("full-path", "") for each in root.iter() if each.tag.rpartition("}")[2] == "rootfile"]


def text_of(data: bytes, name: str) -> str:
    """The text of a score, by its mark or by what it declares; UTF-8 where it says nothing. Raises FileFault."""
    declared = _DECLARED.match(data)
    encoding = declared[1].decode().lower() if declared else "utf-8"
    if data[:2] in UTF_16:
        encoding = "utf-16"
    elif data[:2] in (b"<\0", b"\0<"):
        encoding = "utf-16-le" if data[:1] == b"<" else "utf-16-be"
    elif encoding.startswith("utf-16") or encoding == "utf-8":  # what is no UTF-16 cannot mean it
        encoding = "utf-8-sig"
    try:
        known = codecs.lookup(encoding).name
        if not known.startswith(("utf-8", "utf-16")) and not known.startswith(_TEXTS):
            raise LookupError(f"unknown encoding: {encoding}")
        return _DECLARATION.sub("", data.decode(known), count=1)
    except (UnicodeDecodeError, LookupError, ValueError) as error:
        raise FileFault(name, f"is a damaged MusicXML file ({error})") from None


def score_root(data: bytes, name: str) -> Element:
    """The root element of a score, compressed or not. Raises FileFault for what is none."""
    if data.startswith(b"PK"):
        data = unpacked(data, name)
    text = text_of(data, name)
    if _ENTITY.search(text):
        raise FileFault(name, "defines XML entities, which scores have no use for; it was not opened")
    if "score-partwise" not in text and "score-timewise" not in text:
        raise FileFault(name, "is XML, but no MusicXML score")
    try:
        root = fromstring(text)
    except (ParseError, ValueError, RecursionError) as error:
        raise FileFault(name, f"is a damaged MusicXML file ({error})") from None
    _without_namespaces(root, name)
    if root.tag not in ("score-partwise", "score-timewise"):
        raise FileFault(name, "is XML, but no MusicXML score")
    return root


def _without_namespaces(root: Element, name: str) -> None:
    """Take namespaces off the names, and refuse what is nested without end."""
    level = [root]
    for _ in range(MOST_DEPTH):
        for each in level:
            if isinstance(each.tag, str) and "}" in each.tag:
                each.tag = each.tag.rpartition("}")[2]
        level = [child for each in level for child in each]
        if not level:
            return
    raise FileFault(name, "nests its elements deeper than any score; it was not opened")
