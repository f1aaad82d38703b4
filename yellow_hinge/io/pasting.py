"""Text that is pasted into a chart: what is no chart is written as one, and says what an opened file would."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.io.files import MAX_BYTES, FileFault
from yellow_hinge.io.formats import BY_ID, read_draft, read_kind, text_kind

NAME = "what was pasted"


class Pasted(NamedTuple):
    """A whole chart, the same to put into another one that has a key, what it was read as, and the report."""

    whole: str
    inside: str
    kind: str
    report: tuple[str, ...]


def pasted(text: str, key: str = "") -> Pasted | None:
    """A pasted text as chart text, None where it is a chart, or nothing known. `key` is that of the chart it goes into.
    Raises FileFault for more than a song can hold.
    """
    text = text.replace("\r\n", "\n").replace("\u2029", "\n")
    data = text.encode("utf-8", "replace")
    if len(data) > MAX_BYTES:
        raise FileFault(NAME, "is too large for a song")
    kind = BY_ID[text_kind(text, NAME)]
    if kind.id == "chart":
        return None
    try:
        opened = read_kind(kind, data, NAME)
    except ChartError:
        opened = read_draft(data, NAME)
    song = opened.file.song
    whole = opened.text or write_chart(song)
    report = opened.report
    inside = whole[whole.index("[") :] if "[" in whole else whole
    if key and song.key != key and not opened.text:
        head, _, rest = inside.partition("\n")
        inside = f"{head}\nkey: {song.key}\n{rest}"
        report = (*report, f"the chart stays in {key}; {head} is in {song.key}")
    return Pasted(whole, inside, kind.name, report)
