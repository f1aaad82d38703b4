"""The sheet of a song beside the interface: the state it is made from, solved where it is not, and its pages."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.app.edits.asking import in_key, with_memo
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.state import State, alone, file_of
from yellow_hinge.app.edits.takes import mix_state
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.app.solving.twelve import in_twelve, keys_sheet
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.song.timeline import bar_number, timeline
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.files import FileFault

MIX_NAME = "the mix"


class Twelve(msgspec.Struct, frozen=True):
    """A stretch between two written chords that is asked for in twelve keys; `a_page`: a page a key."""

    first: Address
    last: Address
    a_page: bool = False


class WrittenSheet(NamedTuple):
    """The pages of question `number`, or why there are none; `picks`: their chords are those of the desk."""

    number: int
    pages: tuple[Page, ...]
    fault: str = ""
    picks: bool = True


def sheet_state(state: State, ask: SheetAsk) -> State:
    """The song that a sheet shows: the take on the desk or the mix, in the sheet's key."""
    shown = mix_state(state) if ask.mix else state
    return in_key(alone(shown), parse_key(ask.key)) if ask.key else shown


def take_name(state: State, ask: SheetAsk) -> str:
    """What a sheet says of the take it is of: nothing where there is only one."""
    if ask.mix:
        return MIX_NAME
    return state.name if len(state.takes) > 1 else ""


def memo_edit(state: State, slot: int, symbol: str, words: str) -> Edit | None:
    """The player's note on a chord (the id of its slot), or on the song (0); None where it stays as it is."""
    changed = with_memo(state, slot, words)
    return None if changed == state else Edit(f"note on {symbol}", changed, f"note {slot}")


class SheetSolver(Newest[WrittenSheet]):
    """Makes sheets."""

    def ask(
        self, state: State, known: Solution | None, ask: SheetAsk, simple: bool = False, twelve: Twelve | None = None,
        picks: bool = True,
    ) -> int:  # fmt: skip
        """Put a sheet to the worker; `known` is the solution of the state itself, where there is one; `picks`: it is
        the song of the desk. Returns the question's number.
        """

        def work(builder: Builder, number: int) -> WrittenSheet:
            found = self._found(builder, number, state, known, ask, simple, twelve)
            return found._replace(picks=found.picks and picks)

        return self.put(work)

    def _found(
        self, builder: Builder, number: int, state: State, known: Solution | None, ask: SheetAsk, simple: bool,
        twelve: Twelve | None,
    ) -> WrittenSheet:  # fmt: skip
        try:
            if twelve is not None:
                own = sheet_state(state, msgspec.structs.replace(ask, mix=False))
                found = in_twelve(builder, own, twelve.first, twelve.last)
                return WrittenSheet(number, keys_sheet(found, ask, twelve.a_page, simple), "", False)
            shown = sheet_state(state, ask)
            solution = known if shown is state else None
            if solution is None:
                solution = solve_song(builder, timeline(shown.song), shown.asked, shown.standing)
            cancelled = builder.overtaken
            pages = sheet_pages(file_of(shown), solution, ask, simple, take_name(state, ask), cancelled)
        except FileFault as error:
            return WrittenSheet(number, (), error.why)
        except UserError as error:
            return WrittenSheet(number, (), str(error))
        return WrittenSheet(number, pages, "", not ask.mix)


def describe_chord(song: Song, solution: Solution, index: int) -> str:
    """A chord in a few words: its symbol and its bar."""
    voicing = solution.voicings[index]
    return f"{write_symbol(voicing.chord)}, bar {bar_number(song, voicing.here.origin, voicing.here.bar)}"
