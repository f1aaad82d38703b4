"""What the player asks of the playing, as edits of the desk: patterns of places and hands, own patterns, fills."""

from __future__ import annotations

import os
from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.marked import bar_places
from yellow_hinge.core.leading.asking.wishes import PARTS
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.rhythm.asks import (
    WHOLE_SONG,
    Fill,
    HandWish,
    Playing,
    PlayWish,
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
from yellow_hinge.core.rhythm.fitting import Timed, bent, seen_form, ticks, unit_quarters
from yellow_hinge.core.rhythm.patterns import TICK, WHAT, Hit, Pattern, patterns, write_hits
from yellow_hinge.core.rhythm.striking import Played, played
from yellow_hinge.core.song.song import Section, Song
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.writing import write_symbol

PLACES = ("song", "section", "every", "bar", "chord", "mark")
OWN = "mine-"  # begins the ids of the player's own patterns
LIKE = {
    "song": "the song", "section": "this section", "every": "every section of its name", "bar": "this bar",
    "chord": "this chord", "mark": "what is marked",
}  # fmt: skip


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


def _everywhere(desk: Desk, place: str, change: Callable[[Playing, int], Playing], playing: Playing) -> Playing:
    """How the song is played after a change at every id of a place."""
    for at in place_ids(desk, place):
        playing = change(playing, at)
    return playing


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
    return _everywhere(desk, place, lambda now, at: with_pattern(now, at, hand, pattern, wants), playing)


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
    desk.put_playing(label, _everywhere(desk, place, early, playing))


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


def with_swing(song: Song, swing: str, only: frozenset[int] | None = None) -> Song:
    """The song with a swing, for all of it (also where its sections had their own) or for sections by their indices."""
    sections = tuple(
        msgspec.structs.replace(own, swing="" if only is None else swing if n in only else own.swing)
        for n, own in enumerate(song.sections)
    )
    found: Song = msgspec.structs.replace(song, sections=sections, swing=swing if only is None else song.swing)
    return found


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


def new_id() -> str:
    """An id for a pattern of the player's own that no other song has."""
    return f"{OWN}{os.urandom(4).hex()}"


def copy_of(here: Played, hand: str, own: tuple[Pattern, ...]) -> Pattern:
    """A pattern of the player's own to begin with: the one that a chord is played in where it is theirs, else a copy of
    what the chord shows of it; counted from the bar where it lies in it as a bar does. `hand` says whose pattern where
    the hands have two.
    """
    pattern = here.patterns[hand]
    if pattern.id.startswith(OWN):
        return pattern
    unit = unit_quarters(here.moment.meter)
    form, length = seen_form(pattern, here.forms[hand], here.moment.quarters / unit)
    bar = pattern.bar or bool(length and not offset_of(here.moment) % length)
    name = f"Mine {len(own) + 1}, {pattern.name.split(':')[0].lower()}"[:60]
    made: Pattern = msgspec.structs.replace(
        pattern, id=new_id(), name=name, words="", meter="", usual=(20, 400), left=form.left,
        right=form.right, beats=float(length) if length.denominator > 1 else int(length), bar=bar, cut=True, **PLAIN,
    )  # fmt: skip
    return made


# The forms of a pattern that goes without them.
PLAIN: dict[str, Any] = dict.fromkeys(("two", "one", "second", "third", "fourth", "three_first")) | {"theirs": ""}


def offset_of(moment: Moment) -> Fraction:
    """How many beats of a pattern into its bar a chord begins."""
    return (moment.beat - 1) * moment.meter.beat_quarters / unit_quarters(moment.meter)


def written(here: Played, hand: str, timed: Timed) -> Hit | None:
    """The hit of its pattern that a stroke comes from; None where the hands alone ask for it."""
    pattern = here.patterns[hand]
    place = beats_of(timed.at, here.moment) + (offset_of(here.moment) if pattern.bar else 0)
    place %= Fraction(pattern.beats) or place + 1
    compound = here.moment.meter.compound
    near = (h for h in here.forms[hand].hits(hand) if abs(bent(h.at, compound, here.swing) - place) * TICK < 1)
    return next(near, None)


def edited(pattern: Pattern, hand: str, edit: Callable[[tuple[Hit, ...]], tuple[Hit, ...]], beats: int = 4) -> Pattern:
    """A pattern with the hits of one hand changed; forms for short chords are cut from it then. `beats`: its length
    where it was the chord's.
    """
    text = write_hits(edit(pattern.main.hits(hand)))
    both = {"left": pattern.left, "right": pattern.right} | {hand: text}
    changed: Pattern = msgspec.structs.replace(pattern, **both, **PLAIN, cut=True, beats=pattern.beats or beats)
    return changed


def with_hit(hits: tuple[Hit, ...], at: Fraction, length: Fraction, what: str) -> tuple[Hit, ...]:
    """Hits with another one; in the place of one that begins there."""
    others = tuple(hit for hit in hits if hit.at != at)
    return (*others, Hit(at, length, what))


def changed_hit(hits: tuple[Hit, ...], where: Fraction, /, **fields: object) -> tuple[Hit, ...]:
    """Hits with the one at a place changed."""
    return tuple(hit._replace(**fields) if hit.at == where else hit for hit in hits)  # type: ignore[arg-type]


def next_what(hand: str, what: str, by: int) -> str:
    """What comes after or before something that a hand can strike, in the order of the notation."""
    names = WHAT[hand]
    return names[(names.index(what) + by) % len(names)] if what in names else names[0]


def put_own(desk: Desk, pattern: Pattern, place: str, hand: HandWish, label: str) -> None:
    """Keep a pattern of the player's own in the song, and play the place in it. Edits in a row are one step of undo."""
    moment = desk.selection.moment
    if moment is None:
        return
    playing = with_own_pattern(desk.state.playing, pattern)
    used = any(wish.pattern == pattern.id for wish in playing.wishes)
    if not used or asked_pattern(desk, place, hand) != pattern.id:
        before = [wish_at(desk.state.playing, moment, own) for own in HANDS if hand in ("both", own)]
        opened = any(wish is not None and wish.wants for wish in before)
        playing = _everywhere(desk, place, lambda now, at: with_pattern(now, at, hand, pattern.id, opened), playing)
    desk.put_playing(f"{label} of {pattern.name.lower()}", playing, f"pattern {pattern.id}")


def name_pattern(desk: Desk, pattern: str, name: str) -> None:
    """Call a pattern of the player's own by another name."""
    known = pattern_named(pattern, desk.state.playing.patterns)
    if known is not None:
        renamed = msgspec.structs.replace(known, name=name.strip()[:60])
        desk.put_playing(f"call a pattern {renamed.name}", with_own_pattern(desk.state.playing, renamed))


def forget_pattern(desk: Desk, pattern: str) -> None:
    """Take a pattern of the player's own from the song, and what is asked of it."""
    playing = desk.state.playing
    gone = msgspec.structs.replace(
        playing,
        wishes=tuple(wish for wish in playing.wishes if wish.pattern != pattern),
        patterns=tuple(own for own in playing.patterns if own.id != pattern),
    )
    known = pattern_named(pattern, playing.patterns)
    desk.put_playing(f"forget {known.name.lower() if known else 'a pattern'}", gone)


def beats_of(tick: int, moment: Moment) -> Fraction:
    """Ticks from a chord's start as beats of a pattern."""
    return Fraction(tick, TICK) / unit_quarters(moment.meter)


GRID = (4, 3)  # parts of a beat that strokes fall on: quarters, and thirds of what is dotted


def on_grid(beats: Fraction, thirds: bool, swings: bool = False) -> Fraction:
    """The nearest place of the grid; where it swings, the half beat that stands for the third it is played on."""
    found = Fraction(round(beats * GRID[thirds or swings]), GRID[thirds or swings])
    if swings and not thirds and found % 1:
        return found // 1 + Fraction(1, 2)
    return found


def tapped(
    taps: list[tuple[str, Fraction]], length: Fraction, thirds: bool, number: int, swings: bool = False
) -> Pattern | None:
    """A pattern from taps: (hand, beats from the bar's start), counted from the bar, which is `length` beats long; None
    where nothing was tapped. A stroke lasts until the hand's next one.
    """
    forms = {}
    for hand in HANDS:
        places = sorted({on_grid(at, thirds, swings) % length for whose, at in taps if whose == hand})
        ends = [*places[1:], Fraction(length)][: len(places)]
        hits = tuple(Hit(at, end - at, "all") for at, end in zip(places, ends, strict=True))
        forms[hand] = write_hits(hits)
    if not any(forms.values()):
        return None
    beats = float(length) if Fraction(length).denominator > 1 else int(length)
    return Pattern(
        new_id(), f"Mine {number}, tapped", beats=beats, bar=True, left=forms["left"], right=forms["right"], cut=True,
        pedal="chord", swing=swings,
    )  # fmt: skip


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
