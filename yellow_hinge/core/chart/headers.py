"""The headers of a chart: their names, what else they are called, and the values that they set."""

from __future__ import annotations

import re
from fractions import Fraction

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.asking.wishes import NAME, OF_SONG, WISHES
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.song.song import TEMPOS, Song, parse_meter
from yellow_hinge.core.song.swing import read_swing
from yellow_hinge.core.song.words import LONGEST_NAME, LONGEST_TITLE, plain

ASKS = (*(kind.name for kind in OF_SONG if kind.header), "pattern")  # what a header may ask of the hands
HEADERS = ("title", "key", "meter", "tempo", "swing", "pickup", "names", *ASKS, "also")
LINES = ("tune", "cue")
# What headers and lines are called elsewhere.
ALSO_CALLED = {
    "titel": "title", "titre": "title", "titulo": "title", "song": "title", "name": "title", "tonart": "key",
    "tonality": "key", "takt": "meter", "time": "meter", "metre": "meter", "metrum": "meter", "bpm": "tempo",
    "speed": "tempo", "upbeat": "pickup", "auftakt": "pickup", "anacrusis": "pickup", "melody": "tune",
    "melodie": "tune", "lyrics": "cue", "words": "cue", "text": "cue", "cues": "cue", "tunes": "tune",
}  # fmt: skip


def german_names(value: str) -> bool:
    """Whether note names are German. Raises UserError."""
    if value.lower() not in ("german", "deutsch", "english", ""):
        raise UserError(f"{value[:20]!r}: names are german or english")
    return value.lower() in ("german", "deutsch")


def header_value(word: str, value: str, song: Song) -> dict[str, object]:
    """The fields of a song that a header sets. Raises UserError."""
    if word == "title":
        return {"title": plain(value, LONGEST_TITLE) or "Untitled"}
    if word == "key":
        return {"key": str(parse_key(value))}
    if word == "meter":
        return {"meter": parse_meter(value)}
    if word == "swing":
        return {"swing": read_swing(value)}
    if word in ASKS:
        return {"asks": (*(ask for ask in song.asks if ask[0] != word), (word, _ask(word, value)))}
    if word == "also":
        name, sign, words = value.partition("=")
        if not sign or not 0 < len(plain(name)) <= LONGEST_NAME:
            raise UserError("also: keeps a line of another program, written name = value")
        return {"extra": (*song.extra, (plain(name), plain(words)))}
    if word == "pickup":
        beats = beats_of(value) if re.fullmatch(r"\d{1,2}(\.\d{1,3}|/\d{1,2})?", value) else None
        if not beats or beats > song.meter.beats:
            raise UserError(f"{value[:12]!r} is no pickup; write the beats before the first whole bar, such as 1")
        return {"pickup": beats}
    if not value.isdecimal() or not TEMPOS[0] <= int(value[:6]) <= TEMPOS[1]:
        raise UserError(f"{value[:12]!r} is not a tempo; write beats per minute, {TEMPOS[0]} to {TEMPOS[1]}")
    return {"tempo": int(value)}


def _ask(word: str, value: str) -> str:
    """What a header asks for. Raises UserError."""
    found, kind = plain(value, LONGEST_NAME), WISHES.get(word)
    if not found:
        raise UserError(f"{word}: asks for a name")
    if kind is None or kind.form == NAME:
        return found
    try:
        return str(kind.valued(found))
    except UserError:
        raise UserError(f"{word}: asks for {kind.form.replace('|', ' or ')}") from None


def beats_of(text: str) -> Fraction | None:
    """Beats as they are written, 1.5 or 1/3; None where they divide by nothing."""
    try:
        return Fraction(text)
    except ZeroDivisionError:
        return None
