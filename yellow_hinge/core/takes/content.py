"""What a take holds beside its name: taken apart and put together."""

from __future__ import annotations

from typing import Any

import msgspec

from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import WHOLE_SONG
from yellow_hinge.core.song.following import Piece
from yellow_hinge.core.song.song import Memo, Song, Was
from yellow_hinge.core.takes.form import Form, chords_of, form_of
from yellow_hinge.core.takes.take import Content, Take, Whole
from yellow_hinge.core.takes.things import FILLS, HELD, KEEPS, LINES, MEMOS, PLAYED, WAS, WISHES, Things


def bare_setup(setup: Setup) -> Setup:
    """A setup without what is asked of places or by patterns, and without who plays."""
    found: Setup = msgspec.structs.replace(setup, player=Player(), wishes=(), held=(), wanted=())
    return found


class Parts(msgspec.Struct, frozen=True):
    """A take as those who edit it see it; None leaves what is there."""

    song: Song | None = None
    setup: Setup | None = None
    keeps: tuple[Keep, ...] | None = None
    was: tuple[Was, ...] | None = None
    playing: Playing | None = None
    memos: tuple[Memo, ...] | None = None
    things: Things | None = None
    gone: tuple[Piece, ...] | None = None


def _with_memos(things: Things, memos: tuple[Memo, ...]) -> tuple[Things, str]:
    """The memos of chords among a take's things, and the song's own."""
    own = tuple(memo for memo in memos if memo.slot != WHOLE_SONG)
    return things.put(MEMOS, own), next((memo.words for memo in memos if memo.slot == WHOLE_SONG), "")


def put(content: Content, form: Form, parts: Parts) -> tuple[Content, Form]:
    """A take's content and form with some of its parts changed."""
    things = content.things if parts.things is None else parts.things
    own: dict[str, Any] = {}
    shared: dict[str, Any] = {}
    if parts.setup is not None:
        things = things.put(WISHES, parts.setup.wishes).put(HELD, parts.setup.held)
        own["setup"], shared["player"] = bare_setup(parts.setup), parts.setup.player
    if parts.playing is not None:
        things = things.put(PLAYED, parts.playing.wishes).put(FILLS, parts.playing.fills)
        things = things.put(LINES, parts.playing.lines)
        shared |= {"patterns": parts.playing.patterns, "sounds": parts.playing.sounds}
    if parts.keeps is not None:
        things = things.put(KEEPS, parts.keeps)
    if parts.was is not None:
        things = things.put(WAS, parts.was)
    if parts.memos is not None:
        things, shared["memo"] = _with_memos(things, parts.memos)
    if parts.gone is not None:
        own["gone"] = parts.gone
    if parts.song is not None:
        form = form_of(parts.song, form)
        own |= {"chords": chords_of(parts.song, content.chords), "asks": parts.song.asks}
    form = msgspec.structs.replace(form, **shared) if shared else form
    return msgspec.structs.replace(content, things=things, **own), form


def whole_of(song: Song, **parts: Any) -> Whole:
    """A song of one take."""
    content, form = put(Content(), Form(), Parts(song, **parts))
    return Whole(form, (Take(content=content),))
