"""Where a pattern of playing is asked for: the chords, bars and sections that are meant."""

from __future__ import annotations

from collections.abc import Callable

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import bar_places
from yellow_hinge.core.leading.asking.wishes import PARTS
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.song import Section


def place_ids(desk: Desk, place: str) -> tuple[int, ...]:
    """The ids that a pattern or wish for a place of the selected chord is kept under: of the song, its section, every
    section of that name, its bar, itself, or of the bars and chords that are marked (its bar where none are).
    """
    moment = desk.selection.moment
    if moment is None:
        return ()
    if place == "song":
        return (WHOLE_SONG,)
    if place == "every":
        return tuple(section.id for section in sections_alike(desk))
    if place == "mark":
        return marked_ids(desk) or (moment.ids[1],)
    return tuple(own for own, part in zip(moment.ids, PARTS, strict=True) if part == place)


def sections_alike(desk: Desk) -> tuple[Section, ...]:
    """The sections that have the name of the selected chord's, itself among them."""
    moment, sections = desk.selection.moment, desk.answers.state.song.sections
    if moment is None or moment.section >= len(sections):
        return ()
    return tuple(section for section in sections if section.name == sections[moment.section].name)


def marked_ids(desk: Desk) -> tuple[int, ...]:
    """The ids of the bars that are marked whole, and of the other marked chords."""
    solution, marked = desk.solution, desk.selection.marked
    if solution is None:
        return ()
    found: dict[int, None] = {}
    for at in marked:
        whole = bar_places(solution, range(at, at + 1))
        inside = whole[0] >= marked[0] and whole[-1] <= marked[-1]
        found[solution.voicings[at].here.ids[1 if inside else 2]] = None
    return tuple(found)


def everywhere(desk: Desk, place: str, change: Callable[[Playing, int], Playing], playing: Playing) -> Playing:
    """How the song is played after a change at every id of a place."""
    for at in place_ids(desk, place):
        playing = change(playing, at)
    return playing
