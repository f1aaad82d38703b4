"""Song files of version 10, in which every take was a song of its own."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.song.following import Piece, numbered
from yellow_hinge.core.song.song import Memo, Song, Was
from yellow_hinge.core.takes.content import Parts, put
from yellow_hinge.core.takes.form import Form
from yellow_hinge.core.takes.take import FIRST_TAKE, Choice, Content, Take, Whole
from yellow_hinge.core.takes.written_out import passes_of


class _Take10(msgspec.Struct, frozen=True):
    id: int
    name: str
    song: Song
    text: str = ""
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()
    playing: Playing = Playing()
    memos: tuple[Memo, ...] = ()


class _File10(msgspec.Struct, frozen=True):
    song: Song
    setup: Setup = Setup()
    keeps: tuple[Keep, ...] = ()
    draft: str = ""
    was: tuple[Was, ...] = ()
    gone: tuple[Piece, ...] = ()
    playing: Playing = Playing()
    memos: tuple[Memo, ...] = ()
    take: int = 1
    name: str = FIRST_TAKE
    others: tuple[_Take10, ...] = ()
    place: int = 0
    last_take: int = 1
    mix: tuple[Choice, ...] = ()


def whole_of_10(fields: dict[str, Any], hook: Callable[[type, Any], Any]) -> Whole:
    """A song out of the fields of a file of version 10. The form of the take that was shown is the song's; a take that
    differs from it in key, bars, tune or words keeps a form of its own, and the mix plays what it played. Raises
    ValueError, msgspec.ValidationError among them.
    """
    file = msgspec.convert(fields, _File10, dec_hook=hook)
    if not 0 <= file.place <= len(file.others):
        raise ValueError("its takes are out of order")
    shown = _Take10(
        file.take, file.name, file.song, file.draft, file.setup, file.keeps, file.was, file.gone, file.playing,
        file.memos,
    )  # fmt: skip
    olds = (*file.others[: file.place], shown, *file.others[file.place :])
    made = [(old, *_apart(old)) for old in olds]
    form = next(own for old, _, own in made if old is shown)
    next_id = max(own.next_id for _, _, own in made)
    patterns = {pattern.id: pattern for _, _, own in reversed(made) for pattern in own.patterns}
    form = msgspec.structs.replace(form, next_id=next_id, patterns=tuple(patterns.values()))
    takes = tuple(
        Take(old.id, old.name, old.text, content, None if _same(own, form) else own) for old, content, own in made
    )
    return Whole(form, takes, file.take, max(file.last_take, *(t.id for t in takes)), _mix(file, shown.song))


def _apart(old: _Take10) -> tuple[Content, Form]:
    parts = Parts(numbered(old.song), old.setup, old.keeps, old.was, old.playing, old.memos, gone=old.gone)
    return put(Content(), Form(), parts)


def _same(one: Form, other: Form) -> bool:
    """Whether two takes share what is written; hands, shapes and notes on the song are the shown one's."""

    def bare(form: Form) -> Form:
        found: Form = msgspec.structs.replace(
            form, next_id=1, patterns=(), player=Form().player, memo=form.memo or other.memo or one.memo
        )
        return found

    return bare(one) == bare(other)


def _mix(file: _File10, song: Song) -> tuple[Choice, ...]:
    """What the mix played: where nothing was chosen, the take that was shown."""
    if not file.others:
        return ()
    chosen = {(choice.section, choice.turn) for choice in file.mix}
    rest = (Choice(*own, file.take) for own in passes_of(numbered(song)) if own not in chosen)
    return (*file.mix, *rest)
