"""From a song to the solver's chain: a stage for every chord and a price table for every change, with what was made
before kept from one edit to the next.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import NamedTuple, TypeVar

from yellow_hinge.core.chord import Chord
from yellow_hinge.core.errors import NoVoicingError, OvertakenError
from yellow_hinge.core.key import Key, spell_in_key
from yellow_hinge.core.leading.easing import eased, relaxation
from yellow_hinge.core.leading.minplus import Chain, Solved, Tables
from yellow_hinge.core.leading.motion import Prices, change_tables, prices
from yellow_hinge.core.leading.remarks import long_tune
from yellow_hinge.core.leading.setup import Keep, Setup, asked_at, held_top, in_force
from yellow_hinge.core.leading.stage import Place, Stage, free_stage, kept_chord, kept_parts, row_of, tuned
from yellow_hinge.core.leading.weights import STYLES, Weights
from yellow_hinge.core.pitch import pitch_of
from yellow_hinge.core.shapes.functions import heading
from yellow_hinge.core.timeline import Moment

T = TypeVar("T")


class Store:
    """A bounded store of tables, oldest use out first. One belongs to each open song, so that an edit solves only what
    changed; it holds nothing that is not made from its key alone.
    """

    def __init__(self, most: int = 4096) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, object] = OrderedDict()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value made for `key`, made now if it is not there."""
        if key in self._kept:
            self._kept.move_to_end(key)
            return self._kept[key]  # type: ignore[return-value]
        value = make()
        self._kept[key] = value
        if len(self._kept) > self._most:
            self._kept.popitem(last=False)
        return value


class Lattice(NamedTuple):
    """The stages of the chords that sound, `moments[i]` the index of stage i's moment in the timeline, `places[i]` what
    it was made from.
    """

    stages: list[Stage]
    chain: Chain
    moments: list[int]
    places: list[Place]


def _wanted_top(moment: Moment, setup: Setup, keeps: tuple[Keep, ...]) -> int | None:
    """The note that has to be on top: a kept one, else a held one, else the melody where the player has it."""
    kept = [max(keep.right) for keep in keeps if keep.part == "top" and keep.right]
    held = held_top(setup, moment.slot_id)
    if kept:
        return kept[-1]
    if held is not None:
        return held
    return moment.tune[0].pitch.midi if setup.melody == "top" and moment.tune else None


def _name(midi: int, key: Key) -> str:
    return str(pitch_of(midi, spell_in_key(midi % 12, key)))


class Builder:
    """Makes lattices for one song, keeping tables, and the last answer, from one edit to the next."""

    def __init__(self) -> None:
        self._store = Store()
        self.last: Solved | None = None
        self._made = 0  # stages so far: each one's key, quicker to hash than what it was made from
        self.overtaken: Callable[[], bool] = lambda: False

    def lattice(self, moments: tuple[Moment, ...], setup: Setup, keeps: tuple[Keep, ...]) -> Lattice:
        """The lattice of every sounding chord. Raises NoVoicingError where a chord has no voicing at all, and
        OvertakenError where `overtaken` says so; what was made until then is kept.
        """
        sounding = [(i, m) for i, m in enumerate(moments) if m.chord is not None]
        stages, places = [], []
        for n, (index, moment) in enumerate(sounding):
            nxt = sounding[(n + 1) % len(sounding)][1] if n + 1 < len(sounding) or setup.loop else None
            if self.overtaken():
                raise OvertakenError
            own = tuple(keep for keep in keeps if in_force(keep, moment))
            place = self.place(moment, nxt.chord if nxt else None, setup, own)
            stages.append(self.stage(index, moment, place, own))
            places.append(place)
        left: list[Tables] = []
        right: list[Tables] = []
        count = len(stages)
        for t in range(count if setup.loop else count - 1):
            if self.overtaken():
                raise OvertakenError
            a, b, style = stages[t], stages[(t + 1) % count], places[(t + 1) % count].asked.style
            left.append(self.change(a, b, "left", setup.mine, style))
            right.append(self.change(a, b, "right", setup.mine, style))
        tables = [stage.place.cost for stage in stages]
        free = tuple(table if stage.free is None else stage.free for stage, table in zip(stages, tables, strict=True))
        return Lattice(stages, Chain(tables, left, right, setup.loop, free), [index for index, _ in sounding], places)

    def place(self, moment: Moment, following: Chord | None, setup: Setup, keeps: tuple[Keep, ...]) -> Place:
        """What a chord's stage is made from; `keeps` are the chord's own."""
        assert moment.chord is not None
        extra = tuple(
            next((tuple(sorted(k.left if part == "left" else k.right)) for k in keeps if k.part == part), ())
            for part in ("left", "right")
        )
        top = _wanted_top(moment, setup, keeps)
        asked = asked_at(setup, moment)
        ends = moment.ends and not asked.families and bool(STYLES[asked.style].families)
        return Place(moment.chord, moment.key, following, asked, top, (extra[0], extra[1]), ends)

    def stage(self, index: int, moment: Moment, at: Place, keeps: tuple[Keep, ...], ease: bool = True) -> Stage:
        """The stage of chord `index`, from what `place` gave. Where no hand can hold the chord, the nearest that can be
        played, unless that is not wanted (`ease`). Raises NoVoicingError.
        """
        tune = long_tune(moment)
        whole = next((keep for keep in keeps if keep.part == "chord"), None)
        stage = self._store.get(("stage", _made_from(at), tune, keeps), lambda: self._kept(at, tune, keeps, whole))
        if stage is None and ease:
            stage = self._store.get(("eased", _made_from(at)), lambda: self._keyed(eased(at)))
        if stage is None:
            raise NoVoicingError(index, moment.symbol, *relaxation(at))
        return stage

    def _kept(self, at: Place, tune: tuple[int, ...], keeps: tuple[Keep, ...], whole: Keep | None) -> Stage | None:
        plain = self._with_extra(at)
        stage = tuned(plain, tune, at) if plain else None
        if whole is not None:
            return kept_chord(stage, whole, at)
        if stage is None or not keeps:
            return stage
        stage, refused = kept_parts(stage, keeps)
        notes = [f"the kept {keep.part} leaves this chord no voicing, so it was let go here" for keep in refused]
        return stage._replace(notes=(*stage.notes, *notes))

    def _with_extra(self, at: Place) -> Stage | None:
        """The stage with the kept hands among its placings; the plain one where its shapes make them anyhow."""
        plain = self._topped(at._replace(extra=((), ())))
        if plain is None or not any(at.extra):
            return plain
        known = [not notes or row_of(hand, notes) is not None
                 for hand, notes in zip((plain.left, plain.right), at.extra, strict=True)]  # fmt: skip
        return plain if all(known) else self._topped(at) or plain

    def _topped(self, at: Place) -> Stage | None:
        """The stage with the asked note on top, or without it and saying why."""
        found = self._plain(at)
        if found is not None or at.top is None:
            return found
        without = self._plain(at._replace(top=None))
        if without is None:
            return None
        rule, way = relaxation(at)
        said = f"{_name(at.top, at.key)} cannot be the top note here: {rule}; {way}"
        return without._replace(notes=(*without.notes, said))

    def _plain(self, at: Place) -> Stage | None:
        key = _made_from(at)

        return self._store.get(key, lambda: self._keyed(free_stage(at)))

    def _keyed(self, stage: Stage | None) -> Stage | None:
        self._made += 1
        return stage._replace(key=self._made) if stage else None

    def change(self, old: Stage, new: Stage, hand: str, mine: bool, style: str) -> Tables:
        """One hand's price tables from one stage to another."""

        def make() -> Tables:
            before, after = (old.left, new.left) if hand == "left" else (old.right, new.right)
            return change_tables(before, after, hand, mine, self.prices(STYLES[style].weights))

        return self._store.get(("change", old.key, new.key, hand, mine, style), make)

    def prices(self, weights: Weights) -> Prices:
        """The price tables of some weights."""
        return self._store.get(("prices", weights), lambda: prices(weights))


def _made_from(at: Place) -> Hashable:
    """What a stage's voicings depend on: of the chord that follows, only what its colours hear."""
    return at.chord, at.key, heading(at.chord, at.following), at.asked, at.top, at.extra, at.ends
