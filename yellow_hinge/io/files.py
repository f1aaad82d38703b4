"""Safe file access: bounded reads, and writes that never leave half a file."""

from __future__ import annotations

import contextlib
import errno
import fcntl
import glob
import os
import stat
from pathlib import Path
from typing import BinaryIO

from yellow_hinge.core.errors import UserError

MAX_BYTES = 32 * 1024 * 1024
MADE_BY = "made by Yellow Hinge"  # what an exported file says of itself, so that it may be exported again
_TEMPORARY, _SAFE = ".part", ".safe-copy"
UTF_16 = (b"\xff\xfe", b"\xfe\xff")  # the marks that a text in it begins with


class FileFault(UserError):  # noqa: N818 - the word on screen
    """A file that cannot be read or written, with its name and the reason."""

    def __init__(self, name: str, why: str) -> None:
        self.name, self.why = name, why
        super().__init__(f"{name}: {why}")


def read_bytes(path: Path, most: int = MAX_BYTES) -> bytes:
    """The contents of a file of at most `most` bytes. Raises FileFault."""
    try:
        refuse_strange(path)
        with path.open("rb") as handle:
            data = handle.read(most + 1)
    except IsADirectoryError:
        raise FileFault(str(path), "this is a folder; name a file in it") from None
    except ValueError:
        raise FileFault(repr(str(path)), "is no name of a file") from None
    except OSError as error:
        raise FileFault(str(path), f"cannot be opened ({error.strerror or error})") from None
    if len(data) > most:
        raise FileFault(str(path), f"is larger than {most // 1024 // 1024} MB; this is no song")
    return data


def refuse_strange(path: Path) -> None:
    """Refuse pipes, devices and sockets, which may never end or never answer. Raises FileFault and OSError."""
    mode = path.stat().st_mode
    if not (stat.S_ISREG(mode) or stat.S_ISDIR(mode)):
        raise FileFault(str(path), "is a pipe or a device, no ordinary file")


def is_there(path: Path) -> bool:
    """Whether there is a file of a name; no name that the system cannot have is there."""
    try:
        return path.exists()
    except (OSError, ValueError):
        return False


def decode(data: bytes, name: str) -> str:
    """Text of a file in UTF-8 (with or without a mark) or UTF-16 with a mark. Raises FileFault."""
    encoding = "utf-16" if data[:2] in UTF_16 else "utf-8-sig"
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError as error:
        raise FileFault(name, f"byte {error.start + 1} is not UTF-8 text; save it as UTF-8 and open it again") from None
    if "\0" in text:
        raise FileFault(name, "holds binary data, not text")
    return text


def digest(path: Path) -> str | None:
    """What tells a file's content from another, None where it cannot be read."""
    import hashlib  # slow to load

    try:
        refuse_strange(path)
        with path.open("rb") as handle:
            return hashlib.file_digest(handle, "blake2b").hexdigest()
    except (OSError, ValueError, FileFault):
        return None


def same_file(one: Path, other: Path) -> bool:
    """Whether two names are one file, through links too."""
    try:
        return one.samefile(other)
    except (OSError, ValueError):
        return one.absolute() == other.absolute()


def write_atomic(path: Path, data: bytes) -> None:
    """Write to a temporary name in the same folder, flush to disk, rename, flush the folder. A link is followed, the
    file's mode stays, and a file with several names is written in place once its new content lies safely beside it,
    and stays there where that fails.
    Temporary files that a killed process left there go. Raises FileFault.
    """
    try:
        target = Path(os.path.realpath(path))
        target.parent.mkdir(parents=True, exist_ok=True)
        there = target.stat() if target.exists() else None
        if there is not None and not stat.S_ISREG(there.st_mode):
            raise FileFault(str(path), "is no ordinary file")
        _sweep(target)
        mode = stat.S_IMODE(there.st_mode) if there else 0o666 & ~_umask()
        _write_beside(target, data, mode, keep_inode=there is not None and there.st_nlink > 1)
    except OSError as error:
        raise FileFault(str(path), f"cannot be written ({error.strerror or error})") from None
    except ValueError:  # signs that the system's names of files cannot have
        raise FileFault(repr(str(path)), "is no name of a file here; choose another") from None


def _write_beside(target: Path, data: bytes, mode: int, keep_inode: bool) -> None:
    import tempfile  # slow to load; the first thing is written well after the start

    if target.exists() and not os.access(target, os.W_OK):
        raise PermissionError(errno.EACCES, os.strerror(errno.EACCES))
    handle, temporary = tempfile.mkstemp(prefix=f".{target.name[:60]}.", suffix=_TEMPORARY, dir=target.parent)
    try:
        with os.fdopen(handle, "wb") as stream:
            fcntl.flock(stream.fileno(), fcntl.LOCK_EX)  # tells a sweep that it is being written
            stream.write(data)
            _flush(stream)
            os.chmod(temporary, mode)
            if keep_inode:
                _write_in_place(target, data, Path(temporary))
            else:
                os.replace(temporary, target)
        _flush_folder(target.parent)
    finally:
        Path(temporary).unlink(missing_ok=True)


def _write_in_place(target: Path, data: bytes, copy: Path) -> None:
    """Write to a file that has several names. Raises FileFault that says where the copy is where it fails half way."""
    try:
        with target.open("r+b") as names:
            names.write(data)
            names.truncate()
            _flush(names)
    except OSError as error:
        safe = copy.with_name(f"{target.name[:200]}{_SAFE}")
        copy.rename(safe)
        why = error.strerror or error
        raise FileFault(
            str(target), f"could not be written whole ({why}); all of it is in {safe.name} beside it"
        ) from None


def _flush(stream: BinaryIO) -> None:
    stream.flush()
    os.fsync(stream.fileno())


def _flush_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):  # some file systems cannot; the file itself is flushed
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask


def _sweep(target: Path) -> None:
    """Remove temporary files of this target that nobody writes any more."""
    for left in target.parent.glob(f".{glob.escape(target.name[:60])}.*{_TEMPORARY}"):
        with contextlib.suppress(OSError), left.open("rb") as stream:
            fcntl.flock(stream.fileno(), fcntl.LOCK_EX | fcntl.LOCK_NB)
            left.unlink()
