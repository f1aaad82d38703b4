"""Rows of the Shapes lists: readings, basses, chords above, twelve keys, places in the song."""

from __future__ import annotations

from collections.abc import Sequence

from yellow_hinge.app.solving.of_shapes import Stand, moved
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.wish_words import COLOUR_LEVELS
from yellow_hinge.core.leading.families import Making
from yellow_hinge.core.leading.prices.hinge import Both
from yellow_hinge.core.leading.prices.reading import reads
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs
from yellow_hinge.core.reharm.shelf_fits import Fit
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import bar_number
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.naming import Reading, name_notes
from yellow_hinge.core.symbols.other_basses import over_basses, uppers_over
from yellow_hinge.core.symbols.writing import write_symbol
from yellow_hinge.ui.paint.notes import voicing_text
from yellow_hinge.ui.paint.rows import Row

STAND, FIT = "stand", "fit "  # what a row of the song's places names, and before its number one of the shelf
Notes = tuple[tuple[int, str], ...]


def in_hands(both: Both) -> Notes:
    """Keys with the hand that holds them."""
    return (*((midi, "left") for midi in both.left), *((midi, "right") for midi in both.right))


def hands_of(row: Row) -> Both:
    """The hands that a row sounds."""
    left, right = (tuple(midi for midi, own in row.notes if own == hand) for hand in ("left", "right"))
    return Both(left, right)


def reading_row(reading: Reading) -> Row:
    """A name for the notes: with its number, the degrees and why."""
    number = f"  ({reading.number})" if reading.number else ""
    title, words = f"{reading.symbol}{number}", f"{' '.join(reading.degrees)}; {reading.why}"
    return Row("", pretty_signs(title), pretty_signs(words), False, id=reading.symbol)


def bass_rows(hand: tuple[int, ...], key: Key) -> tuple[list[Row], list[tuple[str, Reading | None]]]:
    """A hand over the twelve basses, as rows and as (the bass, what they are together) for the ring."""
    rows, ring = [], []
    for found in over_basses(hand, key):
        name, reading = pretty_signs(str(spell_in_key(found.bass, key))), found.reading
        ring.append((name, reading))
        notes = in_hands(Both((36 + (found.bass - 36) % 12,), hand))
        if reading is None:
            rows.append(Row(name, "no usual name", "", False, notes=notes))
        else:
            title, words = pretty_signs(reading.symbol), pretty_signs(reading.why)
            rows.append(Row(name, title, words, True, notes=notes, id=reading.symbol))
    return rows, ring


def above_rows(left: tuple[int, ...], key: Key) -> list[Row]:
    """Triads and sevenths over a left hand, those that have a name."""
    rows = []
    for found in uppers_over(left, key):
        if found.reading is not None:
            names = " ".join(str(pitch_of(m, found.chord.note_of(m % 12))) for m in found.notes)
            title, words = pretty_signs(found.reading.symbol), pretty_signs(f"{names}; {found.reading.why}")
            notes, upper = in_hands(Both(left, found.notes)), pretty_signs(str(found.chord.root))
            rows.append(Row(upper, title, words, False, notes=notes, id=found.reading.symbol))
    return rows


def key_rows(both: Both) -> list[Row]:
    """Hands in all twelve keys, by half steps."""
    rows = []
    for by in range(12):
        there = moved(both, by if by <= 6 else by - 12)
        found = name_notes((*there.left, *there.right), None, None, 1) if there is not None else []
        if there is not None and found:
            chord, symbol = found[0].chord, found[0].symbol
            names = " ".join(str(pitch_of(m, chord.note_of(m % 12))) for m in (*there.left, *there.right))
            figure = f"+{by}" if by <= 6 else f"−{12 - by}"
            rows.append(Row(figure, pretty_signs(symbol), pretty_signs(names), False, notes=in_hands(there), id=symbol))
    return rows


def stand_rows(stands: Sequence[Stand], solution: Solution, song: Song) -> list[Row]:
    """Where hands could stand in the song, and what that costs."""
    rows = []
    for stand in stands:
        voicing = solution.voicings[stand.chord]
        bar, name = bar_number(song, voicing.here.origin, voicing.here.bar), song.sections[voicing.here.section].name
        by = f"moved by {stand.by:+d}; " if stand.by else ""
        words = f"{by}{name}, bar {bar}, costs {stand.more:+.1f}"
        notes = in_hands(stand.both)
        rows.append(Row(f"bar {bar}", voicing_text(voicing), words, stand.more <= 0, stand.chord, notes, None, STAND))
    return rows or [Row("", "Nowhere as it is", "no chord of the song is this one", False)]


def way_rows(ways: Sequence[Making], chord: Chord, key: Key, mine: bool) -> list[Row]:
    """Every family of shapes on a chord, each with an example and the least colour that it needs."""
    rows, symbol = list[Row](), write_symbol(chord)
    for number, way in enumerate(ways, 1):
        left, right = (" ".join(str(pitch_of(m, chord.note_of(m % 12))) for m in hand) or "rests" for hand in way.both)
        words = f"L {left}   R {right}; {COLOUR_LEVELS[way.colour]}; reads as {reads(way.both, chord, key, mine)}"
        notes = in_hands(way.both)
        rows.append(Row(str(number), way.shape.name, pretty_signs(words), False, notes=notes, id=symbol))
    return rows or [Row("", "No shape within your reach", "My hands has the reach", False)]


def idea_rows(solution: Solution, shape: str) -> list[Row]:
    """One shape on every written chord of a song, in the order in which they first come; others are said."""
    rows, seen = list[Row](), set[int]()
    for index, voicing in enumerate(solution.voicings):
        if voicing.here.slot_id in seen:
            continue
        seen.add(voicing.here.slot_id)
        names = (" ".join(str(pitch) for pitch in voicing.pitches(hand)) or "rests" for hand in ("left", "right"))
        left, right = names
        fits = voicing.family == shape
        words = f"L {left}   R {right}" + ("" if fits else "; not this shape: it does not fit here")
        notes = in_hands(voicing.both)
        rows.append(
            Row(str(len(rows) + 1), voicing_text(voicing), pretty_signs(words), fits, index, notes, None, STAND)
        )
    return rows


def shelf_rows(found: Sequence[Fit], solution: Solution) -> list[Row]:
    """What of the shelf fits from the selected chord on, the player's own first."""
    rows = list[Row]()
    for number, each in enumerate(found):
        part = solution.voicings[each.first : each.first + len(each.hands)]
        names = " ".join(voicing_text(voicing) for voicing in part)
        figure = "mine" if each.entry.mine else each.entry.kind
        words = f"{names}; {each.entry.words}" if each.entry.words else names
        notes, own = in_hands(each.hands[0]), each.entry.mine
        rows.append(Row(figure, each.entry.name, words, own, notes=notes, id=f"{FIT}{number}"))
    return rows or [Row("", "Nothing of the shelf fits here", "Shift+M puts the marked chords' hands on it", False)]
