"""What is shown beside what is struck, chord by chord; `python -m tests.core.rhythm.truth` counts it over all of it:
every pattern, manner and chart, with and without the tune on top and a bass player.
"""

from __future__ import annotations

import collections
import itertools
import random
import sys
from functools import cache

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.hands import Hands, span_mm
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Player, Setup, as_asked
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Playing, PlayWish
from yellow_hinge.core.rhythm.asks import wanted, with_pattern
from yellow_hinge.core.rhythm.pattern.fitting import unit_quarters
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.rhythm.pattern.swinging import ticks
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.demo import demo_names, demo_text

ROLLED = 110  # ticks within which rolled strokes are one
CHARTS = {
    "qualities": "key: C\ntempo: 90\n| Cmaj9 | Am7 F6 | Dm7 / / G13 | E7#9 Am7 D7 G7 | C/E | C/E | N.C. | Fmaj7 Bm7b5 |"
    "\n| Cm7 / F7sus4 F7 | Bb6/9 Edim7 | Caug Am7/D | Db7#11 | Cmaj7 |\n",
    "three": "key: Eb\nmeter: 3/4\ntempo: 100\n| Ebmaj7 | Cm7 / F7 | Fm7 Bb13 Eb | Eb/G | Eb/G | Abm6 | Bb7sus4 Bb7 / | Eb |\n",
    "six": "key: G\nmeter: 6/8\ntempo: 60\n| Gmaj9 | Em7 C6 | G/B | G/B | Am7 D9 | G |\n",
    "twelve": "key: F\nmeter: 12/8\ntempo: 60\n| F7 | Dm7 Bb7 | Gm7 / / C13 | F/A | F/A | A7 Dm7 G7 C7 | F |\n",
    "five": "key: D\nmeter: 5/4\ntempo: 120\n| Dmaj9 | Bm7 / / G6 / | Em7 / / / A13 | D/F# | D/F# | D |\n",
    "seven": "key: A\nmeter: 7/8\ntempo: 90\n| Amaj9 | F#m7 / / / D6 / / | A/C# | A/C# | Bm7 | A |\n",
}
TUNE = "tune: | E5:2 D5:1 C5:1 | C5:3 A4:1~ | A4:1 D5:1 E5:1 F5:1 | r:1 G5:1 E5:1.5 r:0.5 | C5:4 | G4:1 E5:3 | r:4 | A4:2 C5:1 r:1 |"


@cache
def solved(chart, manner, bass="mine", melody="free", pattern="", hands=None, keep=False):
    """A chart or a demo song and its hands; those that a pattern wants where it is given; `keep`: its second chord kept
    as it is without.
    """
    text = CHARTS.get(chart) or demo_text(chart)
    head, _, rest = text.partition("|\n| ") if chart == "qualities" and melody == "top" else (text, "", "")
    song = parse_chart(f"{head}|\n{TUNE}\n| {rest}" if rest else text)
    asks = wanted(with_pattern(Playing(), 0, "both", pattern, True)) if pattern else ()
    setup = Setup(manner=manner, bass=bass, melody=melody, colour=1, wanted=asks, player=Player(hands=hands or Hands()))
    setup, keeps = as_asked(setup, song), ()
    if keep:
        plain = solved(chart, manner, bass, melody, hands=hands)[1].voicings[1]
        keeps = (Keep(plain.here.slot_id, plain.here.symbol, plain.left, plain.right),)
    return song, solve_song(Builder(), timeline(song), setup, keeps)


def faults(solution, sounding):
    """(what is wrong, the chord's index) over a performance; chords of less than a beat and the last are left out."""
    before = None
    for place, (here, voicing) in enumerate(zip(sounding.row[:-1], solution.voicings, strict=False)):
        struck = [s for s in sounding.struck if s.place == place and s.part in ("left", "right")]
        keys = {hand: {s.midi for s in struck if s.part == hand} for hand in ("left", "right")}
        same = before is not None and before[0] == (voicing.left, voicing.right, voicing.chord)
        heard = {hand: keys[hand] | (before[1][hand] if same else set()) for hand in keys}
        before = (voicing.left, voicing.right, voicing.chord), heard
        if here.moment.quarters >= unit_quarters(here.moment.meter):
            found = itertools.chain(
                _of_hands(here, voicing, struck, heard), _of_tune(here, struck), _of_guides(here, voicing, struck, heard, same),
                _of_bass(solution, here, voicing, struck, heard, same),
            )  # fmt: skip
            yield from ((fault, place) for fault in found)
    for (_, up), (down, _) in itertools.pairwise(sounding.pedals):
        if up == down:
            yield "pedal up and down at once", -1


def _of_hands(here, voicing, struck, heard):
    tune = {tone.midi for tone in here.tones}
    for hand in ("left", "right"):
        own, mine = set(voicing.both.of(hand)), [s for s in struck if s.part == hand]
        for s in mine:
            if s.midi not in own | tune and not s.added:
                yield "foreign"
            if s.added and s.midi in own:
                yield "marked as added"
        under = here.tones and hand == "right"
        if ({midi for notes in here.under for midi in notes} if under else own) - heard[hand] - tune:
            yield "unstruck under the tune" if under else "unstruck"
        if own and not heard[hand]:
            yield "silent hand"
        seen = 0.0 if voicing.broken and hand == "left" else span_mm(tuple(sorted(own)))
        limit = max(here.chordal.hands.limit(hand, 5), seen)
        for _, together in itertools.groupby(sorted(mine), key=lambda s: s.onset):
            notes = tuple(sorted({s.midi for s in together}))
            if span_mm(notes) > limit or len(notes) > 5:
                yield "beyond the reach"
    hands = collections.defaultdict(set)
    for s in struck:
        hands[s.onset, s.midi].add(s.part)
    if any(len(parts) > 1 for parts in hands.values()):
        yield "one key by both hands"


def _of_tune(here, struck):
    tune = {tone.midi for tone in here.tones}
    for tone, able in zip(here.tones, here.under, strict=True):
        right = {s.midi for s in struck if s.part == "right" and tone.start <= s.onset - here.start < tone.end}
        if right - set(able) - tune:
            yield "under the tune where it cannot lie"


def _of_guides(here, voicing, struck, heard, same):
    tune = {tone.midi % 12 for tone in here.tones if tone.midi is not None}
    if _guides(here, voicing, here.length) - {n % 12 for hand in heard.values() for n in hand} - tune:
        yield "guide tone lost"
    onsets = sorted({s.onset for s in struck if not s.added})
    merged = [at for n, at in enumerate(onsets) if not n or at - onsets[n - 1] > ROLLED]
    if len(merged) > 1 and not same:
        soon = here.start + min(2 * ticks(unit_quarters(here.moment.meter)), here.length // 2)
        limit = max(merged[1], soon) + ROLLED
        guides = _guides(here, voicing, limit - here.start)
        if guides - {s.midi % 12 for s in struck if s.onset <= limit} - tune:
            rows = any(hit.what in ("up", "down", "arc") for hits in here.hits.values() for hit in hits)
            yield "guide tone late in a row" if rows else "guide tone late"


def _guides(here, voicing, by):
    """The thirds and sevenths of the hands; under a tune those that can lie there by so many ticks."""
    spans = zip(here.tones, here.under, strict=True)
    able = {midi for tone, notes in spans if tone.start < by for midi in notes} if here.tones else set(voicing.right)
    keys = (*voicing.left, *(n for n in voicing.right if n in able))
    return {n % 12 for n in keys if voicing.chord.degree_of(n % 12).lstrip("b#") in ("3", "7")}


def _of_bass(solution, here, voicing, struck, heard, same):
    if not solution.setup.mine or not voicing.left:
        return
    left = [s for s in struck if s.part == "left"]
    first = [s.midi for s in left if s.onset <= here.began + ROLLED]
    if voicing.left[0] not in heard["left"] or any(s.midi < voicing.left[0] and not s.added for s in left):
        yield "another bass"
    elif not same and voicing.left[0] not in first:
        yield "bass not first"


METERS = {"4/4": (4, 2, 1), "3/4": (3, 2, 1), "6/8": (6, 3), "5/4": (5, 3, 2), "7/8": (7, 4, 3), "12/8": (12, 6)}
WORDS = ("", "m", "7", "maj7", "m7", "6", "9", "13", "m7b5", "dim7", "7sus4", "7#9", "maj9", "m9", "aug", "sus2",
    "m6", "7b9")  # fmt: skip


def random_chart(seed):
    """A chart of a meter, in a key, of 16 bars of one to three chords, some of them over other basses."""
    chance = random.Random(seed)
    meter = list(METERS)[seed % len(METERS)]
    bars = []
    for _ in range(16):
        left, bar = METERS[meter][0], []
        while left:
            beats = chance.choice([size for size in METERS[meter] if size <= left] or [left])
            bass = f"/{chance.choice('CDEFGAB')}" if chance.random() < 0.15 else ""
            root = chance.choice(("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"))
            bar += [f"{root}{chance.choice(WORDS)}{bass}", *("/" * (beats - 1))]
            left -= beats
        bars.append(" ".join(bar))
    key, tempo = chance.choice(("C", "F", "Bb", "E", "Ab", "D minor")), chance.randrange(60, 200)
    return f"key: {key}\nmeter: {meter}\ntempo: {tempo}\n| {' | '.join(bars)} |\n"


def main():
    """Count everything and say it, a line to a fault."""
    CHARTS.update({f"random {seed}": random_chart(seed) for seed in range(14)})
    songs = [*CHARTS, *demo_names()] if "all" in sys.argv else list(CHARTS)[:6]
    ways = [{}, {"bass": "theirs"}, {"melody": "top"}, {"wants": True}, {"ahead": True, "bass": "theirs"}]
    total, found, where = 0, collections.Counter(), collections.defaultdict(collections.Counter)
    for chart, manner, way, pattern in itertools.product(songs, ("", *manners()), ways, patterns()):
        ask, hands = dict(way), Hands(7 + len(pattern) % 6, 7 + len(manner) % 6)
        wish = PlayWish(0, pattern, wants=ask.pop("wants", False), ahead=ask.pop("ahead", False))
        song, solution = solved(chart, manner, **ask, pattern=pattern if wish.wants else "", hands=hands)
        sounding = performed(solution, song, Playing((wish,)))
        total += len(solution.voicings)
        for fault, _ in set(faults(solution, sounding)):
            found[fault] += 1
            where[fault][pattern, chart, manner, str(way)] += 1
    print(total, "chords")
    for fault, number in found.most_common():
        print(f"{100 * number / total:7.3f} % {fault}: {where[fault].most_common(3)}")


if __name__ == "__main__":
    main()
