"""Every function answers over the walk as it is kept, and the walk says what is kept: what a change made otherwise is
named, function by function.
"""

import difflib

import pytest

from tests.cli.answers import KEPT, VERSION, answers


def test_every_function_answers_as_it_is_kept():
    kept = KEPT.read_text("utf-8")
    if not kept.startswith(f"{VERSION}\n"):
        pytest.skip(f"kept by {kept.splitlines()[0]}")
    rows = [row for row in difflib.ndiff(kept.splitlines(), answers().splitlines()) if row[0] in "+-"]
    assert rows == [], "if this is meant: make said, and read which functions answer otherwise"
