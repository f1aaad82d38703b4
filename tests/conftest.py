"""Common settings: no screen, bounded property tests."""

import os

from tools.offscreen import PLATFORM

if os.environ.get("QT_QPA_PLATFORM", "offscreen") == "offscreen":
    os.environ["QT_QPA_PLATFORM"] = PLATFORM

import pytest
from hypothesis import HealthCheck, settings

from tests import EXAMPLES

settings.register_profile("house", deadline=None, max_examples=EXAMPLES, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")


@pytest.fixture(autouse=True, scope="session")
def _one_application(qapp):
    """Pages are painted without widgets too; Qt has one application in a process, and it is the window's."""
