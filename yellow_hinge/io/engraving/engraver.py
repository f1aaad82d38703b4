"""The process that engraves a score: `python -m yellow_hinge.io.engraving.engraver`. It reads one JSON document (the
score as MusicXML, the widths and the height of a page in hundredths of a millimetre) and writes one: for every width a
list of SVG pages.
"""

from __future__ import annotations

import json
import sys
import tempfile
from pathlib import Path

TEXT = "text"  # the folder with the bounds of the engraver's own font, by its names
FONTS = {"Times": "SemiBold", "Times-italic": "Regular", "Times-bold": "SemiBold", "Times-bold-italic": "SemiBold"}


def _resources(folder: Path) -> str:
    """The engraver's data with the bounds of our own text font in the place of its own."""
    import verovio

    from yellow_hinge.assets import ASSETS

    for entry in (Path(verovio.__file__).parent / "data").iterdir():
        if entry.name != TEXT:
            (folder / entry.name).symlink_to(entry)
    (folder / TEXT).mkdir()
    for name, weight in FONTS.items():
        (folder / TEXT / f"{name}.xml").symlink_to(ASSETS / "engraving" / f"{weight}.xml")
    return str(folder)


def engraved(score: str, width: int, height: int) -> list[str]:
    """The pages of a score as SVG."""
    import verovio

    verovio.enableLog(verovio.LOG_OFF)
    with tempfile.TemporaryDirectory() as folder:
        toolkit = verovio.toolkit(False)
        toolkit.setResourcePath(_resources(Path(folder)))
        toolkit.setOptions(
            {
                "pageWidth": width // 10, "pageHeight": height // 10, "scale": 100, "header": "none", "footer": "none",
                "breaks": "line", "pageMarginLeft": 0, "pageMarginRight": 0, "pageMarginTop": 0, "pageMarginBottom": 0,
                "xmlIdSeed": 1, "font": "Leipzig", "spacingSystem": 3, "spacingStaff": 7, "mnumInterval": 0,
                "adjustPageHeight": False, "svgAdditionalAttribute": ["note@pname", "note@oct"],
            }
        )  # fmt: skip
        if not toolkit.loadData(score):
            raise ValueError("the score cannot be engraved")
        return [toolkit.renderToSVG(page) for page in range(1, toolkit.getPageCount() + 1)]


def main() -> None:
    """Read standard input, tell standard output."""
    from yellow_hinge.io.child import bound, die_with

    parent, memory, seconds = sys.argv[1:]
    die_with(int(parent))
    bound(int(memory), float(seconds))
    asked = json.load(sys.stdin)
    sys.stdout.write(json.dumps([engraved(asked["score"], width, asked["height"]) for width in asked["widths"]]))


if __name__ == "__main__":
    main()
