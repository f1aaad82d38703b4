"""Tests of every room by itself, and of rooms with each other."""

import os

# Examples of a property: as many as say something soon; `make sweep` and CI's long runs ask for more.
EXAMPLES = int(os.environ.get("EXAMPLES", "14"))
WHOLE = 60
ALL = "ALL_KEYS" in os.environ


def some(cases, every: int, first: int = 0) -> list:
    """One of so many cases; all of them by `make sweep`."""
    return list(cases) if ALL else list(cases)[first::every]


def examples(count: int) -> int:
    """So many examples of a property, where WHOLE are asked for of all; fewer or more as EXAMPLES says."""
    return max(2, count * EXAMPLES // WHOLE)
