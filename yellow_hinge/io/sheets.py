"""A song's sheet as pages: what stands on it, laid out; staves are engraved."""

from __future__ import annotations

from collections.abc import Callable

from yellow_hinge.core.key import parse_key
from yellow_hinge.core.leading.solution import Solution
from yellow_hinge.core.pitch import pretty_signs
from yellow_hinge.core.rhythm.asks import Playing
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.cheat import Cheat, cheat_pages
from yellow_hinge.core.sheet.content import Content, Writer, content, otherwise
from yellow_hinge.core.sheet.flow import Flow
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.sheet.symbols import symbol_pages
from yellow_hinge.core.song import Memo, Song
from yellow_hinge.core.swing import swing_words
from yellow_hinge.io.engraved import UNIT, Reader, Transform, engrave
from yellow_hinge.io.musicxml_out import Notation, musicxml_bytes
from yellow_hinge.io.song_json import SongFile


def facts(song: Song, solution: Solution, take: str, playing: Playing) -> str:
    """The line under the title: key, meter, tempo, swing, whose bass, the take, and a keyboard's transpose."""
    words = [pretty_signs(song.key), str(song.meter), f"{song.tempo} beats a minute"]
    words += [swing_words(song.swing)] if song.swing else []
    words += ["bass by another player"] if not solution.setup.mine else []
    words += [take] if take else []
    if playing.sounds:
        sounds, by = parse_key(playing.sounds), playing.shift(song.the_key)
        words.append(f"sounds in {pretty_signs(str(sounds.tonic))}: transpose set to {by:+d}".replace("-", "−"))
    return "  ·  ".join(words)


STAVES = {"s": 0.66, "m": 0.8, "l": 1.0, "stage": 1.3}  # of the engraver's own size
HEAD = 2.0  # mm between a page's head and its staves


def sheet_pages(
    file: SongFile, solution: Solution, ask: SheetAsk, simple: bool = False, take: str = "",
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[Page, ...]:  # fmt: skip
    """The pages of a sheet; the song is in the key it is to be written in. Raises UserError, and OvertakenError where
    staves are wanted no more.
    """
    writer = Writer(file.song, solution, file.memos, simple)
    found = content(writer, facts(file.song, solution, take, file.playing))
    if ask.kind == "staves":
        return _staves(writer, file.playing, found, ask, cancelled)
    return symbol_pages(ask, found) if ask.kind == "line" else cheat_pages(ask, found)


def _staves(
    writer: Writer, playing: Playing, found: Content, ask: SheetAsk, cancelled: Callable[[], bool]
) -> tuple[Page, ...]:
    """Staves under the sheet's head, on as many pages as the engraver fills."""
    show = ask.shows
    memos = tuple(Memo(slot, words) for slot, words in writer.memos.items())
    flow = Flow(ask, found)
    scale, top = STAVES[ask.size], flow.y + HEAD
    wants = Notation(
        show("fingers"), show("cues"), show("tune"), show("notes"), True, flow.width / scale, ask.columns, ask.struck,
        show("pedal"),
    )  # fmt: skip
    score = musicxml_bytes(writer.song, writer.solution, memos, wants, playing)
    pages = engrave(score, flow.width / scale, (flow.bottom - top) / scale, cancelled)
    for number, svg in enumerate(pages):
        if number:
            flow.new_page()
        Reader(svg, flow.on, ask.margin).read(Transform(flow.left, top, UNIT * scale, UNIT * scale))
        flow.y = flow.on.foot + 3.0
    rest = Content(found.title, "", "", otherwise(found))
    Cheat(ask, rest, flow=flow).write()
    return flow.finish()
