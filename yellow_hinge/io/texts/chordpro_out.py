"""Writing ChordPro: chords over their cue words with bar lines, sections without words as grids."""

from __future__ import annotations

from fractions import Fraction

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.song.road import opened
from yellow_hinge.core.song.song import NO_CHORD, Bar, Meter, Section, Slot, Song, ending_words
from yellow_hinge.core.song.timeline import read_slot
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
        worded = any(slot.cue for bar in section.bars for slot in bar.slots)
        whole = all(bar.meter is None for bar in section.bars) and not (index == 0 and self.song.pickup)
        grid = not worded and whole
        kind = "grid" if grid else _kind_of(section.name)
        name = f' label="{section.name}"' if grid else f": {section.name}"
        body = self._grid(index, section) if grid else self._rows(index, section, key)
        signs = [
            _brace("comment", f"bar {b + 1}: {', '.join(bar.signs)}") for b, bar in enumerate(section.bars) if bar.signs
        ]
        return [*head, f"{{start_of_{kind}{name}}}", *body, *signs, f"{{end_of_{kind}}}"]

    @staticmethod
    def _again(section: Section) -> list[str]:
        kind = _kind_of(section.name)
        return [f"{{start_of_{kind}: {section.name}}}", f"{{end_of_{kind}}}"]

    # --- words ---

    def _rows(self, index: int, section: Section, key: Key) -> list[str]:
        lines: list[str] = []
        row: list[str] = []
        for b, bar in enumerate(section.bars):
            meter = bar.meter or self.song.meter
            beats = sum((slot.beats for slot in bar.slots), Fraction(0))
            odd = beats != meter.beats or (bar.meter is not None and bar.meter != self.meter)
            if meter != self.meter and not odd:
                lines, row = [*lines, *self._flushed(row)], []
            row.append(self._bar(section.bars, b, key, (index, b) in self.back, meter))
            if len(row) == _A_LINE:
                lines, row = [*lines, *self._flushed(row)], []
        return [*lines, *self._flushed(row)]

    @staticmethod
    def _flushed(row: list[str]) -> list[str]:
        return ["| ".join(row).rstrip() + " |"] if row else []

    def _bar(self, bars: tuple[Bar, ...], at: int, key: Key, opens: bool, meter: Meter) -> str:
        """A bar's chords over their words, its repeat signs, endings and beats as annotations around them."""
        bar, was = bars[at], 0
        if at and not bars[at - 1].repeats:
            was = bars[at - 1].ending
        words = ["[*|:]"] if opens else []
        if bar.ending and (bar.ending != was or opens):
            words.append(f"[*{ending_words(bar.ending)}.]")
        elif was and not bar.ending:
            words.append("[*||]")
        by = meter.beat_quarters / self.song.meter.beat_quarters
        lengths = [slot.beats * by for slot in bar.slots]
        even = len(set(lengths)) == 1 and sum(lengths) == self.song.meter.beats
        words += [] if even else [f"[*{'+'.join(str(length) for length in lengths)}]"]
        for slot in bar.slots:
            words.append(f"[{_symbol(slot, key)}]{slot.cue} ".rstrip() + " ")
        if bar.repeats:
            words.append(f"[*:|{f'x{bar.repeats}' if bar.repeats > 2 else ''}] ")
        return "".join(words)

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
