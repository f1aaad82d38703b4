"""Commands of the desk itself: undo, going through the chords, marking, keeping, tempo."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.ui.chart.room import CHART_PAGE
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.shell.commands.choosing import LISTS

GOING = (*LISTS, CHART_PAGE)
_HERE = (HINGES,)
LAST = 1 << 30

# fmt: off
COMMANDS: Commands[Desk] = Commands(Desk, (
    Command("undo", "Edit", "Undo", ("Ctrl+Z",), "Take the last edit back", lambda desk: desk.document.undo()),
    Command("redo", "Edit", "Redo", ("Ctrl+Shift+Z", "Ctrl+Y"), "Do the undone edit again",
            lambda desk: desk.document.redo()),
    Command("previous", "Chord", "Previous chord", ("Left",), "Go to the chord before",
            lambda desk: desk.selection.go(desk.selection.index - 1), GOING),
    Command("next", "Chord", "Next chord", ("Right",), "Go to the chord after",
            lambda desk: desk.selection.go(desk.selection.index + 1), GOING),
    Command("first", "Chord", "First chord", ("Home",), "Go to the first chord",
            lambda desk: desk.selection.go(0), GOING),
    Command("last", "Chord", "Last chord", ("End",), "Go to the last chord",
            lambda desk: desk.selection.go(LAST), GOING),
    Command("mark_back", "Chord", "Mark backward", ("Shift+Left",), "Mark up to the chord before",
            lambda desk: desk.selection.mark_to(desk.selection.index - 1), GOING),
    Command("mark_on", "Chord", "Mark forward", ("Shift+Right",), "Mark up to the chord after",
            lambda desk: desk.selection.mark_to(desk.selection.index + 1), GOING),
    Command("mark_bar", "Chord", "Mark the bar", ("B",), "Mark this bar; again: the next one too",
            lambda desk: desk.selection.mark_bars(), GOING, on=("chord", "sheet")),
    Command("mark_section", "Chord", "Mark the section", (), "Mark this section as it is played",
            lambda desk: desk.selection.mark_section(), on=("chord", "section", "sheet")),
    Command("keep", "Keep", "The chord", ("K",), "Keep the chord and solve the rest around it, or let go",
            lambda desk: desk.toggle_keep(), _HERE, on=("chord", "hinge")),
    Command("keep_left", "Keep", "The left hand", ("Shift+L",), "Keep the left hand, or let it go",
            lambda desk: desk.toggle_keep("left"), _HERE, on=("chord", "note")),
    Command("keep_right", "Keep", "The right hand", ("Shift+K",), "Keep the right hand, or let it go",
            lambda desk: desk.toggle_keep("right"), _HERE, on=("chord", "note")),
    Command("keep_top", "Keep", "The top note", ("Shift+T",), "Keep the highest note, or let it go",
            lambda desk: desk.toggle_keep("top"), _HERE, on=("note",)),
    Command("keep_bass", "Keep", "The bass", ("Shift+B",), "Keep the bass, or let it go",
            lambda desk: desk.toggle_keep("bass"), _HERE, on=("note",)),
    Command("hold_top", "Keep", "Hold the top into the next chord", ("H",), "Again: one chord longer",
            lambda desk: desk.hold_top(), _HERE, on=("chord", "note")),
    Command("drop_top", "Keep", "Let the held top go", ("Shift+H",), "The top is free again",
            lambda desk: desk.drop_held_top(), _HERE, on=("note",)),
    Command("goes_round", "Keep", "The song goes round", (), "Solve the last chord into the first, or no more",
            lambda desk: desk.turn("loop")),
    Command("bass_mine", "Keep", "The bass is mine, or another's", (), "Change who has the bass",
            lambda desk: desk.turn("bass")),
    Command("tune_top", "Keep", "The tune on top, or sung", (), "Change who has the tune",
            lambda desk: desk.turn("melody")),
    Command("keep_others", "Keep", "The others as they were", ("Shift+O",), "Keep what the last edit changed elsewhere",
            lambda desk: desk.keep_others(), _HERE, on=("hinge",)),
    Command("free_all", "Keep", "Let everything go", ("Ctrl+Shift+K",), "Nothing is kept any more",
            lambda desk: desk.free_all()),
    Command("free_resting", "Keep", "Let go what rests", (), "Drop what was kept for chords that are others now",
            lambda desk: desk.free_resting()),
    Command("slower", "Listen", "Slower", ("Ctrl+,",), "Two beats a minute less", lambda desk: desk.change_tempo(-2)),
    Command("faster", "Listen", "Faster", ("Ctrl+;",), "Two beats a minute more", lambda desk: desk.change_tempo(2)),
))
# fmt: on
