"""What a chord was before, as far back as undo goes."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.app.state import Address, State
from yellow_hinge.core.song import Song


def was(past: list[State], song: Song, at: Address) -> list[str]:
    """The symbols that sounded where the chord at `at` begins, the oldest first, as they changed; without the present
    one. A song whose sections or bars were others cannot be compared and begins the story anew.
    """
    section, bar, slot = at
    present = song.sections[section].bars[bar].slots
    beat = sum((other.beats for other in present[:slot]), Fraction(0))
    found: list[str] = []
    for state in past:
        if not _same_bars(state.song, song, section):
            found = []
            continue
        symbol = _sounding(state.song, section, bar, beat)
        if symbol and symbol not in found[-1:]:
            found.append(symbol)
    return found[:-1] if found[-1:] == [present[slot].symbol] else found


def _same_bars(old: Song, new: Song, section: int) -> bool:
    same_key = (old.key, len(old.sections)) == (new.key, len(new.sections))
    return same_key and len(old.sections[section].bars) == len(new.sections[section].bars)


def _sounding(song: Song, section: int, bar: int, beat: Fraction) -> str:
    at = Fraction(0)
    for slot in song.sections[section].bars[bar].slots:
        at += slot.beats
        if beat < at:
            return slot.symbol
    return ""
