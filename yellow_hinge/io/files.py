"""Safe file access: bounded reads, and writes that never leave half a file."""

from __future__ import annotations

import os
from pathlib import Path

from yellow_hinge.core.errors import UserError

MAX_BYTES = 32 * 1024 * 1024


class FileFault(UserError):  # noqa: N818 - the word on screen
    """A file that cannot be read or written, with its name and the reason."""

    def __init__(self, name: str, why: str) -> None:
        self.name = name
        super().__init__(f"{name}: {why}")


def read_bytes(path: Path, most: int = MAX_BYTES) -> bytes:
    """The contents of a file of at most `most` bytes. Raises FileFault."""
    try:
        with path.open("rb") as handle:
            data = handle.read(most + 1)
    except IsADirectoryError:
        raise FileFault(str(path), "this is a folder; name a file in it") from None
    except OSError as error:
        raise FileFault(str(path), f"cannot be opened ({error.strerror or error})") from None
    if len(data) > most:
        raise FileFault(str(path), f"is larger than {most // 1024 // 1024} MB; this is no song")
    return data


def decode(data: bytes, name: str) -> str:
    """Text of a file in UTF-8 (with or without a mark) or UTF-16 with a mark. Raises FileFault."""
    encoding = "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig"
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError as error:
        raise FileFault(name, f"byte {error.start + 1} is not UTF-8 text; save it as UTF-8 and open it again") from None
    if "\0" in text:
        raise FileFault(name, "holds binary data, not text")
    return text


def write_atomic(path: Path, data: bytes) -> None:
    """Write to a temporary name in the same folder, flush to disk, then rename. Raises FileFault."""
    import tempfile  # slow to load; the first thing is written well after the start

    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
    except OSError as error:
        raise FileFault(str(path), f"cannot be written ({error.strerror or error})") from None
    try:
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
        os.chmod(temporary, 0o644)
        os.replace(temporary, path)
    except OSError as error:
        Path(temporary).unlink(missing_ok=True)
        raise FileFault(str(path), f"cannot be written ({error.strerror or error})") from None
