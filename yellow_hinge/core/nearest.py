"""What was likely meant by a word that is not known."""

from __future__ import annotations

from collections.abc import Iterable


def nearest(word: str, words: Iterable[str], cutoff: float = 0.4) -> str:
    """The most similar of some words, the first of them among equals, "" where none is similar; `cutoff` 0..1 is how
    similar it must be.
    """
    from difflib import SequenceMatcher  # needed for mistakes only

    known = list(words)
    likeness = [SequenceMatcher(None, word, other).ratio() for other in known]
    best = max(range(len(known)), key=likeness.__getitem__, default=-1)
    return known[best] if best >= 0 and likeness[best] >= cutoff else ""
