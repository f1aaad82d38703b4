"""The recipes of substitutes, by the id of their kind."""

from __future__ import annotations

from yellow_hinge.core.reharm.kinds.recipes import (
    Recipe,
    bare,
    bare_five,
    ends,
    in_major,
    in_minor,
    lands,
    lands_major,
    lands_minor,
    long,
    long_major,
    long_minor,
    one_or_four,
    plain_major,
    strong_goal,
)

RECIPES: dict[str, tuple[Recipe, ...]] = {
    "six-four": (
        Recipe(
            "5D",
            "1",
            ("A/5 H",),
            "one over five holds the cadence back; two voices fall into the five",
            "after",
            needs=bare_five,
        ),
    ),
    "five-over": (
        Recipe(
            "5D",
            "1M",
            ("4/5", "2m7/5", "4/5 H", "2m7/5 H"),
            "the five's bass under four or two: it leads without its third",
            "after",
            needs=lands_major,
        ),
        Recipe(
            "5D",
            "1m",
            ("2m7b5/5", "4m/5"),
            "the five's bass under two or four: it leads without its third",
            "after",
            needs=lands_minor,
        ),
    ),
    "altered": (
        Recipe(
            "5D",
            "1m",
            ("57b9", "57b9b13", "57#9", "57alt"),
            "altered as its minor goal has it: the flat nine leads down",
            "after",
            needs=lands_minor,
        ),
        Recipe(
            "5D",
            "1M",
            ("57b9", "513b9", "57#9", "57#9#5", "57b13"),
            "a tone of the five bent by a half step leads into the one",
            "after",
            needs=lands_major,
        ),
    ),
    "minor-four-six": (
        Recipe(
            "5D",
            "1",
            ("4m6",),
            "minor four with its sixth in place of the five: home by a soft step",
            "after",
            needs=lands,
        ),
    ),
    "flat-two": (
        Recipe(
            "5D",
            "1M",
            ("b2maj7",),
            "the flat second's major seventh slides down into the one",
            "after",
            needs=lands_major,
        ),
    ),
    "flat-six-seven": (
        Recipe(
            "5D",
            "1M",
            ("b6 b7",),
            "flat six and flat seven climb into the one by whole steps",
            "after",
            needs=lands_major,
        ),
    ),
    "plagal": (Recipe("1M", "", ("4/1 H",), "four over one falls back into the one", needs=plain_major),),
    "common-tone": (
        Recipe("1M", "", ("1dim7 H",), "a diminished seventh on the same root opens into the one", needs=long),
    ),
    "four-minor": (
        Recipe(
            "4M",
            "1 3m 5",
            ("H 4m", "H 4m6"),
            "four turns minor on its way home; its third falls by a half step",
            needs=in_major,
        ),
    ),
    "sharp-four": (
        Recipe("4M 2m", "5", ("#4m7b5",), "the raised four's half-diminished leads up into the five"),
        Recipe("4M", "5 1", ("H #4m7b5",), "the bass climbs through the raised four", needs=bare),
        Recipe(
            "1M 6m",
            "4M",
            ("H #4m7b5",),
            "the raised four's half-diminished falls a half step into the four",
            share="late",
        ),
    ),
    "mediant": (
        Recipe(
            "1M",
            "",
            ("b6", "3"),
            "a major chord a major third away; one note stays",
            "here",
            needs=one_or_four,
        ),
    ),
    "picardy": (Recipe("1m", "", ("1",), "the last chord of a minor song lit up in major", needs=ends),),
    "dorian-four": (
        Recipe("4m", "", ("4", "47"), "the four of the dorian mode: its third is a half step higher", needs=in_minor),
    ),
    "neapolitan": (
        Recipe("2m 4m 4M 2", "5", ("b2/4",), "the flat second over the four leads into the five", needs=strong_goal),
    ),
    "augmented": (
        Recipe(
            "2m 2 4 4m b6 6m",
            "5",
            ("b67",),
            "the flat six as a seventh chord closes in on the five from both sides",
            needs=strong_goal,
        ),
    ),
    "parallel": (
        Recipe(
            "1m",
            "",
            ("1", "2/1"),
            "the tonic in its major mode, or its second step over the same bass",
            needs=long_minor,
        ),
        Recipe("1M", "", ("1m",), "the tonic in its minor mode", needs=long_major),
    ),
    "over-pedal": (Recipe("1", "", ("H 2/1", "H b2/1"), "a major chord moves over the one's bass", needs=long),),
    "walk-down": (
        Recipe("1M", "6m", ("H 5/7",), "the bass walks down over seven to six", needs=plain_major),
        Recipe(
            "1M",
            "4M",
            ("H 5/7 6m 6m/5", "H 5/7 6m"),
            "the bass walks down from one over seven and six to four",
            needs=plain_major,
        ),
    ),
    "walk-up": (
        Recipe(
            "1M",
            "4M",
            ("H 2m7 1/3", "H 1/3"),
            "the bass walks up from one over two and three to four",
            needs=plain_major,
        ),
    ),
    "steps": (
        Recipe(
            "1M", "4M", ("1maj7 2m7 3m7",), "seventh chords of the key climb by step to the four", needs=plain_major
        ),
        Recipe(
            "4M", "1M", ("4maj7 3m7 2m7",), "seventh chords of the key go down by step to the one", needs=plain_major
        ),
    ),
    "planing": (
        Recipe(
            "1m",
            "",
            ("1m9 b2m9 1m9", "b2m9 1m9"),
            "the minor ninth moves as a block a half step up and back",
            "here",
            needs=bare,
        ),
    ),
    "turnaround": (
        Recipe(
            "1M",
            "1M",
            (
                "1 6m7 2m7 57",
                "1 67 2m7 57",
                "1 #1dim7 2m7 57",
                "1 b3dim7 2m7 57",
                "3m7 67 2m7 57",
                "1maj7 b3maj7 b6maj7 b2maj7",
            ),
            "round through six, two and five, back to the one",
            needs=in_major,
        ),
        Recipe(
            "1m",
            "1m",
            ("1m 6m7b5 2m7b5 57b9", "1m b67 2m7b5 57b9"),
            "round through six, two and five, back to the one",
            needs=in_minor,
        ),
    ),
    "tag": (
        Recipe(
            "2m 5D", "1M", ("3m7 67 2m7 57",), "the ending held back: three, six, two, five, then one", needs=in_major
        ),
    ),
}
