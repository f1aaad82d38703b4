"""Rows of chords over words as bars: by bar lines, by counts, else a bar for every chord until more is known."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator
from itertools import pairwise
from typing import NamedTuple

from yellow_hinge.io.texts.over_words import BAR, COUNT, SAME, TIMES, cut_words, is_sign

_LONGER = 1.5  # how much longer the words of a line may be that has twice the chords in the same bars
_MOST_TIMES, _MOST_BEATS = 16, 64
Found = list[tuple[int, str]]  # the words of a row with their columns
Symbol = Callable[[int, str], str]


class RowChord(NamedTuple):
    """A chord with its words; `beats` where they are counted, else None."""

    symbol: str
    cue: str
    beats: int | None = None


class Row(NamedTuple):
    """A line of chords bar by bar; `guessed`: nothing says where its bars are. `words` is how long what is sung is."""

    bars: list[list[RowChord]]
    guessed: bool
    words: int


def row_of(found: Found, words: str, symbol: Symbol, beats: int, before: list[RowChord]) -> list[Row]:
    """The chords of a line with the words below them, as often as it is played. `symbol` reads a word, `beats` are
    those of a bar, `before` the bar before this line.
    """
    named = _named(found, words, symbol)
    barred = any(BAR.fullmatch(word) for _, word in found)
    counted = _is_counted(found, barred)
    bars = _in_beats(list(_counted(found, named)), beats) if counted else _bars(found, named, barred, before)
    length = len("".join(words.split()))
    return [Row([bar for bar in bars if bar], not (barred or counted), length)] * _times(found)


def _is_counted(found: Found, barred: bool) -> bool:
    """Whether beats are counted: by numbers, which say more than bar lines, or by strokes where no bar lines are."""
    counts = [word for _, word in found if COUNT.fullmatch(word)]
    return any(word.strip("/") for word in counts) or (bool(counts) and not barred)


def _named(found: Found, words: str, symbol: Symbol) -> dict[int, RowChord]:
    """The chords of a line by their columns."""
    chords = [(column, symbol(column, word)) for column, word in found if not is_sign(word)]
    cues = cut_words(words, [column for column, _ in chords])
    return {column: RowChord(sign, cue) for (column, sign), cue in zip(chords, cues, strict=False)}


def _times(found: Found) -> int:
    """How often a row is played: by a word such as x2, or by repeat signs around it."""
    said = [match for _, word in reversed(found) if (match := TIMES.fullmatch(word))]
    times = int(said[0][1] or said[0][2]) if said else 1
    if times == 1 and found[0][1].endswith("|:") and found[-1][1].startswith(":|"):
        return 2
    return max(1, min(_MOST_TIMES, times))


def _bars(found: Found, named: dict[int, RowChord], barred: bool, before: list[RowChord]) -> list[list[RowChord]]:
    """The chords of a line bar by bar; without bar lines each is one."""
    bars: list[list[RowChord]] = [[]]
    for column, word in found:
        if BAR.fullmatch(word):
            bars.append([])
            continue
        if word == SAME:
            last = next((bar for bar in reversed(bars[:-1]) if bar), before)
            bars[-1] = [chord._replace(cue="") for chord in last]
        elif not is_sign(word):
            bars[-1].append(named[column])
        else:
            continue
        bars += [] if barred else [[]]
    return bars


def _counted(found: Found, named: dict[int, RowChord]) -> Iterator[RowChord]:
    """The chords of a line whose beats are counted, as in "C / / / G(2)"."""
    chord: RowChord | None = None
    for column, word in found:
        count = COUNT.fullmatch(word)
        if count and chord is not None:
            beats = int(count[1]) if count[1] else (chord.beats or 1) + len(word)
            chord = chord._replace(beats=max(1, min(_MOST_BEATS, beats)))
        elif not is_sign(word):
            if chord is not None:
                yield chord
            chord = named[column]
    if chord is not None:
        yield chord


def _in_beats(row: list[RowChord], beats: int) -> list[list[RowChord]]:
    """Counted chords in bars; one that is longer than what is left goes on in the next bar."""
    bars: list[list[RowChord]] = [[]]
    room = beats
    for chord in row:
        left, cue = chord.beats or 1, chord.cue
        while left:
            part = min(left, room)
            bars[-1].append(chord._replace(beats=part, cue=cue))
            left, room, cue = left - part, room - part, ""
            if not room:
                bars.append([])
                room = beats
    return bars


# --- bars that nothing says ---


def settled(rows: list[Row], a_line: int) -> list[list[RowChord]]:
    """The bars of a section: of lines whose bars nothing says as many as the player says, else a bar for every chord;
    two chords a bar in a line that has twice as many as the others over words as long.
    """
    if a_line:
        return [bar for row in rows for bar in (_spread(_chords(row), a_line) if row.guessed else row.bars)]
    usual, longest = _usual(rows)
    found: list[list[RowChord]] = []
    for row in rows:
        chords = _chords(row)
        twice = row.guessed and usual > 1 and len(chords) == 2 * usual and 0 < row.words <= longest
        found += [chords[n : n + 2] for n in range(0, len(chords), 2)] if twice else row.bars
    return found


def _usual(rows: list[Row]) -> tuple[int, float]:
    """How many chords most lines have, and how long the words of a line may be that are sung in as many bars."""
    guessed = [row for row in rows if row.guessed]
    if not guessed:
        return 0, 0.0
    usual = Counter(len(row.bars) for row in guessed).most_common(1)[0][0]
    lengths = [row.words for row in guessed if len(row.bars) == usual and row.words]
    return usual, _LONGER * sum(lengths) / len(lengths) if len(lengths) > 1 else 0.0


def _chords(row: Row) -> list[RowChord]:
    return [chord for bar in row.bars for chord in bar]


def _spread(chords: list[RowChord], bars: int) -> list[list[RowChord]]:
    """The chords of a line over so many bars, as evenly as they go."""
    if len(chords) >= bars:
        edges = [round(n * len(chords) / bars) for n in range(bars + 1)]
        return [chords[a:b] for a, b in pairwise(edges) if b > a]
    edges = [round(n * bars / len(chords)) for n in range(len(chords) + 1)]
    rows = zip(chords, pairwise(edges), strict=True)
    return [[chord._replace(cue=chord.cue if n == a else "")] for chord, (a, b) in rows for n in range(a, b)]
