"""The chords of a score without symbols, named from its notes."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from itertools import accumulate

from yellow_hinge.io.by_ear import Lasting, chords_by_ear, named_words, tune_share
from yellow_hinge.io.musicxml.score.book import Book
from yellow_hinge.io.musicxml.score.choosing import Line, lines_of
from yellow_hinge.io.musicxml.score.measures import Sung
from yellow_hinge.io.musicxml.score.symbols import key_of

Lines = dict[Line, list[tuple[int, Sung]]]
_DOUBLED = 1.3  # notes that one line plays for every place that it strikes at, where it plays chords


def hear(book: Book) -> None:
    """Name the chords from the notes, where nobody wrote symbols and more than one line plays."""
    lines = lines_of(book.parts)
    if book.choice.symbols is not None or not _has_harmony(lines, book.choice.tune):
        return
    bars = [(length, column.meter.beat_quarters) for length, column in zip(book.lengths, book.columns, strict=True)]
    written = next((column.key for column in book.columns if column.key), None)
    key = key_of(*written) if written is not None and written[1] else None
    found = chords_by_ear(_notes(book, lines), bars, key)
    book.heard, book.heard_key = found.onsets, found.key
    book.report += [named_words(sum(map(len, found.onsets))), *found.report]


def _has_harmony(lines: Lines, tune: Line | None) -> bool:
    """Whether more than one note sounds at a time, so that there are chords to name."""
    if any(line != tune for line in lines):
        return True
    starts = [(bar, note.start) for row in lines.values() for bar, note in row]
    return len(starts) > _DOUBLED * len(set(starts))


def _notes(book: Book, lines: Lines) -> list[Lasting]:
    """Every note of every line in quarters from the beginning; those that are tied are one."""
    starts = list(accumulate(book.lengths, initial=Fraction(0)))
    tune = book.choice.tune
    others = [row for line, row in lines.items() if line != tune]
    says = tune_share([(bar, note.pitch.midi) for bar, note in row if note.pitch] for row in others)
    return [
        Lasting(float(begin), float(end), midi, share=says if line == tune and others else 1.0)
        for line, row in lines.items()
        for begin, end, midi in _tied(row, starts)
    ]


def _tied(row: list[tuple[int, Sung]], starts: list[Fraction]) -> Iterator[tuple[Fraction, Fraction, int]]:
    """(begin, end, MIDI number) of the notes of a line, where ties are held."""
    held: dict[tuple[int, Fraction], Fraction] = {}  # where a note that is tied on ends, and where it began
    for bar, note in sorted(row, key=lambda each: (each[0], each[1].start)):
        if note.pitch is None or note.length <= 0:
            continue
        midi, at = note.pitch.midi, starts[bar] + note.start
        begin = held.pop((midi, at), at)
        if note.tied:
            held[midi, at + note.length] = begin
        else:
            yield begin, at + note.length, midi
    yield from ((begin, end, midi) for (midi, end), begin in held.items())
