"""A song's sheet as pages: what stands on it, laid out; staves are engraved."""

from __future__ import annotations

import itertools
from collections.abc import Callable

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.pitch.pitch import LETTERS, pretty_signs
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.sheet.as_struck import StruckBar, swing_said
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.sheet.cells import POINTS
from yellow_hinge.core.sheet.cheat import Cheat, cheat_pages
from yellow_hinge.core.sheet.content import SheetContent, Writer, content, otherwise
from yellow_hinge.core.sheet.flow import Flow
from yellow_hinge.core.sheet.page import Page
from yellow_hinge.core.sheet.staves.systems import chord_areas, note_areas, place_system
from yellow_hinge.core.sheet.symbols import symbol_pages
from yellow_hinge.core.song.song import Memo, Song
from yellow_hinge.core.song.swing import swing_words
from yellow_hinge.io.engraving.engraved import engraved_lines
from yellow_hinge.io.musicxml.writing import Notation, Score
from yellow_hinge.io.songs.migrations import SongFile


def facts(song: Song, solution: Solution, take: str, playing: Playing) -> str:
    """The line under the title: key, meter, tempo, swing, whose bass, the take, and a keyboard's transpose."""
    words = [pretty_signs(song.key), str(song.meter), f"{song.tempo} beats a minute"]
    words += list(filter(None, (swing_words(song.swing) if song.swing else swing_said(solution, song, playing),)))
    words += ["bass by another player"] if not solution.setup.mine else []
    words += [take] if take else []
    if playing.sounds:
        sounds, by = parse_key(playing.sounds), playing.shift(song.the_key)
        words.append(f"sounds in {pretty_signs(str(sounds.tonic))}: transpose set to {by:+d}".replace("-", "−"))
    return "  ·  ".join(words)


STAVES = {"s": 0.66, "m": 0.8, "l": 1.0, "stage": 1.3}  # of the engraver's own size
BRACE = 2.6  # mm left of the staves, at the engraver's own size


def sheet_pages(
    file: SongFile, solution: Solution, ask: SheetAsk, simple: bool = False, take: str = "",
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[Page, ...]:  # fmt: skip
    """The pages of a sheet; the song is in the key it is to be written in. Raises UserError, and OvertakenError where
    staves are wanted no more.
    """
    playing = file.playing if ask.shows("rhythm") else None
    writer = Writer(file.song, solution, file.memos, simple, playing, lines=file.playing.lines)
    found = content(writer, facts(file.song, solution, take, file.playing))
    if ask.kind == "staves":
        return _staves(writer, file.playing, found, ask, cancelled)
    return symbol_pages(ask, found) if ask.kind == "line" else cheat_pages(ask, found)


def _keys(bar: StruckBar) -> dict[str, int]:
    """The keys of a bar by their letter and octave."""
    sounds = itertools.chain.from_iterable(itertools.chain.from_iterable(bar.hands.values()))
    pitches = (pitch for sound in sounds for pitch in sound.pitches)
    return {f"{LETTERS[pitch.note.letter].lower()}{pitch.octave}": pitch.midi for pitch in pitches}


def _staves(
    writer: Writer, playing: Playing, found: SheetContent, ask: SheetAsk, cancelled: Callable[[], bool]
) -> tuple[Page, ...]:
    """Staves under the sheet's head, on as many pages as the engraver fills."""
    show = ask.shows
    memos = tuple(Memo(slot, words) for slot, words in writer.memos.items())
    flow = Flow(ask, found)
    scale = STAVES[ask.size]
    wide = flow.width - BRACE * scale
    wants = Notation(
        show("fingers"), show("cues"), show("tune"), show("notes"), True, wide / scale, ask.columns, ask.struck,
        show("pedal"), show("line"),
    )  # fmt: skip
    score = Score(writer.song, writer.solution, memos, wants, playing)
    places = {(v.here.section, v.here.slot_id): n for n, v in reversed([*enumerate(writer.solution.voicings)])}
    bars = zip(score.measures, score.struck, strict=True)
    for system in engraved_lines(score.bytes(), wide, scale, score.short, cancelled):
        own = [next(bars) for _ in system.bars]
        for bar, (made, struck) in zip(system.bars, own, strict=True):
            chords = chord_areas(bar, [places.get((m.section, m.slot_id), -1) for m in made.moments])
            system.on.areas += [*note_areas(bar, chords, _keys(struck), scale), *chords]
        if own and own[0][0].section:
            flow.heading(own[0][0].section, "", POINTS[ask.size] * 1.25, system.height)
        place_system(flow, system, flow.left + BRACE * scale)
    rest = SheetContent(found.title, "", "", otherwise(found))
    Cheat(ask, rest, flow=flow).write()
    return flow.finish()
