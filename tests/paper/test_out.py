"""Pages as files, read back by other programs: the same words in PDF and SVG as on the page, fonts inside, sizes."""

import io
import struct
from collections import Counter
from xml.etree import ElementTree

import pypdf
import pytest
from hypothesis import given, settings

from tests import examples
from tests.core.sheet.charts import charts, opened, solved
from tests.songs import BUILDER
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.songs.demo import demo_song
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.paper import out


def pages_of(state, **asks):
    return sheet_pages(file_of(state), solved(state, BUILDER), SheetAsk(**asks))


def demo(name="last-boat-to-marrow"):
    return state_of(song_file(demo_song(name)))


def signs(words):
    return Counter("".join("".join(words).split()))


def pdf_signs(page):
    return signs(page.extract_text().replace("\u00a0", " "))


@settings(max_examples=examples(3))
@given(charts(3))
def test_pdf_and_svg_hold_the_words_of_the_page(text):
    for asks in ({"paper": "tablet"}, {"kind": "line", "landscape": True}):
        pages = pages_of(opened(text), **asks)
        found = pypdf.PdfReader(io.BytesIO(out.pdf_bytes(pages, "x")))
        assert len(found.pages) == len(pages)
        for page, there in zip(pages, found.pages, strict=True):
            wanted = signs(t.words for t in page.texts)
            assert pdf_signs(there) == wanted
            assert [float(v) for v in there.mediabox[2:]] == pytest.approx(
                [page.w / 25.4 * 72, page.h / 25.4 * 72], abs=1.0
            )
        drawn = out.svg_bytes(pages[-1], "x", "about")  # every page of it is made alike, and slowly
        assert b"@font-face" in drawn
        told = [e.text or "" for e in ElementTree.fromstring(drawn).iter("{http://www.w3.org/2000/svg}text")]
        assert signs(told) == signs(t.words for t in pages[-1].texts)


def test_words_that_stand_side_by_side_are_found_in_the_pdf():
    data = out.pdf_bytes(pages_of(demo()), "Last Boat to Marrow")
    found = pypdf.PdfReader(io.BytesIO(data))
    text = found.pages[0].extract_text()
    assert "Last Boat to Marrow" in text
    assert "Lamps along the landing" in text
    assert found.metadata.title == "Last Boat to Marrow"


def test_every_font_is_inside_the_pdf():
    found = pypdf.PdfReader(io.BytesIO(out.pdf_bytes(pages_of(demo(), kind="staves"), "x")))
    names = set()
    for page in found.pages:
        for font in page["/Resources"]["/Font"].values():
            inside = font.get_object()["/DescendantFonts"][0].get_object()["/FontDescriptor"].get_object()
            names.add(str(inside["/FontName"]))
            assert any(f"/FontFile{kind}" in inside for kind in ("", "2", "3"))
    assert any("Inter" in name for name in names)


def test_a_png_is_a_page_at_300_dots_to_the_inch():
    data = out.png_bytes(pages_of(demo())[0])
    assert data.startswith(b"\x89PNG")
    width, height = struct.unpack(">II", data[16:24])
    assert (width, round(height, -1)) == (2480, 3510)


def test_a_stopped_pdf_is_none():
    assert out.pdf_bytes(pages_of(demo()), "x", lambda share: True) == b""


def test_staves_hold_chords_words_and_fingers_inside_their_page():
    state = demo()
    pages = pages_of(state, kind="staves", show=("fingers", "cues", "tune", "notes"))
    words = Counter(text.words for page in pages for text in page.texts)
    for section in state.song.sections:
        for bar in section.bars:
            for slot in bar.slots:
                assert not slot.cue or words[slot.cue] >= 1
    wanted = Counter(out_symbol(slot.symbol) for s in state.song.sections for bar in s.bars for slot in bar.slots)
    assert all(words[symbol] == count for symbol, count in wanted.items())
    fingers = sum(count for word, count in words.items() if word in "12345")
    solution = solved(state, BUILDER)
    first = {v.here.slot_id: v for v in reversed(solution.voicings)}
    played = sum(len(v.left) + len(v.right) for v in first.values())
    numbers = sum(
        text.words in {"5", "9", "13", "17"} and text.role != "muted" for page in pages for text in page.texts
    )
    assert played <= fingers + numbers <= played + 12  # with numbers of bars and pages
    for page in pages:
        for text in page.texts:
            assert min(text.x, text.y) >= -0.1
            assert text.x + text.w <= page.w + 0.1
            assert text.y + text.h <= page.h + 0.1
        for outline in page.outlines:
            for _, numbers in outline.path:
                assert all(-1 <= x <= page.w + 1 for x in numbers[::2])
                assert all(-1 <= y <= page.h + 1 for y in numbers[1::2])


def out_symbol(symbol):
    from yellow_hinge.core.pitch.pitch import pretty_signs

    return pretty_signs(symbol)


def test_the_engraver_dying_is_a_bug_and_not_a_blank_sheet(monkeypatch):
    from yellow_hinge.io.apart import ReaderBugError
    from yellow_hinge.io.engraving import engraved

    monkeypatch.setattr(engraved, "run_apart", lambda *_: b"")
    with pytest.raises(ReaderBugError):
        pages_of(demo(), kind="staves")
