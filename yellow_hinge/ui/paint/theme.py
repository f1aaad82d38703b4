"""Colours by role, fonts and the style sheet. Brass means motion and nothing else."""

from __future__ import annotations

from functools import lru_cache

import msgspec
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QGuiApplication, QPalette

from yellow_hinge.assets import ASSETS
from yellow_hinge.paper.fonts import FAMILIES


@lru_cache(maxsize=128)
def _color(text: str) -> QColor:
    return QColor(text)


class Theme(msgspec.Struct, frozen=True):
    """One colour for each role, as #rrggbb."""

    name: str
    paper: str
    raised: str
    line: str
    ink: str
    muted: str
    brass: str
    brass_text: str
    left: str
    right: str
    on_plate: str
    white_key: str
    black_key: str
    key_line: str
    chosen: str
    error: str
    on_brass: str
    border: str  # of controls
    brass_fill: str  # under text

    def color(self, role: str) -> QColor:
        """The colour of a role. Shared: copy it to change it."""
        return _color(getattr(self, role))

    def hand(self, hand: str) -> QColor:
        """The colour of a hand, "left" or "right"."""
        return _color(self.left if hand == "left" else self.right)


LIGHT = Theme(
    "light", paper="#FBF7EE", raised="#FFFDF8", line="#DFD6C3", ink="#26241F", muted="#5A5448", brass="#A46F00",
    brass_text="#7A5400", left="#1F5B4A", right="#7A2E55", on_plate="#FFFDF8", white_key="#FFFEFB", black_key="#35322C",
    key_line="#B9AF9B", chosen="#E6D8B5", error="#A3271F",
    on_brass="#26241F", border="#7F7768", brass_fill="#C98A00",
)  # fmt: skip
DARK = Theme(
    "dark", paper="#1E1C18", raised="#28251F", line="#423D33", ink="#F1EADB", muted="#ABA391", brass="#DDA021",
    brass_text="#E9B949", left="#6BB89D", right="#DA93B6", on_plate="#1E1C18", white_key="#D9D2C3", black_key="#191713",
    key_line="#7C7565", chosen="#3E382F", error="#F0958C",
    on_brass="#1E1C18", border="#8A8272", brass_fill="#DDA021",
)  # fmt: skip

# The scale of sizes, in points at normal size.
SMALL, BODY, LARGE = 8.5, 10.0, 13.0


def _icon(name: str) -> str:
    return str(ASSETS / "icons" / name)


_DOWN = _icon("down.svg")


LARGER = 1.22
_scale = {"text": 1.0}  # of all text; set once, before the window is made


def set_large_text(large: bool) -> None:
    """Larger text for everything made from now on."""
    set_text_scale(LARGER if large else 1.0)


def set_text_scale(scale: float) -> None:
    """Text so many times as large as usual for everything made from now on."""
    _scale["text"] = scale


def text_scale() -> float:
    """How much larger than usual the text is."""
    return _scale["text"]


def font(size: float = BODY, bold: bool = False) -> QFont:
    """The one text family in a size of the scale, with tabular figures. Shared: copy it to change it."""
    return _font(size * _scale["text"], bold)


@lru_cache(maxsize=64)
def _font(points: float, bold: bool) -> QFont:
    made = QFont()
    made.setFamilies(FAMILIES)
    made.setPointSizeF(points)
    made.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    made.setFeature(QFont.Tag("tnum"), 1)
    return made


def pick_theme(choice: str) -> Theme:
    """The theme for a setting: "light", "dark", or "system" for what the desktop asks for."""
    if choice == "system":
        dark = QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark
        return DARK if dark else LIGHT
    return DARK if choice == "dark" else LIGHT


def palette(theme: Theme) -> QPalette:
    """The Qt palette of a theme, for what the style sheet leaves alone."""
    made = QPalette()
    roles = QPalette.ColorRole
    for role, name in (
        (roles.Window, "paper"), (roles.Base, "raised"), (roles.AlternateBase, "paper"), (roles.Button, "raised"),
        (roles.WindowText, "ink"), (roles.Text, "ink"), (roles.ButtonText, "ink"), (roles.ToolTipBase, "raised"),
        (roles.ToolTipText, "ink"), (roles.Highlight, "chosen"), (roles.HighlightedText, "ink"),
        (roles.PlaceholderText, "muted"), (roles.Mid, "line"), (roles.Dark, "line"), (roles.Light, "raised"),
    ):  # fmt: skip
        made.setColor(role, theme.color(name))
    return made


def style_sheet(theme: Theme) -> str:
    """The style sheet of the widgets; painted views take their colours from the theme itself."""
    return _buttons(theme) + _fields(theme) + _surfaces(theme)


def _buttons(theme: Theme) -> str:
    tick = _icon(f"tick-{theme.name}.svg")
    return f"""
    QWidget {{ color: {theme.ink}; }}
    QDialogButtonBox {{ dialogbuttonbox-buttons-have-icons: 0; }}
    QMainWindow, QDialog {{ background: {theme.paper}; }}
    QMenuBar, QMenu {{ background: {theme.paper}; color: {theme.ink}; }}
    QMenuBar::item:selected, QMenu::item:selected {{ background: {theme.chosen}; }}
    QMenu::item:disabled {{ color: {theme.muted}; }}
    QMenu {{ border: 1px solid {theme.line}; }}
    QToolTip {{ background: {theme.raised}; color: {theme.ink}; border: 1px solid {theme.line}; padding: 3px; }}
    QToolButton, QPushButton, QComboBox {{
        background: {theme.raised}; border: 1px solid {theme.border}; border-radius: 4px; padding: 4px 9px;
        min-height: 20px;
    }}
    QToolButton:hover, QPushButton:hover, QComboBox:hover {{ border-color: {theme.ink}; }}
    QToolButton:checked, QPushButton:checked {{ background: {theme.chosen}; color: {theme.ink};
        border: 1px solid {theme.ink}; font-weight: 600; }}
    QToolButton:focus, QPushButton:focus, QComboBox:focus, QToolButton:checked:focus, QPushButton:checked:focus {{
        border: 2px solid {theme.ink}; padding: 3px 8px; }}
    QToolButton:disabled, QPushButton:disabled {{ color: {theme.key_line}; border-color: {theme.line}; }}
    *[small="true"] {{ padding: 2px 6px; min-height: 17px; }}
    *[small="true"]:focus {{ padding: 1px 5px; }}
    QComboBox[small="true"] {{ padding-right: 16px; }}
    QCheckBox {{ color: {theme.ink}; spacing: 6px; border: 2px solid transparent; border-radius: 3px; }}
    QCheckBox::indicator {{ width: 11px; height: 11px; border: 1px solid {theme.border}; background: {theme.raised};
        border-radius: 2px; }}
    QCheckBox::indicator:checked {{ background: {theme.ink}; border-color: {theme.ink}; image: url({tick}); }}
    QCheckBox:focus {{ border: 2px solid {theme.ink}; }}
    """


def _fields(theme: Theme) -> str:
    """What is written in, chosen from and turned."""
    return f"""
    QComboBox {{ padding-right: 20px; combobox-popup: 0; }} QComboBox::drop-down {{ border: none; width: 20px; }}
    QComboBox::down-arrow {{ image: url({_DOWN}); width: 12px; height: 12px; }}
    QComboBox QAbstractItemView::item {{ padding: 4px 10px; }}
    QComboBox QAbstractItemView {{ background: {theme.raised}; selection-background-color: {theme.chosen};
        selection-color: {theme.ink}; border: 1px solid {theme.line}; }}
    QTextBrowser {{ background: {theme.raised}; border: 1px solid {theme.border}; }}
    QTextBrowser:focus {{ border: 2px solid {theme.ink}; }}
    QPlainTextEdit, QLineEdit {{ selection-background-color: {theme.chosen}; selection-color: {theme.ink};
        placeholder-text-color: {theme.muted}; }}
    QPlainTextEdit {{ background: {theme.raised}; border: 1px solid {theme.border}; padding: 8px; }}
    QPlainTextEdit:focus {{ border: 2px solid {theme.ink}; padding: 7px; }}
    QListView, QTableWidget, QTreeView {{ background: {theme.paper}; border: 2px solid transparent; outline: none; }}
    QListView:focus, QTableWidget:focus, QTreeView:focus {{ border: 2px solid {theme.ink}; }}
    QSpinBox {{ background: {theme.raised}; border: 1px solid {theme.border}; border-radius: 4px; padding: 2px 4px;
        min-height: 22px; color: {theme.ink}; selection-background-color: {theme.chosen};
        selection-color: {theme.ink}; }}
    QSpinBox:focus {{ border: 2px solid {theme.ink}; padding: 1px 3px; }}
    QSpinBox::up-button, QSpinBox::down-button {{ width: 0; border: none; }}
    QSlider::groove:horizontal {{ height: 4px; background: {theme.border}; border-radius: 2px; }}
    QSlider::handle:horizontal {{ width: 12px; margin: -5px 0; background: {theme.ink}; border-radius: 6px; }}
    QSlider {{ border: 2px solid transparent; border-radius: 3px; }} QSlider:focus {{ border: 2px solid {theme.ink}; }}
    QLineEdit {{ background: {theme.raised}; border: 1px solid {theme.border}; border-radius: 4px;
        padding: 4px 6px; min-height: 20px; }}
    QLineEdit:focus {{ border: 2px solid {theme.ink}; padding: 3px 5px; }}
    """


def _surfaces(theme: Theme) -> str:
    return f"""
    QProgressBar {{ background: {theme.paper}; border: none; }} QProgressBar::chunk {{ background: {theme.muted}; }}
    QScrollBar {{ background: {theme.paper}; border: none; }}
    QScrollBar:horizontal {{ height: 10px; }} QScrollBar:vertical {{ width: 10px; }}
    QScrollBar::handle {{ background: {theme.border}; border-radius: 5px; min-width: 30px; min-height: 30px; }}
    QAbstractScrollArea::corner {{ background: {theme.paper}; border: none; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QLabel#muted {{ color: {theme.muted}; }} QLabel#error {{ color: {theme.error}; }}
    QFrame#rule {{ background: {theme.line}; }} QLabel#why {{ border-top: 1px solid {theme.line}; }}
    QScrollArea, QScrollArea > QWidget#qt_scrollarea_viewport {{ background: {theme.paper}; border: none; }}
    QFrame#bar {{ background: {theme.paper}; border-bottom: 1px solid {theme.line}; }}
    QFrame#box {{ background: {theme.paper}; border: 1px solid {theme.muted}; border-radius: 6px; }}
    QFrame#offer {{ background: {theme.chosen}; border-bottom: 1px solid {theme.line}; }}
    QListWidget::item {{ padding: 4px 8px; }}
    QListWidget::item:selected, QTreeView::item:selected {{ background: {theme.chosen}; color: {theme.ink}; }}
    QTreeView::item {{ padding: 2px 6px; border: 0; }}
    QFrame#history {{ background: {theme.paper}; border-left: 1px solid {theme.line}; }}
    QTableWidget {{ alternate-background-color: {theme.raised};
        gridline-color: {theme.line}; selection-background-color: {theme.chosen}; selection-color: {theme.ink}; }}
    QHeaderView {{ background: {theme.paper}; }}
    QTableCornerButton::section {{ background: {theme.paper}; border: none; border-bottom: 1px solid {theme.line}; }}
    QHeaderView::section {{ background: {theme.paper}; color: {theme.muted}; border: none;
        border-bottom: 1px solid {theme.line}; padding: 4px; }}
    QStatusBar {{ background: {theme.paper}; color: {theme.muted}; }}
    QSplitter::handle {{ background: {theme.line}; }}
    """
