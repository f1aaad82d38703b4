"""What a MIDI file holds, in quarters from its beginning: the lines that play, and the maps of tempo, meter and key."""

from __future__ import annotations

import io
from collections import Counter, defaultdict
from typing import NamedTuple

import mido

from yellow_hinge.io.files import FileFault

MAX_NOTES = 60_000
CHORD = "chord: "  # what a text of our own files begins with that says where a chord begins
_DRUMS, _SUSTAIN, _PEDAL_DOWN = 9, 64, 64
_OFF_GRID = 0.05  # share of strikes beside the grid, up to which a file was not played by hand
# General MIDI programs (from 0) by family, in the words that names are judged by.
_FAMILIES = (
    (range(0, 8), "piano"), (range(8, 16), "chimes"), (range(16, 24), "organ"), (range(24, 32), "guitar"),
    (range(32, 40), "bass"), (range(40, 42), "violin"), (range(42, 45), "cello"), (range(45, 52), "strings"),
    (range(52, 55), "voice"), (range(56, 60), "trumpet"), (range(60, 64), "horn"), (range(64, 72), "sax"),
    (range(72, 80), "flute"), (range(80, 88), "lead"), (range(88, 96), "pad"), (range(104, 112), "guitar"),
)  # fmt: skip


class Key(NamedTuple):
    """A key that was struck: when, when it was let go (quarters), MIDI number and velocity."""

    start: float
    end: float
    midi: int
    velocity: int


class Playing(NamedTuple):
    """One channel of one track: its name (or its instrument's family), and its notes by when they are struck."""

    name: str
    channel: int
    notes: list[Key]
    named: bool


class Said(NamedTuple):
    """Something that is said at a time (quarters): a marker, a syllable, a key in words, a tempo (microseconds a
    quarter) or a meter in numbers.
    """

    at: float
    text: str = ""
    number: int = 0
    lower: int = 0


class Contents(NamedTuple):
    """Everything of a file. `exact`: whether its notes lie on a grid, and were not played by hand."""

    title: str
    lines: list[Playing]
    meters: list[Said]
    keys: list[Said]
    tempi: list[Said]
    markers: list[Said]
    lyrics: list[Said]
    texts: list[Said]
    exact: bool
    pedals: list[tuple[float, float]]


def opened(data: bytes, name: str) -> mido.MidiFile:
    """The file in ticks of beats. Raises FileFault."""
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    except MemoryError:
        raise
    except Exception as error:  # the library raises whatever comes to it
        raise FileFault(name, f"is a damaged MIDI file ({error or type(error).__name__})") from None
    if file.ticks_per_beat <= 0:
        raise FileFault(name, "is a MIDI file in frames of film, without beats; it cannot be set out in bars")
    return file


class _Held(NamedTuple):
    """A key that is down: since when, how hard it was struck, and how many earlier strikes are still to be let go."""

    at: int
    velocity: int
    waiting: int


class _Gatherer:
    def __init__(self, name: str, ticks: int) -> None:
        self.name, self.ticks = name, ticks
        self.said: dict[str, list[Said]] = defaultdict(list)
        self.notes: dict[tuple[int, int], list[Key]] = defaultdict(list)
        self.names: dict[int, str] = {}
        self.programs: dict[tuple[int, int], int] = {}
        self.pedals: list[tuple[float, float]] = []  # down and up
        self.down: dict[int, float] = {}
        self.count = 0
        self.off_grid = 0

    def track(self, number: int, track: mido.MidiTrack) -> None:
        at = 0
        held: dict[tuple[int, int], _Held] = {}
        for message in track:
            at += message.time
            if message.is_meta:
                self.meta(number, at / self.ticks, message)
            elif message.type == "program_change":
                self.programs.setdefault((number, message.channel), message.program)
            elif message.type == "control_change" and message.control == _SUSTAIN:
                self.pedal(at / self.ticks, message)
            elif message.type in ("note_on", "note_off") and message.channel != _DRUMS:
                self.key(number, at, message, held)
        for place, begun in held.items():  # what is never let go
            self.ended(number, place, begun, min(at, begun.at + 4 * self.ticks))

    def key(self, number: int, at: int, message: mido.Message, held: dict[tuple[int, int], _Held]) -> None:
        place = (message.channel, message.note)
        begun = held.get(place)
        if message.type == "note_on" and message.velocity > 0:
            if begun is not None:
                self.ended(number, place, begun, at)
            held[place] = _Held(at, message.velocity, 0 if begun is None else begun.waiting + 1)
            self.count += 1
            self.off_grid += not _on_grid(at, self.ticks)
            if self.count > MAX_NOTES:
                raise FileFault(self.name, f"holds more than {MAX_NOTES} notes; this is no song")
        elif begun is not None and begun.waiting:  # it lets go of the note before, which was struck again meanwhile
            held[place] = begun._replace(waiting=begun.waiting - 1)
        elif begun is not None:
            self.ended(number, place, held.pop(place), at)

    def pedal(self, at: float, message: mido.Message) -> None:
        if message.value >= _PEDAL_DOWN:
            self.down.setdefault(message.channel, at)
        elif message.channel in self.down:
            self.pedals.append((self.down.pop(message.channel), at))

    def ended(self, number: int, place: tuple[int, int], begun: _Held, at: int) -> None:
        """A note that is let go, or struck again."""
        if at > begun.at:
            key = Key(begun.at / self.ticks, at / self.ticks, place[1], begun.velocity)
            self.notes[number, place[0]].append(key)

    def meta(self, number: int, at: float, message: mido.MetaMessage) -> None:
        if message.type == "time_signature":
            self.said["meters"].append(Said(at, number=message.numerator, lower=message.denominator))
        elif message.type == "set_tempo":
            self.said["tempi"].append(Said(at, number=message.tempo))
        elif message.type == "key_signature":
            self.said["keys"].append(Said(at, message.key))
        elif message.type == "marker":
            self.said["markers"].append(Said(at, _text(message.text).strip()))
        elif message.type == "lyrics":
            self.said["lyrics"].append(Said(at, _text(message.text)))
        elif message.type == "text":
            self.said["texts"].append(Said(at, _text(message.text)))
        elif message.type in ("track_name", "instrument_name"):
            self.names.setdefault(number, _text(message.name).strip())


def _text(text: str) -> str:
    """A text of a file, which says nothing of its encoding: UTF-8 where it is, else Latin-1."""
    try:
        return text.encode("latin-1").decode("utf-8")
    except UnicodeError:
        return text


def _on_grid(tick: int, ticks: int) -> bool:
    """Whether a tick lies on a quarter, third or sixth of a beat, a tick beside it at most."""
    return any(abs(tick * parts / ticks - round(tick * parts / ticks)) * ticks / parts <= 1 for parts in (8, 6))


def contents(file: mido.MidiFile, name: str) -> Contents:
    """What a file holds. Raises FileFault for more notes than a song has, and for none."""
    found = _Gatherer(name, file.ticks_per_beat)
    for number, track in enumerate(file.tracks):
        found.track(number, track)
    if not found.notes:
        raise FileFault(name, "holds no notes")
    said = {kind: sorted(rows, key=lambda said: said.at) for kind, rows in found.said.items()}
    lyrics = said.get("lyrics") or _sung_texts(said.get("texts", []))
    meters, keys, tempi, markers = (said.get(kind, []) for kind in ("meters", "keys", "tempi", "markers"))
    exact = found.off_grid <= _OFF_GRID * found.count
    texts, title = said.get("texts", []), _title(file, found)
    return Contents(title, _lines(found), meters, keys, tempi, markers, lyrics, texts, exact, found.pedals)


def _title(file: mido.MidiFile, found: _Gatherer) -> str:
    """The name of the first track, where that is no player's among others."""
    numbers = {number for number, _ in found.notes}
    return found.names.get(0, "") if len(file.tracks) == 1 or 0 not in numbers else ""


def _lines(found: _Gatherer) -> list[Playing]:
    """Every channel of every track; a track's name is nobody's where several channels share it."""
    channels = Counter(number for number, _ in found.notes)
    return [_line(found, number, channel, channels[number] > 1) for number, channel in sorted(found.notes)]


def _sung_texts(texts: list[Said]) -> list[Said]:
    """Words to sing that are written as texts, as files made for singing along have them."""
    later = [said for said in texts if said.at > 0 and not said.text.startswith(("@", CHORD))]
    return sorted(later, key=lambda said: said.at) if len(later) > 3 else []


def _line(found: _Gatherer, number: int, channel: int, shared: bool) -> Playing:
    program = found.programs.get((number, channel))
    family = next((words for programs, words in _FAMILIES if program is not None and program in programs), "")
    own = "" if shared else found.names.get(number, "")
    notes = sorted(found.notes[number, channel])
    return Playing(own or family, channel, notes, bool(own))
