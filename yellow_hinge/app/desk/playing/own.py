"""Patterns of the player's own: written down, edited hit by hit, tapped, named and forgotten."""

from __future__ import annotations

import os
from collections.abc import Callable
from fractions import Fraction
from typing import Any

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import OWN, asked_pattern, offset_of
from yellow_hinge.app.desk.playing.places import everywhere
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.rhythm.asked import HandWish
from yellow_hinge.core.rhythm.asks import pattern_named, wish_at, with_own_pattern, with_pattern
from yellow_hinge.core.rhythm.pattern.fitting import Timed, seen_form, unit_quarters
from yellow_hinge.core.rhythm.pattern.patterns import TICK, WHAT, Hit, Pattern, write_hits
from yellow_hinge.core.rhythm.pattern.swinging import bent
from yellow_hinge.core.rhythm.striking import Played
from yellow_hinge.core.song.timeline import Moment


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
        playing = everywhere(desk, place, lambda now, at: with_pattern(now, at, hand, pattern.id, opened), playing)
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
