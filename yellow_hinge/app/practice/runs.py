"""A run of practice as it is kept, and as a table."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime

import msgspec


class Run(msgspec.Struct, frozen=True):
    """One chord that was played: when (UTC), in which song and take, what of it (a "hinge", a "drill" or a "bass"), the
    ids of the slots it leads from and to, in words, in which key, with which hands, the seconds until it sounded, and
    the keys that were wrong. `sample`: made up, and said to be.
    """

    at: datetime
    song: str
    title: str
    take: str
    kind: str
    item: str
    first: int
    last: int
    words: str
    key: str
    hands: str
    seconds: float
    octave: int = 0
    extra: int = 0
    missing: int = 0
    sample: bool = False

    @property
    def errors(self) -> int:
        """How many keys were wrong."""
        return self.octave + self.extra + self.missing


FIELDS = Run.__struct_fields__
INSERT = f"INSERT INTO runs ({', '.join(FIELDS)}) VALUES ({', '.join('?' * len(FIELDS))})"


def run_values(run: Run) -> list[object]:
    values = [getattr(run, name) for name in FIELDS]
    values[FIELDS.index("at")] = run.at.astimezone(UTC).isoformat(timespec="milliseconds")
    return values


def as_fields(run: Run) -> dict[str, object]:
    """A run for tables and JSON."""
    found = {name: getattr(run, name) for name in FIELDS}
    return found | {"at": run.at.isoformat(timespec="milliseconds"), "errors": run.errors}


def log_csv(runs: list[Run]) -> str:
    """The runs as a table."""
    out = io.StringIO()
    writer = csv.DictWriter(out, [*FIELDS, "errors"], lineterminator="\n")
    writer.writeheader()
    writer.writerows(as_fields(run) for run in runs)
    return out.getvalue()
