"""Judging what a player presses against the hands that are wanted, key by key."""

from __future__ import annotations

from typing import Literal, NamedTuple

Kind = Literal["right", "octave", "extra"]


class Press(NamedTuple):
    """A key that was pressed: its MIDI number, when (seconds of some clock), and what it was: one of the wanted keys, a
    wanted note in another octave, or neither.
    """

    midi: int
    at: float
    kind: Kind


class Mark(NamedTuple):
    """What came of a chord: seconds from when it was asked for until all of it sounded (or until it was given up), the
    keys that were pressed wrongly, and those that were never pressed. Fingers and the order of keys do not count.
    """

    seconds: float
    octave: tuple[int, ...] = ()
    extra: tuple[int, ...] = ()
    missing: tuple[int, ...] = ()

    @property
    def errors(self) -> int:
        """How many keys were wrong or missing."""
        return len(self.octave) + len(self.extra) + len(self.missing)

    @property
    def right(self) -> bool:
        """Whether nothing was wrong."""
        return self.errors == 0


class Attempt(NamedTuple):
    """One chord while it is played: the keys that are wanted, when it was asked for, what was pressed so far, which
    keys are down, which sound on by the pedal, whether the pedal is down, and the keys that may be played besides
    (`free`); keys `apart` are those of a broken hand, which nobody can hold together: they sound on as under the
    pedal. It changes by `pressed`, `lifted` and `pedalled`, which give another one.
    """

    wanted: frozenset[int]
    since: float
    presses: tuple[Press, ...] = ()
    down: frozenset[int] = frozenset()
    ringing: frozenset[int] = frozenset()
    pedal: bool = False
    free: frozenset[int] = frozenset()
    apart: frozenset[int] = frozenset()

    def judge(self, midi: int) -> Kind:
        """What a key is now: a note counts as another octave while its wanted key does not sound yet."""
        if midi in self.wanted or midi in self.free:
            return "right"
        unplayed = {key % 12 for key in self.wanted - self.sounding}
        return "octave" if midi % 12 in unplayed else "extra"

    def pressed(self, midi: int, at: float) -> Attempt:
        """After a key was pressed."""
        press = Press(midi, at, self.judge(midi))
        return self._replace(presses=(*self.presses, press), down=self.down | {midi}, ringing=self.ringing - {midi})

    def lifted(self, midi: int) -> Attempt:
        """After a key was let go; with the pedal down it sounds on."""
        sounds_on = midi in self.down and (self.pedal or midi in self.apart)
        ringing = self.ringing | {midi} if sounds_on else self.ringing
        return self._replace(down=self.down - {midi}, ringing=ringing)

    def pedalled(self, down: bool) -> Attempt:
        """After the pedal went down or up."""
        return self._replace(pedal=down, ringing=self.ringing if down else self.ringing & self.apart)

    @property
    def sounding(self) -> frozenset[int]:
        """The keys that sound."""
        return self.down | self.ringing

    @property
    def done(self) -> bool:
        """Whether all that is wanted sounds together and no other key is down. A rolled chord is one whose notes are
        held, by hand or by pedal.
        """
        return bool(self.wanted) and self.wanted <= self.sounding and self.down <= self.wanted | self.free

    def mark(self, now: float) -> Mark:
        """What came of it until now."""
        played = {press.midi for press in self.presses}
        wrong = {kind: tuple(p.midi for p in self.presses if p.kind == kind) for kind in ("octave", "extra")}
        last = max((press.at for press in self.presses), default=now) if self.done else now
        missing = tuple(sorted(self.wanted - played))
        return Mark(max(0.0, last - self.since), wrong["octave"], wrong["extra"], missing)


def begun(
    wanted: tuple[int, ...], at: float, before: Attempt | None = None, free: tuple[int, ...] = (),
    apart: tuple[int, ...] = (),
) -> Attempt:  # fmt: skip
    """An attempt at some keys; `free` may be played besides: what the playing adds is no fault; `apart` are those of a
    broken hand, struck one after the other. Keys that are still
    down or ringing from the chord before sound on: what holds need not be struck again, and what is left over need not
    be lifted first. Where all of it sounds already it is struck again.
    """
    keys = frozenset(wanted)
    fresh = Attempt(keys, at, free=frozenset(free), apart=frozenset(apart) & keys)
    if before is None:
        return fresh
    fresh = fresh._replace(pedal=before.pedal)
    if keys <= before.sounding:  # the same keys again are struck again
        return fresh
    presses = tuple(Press(midi, at, "right") for midi in sorted(keys & before.sounding))
    sounding = before.sounding & keys - before.down
    return fresh._replace(presses=presses, down=before.down & keys, ringing=sounding)


def marked_words(mark: Mark) -> str:
    """What came of a chord."""
    if mark.right:
        return f"right, {mark.seconds:.1f} s"
    parts = []
    for count, word in (
        (len(mark.octave), "in another octave"),
        (len(mark.extra), "wrong"),
        (len(mark.missing), "missing"),
    ):
        if count:
            parts.append(f"{count} {word}")
    return ", ".join(parts)
