"""Marking against an independent rule on random chords, and what a player would say of it."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.practice.marking import Attempt, begun

KEYS = st.frozensets(st.integers(36, 84), min_size=1, max_size=8)


def played(wanted, *events):
    found = begun(tuple(wanted), 0.0)
    for n, event in enumerate(events):
        if event == "pedal":
            found = found.pedalled(True)
        elif event == "free":
            found = found.pedalled(False)
        elif event < 0:
            found = found.lifted(-event)
        else:
            found = found.pressed(event, 0.1 * (n + 1))
    return found


def rule(wanted, events):
    """The same said otherwise: a list of (kind, key) by looking at every moment from the start."""
    down, ring, pedal, kinds = [], [], False, []
    for event in events:
        if event in ("pedal", "free"):
            pedal = event == "pedal"
            ring = ring if pedal else []
        elif event < 0:
            if -event in down:
                down.remove(-event)
                if pedal:
                    ring.append(-event)
        else:
            if event in wanted:
                kinds.append(("right", event))
            else:
                still = [w for w in wanted if w not in down and w not in ring]
                kinds.append(("octave" if any((w - event) % 12 == 0 for w in still) else "extra", event))
            if event not in down:
                down.append(event)
    done = all(w in down or w in ring for w in wanted) and all(d in wanted for d in down)
    missing = sorted(w for w in wanted if ("right", w) not in kinds)
    return kinds, done, missing


@given(KEYS, st.integers(0, 10_000))
def test_marking_is_what_an_independent_rule_says(wanted, seed):
    chance = random.Random(seed)
    events, down = [], set()
    for _ in range(chance.randint(0, 14)):
        what = chance.random()
        if what < 0.15:
            events.append(chance.choice(("pedal", "free")))
        elif what < 0.35 and down:
            key = chance.choice(sorted(down))
            down.discard(key)
            events.append(-key)
        else:
            near = chance.choice(sorted(wanted)) + chance.choice((0, 0, 0, 12, -12, 1, -2))
            if near not in down:
                down.add(near)
                events.append(near)
    found = played(wanted, *events)
    kinds, done, missing = rule(wanted, events)
    assert [(press.kind, press.midi) for press in found.presses] == kinds
    assert found.done == done
    mark = found.mark(9.0)
    assert list(mark.missing) == missing
    assert mark.errors == sum(1 for kind, _ in kinds if kind != "right") + len(missing)


def test_another_octave_is_one_only_while_its_own_is_not_played():
    assert played((60, 64), 72).presses[-1].kind == "octave"
    assert played((60, 64), 60, 72).presses[-1].kind == "extra"


def test_what_holds_need_not_be_struck_again_and_leftovers_do_not_count():
    first = played((60, 64, 67), 60, 64, 67)
    second = begun((60, 65, 69), 1.0, first)
    assert second.presses[0].midi == 60
    assert second.down == {60}
    second = second.pressed(65, 1.4).pressed(69, 1.5)
    assert second.done
    assert second.mark(3.0).seconds == pytest.approx(0.5)
    assert second.mark(3.0).right


def test_nothing_wanted_is_never_done():
    assert not Attempt(frozenset(), 0.0).done


def test_what_the_playing_adds_is_no_fault_and_not_asked_for():
    attempt = begun((48, 64), 0.0, free=(50,))
    for midi in (48, 50, 64):
        attempt = attempt.pressed(midi, 0.5)
    assert attempt.done
    assert attempt.mark(1.0).right
    assert begun((48, 64), 0.0, free=(50,)).mark(1.0).missing == (48, 64)
    assert begun((48, 64), 0.0, attempt, free=(50,)).free == {50}
