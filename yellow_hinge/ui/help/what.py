"""*What is this?*: any control says what it is, pointed at with the mouse or with the focus of the keys."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import QEvent, QObject, QPoint
from PySide6.QtGui import QHelpEvent
from PySide6.QtWidgets import QApplication, QTabBar, QWhatsThis, QWidget

# What words on the screen mean, by the name or text of the control that has them.
MEANT = {
    "mine": "You play the bass: the left hand has the lowest note of every chord.",
    "theirs": "Somebody else plays the bass: your left hand is free for guide tones and rootless shapes.",
    "sung": "Somebody else has the tune: your right hand need not play it, and does not rub against it.",
    "on top": "You play the tune: its note is the highest of your right hand.",
    "manner": "Who you play like: it sets bass, colour, style, hands and patterns. A style is one wish among these.",
    "style": "What the hands do above all: move least, keep the top still, let it sing … within any manner.",
    "stiff": "Hinges that are hard for the hands: far moves, many fingers at once, nothing that holds.",
    "basses": "What your right hand is called over each of the twelve basses.",
    "starts stay": "The first chord of every section stays as it is written.",
    "cadences stay": "The last chords of a phrase stay as they are written, with the five before a one.",
    "fingers in": "Whose hands the sheet is fingered for.",
    "as usual": "Nothing is asked here: what holds around it is played.",
}  # fmt: skip


def meaning(widget: QWidget) -> str:
    """What the word on a control means, "" where it needs no telling."""
    names = (str(getattr(widget, "text", str)()), widget.accessibleName())
    return next((MEANT[name.casefold()] for name in names if name.casefold() in MEANT), "")


def described(widget: QWidget | None, at: QPoint | None = None) -> str:
    """What a control is, as rich text: its name and its tip, or those of what it lies in; of tabs the one at a point,
    or the one that is shown.
    """
    if isinstance(widget, QTabBar):
        index = widget.tabAt(at) if at is not None else widget.currentIndex()
        name, tip = widget.tabText(index), widget.tabToolTip(index)
        return _said(name, tip, MEANT.get(name.casefold(), ""))
    while widget is not None:
        name = widget.accessibleName() or str(getattr(widget, "text", str)())
        tip = widget.toolTip()
        if name or tip:
            return _said(name, tip, meaning(widget))
        widget = widget.parentWidget()
    return "Yellow Hinge"


def _said(name: str, tip: str, means: str) -> str:
    more = "\n".join(dict.fromkeys(filter(None, (tip if tip != name else "", means))))
    return f"<b>{escape(name)}</b>{'<br>' if more else ''}{escape(more)}".replace("\n", "<br>")


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
            QWhatsThis.showText(event.globalPos(), described(watched, event.pos()), watched)
            return True
        if event.type() == QEvent.Type.LeaveWhatsThisMode:
            app = QApplication.instance()
            if app is not None:
                app.removeEventFilter(self)
        return False
