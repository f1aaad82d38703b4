"""The strip over the map: how colourful, in which style, with which shapes, in which register, and for what part."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction, QResizeEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QMenu, QSizePolicy, QToolButton, QWidget

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.places import place_ids
from yellow_hinge.app.edits.wishing import (
    overriding,
    standing,
    with_wishes,
    without_wishes,
)
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.asking.wish_words import ALL, family_words, lift_words
from yellow_hinge.core.leading.asking.wishes import WISHES, Holding, Named, Scope, WishKind
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.shapes.catalogue import WIDEST, offered
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.ui.paint.controls import ElidedLabel, as_muted, as_small, choice, fit_text, tool_button
from yellow_hinge.ui.paint.folding import Fold
from yellow_hinge.ui.paint.notes import chord_text
from yellow_hinge.ui.paint.popups import ListBox, OwnKeys

ROOMY = 720  # pixels from which the controls have their labels


# Wishes with a control of their own; the others are in the menu.
OWN_CONTROL = ("colour", "style", "families", "lift", "bass", "melody", "manner")


def _numbered(names: list[str]) -> list[str]:
    """Names of sections, with the time where one comes several times."""
    found = []
    for at, name in enumerate(names):
        time = f", {names[:at].count(name) + 1}" if names.count(name) > 1 else ""
        found.append(f"{name}{time}")
    return found


def _shape_names(setup: Setup) -> list[tuple[str, str]]:
    """(id, name) of the shapes that can be asked for."""
    shapes = [(shape.id, shape.name) for shape in offered() if shape.suits(setup.bass or "mine")]
    return [*shapes, *((shape.id, f"{shape.name} (mine)") for shape in setup.player.shapes)]


class WishStrip(QWidget):
    """Controls of what is asked of the solver, for the whole song, a section, what is marked or the selected chord.
    `forgotten` tells a shape of the player's that is wanted no more.
    """

    forgotten = Signal(object)

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.scope = self._box("What these wishes are for", ["whole song"])
        self.scope.setToolTip("What the wishes to the right are for: the song, a section, what is marked, or the chord")
        self.scope.setMinimumContentsLength(13)
        self.scope.activated.connect(self._scoped)
        self._scope: Scope = "song"
        self._named: list[tuple[str, int]] = []  # of the sections in the box
        colours = tuple((str(n.value), n.words, f"Colour: {n.tip}") for n in WISHES["colour"].offers)
        holder, self.colour = choice(colours, lambda value: self._ask(colour=int(value)))
        holder.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.style_ = self._box("Style of the voice leading", list(STYLES))
        self.fill_styles()
        self.style_.activated.connect(lambda i: self._ask(style=list(STYLES)[i]))
        self._build_shapes_and_register()
        self.told = ElidedLabel()
        self.told.setObjectName("muted")
        self.clear = tool_button("Clear", "Take back what this section or chord asks", "Clear these wishes")
        self.clear.clicked.connect(self._clear)
        self._labels: list[QLabel] = []
        self._lay_out(holder)

    def fill_styles(self) -> None:
        """Offer the styles there are."""
        if self.style_.count() != len(STYLES) or any(self.style_.findText(name) < 0 for name in STYLES):
            self.style_.clear()
            self.style_.addItems(list(STYLES))
        for index, style in enumerate(STYLES.values()):
            self.style_.setItemData(index, style.words, Qt.ItemDataRole.ToolTipRole)

    def _lay_out(self, holder: QWidget) -> None:
        """Everything in one row of small controls; `holder` has the colours."""
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 8, 4)
        row.setSpacing(6)
        tip = "Hand shapes, notes a hand, height and whatever else can be asked"
        self.more = Fold("wishes", "More", tip, (self.shapes, self.lift))
        named = (
            ("For", self.scope), ("Colour", holder), ("Style", self.style_), ("", self.more), ("", self.shapes),
            ("", self.lift),
        )  # fmt: skip
        for text, widget in named:
            if text:
                label = QLabel(text)
                as_muted(label)
                label.setBuddy(widget)
                self._labels.append(label)
                row.addWidget(label)
            row.addWidget(widget)
        row.addWidget(self.told, 1)
        row.addStretch(0)
        row.addWidget(self.clear)
        as_small(self.scope, self.style_, self.shapes, self.lift, self.told, self.clear, *self.colour.values())
        for button in self.colour.values():
            fit_text(button, 18)
        holder.setMinimumWidth(sum(button.minimumWidth() + 2 for button in self.colour.values()))
        for box in (self.scope, self.style_, self.shapes, self.lift):
            box.setMinimumWidth(64)
        self.shapes.setMinimumWidth(self.shapes.fontMetrics().horizontalAdvance(family_words(())) + 30)

    @staticmethod
    def _box(name: str, items: list[str]) -> QComboBox:
        box = ListBox()
        box.setAccessibleName(name)
        box.addItems(items)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(min(9, max(len(item) for item in items)))
        return box

    def _build_shapes_and_register(self) -> None:
        self.shapes = QToolButton()
        self.shapes.setAccessibleName("Hand shapes to use")
        self.shapes.setToolTip("Which hand shapes the solver may use")
        self.shapes.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.shapes.setMenu(QMenu(self.shapes))
        OwnKeys(self.shapes.menu())
        self.shapes.menu().aboutToShow.connect(self._fill_shapes)
        self._inner: tuple[QMenu, ...] = ()
        self._found = standing(Setup(), None, "song")
        self.lift = self._box("How high it lies", [named.words for named in WISHES["lift"].offers])
        self.lift.setToolTip("How far the right hand climbs or drops in this section or chord")
        self.lift.activated.connect(lambda i: self._ask(lift=WISHES["lift"].offers[i].value))

    # --- what holds ---
    @property
    def chosen(self) -> Scope:
        """What the wishes are for."""
        return self._scope if self._moment() else "song"

    def _scoped(self, index: int) -> None:
        """The song, a section (whose first chord is gone to) or the chord was chosen."""
        last = self.scope.count() - 1
        ends: dict[int, Scope] = {0: "song", last - 1: "bar", last: "chord"}
        self._scope = ends.get(index, "section")
        solution, moment = self.desk.solution, self._moment()
        section = self._named[index - 1][1] if self._scope == "section" else -1
        if solution is not None and moment is not None and section not in (-1, moment.section):
            self.desk.selection.go(next(i for i, v in enumerate(solution.voicings) if v.here.section == section))
        self.refresh()

    def _played(self) -> list[tuple[str, int]]:
        """The name and the place of every section that is played."""
        solution, song = self.desk.solution, self.desk.answers.state.song
        played = dict.fromkeys(voicing.here.section for voicing in solution.voicings) if solution else {}
        names = _numbered([song.sections[n].name for n in played if n < len(song.sections)])
        return list(zip(names, played, strict=False))

    def _show_scopes(self, moment: Moment | None) -> None:
        """Every section that is played, what is marked, and the selected chord."""
        named = self._played()
        chord = chord_text(moment.chord) if moment is not None and moment.chord is not None else "chord"
        items = [
            "whole song",
            *(name for name, _ in named),
            "what is marked" if self.desk.selection.marked else "this bar",
            chord,
        ]
        if items != [self.scope.itemText(n) for n in range(self.scope.count())]:
            self.scope.clear()
            self.scope.addItems(items)
        self._named = named
        place = next((n for n, (_, at) in enumerate(named, 1) if moment is not None and at == moment.section), 0)
        places: dict[Scope, int] = {"song": 0, "section": place, "bar": len(items) - 2, "chord": len(items) - 1}
        self.scope.setCurrentIndex(places[self.chosen])

    def _moment(self) -> Moment | None:
        solution, voicing = self.desk.solution, self.desk.selection.voicing
        return voicing.here if solution and voicing else None

    def _still_there(self) -> Moment | None:
        """The selected chord, but none of a song that is edited already."""
        moment = self._moment()
        gone = moment is None or moment.chord is None or moment.section >= len(self.desk.state.song.sections)
        return None if gone else moment

    def refresh(self) -> None:
        """Show what holds at the chosen scope, and what overrides it at the selected chord."""
        moment, setup, song = self._still_there(), self.desk.state.asked, self.desk.state.song
        told = overriding(setup, moment, song) if moment is not None else []
        self._show_scopes(moment)
        self._found = found = standing(setup, moment, self.chosen)
        self.colour[str(found.colour)].setChecked(True)
        self.style_.setCurrentText(found.style)
        self.style_.setToolTip(STYLES[self.style_.currentText()].words)
        self._show_more(found)
        self.lift.setEnabled(self.chosen != "song")
        self.told.setText(pretty_signs("; ".join(words for _, words in told)))
        self.told.setVisible(bool(told) and self.width() >= ROOMY)
        self.clear.setToolTip(f"Take this back: {self.told.text()}")
        asked = {wish.at for wish in self.desk.state.setup.wishes}
        self.clear.setVisible(self.chosen != "song" and not asked.isdisjoint(self._ids()))

    def _show_more(self, found: Holding) -> None:
        """Shapes, notes a hand and height; what is unusual of them is said where they are folded."""
        notes = f"{found.fullness[0] or '·'}+{found.fullness[1] or '·'} notes" if any(found.fullness) else ""
        shapes = family_words(found.families) if found.families or not notes else ""
        self.shapes.setText(", ".join(filter(None, (notes, shapes))))
        self._show_lift(found.lift)
        unusual = notes, shapes if found.families else "", lift_words(found.lift) if found.lift else ""
        self.more.say(", ".join(filter(None, unusual)))

    def _show_lift(self, by: int) -> None:
        offered = [named.value for named in WISHES["lift"].offers]
        if by in offered:
            self.lift.setCurrentIndex(offered.index(by))
        else:  # said on the command line
            self.lift.setCurrentIndex(-1)
            self.lift.setToolTip(lift_words(by))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        for label in self._labels:
            label.setVisible(event.size().width() >= ROOMY)
        self.told.setVisible(bool(self.told.text()) and event.size().width() >= ROOMY)

    def _empty(self, menu: QMenu) -> None:
        menu.clear()
        for old in self._inner:
            old.deleteLater()
        self._inner = ()

    def _fill_shapes(self) -> None:
        chosen, menu = self._found.families, self.shapes.menu()
        self._empty(menu)
        for kind in WISHES.values():
            if kind.name not in OWN_CONTROL and self.chosen in kind.at:
                self._fill_kind(menu, kind)
        menu.addSeparator()
        self._shape_action(menu, "Usual shapes", not chosen, ())
        self._shape_action(menu, "Every shape", ALL in chosen, (ALL,))
        menu.addSeparator()
        setup = self.desk.state.asked
        for name, words in _shape_names(setup):
            among = name in chosen
            others = tuple(c for c in chosen if c not in (name, ALL))
            self._shape_action(menu, words, among, others if among else (*others, name), check=True)
            if name == WIDEST:
                menu.addSeparator()
        self._fill_own(menu)

    def _fill_own(self, menu: QMenu) -> None:
        """The player's own shapes, to be forgotten."""
        own = self.desk.state.setup.player.shapes
        if own:
            forget = QMenu("Forget a shape of mine", menu)
            self._inner = (*self._inner, forget)
            menu.addMenu(forget)
            for shape in own:
                forget.addAction(shape.name, lambda shape=shape: self.forgotten.emit(shape))

    def _fill_kind(self, menu: QMenu, kind: WishKind) -> None:
        """The values of a wish as a menu of its own, or as one entry that is turned on and off."""
        stands = getattr(self._found, kind.name)
        if isinstance(kind.first, bool):
            self._wish_action(menu, kind, kind.offers[0], stands, not stands)
            return
        inner = QMenu(kind.title, menu)
        self._inner = (*self._inner, inner)
        menu.addMenu(inner)
        for named in kind.offers:
            self._wish_action(inner, kind, named, named.value == stands, named.value)

    def _wish_action(self, menu: QMenu, kind: WishKind, named: Named, on: bool, value: Any) -> None:
        action = QAction(named.words[:1].upper() + named.words[1:], menu)
        action.setCheckable(True)
        action.setChecked(on)
        action.triggered.connect(lambda: self._ask(**{kind.name: value}))
        menu.addAction(action)

    def _shape_action(self, menu: QMenu, words: str, on: bool, families: tuple[str, ...], check: bool = False) -> None:
        action = QAction(words, menu)
        action.setCheckable(True)
        action.setChecked(on)
        action.triggered.connect(lambda: self._ask(families=families))
        menu.addAction(action)

    # --- asking ---
    def _ask(self, **fields: Any) -> None:
        """Ask one thing; in a part, what lies where it is usual is asked of nobody."""
        moment, scope = self._moment(), self.chosen
        ((name, value),) = fields.items()
        label = WISHES[name].label(value)
        if moment is None and scope != "song":
            return
        if scope == "song":
            self.desk.change_setup(label, **fields)
        else:
            said = (value or None) if name in ("lift", "climb") else value  # which no song has
            setup = with_wishes(self.desk.state.setup, self._ids(), self.desk.selection.only, **{name: said})
            self.desk.put_setup(f"{label} for {self.scope.currentText()}", setup)

    def _ids(self) -> tuple[int, ...]:
        """Of the section, of the bars and chords that are marked (or the bar), or of the chord that wishes are for."""
        return () if self.chosen == "song" else place_ids(self.desk, "mark" if self.chosen == "bar" else self.chosen)

    def _clear(self) -> None:
        if self._ids():
            setup = without_wishes(self.desk.state.setup, self._ids(), self.desk.selection.only)
            self.desk.put_setup(f"clear the wishes for {self.scope.currentText()}", setup)
