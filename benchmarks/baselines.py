"""The two baselines on the same lattice: plain pair-by-pair Viterbi in NumPy, and a shortest path in networkx."""

from __future__ import annotations

import networkx
import numpy as np

from yellow_hinge.core.leading.chain.steps import Chain
from yellow_hinge.core.leading.prices.weights import INFINITE


def pairwise_viterbi(chain: Chain) -> int:
    """Cost of the cheapest open path, over the list of valid pairs of every stage."""
    states = [np.argwhere(table < INFINITE) for table in chain.place]
    best = chain.place[0][tuple(states[0].T)].astype(np.int64)
    for t in range(len(chain) - 1):
        old, new = states[t], states[t + 1]
        reached = np.empty(len(new), np.int64)
        for k, (l, r) in enumerate(new):
            reached[k] = (best + chain.left[t][0][old[:, 0], l] + chain.right[t][0][old[:, 1], r]).min()
        best = reached + chain.place[t + 1][tuple(new.T)]
    return int(best.min())


def networkx_path(chain: Chain) -> int:
    """The same as a shortest path in a directed graph. Place and change prices are shifted to be positive."""
    states = [np.argwhere(table < INFINITE) for table in chain.place]
    shift = 20_000
    graph = networkx.DiGraph()
    for k, (l, r) in enumerate(states[0]):
        graph.add_edge("start", (0, k), weight=int(chain.place[0][l, r]) + shift)
    for t in range(len(chain) - 1):
        old, new = states[t], states[t + 1]
        price = chain.left[t][0][old[:, 0]][:, new[:, 0]] + chain.right[t][0][old[:, 1]][:, new[:, 1]]
        price = price + chain.place[t + 1][tuple(new.T)][None, :] + shift
        graph.add_weighted_edges_from(
            ((t, a), (t + 1, b), int(price[a, b])) for a in range(len(old)) for b in range(len(new))
        )
    last = len(chain) - 1
    graph.add_weighted_edges_from(((last, k), "end", 0) for k in range(len(states[last])))
    return int(networkx.shortest_path_length(graph, "start", "end", weight="weight")) - shift * len(chain)
