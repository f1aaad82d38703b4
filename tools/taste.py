"""Writes docs/taste.md: `python -m tools.taste`. Its words are ours, its notes the engine's."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from yellow_hinge.core.chart_text import parse_chart
from yellow_hinge.core.leading.lattice import Builder
from yellow_hinge.core.leading.setup import Setup
from yellow_hinge.core.leading.solution import Solution, solve_song
from yellow_hinge.core.timeline import timeline
from yellow_hinge.core.writing import write_symbol
from yellow_hinge.io.report import note_names

LEVELS = ("as written", "sevenths", "ninths", "thirteenths")


class Progression(NamedTuple):
    """A heading, its chart, what a trained player says of the hands, and who has the bass."""

    name: str
    chart: str
    says: str
    bass: str = "mine"


PROGRESSIONS = (
    Progression(
        "Pop in major",
        "key: A\n| A | E/G# | F#m7 | Dsus2 | A/C# | D | E7sus4 | A |",
        "The written basses stand, slash chords are whole, the suspended second keeps its 2. The sevenths are the key's "
        "own; over the inversions nothing is added but, at the ninths, a ninth.",
    ),
    Progression(
        "Pop in minor",
        "key: E minor\n| Em | C | G | D/F# | Em | Am | B7 | Em |",
        "The five darkens from the ninths on (b9), at the thirteenths it has its b13 instead of the fifth. The tonic "
        "takes its seventh, ninth or eleventh, never a sixth.",
    ),
    Progression(
        "Gospel turns",
        "key: Ab\n| Ab | Ab7/C | Db | Ddim7 | Ab/Eb | F7 | Bbm7 Eb7sus4 | Ab |",
        "The rising bass under a right hand that hardly stirs. F7 goes to minor and takes b13 late. A gospel player would "
        "fill the right hand up to an octave, and asks for four notes there.",
    ),
    Progression(
        "Minor two-five-ones",
        "key: G minor\n| Am7b5 | D7 | Gm | Cm7 | F7 | Bbmaj7 | D7alt | Gm6 |",
        "D7 toward minor takes b9, then b13; F7 toward major takes 9 and 13. The altered chord has an altered ninth and an "
        "altered fifth at every level. Nothing to correct.",
    ),
    Progression(
        "Rhythm changes bridge",
        "key: Bb\n| D7 | G7 | C7 | F7 | Bb6 |",
        "Dominants in a chain: 9 and 13 in turn, the second step's with a raised fourth. The inside falls by half steps.",
    ),
    Progression(
        "Blues",
        "key: C\n| C7 | F7 | C7 | Gm7 C7 | F7 | F#dim7 | C7 | A7 | Dm7 | G7 | C7 | G7 |",
        "One position for all of it. A7 goes to minor and has its b9. As written the right hand doubles the root, which is "
        "a beginner's sound; a player who wants shells asks for them.",
    ),
    Progression(
        "Plain hymn",
        "key: Eb\n| Eb | Bb7/D | Eb | Ab | Eb/Bb | Bb7 | Cm | Ab | Bb7 | Eb |",
        "As written it can be sung from: the third in the bass is not the only third that is heard. Four parts with an "
        "outer contrary line come with the manners. The higher levels are for other churches.",
    ),
    Progression(
        "Modal slash chords",
        "key: D dorian\n| Dm7 | C/D | Dm7 | G/D | F/G | Em7 | Dm7 |",
        "Over D the upper chords stay whole and the bass gets no third. The minor on the second step of C has its "
        "eleventh. At the ninths the hand moves by one finger a change.",
    ),
    Progression(
        "Rising bass with diminished",
        "key: F\n| F | F#dim7 | Gm7 | G#dim7 | F/A | Bb | Bdim7 | C7 | F |",
        "The diminished chords stay plain, as they should. The bass climbs by half steps under a hand that follows it.",
    ),
    Progression(
        "A line inside a minor chord",
        "key: A minor\n| Am | Am(maj7) | Am7 | Am6 | F | E7 | Am |",
        "No chord of the four doubles or anticipates the line at any level; the ninth on top is held through all of them. "
        "As written the line changes hands at the b7, where a player would keep it in one: inner lines are an intention to come.",
    ),
    Progression(
        "Waltz",
        "key: G\nmeter: 3/4\n| G | Em7 | Am7 | D7 | Bm7 | E7 | Am7 D7 | G |",
        "G before Em7 takes no sixth, so that the change is heard. E7 on its way to Am7 has b9, then b13 and #9, and "
        "the sharp ninth lies above the third.",
    ),
    Progression(
        "Slow six-eight",
        "key: D\nmeter: 6/8\n| D | F#7 | Bm7 | D7 | G | Gm6 | D/A A7 | D |",
        "The four turns minor by one finger. F#7 has its b13 at the thirteenths. Over A nothing but the ninth is added.",
    ),
    Progression(
        "Rhythm and blues ninths",
        "key: F\n| Bbmaj9 | Am7 | Gm9 | C9sus4 | Fmaj9 | Dm9 | Gm9 | C9sus4 |",
        "Ninths that are written sound at every level; the suspended dominant keeps its fourth. The half step between "
        "ninth and third in the middle is the sound of the style.",
    ),
    Progression(
        "One-chord vamp",
        "key: D dorian\n| Dm7 | Dm7 | G/D | Dm7 |",
        "One finger moves in all. Moving inside what lasts comes with the intentions.",
    ),
    Progression(
        "Falling fifths",
        "key: C\n| Em7 | A7 | Dm7 | G7 | Cmaj7 | Fmaj7 | Bm7b5 | E7 | Am |",
        "Common tones hold, guide tones fall. A7 goes to minor and stays without a bright ninth. The last E7 has b9 and b13.",
    ),
    Progression(
        "Two-five-one beside a bass player",
        "key: Bb\n| Cm7 | F7 | Bbmaj7 | G7 | Cm7 | F7 | Bb6 |",
        "Guide tones in the left, two notes in the right, one or two fingers a change: a pianist's two-handed comping. With a "
        "free right hand the left takes rootless forms that share their lower notes.",
        "theirs",
    ),
    Progression(
        "Tritones beside a bass player",
        "key: C\n| Dm7 | Db7 | Cmaj7 | Ebm7 Ab7 | Dm7 | G7alt | C6/9 |",
        "Dominants that stand in take 9 and 13, never altered notes. Both hands slide down by half steps.",
        "theirs",
    ),
    Progression(
        "Borrowed chords",
        "key: D\n| D | Bb | C | D | Gm | D/F# | Bb/C | D |",
        "Bb takes its major seventh, C its ninth and sixth, the minor four its sixth. Bb over C stays whole and has no "
        "third of C.",
    ),
    Progression(
        "Power and suspension",
        "key: E\n| E5 | Esus2 | A5 | Bsus4 B | C#m7 | Aadd9 | E |",
        "Power chords stay without a third, the suspended second without a fourth, at every level.",
    ),
    Progression(
        "With a tune",
        "key: G\n| G | E7 | Am7 | D7 | G | C | Am7 D7 | G |\n"
        "tune: | D5:2 B4:2 | B4:2 G#4:2 | C5:2 E5:2 | F#4:2 A4:2 | D5:2 G5:2 | E5:4 | C5:2 A4:2 | G4:4 |",
        "Where the tune ends on G the hands take no F sharp below it. No chord note beside the tune is called a clash.",
    ),
)

HEAD = """# Taste

What the engine plays for twenty progressions at the four colour levels with usual hands, and what a trained player says
of it after reading every line. The tables are the engine's own: `python -m tools.taste` writes this page and a test
compares it. A cell is the left hand, then the right; under each table stand the semitones of all fingers.

## What was changed because of this reading

- A chord with the major seventh had its root right above the seventh in one hand: that half step is priced by itself.
- Over an inversion a ninth came with the sevenths already: it comes with the ninths.
- A hand took the major seventh under a tune that ends on the root: half steps and minor ninths against the tune cost
  twice as much, and a major seventh apart is none.
- A minor chord's fifth step became augmented, a tonic took the sixth that makes it the next chord, a line inside a
  chord was doubled: colours go by what the chord does (`core/shapes/colours.toml`).
- A voicing is heard as its chord, or it is none (`core/identity.py`).
- The hands sank and the bass stayed low: each hand has a home of its own, the bass may climb to C4, and the right
  hand lies around E4.
- A sharp ninth lay right under the third: that is priced by itself.
- Beside a bass player a major seventh lay under its root in the other hand: minor ninths between the hands are three
  times as dear, and guide tones may have the third and the fifth above them.

## What is left

- Doubling is not priced by degree yet, and nobody asks for a number of notes unless the player does.
- In a falling bass the written chord is kept, and its bass line has fewer steps than before.
"""


def _cell(solution: Solution, index: int) -> str:
    voicing = solution.voicings[index]
    left, right = (" ".join(note_names(notes, voicing.chord)) for notes in (voicing.left, voicing.right))
    return f"{left or '-'} / {right or '-'}"


def _table(progression: Progression) -> list[str]:
    moments = timeline(parse_chart(progression.chart))
    found = [
        solve_song(Builder(), moments, Setup(bass="theirs" if progression.bass == "theirs" else "mine", colour=level))
        for level in range(len(LEVELS))
    ]
    lines = [f"| chord | {' | '.join(LEVELS)} |", "|---" * (len(LEVELS) + 1) + "|"]
    for index, voicing in enumerate(found[0].voicings):
        lines.append(f"| {write_symbol(voicing.chord)} | {' | '.join(_cell(each, index) for each in found)} |")
    lines.append(f"| semitones | {' | '.join(str(each.totals.motion) for each in found)} |")
    return lines


def page() -> str:
    """The page."""
    parts = [HEAD]
    for progression in PROGRESSIONS:
        parts.append("\n".join([f"## {progression.name}\n", f"{progression.says}\n", *_table(progression)]) + "\n")
    return "\n".join(parts)


if __name__ == "__main__":
    Path(__file__).parents[1].joinpath("docs", "taste.md").write_text(page(), encoding="utf-8")
