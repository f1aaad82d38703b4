"""The substitute table: every kind with its name, how bold it is, what it does and what it counts on."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction
from typing import Literal, NamedTuple

from yellow_hinge.core.reharm.context import Context, Idea, last_beat, parts
from yellow_hinge.core.reharm.kinds import bass_makers as b
from yellow_hinge.core.reharm.kinds import makers as m
from yellow_hinge.core.reharm.kinds import routes as r
from yellow_hinge.core.reharm.kinds.bass_walks import bass_walk
from yellow_hinge.core.reharm.kinds.recipe_table import RECIPES
from yellow_hinge.core.reharm.kinds.recipes import cook
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.tables import Entries

Level = Literal["high", "medium", "low", "never"]
Group = Literal["place", "way", "inside", "home", "routes"]
# What a swap does, in the order in which a player looks for it.
GROUPS: dict[Group, str] = {
    "place": "Another chord in its place",
    "home": "Another way home",
    "way": "On the way to the next chord",
    "inside": "Moving inside the chord",
    "routes": "Routes over several chords",
}


class Substitute(NamedTuple):
    """A row of the table. `boldness` 1 colours and inversions, 2 twos and secondary dominants, 3 tritone, backdoor,
    borrowed, diminished, 4 leading-tone, mode shifts, chains. `group` is what it does. `before` and `after`: it counts
    on the neighbour that is there, by its root and bass or as the very chord. `share`: a song bears one of it in so
    many bars, 0 for as many as come. `likes`: how much manners like it that say nothing of it in their own entries.
    `mine`: it lies on the player's shelf, and comes first.
    """

    id: str
    name: str
    boldness: int
    make: Callable[[Context], Iterator[Idea]]
    group: Group = "place"
    before: Literal["", "root"] = ""
    after: Literal["", "root", "chord"] = ""
    share: int = 0
    likes: tuple[tuple[str, Level], ...] = ()
    mine: bool = False


def _of(name: str) -> Callable[[Context], Iterator[Idea]]:
    return cook(RECIPES[name])


_SHIPPED: tuple[Substitute, ...] = (
    Substitute("colour", "More colour", 1, m.colour),
    Substitute("inversion", "Inversion for the bass", 1, b.inversion, before="root", after="root"),
    Substitute("suspend", "Suspend and resolve", 1, m.suspend, "inside", share=3),
    Substitute("upper", "Upper chord over the root", 1, b.upper_over_root, share=3),
    Substitute("pedal", "Pedal", 1, b.pedal, before="root", after="root", share=4),
    Substitute("cliche", "Line inside the chord", 1, r.cliche, "inside", share=12),
    Substitute("plagal", "Four over one", 1, _of("plagal"), "inside", share=8),
    Substitute("walk", "Bass walk", 1, bass_walk, "way", after="root"),
    Substitute("walk-down", "Walk down", 1, _of("walk-down"), "way", after="root"),
    Substitute("walk-up", "Walk up", 1, _of("walk-up"), "way", after="root"),
    Substitute("steps", "Climbing by step", 1, _of("steps"), "way", after="root"),
    Substitute("two", "Its own two", 2, m.its_two, "way", before="root", share=3),
    Substitute("secondary", "Secondary dominant", 2, m.secondary, "way", after="root", share=3),
    Substitute(
        "secondary-third", "Secondary dominant over its third", 2, m.secondary_third, "way", after="root", share=4
    ),
    Substitute("dominant", "Dominant for minor", 2, m.minor_to_dominant, after="root", share=4),
    Substitute("relative", "Relative", 2, m.relative, share=8),
    Substitute("dark-slash", "Dark slash", 2, b.dark_slash, "way", after="root"),
    Substitute("six-four", "One over five", 2, _of("six-four"), "home", after="root", share=4),
    Substitute("five-over", "Four or two over five", 2, _of("five-over"), "home", after="root", share=4),
    Substitute("four-minor", "Four turns minor", 2, _of("four-minor"), "inside", after="root", share=8),
    Substitute("sharp-four", "Raised four", 3, _of("sharp-four"), "way", after="root", share=8),
    Substitute("tritone", "Tritone", 3, m.tritone, after="root", share=4),
    Substitute("altered", "Altered five", 3, _of("altered"), after="root", share=3),
    Substitute("backdoor", "Backdoor", 3, m.backdoor, "home", after="root", share=8),
    Substitute("minor-four-six", "Minor four for five", 3, _of("minor-four-six"), "home", after="root", share=12),
    Substitute("borrowed", "Borrowed", 3, m.borrowed, share=4),
    Substitute("dorian-four", "Dorian four", 3, _of("dorian-four")),
    Substitute("picardy", "Major ending", 3, _of("picardy"), "home", share=32),
    Substitute("diminished", "Passing diminished", 3, m.diminished, "way", after="root", share=4),
    Substitute("common-tone", "Common-tone diminished", 3, _of("common-tone"), "inside", share=8),
    Substitute("approach", "Chromatic approach", 3, m.approach, "way", after="chord", share=6),
    Substitute("deceptive", "Deceptive", 3, b.deceptive, "home", before="root", share=8),
    Substitute("flat-two", "Flat two", 3, _of("flat-two"), "home", after="root", share=12),
    Substitute("flat-six-seven", "Flat six and seven", 3, _of("flat-six-seven"), "home", after="root", share=12),
    Substitute("neapolitan", "Flat two over four", 3, _of("neapolitan"), after="root", share=16),
    Substitute("augmented", "Flat six seventh", 3, _of("augmented"), after="root", share=16),
    Substitute("leading-tone", "Leading-tone dominant", 4, m.leading_tone, "home", after="root", share=8),
    Substitute("mode", "Parallel mode shift", 4, m.mode_shift, "inside", before="root", share=8),
    Substitute("parallel", "The tonic's other mode", 4, _of("parallel"), share=16),
    Substitute("over-pedal", "Major chords over the one", 4, _of("over-pedal"), "inside"),
    Substitute("mediant", "Major third away", 4, _of("mediant"), share=12),
    Substitute("slide", "Slide", 4, b.slide, "inside", share=8),
    Substitute("planing", "Ninths in a block", 4, _of("planing"), "inside", share=8),
    Substitute("pedal-through", "Pedal through", 1, r.pedal_through, "routes"),
    Substitute("bass-line", "Bass line", 1, r.bass_line, "routes"),
    Substitute("two-fives", "Two-fives", 2, r.two_fives, "routes", after="root"),
    Substitute("half-step-two-fives", "Two-fives by half steps", 3, r.half_step_two_fives, "routes", after="root"),
    Substitute("turnaround", "Turnaround", 2, r.round_trips, "routes", after="root"),
    Substitute("tag", "Ending held back", 2, _of("tag"), "routes", after="root"),
    Substitute("fifths", "Falling fifths", 4, r.falling_fifths, "routes", after="root"),
)


SUBSTITUTES = Entries(lambda: {kind.id: kind for kind in _SHIPPED}, hands=False)  # by their ids


def shares(idea: Idea, scene: Context) -> tuple[Fraction, ...] | None:
    """The beats of an idea's chords, or None where there is no time for them."""
    if idea.beats:
        return idea.beats
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
