"""The shipped fonts inside an SVG: of each weight the signs that its words use."""

from __future__ import annotations

import base64
import io
from functools import lru_cache

from yellow_hinge.assets import ASSETS

WEIGHTS = {False: (400, "Inter-Regular.otf"), True: (600, "Inter-SemiBold.otf")}
SIGNS = "HingeSigns.ttf"  # what the text fonts lack
FAMILY = "Inter"
_LAYOUT = {"GPOS", "GSUB", "GDEF"}


@lru_cache(maxsize=4)
def _known(name: str) -> frozenset[int]:
    """The code points that a font has."""
    from fontTools.ttLib import TTFont

    with TTFont(ASSETS / "fonts" / name, lazy=True) as font:
        return frozenset(font.getBestCmap())


@lru_cache(maxsize=64)
def _subset(name: str, codes: frozenset[int]) -> str:
    """A font with only some signs, in base64."""
    from fontTools.subset import Options, Subsetter
    from fontTools.ttLib import TTFont

    options = Options(layout_features=[], hinting=False, notdef_outline=True, name_IDs=[])
    made = io.BytesIO()
    with TTFont(ASSETS / "fonts" / name) as font:
        for table in _LAYOUT & set(font.keys()):  # large, read whole, and no feature of them is kept
            del font[table]
        subsetter = Subsetter(options)
        subsetter.populate(unicodes=codes)
        subsetter.subset(font)
        font.save(made)
    return base64.b64encode(made.getvalue()).decode()


def font_faces(words: dict[bool, set[str]]) -> str:
    """The style sheet with the fonts for words that are plain (False) and bold (True)."""
    found = []
    for bold, (weight, name) in WEIGHTS.items():
        codes = frozenset(ord(sign) for text in words.get(bold, ()) for sign in text)
        own, others = codes & _known(name), codes - _known(name) & _known(SIGNS)
        for font, some in ((name, own), (SIGNS, others)):
            if some:
                reach = ",".join(f"U+{code:X}" for code in sorted(some))
                data = _subset(font, frozenset(some))
                found.append(
                    f"@font-face{{font-family:{FAMILY};font-weight:{weight};unicode-range:{reach};"
                    f"src:url(data:font/sfnt;base64,{data})}}"
                )
    return f"<style>{''.join(found)}</style>" if found else ""
