"""What the command line asks of the solver, read into a Setup."""

from __future__ import annotations

import argparse
import re
from collections.abc import Iterator
from typing import Any

import msgspec

from yellow_hinge.cli.options import ASKED, KEEP_FORM, OPTIONS, WISH_FORM
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.keeps import HeldTop, Keep, Part
from yellow_hinge.core.leading.asking.setup import Setup, Wish, in_manner_of, unknown
from yellow_hinge.core.leading.asking.wishes import WISHES
from yellow_hinge.core.nearest import nearest
from yellow_hinge.core.pitch.pitch import parse_pitch
from yellow_hinge.core.reharm.boldness import EVERYTHING, PROTECTED, Protected
from yellow_hinge.core.rhythm.asked import HandWish, Playing, PlayWish
from yellow_hinge.core.rhythm.asks import WHOLE_SONG, pattern_named, usual_pattern, with_ahead, with_pattern, with_wants
from yellow_hinge.core.rhythm.pattern.patterns import pattern_id, patterns
from yellow_hinge.core.song.places import read_chord_place, read_place, spot_id
from yellow_hinge.core.song.song import Address, Song

_PATTERN_ASKS: dict[str, HandWish] = {"pattern": "both", "left-pattern": "left", "right-pattern": "right"}
_ASK = re.compile(rf"(?<![\w-])({'|'.join((*ASKED, *_PATTERN_ASKS))})\s*=\s*")


def setup_from(args: argparse.Namespace, saved: Setup, song: Song) -> Setup:
    """The saved setup with what the command line says put over it. Raises UserError."""
    already = unknown(saved)

    def given(names: tuple[str, ...]) -> dict[str, Any]:
        return {name: getattr(args, name) for name in names if getattr(args, name) is not None}

    hands = msgspec.structs.asdict(saved.player.hands)
    hands |= given(("left_reach", "right_reach", "left_notes", "right_notes", "keys", "roll"))
    singer = saved.player.singer if args.singer is None else read_register(args.singer)
    player = msgspec.structs.replace(saved.player, hands=Hands(**hands), singer=singer)
    asked = {kind.name: said for kind in OPTIONS if (said := getattr(args, kind.name)) is not None}
    if "manner" in asked:  # its bass and colour stand under the header's
        manner = WISHES["manner"].valued(asked.pop("manner"))
        saved = msgspec.structs.replace(in_manner_of(saved, manner), bass=None, colour=None)
    fields = {name: getattr(saved, name) for name in saved.__struct_fields__}
    fields |= {name: said if said is True else WISHES[name].valued(said) for name, said in asked.items()}
    fields["wishes"] = (*saved.wishes, *(read_wish(text, song) for text in args.wish or () if _of_hands(text)))
    fields["held"] = (*saved.held, *(read_hold(text, song) for text in args.hold or ()))
    setup = Setup(**fields | {"player": player})
    strange = [words for words in unknown(setup) if words not in already]
    if strange:
        raise UserError(strange[0])
    return setup


def _pattern(text: str, saved: Playing) -> str:
    """The id of a pattern by its name or id. Raises UserError."""
    name = pattern_id(text, saved.patterns)
    if pattern_named(name, saved.patterns) is None:
        known = (*(own.id for own in saved.patterns), *patterns())
        near = nearest(name, known)
        hint = f"did you mean {near!r}? " if near else ""
        raise UserError(f"{name[:30]!r} is not a pattern; {hint}known: {', '.join(known)}")
    return name


def playing_from(args: argparse.Namespace, saved: Playing, song: Song, manner: str) -> Playing:
    """How the song is played, with the patterns that the command line asks for. Raises UserError."""
    found, opens = saved, args.wants == "on" or (args.wants is None and args.pattern is not None)
    if args.pattern is not None:
        found = with_pattern(found, WHOLE_SONG, "both", _pattern(args.pattern, saved), opens)
    elif args.wants == "on" and not found.wishes:  # of the pattern that is usual here
        found = with_pattern(found, WHOLE_SONG, "both", usual_pattern(song, manner, saved.patterns).id)
    if args.wants is not None:
        found = with_wants(found, opens)
    if args.ahead is not None:
        usual = PlayWish(WHOLE_SONG, usual_pattern(song, manner, saved.patterns).id)
        wish = next((own for own in found.wishes if (own.at, own.hand) == (WHOLE_SONG, "both")), usual)
        found = with_ahead(found, wish, args.ahead == "on")
    for at, hand, named in _patterns_asked(args, saved, song):
        found = with_pattern(found, at, hand, named, opens)
    return found


def _patterns_asked(args: argparse.Namespace, saved: Playing, song: Song) -> Iterator[tuple[int, HandWish, str]]:
    """(place, hand, pattern) of every `--wish` that asks for one. Raises UserError."""
    for text in args.wish or ():
        place, asks = _asks(text)
        for name, hand in _PATTERN_ASKS.items():
            if name in asks:
                yield spot_id(read_place(place, song), song), hand, _pattern(asks[name], saved)


def protected_from(args: argparse.Namespace) -> frozenset[Protected]:
    """What is protected when the whole song is reharmonised. Raises UserError."""
    if args.protect is None:
        return EVERYTHING
    names = [] if args.protect == "none" else [word.strip() for word in args.protect.split(",") if word.strip()]
    found: set[Protected] = set()
    for name in names:
        if name not in PROTECTED:
            raise UserError(f"{name[:20]!r} cannot be protected; there are {', '.join(PROTECTED)}, or none")
        found.add(name)
    return frozenset(found)


def read_register(text: str) -> tuple[int, int]:
    """(lowest, highest) MIDI number of "G3:D5". Raises UserError."""
    low, colon, high = text.partition(":")
    if not colon:
        raise UserError(f"{text[:20]!r} is not a register; write it as G3:D5")
    return parse_pitch(low.strip()).midi, parse_pitch(high.strip()).midi


def _asks(text: str) -> tuple[str, dict[str, str]]:
    """(the place, what is asked by its name) of a wish. Raises UserError."""
    found = list(_ASK.finditer(text))
    if not found:
        raise UserError(f"{text[:40]!r} asks for nothing; {WISH_FORM}")
    ends = [match.start() for match in found[1:]] + [len(text)]
    asks = {match[1]: text[match.end() : end].strip() for match, end in zip(found, ends, strict=True)}
    return text[: found[0].start()].strip(), asks


def _of_hands(text: str) -> bool:
    """Whether a wish asks anything of the solver."""
    return not set(_asks(text)[1]) <= set(_PATTERN_ASKS)


def read_wish(text: str, song: Song) -> Wish:
    """A wish such as "Verse:3 colour=3 families=drop2+drop3". Raises UserError."""
    place, asks = _asks(text)
    spot = read_place(place, song)
    asked = {name: ASKED[name].valued(value) for name, value in asks.items() if name in ASKED}
    return Wish(spot_id(spot, song), **asked)


_HANDS = re.compile(r"^(?P<place>.*?)(?:\s+L(?P<left>(?:\s+[^R\s]\S*)*))?(?:\s+R(?P<right>(?:\s+\S+)*))?$")


def read_keep(text: str, song: Song) -> Keep:
    """A keep such as "Verse:3 L D3 G3 R D4 F4 A4"; a hand that is left out is free, one without notes rests. Raises
    UserError.
    """
    found = _HANDS.fullmatch(text.strip()[:400])
    if found is None or (found["left"] is None and found["right"] is None):
        raise UserError(f"{text[:40]!r} keeps nothing; write {KEEP_FORM}")
    section, bar, at = read_chord_place(found["place"], song)
    slot = song.sections[section].bars[bar].slots[at]
    left, right = (
        tuple(sorted(parse_pitch(name).midi for name in (found[hand] or "").split())) for hand in ("left", "right")
    )
    said = found["left"] is not None, found["right"] is not None
    if not left and not right:
        raise UserError(f"{text[:40]!r} keeps nothing; write {KEEP_FORM}")
    part: Part = "chord" if all(said) else "left" if said[0] else "right"
    return Keep(slot.id, slot.symbol, left, right, part)


def keeps_from(args: argparse.Namespace, saved: tuple[Keep, ...], song: Song) -> tuple[Keep, ...]:
    """The saved keeps and those of the command line, which take the place of others at their chords."""
    said = tuple(read_keep(text, song) for text in args.keep or ())
    return (*(keep for keep in saved if keep.slot not in {new.slot for new in said}), *said)


def _between(first: Address, last: Address, song: Song) -> tuple[int, ...]:
    """The ids of the chords from one place to another, both included."""
    written = (
        ((s, b, i), slot.id)
        for s, section in enumerate(song.sections)
        for b, bar in enumerate(section.bars)
        for i, slot in enumerate(bar.slots)
    )
    return tuple(own for at, own in written if first <= at <= last)


def read_hold(text: str, song: Song) -> HeldTop:
    """A held top such as "C5 Verse:1:1 Verse:4:1". Raises UserError."""
    note, _, places = text.strip().partition(" ")
    cuts = [m.start() for m in re.finditer(r"\s", places)]
    for cut in cuts:  # section names may hold spaces: the cut at which both sides are places
        try:
            first, last = read_chord_place(places[:cut], song), read_chord_place(places[cut:], song)
        except UserError:
            continue
        if first > last:
            raise UserError(f"{text[:40]!r} ends before it begins")
        return HeldTop(_between(first, last, song), parse_pitch(note).midi)
    parse_pitch(note)
    for side in places.split(maxsplit=1):
        read_chord_place(side, song)
    raise UserError(f'{text[:40]!r} is not a held note; write it as "C5 Verse:1:1 Verse:4:1"')
