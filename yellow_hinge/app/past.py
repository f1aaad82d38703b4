"""What a chord was before: as far back as undo goes, and before that as the file remembers."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.app.state import State, written_slots
from yellow_hinge.core.song import Address, Song, Was, beat_of, slot_on


class Past:
    """The story of an opened song's chords. `opened` is the song as it was opened, `told` what its file remembers."""

    def __init__(self, opened: Song, told: tuple[Was, ...] = ()) -> None:
        self.opened = opened
        self._told = {(was.section, was.bar, was.beat): was.symbols for was in told}

    def was(self, states: list[State], song: Song, at: Address) -> list[str]:
        """The symbols that sounded where the chord at `at` begins, the oldest first, as they changed; without the
        present one. A song whose sections or bars were others cannot be compared and begins the story anew.
        """
        section, bar, slot = at
        written = song.sections[section].bars[bar]
        present, beat = written.slots[slot].symbol, beat_of(written, slot)
        found = list(self._remembered(song, section, bar, beat))
        for state in states:
            if not _same_bars(state.song, song, section):
                found = []
                continue
            symbol, _ = _sounding(state.song, section, bar, beat)
            if symbol and symbol not in found[-1:]:
                found.append(symbol)
        return found[:-1] if found[-1:] == [present] else found

    def _remembered(self, song: Song, section: int, bar: int, beat: Fraction) -> tuple[str, ...]:
        if not _same_bars(self.opened, song, section):
            return ()
        _, start = _sounding(self.opened, section, bar, beat)
        return self._told.get((section, bar, start), ())

    def told(self, states: list[State], song: Song) -> tuple[Was, ...]:
        """What a file has to remember of every chord that was another one."""
        found = []
        for (section, bar, slot), _ in written_slots(song):
            symbols = self.was(states, song, (section, bar, slot))
            if symbols:
                beat = beat_of(song.sections[section].bars[bar], slot)
                found.append(Was(section, bar, beat, tuple(symbols)))
        return tuple(found)


def _same_bars(old: Song, new: Song, section: int) -> bool:
    same_key = (old.key, len(old.sections)) == (new.key, len(new.sections))
    return same_key and len(old.sections[section].bars) == len(new.sections[section].bars)


def _sounding(song: Song, section: int, bar: int, beat: Fraction) -> tuple[str, Fraction]:
    """(symbol, beat on which it begins) of the chord that sounds on a beat of a bar; ("", beat) for none."""
    written = song.sections[section].bars[bar]
    slot = slot_on(written, beat)
    return ("", beat) if slot is None else (written.slots[slot].symbol, beat_of(written, slot))
