"""The last saved versions of every song, in the state folder."""

from __future__ import annotations

import contextlib
import re
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import NamedTuple

from yellow_hinge.app.keeping.settings import Places
from yellow_hinge.io.files import FileFault, read_bytes, write_atomic
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import from_json

MOST = 10
_NAME = "%Y%m%dT%H%M%S%f"
_DOCUMENT = re.compile(r"[0-9a-f]{32}")


class Version(NamedTuple):
    """A song as it was saved at some time (UTC)."""

    when: datetime
    path: Path


def _folder(places: Places, document: str) -> Path:
    if not _DOCUMENT.fullmatch(document):
        raise FileFault(document[:40], "is no document of this program")
    return places.state / "versions" / document


def keep_version(places: Places, document: str, data: bytes, now: datetime) -> None:
    """Keep what was just saved, as the newest whatever the clock says; of more than MOST versions the oldest go. Raises
    FileFault.
    """
    before = versions(places, document)
    now = max(now.astimezone(UTC), before[0].when + timedelta(microseconds=1)) if before else now
    write_atomic(_folder(places, document) / f"{now.astimezone(UTC).strftime(_NAME)}.hinge", data)
    for old in versions(places, document)[MOST:]:
        with contextlib.suppress(OSError):
            old.path.unlink()


def versions(places: Places, document: str) -> list[Version]:
    """The kept versions of a document, the newest first."""
    found = []
    folder = places.state / "versions" / document
    for path in folder.glob("*.hinge") if _DOCUMENT.fullmatch(document) and folder.is_dir() else ():
        with contextlib.suppress(ValueError):
            found.append(Version(datetime.strptime(path.stem, _NAME).replace(tzinfo=UTC), path))
    return sorted(found, reverse=True)


def read_version(version: Version) -> SongFile:
    """A song as it was. Raises FileFault."""
    return from_json(read_bytes(version.path), version.path.name)
