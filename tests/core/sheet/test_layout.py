"""Sheets as they lie on the page: nothing outside, nothing over anything else, every chord once, whatever the song."""

from collections import Counter

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from PySide6.QtGui import QFontMetricsF

from tests import examples
from tests.core.sheet.charts import charts, opened, solved
from tests.songs import BUILDER
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.sheet.asks import KINDS, PAPERS, SHOWN, SIZES, SheetAsk, read_shown
from yellow_hinge.core.sheet.cheat import cheat_pages
from yellow_hinge.core.sheet.content import Writer, content, otherwise
from yellow_hinge.core.sheet.page import MM_PER_POINT, text_width, wrapped
from yellow_hinge.core.sheet.staves.breaking import short_lines
from yellow_hinge.core.sheet.symbols import symbol_pages
from yellow_hinge.io.songs.demo import demo_names, demo_song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.paper.painter import UNIT, _font

SLACK = 0.12  # mm
asks = st.builds(
    SheetAsk,
    kind=st.sampled_from(("cheat", "line")),
    size=st.sampled_from(tuple(SIZES)),
    columns=st.sampled_from((0, 0, 1, 3, 8)),
    paper=st.sampled_from(tuple(PAPERS)),
    landscape=st.booleans(),
    show=st.sets(st.sampled_from(tuple(SHOWN))).map(lambda parts: tuple(sorted(parts))),
)


def laid_out(state, ask):
    found = content(Writer(state.song, solved(state, BUILDER), state.memos, False, state.playing), "facts")
    return found, (symbol_pages if ask.kind == "line" else cheat_pages)(ask, found)


def ink(text):
    """Where the letters of a text lie: their own width, and the height of capitals with what hangs below."""
    wide = text_width(text.words, text.size, text.bold)
    x = text.x + {"left": 0.0, "centre": (text.w - wide) / 2, "right": text.w - wide}[text.align]
    return x, text.y + text.h * 0.2, x + wide, text.y + text.h * 0.84


def overlapping(page):
    """Pairs of texts whose letters lie over each other."""
    found = sorted((ink(text), text.words) for text in page.texts)
    pairs = []
    for index, (one, words) in enumerate(found):
        for other, more in found[index + 1 :]:
            if other[0] >= one[2] - SLACK:
                break
            if one[1] < other[3] - SLACK and other[1] < one[3] - SLACK:
                pairs.append((words, more))
    return pairs


def outside(page):
    found = [text.words for text in page.texts if text_width(text.words, text.size, text.bold) > text.w + SLACK]
    for text in page.texts:
        if text.x < 0 or text.y < 0 or text.x + text.w > page.w + SLACK or text.y + text.h > page.h + SLACK:
            found.append(text.words)
    for box in page.boxes:
        if box.x < -SLACK or box.y < -SLACK or box.x + box.w > page.w + SLACK or box.y + box.h > page.h + SLACK:
            found.append(repr(box))
    return found


CROWDED = (  # eight columns of large print on a small page: a row would be taller than that
    "title: Short\nkey: C\n\n[A]\n| C | C | C | C | C | C | C C C |\n"
    "cue: | home home home a-very-long-word-that-nobody-would-ever-sing-in-one-breath |  |  |  |  |  |  |\n"
)


@settings(max_examples=examples(25))
@example(CROWDED, SheetAsk(size="stage", columns=8, paper="tablet", landscape=True, show=tuple(SHOWN)))
@given(charts(), asks)
def test_nothing_lies_outside_or_over_anything_else(text, ask):
    _, pages = laid_out(opened(text), ask)
    for page in pages:
        assert not outside(page)
        assert not overlapping(page)


@settings(max_examples=examples(25))
@given(charts(), asks)
def test_every_chord_and_repeat_is_on_the_sheet_once(text, ask):
    state = opened(text)
    found, pages = laid_out(state, ask)
    written = [slot for section in state.song.sections for bar in section.bars for slot in bar.slots]
    cells = [cell for part in found.parts if not part.again for bar in part.measures for cell in bar.cells]
    assert Counter(cell.slot for cell in cells) == Counter(slot.id for slot in written)
    assert [cell.symbol for cell in cells] == [pretty_signs(slot.symbol) for slot in written]
    areas = Counter(area.voicing for page in pages for area in page.areas)
    again = [cell for part in found.parts if part.again for bar in part.measures for cell in bar.cells]
    shown = [*cells, *(again if ask.kind == "cheat" else ())]
    assert areas == Counter(cell.voicing for cell in shown if cell.voicing >= 0)
    bars = [bar for section in state.song.sections for bar in section.bars]
    closes = [bar.repeats for bar in bars if bar.repeats > 1]
    times = Counter(text.words for page in pages for text in page.texts if "×" in text.words)
    assert sum(times.values()) == sum(1 for count in closes if count > 2)
    dots = sum(box.shape == "round" and abs(box.w - 0.8) < 1e-9 for page in pages for box in page.boxes)
    assert dots >= 2 * (len(closes) + sum(bar.opens for bar in bars))


def test_three_hundred_chords_fill_their_pages_without_a_gap():
    bars = " | ".join(["Am7", "Dm9", "G13", "Cmaj7"] * 75)
    _, pages = laid_out(opened(f"[A]\n| {bars} |\n", False), SheetAsk())
    assert sum(len(page.areas) for page in pages) == 300
    for page in pages[:-1]:
        rows = sorted({round(area.y, 1) for area in page.areas})
        assert page.h - max(area.y + area.h for area in page.areas) < 2 * (rows[1] - rows[0])
    assert not any(overlapping(page) or outside(page) for page in pages)


@given(st.text("ABCabcxyz é♭♯△°17/()+-.,…»×–Жλ", max_size=40), st.floats(5, 40), st.booleans())
def test_widths_are_those_of_the_font_that_paints(words, size, bold):
    from yellow_hinge.paper.fonts import load_fonts

    load_fonts()
    units = round(size * MM_PER_POINT * UNIT)
    painted = QFontMetricsF(_font(units, bold)).horizontalAdvance(words) / UNIT
    assert text_width(words, units / UNIT / MM_PER_POINT, bold) == pytest.approx(painted, rel=0.004, abs=0.02)


@given(st.lists(st.sampled_from(("la", "supercalifragilisticexpialidocious" * 3, "so")), max_size=30), st.floats(8, 60))
def test_wrapped_words_fit_and_none_is_lost(words, room):
    lines = wrapped(" ".join(words), 9.0, room, most=10_000)
    assert all(text_width(line, 9.0) <= room + 1e-6 for line in lines)
    assert "".join(lines).replace(" ", "") == "".join(words)
    few = wrapped(" ".join(words), 9.0, room, most=2)
    assert len(few) <= 2
    assert all(text_width(line, 9.0) <= room + 1e-6 for line in few)


def test_what_later_passes_play_otherwise_is_told():
    state = opened("[A]\n|: C | F | G7 :|\n[B]\n| Am | Dm |\n[A]\n", False)
    solution = solved(state, BUILDER)
    writer = Writer(state.song, solution)
    found = content(writer, "")
    first = {v.moment: v for v in solution.voicings}
    for slot in (s.id for bar in state.song.sections[0].bars for s in bar.slots):
        one, two = writer.passes[0, slot]
        differs = first[one].both != first[two].both
        cell = next(c for bar in found.parts[0].measures for c in bar.cells if c.slot == slot)
        assert [o.when for o in cell.otherwise] == (["2nd time"] if differs else [])
        if differs:
            keys = (*cell.otherwise[0].left, *cell.otherwise[0].right)
            assert tuple(key.midi for key in keys) == (*first[two].left, *first[two].right)
    assert found.parts[2].again
    assert all(cell.otherwise for part in found.parts for bar in part.measures for cell in bar.cells) is False
    told = otherwise(found)
    assert [part.name for part in told if part.again] == ["A"]


@pytest.mark.parametrize("name", demo_names()[:4])
def test_cells_are_the_hands_of_the_solution(name):
    from yellow_hinge.app.edits.state import state_of

    state = state_of(song_file(demo_song(name)))
    solution = solved(state, BUILDER)
    found = content(Writer(state.song, solution), "")
    for cell in (c for part in found.parts for bar in part.measures for c in bar.cells if c.voicing >= 0):
        voicing = solution.voicings[cell.voicing]
        for hand, keys in (("left", cell.left), ("right", cell.right)):
            assert tuple(key.midi for key in keys) == voicing.both.of(hand)
            assert tuple(int(key.finger) for key in keys) == tuple(voicing.fingers.of(hand))
            assert [key.degree for key in keys] == [pretty_signs(voicing.chord.degree_of(k.midi)) for k in keys]
            before = solution.voicings[cell.voicing - 1].both.of(hand) if cell.voicing else ()
            assert [key.stays for key in keys] == [key.midi in before for key in keys]


def test_choices_that_are_none_are_refused_by_name():
    for wrong in ({"kind": "poster"}, {"size": "xxl"}, {"paper": "a9"}, {"columns": 9}, {"key": "H#"}):
        with pytest.raises(UserError):
            SheetAsk(**wrong)
    assert read_shown("fingers, cues") == ("fingers", "cues")
    with pytest.raises(UserError, match="keyboards"):
        read_shown("fingers,smells")
    assert set(KINDS) == {"cheat", "staves", "line"}


@pytest.mark.parametrize(("beats", "dots"), [(("1.5", "2.5"), 0), (("2", "2"), 4)])
def test_beats_are_dots_where_they_are_whole_and_written_where_not(beats, dots):
    chart = f"| C:{beats[0]} F:{beats[1]} |\n"
    _, (page, *_) = laid_out(opened(chart, False), SheetAsk(columns=1, landscape=True, show=()))
    assert sum(box.shape == "round" and box.role == "muted" for box in page.boxes) == dots
    assert [text.words for text in page.texts if text.words in beats] == ([] if dots else list(beats))


def test_a_line_that_is_no_whole_phrase_and_too_short_stays_as_narrow_as_it_is():
    rooms = [15.0] * 9
    assert short_lines(frozenset({4, 6, 7}), rooms, 200.0, 0) == {1, 2, 3}
    assert short_lines(frozenset({4, 6, 7}), rooms, 200.0, 2) == {2}
    assert short_lines(frozenset({4, 6, 7}), rooms, 70.0, 0) == {2}
