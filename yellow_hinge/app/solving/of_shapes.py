"""What is found of some hands beside the interface: where in a song they could stand and at what cost, every other
shape of their chord, and the song played with that one idea.
"""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.state import State
from yellow_hinge.app.mine.folder import read_mine
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.errors import OvertakenError, UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup, with_player
from yellow_hinge.core.leading.atlas import AtlasRow, atlas
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.families import Making, makings
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.weights import UNIT
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.reharm.shelf import starter
from yellow_hinge.core.reharm.shelf_fits import Fit, fits
from yellow_hinge.core.shapes.catalogue import capture
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.ideas import idea_pages
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.writing import write_symbol

MOST = 16  # places that are tried
LOWEST, HIGHEST = 24, 103  # keys that a moved hand stays on


class Stand(NamedTuple):
    """A chord of the song (its index) that hands could play, moved by some semitones, and what the whole song costs
    more with them there.
    """

    chord: int
    both: Both
    by: int
    more: float


class FoundStands(NamedTuple):
    """Where the hands of a question could stand."""

    number: int
    both: Both
    stands: tuple[Stand, ...]


def moved(both: Both, by: int) -> Both | None:
    """Hands some semitones higher, or an octave the other way; None where they would leave the keyboard."""
    for step in (by, by - 12 if by > 0 else by + 12):
        notes = [note + step for note in (*both.left, *both.right)]
        if notes and min(notes) >= LOWEST and max(notes) <= HIGHEST:
            return Both(tuple(n + step for n in both.left), tuple(n + step for n in both.right))
    return None


def fitting(solution: Solution, chords: Sequence[Chord], both: Both) -> list[tuple[int, Both, int]]:
    """The written chords that the hands would be, moved along: those that one of their readings is, on any root, each
    place once.
    """
    found, seen = [], set[int]()
    for index, voicing in enumerate(solution.voicings):
        here = voicing.chord
        for chord in chords:
            by = (here.root.pc - chord.root.pc + 5) % 12 - 5
            over = (chord.bass_note.pc + by) % 12 == here.bass_note.pc
            if here.quality != chord.quality or not over or voicing.here.slot_id in seen:
                continue
            there = moved(both, by)
            if there is not None:
                seen.add(voicing.here.slot_id)
                found.append((index, there, by))
    return found[:MOST]


class FoundWays(NamedTuple):
    """Every family of shapes that plays a chord within the player's reach, with an example."""

    number: int
    chord: Chord
    ways: tuple[Making, ...]


class FoundIdea(NamedTuple):
    """The song with one shape on every chord that it fits; `fault` says why there is none."""

    number: int
    both: Both
    shape: str
    solution: Solution | None
    fault: str = ""
    pages: tuple[Page, ...] = ()  # it on paper


class FoundShelf(NamedTuple):
    """What of the shelf fits from a chord of a solution on; `wrong`: what of the player's own could not be read."""

    number: int
    solution: Solution
    fits: tuple[Fit, ...]
    wrong: tuple[str, ...]


class FoundAtlas(NamedTuple):
    """The catalogue as a table, over a root."""

    number: int
    rows: tuple[AtlasRow, ...]


USUAL = SheetAsk()
IDEA = "this shape"  # what a captured one is called as long as it has no name


class ShapeFinder(Newest[FoundStands | FoundWays | FoundIdea | FoundShelf | FoundAtlas]):
    """Finds all of it, one question at a time."""

    def ask_stands(self, state: State, solution: Solution, chords: Sequence[Chord], both: Both) -> int:
        """Where hands could stand in a song, the cheapest first; returns the question's number."""

        def work(builder: Builder, number: int) -> FoundStands:
            moments, found = timeline(state.song), []
            for index, there, by in fitting(solution, chords, both):
                if builder.overtaken():
                    raise OvertakenError
                here = solution.voicings[index].here
                keep = Keep(here.slot_id, here.symbol, there.left, there.right, "chord")
                try:
                    cost = solve_song(builder, moments, state.asked, (*state.standing, keep)).totals.cost
                except UserError:
                    continue
                found.append(Stand(index, there, by, (cost - solution.totals.cost) / UNIT))
            return FoundStands(number, both, tuple(sorted(found, key=lambda stand: (stand.more, stand.chord))))

        return self.put(work)

    def ask_ways(self, chord: Chord, key: Key, setup: Setup) -> int:
        """Every family that plays a chord; returns the question's number."""
        return self.put(lambda _, number: FoundWays(number, chord, tuple(makings(chord, key, setup, None, None))))

    def ask_atlas(self, root: str, key: Key, setup: Setup) -> int:
        """The catalogue as a table over a root (its name); returns the question's number."""
        return self.put(lambda _, number: FoundAtlas(number, atlas(root, key, setup)))

    def ask_shelf(self, folder: Path, solution: Solution, index: int) -> int:
        """What of the shelf, with the player's own entries in a folder, fits from a chord on; the question's number."""

        def work(_: Builder, number: int) -> FoundShelf:
            mine = read_mine(folder, ("shelf",))
            found = fits((*mine.of("shelf"), *starter()), solution, index)
            return FoundShelf(number, solution, found, tuple(map(str, mine.wrong)))

        return self.put(work)

    def ask_idea(self, state: State, chord: Chord, both: Both, ask: SheetAsk = USUAL, simple: bool = False) -> int:
        """The song with the shape of some hands over a chord on every chord, on screen and as a sheet; returns the
        question's number.
        """

        def work(builder: Builder, number: int) -> FoundIdea:
            try:
                shape = capture(IDEA, chord, both.left, both.right)
                shapes = (*state.asked.player.shapes, shape)
                asked = with_player(
                    msgspec.structs.replace(state.asked, families=(shape.id,), wishes=()), shapes=shapes
                )
                solution = solve_song(builder, timeline(state.song), asked)
                names = " ".join(str(pitch_of(midi, chord.note_of(midi % 12))) for midi in (*both.left, *both.right))
                words = f"{write_symbol(chord)}, {names}"
                pages = idea_pages(state.song, solution, shape.id, words, ask, simple)
                return FoundIdea(number, both, shape.id, solution, pages=pages)
            except UserError as error:
                return FoundIdea(number, both, "", None, str(error))

        return self.put(work)
