"""The order in which Tab goes through the controls: as they are read, from the left and the top. It is found anew at
every press, so that what comes and goes is in its place.
"""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QComboBox,
    QLayout,
    QScrollArea,
    QStackedWidget,
    QWidget,
)


def _children(widget: QWidget) -> Iterator[QWidget]:
    if isinstance(widget, (QComboBox, QAbstractSpinBox)):
        return
    if isinstance(widget, (QStackedWidget, QScrollArea)):
        shown = widget.currentWidget() if isinstance(widget, QStackedWidget) else widget.widget()
        if shown is not None:
            yield shown
        return
    layout = widget.layout()
    if layout is not None:
        yield from _laid_out(layout)


def _laid_out(layout: QLayout) -> Iterator[QWidget]:
    for place in range(layout.count()):
        item = layout.itemAt(place)
        if item is None:
            continue
        widget, inner = item.widget(), item.layout()
        if widget is not None:
            yield widget
        elif inner is not None:
            yield from _laid_out(inner)


def reading_order(area: QWidget) -> list[QWidget]:
    """The controls of an area that can have the keys now, in the order in which they are read. Of buttons of which one
    is down only that one is there: the arrows go through the others.
    """
    found = []
    for child in _children(area):
        if not child.isVisible():
            continue
        if _may_have_keys(child):
            found.append(child)
        found += reading_order(child)
    return found


def _may_have_keys(control: QWidget) -> bool:
    if not control.focusPolicy() & Qt.FocusPolicy.TabFocus or not control.isEnabled() or control.focusProxy():
        return False
    if isinstance(control, QAbstractButton) and control.autoExclusive() and not control.isChecked():
        row = control.parentWidget()
        beside = row.findChildren(QAbstractButton) if row is not None else []
        return not any(other.isChecked() for other in beside if other.autoExclusive())
    return True


def go_on(area: QWidget, now: QWidget | None, forward: bool) -> bool:
    """Give the keys to the control after the one that has them, or before it, round and round. Whether there is one."""
    order = reading_order(area)
    if not order:
        return False
    at = order.index(now) if now in order else (-1 if forward else 0)
    reason = Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason
    order[(at + (1 if forward else -1)) % len(order)].setFocus(reason)
    return True
