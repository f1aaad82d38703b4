"""What is this chord? Sounding notes to ranked readings, with what is missing, rootless readings and disputed names."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.pitch.key import Key, root_number, spell_in_key
from yellow_hinge.core.pitch.pitch import Note, degree_pc, flat_note, sharp_note, simple_note
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import Quality
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import write_number, write_quality, write_symbol

# Every quality that a set of notes is compared with, in house style. Shorter ones come first among equals.
NAMED = (
    "", "m", "5", "6", "7", "m6", "m7", "maj7", "dim", "aug", "9", "m9", "maj9", "6/9", "13", "m11", "m13", "maj13",
    "sus4", "sus2", "7sus4", "9sus4", "13sus4", "add9", "madd9", "m6/9", "dim7", "m7b5", "m9b5", "m11b5", "m(maj7)",
    "m(maj9)", "7b9", "7#9", "7#11", "7b13", "7#5", "7b5", "9#11", "9#5", "9b5", "13b9", "13#9", "13#11", "7(b9,b13)",
    "7(#9,b13)", "7(b9,#11)", "7(#9,#11)", "7(b9,#9)", "13(b9,#11)", "7sus4b9", "maj7#11", "maj7#5", "maj9#11",
    "maj13#11", "augadd9", "sus4add9", "7(b9,#11,b13)", "7(#9,#11,b13)",
    "7(#11,b13)", "maj7b5", "m7add11", "add11", "m7#5", "9b13", "maj7add13", "m7add13", "madd11", "7add13", "7sus4add13",
)  # fmt: skip


# Written 7alt.
ALTERED = frozenset(parse_symbol(f"C7({those})").quality for those in ("b9,#11,b13", "#9,#11,b13", "#11,b13"))


class Reading(NamedTuple):
    """One way to name the notes. `degrees` has one entry for every note asked about, in their order; `missing` are
    degrees of the chord that do not sound; `price` ranks, lower is better.
    """

    chord: Chord
    symbol: str
    number: str | None
    degrees: tuple[str, ...]
    missing: tuple[str, ...]
    added: tuple[str, ...]
    rootless: bool
    why: str
    price: float


# What makes a reading worse, in the same made-up points; a missing third counts most and a fifth hardly.
_MISSING = {"third": 4.0, "seventh": 3.0, "sixth": 3.0, "altered": 2.6, "tension": 1.6, "inner": 0.25, "fifth": 0.35}
_NO_ROOT, _NO_ROOT_BASS_ELSEWHERE = 3.2, 1.3
_EXTRA, _FOREIGN_BASS, _INVERTED, _OFF_KEY = 4.0, 1.9, 1.1, 0.35
LONG_NAME = 0.11  # for every letter of a name
_RARE = 5  # letters that a name little used counts as longer
RARE = frozenset(
    ("sus2", "5", "maj7b5", "m7#5", "9#5", "9b5", "m11b5", "7sus4add13", "7add13", "maj7add13", "m7add13", "madd11")
)
MOST = 12
_LOOKED_AT = 24
_SPARE = 6  # readings looked at beyond those returned, since the key may lift one of them


class _Table(NamedTuple):
    qualities: tuple[Quality, ...]
    masks: NDArray[np.int32]  # (12, q) pitch classes of every quality on every root
    missing: NDArray[np.float64]  # (q, 12) price of a pitch class above the root that does not sound
    length: NDArray[np.float64]


def _price_of_missing(quality: Quality, degree: str) -> float:
    if degree == "1":
        return 0.0  # counted apart
    if degree in (quality.third, quality.sixth, quality.seventh):
        place = "third" if degree == quality.third else "seventh" if degree == quality.seventh else "sixth"
        return _MISSING[place]
    if degree == quality.fifth:
        return _MISSING["fifth"] if degree == "5" and quality.third else _MISSING["altered"]
    if degree[0] in "b#":
        return _MISSING["altered"]
    named = [d for d in quality.tensions if d[0] not in "b#"]
    return _MISSING["tension"] if degree == named[-1] else _MISSING["inner"]


@lru_cache(maxsize=1)
def _table() -> _Table:
    qualities = tuple(parse_symbol("C" + word).quality for word in NAMED)
    masks = np.zeros((12, len(qualities)), np.int32)
    missing = np.zeros((len(qualities), 12))
    for q, quality in enumerate(qualities):
        for degree in quality.degrees:
            missing[q, degree_pc(degree)] = _price_of_missing(quality, degree)
        for root in range(12):
            masks[root, q] = sum({1 << (root + degree_pc(d)) % 12 for d in quality.degrees})
    words = ["7alt" if quality in ALTERED else word for word, quality in zip(NAMED, qualities, strict=True)]
    length = np.array([len(word) + (_RARE if word in RARE else 0) for word in words], float)
    return _Table(qualities, masks, missing, length)


def named_qualities() -> tuple[Quality, ...]:
    """The qualities that notes are compared with, in the order of every table here."""
    return _table().qualities


def masks() -> NDArray[np.int32]:
    """(12, qualities): the pitch classes of every quality on every root."""
    return _table().masks


def prices_of_missing() -> NDArray[np.float64]:
    """(qualities, 12): what a pitch class above the root costs that does not sound."""
    return _table().missing


def name_lengths() -> NDArray[np.float64]:
    """(qualities,): how long every name is, the little used ones counted longer."""
    return _table().length


def rare_rows() -> list[int]:
    """Where the little used names stand among the qualities."""
    return [at for at, word in enumerate(NAMED) if word in RARE]


def unlike(sounding: int, bass: int) -> NDArray[np.float64]:
    """(12, qualities): how unlike a chord some sounding pitch classes (bits) over a bass are, however long its name."""
    return _unlike(sounding, bass, False)


def _prices(sounding: int, bass: int | None, separate: bool) -> NDArray[np.float64]:
    """Price of every (root, quality)."""
    return _unlike(sounding, bass, separate) + _table().length * LONG_NAME


def _unlike(sounding: int, bass: int | None, separate: bool) -> NDArray[np.float64]:
    table = _table()
    present = np.array([[sounding >> (root + above) % 12 & 1 for above in range(12)] for root in range(12)], float)
    price = (1.0 - present) @ table.missing.T
    extra = sounding & ~table.masks
    if bass is not None:
        foreign = (extra >> bass) & 1
        price += foreign * _FOREIGN_BASS
        extra &= ~(1 << bass)
        roots = np.arange(12)[:, None]
        price += np.where((roots != bass) & (foreign == 0), _INVERTED, 0.0)
    price += np.bitwise_count(extra) * _EXTRA
    rooted = np.array([(sounding >> root) & 1 for root in range(12)])[:, None]
    without = _NO_ROOT_BASS_ELSEWHERE if bass is None and separate else _NO_ROOT
    price += np.where(rooted, 0.0, without)
    return price


def _root_name(pc: int, key: Key | None, quality: Quality) -> Note:
    if key is not None:
        return spell_in_key(pc, key)
    flat, sharp = flat_note(pc), sharp_note(pc)
    if flat == sharp:
        return flat
    # without a key the name that needs fewer signs, flats among equals
    signs = [sum(abs(n.alter) + (abs(n.alter) > 1) for n in Chord(note, quality).notes) for note in (flat, sharp)]
    return flat if signs[0] <= signs[1] else sharp


def _heard_as(heard: int, bass: int, own: bool) -> list[tuple[float, int, int, int | None, bool]]:
    """(price, root, quality, bass, whether its root is not heard) of pitch classes over a bass; `own`: it is theirs, so
    that rootless readings are possible.
    """
    found: list[tuple[float, int, int, int | None, bool]]
    found = [(price, root, q, bass, False) for price, root, q in _best(_prices(heard, bass, False), heard)]
    if own:
        loose = _prices(heard, None, True)
        found += [(p + 0.9, root, q, None, True) for p, root, q in _best(loose, heard) if not heard >> root & 1]
    return found


def name_notes(
    midis: tuple[int, ...], bass: int | None = None, key: Key | None = None, most: int = MOST,
    spelled: tuple[Note, ...] = (),
) -> list[Reading]:  # fmt: skip
    """Readings of sounding notes (MIDI numbers), best first; where they are `spelled`, what spells them so comes first.

    `bass` is a MIDI number or pitch class that somebody else plays; without it the lowest note is the bass. Rootless
    readings assume a root in a bass that is not heard here. () for no notes.
    """
    if not midis:
        return []
    lowest = min(midis) % 12
    heard = sum({1 << midi % 12 for midi in midis} | ({1 << bass % 12} if bass is not None else set()))
    the_bass = lowest if bass is None else bass % 12
    if heard.bit_count() == 1:
        return [_single(midis, key)]
    found = _heard_as(heard, the_bass, bass is None)
    readings: dict[str, Reading] = {}
    for price, root, q, bass_pc, rootless in sorted(found, key=lambda f: (f[0], f[1], f[2])):
        name = name_of(root, q, bass_pc, key)
        if name.symbol not in readings:
            readings[name.symbol] = _reading(midis, heard, price, name, bass_pc, rootless)
        if len(readings) == most + _SPARE:
            break
    known = [_as_spelled(reading, spelled, key) for reading in readings.values()] if spelled else readings.values()
    ranked = sorted(known, key=lambda r: (r.price, len(r.symbol), r.symbol))[:most]
    return [reading._replace(why=_why(reading, ranked, the_bass)) for reading in ranked]


_OTHERWISE = 0.9  # for every note that a reading spells otherwise than it was written


def _as_spelled(reading: Reading, spelled: tuple[Note, ...], key: Key | None) -> Reading:
    """A reading on its root, and over its bass, as they were written; dearer where it spells other notes otherwise."""
    by_pc = {note.pc: note for note in spelled}
    known = reading.chord
    root = by_pc.get(known.root.pc, known.root)
    bass = by_pc.get(known.bass.pc, known.bass) if known.bass is not None else None
    chord = Chord(root, known.quality, bass)
    written = Chord(root, parse_symbol("C7alt").quality, bass) if chord.quality in ALTERED else chord
    free = written is not chord  # an altered tone is spelled either way: F natural and E sharp over B
    told = ((pc, note) for pc, note in by_pc.items() if not free or chord.degree_of(pc) in ("1", "3", "b7"))
    otherwise = sum(chord.note_of(pc) != note for pc, note in told)
    number = write_number(written, key) if key is not None else None
    price = reading.price + _OTHERWISE * otherwise
    return reading._replace(chord=chord, symbol=write_symbol(written), number=number, price=price)


def _single(midis: tuple[int, ...], key: Key | None) -> Reading:
    """One note alone is no chord: it is named as the root of its octaves."""
    note = _root_name(midis[0] % 12, key, Quality())
    number = root_number(note, key) if key is not None else None
    chord = Chord(note, Quality("", ""))
    return Reading(chord, str(note), number, ("1",) * len(midis), (), (), False, "one note alone is no chord yet", 0.0)


_WORST = 9.0


def _best(price: NDArray[np.float64], heard: int) -> list[tuple[float, int, int]]:
    """The cheapest (price, root, quality), at most a few dozen; at least two of a chord's notes must sound."""
    table = _table()
    common = np.bitwise_count(table.masks & heard)
    flat = np.where(common >= min(2, heard.bit_count()), price, 99.0).ravel()
    near = np.argpartition(flat, _LOOKED_AT)[:_LOOKED_AT]
    order = near[np.lexsort((near, flat[near]))]
    count = price.shape[1]
    return [(float(flat[i]), int(i) // count, int(i) % count) for i in order if flat[i] < _WORST]


def _bass_name(pc: int, chord: Chord, key: Key | None) -> Note:
    """A slash bass as its chord spells it, unless that is a name nobody says in the key, such as Cb under D dim7."""
    if pc not in chord.pitch_classes:
        return _root_name(pc, key, Quality())
    note = chord.note_of(pc)
    return note if key is not None and note in key.scale else simple_note(note)


class Name(NamedTuple):
    """What a reading's name is, apart from the notes asked about."""

    chord: Chord
    symbol: str
    number: str | None
    degrees: tuple[str, ...]
    pcs: tuple[int, ...]
    by_pc: tuple[str, ...]
    off_key: float


@lru_cache(maxsize=16384)
def name_of(root: int, q: int, bass: int | None, key: Key | None) -> Name:
    """The name of a quality (its row in NAMED) on a root over a bass, spelled for a key."""
    quality = _table().qualities[q]
    chord = Chord(_root_name(root, key, quality), quality)
    pcs = chord.pitch_classes
    if bass is not None and bass != root:
        chord = Chord(chord.root, quality, _bass_name(bass, chord, key))
    by_pc = tuple(chord.degree_of(pc) for pc in range(12))
    off = _OFF_KEY * len(set(pcs) - {note.pc for note in key.scale}) if key is not None else 0.0
    written = chord
    if quality in ALTERED:
        written = Chord(chord.root, parse_symbol("C7alt").quality, chord.bass)
    number = write_number(written, key) if key is not None else None
    return Name(chord, write_symbol(written), number, chord.degrees, pcs, by_pc, off)


def _reading(midis: tuple[int, ...], heard: int, price: float, name: Name, bass: int | None, rootless: bool) -> Reading:
    missing = tuple(d for d, pc in zip(name.degrees, name.pcs, strict=True) if not heard >> pc & 1)
    degrees = tuple(name.by_pc[midi % 12] for midi in midis)
    added = tuple(dict.fromkeys(name.by_pc[m % 12] for m in midis if m % 12 not in name.pcs and m % 12 != bass))
    price += name.off_key
    return Reading(name.chord, name.symbol, name.number, degrees, missing, added, rootless or "1" in missing, "", price)


_FOUR_ROOTS = "without its root a dominant with flat nine is a diminished seventh; it may stand on any of four roots"
# Pairs of qualities that share their notes: (one, semitones up to the other's root, the other, what tells them apart).
DOUBLES: tuple[tuple[str, int, str, str], ...] = (
    ("dim7", 8, "7b9", _FOUR_ROOTS),
    ("dim7", 2, "7b9", _FOUR_ROOTS),
    ("dim7", 5, "7b9", _FOUR_ROOTS),
    ("6", 9, "m7", "a sixth chord and the minor seventh a third below share all notes; the bass and the key decide"),
    ("m6", 9, "m7b5", "a minor sixth and the half-diminished a third below share all notes; bass and key decide"),
    ("sus4", 5, "sus2", "the suspended fourth is the suspended second of its fourth; the bass decides"),
    ("maj7", 9, "m9", "without its root the minor ninth is this major seventh; a bass a third below decides"),
    ("m7", 8, "maj9", "without its root the major ninth is this minor seventh; a bass a third below decides"),
    ("dim7", 11, "7b9", _FOUR_ROOTS),
    ("m7b5", 8, "9", "without its root the dominant ninth is this half-diminished chord; the bass decides"),
    ("6/9", 7, "6/9", "stacked fourths carry several names; the bass decides"),
    ("9sus4", 10, "6/9", "a suspended ninth holds the sixth-ninth a step below; the bass decides"),
)  # fmt: skip


@lru_cache(maxsize=1)
def _doubles() -> dict[tuple[str, int, str], str]:
    """DOUBLES by (words of one, semitones up to the other's root, words of the other), both ways round."""
    there = {(one, up, other): text for one, up, other, text in DOUBLES}
    return {(other, -up % 12, one): text for (one, up, other), text in there.items()} | there


def doubled_by(one: Chord, other: Chord) -> str:
    """How two chords that share their notes differ, or "" where they are not listed as doubles."""
    up = (other.root.pc - one.root.pc) % 12
    return _doubles().get((write_quality(one.quality), up, write_quality(other.quality)), "")


def _double(reading: Reading, others: list[Reading]) -> str:
    """The best-ranked rival that is listed as sharing the notes, with the difference in words."""
    for rival in others:
        text = doubled_by(reading.chord, rival.chord) if rival is not reading else ""
        if text:
            return f"also {rival.symbol}: {text}"
    return ""


def _why(reading: Reading, others: list[Reading], bass: int) -> str:
    parts = []
    if reading.rootless:
        parts.append(f"rootless: {reading.chord.root} is left to the bass")
    elif reading.chord.root.pc == bass:
        parts.append("the bass is its root")
    else:
        parts.append(f"{reading.chord.bass_note} is in the bass")
    missing = [d for d in reading.missing if d != "1"]
    parts.append(
        f"{', '.join(missing)} left out"
        if missing
        else "every note of it sounds"
        if not reading.rootless
        else "the rest sounds"
    )
    if reading.added:
        parts.append(f"{', '.join(reading.added)} added")
    if reading.chord.quality.third == "4" and reading.chord.quality.tensions:
        parts.append("some write it as an eleventh")
    if "#9" in reading.chord.quality.tensions:
        parts.append("the sharp nine is also heard as a minor tenth")
    double = _double(reading, others)
    return "; ".join(parts + ([double] if double else []))
