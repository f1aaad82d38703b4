"""Taking what was found in the Swaps view: each is one edit of the desk."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.state import State
from yellow_hinge.core.chart import edit as chart_edit
from yellow_hinge.core.reharm.ranking import Swap
from yellow_hinge.core.reharm.whole import Bolder
from yellow_hinge.core.song.song import Address, Song
from yellow_hinge.core.symbols.writing import write_symbol


def take_swap(desk: Desk, swap: Swap) -> None:
    """Put other chords in the place of the selected one, or of it and those after it."""
    if desk.selection.voicing is None or desk.solution is None:
        return
    voicings = desk.solution.voicings[desk.selection.index : desk.selection.index + swap.span]
    places, slots = [voicing.here.address for voicing in voicings], swap.slots
    old = write_symbol(voicings[0].chord) + (f" and {swap.span - 1} more" if swap.span > 1 else "")
    new = " ".join(write_symbol(chord) for chord in swap.chords)

    def edit(song: Song) -> Song:
        for at, chords, beats in sorted(zip(places, slots.chords, slots.beats, strict=True), reverse=True):
            song = chart_edit.with_chords(song, at, chords, beats)  # from the end: the places before stay
        return song

    desk.edit_chart(f"swap {old} for {new}", edit)


def take_bolder(desk: Desk, found: Bolder, refused: frozenset[Address], becomes: State | None = None) -> int:
    """Make the song what it would be reharmonised, but for the refused chords; `becomes` is the state where every
    repeat is decided apart. Returns how many chords were changed.
    """
    count = sum(1 for change in found.changes if change.at not in refused)
    label = f"reharmonise {count} chord{'' if count == 1 else 's'}, boldness {found.boldness}"
    if count and becomes is not None:
        desk.edit_state(label, lambda state: becomes)
    elif count and found.song == desk.state.song:
        desk.edit_chart(label, lambda song: found.with_changes(refused))
    else:
        return 0
    return count
