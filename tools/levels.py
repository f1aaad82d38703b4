"""`python -m tools.levels`: measures every sample that ships, for yellow_hinge/sound/leveling.py."""

from __future__ import annotations

import numpy as np

from yellow_hinge.assets import ASSETS
from yellow_hinge.sound.instruments import RATE, Instruments
from yellow_hinge.sound.leveling import BIN, BINS, ROWS
from yellow_hinge.sound.measuring import weighted

PLAYED = {"loud": ("right", 100), "soft": ("right", 40), "bass": ("bass", 90), "drums": ("drums", 90)}


def curve(instruments: Instruments, kind: str, midi: int) -> np.ndarray:
    """Mean square, K-weighted, both channels together, of a sample in every step."""
    part, velocity = PLAYED[kind]
    heard = weighted(instruments.note(part, midi, velocity))
    step = round(BIN * RATE)
    whole = np.zeros(BINS * step)
    energy = (heard**2).sum(axis=1)[: len(whole)]
    whole[: len(energy)] = energy
    return whole.reshape(BINS, step).mean(axis=1)


def main() -> None:
    """Write assets/levels.npy."""
    instruments = Instruments()
    np.save(ASSETS / "levels.npy", np.array([curve(instruments, *row) for row in ROWS], np.float32))


if __name__ == "__main__":
    main()
