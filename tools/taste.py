"""Writes the hands of docs/taste.md's progressions: `python -m tools.taste`. Its words are ours, its notes the engine's."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.timeline import timeline
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.report import note_names

SMALL = Hands(left_reach=8, right_reach=8, left_notes=2, right_notes=3, keys=61)
USUAL = Hands()
LARGE = Hands(left_reach=10, right_reach=10, left_notes=4, right_notes=5, keys=88)
LEVELS = {
    "beginner": Setup(hands=SMALL, colour=0, families=("octave-triad", "bass-close")),
    "band player": Setup(hands=USUAL, colour=2),
    "professional": Setup(hands=LARGE, colour=3, bass="theirs", families=("all",)),
}


class Progression(NamedTuple):
    """A heading and its chart."""

    name: str
    chart: str


PROGRESSIONS = (
    Progression("Major two-five-one", "key: F\n| Gm7 | C7 | Fmaj7 |"),
    Progression("Minor two-five-one", "key: G minor\n| Am7b5 | D7b9 | Gm7 |"),
    Progression("One-six-two-five", "key: Bb\n| Bbmaj7 | G7 | Cm7 | F7 |"),
    Progression("Twelve-bar blues", "key: C\n| C7 | F7 | C7 | % | F7 | % | C7 | A7 | Dm7 | G7 | C7 | G7 |"),
    Progression("Falling bass in minor", "key: A minor\n| Am | Am/G# | Am/G | Am/F# | Fmaj7 | E7 |"),
    Progression("Gospel six-two-five-one-four", "key: Db\n| Bb7 | Ebm7 | Ab9sus4 | Db | Gb |"),
    Progression("Pop loop", "key: D\n| D | A | Bm | G |"),
    Progression("Modal vamp over one bass", "key: D dorian\n| Dm7 | Em7/D | F/D | Em7/D |"),
    Progression("Waltz turn", "key: G\nmeter: 3/4\n| G | G/B | C | C#dim7 | G/D | E7 | Am7 | D7 |"),
    Progression("Chromatic mediants", "key: C\n| C | Ab | E | C | Eb | Gb |"),
    Progression(
        "Ballad with melody",
        "key: Eb\n| Ebmaj7 | Gm7 | Abmaj7 | Abm6 | Eb/Bb | Bb9sus4 |\n"
        "tune: | G4:2 Bb4:2 | D5:3 Bb4:1 | C5:4 | Cb5:2 Ab4:2 | G4:3 F4:1 | Eb4:4 |",
    ),
)


def hands_of(chart: str, setup: Setup) -> list[str]:
    """One table row for each chord: symbol, left, right, motion since the chord before."""
    found = solve_song(Builder(), timeline(parse_chart(chart)), setup)
    rows = []
    for index, voicing in enumerate(found.voicings):
        hinge = found.hinges[index - 1] if index else None
        left, right = (" ".join(note_names(notes, voicing.chord)) or "rests" for notes in voicing.both)
        moved = f"{hinge.motion}, holds {hinge.held}" if hinge else ""
        rows.append(f"| {write_symbol(voicing.chord)} | {left} | {right} | {voicing.family_name} | {moved} |")
    return rows


def main() -> None:
    """Print every table."""
    for progression in PROGRESSIONS:
        print(f"\n## {progression.name}")
        for level, setup in LEVELS.items():
            print(f"\n{level.capitalize()}\n\n| chord | left | right | shape | motion |\n|---|---|---|---|---|")
            print("\n".join(hands_of(progression.chart, setup)))


if __name__ == "__main__":
    main()
