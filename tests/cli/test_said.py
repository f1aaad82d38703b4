"""What the program says of the demo songs is what is kept beside: any change of it is seen, and meant."""

import pytest

from tests.cli.said import FOLDER, runs, said


@pytest.mark.parametrize(("name", "words"), list(runs()), ids=[name for name, _ in runs()])
def test_the_program_says_what_is_kept(name, words):
    assert said(words) == (FOLDER / f"{name}.txt").read_text("utf-8"), "if this is meant: make said, and read it"


def test_every_kept_text_is_said():
    assert {path.stem for path in FOLDER.iterdir()} == {name for name, _ in runs()}
