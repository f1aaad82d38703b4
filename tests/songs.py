"""Songs for tests that take their time."""

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.io.songs.demo import FIRST, demo_text

BUILDER = Builder()  # songs of one run have many chords in common; what must be solved anew makes one of its own


def short_text(first, last):
    """The main demo with only some lines of its verse and its chorus: so many at their beginning and at their end."""
    text = demo_text(FIRST)
    at, middle = text.index("[Verse]"), text.index("[Chorus]")
    parts = [part.strip().split("\n") for part in (text[at:middle], text[middle:])]
    lines = [line for part in parts for line in (*part[: 1 + 3 * first], *part[len(part) - 3 * last :], "")]
    return "\n".join((text[:at], *lines))


def half_text():
    """The first and the last line of each: half as long, all its ways."""
    return short_text(1, 1)


def half_song():
    """That song."""
    return parse_chart(half_text())
