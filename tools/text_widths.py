"""Write the advance widths of the shipped fonts, by which sheets are laid out without Qt, and their outlines' bounds for
the engraver, which would space words by another font: `python -m tools.text_widths`.
"""

from __future__ import annotations

import json
from pathlib import Path

from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont

FONTS = Path("yellow_hinge/assets/fonts")
TARGET = Path("yellow_hinge/core/sheet/widths.json")
ENGRAVING = Path("yellow_hinge/assets/engraving")
OWN_FORMS = {0x266D: 0xEA64, 0x266E: 0xEA65, 0x266F: 0xEA66}  # how the engraver calls signs in words
# Latin with its additions, Greek, Cyrillic, punctuation, signs; what else a player writes counts as an em.
RANGES = ((0x20, 0x180), (0x1E00, 0x1F00), (0x370, 0x530), (0x2000, 0x2070), (0x20A0, 0x20C0), (0x2100, 0x2400),
          (0x25A0, 0x2700))  # fmt: skip


def widths(name: str, signs: str = "HingeSigns.ttf") -> dict[str, int]:
    """Advance widths in thousandths of an em by character; those of the signs' font where the text font has none."""
    found: dict[str, int] = {}
    for file in (signs, name):
        font = TTFont(FONTS / file)
        per_em, cmap, metrics = font["head"].unitsPerEm, font.getBestCmap(), font["hmtx"]
        for code, glyph in cmap.items():
            if any(low <= code < high for low, high in RANGES):
                found[chr(code)] = round(metrics[glyph][0] * 1000 / per_em)
    return dict(sorted(found.items()))


def bounds(name: str, signs: str = "HingeSigns.ttf") -> str:
    """The engraver's table of a font: code, bounds and advance of every character in units of the em."""
    rows = []
    for file in (signs, name):
        font = TTFont(FONTS / file)
        per_em, cmap, glyphs = font["head"].unitsPerEm, font.getBestCmap(), font.getGlyphSet()
        for code, glyph in sorted(cmap.items()):
            if code not in OWN_FORMS and not any(low <= code < high for low, high in RANGES):
                continue
            pen = BoundsPen(glyphs)
            glyphs[glyph].draw(pen)
            x0, y0, x1, y1 = (round(value * 2048 / per_em) for value in pen.bounds or (0, 0, 0, 0))
            wide = round(glyphs[glyph].width * 2048 / per_em)
            for own in (code, OWN_FORMS.get(code)):
                if own is not None:
                    rows.append(f'   <g c="{own:X}" x="{x0}" y="{y0}" w="{x1 - x0}" h="{y1 - y0}" h-a-x="{wide}" />')
    head = '<?xml version="1.0" encoding="UTF-8"?>\n<bounding-boxes font-family="Times" units-per-em="2048">\n'
    return head + "\n".join(rows) + "\n</bounding-boxes>\n"


def main() -> None:
    """Write the tables."""
    ENGRAVING.mkdir(exist_ok=True)
    for weight in ("Regular", "SemiBold"):
        (ENGRAVING / f"{weight}.xml").write_text(bounds(f"Inter-{weight}.otf"))
    table = {"regular": widths("Inter-Regular.otf"), "bold": widths("Inter-SemiBold.otf")}
    TARGET.write_text(json.dumps(table, ensure_ascii=True, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
