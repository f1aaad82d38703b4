"""What a player asks of the playing: patterns for the song, a section, bar, chord or hand, and fills."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from fractions import Fraction
from typing import NamedTuple

import msgspec

from yellow_hinge.core.leading.asking.manners import manner_named
from yellow_hinge.core.leading.asking.wants import Wanted
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.rhythm.asked import Fill, HandWish, LinePiece, Playing, PlayWish
from yellow_hinge.core.rhythm.pattern.patterns import Pattern, pattern_id, patterns
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.swing import SWINGS, percent_of, usual_swing
from yellow_hinge.core.song.timeline import Moment

USUAL = "held"
WHOLE_SONG = 0


def pattern_named(name: str, own: tuple[Pattern, ...] = ()) -> Pattern | None:
    """The pattern of an id, the player's own first; None where there is none."""
    return next((pattern for pattern in own if pattern.id == name), patterns().get(name))


class Usual(NamedTuple):
    """How a song is played where nothing is asked for: its pattern, its swing and those of its sections ("" for none
    written), and the percent of a beat before its second half that counts then.
    """

    pattern: Pattern
    swing: str
    sections: tuple[str, ...]
    percent: int

    def swing_at(self, moment: Moment) -> int:
        """The percent of a beat before its second half at a chord."""
        asked = (self.sections[moment.origin] if moment.origin < len(self.sections) else "") or self.swing
        return percent_of(asked) if asked else self.percent

    def straightened(self) -> Usual:
        """The same, with every second half of a beat where it is written."""
        return self._replace(swing="", sections=(), percent=SWINGS["straight"])


def usual_playing(song: Song, manner: str, playing: Playing, moments: Sequence[Moment]) -> Usual:
    """How a song is usually played; `moments` are those of its chords."""
    pattern = usual_pattern(song, manner, playing.patterns)
    percent = usual_swing(_mostly_swings(moments, playing, pattern), song.tempo)
    return Usual(pattern, song.swing, tuple(section.swing for section in song.sections), percent)


def _mostly_swings(moments: Sequence[Moment], playing: Playing, usual: Pattern) -> bool:
    """Whether most of a song is played in patterns that are usually swung."""
    beats = {False: Fraction(0), True: Fraction(0)}
    for moment in moments:
        beats[pattern_at(playing, moment, "right", usual).swing] += moment.quarters
    return beats[True] > beats[False]


def usual_pattern(song: Song, manner: str, own: tuple[Pattern, ...] = ()) -> Pattern:
    """The pattern where the player asks for none: the one of the song's header, else the manner's."""
    asked = pattern_named(pattern_id(song.asked("pattern"), own), own)
    known = manner_named(manner)
    return asked or (pattern_named(known.patterns.of(song.meter)) if known else None) or patterns()[USUAL]


def pattern_at(playing: Playing, moment: Moment, hand: str, usual: Pattern) -> Pattern:
    """The pattern of one hand at a chord: the narrowest wish counts, of two as narrow the hand's own."""
    wish = wish_at(playing, moment, hand)
    pattern = pattern_named(wish.pattern, playing.patterns) if wish is not None else None
    return pattern or usual


def wish_at(playing: Playing, moment: Moment, hand: str) -> PlayWish | None:
    """What asks for the pattern of one hand at a chord: the narrowest wish counts, of two as narrow the hand's own."""
    found = [wish for wish in playing.wishes if wish.hand in ("both", hand) and moment.narrowness(wish.at) >= 0]
    known = (wish for wish in found if pattern_named(wish.pattern, playing.patterns) is not None)
    return max(known, key=lambda wish: (moment.narrowness(wish.at), wish.hand != "both"), default=None)


def wanted(playing: Playing) -> tuple[Wanted, ...]:
    """What the patterns that were chosen ask of the hands; () where none asks for anything."""
    found = []
    for wish in playing.wishes:
        pattern = pattern_named(wish.pattern, playing.patterns)
        for hand in HANDS if pattern is not None else ():
            if pattern is not None and wish.hand in ("both", hand):
                asks = next((want for want in pattern.wants if want.startswith(hand)), "") if wish.wants else ""
                found.append(Wanted(wish.at, hand, asks, pattern.breaks, wish.hand != "both"))
    return tuple(found) if any(each.want for each in found) else ()


def with_ahead(playing: Playing, wish: PlayWish, on: bool) -> Playing:
    """The playing with a wish whose chords come half a beat early, or no longer."""
    others = (each for each in playing.wishes if (each.at, each.hand) != (wish.at, wish.hand))
    found: Playing = msgspec.structs.replace(playing, wishes=(*others, msgspec.structs.replace(wish, ahead=on)))
    return found


def with_wants(playing: Playing, on: bool, but: Collection[PlayWish] = ()) -> Playing:
    """The playing with all its patterns opening the hands that they want, or none; `but` some that stay as they are."""
    wishes = tuple(
        wish if wish in but else msgspec.structs.replace(wish, wants=on and _wants(playing, wish))
        for wish in playing.wishes
    )
    found: Playing = msgspec.structs.replace(playing, wishes=wishes)
    return found


def _wants(playing: Playing, wish: PlayWish) -> bool:
    pattern = pattern_named(wish.pattern, playing.patterns)
    return pattern is not None and bool(pattern.wants)


def with_pattern(playing: Playing, at: int, hand: HandWish, pattern: str, wants: bool = False) -> Playing:
    """The playing with a pattern for a place and hand; "" asks for nothing there. What is asked of both hands replaces
    what was asked of each. `wants`: with the hands that it wants. Chords that come early there still do.
    """
    gone = ("both", "left", "right") if hand == "both" else (hand,)
    others = tuple(wish for wish in playing.wishes if wish.at != at or wish.hand not in gone)
    ahead = any(wish.ahead for wish in playing.wishes if wish.at == at and wish.hand in ("both", hand))
    added = (PlayWish(at, pattern, hand, wants, ahead),) if pattern else ()
    found: Playing = msgspec.structs.replace(playing, wishes=(*others, *added))
    return found


def with_fill(playing: Playing, fill: Fill, on: bool) -> Playing:
    """The playing with a fill, or without it; a chord has one fill of a kind."""
    others = tuple(known for known in playing.fills if not known.is_like(fill))
    found: Playing = msgspec.structs.replace(playing, fills=(*others, fill) if on else others)
    return found


def with_lines(playing: Playing, pieces: tuple[LinePiece, ...]) -> Playing:
    """The playing with what a line of the right hand does at every chord."""
    found: Playing = msgspec.structs.replace(playing, lines=pieces)
    return found


def with_own_pattern(playing: Playing, pattern: Pattern) -> Playing:
    """The playing with a pattern of the player's, in the place of one of its id."""
    others = tuple(own for own in playing.patterns if own.id != pattern.id)
    found: Playing = msgspec.structs.replace(playing, patterns=(*others, pattern))
    return found


def strange_patterns(playing: Playing, song: Song) -> list[str]:
    """What a song's playing names that is not known, a sentence each."""
    names = [wish.pattern for wish in playing.wishes]
    if song.asked("pattern"):
        names.append(pattern_id(song.asked("pattern"), playing.patterns))
    known = [pattern.id for pattern in (*playing.patterns, *patterns().values())]
    found = []
    for name in dict.fromkeys(names):
        if name not in known:
            near = nearest(name, tuple(known))
            hint = f"did you mean {near!r}? " if near else ""
            found.append(f"{name[:30]!r} is not a pattern; {hint}it is kept, and the usual one is used")
    return found
