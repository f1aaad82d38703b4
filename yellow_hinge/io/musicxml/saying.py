"""What a score says of itself, and what has to be said of how it was read."""

from __future__ import annotations

from collections.abc import Iterator
from xml.etree.ElementTree import Element

from yellow_hinge.io.imported import Offer
from yellow_hinge.io.musicxml.score.book import Book
from yellow_hinge.io.musicxml.score.choosing import Line, lines_of
from yellow_hinge.io.musicxml.score.measures import Part

_NO_TITLES = ("", "untitled", "untitled score", "title", "score", "partitura", "ohne titel")
_MAKERS = ("composer", "lyricist", "arranger", "poet")


def title_of(root: Element) -> str:
    """The title: of the work, of the movement, else as the first page has it."""
    titles = [root.findtext("work/work-title"), root.findtext("movement-title"), *_credits(root, "title")]
    titles += [_largest(root), *_credits(root, "")]
    clean = (" ".join((title or "").split()) for title in titles)
    return next((title for title in clean if title.lower() not in _NO_TITLES), "Untitled")[:200]


def _credits(root: Element, kind: str) -> Iterator[str]:
    """The words of a kind on the first page."""
    for credit in root.findall("credit"):
        if (credit.findtext("credit-type") or "").strip() == kind:
            yield " ".join(words.text or "" for words in credit.iter("credit-words"))


def _largest(root: Element) -> str:
    """The words in the largest type on the first page."""
    sizes = []
    for words in root.iterfind("credit/credit-words"):
        size = words.get("font-size", "")
        if size.replace(".", "", 1).isdecimal() and (words.text or "").strip():
            sizes.append((float(size[:8]), words.text or ""))
    return max(sizes, key=lambda pair: pair[0])[1] if sizes else ""


def makers_of(root: Element) -> tuple[tuple[str, str], ...]:
    found = [
        (creator.get("type", "composer"), (creator.text or "").strip())
        for creator in root.iterfind("identification/creator")
    ]
    return tuple((kind, name) for kind, name in found if kind in _MAKERS and name and name.lower() not in _MAKERS)


def said_of(book: Book) -> Iterator[str]:
    """What was chosen, left out and changed."""
    yield from _of_parts(book)
    tune = book.choice.tune
    if tune is not None and any(measure.graces for measure in book.parts[tune.part].measures):
        yield "grace notes were left out"
    if book.verses:
        yield f"the words of verse {book.verse} were read; those of {', '.join(book.verses[:6])} were left out"
    if book.short:
        yield f"{_bars(book, book.short)}: its notes do not fill the bar; a rest was added"
    odd = [at for at, column in enumerate(book.columns) if column.length > column.full]
    if odd:
        yield f"{_bars(book, odd)}: longer than the meter; such a bar has a meter of its own"
    if len({column.tempo for column in book.columns if column.tempo}) > 1:
        yield "the tempo changes; only the first one is used"


def _bars(book: Book, places: list[int]) -> str:
    return ", ".join(book.where(at) for at in places[:6])


def _of_parts(book: Book) -> Iterator[str]:
    choice, parts = book.choice, book.parts
    used = {choice.symbols, choice.tune.part if choice.tune else None}
    yield from (f"the part {_name(part)} was left out" for part in _left_out(book, used))
    if choice.tune is not None and choice.others:
        others = " or ".join(_name(parts[line.part]) for line in choice.others)
        yield f"the tune was taken from {_name(parts[choice.tune.part])}; it may be {others}"
    moved = [_name(part) for p, part in enumerate(parts) if p in used and part.moved]
    if moved:
        yield f"{' and '.join(moved)} was written for a transposing instrument; it is at concert pitch here"


def _left_out(book: Book, used: set[int | None]) -> list[Part]:
    """The parts of which nothing was read; where chords were named from the notes, that of all but drums was."""
    if book.heard is not None:
        used = used | {p for p, part in enumerate(book.parts) if not part.drums}
    return [part for p, part in enumerate(book.parts) if p not in used and _sounds(part)]


def _sounds(part: Part) -> bool:
    return any(note.pitch for measure in part.measures for note in measure.notes)


def _name(part: Part) -> str:
    return repr(part.name or part.id)


def offers_of(book: Book) -> tuple[Offer, ...]:
    """What the player may choose otherwise: who has the tune, who the chords, and which verse is read."""
    if book.own:
        return ()
    verses = sorted([book.verse, *book.verses])
    words = Offer("verse", "Words of verse", tuple((verse, verse) for verse in verses), book.verse)
    return (*_of_lines(book), *((words,) if book.verses else ()))


def _of_lines(book: Book) -> Iterator[Offer]:
    lines = sorted(lines_of(book.parts))
    if len(lines) < 2:
        return
    names = [(line.ask, _line_name(book, line, lines)) for line in lines]
    mine = book.choice.tune.ask if book.choice.tune is not None else "none"
    yield Offer("tune", "Tune", (*names, ("none", "none")), mine)
    who = [(str(p), f"symbols of {part.name or part.id}") for p, part in enumerate(book.parts) if part.symbols]
    if who:
        chosen = "notes" if book.choice.symbols is None else str(book.choice.symbols)
        yield Offer("symbols", "Chords", (*who, ("notes", "named from the notes")), chosen)


def _line_name(book: Book, line: Line, lines: list[Line]) -> str:
    """A line in words, as short as tells it from the others."""
    part = book.parts[line.part]
    mine = [other for other in lines if other.part == line.part]
    staves = len({other.staff for other in mine}) > 1
    voices = len([other for other in mine if other.staff == line.staff]) > 1
    staff = (", upper staff" if line.staff == 1 else ", lower staff") if staves else ""
    return f"{part.name or part.id}{staff}{f', voice {line.voice}' if voices else ''}"
