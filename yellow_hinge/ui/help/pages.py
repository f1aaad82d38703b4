"""The pages of the help as chapters, and finding words in them."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Any, NamedTuple

from yellow_hinge.assets import ASSETS
from yellow_hinge.ui.commands import Command

NEWS = "What is new"
BOOKS = (("Guide", "guide.md"), ("Chart text", "chart-text.md"), ("Words", "glossary.md"), (NEWS, "news.md"))
KEYS, LONG = "Keys", 800  # characters that a short chapter counts as having more
_PICTURE = re.compile(r"^!\[.*\]\(.*\)\s*$", re.MULTILINE)
_LINK = re.compile(r"\[([^\]]+)\]\([^)]+\)")


class Chapter(NamedTuple):
    """A chapter: the book it is of, its title, and its text as Markdown."""

    book: str
    title: str
    text: str


def keys_page(table: Iterable[Command[Any]]) -> str:
    """The page of keys, as Markdown."""
    rows = [f"| {c.menu} | {c.title} | {' or '.join(c.keys) or '-'} | {c.tip} |" for c in table]
    head = (
        "# Keys\n\nThe keys of the Chord and Listen menus work on the desk and not while text is typed.\n\n"
        "| menu | command | keys | what it does |\n|---|---|---|---|\n"
    )
    return head + "\n".join(rows) + "\n"


def chapters(table: Iterable[Command[Any]]) -> list[Chapter]:
    """All chapters in order; pictures are left out, links are plain words."""
    found = []
    for book, name in BOOKS:
        text = _LINK.sub(r"\1", _PICTURE.sub("", (ASSETS / "help" / name).read_text("utf-8")))
        first, *rest = text.split("\n## ")
        found += [Chapter(book, book, first)] if not rest else []
        found += [Chapter(book, part.partition("\n")[0], f"## {part}") for part in rest]
    return [*found, Chapter(KEYS, KEYS, keys_page(table))]


def answering(all_: list[Chapter], words: str) -> list[Chapter]:
    """The chapters that have every word, those first that have them in their title, then those that speak of them most
    for their length; what is new and the page of keys come last. All without words.
    """
    wanted = words.casefold().split()
    found = [each for each in all_ if all(word in each.text.casefold() for word in wanted)]

    def rank(each: Chapter) -> tuple[int, bool, float]:
        title, text = each.title.casefold(), each.text.casefold()
        often = sum(text.count(word) for word in wanted)
        return -sum(word in title for word in wanted), each.book in (KEYS, NEWS), -often / (LONG + len(text))

    return sorted(found, key=rank)
