"""Every stack of the catalogue is played by some chord; `python -m tests.core.leading.test_stacks` tries them all."""

import itertools
import random
import sys

import msgspec
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from yellow_hinge.core.hands import BrokenHands, Hands
from yellow_hinge.core.leading.asking.asked import Asked, chosen_shapes
from yellow_hinge.core.leading.asking.wish_words import ALL
from yellow_hinge.core.leading.chain.making import forget_stages, trial
from yellow_hinge.core.leading.chain.stage import Place, scene_of
from yellow_hinge.core.leading.chain.widening import first_stages
from yellow_hinge.core.leading.prices.weights import INFINITE
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.shapes.catalogue import catalogue, shape_of
from yellow_hinge.core.symbols.symbol import parse_symbol

C = parse_key("C")
WIDE, BROKEN = Hands(11, 11, 5, 5, 88), BrokenHands(11, 11, 5, 5, 88, False, 18)
TABLE = ["", "m", "7", "maj7", "m7", "6", "m6", "9", "m9", "13", "m11", "dim7", "m7b5", "7b9", "7#5", "7alt", "9sus4", "sus4", "aug", "maj7#11", "13(b9,#11)", "add9", "5", "dim", "maj7#5", "m(maj7)", "7#9", "sus2", "6/9", "13sus4", "m13", "7(#9,b13)", "maj9", "7sus4", "maj13", "m7b5(11)", "7(b9,#9)", "7#11", "9#11", "13#11", "7sus4(b9)", "m(maj9)", "m6/9", "m7(11)", "m7b5/Gb"]  # fmt: skip
OVER = ["/E", "/G", "/D", "/F", "/Bb", "/A", "/Eb", "/B"]
SYMBOLS = [f"C{word}" for word in TABLE] + [
    f"C{word}{bass}" for bass in OVER for word in ("", "m", "7", "maj7", "m7", "m7b5", "dim7", "dim")
]
AROUND = [
    (key, after) for after in (None, "Fm", "F", "Db", "F7") for key in ("C", "F", "A minor", "G", "F minor", "Bb")
]


def chords():
    """(chord, key, what follows) in many surroundings."""
    for (key, after), symbol, lift in itertools.product(AROUND, SYMBOLS, (0, 5)):
        tonic = parse_key(key)
        found = [parse_symbol(word, tonic) if word else None for word in (symbol, after)]
        moved = [
            chord and parse_symbol(str_up(word, lift), tonic)
            for chord, word in zip(found, (symbol, after), strict=True)
        ]
        yield moved[0], tonic, moved[1]


def str_up(symbol, lift):
    """A symbol as written, or on other keys: high shapes of C lie low on F."""
    names = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"]
    head, slash, bass = symbol.partition("/") if "6/9" not in symbol else (symbol, "", "")
    root = next(name for name in sorted(names, key=len, reverse=True) if head.startswith(name))
    up = [names[(names.index(note) + lift) % 12] for note in (root, *([bass] if slash else []))]
    return up[0] + head[len(root) :] + (slash + up[1] if slash else "")


def stacks(shape):
    """(rule with one stack for each hand) of a family; what voices are dropped from is made anyway."""
    for rule in shape.rule:
        for left, right in itertools.product(rule.left, rule.right or [None]):
            yield msgspec.structs.replace(rule, left=(left,), right=(right,) if right is not None else ())


def is_played(shape, rule):
    """Whether some chord has a voicing by one rule alone."""
    only = msgspec.structs.replace(shape, rule=(rule,), id=f"{shape.id} {rule.left} {rule.right}")
    for chord, key, after in chords():
        if rule.classes and chord.chord_class not in rule.classes:
            continue
        for colour, bass in itertools.product((3, 0, 2, 1), ("mine", "theirs")):
            hands = BROKEN if shape.borrows else WIDE
            at = Place(chord, key, after, Asked(bass=bass, hands=hands, colour=colour, families=(shape.id,)))
            if shape.suits(bass) and trial(at, (only,), scene_of(at)) is not None:
                return True
    return False


@pytest.mark.parametrize("shape", [shape.id for shape in catalogue()])
def test_stacks_are_played_by_some_chord(shape):
    every = list(stacks(shape_of(shape)))
    for rule in random.Random(shape).sample(every, min(4, len(every))):
        assert is_played(shape_of(shape), rule), rule


def voicings(stage):
    """{hands: (price, family)} of a stage."""
    place = stage.place
    at = zip(*np.nonzero(place.cost < INFINITE), strict=True)
    return {(stage.left.notes(l), stage.right.notes(r)): (int(place.cost[l, r]), stage.shapes[place.family[l, r]])
            for l, r in at}  # fmt: skip


@pytest.mark.parametrize("symbol", ["F#m7b5", "Em", "Cmaj9"])
def test_all_families_together_have_what_each_has_and_nothing_else(symbol):
    at = Place(parse_symbol(symbol, C), C, None, Asked(bass="mine", hands=Hands(), colour=3, families=(ALL,)))
    together = voicings(trial(at, chosen_shapes(at.asked), scene_of(at)))
    third = {(at.chord.root.pc + interval) % 12 for interval in (3, 4)}
    each = {}
    for shape in chosen_shapes(at.asked):
        stage = trial(at, (shape,), scene_of(at))
        for both, (price, _) in (voicings(stage) if stage else {}).items():
            each.setdefault(both, []).append(price)
    assert each.keys() <= together.keys()
    # Without the third, a family that has it may be as open here as those that have none.
    whole = [both for both in together if third & {note % 12 for hand in both for note in hand}]
    assert {both: together[both][0] for both in whole} == {both: min(each.get(both, [0])) for both in whole}


@settings(max_examples=examples(12))
@given(st.lists(st.sampled_from(SYMBOLS), min_size=2, max_size=9), st.sampled_from(["", "pop", "gospel", "hymn"]),
       st.sampled_from([None, 67, 79]), st.sampled_from(["mine", "theirs"]), st.integers(0, 3))  # fmt: skip
def test_stages_made_in_one_pass_are_those_made_alone(symbols, manner, top, bass, colour):
    asked = Asked(bass=bass, hands=Hands(), colour=colour, manner=manner)
    places = [Place(parse_symbol(word, C), C, None, asked, top=top if n % 2 else None, ends=n == 2)
              for n, word in enumerate(symbols)]  # fmt: skip
    forget_stages()
    together = first_stages(places)
    for at, stage in zip(places, together, strict=True):
        forget_stages()
        (alone,) = first_stages([at])
        assert (alone is None) == (stage is None)
        assert stage is None or (voicings(stage), stage.scene) == (voicings(alone), alone.scene)


if __name__ == "__main__":
    names = sys.argv[1:] or [shape.id for shape in catalogue()]
    dead = [(name, rule) for name in names for rule in stacks(shape_of(name)) if not is_played(shape_of(name), rule)]
    print(f"{len(dead)} stacks of {', '.join(names)} are played by no chord")
    for name, rule in dead:
        print(name, rule.classes, rule.over, rule.left, rule.right)
