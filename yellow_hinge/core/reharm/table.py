"""The substitute table: every kind with its name, how bold it is, what it does and what it counts on."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Literal, NamedTuple

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.reharm import makers as m
from yellow_hinge.core.reharm import routes as r
from yellow_hinge.core.reharm.context import Context, Idea, last_beat, parts
from yellow_hinge.core.reharm.recipes import RECIPES, cook

Group = Literal["place", "way", "inside", "home", "routes"]
# What a swap does, in the order in which a player looks for it.
GROUPS: dict[Group, str] = {
    "place": "Another chord in its place",
    "home": "Another way home",
    "way": "On the way to the next chord",
    "inside": "Moving inside the chord",
    "routes": "Routes over several chords",
}


class Kind(NamedTuple):
    """A row of the table. `boldness` 1 colours and inversions, 2 twos and secondary dominants, 3 tritone, backdoor,
    borrowed, diminished, 4 leading-tone, mode shifts, chains. `group` is what it does. `before` and `after`: it counts
    on the neighbour that is there, by its root and bass or as the very chord.
    """

    id: str
    name: str
    boldness: int
    make: Callable[[Context], Iterator[Idea]]
    group: Group = "place"
    before: Literal["", "root"] = ""
    after: Literal["", "root", "chord"] = ""


def _of(name: str) -> Callable[[Context], Iterator[Idea]]:
    return cook(RECIPES[name])


TABLE: tuple[Kind, ...] = (
    Kind("colour", "More colour", 1, m.colour),
    Kind("inversion", "Inversion for the bass", 1, m.inversion, before="root", after="root"),
    Kind("suspend", "Suspend and resolve", 1, m.suspend, "inside"),
    Kind("upper", "Upper chord over the root", 1, m.upper_over_root),
    Kind("pedal", "Pedal", 1, m.pedal, before="root", after="root"),
    Kind("cliche", "Line inside the chord", 1, r.cliche, "inside"),
    Kind("plagal", "Four over one", 1, _of("plagal"), "inside"),
    Kind("walk", "Bass walk", 1, r.bass_walk, "way", after="root"),
    Kind("walk-down", "Walk down", 1, _of("walk-down"), "way", after="root"),
    Kind("walk-up", "Walk up", 1, _of("walk-up"), "way", after="root"),
    Kind("steps", "Climbing by step", 1, _of("steps"), "way", after="root"),
    Kind("two", "Its own two", 2, m.its_two, "way", before="root"),
    Kind("secondary", "Secondary dominant", 2, m.secondary, "way", after="root"),
    Kind("secondary-third", "Secondary dominant over its third", 2, m.secondary_third, "way", after="root"),
    Kind("dominant", "Dominant for minor", 2, m.minor_to_dominant, after="root"),
    Kind("relative", "Relative", 2, m.relative),
    Kind("dark-slash", "Dark slash", 2, m.dark_slash, "way", after="root"),
    Kind("six-four", "One over five", 2, _of("six-four"), "home", after="root"),
    Kind("five-over", "Four or two over five", 2, _of("five-over"), "home", after="root"),
    Kind("four-minor", "Four turns minor", 2, _of("four-minor"), "inside", after="root"),
    Kind("sharp-four", "Raised four", 3, _of("sharp-four"), "way", after="root"),
    Kind("tritone", "Tritone", 3, m.tritone, after="root"),
    Kind("altered", "Altered five", 3, _of("altered"), after="root"),
    Kind("backdoor", "Backdoor", 3, m.backdoor, "home", after="root"),
    Kind("minor-four-six", "Minor four for five", 3, _of("minor-four-six"), "home", after="root"),
    Kind("borrowed", "Borrowed", 3, m.borrowed),
    Kind("dorian-four", "Dorian four", 3, _of("dorian-four")),
    Kind("picardy", "Major ending", 3, _of("picardy"), "home"),
    Kind("diminished", "Passing diminished", 3, m.diminished, "way", after="root"),
    Kind("common-tone", "Common-tone diminished", 3, _of("common-tone"), "inside"),
    Kind("approach", "Chromatic approach", 3, m.approach, "way", after="chord"),
    Kind("deceptive", "Deceptive", 3, m.deceptive, "home", before="root"),
    Kind("flat-two", "Flat two", 3, _of("flat-two"), "home", after="root"),
    Kind("flat-six-seven", "Flat six and seven", 3, _of("flat-six-seven"), "home", after="root"),
    Kind("neapolitan", "Flat two over four", 3, _of("neapolitan"), after="root"),
    Kind("augmented", "Flat six seventh", 3, _of("augmented"), after="root"),
    Kind("leading-tone", "Leading-tone dominant", 4, m.leading_tone, "home", after="root"),
    Kind("mode", "Parallel mode shift", 4, m.mode_shift, "inside", before="root"),
    Kind("parallel", "The tonic's other mode", 4, _of("parallel")),
    Kind("over-pedal", "Major chords over the one", 4, _of("over-pedal"), "inside"),
    Kind("mediant", "Major third away", 4, _of("mediant")),
    Kind("slide", "Slide", 4, m.slide, "inside"),
    Kind("planing", "Ninths in a block", 4, _of("planing"), "inside"),
    Kind("pedal-through", "Pedal through", 1, r.pedal_through, "routes"),
    Kind("bass-line", "Bass line", 1, r.bass_line, "routes"),
    Kind("two-fives", "Two-fives", 2, r.two_fives, "routes", after="root"),
    Kind("half-step-two-fives", "Two-fives by half steps", 3, r.half_step_two_fives, "routes", after="root"),
    Kind("turnaround", "Turnaround", 2, r.round_trips, "routes", after="root"),
    Kind("tag", "Ending held back", 2, _of("tag"), "routes", after="root"),
    Kind("fifths", "Falling fifths", 4, r.falling_fifths, "routes", after="root"),
)


def shares(idea: Idea, scene: Context) -> tuple[Fraction, ...] | None:
    """The beats of an idea's chords, or None where there is no time for them."""
    if idea.share == "each":
        return (scene.beats, *(each.beats for each in scene.ahead[: idea.span - 1]))
    window = scene if idea.span == 1 else scene.window(idea.span)
    if window is None:
        return None
    return last_beat(window) if idea.share == "late" else parts(window, len(idea.chords))


class Slots(NamedTuple):
    """What stands in each of the written chords that an idea takes the place of: chords, their beats, and which of the
    idea's chords each is.
    """

    chords: tuple[tuple[Chord, ...], ...]
    beats: tuple[tuple[Fraction, ...], ...]
    places: tuple[tuple[int, ...], ...]


def in_slots(chords: tuple[Chord, ...], beats: tuple[Fraction, ...], written: tuple[Fraction, ...]) -> Slots:
    """Chords with their beats, shared among written chords of so many beats; one that goes on over the end of a
    written chord is written in the next one again.
    """
    lengths, at = list(beats), 0
    made: list[list[tuple[int, Fraction]]] = []
    for room in written:
        made.append([])
        while room > 0:
            taken = min(lengths[at], room)
            made[-1].append((at, taken))
            room -= taken
            lengths[at] -= taken
            at += lengths[at] == 0
    places = tuple(tuple(place for place, _ in slot) for slot in made)
    named = tuple(tuple(chords[place] for place in slot) for slot in places)
    return Slots(named, tuple(tuple(length for _, length in slot) for slot in made), places)
