"""What stands on a sheet: the song as written, each chord with its hands, and what later passes play otherwise."""

from __future__ import annotations

from collections import Counter
from fractions import Fraction

import msgspec

from yellow_hinge.core.fingering import Fingered
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.leading.lines import STIFF, stiff
from yellow_hinge.core.leading.prices.hinge import HANDS, Both
from yellow_hinge.core.pitch.pitch import pretty_signs, simple_note
from yellow_hinge.core.rhythm.asked import LinePiece, Playing
from yellow_hinge.core.rhythm.fills.kinds import fill_kind
from yellow_hinge.core.sheet.rhythm_line import Rhythm, rhythms
from yellow_hinge.core.song.repeats import origins
from yellow_hinge.core.song.song import NO_CHORD, Bar, Memo, Song, ending_words, short_beats
from yellow_hinge.core.song.timeline import Moment, bar_meter, bar_number
from yellow_hinge.core.symbols.writing import as_typed, number_text, write_number

MOST_STIFF = 8  # hard changes marked
ORDINALS = ("1st", "2nd", "3rd")


class Key(msgspec.Struct, frozen=True):
    """One key that a hand plays: its name, with the octave where it does not follow from the note below; its degree in
    the chord, finger, MIDI number, and whether it stays from the chord before.
    """

    name: str
    degree: str
    finger: str
    midi: int
    stays: bool = False


class Otherwise(msgspec.Struct, frozen=True):
    """How a later pass plays a chord: "2nd time"."""

    when: str
    left: tuple[Key, ...]
    right: tuple[Key, ...]


class Cell(msgspec.Struct, frozen=True):
    """One chord as it is written. `voicing` is its first place in the solution, -1 where nothing is played; `stiff` the
    semitones of a hard change that leads to it, or ""; `fill` names the lead-ins and fills that were taken at it,
    `line` what a kept line does over it, in degrees.
    """

    slot: int
    symbol: str
    number: str
    beats: str
    voicing: int = -1
    left: tuple[Key, ...] = ()
    right: tuple[Key, ...] = ()
    cue: str = ""
    memo: str = ""
    tune: str = ""
    stiff: str = ""
    otherwise: tuple[Otherwise, ...] = ()
    fill: str = ""
    line: str = ""


class SheetMeasure(msgspec.Struct, frozen=True):
    """A bar as written: its label, repeat signs (`closes` how often it is played in all), ending, meter where another
    one begins, and its chords; `strong`: its label is what to look for; `signs` as in the song; its `rhythm`, and
    those of later passes that have another one ("2nd time").
    """

    label: str
    cells: tuple[Cell, ...]
    opens: bool = False
    closes: int = 0
    ending: str = ""
    meter: str = ""
    strong: bool = False
    signs: tuple[str, ...] = ()
    rhythm: Rhythm | None = None
    later: tuple[tuple[str, Rhythm], ...] = ()


class SheetPart(msgspec.Struct, frozen=True):
    """A section: its name, what is said beside it, and its bars; one that is played again has only those chords that it
    plays otherwise; `rhythm` that all its bars share.
    """

    name: str
    words: str
    measures: tuple[SheetMeasure, ...]
    again: bool = False
    rhythm: Rhythm | None = None


class SheetContent(msgspec.Struct, frozen=True):
    """A whole sheet's content."""

    title: str
    facts: str
    memo: str
    parts: tuple[SheetPart, ...]

    @property
    def compass(self) -> tuple[int, int]:
        """The lowest and the highest key played."""
        keys = [key.midi for part in self.parts for bar in part.measures for cell in bar.cells for key in _keys(cell)]
        return min(keys, default=48), max(keys, default=72)


def _keys(cell: Cell) -> tuple[Key, ...]:
    more = [key for other in cell.otherwise for key in (*other.left, *other.right)]
    return (*cell.left, *cell.right, *more)


def _fill_names(playing: Playing) -> dict[int, str]:
    """What the lead-ins and fills at a chord are called, by its slot."""
    found: dict[int, str] = {}
    for fill in playing.fills:
        kind = fill_kind(fill.kind)
        name = kind.name if kind is not None else fill.kind
        found[fill.slot] = "; ".join(filter(None, (found.get(fill.slot), pretty_signs(name))))
    return found


def _hand(voicing: Voicing, hand: str, staying: frozenset[int], simple: bool) -> tuple[Key, ...]:
    found: list[Key] = []
    below: int | None = None
    fingers: Fingered = voicing.fingers
    for pitch, finger in zip(voicing.pitches(hand), fingers.of(hand), strict=True):
        note = simple_note(pitch.note) if simple else pitch.note
        octave = pitch.octave if note == pitch.note else pitch.midi // 12 - 1
        named = below is None or pitch.midi - below > 12
        name = pretty_signs(str(note)) + (str(octave) if named else "")
        degree = pretty_signs(voicing.chord.degree_of(pitch.midi))
        found.append(Key(name, degree, str(finger), pitch.midi, pitch.midi in staying))
        below = pitch.midi
    return tuple(found)


class Writer:
    """Writes cells of a solution. `simple` says B and F where theory says Cb and E#; `playing`: with the rhythm;
    `inside`: of a stretch out of a song, which does not end there; `lines`: with what is kept of a line.
    """

    def __init__(
        self, song: Song, solution: Solution, memos: tuple[Memo, ...] = (), simple: bool = False,
        playing: Playing | None = None, inside: bool = False, lines: tuple[LinePiece, ...] = (),
    ) -> None:  # fmt: skip
        self.song, self.solution, self.simple = song, solution, simple
        setup = msgspec.structs.replace(solution.setup, loop=solution.setup.loop or inside)
        self.rhythms = rhythms(song, solution._replace(setup=setup), playing) if playing is not None else {}
        self.fills = _fill_names(playing) if playing is not None else {}
        self.lines = {piece.slot: piece.degrees for piece in lines}
        self.memos = {memo.slot: memo.words for memo in memos}
        most = min(MOST_STIFF, len(solution.hinges) // 4)
        hard = {found.at for found in stiff(solution, most) if found.hinge.motion >= STIFF}
        self.hard = {(at + 1) % len(solution.voicings): str(solution.hinges[at].motion) for at in hard}
        self.at = {voicing.moment: index for index, voicing in enumerate(solution.voicings)}
        self.passes: dict[tuple[int, int], list[int]] = {}  # moments of a slot in a section as it is played
        for place, moment in enumerate(solution.moments):
            self.passes.setdefault((moment.section, moment.slot_id), []).append(place)

    def hands(self, index: int) -> tuple[tuple[Key, ...], tuple[Key, ...]]:
        """Both hands of a voicing."""
        voicing = self.solution.voicings[index]
        led = (index > 0 or self.solution.setup.loop) and len(self.solution.voicings) > 1
        before = self.solution.voicings[index - 1].both if led else Both((), ())
        left, right = (_hand(voicing, hand, frozenset(before.of(hand)), self.simple) for hand in HANDS)
        return left, right

    def cell(self, place: int, others: tuple[Otherwise, ...] = ()) -> Cell:
        """The cell of a moment."""
        moment = self.solution.moments[place]
        index = self.at.get(place, -1)
        memo, beats = self.memos.get(moment.slot_id, ""), short_beats(moment.beats)
        if moment.chord is None or index < 0:
            return Cell(moment.slot_id, NO_CHORD, "", beats, cue=moment.cue, memo=memo, tune=_tune(moment))
        left, right = self.hands(index)
        symbol, number = as_typed(moment.symbol, moment.chord), write_number(moment.chord, moment.key)
        return Cell(
            moment.slot_id, pretty_signs(symbol), number_text(number), beats, index, left, right, moment.cue, memo,
            _tune(moment), self.hard.get(index, ""), others, self.fills.get(moment.slot_id, ""),
            pretty_signs(self.lines.get(moment.slot_id, "")),
        )  # fmt: skip

    def later(self, section: int, slot: int) -> tuple[Otherwise, ...]:
        """What the later passes of a slot in a section as it is played do otherwise than the first."""
        first, *rest = self.passes[section, slot]
        found: dict[tuple[tuple[Key, ...], tuple[Key, ...]], list[int]] = {}
        for number, place in enumerate(rest, 2):
            if self.differs(first, place):
                found.setdefault(self.hands(self.at[place]), []).append(number)
        return tuple(Otherwise(_times(numbers), left, right) for (left, right), numbers in found.items())

    def beaten(self, section: int, bar: int) -> tuple[Rhythm | None, tuple[tuple[str, Rhythm], ...]]:
        """The rhythm of a bar as it is first played, and those of the later passes that have another one."""
        own = [
            rhythm
            for (s, b, _), rhythm in sorted(self.rhythms.items(), key=lambda each: each[0])
            if (s, b) == (section, bar)
        ]
        others: dict[Rhythm, list[int]] = {}
        for number, rhythm in enumerate(own[1:], 2):
            if rhythm != own[0]:
                others.setdefault(rhythm, []).append(number)
        return own[0] if own else None, tuple((_times(numbers), rhythm) for rhythm, numbers in others.items())

    def differs(self, one: int, other: int) -> bool:
        """Whether two moments of a slot are played with other keys."""
        if one not in self.at or other not in self.at:
            return False
        return self.solution.voicings[self.at[one]].both != self.solution.voicings[self.at[other]].both


def _times(numbers: list[int]) -> str:
    names = [ORDINALS[n - 1] if n <= len(ORDINALS) else f"{n}th" for n in numbers]
    return f"{', '.join(names)} time"


def _tune(moment: Moment) -> str:
    notes = [pretty_signs(str(tone.pitch.note)) for tone in moment.tune if tone.begins]
    return " ".join(notes)


def content(writer: Writer, facts: str) -> SheetContent:
    """The whole sheet as the song is written."""
    song = writer.song
    parts = []
    first: dict[int, int] = {}
    for played, origin in enumerate(origins(song)):
        if origin in first:
            parts.append(_again(writer, played, first[origin]))
            continue
        first[origin] = played
        parts.append(_part(writer, played))
    return SheetContent(song.title, facts, writer.memos.get(0, ""), tuple(parts))


def _on_later_passes(bar: SheetMeasure) -> list[SheetMeasure]:
    """A bar with its other hands, and then with its other rhythms."""
    bars = []
    others = [(cell, other) for cell in bar.cells for other in cell.otherwise]
    times = {other.when for _, other in others}
    if others:
        cells = tuple(
            msgspec.structs.replace(cell, left=other.left, right=other.right, otherwise=(), cue="", memo="")
            for cell, other in others
        )
        rhythm = next((own for when, own in bar.later if when in times), None)
        bars.append(SheetMeasure(f"bar {bar.label}, {' and '.join(sorted(times))}", cells, rhythm=rhythm))
    for when, own in bar.later:
        if when not in times:
            label = f"bar {bar.label}, {when}"
            bars.append(SheetMeasure(label, tuple(_bare(cell) for cell in bar.cells), rhythm=own))
    return bars


def otherwise(found: SheetContent) -> tuple[SheetPart, ...]:
    """What is not told where the bars are written: what later passes play otherwise, and the sections played again."""
    parts = []
    for part in found.parts:
        if part.again:
            parts.append(part)
            continue
        bars = tuple(other for bar in part.measures for other in _on_later_passes(bar))
        if bars:
            parts.append(SheetPart(part.name, "on later passes", bars))
    return tuple(parts)


def _bare(cell: Cell) -> Cell:
    """A chord as it is first played, without words."""
    bare: Cell = msgspec.structs.replace(cell, otherwise=(), cue="", memo="", fill="", line="")
    return bare


def _part(writer: Writer, played: int) -> SheetPart:
    song = writer.song
    section = song.sections[played]
    before = song.meter
    measures = []
    for index, bar in enumerate(section.bars):
        meter = bar_meter(song, section, bar)
        shown = str(meter) if meter != before else ""
        before = meter
        cells = tuple(_cell(writer, played, slot.id) for slot in bar.slots)
        rhythm, later = writer.beaten(played, index)
        made = _measure(bar, str(bar_number(song, played, index)), cells, shown)
        measures.append(msgspec.structs.replace(made, rhythm=rhythm, later=later))
    words = pretty_signs(f"in {section.key}") if section.key and section.key != song.key else ""
    return _one_rhythm(SheetPart(section.name, words, tuple(measures)))


MOSTLY = Fraction(2, 3)  # of a section's bars, for one rhythm to be told once


def _one_rhythm(part: SheetPart) -> SheetPart:
    """A section most of whose bars have one rhythm says that once; bars with another one keep theirs."""
    counted = Counter(bar.rhythm for bar in part.measures if bar.rhythm is not None)
    most, count = counted.most_common(1)[0] if counted else (None, 0)
    if count < 2 or count < MOSTLY * len(part.measures):
        return part
    bars = tuple(
        msgspec.structs.replace(bar, rhythm=None if bar.rhythm == most else bar.rhythm) for bar in part.measures
    )
    return msgspec.structs.replace(part, measures=bars, rhythm=most)


def _cell(writer: Writer, played: int, slot: int) -> Cell:
    return writer.cell(writer.passes[played, slot][0], writer.later(played, slot))


def _measure(bar: Bar, label: str, cells: tuple[Cell, ...], meter: str) -> SheetMeasure:
    return SheetMeasure(label, cells, bar.opens, bar.repeats, ending_words(bar.ending), meter, signs=bar.signs)


def _again(writer: Writer, played: int, first: int) -> SheetPart:
    """A section that plays bars which are written already: what it plays otherwise."""
    song, name = writer.song, writer.song.sections[played].name
    bars: list[SheetMeasure] = []
    for index, bar in enumerate(song.sections[first].bars):
        cells = []
        for slot in bar.slots:
            pairs = zip(
                writer.passes[first, slot.id], writer.passes[played, slot.id], strict=False
            )  # a jump may play one of them once more
            other = next((there for here, there in pairs if writer.differs(here, there)), None)
            if other is not None:
                cells.append(writer.cell(other))
        rhythm = writer.beaten(played, index)[0]
        same = rhythm == writer.beaten(first, index)[0]
        if not cells and not same:  # the same hands, struck otherwise
            cells = [writer.cell(writer.passes[played, slot.id][0]) for slot in bar.slots]
        if cells:
            label = f"bar {bar_number(song, first, index)}"
            bars.append(SheetMeasure(label, tuple(cells), rhythm=None if same else rhythm))
    return SheetPart(name, "again, with these" if bars else "again, the same", tuple(bars), True)
