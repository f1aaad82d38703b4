"""`make screenshots`: one current PNG of each main view, from the demo songs, into the folder named as argument."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import msgspec
from PySide6.QtCore import QEventLoop, QTimer

from yellow_hinge.app.keeping import Places, Settings
from yellow_hinge.ui.dialogs.hands_dialog import HandsDialog
from yellow_hinge.ui.start import make_app
from yellow_hinge.ui.window import MainWindow


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
        now, solved = desk.state, desk.solved_state
        if desk.solution is not None and (now.song, now.setup, now.keeps) == (solved.song, solved.setup, solved.keeps):
            break
    wait(60)


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
    window.desk.saved = window.desk.state
    window.header.refresh()
    window.grab().save(str(target))
    print(target)
    window.close()


def _faulty(window: MainWindow) -> None:
    window.chart.editor.setPlainText(window.desk.state.text.replace("G#m7 | C#7", "G#m7 | C#77", 1))


def _try_e(window: MainWindow) -> None:
    window.chart.tools.key.setCurrentIndex(5)
    window.chart.tools.key.activated.emit(5)


def _drag(window: MainWindow) -> None:
    window.desk.select(5)
    settle(window)
    top = window.desk.voicing.right[-1] if window.desk.voicing else 60
    for over in range(top + 1, top + 12):
        window.mover.drag("right", top, over)
        if window.mover.trial and not window.mover.trial.faults:
            break


def _part(window: MainWindow) -> None:
    """The bridge more colourful, one chord's top kept, the hardest changes listed."""
    window.desk.select(4)
    settle(window)
    window.desk.toggle_keep("top")
    settle(window)
    window.hinges.wishes.scope.setCurrentIndex(1)
    window.hinges.wishes.colour["3"].click()
    window.hinges.side.show_page("stiff")


def _swaps(window: MainWindow, chord: int = 9, down: int = 2) -> None:
    """The swaps of a chord, one of them tried."""
    window.desk.select(chord)
    window.show_view("swaps")
    for _ in range(200):
        wait(50)
        if window.swaps.swaps.count():
            break
    for _ in range(down):
        window.swapping.move(1)


def _fifths(window: MainWindow) -> None:
    """A chain of fifths tried, some links as tritones."""
    _swaps(window, 0, 0)
    swaps = window.swaps.swaps
    while not (swaps.current and swaps.current.kind.group == "fifths" and len(swaps.current.chords) == 3):
        window.swapping.move(1)


def _whole(window: MainWindow) -> None:
    """The whole song at boldness 3, nothing taken yet."""
    window.show_view("swaps")
    window.swaps.strip.levels["3"].click()
    for _ in range(200):
        wait(50)
        if window.swaps.whole:
            break
    window.swapping.move(2)


def _long(window: MainWindow) -> None:
    """Five times round the song, all of it at once."""
    chart = window.desk.state.text
    bars = chart[chart.index("[") :]
    window.desk.type_text("\n".join([chart, *([bars] * 4)]))
    settle(window)
    window.desk.select(70)
    window.hinges.map.fit()
    window.hinges.side.show_page("bass")


def dialogs(folder: Path) -> None:
    """The dialogs, each by itself."""
    place = Path(tempfile.mkdtemp())
    window = MainWindow(Places(place, place), Settings(theme="light"))
    window.show()
    window.files.open_demo()
    settle(window)
    setup = msgspec.structs.replace(window.desk.state.setup, singer=(57, 76))
    dialog = HandsDialog(setup, window.theme, window)
    dialog.show()
    wait(80)
    dialog.grab().save(str(folder / "hands-dialog.png"))
    dialog.close()
    window.find_command()
    window.command_box.line.setText("keep")
    wait(80)
    window.grab().save(str(folder / "find-a-command.png"))
    window.close()


def main(folder: Path) -> None:
    """Make every picture."""
    folder.mkdir(parents=True, exist_ok=True)
    app = make_app(["screenshots"])
    boat = "last-boat-to-marrow"
    picture(folder / "hinges-light.png", boat, lambda w: w.desk.select(3))
    picture(folder / "hinges-dark.png", boat, lambda w: w.desk.select(10), theme="dark")
    picture(
        folder / "hinges-bass-theirs.png",
        "kettle-on-the-stove",
        lambda w: w.desk.change_setup("bass theirs", bass="theirs"),
    )
    picture(folder / "hinges-dragging.png", boat, _drag)
    picture(folder / "hinges-section-small.png", boat, _part, size=(1024, 700))
    picture(folder / "hinges-long-dark.png", "kettle-on-the-stove", _long, theme="dark")
    picture(folder / "swaps.png", boat, _swaps)
    picture(folder / "swaps-whole-song.png", boat, _whole)
    picture(folder / "swaps-fifths-dark.png", "harbour-bell", _fifths, theme="dark", size=(1024, 700))
    dialogs(folder)
    picture(folder / "chart-light.png", boat, lambda w: w.desk.select(3), view="chart")
    picture(folder / "chart-mistake.png", boat, _faulty, view="chart")
    picture(folder / "chart-another-key-dark.png", "harbour-bell", _try_e, theme="dark", view="chart", size=(1024, 700))
    app.processEvents()


if __name__ == "__main__":
    main(Path(sys.argv[1]))
