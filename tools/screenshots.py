"""`make screenshots`: one current PNG of each main view, from the demo songs, into the folder named as argument;
more words name the pictures wanted.
"""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any

from tools.offscreen import PLATFORM

os.environ["QT_QPA_PLATFORM"] = PLATFORM  # before Qt is there

from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtGui import QColor, QImage, QPainter

from yellow_hinge.app.desk.playing.asking import take_pattern
from yellow_hinge.app.edits.state import file_of, state_of
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.app.onstage.making import Entry
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.solving.book.sets import SetSong
from yellow_hinge.app.solving.book.songbook import songbook
from yellow_hinge.app.solving.twelve import in_twelve, keys_sheet
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.leading.asking.setup import with_player
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.onstage.asks import StageAsk
from yellow_hinge.core.practice.marking import Mark
from yellow_hinge.core.practice.memory import reviewed
from yellow_hinge.core.practice.partner import Feel, in_time
from yellow_hinge.core.sheet.asks import SheetAsk
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.engraving.sheets import sheet_pages
from yellow_hinge.io.opening import read_song
from yellow_hinge.io.songs.demo import put_book
from yellow_hinge.paper import out
from yellow_hinge.ui.book.room import BOOK
from yellow_hinge.ui.chart.room import CHART
from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog
from yellow_hinge.ui.lines.room import LINES
from yellow_hinge.ui.onstage.working import Programme
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.shapes.room import SHAPES
from yellow_hinge.ui.sheet.room import SHEET
from yellow_hinge.ui.shell.start import make_app
from yellow_hinge.ui.shell.window import MainWindow
from yellow_hinge.ui.swaps.room import SWAPS
from yellow_hinge.ui.takes.room import TAKES

SOME_WAY = 2.2  # seconds of the pass that is seen


def wait(milliseconds: int) -> None:
    """Let the window work."""
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def settle(window: MainWindow) -> None:
    """Wait until what is on the desk is solved and drawn."""
    desk = window.desk
    for _ in range(400):
        wait(20)
        if desk.solution is not None and desk.state.question == desk.answers.state.question:
            break
    for _ in range(100):  # the list of ways and its reason come after the hands
        wait(20)
        options = window.home.view.options
        if not (options.pending or options._later.isActive()):
            break
    wait(40)


def picture(
    target: Path,
    song: str,
    do: Callable[[MainWindow], object],
    theme: str = "light",
    view: str = "hinges",
    size: tuple[int, int] = (1280, 800),
) -> None:
    """Open a demo song, do something, save what the window shows."""
    folder = Path(tempfile.mkdtemp())
    window = MainWindow(Places(folder, folder), Settings(theme=theme, view=view, window=size, hands_offered=True))
    window.show()
    window.files.open_demo(song)
    settle(window)
    do(window)
    settle(window)
    window.desk.document.saved = window.desk.state
    window.header.refresh()
    window.grab().save(str(target))
    print(target)
    window.close()


def _try_e(window: MainWindow) -> None:
    window.rooms.room(CHART).view.tools.key.setCurrentIndex(5)
    window.rooms.room(CHART).view.tools.key.activated.emit(5)


def _drag(window: MainWindow) -> None:
    window.desk.selection.go(5)
    settle(window)
    top = window.desk.selection.voicing.right[-1] if window.desk.selection.voicing else 60
    for over in range(top + 1, top + 12):
        window.home.mover.drag("right", top, over)
        if window.home.mover.trial and not window.home.mover.trial.faults:
            break


def _part(window: MainWindow) -> None:
    """The bridge more colourful, one chord's top kept, the hardest changes listed."""
    window.desk.selection.go(4)
    settle(window)
    window.desk.toggle_keep("top")
    settle(window)
    section = window.desk.selection.moment.section + 1
    window.home.view.wishes.scope.activated.emit(section)
    window.home.view.wishes.colour["3"].click()
    window.home.view.side.show_page("stiff")


def _swaps(window: MainWindow, chord: int = 9, down: int = 2) -> None:
    """The swaps of a chord, one of them tried."""
    window.desk.selection.go(chord)
    window.rooms.show_room(SWAPS)
    for _ in range(200):
        wait(50)
        if window.rooms.room(SWAPS).listed:
            break
    for _ in range(down):
        window.rooms.room(SWAPS).step(1)


def _whole(window: MainWindow) -> None:
    """The whole song at boldness 3, nothing taken yet."""
    window.rooms.show_room(SWAPS)
    window.rooms.room(SWAPS).view.strip.levels["3"].click()
    for _ in range(200):
        wait(50)
        if window.rooms.room(SWAPS).view.whole:
            break
    window.rooms.room(SWAPS).step(2)


def _long(window: MainWindow) -> None:
    """Five times round the song, all of it at once."""
    chart = window.desk.state.text
    bars = chart[chart.index("[") :]
    window.desk.type_text("\n".join([chart, *([bars] * 4)]))
    settle(window)
    window.desk.selection.go(70)
    window.home.view.map.fit()
    window.home.view.side.show_page("bass")


def _playing(window: MainWindow) -> None:
    """A bar of a ballad, with other patterns in other places."""
    take_pattern(window.desk, "song", "both", "ballad")
    window.desk.selection.go(20)
    take_pattern(window.desk, "section", "both", "eighths")
    window.desk.selection.go(2)


def _takes(window: MainWindow) -> None:
    """Three takes and their mix, the second looked at."""
    window.rooms.show_room(TAKES)
    room = window.rooms.room(TAKES)
    for _ in range(200):
        wait(30)
        if room.found is not None and room.found.done and len(room.found.rows) == 3:
            break
    window.desk.selection.go(5)
    window.rooms.room(TAKES).view.cells.at = 1
    room.at = 1
    room.redraw()


def _sheet(window: MainWindow, kind: str) -> None:
    """The sheet of a kind, with a note of the player's."""
    wait(400)
    room, view = window.rooms.room(SHEET), window.rooms.room(SHEET).view
    window.desk.selection.go(6)
    for line, words in ((view.chord_note, "let it ring"), (view.song_note, "brushes, softer the second time")):
        line.setText(words)
        line.editingFinished.emit()
    view.kind.setCurrentIndex(view.kind.findData(kind))
    view.asked.emit()
    for _ in range(200):
        wait(50)
        if room.sheet.pages and room.sheet.number == room.solver.asked and not view.canvas.unfinished:
            break


def _practice(window: MainWindow) -> None:
    """Marked bars as they are played: one pass of somebody nearly right is over, the next has begun."""
    window.preferences.put(cautioned=True)
    window.desk.selection.mark_places(range(4))
    window.rooms.show_room(PRACTICE)
    view, piece = window.rooms.room(PRACTICE).view, window.rooms.room(PRACTICE).piece
    view.what.setCurrentIndex(view.what.findData("piece"))
    now, begun = [100.0], 100.0
    window.live.blockSignals(True)  # nor which keyboards it has
    view.plugged.setText("")
    piece._clock = lambda: now[0]
    piece._keep = lambda run, mark: None  # the log beside it is the made-up one
    window.listening.player.heard_at = lambda frame: begun
    window.listening.player.note.disconnect()  # whether this machine can be heard is not shown
    view.start.click()
    piece._tick.stop()
    run = piece.run
    while len(run.passes) < 1 or run.place(now[0]) < SOME_WAY:
        if run.start is None or run.place(now[0]) <= 0.0:
            piece._ticked()
            start, feel = run.start, Feel(late=0.02, uneven=0.07, missing=0.06)
            for touch in in_time(run.wanted, feel, Random(4)):
                piece.heard(NoteEvent(touch.kind, touch.midi, 80, start + touch.at))
        now[0] += 0.05
        piece._ticked()


def pages(folder: Path) -> None:
    """Pages of the main demo beside each other, as they print: staves, symbols, twelve keys."""
    state = state_of(read_song("demo:last-boat-to-marrow"))
    solution = solve_song(Builder(), timeline(state.song), state.asked, state.keeps)
    staves = SheetAsk("staves", show=("fingers", "cues", "tune"))
    keys = in_twelve(Builder(), state, (0, 3, 0), (0, 4, 0))
    found = [
        *sheet_pages(file_of(state), solution, staves)[:1],
        *sheet_pages(file_of(state), solution, SheetAsk("line", "m"))[:1],
        *keys_sheet(keys, SheetAsk(), False)[:1],
    ]
    wide, gap = 560, 12
    shots = [out.picture(page, wide) for page in found]
    sheet = QImage(len(shots) * (wide + gap) + gap, shots[0].height() + 2 * gap, QImage.Format.Format_RGB32)
    sheet.fill(QColor("#DFD6C3"))
    painter = QPainter(sheet)
    for number, shot in enumerate(shots):
        painter.drawImage(gap + number * (wide + gap), gap, shot)
    painter.end()
    sheet.save(str(folder / "sheet-pages.png"))


def _begun() -> MainWindow:
    place = Path(tempfile.mkdtemp())
    window = MainWindow(Places(place, place), Settings(theme="light"))
    window.show()
    window.files.open_demo()
    settle(window)
    return window


def hands(folder: Path) -> None:
    """The dialog of the hands by itself."""
    window = _begun()
    setup = with_player(window.desk.state.setup, singer=(57, 76))
    dialog = HandsDialog(setup, window.look.theme, window)
    dialog.show()
    wait(80)
    dialog.grab().save(str(folder / "hands-dialog.png"))
    dialog.close()
    window.close()


def stage(folder: Path) -> None:
    """A song of a set on stage, turning by itself."""
    window = _begun()
    names = ("slack-tide", "harbour-bell")
    entries = tuple(Entry(SetSong(path=f"{name}.chart"), name.replace("-", " ").title()) for name in names)
    ask = StageAsk(show=("numbers", "hands", "keyboards", "words"))
    window.staging.show(Programme(entries, ASSETS / "demo"), ask, 0, 3)
    screen = window.staging.screen
    assert screen is not None
    screen.showNormal()
    screen.resize(1280, 800)
    for _ in range(200):
        wait(50)
        if len(screen.stage._ready) == len(names):
            break
    screen.stage.go()
    wait(4000)
    screen.grab().save(str(folder / "stage.png"))
    screen.close()
    window.close()


BOAT, KETTLE, BELL = "last-boat-to-marrow", "kettle-on-the-stove", "harbour-bell"
SMALL = (1024, 700)


def _lines(window: MainWindow) -> None:
    """A coloured line over the verse."""
    room = window.rooms.room(LINES)
    room.view.bold["1"].click()
    window.desk.selection.go(2)
    for _ in range(200):
        wait(20)
        if room.line is not None and room.found is not None and room.found.asked.bold == 1:
            break


def _shapes(window: MainWindow) -> None:
    """The hands of a chord over twelve basses."""
    room = window.rooms.room(SHAPES)
    window.desk.selection.go(2)
    room.read_chord()
    wait(200)
    room.view.list.setCurrentRow(3)
    room.view.ring.at = 3


def _songbook(window: MainWindow) -> None:
    """The boat's book with its evening, some of it practised."""
    folder = put_book(Path(tempfile.mkdtemp()))
    window.preferences.put(songbook=str(folder))
    _practised(window, folder)
    window.rooms.show_room(BOOK)
    room = window.rooms.room(BOOK)
    for _ in range(400):
        wait(50)
        if len(room.tonight.row) > 10 and len(room.rows) > 10:
            break
    wait(300)
    room.view.table.sortByColumn(0, Qt.SortOrder.AscendingOrder)
    room.view.told.setText("the boat's book")


def _practised(window: MainWindow, folder: Path) -> None:
    """A practice log that is made up: some hinges of some songs, at some days."""
    now, log = datetime.now().astimezone(), window.shell.open_log()
    for number, row in enumerate(songbook([folder])):
        song = row.id if row.path.endswith(".hinge") else f"file:{row.id}"
        for item in map(str, range((number * 5) % 11)):
            card, at = "", now - timedelta(days=(number * 7 + int(item)) % 19)
            for _ in range(1 + (number + int(item)) % 3):
                card = reviewed(card, item, Mark(0.5 if int(item) % 4 else 9.0), at)
                at = min(now, at + timedelta(days=3))
            log.add(Run(at, song, row.title, "", "hinge", item, 0, 0, "", row.key, "both", 0.5), card)
    log.close()


# Every picture by its name: the song, what is done, and how the window is.
SHOTS: dict[str, tuple[str, Callable[[MainWindow], object], dict[str, Any]]] = {
    "hinges-light": (BOAT, lambda w: w.desk.selection.go(3), {}),
    "hinges-dragging": (BOAT, _drag, {}),
    "hinges-section-small": (BOAT, _part, {"size": SMALL}),
    "hinges-long-dark": (KETTLE, _long, {"theme": "dark"}),
    "swaps": (BOAT, _swaps, {}),
    "swaps-whole-song": (BOAT, _whole, {}),
    "playing": (BOAT, _playing, {"view": "playing"}),
    "lines": (BOAT, _lines, {"view": "lines"}),
    "shapes-dark": (BOAT, _shapes, {"view": "shapes", "theme": "dark"}),
    "songbook-dark": (BOAT, _songbook, {"theme": "dark", "size": SMALL}),
    "practice-dark": (BOAT, _practice, {"theme": "dark"}),
    "takes": (BOAT, _takes, {}),
    "sheet": (BOAT, lambda w: _sheet(w, "cheat"), {"view": "sheet"}),
    "sheet-staves-dark": (BOAT, lambda w: _sheet(w, "staves"), {"theme": "dark", "view": "sheet"}),
    "chart-light": (BOAT, lambda w: w.desk.selection.go(3), {"view": "chart"}),
    "chart-another-key-dark": (BELL, _try_e, {"theme": "dark", "view": "chart", "size": SMALL}),
}
ALONE = {"sheet-pages": pages, "hands-dialog": hands, "stage": stage}


def main(folder: Path, names: list[str]) -> None:
    """Make the pictures of some names, every one where none is named."""
    folder.mkdir(parents=True, exist_ok=True)
    app = make_app(["screenshots"])
    for name in names or (*SHOTS, *ALONE):
        if name in ALONE:
            ALONE[name](folder)
        else:
            song, do, how = SHOTS[name]
            picture(folder / f"{name}.png", song, do, **how)
    app.processEvents()


if __name__ == "__main__":
    main(Path(sys.argv[1]), sys.argv[2:])
    sys.stdout.flush()
    os._exit(0)  # threads of closed windows may still be inside a library, where the end of Python would abort them
