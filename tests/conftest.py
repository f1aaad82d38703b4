"""Common settings: no screen, bounded property tests."""

import gc
import os
import sys
from pathlib import Path

from tools.offscreen import PLATFORM

if os.environ.get("QT_QPA_PLATFORM", "offscreen") == "offscreen":
    os.environ["QT_QPA_PLATFORM"] = PLATFORM

import pytest
from hypothesis import HealthCheck, settings

from tests import EXAMPLES

settings.register_profile("house", deadline=None, max_examples=EXAMPLES, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")


@pytest.fixture(autouse=True, scope="session")
def _nothing_of_the_tests_is_searched():
    """What is loaded before the first test stays to the end: it is not gone through for what can be let go."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 20)


@pytest.fixture(autouse=True, scope="session")
def _one_application(qapp):
    """Pages are painted without widgets too; Qt has one application in a process, and it is the window's."""


@pytest.fixture(autouse=True)
def _nothing_of_ones_own():
    """What a test lays of the player's own data is taken away after it."""
    yield
    using = sys.modules.get("yellow_hinge.app.mine.using")
    if using is not None:
        using.use_folder(Path("nowhere"))
