"""What the voicings of a chord are judged by, of one chord or of some at once."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Iterator
from typing import Literal, NamedTuple

from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.prices.doubling import Doubling
from yellow_hinge.core.numerics import Int32s, np
from yellow_hinge.core.pitch.pitch import degree_pc
from yellow_hinge.core.shapes.palette import Palette
from yellow_hinge.core.symbols.quality import Quality

# Colours asked for at each colour level, beyond what is written.
COLOURS_ASKED = (0, 1, 1, 2)


Outermost = Literal["", "first", "last"]


def bits_of(pcs: Iterable[int]) -> int:
    """Pitch classes as bits."""
    return sum({1 << pc % 12 for pc in pcs})


class PlacingContext(NamedTuple):
    """What a chord's voicings are judged by, its melody apart. `root` pitch class; `level` of colour; `lift` in
    semitones; `anchored` where registers count more because some part of the song is lifted; `singer` the register
    (MIDI) that the right hand leaves free; `quality` what its notes have to be heard as (None: as anything);
    `rooted` whether a left hand that has the bass has to sound the root, `ends` whether it has to stand on the
    written bass; `upper` pitch classes (bits) that the right hand has to hold by itself; `doubling` what notes cost
    that sound twice; `outermost` whether it begins or ends the song; `thirdless` whether
    hands without the third were chosen, whatever they are heard as.
    """

    root: int
    palette: Palette
    level: int
    hands: Hands
    mine: bool
    lift: int = 0
    anchored: bool = False
    singer: tuple[int, int] | None = None
    quality: Quality | None = None
    rooted: bool = False
    ends: bool = False
    upper: int = 0
    doubling: Doubling = Doubling()
    outermost: Outermost = ""
    thirdless: bool = False

    @property
    def bass_pc(self) -> int:
        """The pitch class of the written bass."""
        return (self.root + self.palette.bass) % 12

    def bits(self, *degrees: str) -> int:
        """The pitch classes of some degrees."""
        return bits_of(self.root + degree_pc(degree) for degree in degrees)

    @property
    def must(self) -> int:
        """What has to sound (bits)."""
        return self.bits(*self.palette.must, *(("1",) if self.rooted else ()))

    @property
    def given(self) -> int:
        """What sounds anyhow (bits): the bass that somebody else has."""
        return 0 if self.mine else 1 << self.bass_pc

    @property
    def colours(self) -> int:
        """The colours beyond what is written (bits)."""
        return self.bits(*self.palette.colours) & ~self.bits(*self.palette.tones)

    @property
    def colours_asked(self) -> int:
        """How many colours are asked for."""
        return min(COLOURS_ASKED[self.level], len(self.palette.colours))

    @property
    def third(self) -> bool:
        """Whether a sharp ninth (or minor third) may stand beside a major third."""
        return any(degree_pc(d) == 3 for d in (*self.palette.tones, *self.palette.colours))

    @property
    def stands_on(self) -> int:
        """What a left hand that has the bass may stand on (bits, semitones above the root): the written bass, and where
        that may turn the third, natural fifth or seventh.
        """
        quality, bass = self.quality, self.palette.bass
        if quality is None or self.ends:
            return 1 << bass
        turned = (quality.third, quality.fifth if quality.fifth == "5" else "", quality.seventh)
        return bits_of((bass, *(degree_pc(degree) for degree in turned if degree)))


class Scenes(NamedTuple):
    """Chords that are judged by the same hands, register, level and prices: `one` stands for what they share."""

    each: tuple[PlacingContext, ...]

    @property
    def one(self) -> PlacingContext:
        """Any of them, for what they share."""
        return self.each[0]

    def all(self, what: Callable[[PlacingContext], int]) -> Int32s:
        """Something of every chord (chords,)."""
        return np.array([what(scene) for scene in self.each], np.int32)

    @property
    def root(self) -> Int32s:
        """Their roots, pitch classes."""
        return self.all(lambda scene: scene.root)

    def listed(
        self, what: Callable[[PlacingContext], Iterable[tuple[int, ...]]], width: int = 1
    ) -> Iterator[tuple[Int32s, ...]]:
        """Lists of every chord, in step: the first entries of all, the second ones; 0 where a chord has no more."""
        nothing = (0,) * width
        for step in itertools.zip_longest(*(what(scene) for scene in self.each), fillvalue=nothing):
            yield tuple(np.array(step, np.int32).reshape(-1, width).T)


NO_PALETTE = Palette((), (), (), (), 0, False)


def alike(scene: PlacingContext) -> PlacingContext:
    """What is the same of chords that are judged in one pass: the scene without what is the chord's own."""
    return scene._replace(
        root=0, palette=NO_PALETTE, quality=None, ends=False, upper=0, doubling=Doubling(), outermost=""
    )
