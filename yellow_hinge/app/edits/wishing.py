"""Wishes for the whole song, a section, a bar or a chord, as pure edits of a setup, and what overrides what."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import msgspec

from yellow_hinge.core.leading.asking.asked import asked_at, held_top
from yellow_hinge.core.leading.asking.keeps import HeldTop
from yellow_hinge.core.leading.asking.setup import Setup, Wish, said
from yellow_hinge.core.leading.asking.wishes import (
    OF_PARTS,
    OF_SONG,
    PARTS,
    WISHES,
    AtChord,
    Holding,
    Scope,
    words_of,
)
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import Moment, bar_number
from yellow_hinge.core.symbols.writing import write_symbol


def turned(asked: Setup, what: str) -> tuple[str, Any]:
    """(label, value) of a wish with two values turned into its other one."""
    kind = WISHES[what]
    if isinstance(kind.first, bool):
        value: Any = not getattr(asked, what)
    else:
        usual, other = (named.value for named in kind.offers)
        value = usual if getattr(asked, what) == other else other
    return kind.label(value), value


Pass = tuple[int, int] | None  # of a repeat (see Moment.pass_id), None for all of them


def wish_at(setup: Setup, moment: Moment, scope: Scope, only: Pass = None) -> Wish | None:
    """The wish said for a moment's section, bar or chord itself, in all passes or in one, or None."""
    return _wish_on(setup, moment.ids[PARTS.index(scope)], only)


def _wish_on(setup: Setup, at: int, only: Pass) -> Wish | None:
    return next((wish for wish in setup.wishes if (wish.at, wish.turn, wish.only) == (at, None, only)), None)


def with_wish(setup: Setup, moment: Moment, scope: Scope, only: Pass = None, **fields: Any) -> Setup:
    """The setup with something asked of the song, or of the section, bar or chord of a moment (see with_wishes)."""
    if scope == "song":
        changed: Setup = msgspec.structs.replace(setup, **fields)
        return changed
    return with_wishes(setup, (moment.ids[PARTS.index(scope)],), only, **fields)


def with_wishes(setup: Setup, ids: Iterable[int], only: Pass = None, **fields: Any) -> Setup:
    """The setup with something asked of sections, bars or chords, by their ids. None takes a field back; a wish that
    asks nothing goes.
    """
    for at in ids:
        old = _wish_on(setup, at, only)
        new = msgspec.structs.replace(old or Wish(at, only=only), **fields)
        others = tuple(wish for wish in setup.wishes if wish is not old)
        empty = all(getattr(new, kind.name) is None for kind in OF_PARTS)
        setup = msgspec.structs.replace(setup, wishes=others if empty else (*others, new))
    return setup


def without_wishes(setup: Setup, ids: Iterable[int], only: Pass = None) -> Setup:
    """The setup with nothing asked of these sections, bars or chords."""
    return with_wishes(setup, ids, only, **{kind.name: None for kind in OF_PARTS})


def standing(setup: Setup, moment: Moment | None, scope: Scope) -> Holding:
    """What holds for the song, the section, the bar or the chord of a moment; without one, for the song."""
    if scope == "song" or moment is None:
        return Holding(**{kind.name: said(setup, kind) for kind in OF_SONG})
    own = wish_at(setup, moment, "section") if scope == "section" else None
    wider = moment.ids[: PARTS.index(scope) + 1]
    setup = msgspec.structs.replace(setup, wishes=tuple(wish for wish in setup.wishes if wish.at in wider))
    asked = asked_at(setup, moment)
    climb = (own.climb or 0) if own else 0
    return Holding(**{name: getattr(asked, name) for name in AtChord.__struct_fields__}, climb=climb)


def overriding(setup: Setup, moment: Moment, song: Song) -> list[tuple[Scope, str]]:
    """What the section, the bar and the chord of a moment (one with a chord) ask beyond the song, in words:
    [("section", "Verse: colour ..")].
    """
    assert moment.chord is not None
    bar = f"bar {bar_number(song, moment.origin, moment.bar)}"
    names = (song.sections[moment.section].name, bar, write_symbol(moment.chord))
    return [
        (scope, f"{whose}{', this pass' if only else ''}: {', '.join(words_of(wish))}")
        for scope, whose in zip(PARTS, names, strict=True)
        for only in (None, moment.pass_id)
        if (wish := wish_at(setup, moment, scope, only)) is not None
    ]


# --- a top note held over several chords ---


def with_held_top(setup: Setup, moments: list[Moment], index: int, top: int) -> Setup:
    """The top note of chord `index` (of the sounding moments) held into the next chord, or one chord longer where it is
    held there already.
    """
    here = moments[index].slot_id
    for held in setup.held:
        if here in held.slots:
            last = max(i for i, m in enumerate(moments) if m.slot_id in held.slots)
            after = moments[min(last + 1, len(moments) - 1)].slot_id
            longer = HeldTop(tuple(dict.fromkeys((*held.slots, after))), held.top)
            changed: Setup = msgspec.structs.replace(setup, held=tuple(longer if h == held else h for h in setup.held))
            return changed
    after = moments[min(index + 1, len(moments) - 1)].slot_id
    held = HeldTop(tuple(dict.fromkeys((here, after))), top)
    added: Setup = msgspec.structs.replace(setup, held=(*setup.held, held))
    return added


def without_held_top(setup: Setup, moment: Moment) -> Setup:
    """The setup without the held top that covers a moment."""
    kept = tuple(held for held in setup.held if moment.slot_id not in held.slots)
    done: Setup = msgspec.structs.replace(setup, held=kept)
    return done


def is_held(setup: Setup, moment: Moment) -> bool:
    """Whether a held top covers a moment."""
    return held_top(setup, moment.slot_id) is not None
