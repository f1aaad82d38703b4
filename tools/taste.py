"""Writes docs/taste.md: `python -m tools.taste`. Its words are ours, its notes the engine's."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.manners import manners
from yellow_hinge.core.leading.setup import Setup, as_asked, chosen_manner
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.timeline import timeline
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.report import note_names

LEVELS = ("as written", "sevenths", "ninths", "thirteenths")


class Progression(NamedTuple):
    """A heading, its chart, what a trained player says of the hands, and the manner that fits it."""

    name: str
    chart: str
    says: str
    manner: str


PROGRESSIONS = (
    Progression(
        "Pop in major",
        "key: A\n| A | E/G# | F#m7 | Dsus2 | A/C# | D | E7sus4 | A |",
        "Octaves or a fifth low, whole triads above, the top within a step of where it was. Slash chords are whole, the suspended second keeps its 2, nothing is added over an inversion.",
        "pop",
    ),
    Progression(
        "Pop in minor",
        "key: E minor\n| Em | C | G | D/F# | Em | Am | B7 | Em |",
        "The left hand is an octave or a fifth, the right hand turns its triads under a still top. D over F sharp has its root in the left hand rather than its third twice.",
        "pop",
    ),
    Progression(
        "Gospel turns",
        "key: Ab\n| Ab | Ab7/C | Db | Ddim7 | Ab/Eb | F7 | Bbm7 Eb7sus4 | Ab |",
        "The bass rises in octaves, the right hand fills up to four notes and its top climbs like a tune. At the thirteenths F7 darkens and the top stays within the octave; the ninths ask for the longest way.",
        "gospel",
    ),
    Progression(
        "Minor two-five-ones",
        "key: G minor\n| Am7b5 | D7 | Gm | Cm7 | F7 | Bbmaj7 | D7alt | Gm6 |",
        "Root and seventh below, the rest above. D7 toward minor darkens at the thirteenths, F7 toward major has 9 and 13. The altered chord is altered at every level.",
        "jazz-alone",
    ),
    Progression(
        "Rhythm changes bridge",
        "key: Bb\n| D7 | G7 | C7 | F7 | Bb6 |",
        "Shells with 9 and 13 at the thirteenths. At the ninths G7 and C7 stay plain, since the hands find none without a leap.",
        "jazz-alone",
    ),
    Progression(
        "Blues",
        "key: C\n| C7 | F7 | C7 | Gm7 C7 | F7 | F#dim7 | C7 | A7 | Dm7 | G7 | C7 | G7 |",
        "Root and seventh or fifth, three notes above. A7 goes to minor and has no bright ninth.",
        "jazz-alone",
    ),
    Progression(
        "Plain hymn",
        "key: Eb\n| Eb | Bb7/D | Eb | Ab | Eb/Bb | Bb7 | Cm | Ab | Bb7 | Eb |",
        "Four parts, no fifths or octaves in a row, the seventh of the five falls. This can be sung from. The higher levels are for other churches.",
        "hymn",
    ),
    Progression(
        "Modal slash chords",
        "key: D dorian\n| Dm7 | C/D | Dm7 | G/D | F/G | Em7 | Dm7 |",
        "As written whole triads over open fifths; from the ninths on fourths that slide along the key. Over D the upper chords stay whole.",
        "modal",
    ),
    Progression(
        "Rising bass with diminished",
        "key: F\n| F | F#dim7 | Gm7 | G#dim7 | F/A | Bb | Bdim7 | C7 | F |",
        "Octaves climb by half steps under four notes that follow them; the diminished chords stay plain.",
        "gospel",
    ),
    Progression(
        "A line inside a minor chord",
        "key: A minor\n| Am | Am(maj7) | Am7 | Am6 | F | E7 | Am |",
        "The line A G sharp G F sharp stays in one voice as written and with sevenths, the top; from the ninths it goes on in the left hand at Am7.",
        "solo-ballad",
    ),
    Progression(
        "Waltz",
        "key: G\nmeter: 3/4\n| G | Em7 | Am7 | D7 | Bm7 | E7 | Am7 D7 | G |",
        "A wide left hand, two or three notes above, a tune on top. E7 on its way to Am7 stays without a bright ninth.",
        "solo-ballad",
    ),
    Progression(
        "Slow six-eight",
        "key: D\nmeter: 6/8\n| D | F#7 | Bm7 | D7 | G | Gm6 | D/A A7 | D |",
        "The four turns minor by one finger. Over A nothing is added.",
        "pop",
    ),
    Progression(
        "Rhythm and blues ninths",
        "key: F\n| Bbmaj9 | Am7 | Gm9 | C9sus4 | Fmaj9 | Dm9 | Gm9 | C9sus4 |",
        "Two notes below, four close ones above that keep their shape where the chords allow it. Written ninths sound at every level.",
        "rhythm-and-blues",
    ),
    Progression(
        "One-chord vamp",
        "key: D dorian\n| Dm7 | Dm7 | G/D | Dm7 |",
        "The shape stays on Dm7 and turns once. Vary what repeats moves it inside.",
        "modal",
    ),
    Progression(
        "Falling fifths",
        "key: C\n| Em7 | A7 | Dm7 | G7 | Cmaj7 | Fmaj7 | Bm7b5 | E7 | Am |",
        "Shells that change places, a tune on top by steps. A7 goes to minor; the last E7 has b9 and b13 at the thirteenths.",
        "jazz-alone",
    ),
    Progression(
        "Two-five-one beside a bass player",
        "key: Bb\n| Cm7 | F7 | Bbmaj7 | G7 | Cm7 | F7 | Bb6 |",
        "Rootless forms that share their lower notes, four notes from the ninths on; plain chords have three. The right hand is free.",
        "jazz-with-bass",
    ),
    Progression(
        "Tritones beside a bass player",
        "key: C\n| Dm7 | Db7 | Cmaj7 | Ebm7 Ab7 | Dm7 | G7alt | C6/9 |",
        "Dominants that stand in take 9 and 13, never altered notes; the left hand slides down by half steps.",
        "jazz-with-bass",
    ),
    Progression(
        "Borrowed chords",
        "key: D\n| D | Bb | C | D | Gm | D/F# | Bb/C | D |",
        "Bb over C stays whole and has no third of C; the minor four stays plain in this manner.",
        "pop",
    ),
    Progression(
        "Power and suspension",
        "key: E\n| E5 | Esus2 | A5 | Bsus4 B | C#m7 | Aadd9 | E |",
        "Power chords stay without a third, the suspended second without a fourth, at every level; the top E is held through all of it.",
        "pop",
    ),
    Progression(
        "With a tune",
        "key: G\n| G | E7 | Am7 | D7 | G | C | Am7 D7 | G |\n"
        "tune: | D5:2 B4:2 | B4:2 G#4:2 | C5:2 E5:2 | F#4:2 A4:2 | D5:2 G5:2 | E5:4 | C5:2 A4:2 | G4:4 |",
        "The tune is the top of four parts. Where it ends on G the hands take no F sharp below it.",
        "hymn",
    ),
)

HEAD = """# Taste

What the engine plays for twenty progressions at the four colour levels, each in the manner that fits it, and what a trained player says
of it after reading every line. The tables are the engine's own: `python -m tools.taste` writes this page and a test
compares it. A cell is the left hand, then the right; under each table stand the semitones of all fingers.

## What was changed because of this reading

- The hands were those of nobody in particular: each progression is played in the manner that fits it, and every manner
  has hands, sizes, registers and prices of its own (`manners.toml`, `hands.toml`, `doubling.toml`).
- A third in the bass was doubled three times; notes that sound twice are priced by their degree.
- Smoothest was beaten by other styles: it pays for motion first and a part of everything else.
- The bass of Smoothest drifted up to A3 under a right hand around C4: its home counts in full.
- A dominant toward major took a triad with the flat ninth at the thirteenths: toward major only the second step's.
- Seconds and fourths low down were too cheap.
- Jazz hands left their colours out where that moved less: a manner says how much bareness costs.
- A singing top went to and fro between two notes: the line is chosen as a tune first (`singing.py`).

## What is left

- At the thirteenths a gospel tune climbs until it must fall.
- The colours hear the chord that follows, not the one before.
- A long chord is moved inside only where it is written twice.
"""


def _cell(solution: Solution, index: int) -> str:
    voicing = solution.voicings[index]
    left, right = (" ".join(note_names(notes, voicing.chord)) for notes in (voicing.left, voicing.right))
    return f"{left or '-'} / {right or '-'}"


def _table(progression: Progression) -> list[str]:
    song = parse_chart(progression.chart)
    moments, setup = timeline(song), as_asked(chosen_manner(Setup(), progression.manner), song)
    found = [solve_song(Builder(), moments, replace(setup, colour=level)) for level in range(len(LEVELS))]
    lines = [f"| chord | {' | '.join(LEVELS)} |", "|---" * (len(LEVELS) + 1) + "|"]
    for index, voicing in enumerate(found[0].voicings):
        lines.append(f"| {write_symbol(voicing.chord)} | {' | '.join(_cell(each, index) for each in found)} |")
    lines.append(f"| semitones | {' | '.join(str(each.totals.motion) for each in found)} |")
    return lines


def page() -> str:
    """The page."""
    parts = [HEAD]
    for progression in PROGRESSIONS:
        parts.append(
            "\n".join(
                [
                    f"## {progression.name}\n",
                    f"*{manners()[progression.manner].name}.* {progression.says}\n",
                    *_table(progression),
                ]
            )
            + "\n"
        )
    return "\n".join(parts)


if __name__ == "__main__":
    Path(__file__).parents[1].joinpath("docs", "taste.md").write_text(page(), encoding="utf-8")
