"""Chord names as people type them: in the names of their country, with signs and brackets around them."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.core.symbols.german import from_german, looks_german
from yellow_hinge.core.symbols.latin import from_latin, looks_latin
from yellow_hinge.core.symbols.symbol import parse_symbol, straight

_SILENT = ("NC", "N C", "TACET")
_AROUND = re.compile(r"^[\s*'\"‘’“”,;]+|[\s*'\"‘’“”,;!]+$")
_SMALL_BASS = re.compile(r"/([a-g])(#|b|)$")
LATIN, GERMAN = "Latin", "German"
_SAID = {
    LATIN: "the names were read as Latin ones: Do is C, Si is B",
    GERMAN: "the names were read as German ones: H is B, B is B flat",
}
_C = parse_key("C")


def _same(symbol: str) -> str:
    return symbol


class Names:
    """Reads the chord names of one text."""

    def __init__(self, kind: str = "", key: Key | None = None) -> None:
        self.kind, self.key = kind, key
        self.ours: Callable[[str], str] = {LATIN: from_latin, GERMAN: from_german}.get(kind, _same)

    @property
    def said(self) -> list[str]:
        """What has to be said of the names."""
        return [_SAID[self.kind]] if self.kind else []

    def read(self, word: str, numbers: bool = False) -> str:
        """A word as a chord symbol, NO_CHORD, or "" where it is none. `numbers`: those of a key are chords too."""
        clean = _AROUND.sub("", word)
        if clean.upper().replace(".", "") in _SILENT:
            return NO_CHORD
        clean = _SMALL_BASS.sub(lambda found: f"/{found[1].upper()}{found[2]}", self.ours(clean))
        if not clean or not (clean[0] in "ABCDEFG(" or numbers):
            return ""
        try:
            parse_symbol(clean, (self.key or _C) if numbers else None)
        except UserError:
            return ""
        return straight(clean)


def names_of(words: Iterable[str], key: Key | None = None) -> Names:
    """How the names of a text are read: as German or Latin ones where some can be nothing else and read as such."""
    every = [_AROUND.sub("", word) for word in words]
    for kind, sure, ours in ((LATIN, looks_latin, from_latin), (GERMAN, looks_german, from_german)):
        certain = [word for word in every if sure(word)]
        read = [word for word in certain if Names().read(ours(word))]
        if read and 2 * len(read) > len(certain) and not (kind == GERMAN and _english(every)):
            return Names(kind, key)
    return Names("", key)


def _english(words: list[str]) -> bool:
    """Whether names stand there that nobody writes who writes H for B."""
    return any(re.match(r"B[b♭]", word) for word in words)
