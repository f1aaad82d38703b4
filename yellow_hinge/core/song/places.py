"""Places in a song as a player writes them: "Verse", "Verse:3" or "Verse:3:2.5" (section, bar, beat, from 1)."""

from __future__ import annotations

from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.song.song import Address, Song, beat_of, short_beats, slot_on


class Spot(NamedTuple):
    """A section, a bar in it, or a chord in that; indices from 0. Bars and slots are those where they are written."""

    section: int
    bar: int | None = None
    slot: int | None = None


def spot_id(spot: Spot, song: Song) -> int:
    """The id of a section, bar or chord."""
    section = song.sections[spot.section]
    if spot.bar is None:
        return section.id
    bar = section.bars[spot.bar]
    return bar.id if spot.slot is None else bar.slots[spot.slot].id


def read_place(text: str, song: Song) -> Spot:
    """The place that `text` names. A section goes by its name or, where several share it, by its number from 1; a beat
    names the chord that sounds on it. Raises UserError that says what there is.
    """
    words = [word.strip() for word in text.split(":")]
    if len(words) > 3 or not words[0]:
        raise UserError(f"{text[:40]!r} is not a place; write SECTION, SECTION:BAR or SECTION:BAR:BEAT")
    section = _section(words[0], song)
    if len(words) == 1:
        return Spot(section)
    written = _origin(section, song)
    bars = song.sections[written].bars
    bar = _whole(words[1], len(bars), f"bar of {song.sections[section].name}") - 1
    if len(words) == 2:
        return Spot(written, bar)
    return Spot(written, bar, _slot(words[2], bar, written, song))


def read_chord_place(text: str, song: Song) -> Address:
    """(section, bar, slot) of one chord; a bar without a beat names its first. Raises UserError."""
    spot = read_place(text, song)
    if spot.bar is None:
        raise UserError(f"{text[:40]!r} names a whole section; write SECTION:BAR:BEAT for one chord")
    return spot.section, spot.bar, spot.slot or 0


def chord_place(at: Address, song: Song) -> str:
    """The place of a written chord as a player writes it: "Verse:3:2.5"; a name that several sections share becomes the
    section's number.
    """
    section, bar, slot = at
    names = [other.name.casefold() for other in song.sections]
    name = song.sections[section].name
    if names.index(name.casefold()) != section or not name.strip() or ":" in name:
        name = str(section + 1)
    beat = beat_of(song.sections[section].bars[bar], slot) + 1
    return f"{name}:{bar + 1}:{beat if beat.denominator not in (1, 2, 4) else short_beats(beat)}"


def _section(name: str, song: Song) -> int:
    names = [section.name for section in song.sections]
    for index, known in enumerate(names):
        if known.casefold() == name.casefold():
            return index
    if name.isdecimal() and 1 <= int(name[:6]) <= len(names):
        return int(name[:6]) - 1
    near = nearest(name, names, 0.5)
    hint = f"did you mean {near!r}? " if near else ""
    raise UserError(f"there is no section {name[:30]!r}; {hint}sections: {', '.join(dict.fromkeys(names)) or 'none'}")


def _origin(section: int, song: Song) -> int:
    """Where a section's bars are written: a section without bars plays those of the first one of its name."""
    if song.sections[section].bars:
        return section
    name = song.sections[section].name
    found = next((i for i, other in enumerate(song.sections) if other.name == name and other.bars), None)
    if found is None:
        raise UserError(f"{name!r} has no bars")
    return found


def _whole(text: str, most: int, what: str) -> int:
    if not text.isdecimal() or not 1 <= int(text[:6]) <= most:
        raise UserError(f"{text[:12]!r} is not a {what}; there are {most}, counted from 1")
    return int(text[:6])


def _slot(text: str, bar: int, section: int, song: Song) -> int:
    written = song.sections[section].bars[bar]
    try:
        beat = Fraction(text[:12]) - 1
    except (ValueError, ZeroDivisionError):
        beat = Fraction(-1)
    found = slot_on(written, beat)
    if found is not None:
        return found
    end = beat_of(written, len(written.slots))
    raise UserError(f"{text[:12]!r} is not a beat of bar {bar + 1}; it has beats 1 to {short_beats(end)}")
