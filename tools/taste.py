"""Writes docs/taste.md: `python -m tools.taste`. Its words are ours, its notes the engine's."""

from __future__ import annotations

from pathlib import Path
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
    """A heading, its chart, and what a trained player says of the hands at each level, in the order of LEVELS."""

    name: str
    chart: str
    says: tuple[str, str, str]


PROGRESSIONS = (
    Progression(
        "Major two-five-one",
        "key: F\n| Gm7 | C7 | Fmaj7 |",
        (
            "The sevenths fall by half steps inside the hand; nothing to correct.",
            "Guide tones with one colour each; the ninth of F waits in the two as its root. Three notes are enough over "
            "one's own bass.",
            "Four voices in open position, one finger a change. The two sounds its eleventh, the one its sixth.",
        ),
    ),
    Progression(
        "Minor two-five-one",
        "key: G minor\n| Am7b5 | D7b9 | Gm7 |",
        (
            "As it should be; the last change is a real jump of the left hand only.",
            "The top A holds through all three and ends as the ninth.",
            "The five takes its b13 as well, which the goal in minor asks for; the two's top notes hold into it.",
        ),
    ),
    Progression(
        "One-six-two-five",
        "key: Bb\n| Bbmaj7 | G7 | Cm7 | F7 |",
        (
            "Plain and complete. The six keeps its natural fifth since no colour was asked for.",
            "Rootless shapes over the bass: the D stays on top for four bars, the inside falls by half steps.",
            "G and F stand still, the middle line goes A B Bb A: what players call a good inner voice.",
        ),
    ),
    Progression(
        "Twelve-bar blues",
        "key: C\n| C7 | F7 | C7 | % | F7 | % | C7 | A7 | Dm7 | G7 | C7 | G7 |",
        (
            "Third and seventh always there, one position for the whole chorus.",
            "The six takes its b9 because it goes to minor; the two-five is the standard rootless pair.",
            "One shape rocks between one and four, two fingers a half step each.",
        ),
    ),
    Progression(
        "Falling bass in minor",
        "key: A minor\n| Am | Am/G# | Am/G | Am/F# | Fmaj7 | E7 |",
        (
            "The right hand stays and the bass does the telling.",
            "The same: no colour may rub against the written bass, and none is needed.",
            "With a bass player below, one hand for five chords; the line is his.",
        ),
    ),
    Progression(
        "Gospel six-two-five-one-four",
        "key: Db\n| Bb7 | Ebm7 | Ab9sus4 | Db | Gb |",
        (
            "The two's triad stays over the suspended five, as it should.",
            "The six takes its b13. The F stays on top from first to last.",
            "Two fingers by half steps in five chords; the five is the two over another bass.",
        ),
    ),
    Progression(
        "Pop loop",
        "key: D\n| D | A | Bm | G |",
        (
            "Close triads, the top no farther than a third.",
            "A held A on top, ninths for colour; no chord turns into another one.",
            "Stacked fourths throughout: one finger moves in each of the last two changes.",
        ),
    ),
    Progression(
        "Modal vamp over one bass",
        "key: D dorian\n| Dm7 | Em7/D | F/D | Em7/D |",
        (
            "Triads of the mode step up and down over the bass.",
            "The same with a note between; every upper chord keeps its root.",
            "The stack of fourths slides a step in its upper part while D and G stay.",
        ),
    ),
    Progression(
        "Waltz turn",
        "key: G\nmeter: 3/4\n| G | G/B | C | C#dim7 | G/D | E7 | Am7 | D7 |",
        (
            "Right for a singer: root positions below, the top between G and G#.",
            "The upper E holds all eight bars; the inside does the work.",
            "The hand of the one serves over its third and over the four. The diminished chord moves two fingers.",
        ),
    ),
    Progression(
        "Chromatic mediants",
        "key: C\n| C | Ab | E | C | Eb | Gb |",
        (
            "Common tones stay, the rest goes by half steps: the reason to play mediants at all.",
            "The same with a little colour towards the end.",
            "Ninths make the far chords one family; two fingers a change but for the leap to Eb.",
        ),
    ),
    Progression(
        "Ballad with melody",
        "key: Eb\n| Ebmaj7 | Gm7 | Abmaj7 | Abm6 | Eb/Bb | Bb9sus4 |\n"
        "tune: | G4:2 Bb4:2 | D5:3 Bb4:1 | C5:4 | Cb5:2 Ab4:2 | G4:3 F4:1 | Eb4:4 |",
        (
            "Complete chords under the singer; the minor four moves two fingers.",
            "F stays on top as ninth and seventh, then Eb to the end.",
            "One stack of fourths serves one, three and four; the minor four bends it by two half steps.",
        ),
    ),
)
HEAD = """# Taste

What the engine plays for eleven progressions at three levels of skill, what a trained player says of it, and what was
tuned because of it. The tables are the engine's own: `python -m tools.taste` writes this page and a test compares it.

- Beginner: small hands (an octave, two notes left, three right), colour as written, octave bass or close chords.
- Band player: usual hands, ninths and sixths, the usual families, with the bass.
- Professional: large hands, thirteenths and altered, every family, with a bass player.

A change is written as semitones of all fingers and notes held. Notes are spelled for their chord.

## What was tuned because of this

- The eleventh of a minor chord came already with the ninths and crowded out the ninth: it now comes with the
  thirteenths, or where the ninth would leave the key (the chord on the third step).
- On that chord the ninth outside the key is no longer taken.
- A chord of the key no longer takes a raised fourth that leaves the key; dominants that stand in for others take it.
- Two seconds in a row in one hand were too cheap and gave thick middles: their price was doubled.
- A colour may not stand a half step from a written bass. Before, a minor chord over its major seventh had both sevenths.
- A chord over another bass than its root sounds its root: without it the name was another one.
- A triad that adds a sixth keeps its fifth, or it would be the minor triad a third below.
- Beside a bass player the left hand stays above C3.
- The singing top was too timid and the falling bass turned back: both prices were raised.
- A section that climbs did not: where any register moves, every register of the song counts more.

## What is left

- The band player's dominant on the first step of a blues doubles its root rather than taking a thirteenth, since that
  moves less. Asking for thirteenths (colour 3) or for rootless families brings it.
- With a bass player many professional answers are open four-note chords, as these move least; a player who wants five
  or six notes asks for families by name.
"""


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


def page() -> str:
    """The whole of docs/taste.md."""
    lines = [HEAD.rstrip()]
    for progression in PROGRESSIONS:
        lines.append(f"\n## {progression.name}")
        for (level, setup), words in zip(LEVELS.items(), progression.says, strict=True):
            lines += [f"\n**{level.capitalize()}.** {words}\n", "| chord | left | right | shape | change |"]
            lines += ["|---|---|---|---|---|", *hands_of(progression.chart, setup)]
    return "\n".join(lines) + "\n"


def main() -> None:
    """Write the page."""
    Path(__file__).parents[1].joinpath("docs", "taste.md").write_text(page(), encoding="utf-8")


if __name__ == "__main__":
    main()
