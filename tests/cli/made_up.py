"""Made-up charts of everything that a chart can hold, and what a few verbs asked at random say of each: a chord's
neighbours, meters, repeats, tunes and wishes that nobody thought of stand beside each other.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory
from zlib import crc32

ROOTS = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")
KINDS = (
    "", "", "m", "7", "m7", "maj7", "m7b5", "dim7", "sus4", "7sus4", "6", "m6", "9", "m9", "maj9", "13", "7b9", "7#9",
    "7#5", "add9", "m11", "aug", "69", "mmaj7", "13(b9,#11)", "5", "2", "maj7#11",
)  # fmt: skip
NUMBERS = ("1", "2m7", "57", "4", "6m", "5/7", "b7", "3m7", "1maj7", "V7/ii", "ii7", "V65", "N6", "bIII", "iv", "%")
METERS = {"4/4": 4, "3/4": 3, "6/8": 2, "5/4": 5, "12/8": 4, "2/2": 2}
KEYS = ("C", "Am", "Eb", "F# minor", "D dorian", "Bb", "A", "G mixolydian", "Db", "E minor")
MANNERS = ("hymn", "pop", "rhythm-and-blues", "gospel", "jazz-with-bass", "jazz-alone", "solo-ballad", "modal")
WORDS = ("rope", "lamp and oar", "every one a name", "salt", "fog / on the pier", "gull")
ENDINGS = ("mid", "musicxml", "cho", "txt", "csv", "json", "chart", "hinge", "svg")
SHEETS = ("cheat", "staves", "cheat", "cheat")


def _symbol(by: Random) -> str:
    if by.random() < 0.15:
        return by.choice(NUMBERS)
    bass = f"/{by.choice(ROOTS)}" if by.random() < 0.15 else ""
    return "N.C." if by.random() < 0.02 else by.choice(ROOTS) + by.choice(KINDS) + bass


def _bar(by: Random, beats: int, first: bool) -> str:
    count = by.choice((1, 1, 1, 2, 2, min(3, beats)))
    symbols = [_symbol(by) for _ in range(count)]
    if first or count > 1:
        symbols = [symbol if symbol != "%" else "1" for symbol in symbols]
    if count == 2 and beats > 2 and by.random() < 0.4:
        return f"{symbols[0]}:{beats - 1} {symbols[1]}:1"
    return " ".join(symbols)


def _tune(by: Random, beats: int) -> str:
    """Notes of a bar: with octaves or without, evenly or with beats, tied and rests."""
    if by.random() < 0.2:
        return f"r:{beats}"
    octave = by.choice(("", "4", "5"))
    notes = [by.choice("CDEFGAB") + by.choice(("", "", "", "b", "#")) + octave for _ in range(by.choice((1, 2, 3)))]
    if by.random() < 0.5:
        return " ".join(notes)
    shares = {1: (beats,), 2: (beats - 0.5, 0.5), 3: (beats - 1, 0.5, 0.5)}[len(notes)]
    tie = "~" if by.random() < 0.1 else ""
    return " ".join(f"{note}:{share:g}" for note, share in zip(notes, shares, strict=True)) + tie


def _section(by: Random, name: str, beats: int) -> Iterator[str]:
    yield f"[{name}]"
    if by.random() < 0.15:
        yield f"key: {by.choice(KEYS)}"
    for _ in range(by.choice((1, 2, 2))):
        count = by.choice((2, 4, 4))
        bars = [_bar(by, beats, number == 0) for number in range(count)]
        row = f"| {' | '.join(bars)} |"
        ends = by.random()
        if ends < 0.15:
            row = f"|: {' | '.join(bars)} :|{by.choice(('', 'x3'))}"
        elif ends < 0.25:
            row = f"|: {' | '.join(bars)} |1. {_bar(by, beats, True)} :|2. {_bar(by, beats, True)} ||"
            count += 2
        yield row
        if by.random() < 0.5:
            yield f"tune: | {' | '.join(_tune(by, beats) for _ in range(count))} |"
        if by.random() < 0.3:
            yield f"cue: | {' | '.join(by.choice(WORDS).split(' / ')[0] for _ in range(count))} |"


def chart(by: Random) -> str:
    """A made-up chart."""
    meter = by.choice(list(METERS))
    rows = [f"title: {by.choice(WORDS).split(' / ')[0].title()}", f"meter: {meter}", f"tempo: {by.randint(50, 210)}"]
    rows += [f"key: {by.choice(KEYS)}"] if by.random() < 0.9 else []
    for name, values in {
        "manner": MANNERS, "colour": "0123", "bass": ("theirs",), "swing": ("swung", "light", "58"),
    }.items():  # fmt: skip
        rows += [f"{name}: {by.choice(values)}"] if by.random() < 0.25 else []
    names = ["Verse", "Bridge", "Verse", "End"][: by.randint(1, 4)]
    for number, name in enumerate(names):
        again = name in names[:number] and by.random() < 0.7
        rows += [f"[{name}]"] if again else _section(by, name, METERS[meter])
    return "\n".join(rows) + "\n"


def asked(by: Random) -> Iterator[tuple[str, ...]]:
    """Words after `yellow-hinge` about a chart."""
    manner = ("--manner", by.choice(MANNERS)) if by.random() < 0.7 else ()
    more = by.choice(
        ((), ("--loop",), ("--vary",), ("--left-reach", "8"), ("--key", by.choice(KEYS)), ("--explain",), ("--roll",),
         ("--wants", "on"), ("--ahead", "on"), ("--singer", "G3:D5"), ("--boldness", str(by.randint(1, 4))))
    )  # fmt: skip
    yield ("voice", "SONG", "--json", *manner, *more)
    yield ("voice", "SONG", *manner, "--colour", by.choice("0123"))
    yield ("swaps", "SONG", *manner, "--at", by.choice(("Verse:1:1", "Verse:2:1", "1:1:1")))
    for ending in by.sample(ENDINGS, 3):
        sheet = ("--sheet", by.choice(SHEETS), "--size", by.choice("sml")) if by.random() < 0.7 else ()
        yield ("export", "SONG", *manner, *sheet, "--to", f"OUT.{ending}")
    yield by.choice((
        ("solo", "SONG", "--at", "Verse", "--bold", by.choice("0123")), ("keys", "SONG", "--at", "Verse:1:1"),
        ("drill", "SONG", "--at", "Verse:1"), ("check", "SONG"),
    ))  # fmt: skip


def made_up(said: Callable[[tuple[str, ...]], str], seed: str) -> str:
    """What is said of a made-up chart, a row each: the words, how many lines, a sum of them, and the first hands."""
    by = Random(int(seed))
    text = chart(by)
    rows = [text]
    with TemporaryDirectory() as folder:
        song = Path(folder) / "made-up.chart"
        song.write_text(text, "utf-8")
        for words in asked(by):
            answer = said(tuple(str(song) if word == "SONG" else word for word in words)).replace(folder, "")
            lines = answer.splitlines()
            rows.append(f"{' '.join(words)}: {len(lines)} lines, {crc32(answer.encode()):08x}\n")
    return "".join(rows)
