"""Taking what was found in the Swaps view: each is one edit of the desk."""

from __future__ import annotations

from yellow_hinge.app.desk import Desk
from yellow_hinge.core import chart_edit
from yellow_hinge.core.reharm.swaps import Swap
from yellow_hinge.core.reharm.whole import Bolder
from yellow_hinge.core.song import Address, Song
from yellow_hinge.core.writing import write_symbol


def take_swap(desk: Desk, swap: Swap) -> None:
    """Put other chords in the place of the selected one, or of it and those after it."""
    if desk.voicing is None or desk.solution is None:
        return
    voicings = desk.solution.voicings[desk.selected : desk.selected + swap.span]
    places = [voicing.here.address for voicing in voicings]
    old = write_symbol(voicings[0].chord) + (f" and {swap.span - 1} more" if swap.span > 1 else "")
    new = " ".join(write_symbol(chord) for chord in swap.chords)

    def edit(song: Song) -> Song:
        if swap.span == 1:
            return chart_edit.with_chords(song, places[0], swap.chords, swap.beats)
        for at, chord, beats in zip(places, swap.chords, swap.beats, strict=True):
            song = chart_edit.with_chords(song, at, (chord,), (beats,))
        return song

    desk.edit_chart(f"swap {old} for {new}", edit)


def take_bolder(desk: Desk, found: Bolder, refused: frozenset[Address]) -> None:
    """Make the song what it would be reharmonised, but for the refused chords."""
    count = sum(1 for change in found.changes if change.at not in refused)
    if count and found.song == desk.state.song:
        label = f"reharmonise {count} chord{'' if count == 1 else 's'}, boldness {found.boldness}"
        desk.edit_chart(label, lambda song: found.with_changes(refused))
