"""Reading MIDI files: the tune, and chords that are named from everything else, in the bars that the file says."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from fractions import Fraction

import msgspec

from yellow_hinge.core.pitch.key import Key, fifths, key_on, parse_key
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Song
from yellow_hinge.io.by_ear import InBars, Lasting, chords_by_ear, named_words, tune_share
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.imported import NOTHING_ASKED, Imported, Offer, Onset, bar_of, in_section, with_same
from yellow_hinge.io.melodic import is_instrument
from yellow_hinge.io.midi.bars import Bars, bars_of, placed
from yellow_hinge.io.midi.lyrics import cues
from yellow_hinge.io.midi.tracks import CHORD, Contents, contents, opened
from yellow_hinge.io.midi.tune import Tune, tune_of, written_tune

_JUST = 0.01  # quarters after a bar line that a mark on it is looked for

SAME_TEMPO = Fraction(1, 1000)  # of a beat: whole microseconds are written


class _Reader:
    """A file with its bars, its tune and its keys."""

    def __init__(self, found: Contents, name: str, asks: Mapping[str, str]) -> None:
        self.found, self.asks, self.report = found, asks, list[str]()
        self.own = any(said.text == MADE_BY for said in found.texts)
        self.bars = bars_of(found, _shift(asks), name, self.report)
        self.meter = self.bars.meter
        self.keys = [(said.at, parse_key(said.text)) for said in found.keys]
        self.tune = self._own_tune() if self.own else tune_of(found.lines, self.bars, self.report, asks.get("tune", ""))

    def _own_tune(self) -> Tune | None:
        line = next((line for line in self.found.lines if line.name == "tune"), None)
        return Tune(line.notes, line, False) if line is not None else None

    @property
    def known(self) -> Key | None:
        """The key where it is asked for, or written by ourselves."""
        if self.asks.get("key"):
            return parse_key(self.asks["key"])
        return self.keys[0][1] if self.keys and self.own else None

    @property
    def alone(self) -> bool:
        """Whether the tune is all that the file has."""
        return self.tune is not None and not self.tune.top and len(self.found.lines) == 1

    def notes(self) -> list[Lasting]:
        """Every note, those of the tune counting less for the chord under them."""
        tune = self.tune
        mine = set(tune.notes) if tune is not None else set()
        others = (line.notes for line in self.found.lines if tune is None or line is not tune.line)
        says = tune_share([(self.bars.at(n.start), n.midi) for n in row] for row in others)
        every = (note for line in self.found.lines for note in line.notes)
        return [Lasting(n.start, n.end, n.midi, n.velocity, says if n in mine else 1.0) for n in every]

    def heard(self) -> InBars:
        """The chords: as our own files say them, else by ear; none where one line alone plays."""
        if self.own and (written := _said_chords(self.found, self.bars)):
            return InBars(written, None, [])
        if self.alone:
            return InBars([[] for _ in self.bars.bars], None, ["one line alone has no chords to name"])
        spans = [(bar.length, bar.meter.beat_quarters) for bar in self.bars.bars]
        found = chords_by_ear(self.notes(), spans, self.known, cut=self.asks.get("grid", ""))
        count = sum(onset.symbol != NO_CHORD for row in found.onsets for onset in row)
        return found._replace(report=[named_words(count), *found.report])

    def said_of_tune(self) -> list[str]:
        if self.tune is None or self.own:
            return []
        track = f"the track {self.tune.line.name or 'without a name'!r}"
        return [f"the top notes of {track} are the tune" if self.tune.top else f"{track} is the tune"]

    def offers(self) -> tuple[Offer, ...]:
        """What the player may choose otherwise."""
        if self.own:
            return ()
        lines = self.found.lines
        names = [(str(n), line.name or f"track {n + 1}") for n, line in enumerate(lines)]
        mine = next(
            (str(n) for n, line in enumerate(lines) if self.tune is not None and line is self.tune.line), "none"
        )
        unit = self.meter.beat_quarters
        firsts = tuple((str(unit * n), f"beat {n + 1} of the file") for n in range(self.meter.beats))
        keys = (("", "as found"), *((str(key), str(key)) for key in KEYS))
        return (
            Offer("tune", "Tune", (*names, ("none", "none")), mine),
            Offer("first", "Bar one begins on", firsts, str(_shift(self.asks))),
            Offer("key", "Key", keys, self.asks.get("key", "")),
            Offer("grid", "A chord lasts at least", GRIDS, self.asks.get("grid", "")),
        )


KEYS = tuple(key_on(pc, mode) for mode in ("major", "minor") for pc in range(12))
GRIDS = (("", "as found"), ("bar", "a bar"), ("half", "half a bar"), ("beat", "a beat"))


def _shift(asks: Mapping[str, str]) -> Fraction:
    """Quarters before the first bar."""
    try:
        return min(Fraction(64), max(Fraction(0), Fraction(asks.get("first", "0"))))
    except (ValueError, ZeroDivisionError):
        return Fraction(0)


def _said_chords(found: Contents, bars: Bars) -> list[list[Onset]]:
    """The chords that a file says in words; [] where it says none."""
    rows: list[list[Onset]] = [[] for _ in bars.bars]
    for said in found.texts:
        if said.text.startswith(CHORD):
            bar = bars.at(said.at)
            here = bars.bars[bar]
            beat = placed((said.at - float(here.start)) / float(here.meter.beat_quarters), True)
            rows[bar].append(Onset(beat, said.text.removeprefix(CHORD)))
    return rows if any(rows) else []


def read_midi(data: bytes, name: str, asks: Mapping[str, str] = NOTHING_ASKED) -> Imported:
    """Read a MIDI file. `asks`: what the player says of it, by the ids of its offers. Raises FileFault."""
    reader = _Reader(contents(opened(data, name), name), name, asks)
    heard, meter = reader.heard(), reader.meter
    key = _key_of(reader, heard.key)
    made = _sections(reader, heard.onsets, key)
    song = Song(_title(reader), str(key), meter, _tempo(reader, meter), made)
    if reader.bars.pickup:
        song = msgspec.structs.replace(song, pickup=reader.bars.bars[0].length / meter.beat_quarters)
    return Imported(song, (*reader.report, *heard.report, *reader.said_of_tune()), offers=reader.offers())


def _key_of(reader: _Reader, heard: Key | None) -> Key:
    """The key that is asked for or written, or else what the chords are in, which is said. A signature of C that stands
    at the beginning and fits nothing is what programs write where nobody chose one.
    """
    if reader.known is not None:
        return reader.known
    written = reader.keys[0][1] if reader.keys else None
    if written is None:
        if heard is None:
            reader.report.append("no key could be found; C major stands")
            return parse_key("C")
        reader.report.append(f"no key is written; it was found to be {heard}")
        return heard
    careless = heard is not None and len(reader.keys) == 1 and fifths(written) == 0 and abs(fifths(heard)) > 1
    if careless and heard is not None:
        reader.report.append(f"{written} is written; by its notes it was taken to be {heard}")
        return heard
    return written


def _title(reader: _Reader) -> str:
    found = reader.found
    taken = found.title in {line.name for line in found.lines if len(found.lines) > 1} or is_instrument(found.title)
    return (found.title if reader.own or not taken else "")[:200] or "Untitled"


def _tempo(reader: _Reader, meter: Meter) -> int:
    """Beats a minute where the song's meter begins: what changes with the meter's beat alone is no other tempo."""
    tempi = [said for said in reader.found.tempi if said.number > 0]
    bars = reader.bars
    beats = [said.number * bars.bars[bars.at(said.at)].meter.beat_quarters for said in tempi]
    if beats and max(beats) - min(beats) > SAME_TEMPO * min(beats):
        reader.report.append("the tempo changes; only the first one was used")
    there = [said for said in tempi if said.at <= bars.begins + 1e-6][-1:] or tempi[:1]
    quarter = there[0].number / 1_000_000 if there else 60 / 90
    return min(TEMPOS[1], max(TEMPOS[0], round(60 / (quarter * float(meter.beat_quarters)))))


def _sections(reader: _Reader, onsets: list[list[Onset]], key: Key) -> tuple[Section, ...]:
    """The bars in sections: where markers stand, and where the key changes."""
    names, spelled = _names(reader), _keys(reader, key)
    found: list[tuple[str, Key, list[Bar]]] = []
    for index, bar in enumerate(_bars(reader, onsets, spelled)):
        if not found or index in names or spelled[index] != spelled[index - 1]:
            found.append((names.get(index) or (found[-1][0] + "+" if found else "Song"), spelled[index], []))
        found[-1][2].append(bar)
    return tuple(in_section(name, with_same(rows), "" if own == key else str(own)) for name, own, rows in found)


def _names(reader: _Reader) -> dict[int, str]:
    """The names of the sections by the bars that they begin in; a pickup belongs to what follows."""
    names = {reader.bars.at(said.at + _JUST): said.text for said in reader.found.markers if said.text}
    if reader.bars.pickup and 0 not in names and 1 in names:
        names[0] = names.pop(1)
    return names


def _bars(reader: _Reader, onsets: list[list[Onset]], spelled: list[Key]) -> Iterator[Bar]:
    """The bars with their chords, words and tune."""
    before = NO_CHORD
    words = cues(reader.found.lyrics, reader.bars, onsets)
    notes = reader.tune.notes if reader.tune is not None else []
    tunes = written_tune(notes, reader.bars, spelled, reader.found.exact, reader.own)
    for here, row, tune in zip(reader.bars.bars, words, tunes, strict=True):
        slots, before = bar_of(row, here.length / here.meter.beat_quarters, before)
        yield Bar(slots, tune, meter=here.meter if here.meter != reader.meter else None)


def _keys(reader: _Reader, key: Key) -> list[Key]:
    """The key of every bar."""
    changes = {reader.bars.at(at + _JUST): own for at, own in reader.keys[1:]}
    now, found = key, []
    for index in range(len(reader.bars.bars)):
        now = changes.get(index, now)
        found.append(now)
    return found
