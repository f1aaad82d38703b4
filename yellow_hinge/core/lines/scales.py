"""The scales that fit a chord where it stands, read from scales.toml: what they are for, which one note changes, which
notes are only passed and which are landed on.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Literal, NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import Note, degree_pc, spell
from yellow_hinge.core.shapes.functions import GOES, heading
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.quality import CLASS_RULES
from yellow_hinge.core.tables import Entries, made_of_entries, read_table

# Which of several new notes is named as the one that changes: the chord's third before its seventh, root and fifth.
_TELLING = ("3", "b3", "7", "b7", "bb7", "1", "5", "b5", "#5")


class ScaleRow(msgspec.Struct, frozen=True, rename={"class_": "class", "pass_": "pass"}):
    """What is played over a kind of chord; the fields are explained at the head of scales.toml."""

    class_: tuple[str, ...]
    scales: tuple[str, ...]
    land: tuple[str, ...]
    words: str
    steps: tuple[int, ...] = ()
    mode: str = ""
    goes: tuple[str, ...] = ()
    has: tuple[str, ...] = ()
    pass_: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        if not set(self.class_) <= CLASS_RULES.keys() or not {*self.goes} <= {*GOES, ""}:
            raise ValueError(f"row {self.words}: unknown class {self.class_} or way {self.goes}")

    def holds(self, chord: Chord, key: Key, goes: str) -> bool:
        """Whether it is the row of a chord in a key that goes somewhere."""
        return _stands(self.class_, self.steps, self.mode, self.goes, chord, key, goes) and {
            degree_pc(degree) for degree in self.has
        } <= {degree_pc(degree) for degree in chord.degrees}


class OwnScaleRow(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A scale of the player's own: `notes` are degrees above the root that it begins on, `over` classes of chords;
    `steps` semitones of the chord's root above the tonic, `mode` of the key, `goes` where it leads, each anything
    where it is left out.
    """

    id: str
    name: str
    notes: str
    over: tuple[str, ...]
    words: str = ""
    steps: tuple[int, ...] = ()
    mode: Literal["", "major", "minor"] = ""
    goes: tuple[str, ...] = ()

    def holds(self, chord: Chord, key: Key, goes: str) -> bool:
        """Whether it is offered over a chord in a key that goes somewhere."""
        return _stands(self.over, self.steps, self.mode, self.goes, chord, key, goes)


OWN_SCALES: Entries[OwnScaleRow] = Entries(dict, hands=False)  # by their ids


def _stands(
    classes: tuple[str, ...], steps: tuple[int, ...], mode: str, ways: tuple[str, ...], chord: Chord, key: Key,
    goes: str,
) -> bool:  # fmt: skip
    step = (chord.root.pc - key.tonic.pc) % 12
    return (
        chord.chord_class in classes
        and (not steps or step in steps)
        and (not mode or (mode == "minor") == key.is_minor)
        and (not ways or goes in ways)
    )


class _File(msgspec.Struct, frozen=True):
    scales: dict[str, str]
    names: dict[str, str]
    row: tuple[ScaleRow, ...]


class Scale(NamedTuple):
    """A scale over a chord: its name, its notes from the chord's root up (or from where it begins), what it is for, the
    notes that are only passed, and the notes that are other than in the scale before.
    """

    id: str
    name: str
    notes: tuple[Note, ...]
    why: str
    passing: tuple[Note, ...]
    changes: tuple[Note, ...] = ()

    @property
    def pcs(self) -> frozenset[int]:
        """Its pitch classes."""
        return frozenset(note.pc for note in self.notes)


@lru_cache(maxsize=1)
def _table() -> _File:
    found = read_table(__file__, _File)
    unknown = {name.partition("@")[0] for row in found.row for name in row.scales} - found.scales.keys()
    if unknown or found.scales.keys() != found.names.keys():
        raise ValueError(f"scales without notes or names: {sorted(unknown)}")
    return found


def scale_names() -> dict[str, str]:
    """The names of the scales that ship, by their ids."""
    return _table().names


def _goes(chord: Chord, following: Chord | None) -> str:
    goes = heading(chord, following).partition(" ")[0]
    return "" if goes == "line" else goes


@lru_cache(maxsize=4096)
def row_of(chord: Chord, key: Key, following: Chord | None) -> ScaleRow:
    """What is played over a chord in its key, before the chord that follows."""
    goes = _goes(chord, following)
    found = next((row for row in _table().row if row.holds(chord, key, goes)), None)
    if found is None:
        raise LookupError(f"no scale for {chord.chord_class}")  # every class has a last row without conditions
    return found


def _notes(name: str, chord: Chord) -> tuple[Note, ...]:
    """The notes of a scale over a chord, spelled as degrees of where it begins, the chord's own as it spells them."""
    scale, _, at = name.partition("@")
    root = spell(chord.root, at) if at else chord.root
    own = {note.pc: note for note in chord.notes}
    degrees = OWN_SCALES[scale].notes if scale in OWN_SCALES else _table().scales[scale]
    spelled = (spell(root, degree) for degree in degrees.split())
    return tuple(own.get(note.pc, note) for note in spelled)


def _offered(chord: Chord, key: Key, following: Chord | None) -> Iterator[tuple[str, str]]:
    """(id, what the chord is there) of the scales over it, the player's own last."""
    row, goes = row_of(chord, key, following), _goes(chord, following)
    yield from ((name, row.words) for name in row.scales)
    for own in OWN_SCALES.values():
        if own.holds(chord, key, goes):
            yield own.id, f"mine; {own.words}" if own.words else "mine"


@made_of_entries
@lru_cache(maxsize=4096)
def scales_at(
    chord: Chord, key: Key, following: Chord | None = None, before: frozenset[int] = frozenset(),
    sung: frozenset[int] = frozenset(),
) -> tuple[Scale, ...]:  # fmt: skip
    """The scales that fit a chord, plain to bold: those that have all of its notes first, then those that rub on no
    long tune note (`sung`, pitch classes). `before` has the pitch classes of the scale before, for what changes.
    """
    passing = tuple(spell(chord.root, degree) for degree in row_of(chord, key, following).pass_)
    known = before or frozenset(note.pc for note in key.scale)
    found = []
    for name, words in _offered(chord, key, following):
        notes = _notes(name, chord)
        pcs = {note.pc for note in notes}
        changes = _changes(chord, notes, known)
        why = f"{words}: {_why(changes, chord)}"
        lacks = len(set(chord.pitch_classes) - pcs) if len(notes) > 6 else 0
        rubs = sum((pc + by) % 12 in pcs for pc in sung - pcs for by in (1, 11))
        own = tuple(note for note in passing if note.pc in pcs)
        found.append((lacks, rubs, Scale(name, _name(name), notes, why, own, changes)))
    return tuple(scale for _, _, scale in sorted(found, key=lambda each: each[:2]))


def _name(name: str) -> str:
    scale, _, at = name.partition("@")
    if scale in OWN_SCALES:
        return OWN_SCALES[scale].name
    return _table().names[scale] + (f" of the {at}" if at else "")


def _changes(chord: Chord, notes: tuple[Note, ...], before: frozenset[int]) -> tuple[Note, ...]:
    """The notes that the scale before does not have, the most telling first; two at most."""
    new = [note for note in notes if note.pc not in before]
    order = {degree_pc(degree): place for place, degree in enumerate(reversed(_TELLING))}
    new.sort(key=lambda note: -order.get((note.pc - chord.root.pc) % 12, -1))
    return tuple(new[:2])


def _why(changes: tuple[Note, ...], chord: Chord) -> str:
    if not changes:
        return "nothing changes"
    told = " and ".join(f"{note} ({chord.degree_of(note.pc)})" for note in changes)
    return f"new {'is' if len(changes) == 1 else 'are'} {told}"


def landing(chord: Chord, key: Key, following: Chord | None = None) -> tuple[str, ...]:
    """The degrees to land on, the best first: those of its row that the chord, or its first scale, has."""
    row = row_of(chord, key, following)
    pcs = scales_at(chord, key, following)[0].pcs | set(chord.pitch_classes)
    found = tuple(degree for degree in row.land if (chord.root.pc + degree_pc(degree)) % 12 in pcs)
    return found or chord.degrees[1:3] or chord.degrees
