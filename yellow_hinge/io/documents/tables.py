"""A solved song as tables: the analysis as JSON, CSV, and the cheat sheet as plain text."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.song.song import NO_CHORD, Song, short_beats
from yellow_hinge.core.song.swing import swing_words
from yellow_hinge.core.song.timeline import Moment, bar_number
from yellow_hinge.io.documents.report import silent_fields, solution_fields, voicing_fields


def json_bytes(song: Song, solution: Solution) -> bytes:
    """The document of the verb `voice`."""
    return json.dumps(solution_fields(song, solution, 0.0), indent=1, ensure_ascii=False).encode() + b"\n"


def csv_bytes(song: Song, solution: Solution) -> bytes:
    """One row a chord as it is played, rests among them, with a header, lists joined by blanks; UTF-8."""
    stream = io.StringIO()
    played = {v.moment: voicing_fields(v, solution, song) for v in solution.voicings}
    rows = [played.get(n) or silent_fields(moment, song) for n, moment in enumerate(solution.moments)]
    names = ["slot", "section", "bar", "beat", "beats", "symbol", "number", "left_notes", "right_notes", "left_degrees",
             "right_degrees", "left", "right", "left_fingers", "right_fingers", "family", "cue",
             "warnings", "pass", "onset", "meter"]  # fmt: skip
    writer = csv.DictWriter(stream, names, extrasaction="ignore")
    writer.writeheader()
    for row in rows:
        joined = {k: "; ".join(v) if k == "warnings" else v for k, v in row.items()}
        writer.writerow({k: " ".join(map(str, v)) if isinstance(v, list) else v for k, v in joined.items()})
    return stream.getvalue().encode()


def txt_bytes(song: Song, solution: Solution) -> bytes:
    """The cheat sheet as plain text: chord, number, count, left hand, right hand, cue, each in its column."""
    swing = f", {swing_words(song.swing)}" if song.swing else ""
    lines = [song.title, f"{pretty_signs(song.key)}, {song.meter}, {song.tempo} beats a minute{swing}", ""]
    spoken = {v.moment: voicing_fields(v, solution, song) for v in solution.voicings}
    rows = [_row(song, moment, spoken.get(index)) for index, moment in enumerate(solution.moments)]
    wide = [max((len(row[column]) for row in rows), default=0) for column in range(COLUMNS)]
    section = -1
    for moment, row in zip(solution.moments, rows, strict=True):
        if moment.section != section:
            section = moment.section
            lines += ["", song.sections[section].name.upper()]
        cells = (
            cell.rjust(w) if at in NUMBERS else cell.ljust(w)
            for at, (cell, w) in enumerate(zip(row, wide, strict=True))
        )
        lines.append("  ".join(cells).rstrip())
    return ("\n".join(lines) + "\n").encode()


COLUMNS, NUMBERS = 7, (0, 3)  # of the text sheet, and those with figures


def _row(song: Song, moment: Moment, fields: dict[str, Any] | None) -> tuple[str, ...]:
    """A line of the text sheet; `fields` of its voicing, None for a rest."""
    bar, count = str(bar_number(song, moment.origin, moment.bar)), short_beats(moment.beats)
    if fields is None:
        return bar, NO_CHORD, "", count, "", "", moment.cue
    hands = (
        f"{hand[0].upper()} {' '.join(fields[f'{hand}_notes'])} ({' '.join(fields[f'{hand}_degrees'])})"
        if fields[hand]
        else f"{hand[0].upper()} rests"
        for hand in HANDS
    )
    return bar, fields["symbol"], fields["number"], count, *hands, moment.cue
