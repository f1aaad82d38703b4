"""The one table of commands: it feeds menus, shortcuts and tooltips."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QWidget


class Command(msgspec.Struct, frozen=True):
    """One thing the player can do. `keys` are shortcuts, the first one shown; `desk` shortcuts work on the desk only
    and `page` ones on the set-out chart only, not while text is typed.
    """

    id: str
    menu: str
    title: str
    keys: tuple[str, ...]
    tip: str
    desk: bool = False
    checkable: bool = False
    page: bool = False


COMMANDS: tuple[Command, ...] = (
    Command("new", "Song", "New", ("Ctrl+N",), "Begin an empty song"),
    Command("open", "Song", "Open…", ("Ctrl+O",), "Open a saved song or a chart text"),
    Command("open_demo", "Song", "Open the demo song", (), "Open Last Boat to Marrow"),
    Command("save", "Song", "Save", ("Ctrl+S",), "Save the song to its file"),
    Command("save_as", "Song", "Save as…", ("Ctrl+Shift+S",), "Save the song to another file"),
    Command("export", "Song", "Export…", ("Ctrl+E",), "Write MIDI, a table or a text sheet"),
    Command("quit", "Song", "Quit", ("Ctrl+Q",), "Close the program"),
    Command("undo", "Edit", "Undo", ("Ctrl+Z",), "Take the last edit back"),
    Command("redo", "Edit", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y"), "Do the undone edit again"),
    Command("previous", "Chord", "Previous chord", ("Left",), "Go to the chord before", desk=True),
    Command("next", "Chord", "Next chord", ("Right",), "Go to the chord after", desk=True),
    Command("first", "Chord", "First chord", ("Home",), "Go to the first chord", desk=True),
    Command("last", "Chord", "Last chord", ("End",), "Go to the last chord", desk=True),
    Command("option_up", "Chord", "Option above", ("Up",), "Try the way above in the list", desk=True),
    Command("option_down", "Chord", "Option below", ("Down",), "Try the way below in the list", desk=True),
    Command("take", "Chord", "Take this option", ("Return", "Enter"), "Play the chord this way and keep it", desk=True),
    Command("pin", "Chord", "Hold against others", ("C",), "Compare this way with the next ones tried", desk=True),
    Command("ring", "Chord", "Next note", ("N",), "Ring the next note of the chord, for moving it", desk=True),
    Command("note_up", "Chord", "Note up", ("Shift+Up",), "Try the ringed note a half step higher", desk=True),
    Command("note_down", "Chord", "Note down", ("Shift+Down",), "Try the ringed note a half step lower", desk=True),
    Command("swap", "Chord", "Swap this chord", ("S",), "See other chords for this one", desk=True),
    Command("take_whole", "Chord", "Take the whole song", ("Ctrl+Return",), "Make the song what the Swaps view shows"),
    Command("forget", "Chord", "Leave it as it is", ("Escape",), "Drop what is tried", desk=True),
    Command(
        "keep",
        "Keep",
        "The chord",
        ("K",),
        "Keep the chord and solve the rest around it, or let go",
        desk=True,
    ),
    Command("keep_left", "Keep", "The left hand", ("Shift+L",), "Keep the left hand, or let it go", desk=True),
    Command("keep_right", "Keep", "The right hand", ("Shift+K",), "Keep the right hand, or let it go", desk=True),
    Command("keep_top", "Keep", "The top note", ("Shift+T",), "Keep the highest note, or let it go", desk=True),
    Command("keep_bass", "Keep", "The bass", ("Shift+B",), "Keep the bass, or let it go", desk=True),
    Command("hold_top", "Keep", "Hold the top into the next chord", ("H",), "Again: one chord longer", desk=True),
    Command("drop_top", "Keep", "Let the held top go", ("Shift+H",), "The top is free again", desk=True),
    Command("free_all", "Keep", "Let everything go", ("Ctrl+Shift+K",), "Nothing is kept any more"),
    Command("free_resting", "Keep", "Let go what rests", (), "Drop what was kept for chords that are others now"),
    Command("play", "Listen", "Play or stop", ("Space",), "Play from the selected chord", desk=True),
    Command("play_chord", "Listen", "Hear this chord", ("P",), "Sound the selected chord once", desk=True),
    Command("play_before", "Listen", "Hear it as it is", ("Shift+P",), "Play it between its neighbours", desk=True),
    Command("play_turn", "Listen", "Hear both in turn", ("I",), "In the Swaps view: as it is, then changed", desk=True),
    Command("loop_hinge", "Listen", "Loop this hinge", ("L",), "Repeat this chord and the next", desk=True),
    Command("hear_left", "Listen", "Left hand alone", (), "Hear the left hand only", checkable=True),
    Command("hear_right", "Listen", "Right hand alone", (), "Hear the right hand only", checkable=True),
    Command("hear_tune", "Listen", "With the tune", ("T",), "Hear the melody too", desk=True, checkable=True),
    Command("bar_insert", "Chart", "Add a bar", ("Insert",), "A bar after this one", page=True),
    Command("chord_split", "Chart", "Split the chord", ("/",), "Two chords instead of one", page=True),
    Command("chord_delete", "Chart", "Delete the chord", ("Delete",), "Its beats go to the chord before", page=True),
    Command(
        "chord_earlier", "Chart", "Chord earlier", ("Ctrl+Left",), "Change places with the chord before", page=True
    ),
    Command("chord_later", "Chart", "Chord later", ("Ctrl+Right",), "Change places with the chord after", page=True),
    Command("bar_delete", "Chart", "Delete the bar", ("Shift+Delete",), "Without this bar", page=True),
    Command("bar_earlier", "Chart", "Bar earlier", ("Alt+Left",), "This bar one earlier", page=True),
    Command("bar_later", "Chart", "Bar later", ("Alt+Right",), "This bar one later", page=True),
    Command("view_hinges", "View", "Hinges", ("Ctrl+1",), "Choose voicings"),
    Command("view_chart", "View", "Chart", ("Ctrl+2",), "Type the chart"),
    Command("view_swaps", "View", "Swaps", ("Ctrl+3",), "Other chords, for one or the whole song"),
    Command("labels", "View", "Degrees, names or fingers", ("D",), "Change what stands on the plates", desk=True),
    Command("fold_keys", "View", "Show the keyboards", ("Ctrl+J",), "Fold the two keyboards away", checkable=True),
    Command("menus", "View", "Open the menus", ("F10",), "The menus by keyboard"),
    Command("commands", "Edit", "Find a command…", ("Ctrl+K",), "Every command by a part of its name"),
    Command("history", "Edit", "List of edits", ("Ctrl+Alt+Z",), "The history: go back to any edit", checkable=True),
    Command("hands", "Edit", "Hands and keyboard…", ("Ctrl+H",), "Your reach, keyboard and the singer's register"),
    Command("zoom_in", "View", "Wider columns", ("Ctrl+=", "Ctrl++"), "Fewer chords, larger", desk=True),
    Command("zoom_out", "View", "Narrower columns", ("Ctrl+-",), "More chords at once", desk=True),
    Command("fit", "View", "Whole song at once", ("F",), "Fit the song into the map, or back", desk=True),
    Command("page_ways", "View", "Ways to play", ("1",), "List the ways to play this chord", desk=True),
    Command("page_stiff", "View", "Stiff changes", ("2",), "List the hardest changes", desk=True),
    Command("page_bass", "View", "The bass line", ("3",), "List how the bass goes", desk=True),
    Command("page_basses", "View", "Hand over other basses", ("4", "O"), "This hand over twelve basses", desk=True),
    Command("simple", "View", "Simple note names", (), "Say B and F where theory says Cb and E#", checkable=True),
    Command("light", "View", "Light", (), "Light colours"),
    Command("dark", "View", "Dark", (), "Dark colours"),
    Command("system", "View", "Colours of the system", (), "Follow the system's colours"),
    Command("large_text", "View", "Large text", (), "Text a quarter larger", checkable=True),
    Command("about", "Help", "About and credits", (), "What ships with the program"),
)


def shown_keys(command: Command) -> str:
    """The first shortcut as the player reads it, or ""."""
    return QKeySequence(command.keys[0]).toString(QKeySequence.SequenceFormat.NativeText) if command.keys else ""


def build_actions(owner: QWidget, desk_area: QWidget, run: dict[str, Callable[[], object]]) -> dict[str, QAction]:
    """An action for every command: window-wide ones belong to `owner`, those of the desk to their part of it."""
    actions = {}
    for command in COMMANDS:
        action = QAction(command.title, owner)
        action.setShortcuts([QKeySequence(keys) for keys in command.keys])
        action.setStatusTip(command.tip)
        keys = shown_keys(command)
        action.setToolTip(f"{command.tip} ({keys})" if keys else command.tip)
        action.setCheckable(command.checkable)
        if command.desk or command.page:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        if not command.page:
            (desk_area if command.desk else owner).addAction(action)
        action.triggered.connect(lambda _=False, do=run[command.id]: do())
        actions[command.id] = action
    return actions


def page_actions(actions: dict[str, QAction]) -> list[QAction]:
    """The actions that belong to the page of the chart."""
    return [actions[command.id] for command in COMMANDS if command.page]


# What the keys of the desk do in the Swaps view too.
_SWAPS = (
    "previous", "next", "first", "last", "option_up", "option_down", "take", "forget", "play", "play_chord",
    "play_before", "play_turn", "loop_hinge", "hear_tune",
)  # fmt: skip


def swap_actions(actions: dict[str, QAction]) -> list[QAction]:
    """The actions of the desk that work in the Swaps view too."""
    return [actions[name] for name in _SWAPS]
