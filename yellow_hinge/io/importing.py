"""Opening MusicXML in a process of its own, bounded in time and memory, that can be cancelled."""

from __future__ import annotations

import io
import resource
import subprocess
import sys
import tempfile
import time
import zipfile
from collections.abc import Callable

import msgspec

from yellow_hinge.core.errors import OvertakenError
from yellow_hinge.io.files import MAX_BYTES, FileFault
from yellow_hinge.io.imported import Imported
from yellow_hinge.io.song_json import check_song, decode_hook, encode_hook

LONGEST = 60.0  # seconds
MOST_MEMORY = 3 * 1024**3  # bytes of address space
_CONTAINER = "META-INF/container.xml"


def _limit() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


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
    except (zipfile.BadZipFile, OSError, EOFError, NotImplementedError, RuntimeError, ValueError) as error:
        raise FileFault(name, f"is a damaged compressed file ({error})") from None
    if len(score) > MAX_BYTES:
        raise FileFault(name, f"unpacks to more than {MAX_BYTES // 1024 // 1024} MB; this is no song")
    return score


def import_musicxml(data: bytes, name: str, cancelled: Callable[[], bool] = lambda: False) -> Imported:
    """Read MusicXML, compressed or not. `cancelled` is asked several times a second.
    Raises FileFault or OvertakenError.
    """
    if data.startswith(b"PK"):
        data = unpacked(data, name)
    if b"<!ENTITY" in data:
        raise FileFault(name, "defines XML entities, which scores have no use for; it was not opened")
    if b"score-partwise" not in data and b"score-timewise" not in data:
        raise FileFault(name, "is XML, but no MusicXML score")
    words = [sys.executable, "-m", "yellow_hinge.io.importing"]
    with tempfile.TemporaryFile() as score:
        score.write(data)
        score.seek(0)
        process = subprocess.Popen(
            words, stdin=score, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, preexec_fn=_limit
        )
        try:
            out = _wait(process, name, cancelled)
        finally:
            process.kill()
            process.communicate()
    try:
        found = msgspec.json.decode(out, type=Imported, dec_hook=decode_hook)
        check_song(found.song)
    except Exception:
        raise FileFault(name, "is a damaged MusicXML file, or holds more than the program can read") from None
    if not found.song.sections:
        raise FileFault(name, "holds no bars")
    return found


def _wait(process: subprocess.Popen[bytes], name: str, cancelled: Callable[[], bool]) -> bytes:
    started = time.monotonic()
    while True:
        try:
            return process.communicate(timeout=0.15)[0]
        except subprocess.TimeoutExpired:
            if cancelled():
                raise OvertakenError from None
        if time.monotonic() - started > LONGEST:
            raise FileFault(name, f"took longer than {LONGEST:.0f} seconds to read and was given up")


def _worker() -> None:
    from yellow_hinge.io.musicxml_in import read_musicxml  # only this process loads the library

    found = read_musicxml(sys.stdin.buffer.read())
    sys.stdout.buffer.write(msgspec.json.encode(found, enc_hook=encode_hook))


if __name__ == "__main__":
    _worker()
