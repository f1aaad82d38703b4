"""A chord in its surroundings, as the substitute table looks at it, and what it can become."""

from __future__ import annotations

import itertools
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

import msgspec

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import Note, simple_note, spell
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.symbols.symbol import parse_symbol

LEAST_BEATS = Fraction(1)  # of a part, where a chord gives some of its time away


class Idea(NamedTuple):
    """One result: the chords that take the place of the one there, how they share its beats ("even" by strong beats,
    "late" only the last beat given away, "each" one in the time of each), and the reason in a sentence. `span`: how
    many written chords they take the place of, this one and those after it. `beats`: their own, where they have some.
    """

    chords: tuple[Chord, ...]
    reason: str
    share: str = "even"
    span: int = 1
    beats: tuple[Fraction, ...] = ()


class Ahead(NamedTuple):
    """A chord that follows in the same part of the song, with its beats."""

    chord: Chord
    beats: Fraction


class Context(NamedTuple):
    """A chord `here` with what sounds before and after it (None at the ends), its key, beats and place in its bar.
    `ahead`: what follows in its part of the song; `manner`: the id of the one that is played in, "" for none.
    """

    here: Chord
    before: Chord | None
    after: Chord | None
    key: Key
    beats: Fraction
    moment: Moment
    ahead: tuple[Ahead, ...] = ()
    manner: str = ""

    def window(self, count: int) -> Context | None:
        """This chord and those after it as one that lasts as long, `count` in all, before the chord after them; None
        where the part ends before.
        """
        if count > len(self.ahead):
            return None
        beats = self.beats + sum((each.beats for each in self.ahead[: count - 1]), Fraction(0))
        return self._replace(beats=beats, after=self.ahead[count - 1].chord, ahead=self.ahead[count - 1 :])

    @property
    def step(self) -> int:
        """Semitones of the root above the tonic."""
        return (self.here.root.pc - self.key.tonic.pc) % 12

    @property
    def after_step(self) -> int | None:
        """Semitones of the next root above the tonic."""
        return None if self.after is None else (self.after.root.pc - self.key.tonic.pc) % 12

    @property
    def falls_a_fifth(self) -> bool:
        """Whether the next root lies a fifth below."""
        return self.after is not None and (self.here.root.pc - self.after.root.pc) % 12 == 7

    @property
    def goes_home(self) -> bool:
        """Whether it is the five that goes to one."""
        return self.step == 7 and self.after_step == 0 and self.here.quality.third != "b3"

    @property
    def is_dominant(self) -> bool:
        """Whether it sounds as a dominant: with a flat seventh, also suspended on its way down a fifth, or as the plain
        triad on five that goes home.
        """
        kind, quality = self.here.chord_class, self.here.quality
        held_back = kind == "suspended" and quality.seventh == "b7" and self.falls_a_fifth
        return kind == "dominant" or held_back or (self.goes_home and kind == "major")

    @property
    def lands(self) -> bool:
        """Whether it is a five that falls into a chord at rest, the key's one or any other."""
        at_rest = self.after is not None and self.after.chord_class in ("major", "minor")
        return self.is_dominant and self.falls_a_fifth and at_rest


@lru_cache(maxsize=256)
def _strong(count: int, last: int) -> tuple[Fraction, ...]:
    """Beats, up to the end of the bar that `last` lies in, of bars of `count` beats, the strong ones first."""
    starts = [Fraction(bar) for bar in range(0, last + count, count)]
    half = [bar + Fraction(count, 2) for bar in starts] if count % 2 == 0 else []
    whole = [bar + beat for bar in starts for beat in range(count)]
    return tuple(dict.fromkeys([*starts, *half, *whole]))


def build(root: Note, words: str, bass: Note | None = None) -> Chord:
    """The chord of a root with the words of its symbol, such as "7b9"."""
    return _built(str(root), words, "" if bass is None or bass.pc == root.pc else str(bass))


@lru_cache(maxsize=8192)
def _built(root: str, words: str, bass: str) -> Chord:
    return parse_symbol(f"{root}{words}{f'/{bass}' if bass else ''}")


def on(note: Note, degree: str, words: str = "") -> Chord:
    """The chord on a degree above a note, with the simple name of its root: players write E9, not Fb9."""
    return build(simple_note(spell(note, degree)), words)


def degree_above(note: Note, degree: str) -> Note:
    """A degree above a note by its function (the seventh below F# is E#), simple only where it had a double sign."""
    found = spell(note, degree)
    return simple_note(found) if abs(found.alter) > 1 else found


def over(chord: Chord, bass: Note) -> Chord:
    """A chord over another bass."""
    changed: Chord = msgspec.structs.replace(chord, bass=None if bass.pc == chord.root.pc else bass)
    return changed


def shifted(chord: Chord, degree: str) -> Chord:
    """The same chord on a degree above its own root, its bass with it."""
    bass = None if chord.bass is None else simple_note(spell(chord.bass, degree))
    moved: Chord = msgspec.structs.replace(chord, root=simple_note(spell(chord.root, degree)), bass=bass)
    return moved


def in_key(chord: Chord, key: Key) -> Chord:
    """A chord spelled as its key's players read it: notes of the scale as the scale has them, no double signs."""

    def read(note: Note) -> Note:
        own = next((scale for scale in key.scale if scale.pc == note.pc), None)
        return own or (simple_note(note) if abs(note.alter) > 1 else note)

    bass = None if chord.bass is None else read(chord.bass)
    spelled: Chord = msgspec.structs.replace(chord, root=read(chord.root), bass=bass)
    if chord.quality.third == "b3" and spelled.root not in key.scale:  # no Cb minor, with its double flats
        spelled = msgspec.structs.replace(spelled, root=simple_note(spelled.root))
    return spelled


def nearer_way(a: int, b: int) -> int:
    """Semitones from one pitch class to another by the nearer way, -5 to 6."""
    return (b - a + 5) % 12 - 5


def aside(scene: Context, chords: tuple[Chord, ...], after: Chord | None) -> float:
    """How far chords lead away from where the next chord is: nothing for a fifth, a half step or a step of the bass
    into it, more where a five that lands no longer sounds as one, or stands on its fifth.
    """
    if after is None:
        return 0.0
    last = chords[-1]
    falls = (last.root.pc - after.root.pc) % 12 in (1, 7, 11)
    steps = abs(nearer_way(last.bass_note.pc, after.bass_note.pc)) <= 2
    away = 0.0 if falls else 0.4 if steps else 1.0
    if scene.lands:
        tense = last.quality.seventh in ("b7", "bb7") or last.chord_class == "suspended" or falls
        away += 0.0 if tense else 1.0
        if last.root.pc == scene.here.root.pc and last.bass is not None:
            away += 0.8 if (last.bass.pc - last.root.pc) % 12 in (3, 4) else 2.0
    return away


def repeats(chords: tuple[Chord, ...]) -> bool:
    """Whether a chord comes twice in a row."""
    return any(a == b for a, b in itertools.pairwise(chords))


def _beats_inside(start: Fraction, beats: Fraction, meter: int, wanted: int) -> list[Fraction]:
    """Beats at which the chord that begins on `start` may change, the strong ones first, all where they are too few."""
    end = start + beats
    inside = [beat for beat in _strong(meter, int(end)) if start < beat < end]
    if len(inside) < wanted:
        inside += [start + LEAST_BEATS * k for k in range(1, int(beats))]
    return list(dict.fromkeys(beat for beat in inside if start < beat < end))


def parts(scene: Context, count: int) -> tuple[Fraction, ...] | None:
    """The chord's beats shared among `count` chords so that each begins on as strong a beat as can be, the first the
    longest; None where there is no time.
    """
    return _parts(scene.moment.beat - 1, scene.beats, scene.moment.meter.beats, count)


@lru_cache(maxsize=4096)
def _parts(start: Fraction, beats: Fraction, meter: int, count: int) -> tuple[Fraction, ...] | None:
    if count == 1:
        return (beats,)
    inside = _beats_inside(start, beats, meter, count - 1)
    if len(inside) < count - 1:
        return None
    if count == 2:
        cuts = [inside[0]]
    else:
        late = sorted(inside)[-(count - 1) :]  # the first chord keeps the most
        even = sorted(inside[: count - 1])
        longer = beats > meter  # over bar lines all are as long
        cuts = even if longer or even[0] - start >= late[0] - start else late
    edges = [start, *sorted(cuts), start + beats]
    found = tuple(b - a for a, b in itertools.pairwise(edges))
    return found if min(found) >= LEAST_BEATS else None


def last_beat(scene: Context) -> tuple[Fraction, ...] | None:
    """The chord's beats with the last one given away; None where it has no two."""
    return (scene.beats - 1, Fraction(1)) if scene.beats >= 2 else None
