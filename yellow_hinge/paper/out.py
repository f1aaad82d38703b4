"""Pages as files: PDF, SVG and PNG. They need no display."""

from __future__ import annotations

import os
from collections.abc import Callable

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QRectF, QSize, QSizeF
from PySide6.QtGui import QGuiApplication, QImage, QImageWriter, QPageLayout, QPageSize, QPainter, QPdfWriter
from PySide6.QtSvg import QSvgGenerator

from yellow_hinge.core.sheet.page import Page
from yellow_hinge.paper.embedding import font_faces
from yellow_hinge.paper.fonts import load_fonts
from yellow_hinge.paper.painter import PRINT, UNIT, Inks, paint_page

DOTS = 300  # of a PNG to the inch
PER_INCH = round(25.4 * UNIT)  # a hundredth of a millimetre
Told = Callable[[float], bool]  # how much is done, from 0 to 1; it says whether to stop

_made: list[QGuiApplication] = []


def ready() -> None:
    """What painting needs: an application, where none runs yet, with the shipped fonts."""
    if QGuiApplication.instance() is None:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
        _made.append(QGuiApplication(["yellow-hinge"]))
    load_fonts()


def page_size(page: Page) -> QPageSize:
    """The size of a page as it lies."""
    return QPageSize(
        QSizeF(page.w, page.h), QPageSize.Unit.Millimeter, matchPolicy=QPageSize.SizeMatchPolicy.ExactMatch
    )


def pdf_bytes(pages: tuple[Page, ...], title: str, told: Told = lambda share: False) -> bytes:
    """All pages in one PDF with its fonts inside; b"" where it was stopped."""
    ready()
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setTitle(title)
    writer.setCreator("Yellow Hinge")
    writer.setResolution(PER_INCH)
    writer.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout.Unit.Millimeter)
    writer.setPageSize(page_size(pages[0]))
    painter = QPainter(writer)
    for number, page in enumerate(pages):
        if told(number / len(pages)):
            painter.end()
            return b""
        if number:
            writer.newPage()
        paint_page(painter, page, PRINT, ground=False)
    painter.end()
    return _with_blanks(bytes(buffer.data().data()))


def _with_blanks(data: bytes) -> bytes:
    """A PDF whose fonts say that the blank is a blank: Qt calls it a tab, and nobody finds two words in a row."""
    import io

    from pypdf import PdfWriter
    from pypdf.generic import StreamObject

    writer = PdfWriter(clone_from=io.BytesIO(data))
    for reference in writer._objects:
        found = reference.get_object() if reference is not None else None
        if isinstance(found, StreamObject) and b"begincmap" in (words := found.get_data()):
            found.set_data(words.replace(b"<0009>", b"<0020>"))
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def svg_bytes(page: Page, title: str, about: str) -> bytes:
    """One page as SVG, its words as text, with their fonts inside."""
    ready()
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    maker = QSvgGenerator()
    maker.setOutputDevice(buffer)
    maker.setTitle(title)
    maker.setDescription(about)
    maker.setResolution(PER_INCH)
    maker.setSize(QSize(round(page.w * UNIT), round(page.h * UNIT)))
    maker.setViewBox(QRectF(0, 0, page.w * UNIT, page.h * UNIT))
    painter = QPainter(maker)
    paint_page(painter, page, PRINT)
    painter.end()
    words: dict[bool, set[str]] = {}
    for text in page.texts:
        words.setdefault(text.bold, set()).add(text.words)
    return bytes(data.data()).replace(b"<defs>", b"<defs>" + font_faces(words).encode(), 1)


def picture(page: Page, width: int, inks: Inks = PRINT) -> QImage:
    """One page as a picture so many pixels wide."""
    ready()
    scale = width / (page.w * UNIT)
    made = QImage(width, round(page.h * UNIT * scale), QImage.Format.Format_RGB32)
    made.setDotsPerMeterX(round(width / page.w * 1000))
    made.setDotsPerMeterY(round(width / page.w * 1000))
    painter = QPainter(made)
    painter.scale(scale, scale)
    paint_page(painter, page, inks)
    painter.end()
    return made


def png_bytes(page: Page) -> bytes:
    """One page as PNG at DOTS to the inch."""
    made = picture(page, round(page.w / 25.4 * DOTS))
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    QImageWriter(buffer, QByteArray(b"png")).write(made)
    return bytes(buffer.data().data())
