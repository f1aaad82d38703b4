"""What an edit touches, found by comparing the state before it with the one after: whoever shows, solves or writes
something does it again only where its own part was touched.
"""

from __future__ import annotations

from enum import Flag, auto

from yellow_hinge.app.edits.state import State


class Touched(Flag):
    """Parts of a song."""

    NOTHING = 0
    TITLE = auto()
    TEMPO = auto()
    NOTES = auto()  # the player's, on the song and its chords
    HANDS = auto()  # what the hands follow from
    PLAYING = auto()
    TAKES = auto()  # which take is shown, other takes, the mix
    ALL = TITLE | TEMPO | NOTES | HANDS | PLAYING | TAKES


SLIGHT = Touched.TITLE | Touched.TEMPO | Touched.NOTES  # which no hand, no chord and no bar follows from


def touched(old: State, new: State) -> Touched:
    """What is other in one state than in another."""
    found = Touched.NOTHING
    parts = (
        (Touched.TITLE, old.own_form.title != new.own_form.title),
        (Touched.TEMPO, old.own_form.tempo != new.own_form.tempo),
        (Touched.NOTES, old.memos != new.memos),
        (Touched.HANDS, old.question != new.question),
        (Touched.PLAYING, old.playing != new.playing),
        (Touched.TAKES, _takes(old) != _takes(new)),
    )
    for part, other in parts:
        if other:
            found |= part
    # Something else, such as a space in the chart or a resting thing: whoever shows it knows better.
    return found if found or old == new else Touched.ALL


def _takes(state: State) -> object:
    named = [(take.id, take.name) for take in state.takes]
    return state.take, state.mix, named, [(take.content, take.form) for take in state.others]
