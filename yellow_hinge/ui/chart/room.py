"""How the Chart view is made."""

from __future__ import annotations

from yellow_hinge.ui.chart.view import ChartView
from yellow_hinge.ui.parts.commands import page_actions
from yellow_hinge.ui.parts.rooms import Room
from yellow_hinge.ui.parts.views import GOING


def make(room: Room) -> tuple[ChartView, None]:
    """The view; it works by itself."""
    made = ChartView(room.desk, room.theme)
    made.page.addActions([*page_actions(room.actions), *(room.actions[key] for key in (*GOING, "loop_mark"))])
    made.editor.turned.connect(room.tell)
    made.tools.singer.connect(room.actions["for_singer"].trigger)
    made.changed()
    made.solved()
    return made, None
