"""The one table of commands: it feeds menus, shortcuts, tooltips and the command box, and says what each does."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Protocol

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QWidget

from yellow_hinge.ui.parts.views import VIEWS


class Chooser(Protocol):
    """A list of ways or swaps to try."""

    def step(self, by: int) -> None:
        """Go up or down."""

    def take(self) -> None:
        """Take what is under the cursor."""


class Command(msgspec.Struct, frozen=True):
    """One thing the player can do, and how the window does it. `keys` are shortcuts, the first one shown; `desk`
    shortcuts work on the desk only and `page` ones on the set-out chart only, not while text is typed.
    """

    id: str
    menu: str
    title: str
    keys: tuple[str, ...]
    tip: str
    do: Callable[[Any], object]
    desk: bool = False
    checkable: bool = False
    page: bool = False


def _shows(view: str) -> Callable[[Any], object]:
    return lambda w: w.show_view(view)


VIEW_COMMANDS = tuple(
    Command(f"view_{view.id}", "View", view.title, (view.key,), view.tip, _shows(view.id)) for view in VIEWS
)

# The commands that turn a switch of what is heard, and its name there.
HEARD = {
    "hear_tune": "tune", "hear_bass": "bass", "hear_click": "click", "hear_drums": "drums", "count_in": "count_in",
    "half_speed": "half",
}  # fmt: skip

# fmt: off
COMMANDS: tuple[Command, ...] = (
    Command("new", "Song", "New", ("Ctrl+N",), "Begin an empty song", lambda w: w.files.new()),
    Command("open", "Song", "Open…", ("Ctrl+O",), "Open a saved song or a chart text", lambda w: w.files.open()),
    Command("open_demo", "Song", "Open the demo song", (), "Open Last Boat to Marrow", lambda w: w.files.demo()),
    Command("save", "Song", "Save", ("Ctrl+S",), "Save the song to its file", lambda w: w.saving.save()),
    Command("save_as", "Song", "Save as…", ("Ctrl+Shift+S",), "Save the song to another file",
            lambda w: w.saving.save_as()),
    Command("export", "Song", "Export…", ("Ctrl+E",), "Write MIDI, a table or a text sheet",
            lambda w: w.saving.export()),
    Command("print_sheet", "Song", "Print the sheet…", ("Ctrl+P",), "Print what the Sheet view shows",
            lambda w: w.sheets("print")),
    Command("export_sheet", "Song", "Export the sheet…", ("Ctrl+Shift+E",), "Its pages as PDF, SVG, PNG, or the score",
            lambda w: w.sheets("export")),
    Command("quit", "Song", "Quit", ("Ctrl+Q",), "Close the program", lambda w: w.close()),
    Command("undo", "Edit", "Undo", ("Ctrl+Z",), "Take the last edit back", lambda w: w.desk.undo()),
    Command("redo", "Edit", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y"), "Do the undone edit again", lambda w: w.desk.redo()),
    Command("previous", "Chord", "Previous chord", ("Left",), "Go to the chord before",
            lambda w: w.desk.select(w.desk.selected - 1), desk=True),
    Command("next", "Chord", "Next chord", ("Right",), "Go to the chord after",
            lambda w: w.desk.select(w.desk.selected + 1), desk=True),
    Command("first", "Chord", "First chord", ("Home",), "Go to the first chord", lambda w: w.desk.select(0), desk=True),
    Command("last", "Chord", "Last chord", ("End",), "Go to the last chord",
            lambda w: w.desk.select(1 << 30), desk=True),
    Command("mark_back", "Chord", "Mark backward", ("Shift+Left",), "Mark up to the chord before",
            lambda w: w.desk.mark_to(w.desk.selected - 1), desk=True),
    Command("mark_on", "Chord", "Mark forward", ("Shift+Right",), "Mark up to the chord after",
            lambda w: w.desk.mark_to(w.desk.selected + 1), desk=True),
    Command("mark_bar", "Chord", "Mark the bar", ("B",), "Mark this bar; again: the next one too",
            lambda w: w.desk.mark_bars(), desk=True),
    Command("mark_section", "Chord", "Mark the section", (), "Mark this section as it is played",
            lambda w: w.desk.mark_section()),
    Command("option_up", "Chord", "Way above", ("Up",), "Try the way above in the list",
            lambda w: w.chooser.step(-1), desk=True),
    Command("option_down", "Chord", "Way below", ("Down",), "Try the way below in the list",
            lambda w: w.chooser.step(1), desk=True),
    Command("take", "Chord", "Take this way", ("Return", "Enter"), "Play the chord this way and keep it",
            lambda w: w.mover.take() or w.chooser.take(), desk=True),
    Command("pin", "Chord", "Hold against others", ("C",), "Compare this way with the next ones tried",
            lambda w: w.hinges.side.options.pin(), desk=True),
    Command("ring", "Chord", "Next note", ("N",), "Ring the next note of the chord, for moving it",
            lambda w: w.mover.next_note(), desk=True),
    Command("note_up", "Chord", "Note up", ("Shift+Up",), "Try the ringed note a half step higher",
            lambda w: w.mover.nudge(1), desk=True),
    Command("note_down", "Chord", "Note down", ("Shift+Down",), "Try the ringed note a half step lower",
            lambda w: w.mover.nudge(-1), desk=True),
    Command("capture", "Chord", "Save as a shape of mine…", ("M",), "Use this chord's hands as a shape",
            lambda w: w.capture_shape(), desk=True),
    Command("swap", "Chord", "Swap this chord", ("S",), "See other chords for this one",
            lambda w: w.show_view("swaps"), desk=True),
    Command("exchange", "Chord", "Next best", ("X",), "In the whole song, put the next best in the place of a change",
            lambda w: w.swapping.exchange(), desk=True),
    Command("take_whole", "Chord", "Take the whole song", ("Ctrl+Return",), "Make the song what the Swaps view shows",
            lambda w: w.take_whole()),
    Command("forget", "Chord", "Leave it as it is", ("Escape",), "Drop what is tried", lambda w: w.forget(), desk=True),
    Command("keep", "Keep", "The chord", ("K",), "Keep the chord and solve the rest around it, or let go",
            lambda w: w.desk.toggle_keep(), desk=True),
    Command("keep_left", "Keep", "The left hand", ("Shift+L",), "Keep the left hand, or let it go",
            lambda w: w.desk.toggle_keep("left"), desk=True),
    Command("keep_right", "Keep", "The right hand", ("Shift+K",), "Keep the right hand, or let it go",
            lambda w: w.desk.toggle_keep("right"), desk=True),
    Command("keep_top", "Keep", "The top note", ("Shift+T",), "Keep the highest note, or let it go",
            lambda w: w.desk.toggle_keep("top"), desk=True),
    Command("keep_bass", "Keep", "The bass", ("Shift+B",), "Keep the bass, or let it go",
            lambda w: w.desk.toggle_keep("bass"), desk=True),
    Command("hold_top", "Keep", "Hold the top into the next chord", ("H",), "Again: one chord longer",
            lambda w: w.desk.hold_top(), desk=True),
    Command("drop_top", "Keep", "Let the held top go", ("Shift+H",), "The top is free again",
            lambda w: w.desk.drop_held_top(), desk=True),
    Command("this_pass", "Keep", "For this pass only", ("A",), "What is taken of a repeat is for this pass, or for all",
            lambda w: w.one_pass(), desk=True),
    Command("enter_hands", "Keep", "Enter my hands", ("E",), "Put in the hands you play, chord by chord",
            lambda w: w.entering.toggle(), desk=True),
    Command("goes_round", "Keep", "The song goes round", (), "Solve the last chord into the first, or no more",
            lambda w: w.desk.turn("loop")),
    Command("bass_mine", "Keep", "The bass is mine, or another's", (), "Change who has the bass",
            lambda w: w.desk.turn("bass")),
    Command("tune_top", "Keep", "The tune on top, or sung", (), "Change who has the tune",
            lambda w: w.desk.turn("melody")),
    Command("keep_others", "Keep", "The others as they were", ("Shift+O",), "Keep what the last edit changed elsewhere",
            lambda w: w.desk.keep_others(), desk=True),
    Command("free_all", "Keep", "Let everything go", ("Ctrl+Shift+K",), "Nothing is kept any more",
            lambda w: w.desk.free_all()),
    Command("free_resting", "Keep", "Let go what rests", (), "Drop what was kept for chords that are others now",
            lambda w: w.desk.free_resting()),
    Command("play", "Listen", "Play or stop", ("Space",), "Play from the selected chord",
            lambda w: w.listening.toggle(), desk=True),
    Command("play_chord", "Listen", "Hear this chord", ("P",), "Sound the selected chord once",
            lambda w: w.play_chord(), desk=True),
    Command("play_before", "Listen", "Hear it as it is", ("Shift+P",), "Play it between its neighbours",
            lambda w: w.listening.around(), desk=True),
    Command("play_turn", "Listen", "Hear both in turn", ("I",), "In the Swaps view: as it is, then changed",
            lambda w: w.in_turn(), desk=True),
    Command("loop_hinge", "Listen", "Loop this hinge", ("L",), "Repeat this chord and the next",
            lambda w: w.listening.loop("hinge"), desk=True),
    Command("loop_bar", "Listen", "Loop this bar", ("Ctrl+L",), "Repeat the bar of this chord",
            lambda w: w.listening.loop("bar"), desk=True),
    Command("loop_mark", "Listen", "Loop what is marked", ("G",), "Repeat the marked chords; a bar where none are",
            lambda w: w.listening.loop("mark"), desk=True),
    Command("loop_section", "Listen", "Loop this section", ("Ctrl+Shift+L",), "Repeat the section of this chord",
            lambda w: w.listening.loop("section"), desk=True),
    Command("hear_left", "Listen", "Left hand alone", (), "Hear the left hand only",
            lambda w: w.hear("left"), checkable=True),
    Command("hear_right", "Listen", "Right hand alone", (), "Hear the right hand only",
            lambda w: w.hear("right"), checkable=True),
    Command("hear_tune", "Listen", "With the tune", ("T",), "Hear the tune too",
            lambda w: w.listening.flip("tune"), desk=True, checkable=True),
    Command("hear_bass", "Listen", "With the bass player", (), "Hear the bass that is another's",
            lambda w: w.listening.flip("bass"), checkable=True),
    Command("hear_click", "Listen", "With a click", (), "Hear every beat", lambda w: w.listening.flip("click"),
            checkable=True),
    Command("hear_drums", "Listen", "With soft drums", (), "Hear drums", lambda w: w.listening.flip("drums"),
            checkable=True),
    Command("count_in", "Listen", "Count in", (), "A bar of clicks before playing",
            lambda w: w.listening.flip("count_in"), checkable=True),
    Command("half_speed", "Listen", "Half speed", ("Ctrl+Shift+H",), "Hear it half as fast",
            lambda w: w.listening.flip("half"), checkable=True),
    Command("slower", "Listen", "Slower", ("Ctrl+,",), "Two beats a minute less", lambda w: w.desk.change_tempo(-2)),
    Command("faster", "Listen", "Faster", ("Ctrl+;",), "Two beats a minute more", lambda w: w.desk.change_tempo(2)),
    Command("correct", "Chart", "Write what is suggested", ("Ctrl+.",), "Mend the chart's first mistake as proposed",
            lambda w: w.correct()),
    Command("other_key", "Chart", "To another key…", (), "See every chord in another key, and take it",
            lambda w: w.other_key()),
    Command("for_singer", "Chart", "Key for a singer…", (), "The key that suits a singer's lowest and highest note",
            lambda w: w.for_singer()),
    Command("how_to_write", "Chart", "How a chart is written", (), "Examples beside the chart: bars, repeats, tune",
            lambda w: w.how_to_write()),
    Command("bar_insert", "Chart", "Add a bar", ("Insert",), "A bar after this one",
            lambda w: w.chart.tools.insert(), page=True),
    Command("chord_split", "Chart", "Split the chord", ("/",), "Two chords instead of one",
            lambda w: w.chart.tools.split(), page=True),
    Command("chord_delete", "Chart", "Delete the chord", ("Delete",), "Its beats go to the chord before",
            lambda w: w.chart.tools.delete(), page=True),
    Command("chord_earlier", "Chart", "Chord earlier", ("Ctrl+Left",), "Change places with the chord before",
            lambda w: w.chart.tools.move_chord(-1), page=True),
    Command("chord_later", "Chart", "Chord later", ("Ctrl+Right",), "Change places with the chord after",
            lambda w: w.chart.tools.move_chord(1), page=True),
    Command("bar_delete", "Chart", "Delete the bar", ("Shift+Delete",), "Without this bar",
            lambda w: w.chart.tools.delete_bar(), page=True),
    Command("bar_earlier", "Chart", "Bar earlier", ("Alt+Left",), "This bar one earlier",
            lambda w: w.chart.tools.move_bar(-1), page=True),
    Command("bar_later", "Chart", "Bar later", ("Alt+Right",), "This bar one later",
            lambda w: w.chart.tools.move_bar(1), page=True),
    Command("take_new", "Takes", "New take", ("Ctrl+T",), "A copy of this take, to go another way",
            lambda w: w.take_do("new")),
    Command("take_three", "Takes", "Three takes for me", (), "A plain, a coloured and a high take made from this one",
            lambda w: w.take_do("three")),
    Command("take_rename", "Takes", "Rename this take…", ("F2",), "Call the take something",
            lambda w: w.take_do("rename")),
    Command("take_delete", "Takes", "Delete this take", (), "Take it away; undo brings it back",
            lambda w: w.take_do("delete")),
    Command("take_next", "Takes", "Next take", ("Ctrl+PgDown",), "Show the take after this one, in any view",
            lambda w: w.next_take(1)),
    Command("take_before", "Takes", "Take before", ("Ctrl+PgUp",), "Show the take before this one, in any view",
            lambda w: w.next_take(-1)),
    Command("take_up", "Takes", "This take one up", ("Ctrl+Up",), "Change places with the take above",
            lambda w: w.take_do("up")),
    Command("take_down", "Takes", "This take one down", ("Ctrl+Down",), "Change places with the take below",
            lambda w: w.take_do("down")),
    Command("take_together", "Takes", "Bring takes together", (), "Takes in another key get the song's key and bars",
            lambda w: w.together()),
    Command("take_song", "Takes", "Make it a song of its own…", (), "Write this take to a file as a song by itself",
            lambda w: w.take_to_song()),
    Command("take_compare", "Takes", "Compare", (), "This take and the one above, chord by chord",
            lambda w: w.compare_takes()),
    Command("play_mix", "Takes", "Play the mix", ("Ctrl+Shift+P",), "Play the mix, or stop", lambda w: w.play_mix()),
    Command("export_mix", "Takes", "Export the mix…", (), "Write the mix as MIDI, sound, a table or a text sheet",
            lambda w: w.export_mix()),
    *VIEW_COMMANDS,
    Command("labels", "View", "Degrees, names or fingers", ("D",), "Change what stands on the plates",
            lambda w: w.next_labels(), desk=True),
    Command("fold_keys", "View", "Show the keyboards", ("Ctrl+J",), "Fold the two keyboards away",
            lambda w: w.fold_keys(), checkable=True),
    Command("menus", "View", "Open the menus", ("F10",), "The menus by keyboard", lambda w: w.open_menus()),
    Command("commands", "Edit", "Find a command…", ("Ctrl+K",), "Every command by a part of its name",
            lambda w: w.find_command()),
    Command("history", "Edit", "List of edits", ("Ctrl+Alt+Z",), "The history: go back to any edit",
            lambda w: w.show_history(), checkable=True),
    Command("hands", "Edit", "Hands and keyboard…", ("Ctrl+H",), "Your reach, keyboard and the singer's register",
            lambda w: w.ask_hands()),
    Command("zoom_in", "View", "Wider columns", ("Ctrl+=", "Ctrl++"), "Fewer chords, larger",
            lambda w: w.hinges.map.zoom(1), desk=True),
    Command("zoom_out", "View", "Narrower columns", ("Ctrl+-",), "More chords at once",
            lambda w: w.hinges.map.zoom(-1), desk=True),
    Command("fit", "View", "Whole song at once", ("F",), "Fit the song into the map, or back",
            lambda w: w.hinges.map.fit(), desk=True),
    Command("page_ways", "View", "Ways to play", ("1",), "List the ways to play this chord",
            lambda w: w.hinges.side.show_page("ways"), desk=True),
    Command("page_stiff", "View", "Stiff changes", ("2",), "List the hardest changes",
            lambda w: w.hinges.side.show_page("stiff"), desk=True),
    Command("page_bass", "View", "The bass line", ("3",), "List how the bass goes",
            lambda w: w.hinges.side.show_page("bass"), desk=True),
    Command("page_own", "View", "My hands beside the best", ("5",), "What my hands move, and could",
            lambda w: w.hinges.side.show_page("own"), desk=True),
    Command("page_fills", "View", "Lead-ins and fills", ("6",), "Notes that lead into this chord or move inside it",
            lambda w: w.hinges.side.show_page("fills"), desk=True),
    Command("page_basses", "View", "Hand over other basses", ("4", "O"), "This hand over twelve basses",
            lambda w: w.hinges.side.show_page("basses"), desk=True),
    Command("simple", "View", "Simple note names", (), "Say B and F where theory says Cb and E#",
            lambda w: w.simple_names(), checkable=True),
    Command("light", "View", "Light", (), "Light colours", lambda w: w.set_theme("light")),
    Command("dark", "View", "Dark", (), "Dark colours", lambda w: w.set_theme("dark")),
    Command("system", "View", "Colours of the system", (), "Follow the system's colours",
            lambda w: w.set_theme("system")),
    Command("large_text", "View", "Large text", (), "Text a quarter larger", lambda w: w.large_text(), checkable=True),
    Command("help", "Help", "Guide", ("F1",), "How everything works, to read and to search",
            lambda w: w.helping.open("Guide")),
    Command("help_keys", "Help", "Keys", ("Ctrl+F1",), "Every key and every command",
            lambda w: w.helping.open("Keys")),
    Command("help_words", "Help", "Words", (), "What hinge, way, keep, take and the other words mean",
            lambda w: w.helping.open("Words")),
    Command("what_is", "Help", "What is this?", ("Shift+F1",), "What the control is that has the keys",
            lambda w: w.helping.tell()),
    Command("what_is_there", "Help", "What is this? By pointing", (), "Click on anything to read what it is",
            lambda w: w.helping.point()),
    Command("about", "Help", "About and credits", (), "What ships with the program", lambda w: w.about()),
)
# fmt: on


def shown_keys(command: Command) -> str:
    """The first shortcut as the player reads it, or ""."""
    return QKeySequence(command.keys[0]).toString(QKeySequence.SequenceFormat.NativeText) if command.keys else ""


def build_actions(window: QWidget, desk_area: QWidget) -> dict[str, QAction]:
    """An action for every command: window-wide ones belong to `window`, those of the desk to their part of it."""
    actions = {}
    for command in COMMANDS:
        action = QAction(command.title, window)
        action.setShortcuts([QKeySequence(keys) for keys in command.keys])
        action.setStatusTip(command.tip)
        keys = shown_keys(command)
        action.setToolTip(f"{command.tip} ({keys})" if keys else command.tip)
        action.setCheckable(command.checkable)
        if command.desk or command.page:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        if not command.page:
            (desk_area if command.desk else window).addAction(action)
        action.triggered.connect(lambda _=False, do=command.do: do(window))
        actions[command.id] = action
    return actions


def page_actions(actions: dict[str, QAction]) -> list[QAction]:
    """The actions that belong to the page of the chart."""
    return [actions[command.id] for command in COMMANDS if command.page]
