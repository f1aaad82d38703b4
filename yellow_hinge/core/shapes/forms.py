"""From the words of the catalogue to forms: each hand's notes as semitones above the root, not yet on the keys."""

from __future__ import annotations

from functools import lru_cache
from itertools import combinations, product
from typing import NamedTuple

from yellow_hinge.core.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import Rule, Shape
from yellow_hinge.core.shapes.palette import Palette

Offsets = tuple[int, ...]
_OCTAVE_PLACES = {"8": "1", "10": "3"}
_CLOSE = "close "
_MOST_ADDED = 2  # colours in one hand beyond what is written; more is another chord
_SIX_SEVEN = {degree_pc("6"), degree_pc("7")}  # a chord is coloured with its sixth or its seventh


class Forms(NamedTuple):
    """The forms of one rule of one family: offsets above the root, the first within 0..11, ascending."""

    family: int
    left: tuple[Offsets, ...]
    right: tuple[Offsets, ...]


def _pile(pcs: tuple[int, ...]) -> Offsets:
    """Pitch classes stacked upward, each the next one above the note before it."""
    notes = [pcs[0]]
    for pc in pcs[1:]:
        notes.append(notes[-1] + ((pc - notes[-1] - 1) % 12) + 1)
    return tuple(notes)


def _options(place: str, palette: Palette, has_bass: bool) -> tuple[int, ...]:
    if place == "1" and has_bass:
        return (palette.bass,)
    return tuple(dict.fromkeys(degree_pc(degree) for degree in palette.place(place)))


def _stack(words: tuple[str, ...], palette: Palette, has_bass: bool) -> list[Offsets]:
    """Every reading of a stack of places, () for none; a place that the chord lacks leaves nothing."""
    plain = [word for word in words if word not in _OCTAVE_PLACES]
    found = []
    for pcs in product(*(_options(word, palette, has_bass) for word in plain)):
        if len(set(pcs)) < len(pcs):
            continue
        notes = list(_pile(pcs))
        for word in words:
            if word in _OCTAVE_PLACES:
                above = _options(_OCTAVE_PLACES[word], palette, has_bass)
                notes += [notes[0] + 12 + (pc - notes[0]) % 12 for pc in above[:1]]
        if len(notes) == len(words):
            found.append(tuple(sorted(notes)))
    return found


def _turns(words: tuple[str, ...]) -> list[tuple[str, ...]]:
    return [words[i:] + words[:i] for i in range(len(words))]


def _clustered(offsets: Offsets) -> bool:
    """Whether three neighbours lie within a whole step, which no hand shape of the catalogue wants."""
    return any(c - a <= 2 for a, c in zip(offsets, offsets[2:], strict=False))


def _close(count: int, palette: Palette, beside: frozenset[int]) -> list[Offsets]:
    """Every rotation of every `count` notes of the palette that hold what must sound beside the other hand."""
    tones = {degree_pc(degree) for degree in palette.tones}
    pool = sorted(tones | {degree_pc(degree) for degree in palette.colours})
    added = {degree_pc(degree) for degree in palette.colours} - tones
    must = {degree_pc(degree) for degree in palette.must} - beside
    found = []
    for chosen in combinations(pool, count):
        extra = added.intersection(chosen)
        if not must <= set(chosen) or len(extra) > _MOST_ADDED or extra >= _SIX_SEVEN:
            continue
        for turn in range(count):
            offsets = _pile(chosen[turn:] + chosen[:turn])
            if not _clustered(offsets):
                found.append(offsets)
    return found


def _hand(
    stacks: tuple[str, ...], turn: bool, palette: Palette, has_bass: bool, beside: frozenset[int]
) -> list[Offsets]:
    found: list[Offsets] = []
    for text in stacks:
        if text.startswith(_CLOSE):
            found += _close(int(text.removeprefix(_CLOSE)), palette, beside)
            continue
        words = tuple(text.split())
        if not words:
            found.append(())
            continue
        for turned in _turns(words) if turn else [words]:
            found += _stack(turned, palette, has_bass)
    return list(dict.fromkeys(found))


def rule_forms(rule: Rule, palette: Palette, mine: bool) -> tuple[list[Offsets], list[Offsets]]:
    """Left and right forms of a rule for a palette; `mine` says that the left hand has the bass."""
    left = _hand(rule.left, rule.turn == "left", palette, mine, frozenset())
    beside = frozenset(note % 12 for form in left for note in form)
    if not mine:
        beside = beside | {palette.bass}
    return left, _hand(rule.right, rule.turn == "right", palette, False, beside)


@lru_cache(maxsize=4096)
def all_forms(shapes: tuple[Shape, ...], palette: Palette, chord_class: str, mine: bool) -> tuple[Forms, ...]:
    """The forms of every rule of `shapes` that serves the chord class, empty ones left out."""
    found = []
    for index, shape in enumerate(shapes):
        for rule in shape.rule:
            if rule.serves(chord_class, len(palette.must)):
                left, right = rule_forms(rule, palette, mine)
                if left and right:
                    found.append(Forms(index, tuple(left), tuple(right)))
    return tuple(found)
