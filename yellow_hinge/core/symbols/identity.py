"""Whether sounding notes are heard as the chord that is written."""

from __future__ import annotations

from functools import lru_cache

from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.symbols.naming import masks, named_qualities, rare_rows, unlike
from yellow_hinge.core.symbols.quality import Quality

_NEVER = 99.0
_LESS = 1e-6


def _mask(quality: Quality) -> int:
    return sum({1 << degree_pc(degree) for degree in quality.degrees})


@lru_cache(maxsize=4096)
def _own(quality: Quality) -> np.ndarray:
    """Which named qualities on its root are the written one, perhaps coloured: the same third, altered fifth and, where
    one is written, seventh.
    """
    found = []
    for other in named_qualities():
        same = other.third == quality.third
        same = same and (quality.fifth in ("5", "") or other.fifth == quality.fifth)
        same = same and (other.fifth in ("5", "") or other.fifth == quality.fifth or quality.alt)
        same = same and (not quality.seventh or other.seventh == quality.seventh)
        found.append(same and (not quality.sixth or quality.sixth == other.sixth or "13" in other.tensions))
    return np.array(found)


@lru_cache(maxsize=4096)
def _shared_roots(quality: Quality) -> tuple[int, ...]:
    """Roots over which all written notes are a chord of their own too, as C6 is Am7: they are no rivals."""
    written = _mask(quality)
    table = masks() == written
    table[:, rare_rows()] = False
    return tuple(int(root) for root in np.flatnonzero(table.any(1)))


@lru_cache(maxsize=65536)
def reads_as_written(quality: Quality, bass: int, sounding: int) -> bool:
    """Whether a set of notes (bit k: the note k semitones above the written root sounds) over a bass (semitones above
    the root, it sounds too) is heard as a chord of that quality: no other root names it as well or better. Written
    notes alone always are; over a foreign bass all that gives the bass no third is.
    """
    written = _mask(quality)
    sounding |= 1 << bass
    if not sounding & ~(written | 1 << bass):
        return True
    if not written >> bass & 1:
        thirds = (1 << (bass + 3) % 12 | 1 << (bass + 4) % 12) & ~written
        return not sounding & thirds
    price = unlike(sounding, bass)
    own = float(np.where(_own(quality), price[0], _NEVER).min())
    rivals = price.copy()
    rivals[:, rare_rows()] = _NEVER
    rivals[[0, *_shared_roots(quality)]] = _NEVER
    return own < float(rivals.min()) - _LESS
