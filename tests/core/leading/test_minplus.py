"""The chain solver against every path of small chains."""

from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yellow_hinge.core.leading.chain.minplus import solve
from yellow_hinge.core.leading.chain.steps import Chain
from yellow_hinge.core.leading.prices.weights import INFINITE


def path_cost(chain: Chain, path: list[tuple[int, int]]) -> int:
    """The sum of places and changes along a path."""
    total = sum(int(chain.place[t][l, r]) for t, (l, r) in enumerate(path))
    for t in range(len(chain) if chain.loop else len(chain) - 1):
        (l1, r1), (l2, r2) = path[t], path[(t + 1) % len(chain)]
        total += min(
            int(left[l1, l2]) + int(right[r1, r2]) for left, right in zip(chain.left[t], chain.right[t], strict=True)
        )
    return total


@st.composite
def chains(draw):
    rng = np.random.default_rng(draw(st.integers(0, 2**32 - 1)))
    count, loop = draw(st.integers(1, 4)), draw(st.booleans())
    sizes = [(int(rng.integers(1, 4)), int(rng.integers(1, 4))) for _ in range(count)]

    def table(rows, columns, forbid=0.0):
        made = rng.integers(0, 30, (rows, columns)).astype(np.int32)
        made[rng.random((rows, columns)) < forbid] = INFINITE
        return made

    free, place = [], []
    for l, r in sizes:
        open_place = table(l, r, 0.3)
        open_place[rng.integers(l), rng.integers(r)] = 3
        kept = open_place.copy()
        if rng.random() < 0.3:
            state = divmod(int(open_place.argmin()), r)
            kept[:] = INFINITE
            kept[state] = open_place[state]
        free.append(open_place)
        place.append(kept)
    following = [sizes[(t + 1) % count] for t in range(count)]
    kinds = draw(st.integers(1, 3))
    left = [tuple(table(sizes[t][0], following[t][0]) for _ in range(kinds)) for t in range(count)]
    right = [tuple(table(sizes[t][1], following[t][1]) for _ in range(kinds)) for t in range(count)]
    return Chain(place, left, right, loop, tuple(free))


def all_paths(chain, fixed=None):
    for path in product(*(list(np.ndindex(*table.shape)) for table in chain.place)):
        tables = list(chain.place)
        if fixed is not None:
            t, state = fixed
            if path[t] != state:
                continue
            tables[t] = chain.free[t]
        if all(int(table[state]) < INFINITE for table, state in zip(tables, path, strict=True)):
            yield path_cost(Chain(tables, chain.left, chain.right, chain.loop), list(path))


@given(chains())
def test_the_path_is_the_cheapest_of_all(chain):
    solved = solve(chain)
    assert solved.exact
    assert solved.cost == min(all_paths(chain)) == path_cost(chain, solved.path)


@given(chains())
def test_every_state_has_the_price_of_the_best_song_through_it(chain):
    solved = solve(chain)
    for t, table in enumerate(map(solved.price, range(len(chain)))):
        for state in np.ndindex(*table.shape):
            truth = min(all_paths(chain, (t, state)), default=INFINITE)
            if not chain.loop:
                assert table[state] == truth
        if not chain.loop or chain.place[t][solved.path[t]] == solved.cost:
            assert int(table[solved.path[t]]) == solved.cost


@given(chains())
def test_the_chosen_states_of_a_loop_have_the_songs_price(chain):
    solved = solve(chain)
    assert all(
        int(table[state]) == solved.cost
        for table, state in zip(map(solved.price, range(len(chain))), solved.path, strict=True)
    )


def _long_chain(rng, count, widest=30):
    sizes = [(int(rng.integers(1, 4)), int(rng.integers(1, 4))) for _ in range(count)]

    def table(rows, columns):
        made = rng.integers(0, widest, (rows, columns)).astype(np.int32)
        made[rng.random((rows, columns)) < 0.1] = INFINITE
        made[rng.integers(rows), rng.integers(columns)] = 3
        return made

    def change(a, b):
        return (rng.integers(0, widest, (a, b)).astype(np.int32),)

    left = [change(a[0], b[0]) for a, b in pairwise(sizes)]
    right = [change(a[1], b[1]) for a, b in pairwise(sizes)]
    return Chain([table(*size) for size in sizes], left, right)


@given(st.integers(0, 2**32 - 1), st.sampled_from([2, 6, 30]))
def test_a_long_chain_edited_again_and_again_is_solved_as_if_it_were_new(seed, widest):
    """Costs that differ from the earlier ones by one number are taken over shifted, and so is the path."""
    rng = np.random.default_rng(seed)
    chain = _long_chain(rng, 24, widest)
    solved = solve(chain)
    for _ in range(3):
        place = list(chain.place)
        for t in rng.integers(0, len(place), rng.integers(1, 3)):
            place[t] = (place[t] + rng.integers(0, 5, place[t].shape)).clip(0, INFINITE).astype(np.int32)
        if rng.random() < 0.4 and len(place) > 3:  # and some stages less
            cut = int(rng.integers(2, len(place)))
            place, left, right = place[:cut], chain.left[: cut - 1], chain.right[: cut - 1]
        else:
            left, right = chain.left, chain.right
        chain = Chain(place, left, right)
        solved, fresh = solve(chain, solved), solve(chain)
        assert (solved.path, solved.cost) == (fresh.path, fresh.cost)
        for t in range(len(chain)):
            assert (solved.price(t) == fresh.price(t)).all()


def test_a_stage_without_a_state_is_refused():
    nothing = np.full((2, 2), INFINITE, np.int32)
    with pytest.raises(ValueError, match="no possible state"):
        solve(Chain([nothing], [], []))
