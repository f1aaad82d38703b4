"""A solved song as tables: the analysis as JSON, CSV, and the cheat sheet as plain text."""

from __future__ import annotations

import csv
import io
import json

from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.song import NO_CHORD, Song
from yellow_hinge.core.swing import swing_words
from yellow_hinge.io.report import plain_number, silent_fields, solution_fields, voicing_fields


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
    """The cheat sheet as plain text: chord, number, count, left hand, right hand, cue."""
    swing = f", {swing_words(song.swing)}" if song.swing else ""
    lines = [song.title, f"{pretty_signs(song.key)}, {song.meter}, {song.tempo} beats a minute{swing}", ""]
    spoken = {v.moment: voicing_fields(v, solution, song) for v in solution.voicings}
    section = -1
    for index, moment in enumerate(solution.moments):
        if moment.section != section:
            section = moment.section
            lines += ["", song.sections[section].name.upper()]
        fields = spoken.get(index)
        count = plain_number(moment.beats)
        if fields is None:
            lines.append(f"{moment.bar + 1:>3}  {NO_CHORD:<12}{'':<10}{count:>5}  {moment.cue}".rstrip())
            continue
        left = f"{' '.join(fields['left_notes'])} ({' '.join(fields['left_degrees'])})" if fields["left"] else "rests"
        right = (
            f"{' '.join(fields['right_notes'])} ({' '.join(fields['right_degrees'])})" if fields["right"] else "rests"
        )
        lines.append(
            f"{fields['bar']:>3}  {fields['symbol']:<12}{fields['number']:<10}{count:>5}  "
            f"L {left:<30} R {right:<40} {moment.cue}".rstrip()
        )
    return ("\n".join(lines) + "\n").encode()
