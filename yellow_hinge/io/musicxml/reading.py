"""A song out of a score: chords where the symbols stand or as the notes name them, the tune, words, repeats, keys."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from xml.etree.ElementTree import Element

import msgspec

from yellow_hinge.core.song.song import TEMPOS, Meter, Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.io.imported import Imported
from yellow_hinge.io.musicxml.heard import hear
from yellow_hinge.io.musicxml.saying import makers_of, offers_of, said_of, title_of
from yellow_hinge.io.musicxml.score.book import Book
from yellow_hinge.io.musicxml.sections import led, sections_of


def read_musicxml(root: Element, name: str, asks: Mapping[str, str]) -> Imported:
    """The song of a score. `asks`: who has the "tune" and the "symbols", where the player says so. Raises FileFault."""
    book = Book(root, name, asks)
    hear(book)
    sections, key = sections_of(book)
    sections = led(sections, book.report)
    meter = book.columns[0].meter if book.columns else Meter()
    pickup = book.lengths[0] / meter.beat_quarters if book.pickup else Fraction(0)
    swing = "swung" if any(column.swings for column in book.columns[:1]) else ""
    song = Song(
        title_of(root), key or "C major", meter, _tempo(book, meter), sections, pickup, makers_of(root),
        swing=swing,
    )  # fmt: skip
    if book.choice.symbols is None and book.heard is None:
        book.report.append("no chord symbols were found: every bar says N.C.")
    if not key:
        guess = find_key([(m.chord, float(m.beats)) for m in timeline(song) if m.chord])
        if guess:
            song = msgspec.structs.replace(song, key=str(guess.key))
            book.report.append(f"no key is written; it was found to be {guess.key}")
    report = tuple(dict.fromkeys((*book.report, *said_of(book), *book.harmonies.report)))
    return Imported(song, report, memos=tuple(book.memos), offers=offers_of(book))


def _tempo(book: Book, meter: Meter) -> int:
    """The tempo that stands first, in beats of the meter."""
    per_quarter = next((column.tempo for column in book.columns if column.tempo), None)
    return min(TEMPOS[1], max(TEMPOS[0], round(per_quarter / meter.beat_quarters))) if per_quarter else 90
