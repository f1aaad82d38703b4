"""Writes docs/taste.md: `python -m tools.taste`. Its words are ours, its notes the engine's."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from msgspec.structs import replace

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, as_asked, chosen_manner
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.documents.report import note_names

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
        "Octaves low, whole triads above under a top that stays or moves by a step. Slash chords are whole, the suspended second keeps its 2, nothing is added over an inversion.",
        "pop",
    ),
    Progression(
        "Pop in minor",
        "key: E minor\n| Em | C | G | D/F# | Em | Am | B7 | Em |",
        "An octave or a fifth low, triads that turn under a still top. D over F sharp as written has its root in the left hand; from the sevenths on the F sharp is in octaves and once more on top.",
        "pop",
    ),
    Progression(
        "Gospel turns",
        "key: Ab\n| Ab | Ab7/C | Db | Ddim7 | Ab/Eb | F7 | Bbm7 Eb7sus4 | Ab |",
        "The bass rises in octaves, four notes above climb with it and never leap. At the thirteenths F7 darkens on its way to minor; the slash chords stay plain.",
        "gospel",
    ),
    Progression(
        "Minor two-five-ones",
        "key: G minor\n| Am7b5 | D7 | Gm | Cm7 | F7 | Bbmaj7 | D7alt | Gm6 |",
        "Root and seventh, fifth or third below, three notes above. D7 toward minor darkens at the thirteenths, F7 toward major takes its 13. The altered chord is altered at every level. As written two roots lie an octave apart where D7 has no other low hand.",
        "jazz-alone",
    ),
    Progression(
        "Rhythm changes bridge",
        "key: Bb\n| D7 | G7 | C7 | F7 | Bb6 |",
        "Shells below, three notes above. At the ninths the C7 stays plain, since its thirteenth would leap; at the thirteenths every dominant has one.",
        "jazz-alone",
    ),
    Progression(
        "Blues",
        "key: C\n| C7 | F7 | C7 | Gm7 C7 | F7 | F#dim7 | C7 | A7 | Dm7 | G7 | C7 | G7 |",
        "Root and seventh, third or fifth, three notes above that hardly move. A7 goes to minor and has no bright ninth. From the ninths on the C7 is the same hand whenever it comes back to it.",
        "jazz-alone",
    ),
    Progression(
        "Plain hymn",
        "key: Eb\n| Eb | Bb7/D | Eb | Ab | Eb/Bb | Bb7 | Cm | Ab | Bb7 | Eb |",
        "Four parts, no fifths or octaves in a row, the seventh of the five falls. This can be sung from. The higher levels add sevenths, which are for other churches.",
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
        "Octaves climb by half steps under four notes that follow them; the diminished chords stay plain and C7 before the end thins out to three notes.",
        "gospel",
    ),
    Progression(
        "A line inside a minor chord",
        "key: A minor\n| Am | Am(maj7) | Am7 | Am6 | F | E7 | Am |",
        "The line A G sharp G F sharp stays in one voice at every level: the top as written, the left hand's thumb from the ninths on.",
        "solo-ballad",
    ),
    Progression(
        "Waltz",
        "key: G\nmeter: 3/4\n| G | Em7 | Am7 | D7 | Bm7 | E7 | Am7 D7 | G |",
        "A wide left hand, two notes above, a tune on top. At the thirteenths E7 takes b13 and #9 on its way to minor.",
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
        "Two notes below, four close ones above that nearly keep their shape. Written ninths sound at every level.",
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
        "Shells that change places, a tune on top by steps. A7 goes to minor; the last E7 has b9 and b13 at the thirteenths. Cmaj7 stays without its ninth, which the line does not reach.",
        "jazz-alone",
    ),
    Progression(
        "Two-five-one beside a bass player",
        "key: Bb\n| Cm7 | F7 | Bbmaj7 | G7 | Cm7 | F7 | Bb6 |",
        "Four notes that share all but one or two with their neighbours; with a root among them where nothing may be added, without one from the ninths on. The right hand is free.",
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
        "Bb over C stays whole, has no third and no fifth of C; the minor four stays plain in this manner.",
        "pop",
    ),
    Progression(
        "Power and suspension",
        "key: E\n| E5 | Esus2 | A5 | Bsus4 B | C#m7 | Aadd9 | E |",
        "Power chords stay without a third, the suspended second without a fourth, at every level; the top stays within a half step of E.",
        "pop",
    ),
    Progression(
        "With a tune",
        "key: G\n| G | E7 | Am7 | D7 | G | C | Am7 D7 | G |\n"
        "tune: | D5:2 B4:2 | B4:2 G#4:2 | C5:2 E5:2 | F#4:2 A4:2 | D5:2 G5:2 | E5:4 | C5:2 A4:2 | G4:4 |",
        "The tune is the top of four parts. Where it ends on G the hands take no F sharp below it.",
        "hymn",
    ),
    Progression(
        "Altered notes in the tune",
        "key: C\n| Dm7 | G7 | Cmaj7 | A7 | Dm7 | G7 | C6 |\n"
        "tune: | F4:2 A4:2 | Ab4:3 G4:1 | B4:2 G4:2 | C#5:2 A4:2 | C5:4 | Eb5:2 D5:2 | A4:4 |",
        "Over a sung Ab no A, over a sung Eb no E and no D: the hands take the tune's colour or none. A7 under its own third keeps the fifth or its flat thirteenth, never both.",
        "jazz-alone",
    ),
    Progression(
        "A fourth in the tune",
        "key: C\n| C | G7 | C | F | D7 | G7sus4 G7 | C |\n"
        "tune: | F4:2 E4:2 | C5:3 B4:1 | G4:4 | A4:2 Bb4:2 | G4:2 F#4:2 | C5:2 B4:2 | C5:4 |",
        "Where the fourth is sung the third leaves: C, G7 and D7 are suspended until the tune resolves. F keeps its third, since the tune sings that first.",
        "gospel",
    ),
    Progression(
        "A tune over a falling bass",
        "key: F\n| F | F/E | Dm | Dm/C | Bb | F/A | Gm7 C7 | F |\n"
        "tune: | A4:2 C5:2 | A4:2 G4:2 | F4:2 A4:2 | A4:4 | D5:2 Bb4:2 | C5:2 A4:2 | Bb4:2 G4:2 | F4:4 |",
        "The written line F E D C B flat A G stays in its octave under a fifth and an octave; the two upper notes are the tune and one chord note.",
        "solo-ballad",
    ),
    Progression(
        "A tune in three",
        "key: Bb\nmeter: 3/4\n| Bb | Gm | Eb | F7 | Bb/D | Eb | Cm7 F7 | Bb |\n"
        "tune: | D5:2 C5:1 | Bb4:3 | G4:2 Bb4:1 | A4:3 | F5:2 D5:1 | Eb5:3 | C5:2 A4:1 | Bb4:3 |",
        "The tune is free here, so the hands keep a still top of their own a third or a sixth beside it.",
        "pop",
    ),
    Progression(
        "A minor hymn with suspensions",
        "key: D minor\n| Dm | Gm | Asus4 A | Dm | Bb | C7 | F | Em7b5 A7 | Dm |\n"
        "tune: | A4:2 F4:2 | G4:2 Bb4:2 | D5:2 C#5:2 | D5:4 | D5:2 F5:2 | F5:2 E5:2 | F5:4 | D5:2 C#5:2 | D5:4 |",
        "The suspensions over A, C7 and A7 are four parts with the fourth in the top voice and no third below it until it falls.",
        "hymn",
    ),
    Progression(
        "A tune over a groove in minor",
        "key: A minor\n| Am7 | D9 | Am7 | D9 | Fmaj7 | Em7 | Dm7 | E7sus4 E7 |\n"
        "tune: | C5:2 E5:2 | F#5:4 | E5:2 C5:2 | B4:4 | A4:2 C5:2 | B4:2 G4:2 | F4:2 A4:2 | A4:2 G#4:2 |",
        "Four close notes on one shape. Under the sung C no B is added; where nothing may be added the seventh chord is played whole instead.",
        "rhythm-and-blues",
    ),
    Progression(
        "A tune in dorian",
        "key: G dorian\n| Gm7 | C7 | Gm7 | F/G | Bbmaj7 | Am7 | Dm7 | Gm7 |\n"
        "tune: | D5:4 | E5:2 Bb4:2 | A4:2 Bb4:2 | C5:4 | D5:2 F5:2 | E5:4 | F5:2 A4:2 | Bb4:4 |",
        "Guide notes as written, fourths from the ninths on. At the thirteenths F over G climbs higher than one would like: all of F has to lie in fourths above.",
        "modal",
    ),
    Progression(
        "Rhythm section under a tune",
        "key: Eb\n| Ebmaj7 | C7 | Fm7 | Bb7 | Gm7 | C7b9 | Fm7 Bb7 | Eb6 |\n"
        "tune: | G4:2 Bb4:2 | Bb4:2 G4:2 | Ab4:2 C5:2 | D5:4 | F5:2 D5:2 | Db5:2 Bb4:2 | C5:2 Ab4:2 | G4:4 |",
        "Hands that move by a note or two under a tune that somebody else has. A sung fifth keeps the flat thirteenth out, a sung root keeps its seventh a whole step off.",
        "jazz-with-bass",
    ),
    Progression(
        "A waltz with its tune",
        "key: G\nmeter: 3/4\n| Gmaj7 | Em7 | Am7 | D7 | Bm7 | E7b9 | Am7 D7 | G6 |\n"
        "tune: | B4:2 D5:1 | G5:3 | E5:2 C5:1 | A4:3 | F#5:2 D5:1 | F5:2 E5:1 | C5:2 A4:1 | B4:3 |",
        "The tune on top, a wide left hand, one note between them, two where the tune leaves room. Under a sung F the E7 has its flat ninth from the tune alone.",
        "solo-ballad",
    ),
    Progression(
        "A gospel close",
        "key: Bb\n| Bb | Bb7/D | Eb | Edim7 | Bb/F | G7 | Cm7 F7sus4 | Bb Eb/Bb | Bb |\n"
        "tune: | D5:4 | F5:2 Ab5:2 | G5:4 | Bb5:2 G5:2 | F5:4 | F5:2 D5:2 | Eb5:2 Bb4:2 | D5:2 G5:2 | F5:4 |",
        "Full hands under a high tune; the diminished chord climbs in octaves, the close has the four over the one's bass.",
        "gospel",
    ),
)

HEAD = """# Taste

What the engine plays for thirty progressions, eleven of them with a tune, at the four colour levels, each in the manner that fits it, and what a trained player says
of it after reading every line. The tables are the engine's own: `python -m tools.taste` writes this page and a test
compares it. A cell is the left hand, then the right; under each table stand the semitones of all fingers.

## What was changed because of this reading

- A low third or a half step between the hands won where it moved less: both are filters, and what is flagged muddy is
  dear. A stepwise bass was played as a seventh or a ninth: it keeps its octave.
- The tune rubbed against colours that nobody wrote: what lies a half step under it, and another form of what it sings,
  leaves the palette. A sung fourth takes the third out of the chord; a sung fifth keeps the flat thirteenth out.
- Too few hands made a manner leap or change its size: every chord has several in every manner (a test), and those
  without colour serve only where none may be added.
- A wide left hand had close triads, shells had octaves, a chord over another bass had that bass's fifth: out.
- A line inside a held chord changed its voice: it stays in its strand, also in the left hand.
- Regions were coloured in the song's key: two and five of another key take that one's.
- A suspension lost its ninth for the sake of the third beside it.
- Sliding manners moved twice as far as need be: they lean on the shape.

## What one would still not play

- Plain jazz hands as written have a doubled root now and then; one would take the ninth without being asked.
- Half-diminished chords and the minor chord on three mostly stay without colour: the key has only the eleventh.
- At the thirteenths modal hands climb for a triad over another bass and come down again.
- The colours hear the chord that follows, not the one before; a long chord is moved inside only where it is written twice.
- A still top lies a third below a free tune as often as a sixth: it does not listen to it beyond rubs.
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
