"""Songs for tests that take their time."""

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.io.songs.demo import FIRST, demo_text


def half_text():
    """The main demo with the first and the last line of its verse and of its chorus: half as long, all its ways."""
    text = demo_text(FIRST)
    head = text[: text.index("[Verse]")]
    verse = text[text.index("[Verse]") : text.index("[Chorus]")].strip().split("\n")
    chorus = text[text.index("[Chorus]") :].strip().split("\n")
    return "\n".join((head, *verse[:4], *verse[-3:], "", *chorus[:4], *chorus[-3:])) + "\n"


def half_song():
    """That song."""
    return parse_chart(half_text())
