"""The notes of a lead-in or fill at a chord, found from the hands that are there."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import NamedTuple

from yellow_hinge.core.pitch.key import Key
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.rhythm.chordal import Chordal, struck_keys
from yellow_hinge.core.rhythm.fills.kinds import FillKind
from yellow_hinge.core.rhythm.pattern.swinging import swung, ticks
from yellow_hinge.core.rhythm.striking import Played
from yellow_hinge.core.rhythm.walking import near, walked

LONG = 2  # felt beats from which a chord may be moved inside
DOUBLES = {"third": "s-2", "sixth": "s-5", "octave": "h-12", "tenth": "s+9"}  # what goes along, from each note
BETWEEN = ("hn", "ho", "sn", "m", "w", "t")  # steps of a bass that both of its ends say
Step = tuple[tuple[str, int], ...]  # (hand, MIDI number) of what is struck together


class Added(NamedTuple):
    """A note of a fill: ticks from the song's start, its length, MIDI number and hand."""

    onset: int
    length: int
    midi: int
    hand: str


def notes_of(kind: FillKind, row: Sequence[Played], place: int, quarters: int = 0) -> tuple[Added, ...]:
    """The notes of a fill at a chord; () where it cannot be played there. A lead-in begins so many `quarters` of a beat
    before the chord, 0 for as usual.
    """
    here = row[place]
    if kind.into == "tune":
        return _with_tune(kind, here)
    if kind.into in ("run", "low"):
        return _run(kind, here) if kind.into == "run" else _low(here)
    if kind.into == "inside":
        return _inside(kind, here)
    before = row[place - 1] if place and row[place - 1].start + row[place - 1].length == here.start else None
    if before is None:
        return ()
    return _lead_in(kind, before, here, quarters)


# --- lead-ins ---
def _lead_in(kind: FillKind, before: Played, here: Played, quarters: int) -> tuple[Added, ...]:
    beat = ticks(before.moment.meter.beat_quarters)
    each = round(Fraction(kind.beats).limit_denominator(12) * beat)
    asked = beat * quarters // (4 * len(kind.steps))
    if asked and asked * len(kind.steps) < before.length:
        each = asked
    elif kind.into == "bass" and before.length <= len(kind.steps) * each:
        each = each // 2  # a short chord
    start = here.start - each * len(kind.steps)
    if start <= before.start:
        return ()
    steps = _steps_into(kind, before, here, start)
    onsets = [swung_in(start + n * each, before) for n in range(len(steps) + 1)]
    return tuple(
        Added(onsets[n], onsets[n + 1] - onsets[n], midi, hand) for n, step in enumerate(steps) for hand, midi in step
    )


def _steps_into(kind: FillKind, before: Played, here: Played, start: int) -> tuple[Step, ...]:
    """What is struck one after the other."""
    if kind.into in ("hand", "hands"):
        return _hands_before(kind, before, here, start)
    midis = _into_bass(kind, before, here) if kind.into == "bass" else _into_top(kind, before, here, start)
    hand = before.hand_of(kind.hand)
    return _doubled(kind, midis, before, hand)


def _doubled(kind: FillKind, midis: tuple[int, ...], before: Played, hand: str) -> tuple[Step, ...]:
    """Notes with what goes along with each of them; () where the hand does not reach it, or the other one is there."""
    if not kind.double:
        return tuple(((hand, midi),) for midi in midis)
    chordal, found = before.chordal, list[Step]()
    for midi in midis:
        both = tuple(sorted((midi, _from(midi, DOUBLES[kind.double], chordal.key))))
        room = chordal.hands.compass[0] <= both[0] and both[-1] <= chordal.hands.compass[1]
        free = both[-1] < chordal.ceiling if hand == "left" else both[0] > (chordal.left or (0,))[-1]
        if not (room and free and chordal.reaches(hand, both)):
            return ()
        found.append(tuple((hand, each) for each in both))
    return tuple(found)


def swung_in(tick: int, here: Played) -> int:
    """A place in the song where it falls: half beats late where it swings."""
    moment = here.moment
    return swung(tick, moment.meter, here.swing, here.start - ticks((moment.beat - 1) * moment.meter.beat_quarters))


def _sung(before: Played, start: int) -> bool:
    """Whether the right hand's own tune sounds from a place on, which leads by itself."""
    return any(tone.midi is not None and before.start + tone.end > start for tone in before.tones)


def _into_top(kind: FillKind, before: Played, here: Played, start: int) -> tuple[int, ...]:
    """Notes into the right hand's top."""
    if not here.chordal.right or not before.chordal.right or _sung(before, start):
        return ()
    top, low = here.chordal.right[-1], before.chordal.left[-1] if before.chordal.left else 0
    found = _led(kind, top, here)
    if not found or found[0] == before.chordal.right[-1]:
        return ()
    if min(found) <= low or max(found) > here.chordal.hands.compass[1]:
        return ()
    return found


def _led(kind: FillKind, target: int, here: Played) -> tuple[int, ...]:
    """The notes that a kind's steps name, from the last one back; () where the target is not what they lead to."""
    chordal = here.chordal
    if kind.goal and _named(kind.goal, chordal) != target % 12:
        return ()
    own = {step[1:] for step in kind.steps if step[0] == "d" and step[1:].isdecimal()}
    if not own <= set(chordal.chord.degrees):  # through a third that it does not have
        return ()
    found, after = list[int](), target
    for step in reversed(kind.steps):
        if step[0] in "kd":
            up = (_named(step, chordal) - after) % 12
            after += up if up <= 6 else up - 12
        else:
            after = _from(target, step, chordal.key)
        found.append(after)
    return () if target in found else tuple(found[::-1])


def _named(step: str, chordal: Chordal) -> int:
    """The pitch class of a degree of the key (k5, k#4) or of the chord (d3, db3)."""
    degree = step[1:]
    if step[0] == "d":
        return (chordal.chord.root.pc + degree_pc(degree)) % 12
    scale, sign = chordal.key.scale, degree.lstrip("b#")
    return (scale[int(sign) - 1].pc + degree.count("#") - degree.count("b")) % 12


def _into_bass(kind: FillKind, before: Played, here: Played) -> tuple[int, ...]:
    """Notes into the left hand's bass."""
    if not before.chordal.mine or not before.chordal.left or not here.chordal.left:
        return ()
    old, new = before.chordal.left[0], here.chordal.left[0]
    room = (before.chordal.hands.compass[0], before.chordal.ceiling - 1)
    if kind.steps[0] not in BETWEEN:
        found = _led(kind, new, here)
    elif kind.steps[0] == "w":
        walk = walked(old, new, len(kind.steps) + 1, before.chordal.chord, before.chordal.key, room)
        found = walk[1:] if old != new else ()
    else:
        found = _between(kind, old, new, before.chordal.key)
    fits = all(room[0] <= midi <= room[1] for midi in found)
    return found if fits and old not in found[:1] and new not in found else ()


def _between(kind: FillKind, old: int, new: int, key: Key) -> tuple[int, ...]:
    """Notes that two basses say: a half step before from the near side or the other, a step, half way, by step."""
    way, gap = 1 if new > old else -1, abs(new - old)
    step = kind.steps[0]
    if step == "hn":
        return (new - way,) if gap > 1 else ()
    if step == "ho":
        return (new + way,) if gap > 2 else ()
    if step == "sn":
        return (new - 2 * way,) if gap > 2 and near(new - 2 * way, key) else ()
    if step == "m":
        return (old + 2 * way,) if gap in (3, 4) else ()
    return _by_step(old, new, len(kind.steps), key)


def _by_step(old: int, new: int, count: int, key: Key) -> tuple[int, ...]:
    """The last `count` steps of the key on the way from one bass to the next; () where there are not so many."""
    way = 1 if new > old else -1
    between = [midi for midi in range(old + way, new, way) if near(midi, key)]
    return tuple(between[-count:]) if len(between) >= count else ()


def _from(target: int, step: str, key: Key) -> int:
    """A note named from its target, such as "s-2" or "h+1"."""
    by = int(step[1:])
    if step[0] == "h":
        return target + by
    found = target
    for _ in range(abs(by)):
        way = 1 if by > 0 else -1
        found = next(n for n in (found + way, found + 2 * way, found + 3 * way) if near(n, key))
    return found


def _hands_before(kind: FillKind, before: Played, here: Played, start: int) -> tuple[Step, ...]:
    """The next hand, or both, somewhere else right before: the same shape, moved by a step."""
    chordal, both = here.chordal, kind.into == "hands"
    if _sung(before, start) or not chordal.right or chordal.right == before.chordal.right:
        return ()
    if both and not (chordal.left and chordal.mine):
        return ()
    floor = 0 if both or chordal.upper == "left" else (before.chordal.left or (0,))[-1]
    found = tuple(_moved_hands(step, here, both) for step in kind.steps)
    return found if all(_can_be_struck(own, here, floor) for own in found) else ()


def _moved_hands(step: str, here: Played, both: bool) -> Step:
    """The right hand, or both, moved by a step."""
    chordal = here.chordal
    own = [(here.hand_of("right"), _from(midi, step, chordal.key)) for midi in chordal.right]
    left = [("left", _from(midi, step, chordal.key)) for midi in chordal.left] if both else []
    return (*left, *own)


def _can_be_struck(own: Step, here: Played, floor: int) -> bool:
    """Whether each hand reaches what it strikes, on the keyboard, above a floor, no key twice."""
    low, high = here.chordal.hands.compass
    midis = [midi for _, midi in own]
    if min(midis) < low or max(midis) > high or min(midis) <= floor or len(set(midis)) < len(midis):
        return False
    hands = {hand: tuple(sorted(midi for one, midi in own if one == hand)) for hand, _ in own}
    return all(here.chordal.reaches(hand, notes) for hand, notes in hands.items())


# --- inside a chord ---
def _inside(kind: FillKind, here: Played) -> tuple[Added, ...]:
    """Notes of the right hand that move and come back, or come late; not under a tune of the right hand's own."""
    beat = ticks(here.moment.meter.beat_quarters)
    if here.length < max(LONG, kind.beats) * beat or here.tones or not here.chordal.right:
        return ()
    hand = here.hand_of("right")
    if kind.steps[0] in ("sus", "crush"):
        return _late(kind, here, hand, beat)
    if kind.steps[0] == "line":
        return _inner_line(kind, here, hand, beat)
    moved = _moved(kind.steps[0], here.chordal)
    if not moved:
        return ()
    half, quarter, begin = here.length // 2, here.length // 4, here.start + here.length // 2
    return (
        *(Added(begin, quarter, new, hand) for _, new in moved),
        *(Added(begin + quarter, here.length - half - quarter, old, hand) for old, _ in moved),
    )


def _late(kind: FillKind, here: Played, hand: str, beat: int) -> tuple[Added, ...]:
    """A note that comes late: the fourth before the third for half of the chord, or crushed in from below it."""
    own = set(here.chordal.right)
    if kind.steps == ("sus",):
        held, wait = set(_right_keys("+sus", here.chordal)), here.length // 2
        late, resolved = sorted(held - own), sorted(own - held)
    else:
        wait = beat // 8
        thirds = (midi for midi in sorted(own) if here.chordal.chord.degree_of(midi) == "3")
        resolved = [midi for midi in thirds if midi - 1 not in own][:1]
        late = [midi - 1 for midi in resolved]
    if not late or len(late) != len(resolved):
        return ()
    return (
        *(Added(here.start, wait, midi, hand) for midi in late),
        *(Added(here.start + wait, here.length - wait, midi, hand) for midi in resolved),
    )


def _inner_line(kind: FillKind, here: Played, hand: str, beat: int) -> tuple[Added, ...]:
    """A note of the hand that goes on, a beat a step, over what holds: "line", the degree it begins on, and where it
    goes, in semitones from there.
    """
    own, chord = here.chordal.right, here.chordal.chord
    start = next((midi for midi in reversed(own) if chord.degree_of(midi) == kind.steps[1]), None)
    if start is None:
        return ()
    ways = [start + int(by) for by in kind.steps[2:]]
    if not all(_leaves_room(midi, [other for other in own if other != start], here.chordal) for midi in ways):
        return ()
    found = [Added(here.start + n * beat, beat, midi, hand) for n, midi in enumerate((start, *ways))]
    last = found[-1]
    return (*found[:-1], last._replace(length=here.start + here.length - last.onset))


def _leaves_room(midi: int, others: Sequence[int], chordal: Chordal) -> bool:
    """Whether a note lies a step or more from the others of its hand, and within its reach with them."""
    far = all(abs(midi - other) >= 2 for other in others)
    return far and chordal.reaches(chordal.upper, tuple(sorted({*others, midi})))


def _right_keys(what: str, chordal: Chordal) -> tuple[int, ...]:
    return tuple(midi for _, midi in struck_keys(what, "right", chordal))


PAIRS = {"sixth": ("5",), "pair": ("5", "1")}  # degrees that rise a whole step and come back


def _moved(step: str, chordal: Chordal) -> tuple[tuple[int, int], ...]:
    """(the note that moves, where it goes) of every note that does, () where they cannot."""
    moved, own = _moves(step, chordal), chordal.right
    going, coming = {old for old, _ in moved}, {new for _, new in moved}
    stays = set(own) - going
    after = tuple(sorted(stays | coming))
    close = any(abs(new - n) <= 1 for new in coming for n in stays) or len(after) < len(own)
    return () if close or not chordal.reaches(chordal.upper, after) else moved


def _moves(step: str, chordal: Chordal) -> tuple[tuple[int, int], ...]:
    """What moves where, whether or not the hand can."""
    own = chordal.right
    if step in PAIRS:
        olds = [next((n for n in reversed(own) if chordal.chord.degree_of(n) == d), None) for d in PAIRS[step]]
        moved = tuple((old, old + 2) for old in olds if old is not None)
        return moved if len(moved) == len(PAIRS[step]) else ()
    if step == "plane":
        return tuple((old, _from(old, "s+1", chordal.key)) for old in own)
    return ((own[-1], _from(own[-1], "s+1" if step == "up" else "s-1", chordal.key)),)


# --- runs and the tune ---
def _run(kind: FillKind, here: Played) -> tuple[Added, ...]:
    """The chord's degrees one after the other from its second beat on, upward, the last one held."""
    beat = ticks(here.moment.meter.beat_quarters)
    if here.length < (LONG + 1) * beat or here.tones or not here.chordal.right or here.chordal.upper != "right":
        return ()
    if not {"3", "5"} <= set(here.chordal.chord.degrees):
        return ()
    each, place = round(Fraction(kind.beats).limit_denominator(12) * beat), here.chordal.right[0] - 1
    found = list[int]()
    for step in kind.steps:
        place += (_named(step, here.chordal) - place - 1) % 12 + 1
        found.append(place)
    if found[-1] > here.chordal.hands.compass[1]:
        return ()
    onsets = [here.start + beat + n * each for n in range(len(found))]
    ends = [*onsets[1:], here.start + here.length]
    return tuple(Added(at, end - at, midi, "right") for at, end, midi in zip(onsets, ends, found, strict=True))


def _low(here: Played) -> tuple[Added, ...]:
    """The bass once more an octave lower, in the second half of a chord that ends something."""
    chordal, half = here.chordal, here.length // 2
    if not chordal.left or not chordal.mine or here.length < LONG * ticks(here.moment.meter.beat_quarters):
        return ()
    low = chordal.left[0] - 12
    fits = here.moment.ends and low >= chordal.hands.compass[0] and low not in chordal.left
    return (Added(here.start + half, here.length - half, low, "left"),) if fits else ()


def _with_tune(kind: FillKind, here: Played) -> tuple[Added, ...]:
    """What goes along under the right hand's tune, or turns around its notes."""
    chordal = here.chordal
    floor = chordal.left[-1] if chordal.left else chordal.hands.compass[0] - 1
    found, before = list[Added](), 0
    for tone in here.tones:
        before, last = tone.midi or 0, before
        if tone.midi is None or not tone.begins:
            continue
        start, length = here.start + tone.start, tone.end - tone.start
        if kind.steps[0] in ("turn", "slide", "grace"):
            found += _ornament(kind, tone.midi, start, length, here, 128 if tone.start == 0 else last)
            continue
        below = _below(kind.steps[0], tone.midi, chordal)
        if below is not None and below > floor and chordal.reaches("right", (below, tone.midi)):
            found.append(Added(start, length, below, "right"))
    return tuple(found)


def _below(step: str, midi: int, chordal: Chordal) -> int | None:
    """The note under a note of the tune: a third or sixth of the key, or a note of the chord."""
    if step in DOUBLES:
        return _from(midi, DOUBLES[step], chordal.key) if near(midi, chordal.key) else None
    own = set(chordal.chord.pitch_classes)
    least, most = (3, 9) if step == "stop" else (8, 12)
    return next((midi - by for by in range(least, most + 1) if (midi - by) % 12 in own), None)


def _ornament(kind: FillKind, midi: int, start: int, length: int, here: Played, last: int) -> tuple[Added, ...]:
    """What is played around one note of the tune: a turn inside a long one, a slide or a grace right before it. `last`:
    the note before it, 0 for none, 128 where it begins the chord.
    """
    beat, chordal = ticks(here.moment.meter.beat_quarters), here.chordal
    if kind.steps[0] == "turn":
        if length < 2 * beat:
            return ()
        each, begin = beat // 3, start + length - beat
        notes = (_from(midi, "s+1", chordal.key), midi, _from(midi, "s-1", chordal.key))
        return tuple(Added(begin + n * each, each, note, "right") for n, note in enumerate(notes))
    slid = (midi - 2, midi - 1) if kind.steps[0] == "slide" else (midi - 1,)
    short, ways = beat // 8, [way for way in slid if way != last]
    if last == 128 or length < beat // 2:
        return ()
    return tuple(Added(start - (len(ways) - n) * short, short, note, "right") for n, note in enumerate(ways))
