"""Commands of what is heard."""

from __future__ import annotations

from yellow_hinge.ui.chart.room import CHART_PAGE
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.hinges.room import HINGES
from yellow_hinge.ui.playing.room import PLAYING
from yellow_hinge.ui.shell.commands.choosing import HEARD, LISTS
from yellow_hinge.ui.sound.listening import Listening

_BAR = (HINGES, PLAYING)

# fmt: off
COMMANDS: Commands[Listening] = Commands(Listening, (
    Command("play", "Listen", "Play or stop", ("Space",), "Play from the selected chord",
            lambda listening: listening.toggle(), LISTS),
    Command("play_before", "Listen", "Hear it as it is", ("Shift+P",), "Play it between its neighbours",
            lambda listening: listening.around(), HEARD, on=("chord", "hinge")),
    Command("loop_hinge", "Listen", "Loop this hinge", ("L",), "Repeat this chord and the next",
            lambda listening: listening.loop("hinge"), HEARD, on=("hinge",)),
    Command("loop_bar", "Listen", "Loop this bar", ("Ctrl+L",), "Repeat the bar of this chord",
            lambda listening: listening.loop("bar"), _BAR, on=("chord",)),
    Command("loop_mark", "Listen", "Loop what is marked", ("G",), "Repeat the marked chords; a bar where none are",
            lambda listening: listening.loop("mark"), (*HEARD, CHART_PAGE)),
    Command("loop_section", "Listen", "Loop this section", ("Ctrl+Shift+L",), "Repeat the section of this chord",
            lambda listening: listening.loop("section"), _BAR, on=("section",)),
    Command("hear_left", "Listen", "Left hand alone", (), "Hear the left hand only",
            lambda listening: listening.hear("left"), checkable=True),
    Command("hear_right", "Listen", "Right hand alone", (), "Hear the right hand only",
            lambda listening: listening.hear("right"), checkable=True),
    Command("hear_tune", "Listen", "With the tune", ("T",), "Hear the tune too",
            lambda listening: listening.flip("tune"), HEARD, checkable=True),
    Command("hear_bass", "Listen", "With the bass player", (), "Hear the bass that is another's",
            lambda listening: listening.flip("bass"), checkable=True),
    Command("hear_click", "Listen", "With a click", (), "Hear every beat",
            lambda listening: listening.flip("click"), checkable=True),
    Command("hear_drums", "Listen", "With soft drums", (), "Hear drums",
            lambda listening: listening.flip("drums"), checkable=True),
    Command("count_in", "Listen", "Count in", (), "A bar of clicks before playing",
            lambda listening: listening.flip("count_in"), checkable=True),
    Command("half_speed", "Listen", "Half speed", ("Ctrl+Shift+H",), "Hear it half as fast",
            lambda listening: listening.flip("half"), checkable=True),
))
# fmt: on
# The commands that turn a switch of what is heard, and its name there.
SWITCHES = {
    "hear_tune": "tune",
    "hear_bass": "bass",
    "hear_click": "click",
    "hear_drums": "drums",
    "count_in": "count_in",
    "half_speed": "half",
}  # fmt: skip
