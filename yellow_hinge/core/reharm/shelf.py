"""The shelf: hands for a few chords in a row, kept in degrees, found again wherever a song has those chords."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Voicing
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.song.song import short_beats
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.symbols.writing import number_text, write_number
from yellow_hinge.core.tables import read_table

KINDS = ("cadence", "passing", "fill", "lead-in", "hands")
MOST_CHORDS, MOST_NOTES = 16, 5


class ShelfChord(NamedTuple):
    """A chord of an entry: in numbers, its beats, and the degrees of each hand from below."""

    symbol: str
    beats: float
    left: tuple[str, ...]
    right: tuple[str, ...]


class ShelfEntry(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """An entry; the fields are explained at the head of shelf.toml. `mine`: the player put it there."""

    id: str
    name: str
    kind: str
    chords: tuple[str, ...]
    words: str = ""
    manner: str = ""
    mine: bool = False

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise UserError(f"{self.kind[:20]!r} is no kind of entry; there are {', '.join(KINDS)}")
        if not 0 < len(self.chords) <= MOST_CHORDS or not self.name.strip():
            raise UserError(f"an entry has a name and 1 to {MOST_CHORDS} chords")
        for chord in self.chords:
            for key in ("C", "C minor"):
                read_chord(chord, parse_key(key))

    @property
    def rows(self) -> tuple[ShelfChord, ...]:
        """Its chords."""
        return tuple(_split(chord) for chord in self.chords)

    @property
    def beats(self) -> float:
        """Of all its chords."""
        return sum(row.beats for row in self.rows)


class _File(msgspec.Struct, frozen=True):
    entry: tuple[ShelfEntry, ...]


@lru_cache(maxsize=1)
def starter() -> tuple[ShelfEntry, ...]:
    """The entries that ship."""
    return read_table(__file__, _File).entry


@lru_cache(maxsize=1024)
def _split(text: str) -> ShelfChord:
    head, _, right = text.partition("|")
    words = head.split()
    if len(words) < 2:
        raise UserError(f"{text[:40]!r}: a chord of the shelf is 'chord beats left | right'")
    try:
        beats = float(words[1])
    except ValueError:
        raise UserError(f"{text[:40]!r}: {words[1][:10]!r} are no beats") from None
    return ShelfChord(words[0], beats, tuple(words[2:]), tuple(right.split()))


def read_chord(text: str, key: Key) -> tuple[ShelfChord, Chord]:
    """A chord of an entry in a key. Raises UserError for what cannot be read."""
    row = _split(text)
    if not 0 < row.beats <= 64 or max(len(row.left), len(row.right)) > MOST_NOTES or not (row.left or row.right):
        raise UserError(f"{text[:40]!r}: a hand has 1 to {MOST_NOTES} notes, a chord up to 64 beats")
    for degree in (*row.left, *row.right):
        degree_class(degree)
    return row, parse_symbol(row.symbol, key)


def degree_class(degree: str) -> int:
    """Semitones of a degree above the root, within an octave. Raises UserError."""
    bare = degree.rstrip("~").rstrip("',")
    number = bare.lstrip("b#")
    if not number.isdecimal() or not 1 <= int(number) <= 15 or len(bare) - len(number) > 2:
        raise UserError(f"{degree[:10]!r} is no degree")
    return degree_pc(bare[: len(bare) - len(number)] + str((int(number) - 1) % 7 + 1)) % 12


def nearest(pc: int, midi: int) -> int:
    """The key of a pitch class that is nearest to another key; of two the lower."""
    return midi + (pc - midi + 6) % 12 - 6


# --- where it fits ---


# --- onto the shelf ---
def shelved(name: str, part: Sequence[Voicing], manner: str) -> ShelfEntry:
    """The hands of some chords of a song as an entry of the player's own. Raises UserError for none, or too many."""
    if not part:
        raise UserError("choose a chord, or mark some")
    chords = []
    near = Both((), ())
    for voicing in part:
        number = write_number(voicing.chord, voicing.here.key)
        left, right = (
            " ".join(_degrees(hand, voicing.chord, before[0] if before else None))
            for hand, before in zip(voicing.both, near, strict=True)
        )
        near = Both(voicing.both.left or near.left, voicing.both.right or near.right)
        beats = short_beats(voicing.here.beats)
        beats = beats if "/" not in beats else f"{float(voicing.here.beats):.3f}"
        chords.append(f"{number} {beats} {left} | {right}".rstrip())
    own = "".join(letter if letter.isalnum() else "-" for letter in name.lower()).strip("-") or "mine"
    words = f"{number_text(chords[0].split()[0])} to {number_text(chords[-1].split()[0])}"
    return ShelfEntry(own[:40], name.strip()[:60], "hands", tuple(chords), words, manner, True)


def _degrees(hand: tuple[int, ...], chord: Chord, near: int | None) -> list[str]:
    """A hand in degrees; `near`: the first key of the chord before, None for none."""
    found = []
    for at, midi in enumerate(hand):
        lifts = (midi - hand[at - 1] - 1) // 12 if at else 0
        if not at and near is not None:
            lifts = (midi - nearest(midi % 12, near)) // 12
        degree = chord.degree_of(midi % 12)
        plain = degree[: len(degree) - len(degree.lstrip("b#"))] + str((int(degree.lstrip("b#")) - 1) % 7 + 1)
        found.append(plain + ("'" * lifts if lifts > 0 else "," * -lifts))
    return found
