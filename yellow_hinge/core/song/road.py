"""The way through a song: repeats and endings, and what D.C., D.S., coda and fine say, in the order of playing."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.song.repeats import in_order, origins, repeats
from yellow_hinge.core.song.song import Song, endings_of

SEGNO, CODA, TO_CODA, FINE = "segno", "coda", "to coda", "fine"
JUMPS = tuple(f"{back}{to}" for back in ("D.C.", "D.S.") for to in ("", " al fine", " al coda"))
AT_BEGIN = (SEGNO, CODA)  # what stands before a bar; the others stand after it
SIGNS = (*AT_BEGIN, TO_CODA, FINE, *JUMPS)
_JUMP = r"(?P<back>D\.\s?C\.?|DC\b|da\s+capo|D\.\s?S\.?|DS\b|dal\s+segno)(?:\s+(?:al|to)\s+(?P<end>fine|coda))?"
_SIGN = re.compile(
    rf"\(?(?<![\w.])(?:{_JUMP}|(?P<mark>to\s+coda|segno|coda|fine)\b|(?P<glyph>[𝄋𝄌]))\s*\)?(?![\w#])", re.IGNORECASE
)
MOST_STEPS = 16_000


class Visit(NamedTuple):
    """A bar when it is played: the section as it is played and the one where it is written, its index there, the pass
    from 0, and how many jumps were taken before it.
    """

    played: int
    origin: int
    bar: int
    turn: int
    jumps: int = 0


def signs_in(text: str) -> tuple[list[str], str]:
    """The signs that stand in a text of a chart, out of SIGNS, and the text with spaces where they stood."""
    found = []
    for match in _SIGN.finditer(text):
        if match["back"]:
            back = "D.S." if re.sub(r"[\W]", "", match["back"].lower()) in ("ds", "dalsegno") else "D.C."
            found.append(f"{back} al {match['end'].lower()}" if match["end"] else back)
        else:
            glyph = {"𝄋": SEGNO, "𝄌": CODA}
            found.append(glyph.get(match["glyph"] or "") or " ".join(match["mark"].lower().split()))
    return found, _SIGN.sub(lambda match: " " * len(match[0]), text)


# --- repeats and endings ---


def opened(song: Song) -> set[tuple[int, int]]:
    """Where repeats go back to: (section as it is played, bar)."""
    bars = in_order(song)
    return {(bars[first].played, bars[first].at) for first, _, _ in repeats(bars)}


def _laid_out(song: Song) -> tuple[list[Visit], list[bool]]:
    """Every bar as often as repeats play it, without jumps; a bar with an ending on its passes only. And of each
    whether it is the last time that its repeat is played.
    """
    bars, at = in_order(song), 0
    order: list[Visit] = []
    final: list[bool] = []

    def play(places: range, turn: int, last: bool) -> None:
        for place in places:
            ending = bars[place].bar.ending
            if not ending or turn < 0 or turn + 1 in endings_of(ending):
                order.append(Visit(*bars[place][:3], max(turn, 0)))
                final.append(last)

    for first, end, passes in repeats(bars):
        play(range(at, first), -1, True)
        for turn in range(passes):
            play(range(first, end), turn, turn == passes - 1)
        at = end
    play(range(at, len(bars)), -1, True)
    return order, final


def played_length(song: Song, most: int) -> int:
    """How many chords the song plays with its repeats, without jumps; more than `most` where it is more."""
    counts = [len(song.sections[origin].bars) for origin in origins(song)]
    if sum(counts) > most:
        return sum(counts)
    bars, count, at = in_order(song), 0, 0

    def slots(places: range) -> int:
        return sum(max(1, len(bars[place].bar.slots)) for place in places)

    for first, end, passes in repeats(bars):
        count += slots(range(at, first)) + passes * slots(range(first, end))
        at = end
    return count + slots(range(at, len(bars)))


# --- jumps ---


def road(song: Song) -> list[Visit]:
    """Every bar in playing order. After a jump repeats are not played again and their last ending is taken; what goes
    to a fine or a coda that is not there goes on to the end. At most MOST_STEPS bars.
    """
    order, final = _laid_out(song)
    if not any(bar.signs for section in song.sections for bar in section.bars):
        return order
    return list(_Walk(song, order, final).steps())


class _Walk:
    """A walk over the bars in their order, jumping where the signs say so."""

    def __init__(self, song: Song, order: list[Visit], final: list[bool]) -> None:
        self.song, self.order, self.last_time = song, order, final
        self.signs = [song.sections[step.origin].bars[step.bar].signs for step in order]
        self.passes: dict[int, int] = {}
        for step in order:
            self.passes[step.played] = max(self.passes.get(step.played, 0), 1 + step.turn)
        self.last = {(step.origin, step.bar): n for n, step in enumerate(order)}

    def steps(self) -> Iterator[Visit]:
        """The bars as they are played."""
        at, jumps, goal, done, count = 0, 0, "", set[tuple[int, int]](), 0
        while at < len(self.order) and count < MOST_STEPS:
            step, signs = self.order[at], self.signs[at]
            again = bool(goal)
            at += 1
            if again and not self.last_time[at - 1]:
                continue
            count += 1
            yield step._replace(turn=self.passes[step.played] + jumps - 1 if again else step.turn, jumps=jumps)
            if again and FINE in signs and goal != "coda":
                return
            coda = self.coda() if again and TO_CODA in signs and goal != "fine" else None
            if coda is not None:
                at, goal = coda, ""
                continue
            jump = self._jump(at - 1, done)
            if jump:
                done.add((step.origin, step.bar))
                jumps, goal = jumps + 1, jump.partition(" al ")[2] or "any"
                at = self.find(SEGNO) or 0 if jump.startswith("D.S.") else 0

    def _jump(self, at: int, done: set[tuple[int, int]]) -> str:
        """The sign that a bar jumps by, "" where it goes on: the last time that it is played, and once."""
        step = self.order[at]
        jump = next((sign for sign in self.signs[at] if sign in JUMPS), "")
        here = at == self.last[step.origin, step.bar] and (step.origin, step.bar) not in done
        return jump if here else ""

    def find(self, sign: str) -> int | None:
        """Where a sign stands first; in a repeat, the last time that it is played."""
        return next((n for n, signs in enumerate(self.signs) if sign in signs and self.last_time[n]), None)

    def coda(self) -> int | None:
        """Where the coda begins: at its sign, or where a section is called so."""
        named = (n for n, s in enumerate(self.order) if self.song.sections[s.played].name.lower().startswith("coda"))
        found = self.find(CODA)
        return next(named, None) if found is None else found


def check_signs(song: Song) -> None:
    """Refuse signs that lead nowhere, and bars that no way leads to. Raises UserError."""
    found = {sign for section in song.sections for bar in section.bars for sign in bar.signs}
    if not found:
        return
    if unknown := found - set(SIGNS):
        raise UserError(f"{sorted(unknown)[0][:20]!r} is no sign; signs are {', '.join(SIGNS)}")
    wanted = [
        (SEGNO, "D.S.", SEGNO in found),
        (FINE, "al fine", FINE in found),
        (TO_CODA, "al coda", TO_CODA in found),
        (CODA, "al coda", CODA in found or any(s.name.lower().startswith("coda") for s in song.sections)),
    ]
    for sign, jump, there in wanted:
        if not there and any(jump in other for other in found):
            raise UserError(f"{jump} leads to {sign!r}, which stands nowhere; write ({sign}) in the bar where it is")
    played = {(step.origin, step.bar) for step in road(song)}
    for s, section in enumerate(song.sections):
        for b in range(len(section.bars)):
            if (s, b) not in played:
                raise UserError(f"bar {b + 1} of {section.name!r} is never played: no jump leads to it")
