"""Words in charts: titles, section names, cues. One line each, and written so that reading gives the same words."""

from __future__ import annotations

import re

import msgspec

from yellow_hinge.core.song.song import Bar, Section, Song

LONGEST_TITLE, LONGEST_NAME = 200, 60
# Control characters, halves of surrogate pairs, and what editors of text take for line ends.
_NO_TEXT = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff\ufdd0-\ufdef\ufffe\uffff]")
_ESCAPED = re.compile(r"\\([\\|/\]x])")
_PAIR = re.compile(r"\\.")
# In a cue, a / that stands alone goes to the next chord, and an x with a number after a bar line counts a repeat.
_IN_CUE = re.compile(r"[\\|]|(?<!\S)/(?!\S)|^x(?=\s*\d)")
_IN_NAME = re.compile(r"[\\\]]")


def plain(text: str, most: int | None = None) -> str:
    """The words on one line with single blanks, cut to `most` characters."""
    return " ".join(_NO_TEXT.sub(" ", text).split())[:most].strip()


def cue_escaped(cue: str) -> str:
    r"""A cue as it stands in a chart: \ before what would be read as a sign."""
    return _IN_CUE.sub(lambda found: "\\" + found[0], cue)


def name_escaped(name: str) -> str:
    r"""A section's name as it stands in its brackets."""
    return _IN_NAME.sub(lambda found: "\\" + found[0], name)


def unescaped(text: str) -> str:
    r"""The words of a chart without the \ before signs; any other \ stays."""
    return _ESCAPED.sub(r"\1", text)


def masked(text: str) -> str:
    r"""The text, as long as before, with every \ and what it stands before blotted out: signs are looked for in it."""
    return _PAIR.sub("__", text)


def plain_song(song: Song) -> Song:
    """The song with words that a chart can hold: nothing but blanks and unprintable signs is lost."""
    found: list[Section] = []
    for number, section in enumerate(song.sections, 1):
        name = plain(section.name) or f"Part {number}"
        found.append(msgspec.structs.replace(section, name=name, bars=tuple(_plain_bar(bar) for bar in section.bars)))
    extra = tuple(
        (plain(name).replace("=", "-")[:LONGEST_NAME].strip() or "-", plain(value)) for name, value in song.extra
    )
    title = plain(song.title, LONGEST_TITLE) or "Untitled"
    asks = tuple((name, plain(value, LONGEST_NAME)) for name, value in song.asks if plain(value))
    changed: Song = msgspec.structs.replace(song, title=title, sections=tuple(found), extra=extra, asks=asks)
    return changed


def _plain_bar(bar: Bar) -> Bar:
    if not any(slot.cue for slot in bar.slots):
        return bar
    slots = tuple(msgspec.structs.replace(slot, cue=plain(slot.cue)) for slot in bar.slots)
    changed: Bar = msgspec.structs.replace(bar, slots=slots)
    return changed
