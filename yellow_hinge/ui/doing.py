"""What every command of the table does."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Protocol

from yellow_hinge.app.desk import Desk
from yellow_hinge.ui.files import Files
from yellow_hinge.ui.hinges.moving import NoteMover
from yellow_hinge.ui.hinges.view import HingesView
from yellow_hinge.ui.listening import Listening
from yellow_hinge.ui.saving import Saving

if TYPE_CHECKING:
    from yellow_hinge.ui.chart.view import ChartView
    from yellow_hinge.ui.swaps.swapping import Swapping


class Chooser(Protocol):
    """A list of ways or swaps to try."""

    def move(self, by: int) -> None:
        """Go up or down."""

    def take(self) -> None:
        """Take what is under the cursor."""


class Window(Protocol):
    """What commands need of the window: its parts, and what only it can do."""

    desk: Desk
    files: Files
    saving: Saving
    listening: Listening
    mover: NoteMover
    hinges: HingesView

    @property
    def chart(self) -> ChartView: ...
    @property
    def swapping(self) -> Swapping: ...
    @property
    def chooser(self) -> Chooser: ...
    def close(self) -> bool: ...
    def about(self) -> None: ...
    def find_command(self) -> None: ...
    def open_menus(self) -> None: ...
    def show_history(self) -> None: ...
    def ask_hands(self) -> None: ...
    def hear(self, hand: str) -> None: ...
    def play_chord(self) -> None: ...
    def forget(self) -> None: ...
    def take_whole(self) -> None: ...
    def show_view(self, name: str) -> None: ...
    def next_labels(self) -> None: ...
    def fold_keys(self) -> None: ...
    def simple_names(self) -> None: ...
    def large_text(self) -> None: ...
    def set_theme(self, choice: str) -> None: ...


Functions = dict[str, Callable[[], object]]


def functions(window: Window) -> Functions:
    """A function for every command's id."""
    return {**_song(window), **_chord(window), **_view(window), **_chart(window)}


def _song(window: Window) -> Functions:
    desk, files, saving, listening = window.desk, window.files, window.saving, window.listening
    return {
        "new": files.new, "open": files.open, "open_demo": files.demo, "save": saving.save,
        "save_as": saving.save_as, "export": saving.export, "quit": window.close,
        "undo": desk.undo, "redo": desk.redo, "commands": window.find_command, "menus": window.open_menus,
        "history": window.show_history,
        "hands": window.ask_hands, "about": window.about,
        "play": listening.toggle, "play_chord": window.play_chord, "play_before": lambda: listening.around(),
        "play_turn": lambda: window.swapping.hear("turn"),
        "loop_hinge": listening.loop_hinge, "hear_tune": listening.toggle_tune,
        "hear_left": lambda: window.hear("left"), "hear_right": lambda: window.hear("right"),
    }  # fmt: skip


def _chord(window: Window) -> Functions:
    desk, side, mover = window.desk, window.hinges.side, window.mover
    return {
        "previous": lambda: desk.select(desk.selected - 1), "next": lambda: desk.select(desk.selected + 1),
        "first": lambda: desk.select(0), "last": lambda: desk.select(1 << 30),
        "option_up": lambda: window.chooser.move(-1), "option_down": lambda: window.chooser.move(1),
        "take": lambda: mover.take() or window.chooser.take(), "pin": side.options.pin,
        "swap": lambda: window.show_view("swaps"), "take_whole": window.take_whole,
        "ring": mover.next_note, "note_up": lambda: mover.nudge(1), "note_down": lambda: mover.nudge(-1),
        "forget": window.forget,
        "keep": desk.toggle_keep, "free_all": desk.free_all, "free_resting": desk.free_resting,
        "keep_left": lambda: desk.toggle_keep("left"), "keep_right": lambda: desk.toggle_keep("right"),
        "keep_top": lambda: desk.toggle_keep("top"), "keep_bass": lambda: desk.toggle_keep("bass"),
        "hold_top": desk.hold_top, "drop_top": desk.drop_held_top,
    }  # fmt: skip


def _view(window: Window) -> Functions:
    hinges = window.hinges
    return {
        "view_hinges": lambda: window.show_view("hinges"), "view_chart": lambda: window.show_view("chart"),
        "view_swaps": lambda: window.show_view("swaps"),
        "zoom_in": lambda: hinges.map.zoom(1), "zoom_out": lambda: hinges.map.zoom(-1), "fit": hinges.map.fit,
        "page_ways": lambda: hinges.side.show_page("ways"),
        "page_stiff": lambda: hinges.side.show_page("stiff"),
        "page_bass": lambda: hinges.side.show_page("bass"), "page_basses": lambda: hinges.side.show_page("basses"),
        "labels": window.next_labels, "fold_keys": window.fold_keys, "simple": window.simple_names,
        "light": lambda: window.set_theme("light"), "dark": lambda: window.set_theme("dark"),
        "system": lambda: window.set_theme("system"), "large_text": window.large_text,
    }  # fmt: skip


def _chart(window: Window) -> Functions:
    # The chart is asked for late: its view is built when it is first shown.
    return {
        "bar_insert": lambda: window.chart.tools.insert(), "chord_split": lambda: window.chart.tools.split(),
        "chord_delete": lambda: window.chart.tools.delete(), "bar_delete": lambda: window.chart.tools.delete_bar(),
        "chord_earlier": lambda: window.chart.tools.move_chord(-1),
        "chord_later": lambda: window.chart.tools.move_chord(1),
        "bar_earlier": lambda: window.chart.tools.move(-1), "bar_later": lambda: window.chart.tools.move(1),
    }  # fmt: skip
