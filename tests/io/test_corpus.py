"""Files of all kinds, each with what it has to be read as: tests/io/corpus/KIND/, where told.json says it of every
file. `python -m tests.io.test_corpus KIND` writes it anew, to be read before it is committed.
"""

import json
import sys
from pathlib import Path

import pytest

from yellow_hinge.core.chart.faults import ChartError
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.song import short_beats
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.formats import as_utf_8, kind_of, read_draft, read_kind

CORPUS = Path(__file__).parent / "corpus"


def read(data, name):
    data = as_utf_8(data, name)
    try:
        return read_kind(kind_of(data, name), data, name)
    except ChartError:
        return read_draft(data, name)


def plays(song):
    """The chords with their beats in the order of playing, bar by bar."""
    rows = []
    for moment in timeline(song):
        if moment.slot == 0:
            rows.append([])
        rows[-1].append(f"{moment.symbol}:{short_beats(moment.beats)}")
    return " | ".join(" ".join(row) for row in rows)


def tune(song):
    tones = (tone for section in song.sections for bar in section.bars for tone in bar.tune)
    return " ".join(f"{t.pitch or '-'}{'~' if t.tied else ''}:{short_beats(t.beats)}" for t in tones)


def told(path):
    """What a file is read as; what is empty is left out."""
    try:
        opened = read(path.read_bytes(), path.name)
    except UserError as error:
        return {"refused": str(error)}
    song = opened.file.song
    sections = [f"{s.name}, {len(s.bars)}{f', {s.key}' if s.key else ''}" for s in song.sections]
    found = {
        "kind": opened.kind, "title": song.title, "key": song.key, "meter": str(song.meter), "tempo": song.tempo,
        "pickup": short_beats(song.pickup), "sections": sections, "plays": plays(song), "tune": tune(song),
        "cues": [m.cue for m in timeline(song) if m.cue], "extra": dict(song.extra), "swing": song.swing,
        "report": list(opened.report),
    }  # fmt: skip
    return {name: value for name, value in found.items() if value not in ("", "0", [], {})}


def files(kind):
    return sorted(path for path in (CORPUS / kind).iterdir() if path.name != "told.json")


def expected(kind):
    return json.loads((CORPUS / kind / "told.json").read_text("utf-8"))


EVERY = [(kind.name, path.name) for kind in sorted(CORPUS.iterdir()) if kind.is_dir() for path in files(kind.name)]


@pytest.mark.parametrize(("kind", "name"), EVERY)
def test_a_file_is_read_as_what_it_is(kind, name):
    assert told(CORPUS / kind / name) == expected(kind)[name]


def test_nothing_is_expected_of_files_that_are_not_there():
    for kind in {kind for kind, _ in EVERY}:
        assert set(expected(kind)) == {path.name for path in files(kind)}


if __name__ == "__main__":
    for kind_ in sys.argv[1:]:
        rows = {path.name: told(path) for path in files(kind_)}
        text = ",\n".join(f"{json.dumps(n)}: {json.dumps(row, ensure_ascii=False)}" for n, row in rows.items())
        (CORPUS / kind_ / "told.json").write_text("{\n" + text + "\n}\n", "utf-8")
