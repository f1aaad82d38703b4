"""How well a song is known, as a bar: what is safe is full, what is shaky is pale, what is due is empty."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from yellow_hinge.core.practice.standing import Standing
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.rows import Index
from yellow_hinge.ui.paint.theme import Theme

TALL = 9.0


class KnownPainter(QStyledItemDelegate):
    """Paints a Standing; its words are the cell's text, for those who do not see it."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        own: Standing = index.data(Qt.ItemDataRole.UserRole)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.fillRect(option.rect, self.theme.color("chosen" if chosen else "paper"))
        whole = own.due + own.shaky + own.safe
        if not whole:
            return
        area = QRectF(option.rect).adjusted(6, 0, -10, 0)
        x, y = area.x(), area.center().y() - TALL / 2
        for count, role in ((own.safe, "ink"), (own.shaky, "muted"), (own.due, "")):
            wide = area.width() * count / whole
            if role and count:
                painter.fillRect(QRectF(x, y, wide, TALL), self.theme.color(role))
            x += wide
        painter.setPen(hair(self.theme.color("border")))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(area.x(), y, area.width(), TALL))
