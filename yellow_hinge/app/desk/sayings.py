"""What the line at the foot of the window says of the song on the desk, in sentences."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.pitch import pretty_signs


def song_words(desk: Desk) -> str:
    """The motion of the whole song, what the last edit changed beside it and what rests; "" where nothing is solved."""
    if desk.solution is None:
        return ""
    total = desk.solution.totals
    motion = (
        f"Whole song: {semitones(total.motion)}, left {total.left_motion}, right {total.right_motion}; "
        f"{total.held} notes held, largest move {total.largest_move}."
    )
    kept = desk.solution.style_words()
    return " ".join(filter(None, (motion, kept, beside_words(desk), resting_words(desk))))


def beside_words(desk: Desk) -> str:
    """The hands that others are now though nobody touched them, and how to have them back; "" where there are none."""
    if desk.opened is not None:
        return f"{opened_words(desk)} Shift+O keeps the hands instead."
    count = len(desk.answers.beside)
    some = "1 chord" if count == 1 else f"{count} chords"
    return f"{some} elsewhere changed too; Shift+O keeps what was there." if count else ""


def opened_words(desk: Desk) -> str:
    """The hands that were opened for a pattern, and how much more they move; "" where none were."""
    count, more = len(desk.answers.beside), desk.opened
    if more is None:
        return ""
    hands = "1 hand" if count == 1 else f"{count} hands"
    motion = f"{semitones(abs(more))} {'more' if more > 0 else 'less'}" if more else "no more motion"
    return f"{hands} opened for it; {motion}."


def resting_words(desk: Desk) -> str:
    """What the player kept and no longer holds, in a sentence."""
    found = desk.resting()
    if not found:
        return ""
    first, count = found[0], len(found)
    some = f"{first.words} rests" if count == 1 else f"{count} kept things rest, {first.words} among them"
    return pretty_signs(f"{some[:1].upper()}{some[1:]}: {first.why}. It comes back with its chord.")
