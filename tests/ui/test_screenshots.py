"""The pictures of the documentation are what the program shows."""

import os
import subprocess
import sys
from pathlib import Path

import numpy as np
from PySide6.QtGui import QImage

from tools.offscreen import PLATFORM
from tools.screenshots import ALONE
from tools.screenshots import SHOTS as SHOTS_BY_NAME

ROOT = Path(__file__).parents[2]
SHOTS = ROOT / "docs" / "screenshots"
MOST = 0.005  # share of pixels that may differ


def pixels(path):
    """The picture as an array of height x width x 4 bytes."""
    image = QImage(str(path)).convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4).copy()


# A few in every run; `make pictures` compares them all.
FEW = ("takes", "sheet-staves-dark")


def test_the_pictures_of_the_documentation_are_what_the_program_shows(tmp_path):
    names = () if os.environ.get("ALL_PICTURES") else FEW
    assert set(FEW) <= {*SHOTS_BY_NAME, *ALONE}
    assert {path.stem for path in SHOTS.glob("*.png")} == {*SHOTS_BY_NAME, *ALONE}
    env = {**os.environ, "QT_QPA_PLATFORM": PLATFORM}
    call = [sys.executable, "-m", "tools.screenshots", str(tmp_path), *names]
    done = subprocess.run(call, cwd=ROOT, env=env, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert {path.stem for path in tmp_path.glob("*.png")} == set(names or (*SHOTS_BY_NAME, *ALONE))
    wrong = {}
    for made in tmp_path.glob("*.png"):
        new, kept = pixels(made), pixels(SHOTS / made.name)
        share = 1.0 if new.shape != kept.shape else float((new != kept).any(axis=2).mean())
        if share > MOST:
            wrong[made.name] = f"{share:.2%}"
    assert not wrong, f"{wrong}: look at them, then make screenshots"
