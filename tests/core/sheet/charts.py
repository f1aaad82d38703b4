"""Random charts for sheets: repeats, endings, crowded bars, long words, sections played again."""

from hypothesis import strategies as st

from tests.songs import BUILDER
from yellow_hinge.app.edits.state import State, changed_in, state_of
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.song.song import Memo
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.song_json import song_file

SYMBOLS = ("C", "Am7", "F#m7b5", "Bb13(b9,#11)", "E/G#", "Dm9", "G7alt", "N.C.", "Ebmaj7#11", "Absus4", "Cdim7/Bb")
WORDS = ("home", "la", "a-very-long-word-that-nobody-would-ever-sing-in-one-breath", "naïve", "down by the water", "ho")
METERS = ("4/4", "3/4", "6/8", "5/4", "12/8")


@st.composite
def charts(draw, most=10):
    """The text of a chart."""
    lines = [f"title: {draw(st.sampled_from(('Short', 'A title so long ' * 12, '? & <x>')))}", "key: C"]
    lines.append(f"meter: {draw(st.sampled_from(METERS))}")
    for name in draw(st.sampled_from((("A",), ("A", "B", "A"), ("Verse that goes on and on " * 4, "B")))):
        if f"[{name}]" in lines:
            lines += ["", f"[{name}]"]
            continue
        lines += ["", f"[{name}]"]
        count = draw(st.integers(1, most))
        bars = [" ".join(draw(st.lists(st.sampled_from(SYMBOLS), min_size=1, max_size=5))) for _ in range(count)]
        cues = [" ".join(draw(st.lists(st.sampled_from(WORDS), max_size=6))) for _ in bars]
        kind = draw(st.sampled_from(("plain", "repeat", "three", "endings")))
        ends = {"plain": "|", "repeat": ":|", "three": ":|x3", "endings": "||"}[kind]
        line = f"{'|' if kind == 'plain' else '|:'} {' | '.join(bars)} {ends}"
        if kind == "endings":
            line = f"|: {' | '.join(bars)} |1. G7 :|2. C ||"
            cues += ["", ""]
        lines += [line, "cue: | " + " | ".join(cues) + " |"]
    return "\n".join(lines) + "\n"


def opened(text, memos=True) -> State:
    """A chart's state, with notes of the player's own on the song and its first chord."""
    state = state_of(song_file(parse_chart(text)))
    first = next(slot.id for section in state.song.sections for bar in section.bars for slot in bar.slots)
    notes = (Memo(0, "softer the second time " * 4), Memo(first, "watch the drummer")) if memos else ()
    return changed_in(state, memos=notes)


def solved(state, builder=None):
    """Its solution."""
    return solve_song(builder or BUILDER, timeline(state.song), state.asked, state.keeps)
