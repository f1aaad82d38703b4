"""A song out of a score: chords where the symbols stand or as the notes name them, the tune, words, repeats, keys."""

from __future__ import annotations

from fractions import Fraction
from xml.etree.ElementTree import Element

import msgspec

from yellow_hinge.core.song.song import TEMPOS, Meter, Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.keyfinding import find_key
from yellow_hinge.io.imported import Imported
from yellow_hinge.io.musicxml.book import Book
from yellow_hinge.io.musicxml.heard import hear
from yellow_hinge.io.musicxml.sections import led, sections_of

_NO_TITLES = ("", "untitled", "untitled score", "title", "score", "partitura", "ohne titel")
_MAKERS = ("composer", "lyricist", "arranger", "poet")


def _title(root: Element) -> str:
    credits = [
        (credit.findtext("credit-type") or "", " ".join(w.text or "" for w in credit.iter("credit-words")))
        for credit in root.findall("credit")
    ]
    titles = [
        root.findtext("work/work-title"), root.findtext("movement-title"),
        *(words for kind, words in credits if kind.strip() == "title"),
        _largest(root), *(words for kind, words in credits if not kind.strip()),
    ]  # fmt: skip
    clean = (" ".join((title or "").split()) for title in titles)
    return next((title for title in clean if title.lower() not in _NO_TITLES), "Untitled")[:200]


def _largest(root: Element) -> str:
    """The words in the largest type on the first page."""
    sizes = []
    for words in root.iterfind("credit/credit-words"):
        size = words.get("font-size", "")
        if size.replace(".", "", 1).isdecimal() and (words.text or "").strip():
            sizes.append((float(size[:8]), words.text or ""))
    return max(sizes, key=lambda pair: pair[0])[1] if sizes else ""


def _makers(root: Element) -> tuple[tuple[str, str], ...]:
    found = [
        (creator.get("type", "composer"), (creator.text or "").strip())
        for creator in root.iterfind("identification/creator")
    ]
    return tuple((kind, name) for kind, name in found if kind in _MAKERS and name and name.lower() not in _MAKERS)


def _say(book: Book) -> None:
    """What was chosen, left out and changed."""
    choice, parts = book.choice, book.parts
    used = {choice.symbols, choice.tune.part if choice.tune else None}
    for p, part in enumerate(parts):
        heard = book.heard is not None and not part.drums  # its notes are what the chords were named from
        if not heard and p not in used and any(note.pitch for m in part.measures for note in m.notes):
            book.report.append(f"the part {(part.name or part.id)!r} was left out")
    if choice.tune is not None and choice.others:
        others = " or ".join(repr(parts[line.part].name or parts[line.part].id) for line in choice.others)
        tune = parts[choice.tune.part]
        book.report.append(f"the tune was taken from {(tune.name or tune.id)!r}; it may be {others}")
    moved = [repr(parts[p].name or parts[p].id) for p in sorted(p for p in used if p is not None) if parts[p].moved]
    if moved:
        book.report.append(
            f"{' and '.join(moved)} was written for a transposing instrument; it is at concert pitch here"
        )
    if choice.tune is not None and any(m.graces for m in parts[choice.tune.part].measures):
        book.report.append("grace notes were left out")
    if book.verses:
        verses = ", ".join(book.verses[:6])
        book.report.append(f"the words of verse {book.verse} were read; those of {verses} were left out")
    short = [book.where(at) for at in book.short]
    if short:
        book.report.append(f"{', '.join(short[:6])}: its notes do not fill the bar; a rest was added")
    odd = [book.where(at) for at, column in enumerate(book.columns) if column.length > column.full]
    if odd:
        book.report.append(f"{', '.join(odd[:6])}: longer than the meter; such a bar has a meter of its own")
    speeds = list(dict.fromkeys(column.tempo for column in book.columns if column.tempo))
    if len(speeds) > 1:
        book.report.append("the tempo changes; only the first one is used")


def read_musicxml(root: Element, name: str) -> Imported:
    """The song of a score. Raises FileFault."""
    book = Book(root, name)
    hear(book)
    sections, key = sections_of(book)
    sections = led(sections, book.report)
    meter = book.columns[0].meter if book.columns else Meter()
    per_quarter = next((column.tempo for column in book.columns if column.tempo), None)
    speed = round(per_quarter / meter.beat_quarters) if per_quarter else 90
    pickup = book.lengths[0] / meter.beat_quarters if book.pickup else Fraction(0)
    swing = "swung" if any(column.swings for column in book.columns[:1]) else ""
    song = Song(
        _title(root), key or "C major", meter, min(TEMPOS[1], max(TEMPOS[0], speed)), sections, pickup,
        _makers(root), swing=swing,
    )  # fmt: skip
    if book.choice.symbols is None and book.heard is None:
        book.report.append("no chord symbols were found: every bar says N.C.")
    if not key:
        guess = find_key([(m.chord, float(m.beats)) for m in timeline(song) if m.chord])
        if guess:
            song = msgspec.structs.replace(song, key=str(guess.key))
            book.report.append(f"no key is written; it was found to be {guess.key}")
    _say(book)
    report = tuple(dict.fromkeys((*book.report, *book.harmonies.report)))
    return Imported(song, report, memos=tuple(book.memos))
