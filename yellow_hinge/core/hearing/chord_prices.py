"""What every chord costs over the keys that sounded."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from yellow_hinge.core.hearing.notes import Floats
from yellow_hinge.core.numerics import NDArray, np
from yellow_hinge.core.symbols.naming import LONG_NAME, masks, name_lengths, named_qualities, prices_of_missing

_FOREIGN, _FOREIGN_BASS, _INVERTED, _NO_ROOT = 4.0, 2.5, 1.1, 3.2
_NO_ROOT_THEIRS = 0.8  # where somebody else has the bass
_INVERTED_SIXTH, _INVERTED_TENSION, _LONGER = 0.6, 0.6, 0.03
_INNER_BASS = 1.6  # another bass in the middle of a stretch that is neither root nor fifth


class _Tables(NamedTuple):
    missing: Floats  # (q, 12): price of a pitch class above the root that does not sound
    absent: Floats  # (12, q, 12): 1 where a pitch class is no note of a chord
    length: Floats
    tensions: Floats
    sixths: Floats


@lru_cache(maxsize=1)
def pitch_tables() -> _Tables:
    bits = masks()[:, :, None] >> np.arange(12)[None, None, :] & 1
    qualities = named_qualities()
    sixths = [1.0 if q.sixth or q.third in ("4", "2") else 0.0 for q in qualities]
    tensions = [float(len(q.tensions)) for q in qualities]
    absent = np.asarray(1.0 - bits, np.float64)
    return _Tables(prices_of_missing(), absent, name_lengths(), np.array(tensions), np.array(sixths))


class Seen(NamedTuple):
    """What sounds in some stretches: (stretches, 12) how far a pitch class is there, and how much it stands out; basses
    and the basses in the middle.
    """

    there: Floats
    salience: Floats
    bass: NDArray[np.int64]
    inner: Floats


def chord_prices(seen: Seen, theirs: bool, off_key: Floats | None) -> Floats:
    """(stretches, 12, q): what every chord costs over every stretch."""
    tables, roots = pitch_tables(), np.arange(12)
    there, bass = seen.there, np.maximum(seen.bass, 0)
    above = np.stack([np.roll(there, -root, 1) for root in range(12)], 1)
    price = (1.0 - above) @ tables.missing.T
    price += np.tensordot(seen.salience, tables.absent, ([1], [2])) * _FOREIGN
    foreign = tables.absent[:, :, bass].transpose(2, 0, 1) > 0
    own = seen.salience[np.arange(len(bass)), bass][:, None, None]
    price += np.where(foreign, _FOREIGN_BASS - _FOREIGN * own, 0.0)
    inverted = (roots[None, :] != bass[:, None])[:, :, None]
    price += (_NO_ROOT_THEIRS if theirs else _NO_ROOT) * (1.0 - there)[:, :, None]
    if not theirs:
        price += np.where(inverted & ~foreign, _INVERTED, 0.0)
        price += inverted * (_INVERTED_TENSION * tables.tensions + _INVERTED_SIXTH * tables.sixths)[None, None, :]
        strange = np.array([[0.0 if (pc - root) % 12 in (0, 5, 7) else 1.0 for pc in range(12)] for root in range(12)])
        price += _INNER_BASS * (seen.inner @ strange.T)[:, :, None]
    price += (tables.length * (LONG_NAME + _LONGER))[None, None, :]
    if off_key is not None:
        price += off_key[None]
    return price
