"""What the program says of the demo songs is what is kept beside: any change of it is seen, and meant."""

import pytest

from tests import ALL
from tests.cli.answers import RUNS
from tests.cli.said import FOLDER, runs, said

# The others are said, and compared, on the walk of `test_every_answer`.
# These take long and have shorter ones of their kind: `make sweep` asks for them.
LONG = () if ALL else ("made-up-3", "rails-qualities", "heard-lantern", "patterns-five", "patterns-six")
ALONE = [(name, words) for name, words in runs() if name not in (*RUNS, *LONG)]


@pytest.mark.parametrize(("name", "words"), ALONE, ids=[name for name, _ in ALONE])
def test_the_program_says_what_is_kept(name, words):
    assert said(words) == (FOLDER / f"{name}.txt").read_text("utf-8"), "if this is meant: make said, and read it"


def test_every_kept_text_is_said():
    assert {path.stem for path in FOLDER.iterdir()} == {name for name, _ in runs()}
