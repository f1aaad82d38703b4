"""What every command of the table does on a window."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from yellow_hinge.ui.about import show_about

if TYPE_CHECKING:
    from yellow_hinge.ui.window import MainWindow

Functions = dict[str, Callable[[], object]]


def functions(window: MainWindow) -> Functions:
    """A function for every command's id."""
    return {**_song(window), **_chord(window), **_view(window), **_chart(window)}


def _song(window: MainWindow) -> Functions:
    desk, files, listening = window.desk, window.files, window.listening
    return {
        "new": files.new, "open": files.open, "open_demo": files.demo, "save": files.save,
        "save_as": files.save_as, "export": files.export, "quit": window.close,
        "undo": desk.undo, "redo": desk.redo, "commands": window.find_command, "history": window.show_history,
        "hands": window.ask_hands, "about": lambda: show_about(window),
        "play": listening.toggle, "play_chord": window.play_chord, "play_before": listening.around,
        "loop_hinge": listening.loop_hinge, "hear_tune": listening.toggle_tune,
        "hear_left": lambda: window.hear("left"), "hear_right": lambda: window.hear("right"),
    }  # fmt: skip


def _chord(window: MainWindow) -> Functions:
    desk, side, mover = window.desk, window.hinges.side, window.mover
    return {
        "previous": lambda: desk.select(desk.selected - 1), "next": lambda: desk.select(desk.selected + 1),
        "first": lambda: desk.select(0), "last": lambda: desk.select(1 << 30),
        "option_up": lambda: side.move(-1), "option_down": lambda: side.move(1),
        "take": lambda: mover.take() or side.take(), "pin": side.options.pin,
        "ring": mover.next_note, "note_up": lambda: mover.nudge(1), "note_down": lambda: mover.nudge(-1),
        "forget": window.forget,
        "keep": desk.toggle_keep, "free_all": desk.free_all,
        "keep_left": lambda: desk.toggle_keep("left"), "keep_right": lambda: desk.toggle_keep("right"),
        "keep_top": lambda: desk.toggle_keep("top"), "keep_bass": lambda: desk.toggle_keep("bass"),
        "hold_top": desk.hold_top, "drop_top": desk.drop_held_top,
    }  # fmt: skip


def _view(window: MainWindow) -> Functions:
    hinges = window.hinges
    return {
        "view_hinges": lambda: window.show_view("hinges"), "view_chart": lambda: window.show_view("chart"),
        "zoom_in": lambda: hinges.map.zoom(1), "zoom_out": lambda: hinges.map.zoom(-1), "fit": hinges.map.fit,
        "page_ways": lambda: hinges.side.show_page("ways"), "page_swaps": lambda: hinges.side.show_page("swaps"),
        "page_stiff": lambda: hinges.side.show_page("stiff"),
        "page_bass": lambda: hinges.side.show_page("bass"), "page_basses": lambda: hinges.side.show_page("basses"),
        "labels": window.next_labels, "fold_keys": window.fold_keys, "simple": window.simple_names,
        "light": lambda: window.set_theme("light"), "dark": lambda: window.set_theme("dark"),
        "system": lambda: window.set_theme("system"), "large_text": window.large_text,
    }  # fmt: skip


def _chart(window: MainWindow) -> Functions:
    tools = window.chart.tools
    return {
        "bar_insert": tools.insert, "chord_split": tools.split, "chord_delete": tools.delete,
        "bar_delete": tools.delete_bar, "chord_earlier": lambda: tools.move_chord(-1),
        "chord_later": lambda: tools.move_chord(1),
        "bar_earlier": lambda: tools.move(-1), "bar_later": lambda: tools.move(1),
    }  # fmt: skip
