"""Song files up to version 4 named chords by their places; later ones by ids."""

from __future__ import annotations

import re
from fractions import Fraction
from typing import Any

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.key import number_root, parse_key
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_symbol

Fields = dict[str, Any]


def with_named(fields: Fields) -> Fields:
    """Version 5 gives sections, bars and slots ids, which keeps, wishes, held tops and stories name. A place that is
    not in the song gets an id that nothing has: what names it rests. Raises TypeError, KeyError, IndexError, ValueError
    or AttributeError for damaged fields.
    """
    ids = _Ids(fields.get("song") or {})
    song, setup = ids.song, dict(fields.get("setup") or {})
    keeps = [_keep(dict(keep), ids) for keep in fields.get("keeps") or ()]
    if "wishes" in setup:
        setup["wishes"] = [_wish(dict(wish), ids) for wish in setup["wishes"]]
    if "held" in setup:
        setup["held"] = [_held(held, ids) for held in setup["held"]]
    was = [_was(found, ids) for found in fields.get("was") or ()]
    return fields | {"song": song | {"next_id": ids.next}, "setup": setup, "keeps": keeps, "was": was}


class _Ids:
    """Gives every section, bar and slot of a song's fields an id, and finds them by their place."""

    def __init__(self, song: Fields) -> None:
        self.next = 1
        self.slots: dict[tuple[int, int, int], int] = {}
        self.beats: dict[tuple[int, int], list[Fraction]] = {}
        self.places: dict[tuple[int, ...], int] = {}
        self.key = song.get("key", "C major")
        self.symbols: dict[int, tuple[str, str]] = {}  # (symbol, key) of every slot
        sections = [self._section(dict(section), s) for s, section in enumerate(song.get("sections") or ())]
        self.song = dict(song) | {"sections": sections}

    def fresh(self) -> int:
        self.next += 1
        return self.next - 1

    def _section(self, section: Fields, s: int) -> Fields:
        self.places[s,] = section["id"] = self.fresh()
        section["bars"] = [self._bar(dict(bar), (s, b), section) for b, bar in enumerate(section.get("bars") or ())]
        return section

    def _bar(self, bar: Fields, at: tuple[int, int], section: Fields) -> Fields:
        self.places[at] = bar["id"] = self.fresh()
        beat, self.beats[at], slots = Fraction(0), [], []
        for i, slot in enumerate(bar.get("slots") or ()):
            slot = dict(slot)
            self.places[(*at, i)] = slot["id"] = self.fresh()
            self.symbols[slot["id"]] = (slot["symbol"], section.get("key") or self.key)
            self.beats[at].append(beat)
            beat += Fraction(str(slot.get("beats", 1))[:24])
            slots.append(slot)
        return bar | {"slots": slots}

    def at(self, *place: int) -> int:
        """The id of a section, bar or slot by its place; one that nothing has where there is no such place."""
        return self.places[place] if place in self.places else self.fresh()


def _keep(keep: Fields, ids: _Ids) -> Fields:
    slot = ids.at(*keep.pop("at"))
    symbol, key = ids.symbols.get(slot, ("", ""))
    if symbol == keep.get("symbol") and symbol[:1] not in "ABCDEFG":
        try:  # a number names a chord only in its key
            keep["symbol"] = write_symbol(parse_symbol(symbol, parse_key(key)))
        except UserError:
            keep["symbol"] = symbol
    return keep | {"slot": slot}


def _wish(wish: Fields, ids: _Ids) -> Fields:
    place = [wish.pop("section"), wish.pop("bar", None), wish.pop("slot", None)]
    return wish | {"at": ids.at(*place[: place.index(None)] if None in place else place)}


def _held(held: Fields, ids: _Ids) -> Fields:
    first, last = tuple(held["first"]), tuple(held["last"])
    inside = [own for place, own in sorted(ids.places.items()) if len(place) == 3 and first <= place <= last]
    return {"slots": inside or [ids.fresh()], "top": held["top"]}


def _was(was: Fields, ids: _Ids) -> Fields:
    at = (was["section"], was["bar"])
    starts = [i for i, beat in enumerate(ids.beats.get(at, ())) if beat <= Fraction(str(was["beat"])[:24])]
    return {"slot": ids.at(*at, starts[-1]) if starts else ids.fresh(), "symbols": was["symbols"]}


_NUMBERED_BASS = re.compile(r"([A-G][^/|]*)/([b#]?[1-7])")


def in_letters(fields: Fields) -> Fields:
    """Version 10 has the signs of D.C. and D.S., and no chord in letters over a bass in numbers: the key in force says
    which note it was. Raises as `with_named`.
    """
    others = [_lettered(dict(take)) for take in fields.get("others") or ()]
    return _lettered(fields) | ({"others": others} if others else {})


def _lettered(fields: Fields) -> Fields:
    """The fields of a song or a take with basses in letters."""
    song, keys = dict(fields.get("song") or {}), dict[int, str]()

    def symbol(text: str, key: str) -> str:
        found = None if text.endswith("6/9") else _NUMBERED_BASS.fullmatch(text)
        return f"{found[1]}/{number_root(found[2], parse_key(key))}" if found else text

    def slot(old: Fields, key: str) -> Fields:
        keys[old.get("id", 0)] = key
        return old | {"symbol": symbol(old["symbol"], key)}

    def bar(old: Fields, key: str) -> Fields:
        return old | {"slots": [slot(dict(each), key) for each in old.get("slots") or ()]}

    def section(old: Fields) -> Fields:
        key = old.get("key") or song.get("key", "C major")
        return old | {"bars": [bar(dict(each), key) for each in old.get("bars") or ()]}

    song["sections"] = [section(dict(each)) for each in song.get("sections") or ()]
    was = [
        dict(old) | {"symbols": [symbol(each, keys.get(old["slot"], "C major")) for each in old["symbols"]]}
        for old in fields.get("was") or ()
    ]
    return fields | {"song": song} | ({"was": was} if was else {})
