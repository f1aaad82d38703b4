"""The reharmonised companions of the demo songs are what the program makes of them."""

import pytest

from tests import some
from tools.companions import RECIPES, companion
from yellow_hinge.io.songs.demo import BOLDER, demo_names, demo_song, demo_text


def test_every_demo_song_has_a_companion():
    originals = [name for name in demo_names() if not name.endswith(BOLDER)]
    assert set(originals) == set(RECIPES)
    assert {f"{name}{BOLDER}" for name in originals} == set(demo_names()) - set(originals)


@pytest.mark.parametrize("name", some(RECIPES, 2))
def test_a_companion_is_what_the_program_makes(name):
    assert demo_text(f"{name}{BOLDER}") == companion(name), "run `make companions` and look at what became otherwise"
    before, after = demo_song(name), demo_song(f"{name}{BOLDER}")
    assert [len(section.bars) for section in after.sections] == [len(section.bars) for section in before.sections]
    changed = sum(a.slots != b.slots for s, t in zip(before.sections, after.sections, strict=True)
                  for a, b in zip(s.bars, t.bars, strict=True))  # fmt: skip
    assert changed >= 3
    assert [bar.tune for s in after.sections for bar in s.bars] == [bar.tune for s in before.sections for bar in s.bars]
