"""Lines of the right hand as edits of the desk: kept in the take, let go, read back from it."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.lines.lines import Line, LineNote
from yellow_hinge.core.lines.text import laid
from yellow_hinge.core.rhythm.asked import Playing
from yellow_hinge.core.rhythm.asks import with_lines
from yellow_hinge.core.rhythm.fills.degree_line import line_tones
from yellow_hinge.core.song.timeline import Moment

KEPT = "kept"


def _named(desk: Desk, moments: Sequence[Moment]) -> str:
    sections = desk.answers.state.song.sections
    names = dict.fromkeys(sections[moment.section].name for moment in moments if moment.section < len(sections))
    return " and ".join(names) if len(names) < 3 else "the song"


def keep_line(desk: Desk, line: Line, moments: Sequence[Moment]) -> None:
    """Keep a line over its chords in the take, in the place of what is kept there."""
    desk.put_playing(f"a line over {_named(desk, moments)}", _laid(desk, line, moments))


def drop_line(desk: Desk, moments: Sequence[Moment]) -> None:
    """Keep no line over some chords any more."""
    desk.put_playing(f"no line over {_named(desk, moments)}", _laid(desk, Line((), 0.0), moments))


def _laid(desk: Desk, line: Line, moments: Sequence[Moment]) -> Playing:
    playing, solution = desk.state.playing, desk.solution
    whole = solution.moments if solution is not None else moments
    return with_lines(playing, laid(playing.lines, line, moments, whole))


def kept_line(solution: Solution, playing: Playing, first: int, last: int) -> Line | None:
    """The line that is kept over the chords `first` to `last` of a solution, as it is played there; None for none."""
    places = {voicing.moment: at for at, voicing in enumerate(solution.voicings)}
    found = []
    for tone in line_tones(solution.moments, playing.lines):
        at = places[tone.at] - first
        chord = solution.moments[tone.at].chord
        if 0 <= at <= last - first and chord is not None:
            lands = tone.onset == solution.moments[tone.at].quarter
            degree = chord.degree_of(tone.midi % 12)
            found.append(LineNote(tone.onset, tone.quarters, tone.midi, at, degree, "landing" if lands else KEPT))
    return Line(tuple(found), 0.0) if found else None


Row = tuple[Fraction, Fraction, int, int]


def sounded(line: Line, first: int) -> list[Row]:
    """(onset, length, MIDI number, chord of the solution) of a line's notes."""
    return [(note.onset, note.quarters, note.midi, first + note.at) for note in line.notes]
