"""What was likely meant by a word that is not known."""

from __future__ import annotations

from collections.abc import Iterable


def nearest(word: str, words: Iterable[str], cutoff: float = 0.4) -> str:
    """The most similar of some words, "" where none is similar; `cutoff` 0..1 is how similar it must be."""
    from difflib import get_close_matches  # needed for mistakes only

    return next(iter(get_close_matches(word, list(words), n=1, cutoff=cutoff)), "")
