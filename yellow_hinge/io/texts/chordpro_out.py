"""Writing ChordPro: chords over their cue words with bar lines, sections without words as grids."""

from __future__ import annotations

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.road import opened
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song, ending_words
from yellow_hinge.core.song.timeline import bar_meter, read_slot
from yellow_hinge.core.symbols.writing import as_typed
from yellow_hinge.io.texts.chordpro_grid import grid_cells

_KINDS = {"chorus": ("chorus", "refrain"), "bridge": ("bridge", "middle")}  # of sections, by how their names begin
_A_LINE = 4


def write_chordpro(song: Song, maker: str = "") -> bytes:
    """The song as ChordPro: chords in letters over their cue words, four bars a line with bar lines, every ending,
    repeat signs and beats as annotations, sections without words as grids; kept directives come back. `maker` is a
    comment on top.
    """
    lines = [f"# {maker}"] if maker else []
    lines += [_brace("title", song.title), _brace("key", _short_key(song.the_key)), _brace("time", str(song.meter)),
             _brace("tempo", str(song.tempo))]  # fmt: skip
    lines += [_brace(name, value) for name, value in song.extra]
    writer = _Writer(song)
    for index, section in enumerate(song.sections):
        lines += ["", *writer.section(index, section)]
    return ("\n".join(lines) + "\n").encode()


def _short_key(key: Key) -> str:
    return f"{key.tonic}m" if key.mode == "minor" else str(key.tonic) if key.mode == "major" else str(key)


def _brace(name: str, value: str) -> str:
    return f"{{{name}: {value}}}" if value else f"{{{name}}}"


def _kind_of(name: str) -> str:
    low = name.strip().lower()
    return next((kind for kind, starts in _KINDS.items() if low.startswith(starts)), "verse")


class _Writer:
    def __init__(self, song: Song) -> None:
        self.song, self.back = song, opened(song)
        self.key, self.meter = song.the_key, song.meter

    def section(self, index: int, section: Section) -> list[str]:
        """The lines of a section."""
        key = section.the_key(self.song)
        head = [_brace("key", _short_key(key))] if key != self.key else []
        self.key = key
        if not section.bars:  # played again
            return [*head, *self._again(section)]
        signs = ((f"bar {b}", ", ".join(bar.signs)) for b, bar in enumerate(section.bars, 1) if bar.signs)
        told = [_brace("comment", f"{place}: {words}") for place, words in signs]
        if self._is_grid(index, section):
            return [
                *head,
                *self._time(section.meter or self.song.meter),
                f'{{start_of_grid label="{section.name}"}}',
                *self._grid(index, section),
                *told,
                "{end_of_grid}",
            ]
        kind = _kind_of(section.name)
        rows = self._rows(index, section)
        return [*head, f"{{start_of_{kind}: {section.name}}}", *rows, *told, f"{{end_of_{kind}}}"]

    def _is_grid(self, index: int, section: Section) -> bool:
        """Whether a section has no words, and bars of its own meter only."""
        worded = any(slot.cue for bar in section.bars for slot in bar.slots)
        return not worded and all(bar.meter is None for bar in section.bars) and not (index == 0 and self.song.pickup)

    @staticmethod
    def _again(section: Section) -> list[str]:
        kind = _kind_of(section.name)
        return [f"{{start_of_{kind}: {section.name}}}", f"{{end_of_{kind}}}"]

    # --- words ---

    def _time(self, meter: Meter) -> list[str]:
        """The line that says in which meter it goes on, where that is another one."""
        told = [_brace("time", str(meter))] if meter != self.meter else []
        self.meter = meter
        return told

    def _rows(self, index: int, section: Section) -> list[str]:
        """Four bars a line; a bar in another meter begins a line of its own."""
        found, row = list[str](), list[str]()
        for b, bar in enumerate(section.bars):
            told = self._time(bar_meter(self.song, section, bar))
            if row and (told or len(row) == _A_LINE):
                found, row = [*found, f"{'| '.join(row).rstrip()} |"], []
            found += told
            row.append(self._bar(section.bars, b, (index, b) in self.back))
        return [*found, f"{'| '.join(row).rstrip()} |"]

    def _bar(self, bars: tuple[Bar, ...], at: int, opens: bool) -> str:
        """A bar's chords over their words, its repeat signs, endings and beats as annotations around them."""
        bar = bars[at]
        words = [*self._before(bars, at, opens), *self._beats(bar)]
        words += [f"[{_symbol(slot, self.key)}]{slot.cue} ".rstrip() + " " for slot in bar.slots]
        if bar.repeats:
            words.append(f"[*:|{f'x{bar.repeats}' if bar.repeats > 2 else ''}] ")
        return "".join(words)

    @staticmethod
    def _before(bars: tuple[Bar, ...], at: int, opens: bool) -> list[str]:
        """What stands before a bar: that a repeat begins, an ending, or that one is over."""
        bar = bars[at]
        was = bars[at - 1].ending if at and not bars[at - 1].repeats else 0
        words = ["[*|:]"] if opens else []
        if bar.ending and (bar.ending != was or opens):
            words.append(f"[*{ending_words(bar.ending)}.]")
        elif was and not bar.ending:
            words.append("[*||]")
        return words

    def _beats(self, bar: Bar) -> list[str]:
        """The beats of a bar's chords, where they do not share it evenly."""
        lengths = [slot.beats for slot in bar.slots]
        even = len(set(lengths)) == 1 and sum(lengths) == self.meter.beats
        return [] if even else [f"[*{'+'.join(map(str, lengths))}]"]

    # --- grids ---

    def _grid(self, index: int, section: Section) -> list[str]:
        key, lines, row = self.key, list[str](), ""
        for b, bar in enumerate(section.bars):
            before = section.bars[b - 1] if b else None
            row += self._line(bar, before, (index, b) in self.back)
            row += f" {grid_cells(bar.slots, [_symbol(slot, key) for slot in bar.slots])} "
            last = b + 1 == len(section.bars)
            if (b + 1) % _A_LINE == 0 or last or bar.repeats:
                row += ":|" if bar.repeats else "|"
                row += f" x{bar.repeats}" if bar.repeats > 2 else ""
                lines, row = [*lines, row.strip()], ""
        return lines

    @staticmethod
    def _line(bar: Bar, before: Bar | None, opens: bool) -> str:
        if bar.ending and (before is None or before.ending != bar.ending or before.repeats):
            return f"|{ending_words(bar.ending).replace(' ', '')}"
        if opens:
            return "|:"
        return "||" if before is not None and before.ending and not bar.ending else "|"


def _symbol(slot: Slot, key: Key) -> str:
    chord = read_slot(slot, key)
    return NO_CHORD if chord is None else as_typed(slot.symbol, chord)
