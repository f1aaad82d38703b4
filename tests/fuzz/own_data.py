"""Folders of the player's own data with damaged files: what is read can be used, what is not is said, in bounded time.

`python -m tests.fuzz.own_data COUNT [SEED]` damages COUNT folders.
"""

import random
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path

from tests.fuzz.mutate import damaged
from yellow_hinge.app.mine.folder import Mine, read_mine
from yellow_hinge.app.mine.kinds import KINDS
from yellow_hinge.app.mine.listing import every_row
from yellow_hinge.app.mine.using import use
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, chosen_manner
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.scales import scales_at
from yellow_hinge.core.own.lines import line_fits, over_chords
from yellow_hinge.core.reharm.shelf_fits import fits
from yellow_hinge.core.reharm.swaps import swaps
from yellow_hinge.core.song.timeline import timeline

SONG = parse_chart("key: C\n| C | Am7 | Dm7 G7 | C |\n")
NUMBERS = (
    "0",
    "-1",
    "1e308",
    "nan",
    "inf",
    "-inf",
    "9" * 40,
    "0x7fffffff",
    "1.5",
    "true",
    "[]",
    "{}",
    '""',
    "1979-05-27",
)


def spoiled(text: str, chance: random.Random) -> bytes:
    """A file with a number or a word otherwise, or with any bytes damaged."""
    rows = text.splitlines()
    places = [n for n, row in enumerate(rows) if "=" in row and not row.startswith("#")]
    if chance.random() < 0.3:
        return damaged(text.encode(), chance)
    for _ in range(chance.randint(1, 3)):
        at = chance.choice(places)
        name = rows[at].partition("=")[0] if chance.random() < 0.8 else rows[chance.choice(places)].partition("=")[0]
        rows[at] = f"{name}= {chance.choice(NUMBERS)}"
    return "\n".join(rows).encode()


def use_all(mine: Mine) -> None:
    """Everything that was read is looked up, solved and offered."""
    use(mine)
    every_row(mine)
    builder = Builder()
    for style in STYLES.own:
        solution = solve_song(builder, timeline(SONG), Setup(style=style))
        assert all(-(10**9) < hinge.cost < 10**9 for hinge in solution.hinges)
    for manner in manners().own:
        solve_song(builder, timeline(SONG), chosen_manner(Setup(), manner))
    solution = solve_song(builder, timeline(SONG), Setup(colour=1))
    swaps(builder, solution, 3)
    for voicing in solution.voicings:
        scales_at(voicing.chord, voicing.here.key)
    for at in range(len(solution.voicings)):
        fits(mine.of("shelf"), solution, at)
    moments = [voicing.here for voicing in solution.voicings]
    for line in mine.of("line"):
        over_chords(line, moments[: len(line.chords)], [0] * len(moments))
        line_fits((line,), moments, [0] * len(moments))


def run(count: int, seed: int) -> tuple[Counter[str], float]:
    """(how many entries came to what, the longest time of a folder). Raises AssertionError with the folder's seed."""
    tally: Counter[str] = Counter()
    longest = 0.0
    try:
        for number in range(seed, seed + count):
            chance = random.Random(number)
            with tempfile.TemporaryDirectory() as name:
                for kind in KINDS:
                    path = Path(name) / kind.folder / "a.toml"
                    path.parent.mkdir()
                    whole = chance.random() < 0.3
                    path.write_bytes(kind.example.encode() if whole else spoiled(kind.example, chance))
                start = time.perf_counter()
                try:
                    mine = read_mine(Path(name))
                    assert len(mine.entries) + len(mine.wrong) == len(KINDS)
                    assert all(str(wrong.reason).strip() for wrong in mine.wrong)
                    use_all(mine)
                except UserError as error:
                    assert str(error).strip()
                except Exception as error:
                    raise AssertionError(f"folder {number}") from error
                longest = max(longest, time.perf_counter() - start)
                tally["read"] += len(mine.entries)
                tally["left out"] += len(mine.wrong)
    finally:
        use(Mine())
    return tally, longest


if __name__ == "__main__":
    print(*run(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 1))
