"""The page on taste says what the engine plays now."""

from pathlib import Path

import pytest

from tests import ALL
from tools.taste import page


@pytest.mark.skipif(not ALL, reason="by make sweep: what the hands become is seen in tests/cli/said")
def test_the_page_is_what_the_engine_plays():
    written = Path(__file__).parents[3].joinpath("docs", "taste.md").read_text("utf-8")
    assert page() == written, "run python -m tools.taste, read what changed and revise its words"
