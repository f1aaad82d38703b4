"""Pages on a printer, as large as its paper allows."""

from __future__ import annotations

from PySide6.QtCore import QMarginsF
from PySide6.QtGui import QPageLayout, QPainter
from PySide6.QtPrintSupport import QPrinter

from yellow_hinge.core.sheet.page import Page
from yellow_hinge.paper.out import page_size
from yellow_hinge.paper.painter import PRINT, UNIT, paint_page


def new_printer(page: Page, title: str) -> QPrinter:
    """A printer set to a page's size."""
    made = QPrinter(QPrinter.PrinterMode.HighResolution)
    made.setFullPage(True)
    made.setDocName(title)
    made.setPageSize(page_size(page))
    made.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout.Unit.Millimeter)
    return made


def print_pages(printer: QPrinter, pages: tuple[Page, ...]) -> int:
    """Print the pages that the printer was asked for, each in the middle of its paper; how many these are."""
    first, last = printer.fromPage() or 1, printer.toPage() or len(pages)
    painter = QPainter(printer)
    asked = pages[first - 1 : last]
    for number, page in enumerate(asked):
        if number:
            printer.newPage()
        paper = printer.paperRect(QPrinter.Unit.DevicePixel)
        scale = min(paper.width() / (page.w * UNIT), paper.height() / (page.h * UNIT))
        painter.save()
        painter.translate((paper.width() - page.w * UNIT * scale) / 2, (paper.height() - page.h * UNIT * scale) / 2)
        painter.scale(scale, scale)
        paint_page(painter, page, PRINT, ground=False)
        painter.restore()
    painter.end()
    return len(asked)
