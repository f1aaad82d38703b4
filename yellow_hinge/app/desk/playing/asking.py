"""What the player asks of the playing, as edits of the desk: patterns of places and hands, own patterns, fills."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.places import everywhere, place_ids, sections_alike
from yellow_hinge.app.edits.asking import with_swing
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.asked import Fill, HandWish, Playing, PlayWish
from yellow_hinge.core.rhythm.asks import (
    WHOLE_SONG,
    pattern_at,
    pattern_named,
    usual_pattern,
    usual_playing,
    wish_at,
    with_ahead,
    with_fill,
    with_own_pattern,
    with_pattern,
)
from yellow_hinge.core.rhythm.fills.kinds import fill_kind, own_notes
from yellow_hinge.core.rhythm.fills.notes import Added
from yellow_hinge.core.rhythm.fills.offered import quarters_of, taken_notes
from yellow_hinge.core.rhythm.pattern.fitting import unit_quarters
from yellow_hinge.core.rhythm.pattern.patterns import Pattern, patterns
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.rhythm.striking import Played, played
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.writing import write_symbol

PLACES = ("song", "section", "every", "bar", "chord", "mark")
OWN = "mine-"  # begins the ids of the player's own patterns
LIKE = {
    "song": "the song", "section": "this section", "every": "every section of its name", "bar": "this bar",
    "chord": "this chord", "mark": "what is marked",
}  # fmt: skip


def take_pattern(desk: Desk, place: str, hand: HandWish, pattern: str) -> None:
    """Play the song, or a part of it at the selected chord, in a pattern, with the hands that it wants; "" for what
    holds around it.
    """
    if desk.selection.moment is None:
        return
    known = pattern_named(pattern, (*desk.state.playing.patterns, *desk.patterns))
    name = known.name.lower() if known else "the usual pattern"
    whose = "" if hand == "both" else f", {hand} hand"
    playing = in_pattern(desk, place, hand, pattern)
    desk.put_playing(f"{name} for {LIKE[place]}{whose}", playing)


def in_pattern(desk: Desk, place: str, hand: HandWish, pattern: str) -> Playing:
    """How the song would be played with a pattern at a place of the selected chord."""
    playing = desk.state.playing
    known = pattern_named(pattern, (*playing.patterns, *desk.patterns))
    if known is not None and known.id.startswith(OWN):
        playing = with_own_pattern(playing, known)
    wants = known is not None and bool(known.wants)
    return everywhere(desk, place, lambda now, at: with_pattern(now, at, hand, pattern, wants), playing)


def ahead_at(desk: Desk, place: str, hand: HandWish) -> bool:
    """Whether the chords of that very place and hand come half a beat early."""
    found = _wish(desk, place, hand)
    return found is not None and found.ahead


def _wish(desk: Desk, place: str, hand: HandWish) -> PlayWish | None:
    """What is asked of that very place and hand."""
    ids = place_ids(desk, place)[:1]
    return next((wish for wish in desk.state.playing.wishes if wish.at in ids and wish.hand == hand), None)


def put_ahead(desk: Desk, place: str, hand: HandWish, on: bool) -> None:
    """Play the chords of a place half a beat early, or on their beat, in the pattern that holds there."""
    moment, solution, playing = desk.selection.moment, desk.solution, desk.state.playing
    if moment is None or solution is None:
        return
    around = wish_at(playing, moment, "left" if hand == "left" else "right")
    usual = usual_pattern(desk.answers.state.song, solution.setup.manner, playing.patterns)
    holds = around or PlayWish(WHOLE_SONG, usual.id)

    def early(now: Playing, at: int) -> Playing:
        own = next((wish for wish in now.wishes if (wish.at, wish.hand) == (at, hand)), None)
        return with_ahead(now, own or msgspec.structs.replace(holds, at=at, hand=hand), on)

    label = f"{LIKE[place]} {'half a beat early' if on else 'on the beat'}"
    desk.put_playing(label, everywhere(desk, place, early, playing))


def asked_swing(desk: Desk, place: str) -> str:
    """The swing that the song says for itself, or for the section of the selected chord; "" for none."""
    song, moment = desk.state.song, desk.selection.moment
    if place in ("section", "every") and moment is not None and moment.origin < len(song.sections):
        return song.sections[moment.origin].swing
    return song.swing


def put_swing(desk: Desk, place: str, swing: str) -> None:
    """Play the song, or sections at the selected chord, straight or swung; "" for the usual."""
    moment = desk.selection.moment
    inside = moment is not None and place in ("section", "every")
    own = frozenset({moment.origin}) if moment is not None and inside else None
    if own is not None and place == "every":
        names = {section.name for section in sections_alike(desk)}
        own = frozenset(n for n, section in enumerate(desk.state.song.sections) if section.name in names)

    def edit(song: Song) -> Song:
        return with_swing(song, swing, own)

    desk.edit_chart(f"play {swing or 'as usual'}{'' if own is None else f' in {LIKE[place]}'}", edit)


def asked_pattern(desk: Desk, place: str, hand: HandWish) -> str:
    """The pattern that is asked of that very place and hand, "" for none."""
    found = _wish(desk, place, hand)
    return found.pattern if found is not None else ""


def toggle_fill(desk: Desk, kind: str) -> None:
    """Take a fill at the selected chord, or let it go."""
    moment, voicing = desk.selection.moment, desk.selection.voicing
    if moment is None or voicing is None:
        return
    fill = Fill(moment.slot_id, kind)
    on = not any(known.is_like(fill) for known in desk.state.playing.fills)
    known = fill_kind(kind)
    name = known.name.lower() if known is not None else kind
    symbol = pretty_signs(write_symbol(voicing.chord))
    label = f"{name} at {symbol}" if on else f"without {name} at {symbol}"
    desk.put_playing(label, with_fill(desk.state.playing, fill, on))


def lead_in_of_own(desk: Desk, midis: tuple[int, ...]) -> None:
    """Lead into the selected chord by notes of the player's own: into its bass where they lie nearer to it, else into
    its top. Raises UserError where they are too many or too far off.
    """
    moment, voicing = desk.selection.moment, desk.selection.voicing
    if moment is None or voicing is None or not midis:
        return
    top, bass = (voicing.right or voicing.left)[-1], (voicing.left or voicing.right)[0]
    low = bool(voicing.left) and desk.state.setup.mine and abs(midis[-1] - bass) < abs(midis[-1] - top)
    name = own_notes("bass", bass, midis) if low else own_notes("top", top, midis)
    known = desk.state.playing.fills
    others = tuple(own for own in known if own.slot != moment.slot_id or not own.kind.startswith("own "))
    playing = msgspec.structs.replace(desk.state.playing, fills=(*others, Fill(moment.slot_id, name)))
    desk.put_playing(f"notes of your own into {pretty_signs(write_symbol(voicing.chord))}", playing)


def shift_lead_in(desk: Desk, row: Sequence[Played], place: int, fill: Fill, by: int) -> None:
    """Let a lead-in that is taken begin later (`by` quarters of a beat) or earlier, inside the chord before. Its notes
    share the time. Edits in a row are one step of undo.
    """
    now, kind = quarters_of(row, place, fill), fill_kind(fill.kind)
    if kind is None:
        return
    before = row[place - 1]
    room = int(before.length * 4 / ticks(before.moment.meter.beat_quarters)) - 1
    quarters = min(max(now - by, len(kind.steps)), room)
    if now and quarters != now:
        moved = msgspec.structs.replace(fill, quarters=quarters)
        name = kind.name.lower()
        playing = with_fill(desk.state.playing, moved, True)
        desk.put_playing(f"move {name}", playing, f"lead-in {fill.slot} {fill.kind}")


# --- the player's own patterns -----------------------------------------------------------------------------------


def offset_of(moment: Moment) -> Fraction:
    """How many beats of a pattern into its bar a chord begins."""
    return (moment.beat - 1) * moment.meter.beat_quarters / unit_quarters(moment.meter)


def all_patterns(desk: Desk) -> list[Pattern]:
    """The player's own patterns, then those that ship."""
    here = desk.state.playing.patterns
    names = {pattern.id for pattern in here}
    return [*here, *(own for own in desk.patterns if own.id not in names), *patterns().values()]


def fill_notes(desk: Desk) -> dict[int, tuple[Added, ...]]:
    """The notes of the fills that are taken, by the index of the chord over which they sound."""
    solution, playing = desk.solution, desk.state.playing
    if solution is None or not playing.fills:
        return {}
    moments = [voicing.here for voicing in solution.voicings]
    usual = usual_playing(desk.answers.state.song, solution.setup.manner, playing, moments)
    return taken_notes(played(solution, playing, usual), playing)


def pattern_names(solution: Solution, song: Song, playing: Playing) -> list[str]:
    """The name of the pattern that the right hand plays each chord of a solution in."""
    usual = usual_pattern(song, solution.setup.manner, playing.patterns)
    moments = (voicing.here for voicing in solution.voicings)
    return [pattern_at(playing, moment, "right", usual).name for moment in moments]
