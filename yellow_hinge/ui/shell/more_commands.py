"""Commands that depend on the song and on what is there: songs to open, kinds of files to export, keys to go to,
manners, styles, sections, takes. The command box knows them beside the table of commands.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

from yellow_hinge.app.desk.playing import all_patterns, take_pattern
from yellow_hinge.app.edits.other_key import other_keys
from yellow_hinge.core.leading.asking.manners import NONE, manners
from yellow_hinge.core.leading.asking.wishes import OF_SONG
from yellow_hinge.io.formats import WRITERS
from yellow_hinge.io.songs.demo import demo_names, demo_title
from yellow_hinge.ui.parts.commands import Command
from yellow_hinge.ui.takes.anywhere import show_take

# Where in the window these are found without the command box.
SHIPPED, LAST, EXPORT = "Song > Songs that ship", "Song > Last songs", "Song > Export"
KEYS, MANNER, WISHED = "Chart > To another key", "top bar, Manner", "Hinges, strip over the map"
TURNED = ("bass", "melody", "loop", "vary")  # which one command turns
PATTERNS, TAKES, RIBBON = "Playing, list of patterns", "Takes, the list", "the ribbon"


def more_commands(window: Any) -> list[Command]:
    """What can be done now, by name."""
    makers = (_songs, _exports, _keys, _wishes, _patterns, _takes, _sections)
    return [command for make in makers for command in make(window)]


def _command(id_: str, menu: str, title: str, tip: str, do: Any) -> Command:
    return Command(id_, menu, title, (), tip, do)


def _songs(window: Any) -> Iterator[Command]:
    for name in demo_names():
        yield _command(f"demo:{name}", SHIPPED, demo_title(name), "Open this song that ships",
                       lambda w, name=name: w.files.demo(name))  # fmt: skip
    for text in window.settings.recent:
        path = Path(text)
        yield _command(f"last:{text}", LAST, path.stem, f"Open {path}", lambda w, path=path: w.files.again(path))


def _exports(window: Any) -> Iterator[Command]:
    for ending, kind in WRITERS.items():
        yield _command(f"export{ending}", EXPORT, f"Export {kind.name} ({ending})", f"Write a {ending} file",
                       lambda w, ending=ending: w.saving.export(ending))  # fmt: skip


def _keys(window: Any) -> Iterator[Command]:
    song = window.desk.song
    if not song.sections or window.desk.reading.faults:
        return
    for other in other_keys(song):
        if other.by or other.key != song.the_key:
            yield _command(f"key:{other.key}", KEYS, f"Play in {other.words}", "The song in another key",
                           lambda w, key=other.key: w.desk.change_key(key))  # fmt: skip


def _wishes(window: Any) -> Iterator[Command]:
    desk = window.desk
    for name, title in ((NONE, "none"), *((manner.id, manner.name) for manner in manners().values())):
        label = f"manner {title.lower()}" if name != NONE else "no manner"
        yield _command(f"manner:{name}", MANNER, f"Manner: {title}", "Bass, colour, style, hands and notes at once",
                       lambda w, name=name, label=label: w.header.choose_manner(name, label))  # fmt: skip
    for kind in (kind for kind in OF_SONG if kind.name not in TURNED):
        for named in kind.offers:
            title = f"{kind.name.capitalize()}: {kind.said(named.value)}"
            yield _command(f"{kind.name}:{named.value}", WISHED, title, named.tip or kind.option,
                           lambda w, kind=kind, value=named.value: desk.change_setup(kind.label(value),
                                                                                     **{kind.name: value}))  # fmt: skip


def _patterns(window: Any) -> Iterator[Command]:
    for pattern in all_patterns(window.desk) if window.desk.solution else ():
        yield _command(f"pattern:{pattern.id}", PATTERNS, f"Play as {pattern.name}", "How the song's hands are struck",
                       lambda w, id_=pattern.id: take_pattern(w.desk, "song", "both", id_))  # fmt: skip


def _takes(window: Any) -> Iterator[Command]:
    for take in window.desk.state.others:
        yield _command(f"take:{take.id}", TAKES, f"Show the take {take.name}", "Put this take on the desk",
                       lambda w, id_=take.id: show_take(w, id_))  # fmt: skip


def _sections(window: Any) -> Iterator[Command]:
    solution, song = window.desk.solution, window.desk.solved_state.song
    begun = -1
    for index, voicing in enumerate(solution.voicings if solution else ()):
        if voicing.here.section != begun and voicing.here.section < len(song.sections):
            begun = voicing.here.section
            yield _command(f"go:{index}", RIBBON, f"Go to {song.sections[begun].name}", "Select its first chord",
                           lambda w, index=index: w.desk.select(index))  # fmt: skip
