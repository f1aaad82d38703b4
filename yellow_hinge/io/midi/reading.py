"""Reading MIDI files: the tune, and chords that are named from everything else, in the bars that the file says."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

import msgspec

from yellow_hinge.core.pitch.key import Key, fifths, parse_key
from yellow_hinge.core.song.song import NO_CHORD, TEMPOS, Bar, Meter, Section, Song
from yellow_hinge.io.by_ear import InBars, Lasting, chords_by_ear, named_words, tune_share
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.imported import Imported, Onset, bar_of, with_same
from yellow_hinge.io.melodic import is_instrument
from yellow_hinge.io.midi.bars import Bars, bars_of, placed
from yellow_hinge.io.midi.lyrics import cues
from yellow_hinge.io.midi.tracks import CHORD, Contents, contents, opened
from yellow_hinge.io.midi.tune import Tune, tune_of, written_tune


class _Reader:
    """A file with its bars and its tune."""

    def __init__(self, found: Contents, name: str, asks: Mapping[str, str]) -> None:
        self.found, self.report = found, list[str]()
        self.own = any(said.text == MADE_BY for said in found.texts)
        self.bars = bars_of(found, Fraction(asks.get("first", "0")), name, self.report)
        if self.own:
            line = next((line for line in found.lines if line.name == "tune"), None)
            self.tune = Tune(line.notes, line, False) if line is not None else None
        else:
            self.tune = tune_of(found.lines, self.bars, self.report)

    def notes(self) -> list[Lasting]:
        """Every note, those of the tune counting less for the chord under them."""
        tune = self.tune
        alone = tune is not None and not tune.top and len(self.found.lines) == 1
        mine = set(tune.notes) if tune is not None and not alone else set()
        others = [line.notes for line in self.found.lines if tune is None or line is not tune.line]
        says = tune_share([(self.bars.at(n.start), n.midi) for n in row] for row in others)
        return [
            Lasting(n.start, n.end, n.midi, n.velocity, says if n in mine else 1.0)
            for line in self.found.lines
            for n in line.notes
        ]

    def heard(self, known: Key | None) -> InBars | None:
        """The chords: as our own files say them, else by ear; None where one line alone plays."""
        if self.own and (written := _said_chords(self.found, self.bars)):
            return InBars(written, None, [])
        if self.tune is not None and not self.tune.top and len(self.found.lines) == 1:
            return None
        spans = [(bar.length, bar.meter.beat_quarters) for bar in self.bars.bars]
        found = chords_by_ear(self.notes(), spans, known)
        count = sum(onset.symbol != NO_CHORD for row in found.onsets for onset in row)
        return found._replace(report=[named_words(count), *found.report])


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


def _written_key(found: Contents) -> list[tuple[float, Key]]:
    return [(said.at, parse_key(said.text)) for said in found.keys]


def read_midi(data: bytes, name: str, asks: Mapping[str, str] = {}) -> Imported:
    """Read a MIDI file. `asks`: what the player says of it, "first" (quarters before the first bar) and "key". Raises
    FileFault.
    """
    found = contents(opened(data, name), name)
    reader = _Reader(found, name, asks)
    bars = reader.bars
    keys = _written_key(found)
    known = parse_key(asks["key"]) if asks.get("key") else keys[0][1] if keys and reader.own else None
    heard = reader.heard(known)
    key = _key_of(reader, keys, known, heard.key if heard else None)
    onsets = heard.onsets if heard is not None else [[] for _ in bars.bars]
    meter = bars.bars[1].meter if bars.pickup else bars.bars[0].meter
    sections = _sections(reader, onsets, key, keys, meter)
    song = Song(_title(found, reader), str(key), meter, _tempo(found, meter, reader.report), sections)
    if bars.pickup:
        song = msgspec.structs.replace(song, pickup=bars.bars[0].length / meter.beat_quarters)
    said = heard.report if heard is not None else ["one line alone has no chords to name"]
    if reader.tune is not None and not reader.own:
        track = f"the track {reader.tune.line.name or 'without a name'!r}"
        said = [*said, f"the top notes of {track} are the tune" if reader.tune.top else f"{track} is the tune"]
    return Imported(song, (*reader.report, *said))


def _key_of(reader: _Reader, keys: list[tuple[float, Key]], known: Key | None, heard: Key | None) -> Key:
    """The key that is asked for or written, or else what the chords are in, which is said. A signature of C that stands
    at the beginning and fits nothing is what programs write where nobody chose one.
    """
    if known is not None:
        return known
    written = keys[0][1] if keys else None
    if written is None:
        if heard is None:
            reader.report.append("no key could be found; C major stands")
            return parse_key("C")
        reader.report.append(f"no key is written; it was found to be {heard}")
        return heard
    careless = heard is not None and len(keys) == 1 and fifths(written) == 0 and abs(fifths(heard)) > 1
    if careless and heard is not None:
        reader.report.append(f"{written} is written; by its notes it was taken to be {heard}")
        return heard
    return written


def _title(found: Contents, reader: _Reader) -> str:
    taken = found.title in {line.name for line in found.lines if len(found.lines) > 1} or is_instrument(found.title)
    return (found.title if reader.own or not taken else "")[:200] or "Untitled"


def _tempo(found: Contents, meter: Meter, report: list[str]) -> int:
    tempi = [said.number for said in found.tempi if said.number > 0]
    if len(set(tempi)) > 1:
        report.append("the tempo changes; only the first one was used")
    quarter = tempi[0] / 1_000_000 if tempi else 60 / 90
    return min(TEMPOS[1], max(TEMPOS[0], round(60 / (quarter * float(meter.beat_quarters)))))


def _sections(
    reader: _Reader, onsets: list[list[Onset]], key: Key, keys: list[tuple[float, Key]], meter: Meter
) -> tuple[Section, ...]:
    """The bars in sections: where markers stand, and where the key changes."""
    bars, found = reader.bars, list[tuple[str, Key, list[Bar]]]()
    names = {bars.at(said.at + 0.01): said.text for said in reader.found.markers if said.text}
    changes = {bars.at(at + 0.01): own for at, own in keys[1:]}
    words, before, now = cues(reader.found.lyrics, bars, onsets), NO_CHORD, key
    spelled = [now := changes.get(index, now) for index in range(len(bars.bars))]
    notes = reader.tune.notes if reader.tune is not None else []
    tunes = written_tune(notes, bars, spelled, reader.found.exact, reader.own)
    for index, here in enumerate(bars.bars):
        after_pickup = index == 1 and bars.pickup and len(found) == 1 and 0 not in names
        if after_pickup and index in names:
            found[0] = (names[1], *found[0][1:])
        elif not found or index in names or spelled[index] != spelled[index - 1]:
            found.append((names.get(index) or (found[-1][0] + "+" if found else "Song"), spelled[index], []))
        slots, before = bar_of(words[index], here.length / here.meter.beat_quarters, before)
        own = here.meter if here.meter != meter else None
        found[-1][2].append(Bar(slots, tunes[index], meter=own))
    return tuple(Section(name, with_same(rows), "" if own == key else str(own)) for name, own, rows in found if rows)
