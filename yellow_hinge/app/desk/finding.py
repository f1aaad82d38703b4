"""What a player looks for in a song by typing: a chord, words, a note, bars, a key, how far, how fast."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.answer import Solution, Voicing
from yellow_hinge.core.pitch.key import Key, parse_key
from yellow_hinge.core.pitch.pitch import parse_pitch, plain_signs, pretty_signs
from yellow_hinge.core.song.song import Memo, Song
from yellow_hinge.core.song.timeline import bar_number

MOST = 40  # places that are told
_NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven")
_COUNT = rf"(\d+|{'|'.join(_NUMBERS)})"
_KEY = re.compile(
    r"(?:(?:in|to|into|play in|key|transpose to) )?([a-g])[ -]?(flat|sharp|b|#)?[ -]?(major|minor|maj|min|m)?", re.I
)
_WAY = re.compile(rf"(?:transpose )?(up|down|higher|lower)(?: by)? {_COUNT}(?: (?:half[ -]?steps?|semitones?))?", re.I)
_BARS = re.compile(r"(?:(loop|mark|practise|go to|play) )?(?:bars? )?(\d+)(?: ?(?:-|–|to|until) ?(\d+))?", re.I)
_TEMPO = re.compile(r"(?:tempo |at )?(\d{2,3})(?: bpm| beats(?: a minute)?)?", re.I)


class Find(NamedTuple):
    """A place in the song as it is played (of the solution), and why it was found."""

    place: int
    title: str
    why: str


class BarSpan(NamedTuple):
    """Bars that were typed, by their numbers, and what is to be done with them ("" for going there)."""

    first: int
    last: int
    do: str


def finds(solution: Solution, song: Song, memos: tuple[Memo, ...], words: str) -> list[Find]:
    """The chords that answer to words: by their symbol, their words, what the player noted, or a note of the tune or
    the hands with its octave; each where it is first played, the likeliest kind first.
    """
    wanted = plain_signs(words).casefold().strip()
    if not wanted:
        return []
    noted = {memo.slot: memo.words for memo in memos}
    slots = {slot.id: slot.cue for section in song.sections for bar in section.bars for slot in bar.slots}
    first: dict[int, int] = {}
    for place, voicing in enumerate(solution.voicings):
        first.setdefault(voicing.here.slot_id, place)
    midi = _midi(wanted)
    found: list[tuple[int, Find]] = []
    for slot, place in first.items():
        voicing = solution.voicings[place]
        for rank, why in _answers(voicing, wanted, midi, slots.get(slot, ""), noted.get(slot, "")):
            found.append((rank, Find(place, _title(song, voicing), why)))
            break
    return [find for _, find in sorted(found, key=lambda pair: pair[0])][:MOST]


def _title(song: Song, voicing: Voicing) -> str:
    here = voicing.here
    return pretty_signs(f"Bar {bar_number(song, here.origin, here.bar)}: {here.symbol}")


def _midi(wanted: str) -> int | None:
    """The key that a note with its octave names; a bare number is none."""
    try:
        return None if wanted.isdecimal() else parse_pitch(wanted).midi
    except UserError:
        return None


def _answers(voicing: Voicing, wanted: str, midi: int | None, cue: str, memo: str) -> Iterator[tuple[int, str]]:
    """(rank, why) for every way in which a chord answers, the best first."""
    symbol = plain_signs(voicing.here.symbol).casefold()
    if symbol == wanted:
        yield 0, "the chord"
    if wanted in cue.casefold():
        yield 1, f"words: {cue}"
    if wanted in memo.casefold():
        yield 1, f"note: {memo}"
    if midi is not None and midi in {tone.pitch.midi for tone in voicing.here.tune}:
        yield 2, "in the tune"
    if midi is not None and midi in (*voicing.left, *voicing.right):
        yield 3, "in the hands"
    if symbol.startswith(wanted):
        yield 4, "the chord"


def key_said(words: str) -> Key | None:
    """The key that was typed ("Eb major", "e flat", "in G"), None for none; a letter alone is one."""
    match = _KEY.fullmatch(plain_signs(words).strip())
    if match is None:
        return None
    sign = {"flat": "b", "sharp": "#"}.get((match[2] or "").lower(), match[2] or "")
    minor = match[3] is not None and (match[3] == "m" or match[3].lower().startswith("min"))
    try:
        return parse_key(f"{match[1].upper()}{sign.lower()} {'minor' if minor else 'major'}")
    except UserError:
        return None


def way_said(words: str) -> int | None:
    """The half steps that were typed ("up two", "down 3"), below 0 for down."""
    match = _WAY.fullmatch(words.strip())
    if match is None:
        return None
    count = int(match[2]) if match[2].isdecimal() else _NUMBERS.index(match[2].lower()) + 1
    by = count if match[1].lower() in ("up", "higher") else -count
    return by if 0 < abs(by) < 12 else None


def bars_said(words: str) -> BarSpan | None:
    """The bars that were typed ("bar 12", "loop 5-8")."""
    match = _BARS.fullmatch(plain_signs(words).strip())
    if match is None:
        return None
    first, last = int(match[2]), int(match[3] or match[2])
    do = (match[1] or "").lower()
    return BarSpan(min(first, last), max(first, last), "" if do in ("go to", "play") else do)


def tempo_said(words: str) -> int | None:
    """The beats a minute that were typed."""
    match = _TEMPO.fullmatch(words.strip())
    return int(match[1]) if match is not None else None


def span_places(solution: Solution, song: Song, span: BarSpan) -> range:
    """Where bars are first played, from the first to the last of them; empty where the song has none of them."""
    numbers = [bar_number(song, v.here.origin, v.here.bar) for v in solution.voicings]
    if span.first not in numbers or span.last not in numbers:
        return range(0)
    first = numbers.index(span.first)
    last = next((n for n in range(first, len(numbers)) if numbers[n] == span.last), None)
    if last is None:
        return range(0)
    while last + 1 < len(numbers) and numbers[last + 1] == span.last:
        last += 1
    return range(first, last + 1)
