"""The words of a MIDI file as cue words of its chords."""

from __future__ import annotations

import msgspec

from yellow_hinge.core.song.song import NO_CHORD
from yellow_hinge.io.imported import Onset
from yellow_hinge.io.midi.bars import Bars
from yellow_hinge.io.midi.tracks import Said

_EARLY = 0.2  # quarters that a syllable may come before its chord


def cues(lyrics: list[Said], bars: Bars, onsets: list[list[Onset]]) -> list[list[Onset]]:
    """The chords of every bar with the words sung over them."""
    if not lyrics:
        return onsets
    spaced = any(said.text[:1].isspace() or said.text[-1:].isspace() for said in lyrics)
    found = [list(row) for row in onsets]
    words: dict[tuple[int, int], list[str]] = {}
    for said in lyrics:
        bar = bars.at(said.at + _EARLY)
        here = bars.bars[bar]
        beat = (said.at + _EARLY - float(here.start)) / float(here.meter.beat_quarters)
        if not found[bar]:
            found[bar] = [Onset(here.length * 0, _before(found, bar))]
        place = max(0, sum(float(onset.at) <= beat for onset in found[bar]) - 1)
        words.setdefault((bar, place), []).append(_syllable(said.text, spaced))
    for (bar, place), parts in words.items():
        cue = " ".join("".join(parts).split())
        found[bar][place] = msgspec.structs.replace(found[bar][place], cue=cue)
    return found


def _before(rows: list[list[Onset]], bar: int) -> str:
    return next((row[-1].symbol for row in reversed(rows[:bar]) if row), NO_CHORD)


def _syllable(text: str, spaced: bool) -> str:
    """A syllable with the blank that follows it; / and \\ begin lines in files made for singing along."""
    text = text.replace("\r", " ").replace("\n", " ")
    for sign in ("/", "\\"):
        text = f" {text[1:]}" if text.startswith(sign) else text
    if spaced:
        return text
    return text[:-1] if text.endswith("-") else f"{text} "
