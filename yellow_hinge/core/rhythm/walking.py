"""Bass notes that lead on: a step into the next bass, and a bass that walks there."""

from __future__ import annotations

from functools import lru_cache

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.symbols.chord import Chord

LOWEST = 28  # E1
FAR = 40  # what is no step to the goal
BACK, ROOT_AGAIN = 4, 2  # the note before last again, the chord's bass again
WEAK, STRANGE_BEAT = 1, 3  # a note of the key alone, where it is heard less and more


@lru_cache(maxsize=64)
def _steps(key: Key) -> frozenset[int]:
    return frozenset(note.pc for note in key.scale)


def near(midi: int, key: Key) -> bool:
    """Whether a key of the keyboard is a step of a key."""
    return midi % 12 in _steps(key)


def approach(old: int, new: int, key: Key, chord: Chord) -> int:
    """The note that leads from bass `old` over `chord` into `new` (MIDI): a note of the chord a step off, else a half
    step, else a step of the key; from the side it comes from where it can.
    """
    if old == new:
        return new - 5 if new - 5 >= LOWEST else new + 7
    way = 1 if new > old else -1
    steps = (new - way, new - 2 * way, new + way, new + 2 * way)
    able = [step for step in steps if step != old and step >= LOWEST]
    return min(able, key=lambda step: (_led(step, new, chord, key), steps.index(step)))


def _led(step: int, goal: int, chord: Chord, key: Key) -> int:
    """How well a note leads into a bass over a chord: its own notes best, then half steps, then steps of the key."""
    if step % 12 in chord.pitch_classes:
        return 0
    return 1 if abs(step - goal) == 1 else 2 if near(step, key) else 3


Walk = tuple[int, tuple[int, ...]]  # price, notes


def _between(bass: int, target: int, room: tuple[int, int]) -> tuple[int, int]:
    return max(room[0], LOWEST, min(bass, target) - 8), min(room[1], max(bass, target) + 12)


def _stepped(found: dict[tuple[int, int], Walk]) -> dict[tuple[int, int], Walk]:
    return {state: (cost, (*path, state[1])) for state, (cost, path) in found.items()}


def walked(bass: int, goal: int | None, count: int, chord: Chord, key: Key, room: tuple[int, int]) -> tuple[int, ...]:
    """`count` notes, one a beat: the first is `bass`, the last leads into `goal` by a step (or is the chord's own where
    there is none), those between are notes of the chord or of the key; the cheapest of all such walks by its steps, by
    what is heard on the strong beats, and by not turning back.
    """
    if count <= 1:
        return (bass,)[:count]
    low, high = _between(bass, bass if goal is None else goal, room)
    paths: dict[tuple[int, int], Walk] = {(-1, bass): (0, (bass,))}
    for at in range(1, count):
        last = goal if at == count - 1 else None
        found: dict[tuple[int, int], Walk] = {}
        for new in range(low, high + 1):
            price = _note_price(new, at, last, chord, key)
            if price is None:
                continue
            price += ROOT_AGAIN if (new - bass) % 12 == 0 else 0
            for (before, old), (cost, path) in paths.items():
                total = cost + price + _step_price(old, new) + (BACK if new == before else 0)
                if (old, new) not in found or (total, path) < found[old, new]:
                    found[old, new] = (total, path)
        paths = _stepped(found)
    return min(paths.values(), default=(0, (bass,) * count))[1]


def _note_price(new: int, at: int, goal: int | None, chord: Chord, key: Key) -> int | None:
    """What a note on beat `at` costs, None where it is not played; with a `goal` it leads there."""
    own = new % 12 in {pc % 12 for pc in chord.pitch_classes}
    if goal is not None:
        heard = own or near(new, key) or abs(new - goal) == 1
        return _lands(new, goal, chord, key) if heard else None
    if own:
        return 0
    if not near(new, key):
        return None
    return STRANGE_BEAT if at % 2 == 0 else WEAK


def _lands(new: int, goal: int, chord: Chord, key: Key) -> int:
    """The price of the last note before a goal: steps are what a walk ends with."""
    if abs(new - goal) in (1, 2):
        return _led(new, goal, chord, key)
    return {5: 5, 7: 5}.get(abs(new - goal), FAR)


def _step_price(old: int, new: int) -> int:
    """The price of a move within a walk: steps first, thirds and fifths where needed, no note twice."""
    return {0: 9, 1: 1, 2: 0, 3: 1, 4: 1, 5: 2, 7: 2, 12: 6}.get(abs(new - old), 6 + abs(new - old))
