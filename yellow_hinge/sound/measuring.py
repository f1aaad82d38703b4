"""How loud sound is: integrated loudness after ITU-R BS.1770-4, and the levels of parts beside each other."""

from __future__ import annotations

from functools import lru_cache

from yellow_hinge.core.numerics import Floats64, NDArray, np
from yellow_hinge.sound.instruments import RATE, Samples

Floats = Floats64
# K-weighting at 48 kHz (BS.1770-4, tables 1 and 2): a high shelf for the head, then a high pass.
SHELF = ((1.53512485958697, -2.69169618940638, 1.19839281085285), (-1.69065929318241, 0.73248077421585))
PASS = ((1.0, -2.0, 1.0), (-1.99004745483398, 0.99007225036621))
OFFSET = -0.691  # dB, so that a sine of 1 kHz at full scale in one channel is -3.01 LUFS
WINDOW, HOP = 0.4, 0.1  # seconds of a gating block, and from one to the next
SILENCE, GATE = -70.0, -10.0  # LUFS under which a block is none; LU under the mean of the others
TAPS = 1 << 13  # of the weighting as one response; what follows is below -120 dB
BLOCK = 1 << 16


def _biquad(impulse: Floats, stage: tuple[tuple[float, float, float], tuple[float, float]]) -> Floats:
    (b0, b1, b2), (a1, a2) = stage
    out = np.zeros_like(impulse)
    x1 = x2 = y1 = y2 = 0.0
    for at, x in enumerate(impulse.tolist()):
        y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2
        x1, x2, y1, y2 = x, x1, y, y1
        out[at] = y
    return out


@lru_cache(maxsize=1)
def _weighting() -> NDArray[np.complex128]:
    """The spectrum of the weighting for blocks of BLOCK frames."""
    impulse = np.zeros(TAPS)
    impulse[0] = 1.0
    found: NDArray[np.complex128] = np.fft.rfft(_biquad(_biquad(impulse, SHELF), PASS), BLOCK)
    return found


def weighted(samples: Samples) -> Floats:
    """Samples (n, channels) as loud as they are heard, as many."""
    step, count = BLOCK - TAPS, len(samples)
    out = np.zeros((count + BLOCK, samples.shape[1]))
    for at in range(0, count, step):
        spectrum = np.fft.rfft(samples[at : at + step], BLOCK, axis=0) * _weighting()[:, None]
        out[at : at + BLOCK] += np.fft.irfft(spectrum, BLOCK, axis=0)
    return out[:count]


def loudness(samples: Samples) -> float:
    """Integrated loudness of stereo samples (n, 2) at RATE in LUFS, gated as BS.1770-4 says; -inf for silence."""
    heard = weighted(samples)
    energy = np.concatenate([np.zeros(1), np.cumsum((heard**2).sum(axis=1))])
    wide, hop = round(WINDOW * RATE), round(HOP * RATE)
    starts = np.arange(0, len(samples) - wide + 1, hop)
    if not len(starts):
        return float("-inf")
    return gated((energy[starts + wide] - energy[starts]) / wide)


def gated(blocks: Floats) -> float:
    """The loudness in LUFS of the mean squares of some gating blocks, first without silence, then without what is far
    under the rest; -inf for silence.
    """
    with np.errstate(divide="ignore"):
        levels = OFFSET + 10 * np.log10(blocks)
    sounding = blocks[levels > SILENCE]
    if not len(sounding):
        return float("-inf")
    relative = OFFSET + 10 * np.log10(sounding.mean()) + GATE
    loud = blocks[(levels > SILENCE) & (levels > relative)]
    return float(OFFSET + 10 * np.log10(loud.mean()))
