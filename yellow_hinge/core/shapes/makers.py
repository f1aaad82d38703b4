"""What the makers of the catalogue yield: forms that are too many to list, made from the notes a chord allows."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from itertools import combinations, pairwise
from typing import NamedTuple

from yellow_hinge.core.pitch.key import NUMERALS
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.palette import Palette

Offsets = tuple[int, ...]
_MOST_ADDED = 2  # colours in one hand beyond what is written; more is another chord
_SIX_SEVEN = {degree_pc("6"), degree_pc("7")}  # a chord is coloured with its sixth or its seventh


class Pool(NamedTuple):
    """What a maker may use: pitch classes above the root. `must` is what the hand has to hold; `bass` is the pitch
    class a left hand has to stand on, or None.
    """

    notes: tuple[int, ...]
    added: frozenset[int]
    must: frozenset[int]
    bass: int | None

    def modest(self, chosen: tuple[int, ...]) -> bool:
        """Whether some pitch classes add no more colours than one hand wants."""
        extra = self.added.intersection(chosen)
        return len(extra) <= _MOST_ADDED and not extra >= _SIX_SEVEN


def pool_of(palette: Palette, beside: frozenset[int], bass: int | None) -> Pool:
    """The pool of one hand beside what the other may sound."""
    tones = {degree_pc(degree) for degree in palette.tones}
    colours = {degree_pc(degree) for degree in palette.colours}
    must = frozenset(degree_pc(degree) for degree in palette.must) - beside
    return Pool(tuple(sorted(tones | colours)), frozenset(colours - tones), must, bass)


def pile(pcs: tuple[int, ...], lifts: tuple[int, ...] = ()) -> Offsets:
    """Pitch classes stacked upward, each the next one above the note before it and `lifts` octaves more."""
    notes = [pcs[0]]
    for index, pc in enumerate(pcs[1:], 1):
        notes.append(notes[-1] + ((pc - notes[-1] - 1) % 12) + 1 + (12 * lifts[index] if lifts else 0))
    return tuple(notes)


def clustered(offsets: Offsets) -> bool:
    """Whether three neighbours lie within a whole step, which no hand shape of the catalogue wants."""
    return any(c - a <= 2 for a, c in zip(offsets, offsets[2:], strict=False))


def _close(pool: Pool, count: int) -> Iterator[Offsets]:
    """Every rotation of every `count` notes that hold what must sound."""
    for chosen in combinations(pool.notes, count):
        if pool.must <= set(chosen) and pool.modest(chosen):
            for turn in range(count):
                offsets = pile(chosen[turn:] + chosen[:turn])
                if not clustered(offsets):
                    yield offsets


_FOURTH = 5


def _fourths(pool: Pool, count: int, top: int = 0) -> Iterator[Offsets]:
    """`count` notes in perfect fourths from any note; `top` 3: a major or minor third on top of them."""
    for first in pool.notes:
        stack = tuple(first + _FOURTH * i for i in range(count))
        for third in (3, 4) if top else (0,):
            offsets = (*stack, stack[-1] + third) if third else stack
            if {note % 12 for note in offsets} <= set(pool.notes):
                yield offsets


def _filled(pool: Pool, count: int) -> Iterator[Offsets]:
    """A close chord filled to an octave: its top doubled below, or its bottom doubled above."""
    for offsets in _close(pool, count):
        yield (offsets[-1] - 12, *offsets) if offsets[-1] >= 12 else _raised((offsets[-1] - 12, *offsets))
        yield (*offsets, offsets[0] + 12)


def _raised(offsets: Offsets) -> Offsets:
    """The same form an octave higher, so that its first note stands within the octave above the root."""
    return tuple(note + 12 for note in offsets)


# Chords with their root on top, low to high as semitones below it: triads and sevenths.
_ON_TOP = ((-9, -5, 0), (-8, -5, 0), (-9, -5, -2, 0), (-8, -5, -2, 0), (-8, -5, -1, 0))


def _numbers(pool: Pool) -> Iterator[Offsets]:
    """Triads and sevenths of the allowed notes with their root, the numbered degree, on top."""
    for root in pool.notes:
        for shape in _ON_TOP:
            offsets = tuple(root + note + 12 for note in shape)
            if {note % 12 for note in offsets} <= set(pool.notes):
                yield offsets if offsets[0] < 12 else tuple(note - 12 for note in offsets)


_WIDEST = 17  # semitones of an eleventh, the widest hand
_LOW_THIRD = 3  # closest neighbours in a free left hand that has the bass


def _is_loose(offsets: Offsets, near: int) -> bool:
    """Whether notes are `near` half steps apart or more, at most one of them doubled, and no three in a row."""
    doubled = len(offsets) - len({note % 12 for note in offsets})
    return doubled <= 1 and all(b - a >= near for a, b in pairwise(offsets)) and not clustered(offsets)


def _free(pool: Pool, least: int, most: int) -> Iterator[Offsets]:
    """Every set of `least` to `most` notes within an eleventh, at most one note doubled; a left hand with the bass
    stands on it and keeps its notes a third apart.
    """
    near = _LOW_THIRD if pool.bass is not None else 1
    for first in pool.notes if pool.bass is None else (pool.bass,):
        above = [first + d for d in range(near, _WIDEST + 1) if (first + d) % 12 in pool.notes]
        for count in range(least - 1, most):
            for rest in combinations(above, count):
                offsets = (first, *rest)
                if _is_loose(offsets, near) and pool.modest(tuple({note % 12 for note in offsets})):
                    yield offsets


_MAKERS: dict[str, Callable[..., Iterator[Offsets]]] = {
    "close": _close, "fourths": _fourths, "filled": _filled, "numbers": _numbers, "free": _free,
}  # fmt: skip


def is_maker(text: str) -> bool:
    """Whether a text of the catalogue names a maker rather than a stack."""
    return text.split(" ")[0] in _MAKERS


def made(text: str, pool: Pool) -> list[Offsets]:
    """The forms of a maker such as "close 3"."""
    name, *counts = text.split(" ")
    return list(_MAKERS[name](pool, *map(int, counts)))


_ROMAN = {numeral: degree_pc(str(step)) for step, numeral in enumerate(NUMERALS, 1)}


def upper_triad(name: str) -> tuple[int, int, int]:
    """The pitch classes above the root of a triad named as in the catalogue: "bVI" major, "#i-" minor."""
    matched = re.fullmatch(r"([b#]?)([IV]+|[iv]+)(-?)", name)
    if matched is None:
        raise ValueError(f"{name!r} is not the name of an upper triad")
    sign, numeral, minor = matched.groups()
    root = (_ROMAN[numeral.upper()] + {"b": -1, "#": 1, "": 0}[sign]) % 12
    return root, (root + (3 if minor else 4)) % 12, (root + 7) % 12


_KINDS = ({1, 2, 3}, {5, 6}, {8, 9})  # pitch classes of the ninths, elevenths and thirteenths


def upper_forms(name: str, palette: Palette, brings: bool) -> list[Offsets]:
    """Every inversion of a named upper triad; none where it fights with a tension that is written or, unless it
    `brings` its own colours, is not made of the chord's.
    """
    pcs = upper_triad(name)
    if not brings and not set(pcs) <= set(pool_of(palette, frozenset(), None).notes):
        return []
    tones = {degree_pc(degree) for degree in palette.tones}
    for kinds in _KINDS:
        written, brought = tones & kinds, set(pcs) & kinds - tones
        if written and brought and not written & {3, 4}:
            return []
    return [pile(pcs[turn:] + pcs[:turn]) for turn in range(3)]


def dropped(offsets: Offsets, voices: tuple[int, ...]) -> tuple[Offsets, Offsets]:
    """A close form with the voices counted from the top dropped an octave: (left hand, right hand), both above the
    root of the lowest octave that holds them.
    """
    chosen = {len(offsets) - voice for voice in voices}
    low = tuple(sorted(offsets[i] - 12 for i in chosen))
    high = tuple(note for i, note in enumerate(offsets) if i not in chosen)
    up = 12 * -(low[0] // 12)
    return tuple(note + up for note in low), tuple(note + up for note in high)
