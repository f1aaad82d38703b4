"""*What is this?*: any control says what it is, pointed at with the mouse or with the focus of the keys."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import QEvent, QObject, QPoint
from PySide6.QtGui import QHelpEvent
from PySide6.QtWidgets import QApplication, QWhatsThis, QWidget


def described(widget: QWidget | None) -> str:
    """What a control is, as rich text: its name and its tip, or those of what it lies in."""
    while widget is not None:
        name = widget.accessibleName() or str(getattr(widget, "text", str)())
        tip = widget.toolTip()
        if name or tip:
            name, tip = escape(name), escape(tip).replace("\n", "<br>")
            return f"<b>{name}</b>{f'<br>{tip}' if tip and tip != name else ''}"
        widget = widget.parentWidget()
    return "Yellow Hinge"


class WhatIsThis(QObject):
    """Answers wherever the mouse points while it is asked."""

    def point(self) -> None:
        """Ask by pointing: the next click tells."""
        app = QApplication.instance()
        assert app is not None
        app.removeEventFilter(self)
        app.installEventFilter(self)
        QWhatsThis.enterWhatsThisMode()

    def tell(self, widget: QWidget | None) -> None:
        """Tell of a control, such as the one that has the keys."""
        if widget is not None:
            QWhatsThis.showText(widget.mapToGlobal(QPoint(8, widget.height())), described(widget), widget)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if not isinstance(watched, QWidget):
            return False
        if event.type() == QEvent.Type.QueryWhatsThis:
            event.accept()
            return True
        if event.type() == QEvent.Type.WhatsThis and isinstance(event, QHelpEvent):
            QWhatsThis.showText(event.globalPos(), described(watched), watched)
            return True
        if event.type() == QEvent.Type.LeaveWhatsThisMode:
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return False
