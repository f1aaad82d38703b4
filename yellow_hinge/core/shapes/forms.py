"""From the words of the catalogue to forms: each hand's notes as semitones above the root, not yet on the keys."""

from __future__ import annotations

from functools import lru_cache
from itertools import product
from typing import NamedTuple

from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.catalogue import Shape
from yellow_hinge.core.shapes.makers import (
    Offsets,
    clustered,
    dropped,
    is_maker,
    made,
    pile,
    pool_of,
    upper_forms,
)
from yellow_hinge.core.shapes.palette import Palette
from yellow_hinge.core.shapes.rule import Rule, Slash
from yellow_hinge.core.shapes.stacks import EXACT

_OCTAVE_PLACES = {"8": "1", "10": "3"}
_LIFT = "'"


class Forms(NamedTuple):
    """The forms of one rule of one family: offsets above the root, the first within 0..11, ascending. `pairs`, where
    given, are the only hands that go together, both above the same root.
    """

    family: int
    left: tuple[Offsets, ...]
    right: tuple[Offsets, ...]
    pairs: tuple[tuple[Offsets, Offsets], ...] = ()


def _options(place: str, palette: Palette, on_bass: bool) -> tuple[int, ...]:
    if place == "1" and on_bass:
        return (palette.bass,)
    if place[0] == EXACT:
        pc = degree_pc(place[1:])
        return (pc,) if any(degree_pc(degree) == pc for degree in (*palette.tones, *palette.colours)) else ()
    if place == "B5":
        return _fifth_of_bass(palette)
    return tuple(dict.fromkeys(degree_pc(degree) for degree in palette.place(place)))


def _fifth_of_bass(palette: Palette) -> tuple[int, ...]:
    """The fifth of a foreign bass, where it is no half step from a note of the chord above."""
    fifth = (palette.bass + 7) % 12
    rubs = any((degree_pc(degree) - fifth) % 12 in (1, 11) for degree in palette.tones)
    return () if rubs or palette.bass == 0 else (fifth,)


def _octaves(words: tuple[str, ...], palette: Palette, has_bass: bool) -> list[int]:
    """Pitch classes of the places that lie an octave higher."""
    found: list[int] = []
    for word in words:
        if word in _OCTAVE_PLACES:
            found += _options(_OCTAVE_PLACES[word], palette, has_bass)[:1]
    return found


def _stack(words: tuple[str, ...], palette: Palette, has_bass: bool) -> list[Offsets]:
    """Every reading of a stack of places, () for none; a place that the chord lacks leaves nothing."""
    own = [word for word in words if word not in _OCTAVE_PLACES]
    plain = [word.rstrip(_LIFT) for word in own]
    lifts = tuple(len(word) - len(word.rstrip(_LIFT)) for word in own)
    names = list(dict.fromkeys(plain))
    above = _octaves(words, palette, has_bass)
    found = []
    for chosen in product(*(_options(word, palette, has_bass and word == plain[0]) for word in names)):
        if len(set(chosen)) < len(chosen):
            continue
        of = dict(zip(names, chosen, strict=True))
        notes = list(pile(tuple(of[word] for word in plain), lifts))
        for pc in above:
            notes.append(notes[0] + 12 + (pc - notes[0]) % 12)
        if len(notes) == len(words):
            found.append(tuple(sorted(notes)))
    return found


def _turns(words: tuple[str, ...]) -> list[tuple[str, ...]]:
    return [words[i:] + words[:i] for i in range(len(words))]


class _Hand(NamedTuple):
    """One hand of a rule: its stacks, whether they turn, what the other hand may sound, and the bass it stands on."""

    stacks: tuple[str, ...]
    turn: bool
    beside: frozenset[int]
    bass: int | None


def _hand(hand: _Hand, palette: Palette) -> list[Offsets]:
    found: list[Offsets] = []
    for text in hand.stacks:
        if is_maker(text):
            found += made(text, pool_of(palette, hand.beside, hand.bass))
            continue
        words = tuple(text.split())
        if not words:
            found.append(())
            continue
        for turned in _turns(words) if hand.turn else [words]:
            found += _stack(turned, palette, hand.bass is not None)
    return [form for form in dict.fromkeys(found) if hand.bass is None or not form or form[0] % 12 == hand.bass]


def _low(form: Offsets) -> Offsets:
    """The form in the octave above the root."""
    return tuple(note - 12 * (form[0] // 12) for note in form) if form else form


def _tied(rule: Rule, palette: Palette, bass: int | None) -> tuple[tuple[Offsets, Offsets], ...]:
    """Pairs of hands of a rule of dropped voices."""
    whole = _hand(_Hand(rule.of, False, frozenset(), None), palette)
    pairs = [dropped(form, rule.drop) for form in whole if len(form) == 4 and not clustered(form)]
    return tuple(dict.fromkeys(pair for pair in pairs if bass is None or pair[0][0] % 12 == bass))


def rule_forms(rule: Rule, palette: Palette, mine: bool, turned: bool) -> tuple[list[Offsets], list[Offsets]]:
    """Left and right forms of a rule for a palette. `mine`: the left hand has the bass; `turned`: it may stand on
    another chord note, unless a bass is written.
    """
    bass = palette.bass if mine and not (turned and palette.bass == 0) else None
    left = _hand(_Hand(rule.left, rule.turns("left"), frozenset(), bass), palette)
    beside = frozenset(note % 12 for form in left for note in form)
    if not mine:
        beside = beside | {palette.bass}
    right = _hand(_Hand(rule.right, rule.turns("right"), beside, None), palette)
    for name in rule.upper:
        right += upper_forms(name, palette, rule.brings)
    return left, right


_SIXTHS_SEVENTHS = frozenset(("6", "7", "b7", "bb7"))


PLAIN = 1  # the highest level without colours beyond sevenths


def _serves(rule: Rule, palette: Palette, chord_class: str, asked: bool) -> bool:
    if rule.classes and chord_class not in rule.classes:
        return False
    if rule.mood and chord_class == "dominant" and (rule.mood == "dark") != palette.dark:
        return False
    if rule.triads and not _SIXTHS_SEVENTHS.isdisjoint(palette.tones):
        return False
    if rule.thirdless and not asked:
        return False
    level = palette.level if palette.colours else min(palette.level, PLAIN)  # where nothing may be added
    if level > rule.most_level or (rule.over and not _is_over(rule.over, palette)):
        return False
    if max(palette.level, _written_level(palette)) < rule.written_level:
        return False
    return len(palette.must) >= rule.least_must and (asked or palette.level >= rule.least_level)


def _is_over(over: Slash, palette: Palette) -> bool:
    """Whether the chord's written bass is what a rule is for."""
    if over in ("none", "any"):
        return (palette.bass == 0) == (over == "none")
    places = {"third": "3", "fifth": "5", "seventh": "7"}
    own = {name: {degree_pc(degree) for degree in palette.place(place) if degree in palette.tones}
           for name, place in places.items()}  # fmt: skip
    if over == "foreign":
        return palette.bass != 0 and not any(palette.bass in pcs for pcs in own.values())
    return palette.bass != 0 and palette.bass in own[over]


def _written_level(palette: Palette) -> int:
    """The colour level that what is written has by itself."""
    if any(degree[0] in "b#" and degree not in ("b3", "b5", "b7", "bb7") for degree in palette.tones):
        return 3
    if not {"9", "11", "13", "2"}.isdisjoint(palette.tones):
        return 2
    return 0 if _SIXTHS_SEVENTHS.isdisjoint(palette.tones) else 1


def _lent(found: list[Forms], palette: Palette) -> list[Offsets]:
    """The right hands that a family borrows: all that others have, close chords where there are none."""
    own = [form for forms in found for form in forms.right if form]
    return list(dict.fromkeys(own)) or _hand(_Hand(("close 3", "close 4"), False, frozenset(), None), palette)


@lru_cache(maxsize=4096)
def all_forms(
    shapes: tuple[Shape, ...], palette: Palette, chord_class: str, mine: bool, asked: bool = False
) -> tuple[Forms, ...]:
    """The forms of every rule of `shapes` that serves the chord class, empty ones left out. `asked`: the player chose
    these shapes, so that no colour level keeps them back.
    """
    found: list[Forms] = []
    for index in sorted(range(len(shapes)), key=lambda index: shapes[index].borrows):  # what lends comes first
        shape = shapes[index]
        lent = _lent(found, palette) if shape.borrows else []
        for rule in shape.rule:
            if not _serves(rule, palette, chord_class, asked) or (rule.mine and not mine):
                continue
            if rule.drop:
                found += _tied_forms(index, rule, palette, mine)
                continue
            left, right = rule_forms(rule, palette, mine, shape.turned)
            right = lent or right
            if left and right:
                found.append(Forms(index, tuple(left), tuple(right)))
    return tuple(found)


def _tied_forms(index: int, rule: Rule, palette: Palette, mine: bool) -> list[Forms]:
    pairs = _tied(rule, palette, palette.bass if mine else None)
    lefts, rights = (tuple(dict.fromkeys(_low(pair[i]) for pair in pairs)) for i in (0, 1))
    return [Forms(index, lefts, rights, pairs)] if pairs else []
