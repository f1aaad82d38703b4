"""From a song to the solver's chain: a stage for every chord and a price table for every change, with what was made
before kept from one edit to the next.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Hashable, Iterable, Sequence
from contextlib import suppress
from functools import partial
from typing import NamedTuple

import msgspec

from yellow_hinge.core.errors import NoVoicingError, OvertakenError
from yellow_hinge.core.leading.asking.asked import asked_at, climbed, held_top
from yellow_hinge.core.leading.asking.keeps import Keep, ruling
from yellow_hinge.core.leading.asking.setup import Setup
from yellow_hinge.core.leading.chain.easing import eased, relaxation
from yellow_hinge.core.leading.chain.kept_stage import kept_chord, kept_parts, row_of
from yellow_hinge.core.leading.chain.making import meets
from yellow_hinge.core.leading.chain.stage import (
    Place,
    Stage,
    is_large,
    narrowed,
    scene_of,
    taken,
    tuned,
    way_between,
)
from yellow_hinge.core.leading.chain.steps import Chain, Cheapest, Tables
from yellow_hinge.core.leading.chain.store import Store
from yellow_hinge.core.leading.chain.widening import first_stages, free_stage
from yellow_hinge.core.leading.chain.widest import KeptPairs
from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.leading.prices.many import Change, portions, tables_of
from yellow_hinge.core.leading.prices.motion import Way
from yellow_hinge.core.leading.prices.placing_cost import PlaceTable
from yellow_hinge.core.leading.prices.remarks import long_line, long_tune
from yellow_hinge.core.leading.prices.scenes import Outermost
from yellow_hinge.core.leading.prices.singing import Costs, least_of, pairs_of, top_line, tops_of, under
from yellow_hinge.core.leading.prices.sung import left_out, sung_over, under_tune
from yellow_hinge.core.numerics import np
from yellow_hinge.core.pitch.key import Key, spell_in_key
from yellow_hinge.core.pitch.pitch import pitch_of
from yellow_hinge.core.shapes.functions import heading
from yellow_hinge.core.shapes.placing import Ints
from yellow_hinge.core.shapes.regions import local_keys
from yellow_hinge.core.song.timeline import Moment
from yellow_hinge.core.symbols.chord import Chord
from yellow_hinge.core.tables import changes

AT_ONCE = 64  # stages that are made in one pass: who makes them may stop in between
MOST_CELLS = 140_000_000  # entries of a song's change tables; where there are more, large stages are cut


class Lattice(NamedTuple):
    """The stages of the chords that sound, `moments[i]` the index of stage i's moment in the timeline, `places[i]` what
    it was made from.
    """

    stages: list[Stage]
    chain: Chain
    moments: list[int]
    places: list[Place]

    def only(self, kept: KeptPairs) -> Lattice:
        """The lattice of the states that were kept."""
        stages = [
            taken(stage, rows, columns)._replace(place=PlaceTable(cost, stage.place.family[np.ix_(rows, columns)]))
            for stage, rows, columns, cost in zip(self.stages, kept.rows, kept.columns, kept.chain.place, strict=True)
        ]
        return self._replace(stages=stages, chain=kept.chain)

    @property
    def ways(self) -> list[Way]:
        """What leads to each chord from the one before it, to the first one from the last."""
        return [way_between(self.places[i - 1], place) for i, place in enumerate(self.places)]


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
        self.last: Cheapest | None = None
        self.overtaken: Callable[[], bool] = lambda: False
        self._entries = changes()

    def lattice(
        self, moments: tuple[Moment, ...], setup: Setup, keeps: tuple[Keep, ...], inside: bool = False
    ) -> Lattice:
        """The lattice of every sounding chord of a song or, `inside`, of a part of one. Raises NoVoicingError
        where a chord has no voicing at all, and OvertakenError where `overtaken` says so; what was made until then
        is kept.
        """
        self._of_today()
        sounding = [(i, m) for i, m in enumerate(moments) if m.chord is not None]
        setup = climbed(setup, moments)
        stages, places, names = self._stages(sounding, setup, keeps, inside)
        if _cells(stages) > MOST_CELLS:
            stages = [self.cut(stage) for stage in stages]
        hands = self.changes(_hinged(stages, places, setup.loop), setup.mine)
        left, right = [each[0] for each in hands], [each[1] for each in hands]
        tables = self._sung(stages, places, (left, right), names)
        free = tuple(stage.place.cost if stage.free is None else stage.free for stage in stages)
        return Lattice(stages, Chain(tables, left, right, setup.loop, free), [index for index, _ in sounding], places)

    def _of_today(self) -> None:
        """Forget what was made from entries of the player's own that are others now."""
        if self._entries != changes():
            self._entries, self._store, self.last = changes(), Store(), None

    def _stages(
        self, sounding: list[tuple[int, Moment]], setup: Setup, keeps: tuple[Keep, ...], inside: bool
    ) -> tuple[list[Stage], list[Place], list[Hashable]]:
        """The stage of every chord, where it stands, and what both were made from."""
        stages: list[Stage] = []
        names: list[Hashable] = []
        places = self._places([moment for _, moment in sounding], setup, keeps, inside)
        self.make_ready(places)
        for n, (index, moment) in enumerate(sounding):
            if self.overtaken():
                raise OvertakenError
            own = ruling(keeps, moment)
            stages.append(self.stage(index, moment, places[n], own))
            places[n] = places[n].unwanting if stages[-1].unmet else places[n]
            names.append((_made_from(places[n]), long_tune(moment), own))
        return stages, places, names

    def _places(self, moments: list[Moment], setup: Setup, keeps: tuple[Keep, ...], inside: bool) -> list[Place]:
        """Where every sounding chord of a song stands."""
        local, found = local_keys(moments, setup.loop), []
        last, closed = len(moments) - 1, setup.loop or inside
        for n, moment in enumerate(moments):
            nxt = moments[(n + 1) % len(moments)].chord if n < last or setup.loop else None
            end: Outermost = "" if closed else "last" if n == last else "" if n else "first"
            found.append(self.place(moment, nxt, setup, ruling(keeps, moment), end)._replace(local=local[n]))
        return found

    def make_songs_ready(self, songs: Sequence[tuple[tuple[Moment, ...], Setup, tuple[Keep, ...]]]) -> None:
        """Make what some short songs are solved from in one pass; one that has a chord without voicing is left out.
        Raises OvertakenError.
        """
        self._of_today()
        parts = [([(i, m) for i, m in enumerate(moments) if m.chord is not None], climbed(setup, moments), keeps)
                 for moments, setup, keeps in songs]  # fmt: skip
        self.make_ready(at for sounding, setup, keeps in parts
                        for at in self._places([m for _, m in sounding], setup, keeps, False))  # fmt: skip
        hinges: dict[bool, list[tuple[Stage, Stage, Way]]] = {}
        for sounding, setup, keeps in parts:
            with suppress(NoVoicingError):
                stages, places, _ = self._stages(sounding, setup, keeps, False)
                hinges.setdefault(setup.mine, []).extend(_hinged(stages, places, setup.loop))
        for mine, wanted in hinges.items():
            self.changes(wanted, mine)

    def make_ready(self, places: Iterable[Place]) -> None:
        """Make the stages that some places begin from, many at a time, where they are not kept. Raises OvertakenError,
        what was made until then is kept.
        """
        bare = (at._replace(extra=((), ())) if any(at.extra) else at for at in places)
        missing = {name: at for at in bare if self._store.kept(name := _made_from(at)) is None}
        while missing:
            if self.overtaken():
                raise OvertakenError
            some = [(name, missing.pop(name)) for name in [*itertools.islice(missing, AT_ONCE)]]
            for (name, _), stage in zip(some, first_stages([at for _, at in some]), strict=True):
                if stage is not None:
                    self._store.put(name, stage)

    def _sung(
        self,
        stages: list[Stage],
        places: list[Place],
        changes: tuple[list[Tables], list[Tables]],
        names: list[Hashable],
    ) -> list[Ints]:
        """What each stage's voicings cost; where a style sings, only those under its top line. `names` are the stages'
        own, with all that their prices depend on.
        """
        tables = [stage.place.cost for stage in stages]
        sings = [place.asked.led.sings for place in places]
        if not any(sings):
            return tables
        leads = [place.asked.leads for place in places]
        hands = [stage.of(lead) for stage, lead in zip(stages, leads, strict=True)]
        alone = [least_of(*each) for each in zip(tables, hands, leads, strict=True)]
        pairs = [self._pairs(t, stages, places, (changes[0][t], changes[1][t])) for t in range(len(stages) - 1)]
        line = top_line([tops_of(hand).notes for hand in hands], alone, pairs)
        for t, top in enumerate(line):
            if sings[t]:
                tables[t] = self._store.get(
                    ("under", names[t], stages[t].key, top), partial(under, tables[t], hands[t], leads[t], top)
                )
        return tables

    def _pairs(self, t: int, stages: list[Stage], places: list[Place], changes: tuple[Tables, Tables]) -> Costs:
        """The least that the change after a stage costs for every pair of top notes."""
        a, b, way = stages[t], stages[t + 1], way_between(places[t], places[t + 1])
        if places[t].asked.leads != way.leads:  # the line goes to the other hand, and is free there
            return np.zeros((len(tops_of(a.of(places[t].asked.leads)).notes), 1), np.int64)
        tables = changes[HANDS.index(way.leads)]
        return self._store.get(("pairs", a.key, b.key, way), lambda: pairs_of(tables, a.of(way.leads), b.of(way.leads)))

    def place(
        self, moment: Moment, following: Chord | None, setup: Setup, keeps: tuple[Keep, ...], outermost: Outermost = ""
    ) -> Place:
        """What a chord's stage is made from; `keeps` are the chord's own."""
        assert moment.chord is not None
        extra = tuple(
            next((tuple(sorted(k.left if part == "left" else k.right)) for k in keeps if k.part == part), ())
            for part in ("left", "right")
        )
        top = _wanted_top(moment, setup, keeps)
        asked = asked_at(setup, moment)
        ends = (moment.ends or outermost == "first") and not asked.families and bool(asked.led.families)
        tune = long_tune(moment)
        chord = under_tune(moment.chord, long_line(moment))
        found = Place(chord, moment.key, following, asked, top, (extra[0], extra[1]), ends, outermost=outermost)
        found = found._replace(closes=moment.ends, avoid=sung_over(chord, tune), without=left_out(chord, tune))
        if not asked.wants:
            return found
        return found._replace(otherwise=asked_at(msgspec.structs.replace(setup, wanted=()), moment))

    def cut(self, stage: Stage) -> Stage:
        """A large stage with its cheapest voicings only; others as they are."""
        if not is_large(stage):
            return stage
        return self._store.get(("cut", stage.key, hash(stage.place.cost.tobytes())), lambda: narrowed(stage))

    def stage(self, index: int, moment: Moment, at: Place, keeps: tuple[Keep, ...], ease: bool = True) -> Stage:
        """The stage of chord `index`, from what `place` gave. Where no hand can hold the chord, the nearest that can be
        played, unless that is not wanted (`ease`). Raises NoVoicingError.
        """
        tune = long_tune(moment)
        if at.otherwise is not None:
            stage = self._store.get(("stage", _made_from(at), tune, keeps), lambda: self._wanting(at, tune, keeps))
            return stage or self.stage(index, moment, at.unwanting, keeps, ease)._replace(unmet=True)
        stage = self._store.get(("stage", _made_from(at), tune, keeps), lambda: self._kept(at, tune, keeps))
        if stage is None and ease:
            stage = self._store.get(("eased", _made_from(at)), lambda: eased(at))
        if stage is None:
            raise NoVoicingError(index, moment.symbol, *relaxation(at))
        return stage

    def _wanting(self, at: Place, tune: tuple[int, ...], keeps: tuple[Keep, ...]) -> Stage | None:
        """The stage with the hands that the chord's patterns want; None where it has none, or where something kept or
        the note on top would have to give way for them.
        """
        for keep in keeps:
            if keep.part == "chord" and not meets(at.asked, keep.left, scene_of(at)):
                return None
        stage = self._kept(at, tune, keeps)
        gives_way = stage is not None and len(stage.notes) > 0
        return None if gives_way else stage

    def _kept(self, at: Place, tune: tuple[int, ...], keeps: tuple[Keep, ...]) -> Stage | None:
        whole = next((keep for keep in keeps if keep.part == "chord"), None)
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
        return self._store.get(_made_from(at), lambda: free_stage(at))

    def changes(self, wanted: Sequence[tuple[Stage, Stage, Way]], mine: bool) -> list[tuple[Tables, Tables]]:
        """The left and the right hand's price tables of some changes, those that are not kept many at a time. Raises
        OvertakenError, what was made until then is kept.
        """
        names = [[("change", old.key, new.key, hand, mine, way) for hand in HANDS] for old, new, way in wanted]
        known: dict[Hashable, Tables] = {}
        missing: dict[Hashable, Change] = {}
        for pair, (old, new, way) in zip(names, wanted, strict=True):
            for name, hand in zip(pair, HANDS, strict=True):
                kept: Tables | None = self._store.kept(name)
                if kept is None:
                    missing[name] = Change(old.of(hand), new.of(hand), hand, mine, way)
                else:
                    known[name] = kept
        self._make(missing, known)
        return [(known[left], known[right]) for left, right in names]

    def _make(self, missing: dict[Hashable, Change], known: dict[Hashable, Tables]) -> None:
        """Make the tables of changes and keep them, also among what is `known`."""
        names = iter(missing)
        for some in portions(list(missing.values())):
            if self.overtaken():
                raise OvertakenError
            for tables in tables_of(some):
                name = next(names)
                known[name] = tables
                self._store.put(name, tables)


def _hinged(stages: list[Stage], places: list[Place], loop: bool) -> list[tuple[Stage, Stage, Way]]:
    """Each stage with the next one and what leads there, the last one with the first in a loop."""
    ends = range(len(stages) if loop else len(stages) - 1)
    after = [(t, (t + 1) % len(stages)) for t in ends]
    return [(stages[a], stages[b], way_between(places[a], places[b])) for a, b in after]


def _cells(stages: list[Stage]) -> int:
    """Entries of the change tables from each stage to the next."""
    return sum(
        len(a.left) * len(b.left) + len(a.right) * len(b.right) for a, b in itertools.pairwise((*stages, *stages[:1]))
    )


def _made_from(at: Place) -> Hashable:
    """What a stage's voicings depend on: of the chord that follows, only what its colours hear."""
    heard = heading(at.chord, at.following), at.avoid, at.without, at.local
    return at.chord, at.key, heard, at.asked, at.top, at.extra, at.ends, at.outermost
