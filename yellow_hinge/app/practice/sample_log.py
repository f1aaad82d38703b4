"""A made-up log for the songs that ship, so that the plots have something to show; it is said to be made up, and never
written.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from random import Random

from yellow_hinge.app.practice.runs import Run

WEEKS, SEED = 6, 7
_KEYS = ("E major", "A major", "D major", "G major", "C major", "F major", "Bb major")


def sample_runs(title: str, now: datetime) -> list[Run]:
    """Six weeks of somebody who gets better: the same for the same day."""
    chance, found = Random(SEED), []
    for back in range(7 * WEEKS - 1, -1, -1):
        if chance.random() < 0.35:
            continue
        done = 1 - back / (7 * WEEKS)
        at = now - timedelta(days=back)
        keys = _KEYS[: 1 + round(done * chance.random() * 6)]
        for n in range(30 + round(chance.random() * 160)):
            seconds = max(0.5, chance.gauss(3.4 - 2.2 * done, 0.7))
            wrong = sum(chance.random() < 0.22 - 0.17 * done for _ in range(4))
            at += timedelta(seconds=seconds)
            found.append(
                Run(at, "", title, "Take 1", "hinge", str(n % 20), n, n + 1, "", keys[n % len(keys)], "both",
                    round(seconds, 2), extra=wrong, sample=True)
            )  # fmt: skip
    return found
