"""The editor of the chart's text. What is pasted as chords above words is written as a chart."""

from __future__ import annotations

from PySide6.QtCore import QMimeData, Signal
from PySide6.QtWidgets import QPlainTextEdit

from yellow_hinge.core.chart_writing import write_chart
from yellow_hinge.core.errors import UserError


class ChartEditor(QPlainTextEdit):
    """`turned` tells what was guessed where a pasted text was turned into a chart."""

    turned = Signal(str)

    def insertFromMimeData(self, source: QMimeData) -> None:
        """Paste: chords above words become a chart, anything else stays as it is."""
        from yellow_hinge.io.over_words import looks_over_words, read_over_words  # seldom needed

        text = source.text()
        try:
            found = read_over_words(text, "what was pasted") if looks_over_words(text) else None
        except UserError as error:  # more than a song can hold: it is pasted as it is
            self.turned.emit(str(error))
            found = None
        if found is None:
            super().insertFromMimeData(source)
            return
        chart = write_chart(found.song)
        if self.toPlainText().strip():  # into a chart that is there: its headers stay
            chart = chart[chart.index("[") :]
        self.insertPlainText(chart)
        self.turned.emit(f"Chords above words were written as a chart: {'; '.join(found.report)}.")
