"""What the whole song's answer says line by line: its stiff hinges, the bass line, and every voice through the song."""

from __future__ import annotations

from fractions import Fraction
from typing import Literal, NamedTuple

from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.prices.hinge import HANDS, Hinge, semitones
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.song.timeline import Moment

BassStep = Literal["hold", "chromatic", "step", "leap"]
STIFF = 9  # semitones from which a hinge is called stiff
WIDE_MOVE = 5  # semitones of one finger that make a hinge stiff by themselves
MANY_MOVE = 4  # fingers that travel at once


class Stiff(NamedTuple):
    """A hard change: which hinge it is and why it is hard."""

    at: int
    hinge: Hinge
    why: str


def _why_stiff(hinge: Hinge) -> str:
    """What makes a hinge hard, the greatest reason first."""
    reasons = []
    far = max(hinge.steps, key=lambda s: abs(s.semitones), default=None)
    if far is not None and abs(far.semitones) >= WIDE_MOVE:
        reasons.append(f"one finger of the {far.hand} hand travels {semitones(abs(far.semitones))}")
    moving = sum(bool(step.semitones) for step in hinge.steps)
    if moving >= MANY_MOVE:
        reasons.append(f"{moving} fingers move at once")
    if not hinge.held:
        reasons.append("no note holds")
    changing = sum(step.old is None or step.new is None for step in hinge.steps)
    if hinge.changes:
        reasons.append(f"{len(hinge.changes)} key{'' if len(hinge.changes) == 1 else 's'} change fingers")
    if changing >= 2:
        reasons.append(f"{changing} notes are added or lifted")
    return "; ".join(reasons) or f"{semitones(hinge.motion)} in all"


def stiff(solution: Solution, most: int = 8) -> list[Stiff]:
    """The hardest changes of a song, the most motion first, then the dearest; none in which nothing moves."""
    order = sorted(range(len(solution.hinges)), key=lambda i: (-solution.hinges[i].motion, -solution.hinges[i].cost, i))
    return [Stiff(i, solution.hinges[i], _why_stiff(solution.hinges[i])) for i in order if solution.hinges[i].moving][
        :most
    ]


class Passing(NamedTuple):
    """A passing bass note on offer: MIDI number, its name, beats after the first chord's start, and what it does."""

    midi: int
    name: str
    after: Fraction
    words: str


class BassMove(NamedTuple):
    """The bass between two chords: MIDI numbers, signed semitones, its kind and what could pass between."""

    old: int
    new: int
    semitones: int
    kind: BassStep
    passing: tuple[Passing, ...]


def _bass(solution: Solution, index: int) -> int:
    """The bass note of a chord: the left hand's lowest, or the written bass about C2 where somebody else has it."""
    voicing = solution.voicings[index]
    if solution.setup.mine and voicing.left:
        return voicing.left[0]
    return 36 + (voicing.chord.bass_note.pc - 36) % 12


def _kind(semitones: int) -> BassStep:
    return "hold" if semitones == 0 else {1: "chromatic", 2: "step"}.get(abs(semitones), "leap")  # type: ignore[return-value]


def _leading_notes(old: int, new: int, key: Key) -> dict[int, str]:
    """How each note that leads from `old` to `new` does it."""
    way = 1 if new > old else -1
    found = {new - way: "by a half step"}
    if abs(new - old) > 2:
        found[new + way] = "from the other side by a half step"
        beside = new - 2 * way
        if beside % 12 in {note.pc for note in key.scale} and beside != old:
            found[beside] = "by the key's own step"
    if abs(new - old) == 4:
        found[old + 2 * way] = "half way between"
    return found


def passing_notes(old: int, new: int, moment: Moment) -> tuple[Passing, ...]:
    """Bass notes that lead from `old` to `new` (MIDI) in the last beat of a chord, or half beat of a short one: the
    half step below or above the new bass, the key's own step beside it, and the note between where they lie a third
    apart.
    """
    if abs(new - old) < 2:
        return ()
    room = Fraction(1) if moment.beats >= 2 else Fraction(1, 2)
    after = moment.beats - room
    if after <= 0:
        return ()
    found = _leading_notes(old, new, moment.key)
    names = {midi: str(pitch_of(midi, spell_in_key(midi % 12, moment.key))) for midi in found}
    return tuple(Passing(midi, names[midi], after, words) for midi, words in found.items() if midi != old)


def bass_line(solution: Solution) -> list[BassMove]:
    """How the bass goes at every hinge, with passing notes on offer where it leaps or goes by a whole step."""
    found = []
    for index in range(len(solution.hinges)):
        old, new = _bass(solution, index), _bass(solution, (index + 1) % len(solution.voicings))
        moment = solution.voicings[index].here
        found.append(BassMove(old, new, new - old, _kind(new - old), passing_notes(old, new, moment)))
    return found


class HandLine(NamedTuple):
    """One voice through the song: `notes` are (chord index, MIDI number), chords in a row."""

    hand: str
    notes: tuple[tuple[int, int], ...]

    @property
    def motion(self) -> int:
        """Semitones that the voice travels."""
        return sum(abs(b[1] - a[1]) for a, b in zip(self.notes, self.notes[1:], strict=False))


def voice_lines(solution: Solution) -> list[HandLine]:
    """Every voice from where it enters to where it leaves, by the hinges' matching, as they begin, low to high."""
    running: dict[tuple[str, int], list[tuple[int, int]]] = {}
    done: list[HandLine] = []
    for index, voicing in enumerate(solution.voicings):
        arrived: dict[tuple[str, int], list[tuple[int, int]]] = {}
        steps = solution.hinges[index - 1].steps if index else ()
        came = {(s.hand, s.new): s.old for s in steps if s.old is not None and s.new is not None}
        for hand in HANDS:
            for midi in voicing.both.of(hand):
                old = came.get((hand, midi))
                line = running.pop((hand, old), []) if old is not None else []
                arrived[hand, midi] = [*line, (index, midi)]
        done += [HandLine(hand, tuple(line)) for (hand, _), line in running.items()]
        running = arrived
    done += [HandLine(hand, tuple(line)) for (hand, _), line in running.items()]
    return sorted(done, key=lambda line: (line.notes[0], line.hand))
