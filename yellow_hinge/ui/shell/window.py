"""The main window: its parts made, put into their places and tied together."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QContextMenuEvent, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QVBoxLayout, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.keeping.settings import Places, Settings
from yellow_hinge.ui.commands import bound, build_actions, of_area
from yellow_hinge.ui.dialogs.asker import Asker
from yellow_hinge.ui.files.autosave import Autosave
from yellow_hinge.ui.files.dropping import Dropping
from yellow_hinge.ui.files.files import Files
from yellow_hinge.ui.files.hearing import Hearing
from yellow_hinge.ui.files.knowing import Knowing
from yellow_hinge.ui.files.own_data import OwnData
from yellow_hinge.ui.files.rescues import Rescues
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.help.helping import Helping
from yellow_hinge.ui.onstage.staging import Staging
from yellow_hinge.ui.paint.announcing import label_boxes
from yellow_hinge.ui.paint.controls import level_rule
from yellow_hinge.ui.paint.reading_order import go_on
from yellow_hinge.ui.parts.keys_panel import KeysPanel
from yellow_hinge.ui.parts.look import Look
from yellow_hinge.ui.parts.menus import MenuKeys, build_menus
from yellow_hinge.ui.parts.one_place import OnePlace
from yellow_hinge.ui.parts.pointing.in_place import InPlace
from yellow_hinge.ui.parts.pointing.things import ThingMenus
from yellow_hinge.ui.parts.preferences import Preferences
from yellow_hinge.ui.parts.ribbon import Ribbon
from yellow_hinge.ui.parts.rooms import Handle, Rooms
from yellow_hinge.ui.parts.shell import Shell
from yellow_hinge.ui.parts.telling import Teller
from yellow_hinge.ui.practice.room import PRACTICE
from yellow_hinge.ui.sheet.out import SheetOut
from yellow_hinge.ui.shell.clipboard import Clipboard
from yellow_hinge.ui.shell.commands.choosing import Choosing
from yellow_hinge.ui.shell.commands.seeing import Seeing
from yellow_hinge.ui.shell.drawers import Drawers
from yellow_hinge.ui.shell.fitting import Fitting
from yellow_hinge.ui.shell.header import Header
from yellow_hinge.ui.shell.offers import Offers
from yellow_hinge.ui.shell.rail import Rail
from yellow_hinge.ui.shell.showing import Showing
from yellow_hinge.ui.shell.solving import Solving
from yellow_hinge.ui.shell.table import COMMANDS, HOME, ROOMS, SETS
from yellow_hinge.ui.shell.welcome import Welcome
from yellow_hinge.ui.sound.listening import Listening
from yellow_hinge.ui.sound.live import LiveKeys
from yellow_hinge.ui.takes.anywhere import Takes

if TYPE_CHECKING:
    from yellow_hinge.app.practice.log import PracticeLog

LISTENING_MS = 700  # after which keyboards are looked for
LOW = 740  # pixels of height under which the keyboards are flatter


class MainWindow(QMainWindow):
    """Header, ribbon, rail, rooms and keyboards around one desk."""

    def __init__(self, places: Places, settings: Settings) -> None:
        super().__init__()
        self.places = places
        self.teller, self.solving = Teller(self), Solving(self)
        self.desk = Desk(self.solving.ask)
        self.solving.came.connect(self.desk.accept)
        self.autosave = Autosave(self.desk, places, self.teller.tell, lambda: self.saving.known or "", self)
        self.preferences = Preferences(settings, self.desk, self.autosave.settings.put, self.autosave.mine)
        self.look = Look(self, self.preferences)
        self.listening = Listening(self.desk, self, settings.heard)
        self.live = LiveKeys(self, self.listening.player.instruments)
        self.ribbon, self.keys = Ribbon(self.desk, self.look.theme), KeysPanel(self.desk, self.look.theme)
        self.actions_ = build_actions(self, COMMANDS)
        self.asker = Asker(self, self.desk, self.preferences, self.look)
        self._make_files()
        self._make_rooms()
        self._put_in_place()
        self._tie()
        self.fitting = Fitting(self, settings.window)
        if settings.maximised:
            self.setWindowState(Qt.WindowState.WindowMaximized)
        self.rooms.show_room(self.rooms.named(settings.view))

    def _make_files(self) -> None:
        """The song's ways to and from the disk."""
        desk, teller, places = self.desk, self.teller, self.places
        wants = lambda: (self.listening.heard.click, self.preferences.settings.sheet)  # noqa: E731
        self.saving = Saving(desk, self, teller, places, wants)
        self.files = Files(desk, self, teller, self.preferences, self.saving, places)
        self.hearing = Hearing(desk, self, self.live, self.files, teller, self.listening)
        self.knowing = Knowing(desk, self, teller)
        self.dropping = Dropping(
            self, lambda: self.look.theme, lambda path: self.saving.may_leave() and self.files.open_path(path)
        )
        self.rescues = Rescues(desk, places, self.autosave, self.saving, teller)
        self.takes = Takes(desk, teller, self.saving)
        self.own_data = OwnData(self, desk, self.preferences, teller, places.mine, lambda: self.look.theme)

    def _make_rooms(self) -> None:
        """What rooms are given, the rooms, and what stands around them."""
        keys_of = lambda area: of_area(area, COMMANDS, self.actions_)  # noqa: E731
        self.shell = Shell(
            self.desk, self.look, self.actions_, keys_of, self.keys, self.ribbon, self.listening, self.live,
            self.preferences, self.teller, ThingMenus(self, self.actions_, COMMANDS), InPlace(self.desk),
            self.asker.name,
            lambda: self.saving.ask_export("practice log", {".csv": "Table"}),
            lambda path: self.saving.may_leave() and self.files.open_path(path),
            self.asker.folder, self.asker.file, self.asker.which, lambda *entry: self.rooms.at(PRACTICE).start(*entry),
            self.places.mine, self.places.state,
            lambda *tonight: self.staging.go_set(*tonight), self._open_log,
        )  # fmt: skip
        self.staging = Staging(self, self.shell)
        self.rooms = Rooms(self.shell, ROOMS, HOME)
        self.home = self.rooms.room(HOME)
        menus, self.submenus = build_menus(self.menuBar(), self.actions_, COMMANDS)
        self.menu_keys = MenuKeys(self.menuBar(), (*menus.values(), *self.submenus.values()))
        self.header = Header(self.desk, self.actions_, self.listening)
        self.rail = Rail(ROOMS, self.actions_, self.look)
        self.welcome = Welcome(self.actions_, self.submenus["last_songs"], self.header.manner)
        self.middle = QHBoxLayout()
        offers = Offers(self.desk, self.files, self.takes, self.header.choose_manner, self.listening.loop)
        self.drawers = Drawers(self, self.shell, self.middle, COMMANDS, offers)
        self.choosing = Choosing(self.shell, self.rooms)
        self.out = SheetOut(self, self.desk, self.rooms, self.saving, self.teller)
        self.helping = Helping(self, COMMANDS, self.preferences, self.teller, self.listening, self.live)
        self.clipboard = Clipboard(self.desk, self.teller)
        self.showing = Showing(self, self.shell, self.rooms, self.header, self.drawers)

    def _put_in_place(self) -> None:
        self.middle.setSpacing(0)
        self.middle.addWidget(self.rail)
        self.middle.addWidget(self.rooms, 1)
        column = QVBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.header, self.solving.busy, self.ribbon):
            column.addWidget(part)
        column.addLayout(self.middle, 1)
        column.addWidget(level_rule())
        column.addWidget(self.keys)
        holder = QWidget()
        holder.setLayout(column)
        self.setCentralWidget(holder)
        self.one_place = OnePlace(self, (*self.teller.bars, self.welcome))
        label_boxes(self)
        self.statusBar().setSizeGripEnabled(False)
        self.statusBar().addWidget(self.teller.line, 1)  # a menu's tips come and go over it

    def _tie(self) -> None:
        """Commands to those who do them, menus to what fills them, and what happens around opening and saving."""
        self.seeing = Seeing(self.shell, self.rooms)  # once everything has its place
        for name, do in bound(SETS, self._owner):
            self.actions_[name].triggered.connect(lambda _=False, do=do: do())
        for name, fill in (
            ("shipped", self.files.fill_shipped), ("last_songs", self.files.fill_last),
            ("earlier", self.saving.fill_versions), ("unsaved", self.rescues.fill),
        ):  # fmt: skip
            menu = self.submenus[name]
            menu.aboutToShow.connect(lambda menu=menu, fill=fill: fill(menu))
        if not self.preferences.offers_hands:
            self.welcome.hide()
        self.welcome.closed.connect(lambda: self.preferences.put(hands_offered=True))
        self.header.chosen.connect(lambda name: self.preferences.put(manner=name))
        self.rail.chosen.connect(self.rooms.show_room)
        self.rooms.shown.connect(self.rail.mark)
        self.rooms.shown.connect(lambda handle: self.preferences.put(view=handle.id))
        self.saving.mistake.connect(self.showing.show_mistake)
        self.saving.saved.connect(self.preferences.remember_file)
        self.ribbon.asked.connect(self.shell.things.open)
        self.ribbon.named.connect(lambda index, area: self.shell.in_place.of_chord("section", index, self.ribbon, area))
        self.files.begun.connect(self.showing.teach)
        self.files.opened.connect(self._opened)
        self.files.many.connect(self.dropping.open)
        QTimer.singleShot(LISTENING_MS, self, self._listen)

    def _owner(self, owner: Any, shown: bool) -> Any:
        """Who does the commands of a table: a room by its handle, or the part of a type."""
        if isinstance(owner, Handle):
            return self.rooms.at(owner) if shown else self.rooms.room(owner)
        parts = (
            self, self.files, self.hearing, self.saving, self.out, self.desk, self.choosing, self.drawers, self.asker,
            self.rooms, self.staging, self.own_data,
            self.listening, self.takes, self.seeing, self.menu_keys, self.helping, self.clipboard,
        )  # fmt: skip
        return next(part for part in parts if isinstance(part, owner))

    def _opened(self, path: Path) -> None:
        """A file was opened: what is to be said of it, and remembered."""
        if self.autosave.session.open_elsewhere(path):
            self.teller.warn_shared(path, self.saving.save_as)
        self.takes.tell_apart()
        self.knowing.look()
        self.preferences.remember_file(path)

    def _open_log(self) -> PracticeLog:
        from yellow_hinge.app.practice.log import PracticeLog  # a database is not needed at start

        return PracticeLog(self.places.state)

    def _listen(self) -> None:
        from yellow_hinge.app.practice.ports import SystemBackend  # nor are keyboards

        self.live.listen(SystemBackend())

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The Menu key: what can be done with what is selected in the room that is shown."""
        view = self.rooms.currentWidget()
        if event.reason() == QContextMenuEvent.Reason.Keyboard and view is not None:
            self.rooms.now.ask_menu(view.mapToGlobal(view.rect().center()))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.keys.set_low(event.size().height() < LOW)
        self.seeing.fit(event.size().height())

    def focusNextPrevChild(self, forward: bool) -> bool:
        return go_on(self.centralWidget(), self.focusWidget(), forward)

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.saving.may_leave():
            event.ignore()
            return
        for part in (
            self.staging,
            self.own_data,
            self.showing,
            self.listening,
            self.listening.player,
            self.live,
            self.solving,
            self.knowing,
        ):
            part.close()
        self.rooms.close_rooms()
        last = str(Path(self.desk.document.path).resolve()) if self.desk.document.path else ""
        plain = self.normalGeometry().size() if self.isMaximized() else self.size()
        self.preferences.put(
            maximised=self.isMaximized(), window=(plain.width(), plain.height()), last_file=last,
            chord=self.desk.selection.index, column_w=self.home.view.map.column_w,
        )  # fmt: skip
        self.autosave.close()
        event.accept()
