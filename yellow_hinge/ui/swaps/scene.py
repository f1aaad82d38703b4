"""The rows of the list of swaps: short lists by what a swap does, and what each row says."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.reharm.choice import Choice
from yellow_hinge.core.reharm.ranking import Swap, best, firsts
from yellow_hinge.core.reharm.table import GROUPS
from yellow_hinge.core.reharm.whole import SongChange
from yellow_hinge.core.reharm.words import avoid_words, chords_words, melody_words, tune_words
from yellow_hinge.core.symbols.writing import number_text, write_number
from yellow_hinge.ui.paint.notes import chord_text

SHORT, BEST = 4, 5  # swaps of a group that are shown at first, and of all
FIRST = "best"  # the group of those


class GroupHead(NamedTuple):
    """The heading of a group."""

    group: str
    words: str


class More(NamedTuple):
    """A row that opens the rest of a group."""

    group: str
    words: str


class SwapRow(NamedTuple):
    """A swap in words with music signs; `bass` is its line in semitones, from the first note's 0."""

    swap: Swap
    chords: str
    numbers: str
    reason: str
    melody: str
    bass: tuple[int, ...]

    @property
    def motion(self) -> str:
        """Semitones before and after."""
        return f"{self.swap.motion_before} → {self.swap.motion_after}"

    @property
    def words(self) -> str:
        """The whole row in words."""
        motion = f"{self.swap.motion_before} → {semitones(self.swap.motion_after)}"
        return f"{self.chords}  {self.numbers}\n{self.reason}\n{self.melody}\n{motion}"


Row = GroupHead | More | SwapRow


def swap_row(swap: Swap, key: Key) -> SwapRow:
    """What the list says of a swap."""
    line, at = [0], 0
    for move in swap.bass_moves:
        at += move
        line.append(at)
    numbers = "  ".join(number_text(write_number(chord, key)) for chord in swap.chords)
    return SwapRow(
        swap,
        pretty_signs(chords_words(swap.chords, swap.beats)),
        numbers,
        pretty_signs("; ".join(filter(None, (f"{swap.kind.name}: {swap.reason}", avoid_words(swap.chords))))),
        pretty_signs(tune_words(swap)),
        tuple(line),
    )


def swap_rows(swaps: list[Swap], key: Key, opened: frozenset[str]) -> list[Row]:
    """The best of all, then every group that has swaps, the best of its kinds and, where it is not opened, a row for
    the rest.
    """
    found: list[Row] = []
    if len(swaps) > BEST:
        found = [GroupHead(FIRST, "Best here"), *(swap_row(swap, key) for swap in best(swaps, BEST))]
    for group, words in GROUPS.items():
        own = [swap for swap in swaps if swap.kind.group == group]
        if not own:
            continue
        found.append(GroupHead(group, words))
        shown = own if group in opened or len(own) <= SHORT + 1 else firsts(own)[:SHORT]
        found += [swap_row(swap, key) for swap in shown]
        if len(shown) < len(own):
            found.append(More(group, f"{len(own) - len(shown)} more"))
    return found


def change_words(change: SongChange) -> tuple[str, str]:
    """(what became what, why) of a chord of a whole song."""
    choice: Choice = change.choice
    assert choice.kind is not None
    new = pretty_signs(chords_words(choice.chords, choice.beats))
    why = pretty_signs(f"{choice.kind.name}: {choice.reason}; {melody_words(choice.melody, choice.chords)}")
    if change.instead is not None:
        why = pretty_signs(f"in place of {chords_words(change.instead.chords, change.instead.beats)}; {why}")
    return f"{chord_text(change.was)} → {new}", why


def order_words(change: SongChange, best: Choice) -> str:
    """Which of the choices of a chord this is, "" where there is no other."""
    count = len(change.others) + 1
    if count == 1:
        return ""
    ordered = [change.choice, *change.others]
    return f"{(count - ordered.index(best)) % count + 1} of {count}"


def was_words(symbols: list[str]) -> str:
    """What a chord was before: "was Fm7, then Db9"."""
    return pretty_signs("was " + ", then ".join(symbols)) if symbols else ""
