"""The page on taste says what the engine plays now."""

from pathlib import Path

from tools.taste import page


def test_the_page_is_what_the_engine_plays():
    written = Path(__file__).parents[3].joinpath("docs", "taste.md").read_text("utf-8")
    assert page() == written, "run python -m tools.taste, read what changed and revise its words"
