"""How a chart is written, by examples: what is typed, how it is set out, and what that means."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QScrollArea, QToolButton, QVBoxLayout, QWidget

from yellow_hinge.core.chart.text import read_chart
from yellow_hinge.core.song.song import Song
from yellow_hinge.ui.chart.drawing import draw_chart
from yellow_hinge.ui.chart.scene import ChartScene, chart_scene
from yellow_hinge.ui.paint.controls import tool_button
from yellow_hinge.ui.paint.painting import hair
from yellow_hinge.ui.paint.theme import BODY, SMALL, Theme, font

MONO = ("DejaVu Sans Mono", "Liberation Mono", "monospace", "Hinge Signs")
PICTURE, COLUMNS = 0.55, 3  # share of the width, and bars of a row in it
LINE_H = 17


class Example(NamedTuple):
    """What is typed, and what it means."""

    text: str
    words: str


LESSON = (
    Example("| C | Am7 | F G7 |", "Bars stand between |. Chords in one bar share it evenly."),
    Example("| C / / G7 | C |", "A chord lasts one beat longer for every / after it."),
    Example("| 1 | 6m7 | 4 5/7 |", "Numbers of the key do as well as letters; 5/7 is over its third."),
    Example("| C | % | N.C. |", "% plays the bar before again; N.C. is a bar without a chord."),
    Example("|: C | Am :|x3", "A part played again; twice where no x3 says how often."),
    Example("|: C | F |1. G :|2. C ||", "First and second ending."),
    Example("| C | F (fine) | G |\nD.C. al fine", "The way back: D.C., D.S., (segno), (to coda), (coda), (fine)."),
    Example("[Verse]\n| C | F |\n[Chorus]\n| Am | G |\n[Verse]", "Sections. A name alone plays that section again."),
    Example("[Bridge]\nkey: Eb\n| Eb | Bb7 |", "A key or meter of a section's own, right under its name."),
    Example("pickup: 1\n| G7 | C | F |", "The first bar lasts one beat. Other headers: title: key: meter: tempo:"),
    Example("| C | F |\ntune: | E4:2 G4:2 | A4:3 r:1 |", "The tune under its line: note, octave, beats; r rests."),
    Example("| C | F G |\ncue: | Home | over / the bay |", "Cue words, bar by bar; / goes on to the next chord."),
)


@lru_cache(maxsize=len(LESSON))
def _song(example: Example) -> Song:
    return read_chart(f"key: C\n{example.text}").song


class LessonCanvas(QWidget):
    """Paints the examples: text and words at the left, the bars at the right."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.scenes: list[tuple[float, float, Example, ChartScene]] = []  # top, height, example, picture
        self.setAccessibleName("How a chart is written")
        self.setAccessibleDescription(". ".join(f"{each.text}: {each.words}" for each in LESSON))

    def lay_out(self, width: int) -> None:
        """Set the examples out for a width in pixels."""
        self.scenes, y = [], 4.0
        for each in LESSON:
            scene = chart_scene(_song(each), width * PICTURE, columns=COLUMNS)
            if len(scene.heads) == 1 and not each.text.startswith("["):
                scene = scene.without_heads()
            written = each.text.count("\n") + 1
            lines = written * LINE_H + 20 + 2 * LINE_H
            tall = max(float(lines), scene.height)
            self.scenes.append((y, tall, each, scene))
            y += tall + 6
        self.setFixedHeight(int(y))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(300, 400)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter, theme = QPainter(self), self.theme
        painter.fillRect(event.rect(), theme.color("paper"))
        split = self.width() * (1 - PICTURE)
        mono = QFont(font(BODY))
        mono.setFamilies(list(MONO))
        top = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft
        for y, tall, each, scene in self.scenes:
            painter.setPen(theme.color("ink"))
            painter.setFont(mono)
            written = (each.text.count("\n") + 1) * LINE_H
            painter.drawText(QRectF(14, y + 6, split - 18, written + 4), top, each.text)
            painter.setPen(theme.color("muted"))
            painter.setFont(font(SMALL))
            rest = QRectF(14, y + written + 12, split - 22, tall - written - 10)
            painter.drawText(rest, int(top.value) | Qt.TextFlag.TextWordWrap.value, each.words)
            painter.save()
            painter.translate(split, y)
            draw_chart(painter, theme, scene, self.width() * PICTURE)
            painter.restore()
            painter.setPen(hair(theme.color("line")))
            painter.drawLine(0, int(y + tall + 2), self.width(), int(y + tall + 2))
        painter.end()


class Lesson(QFrame):
    """The examples, scrolled, with a heading and a way to close them."""

    closed = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.canvas = LessonCanvas(theme)
        self.area = QScrollArea()
        self.area.setWidget(self.canvas)
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QFrame.Shape.NoFrame)
        self.area.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.area.setAccessibleName("How a chart is written")
        heading = QLabel("How a chart is written")
        heading.setFont(font(BODY, bold=True))
        self.close_button: QToolButton = tool_button("Close", "Put the examples away", "Close the examples")
        self.close_button.clicked.connect(self.closed.emit)
        row = QHBoxLayout()
        row.setContentsMargins(14, 4, 12, 4)
        row.addWidget(heading, 1)
        row.addWidget(self.close_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(self.area, 1)

    def set_theme(self, theme: Theme) -> None:
        """Repaint in another theme."""
        self.canvas.theme = theme
        self.canvas.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.canvas.lay_out(self.area.viewport().width())
