"""`make companions`: the demo songs reharmonised by the program, as a player would take them: how bold, and what not."""

from __future__ import annotations

from typing import NamedTuple

import msgspec

from yellow_hinge.assets import ASSETS
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.reharm.whole import bolder
from yellow_hinge.core.song.places import read_chord_place
from yellow_hinge.io.songs.demo import BOLDER, demo_song


class Recipe(NamedTuple):
    """How bold a song becomes, and the places where the change was refused."""

    boldness: int
    refused: tuple[str, ...] = ()


RECIPES = {
    "last-boat-to-marrow": Recipe(3),
    "kettle-on-the-stove": Recipe(3),
    "paper-lantern-waltz": Recipe(3),
    "slack-tide": Recipe(4),
    "harbour-bell": Recipe(4, ("Hymn:11",)),
    "cork-and-rope": Recipe(3),
}


def companion(name: str) -> str:
    """The chart text of a demo song's companion."""
    song, recipe = demo_song(name), RECIPES[name]
    found = bolder(Builder(), song, as_asked(Setup(), song), (), recipe.boldness)
    refused = frozenset(read_chord_place(place, song) for place in recipe.refused)
    missing = refused - {change.at for change in found.changes}
    if missing:
        raise ValueError(f"{name}: nothing changes at {sorted(missing)} that could be refused")
    made = found.with_changes(refused)
    return write_chart(msgspec.structs.replace(made, title=f"{song.title}, bolder"))


def main() -> None:
    """Write every companion."""
    for name in RECIPES:
        target = ASSETS / "demo" / f"{name}{BOLDER}.chart"
        target.write_text(companion(name), encoding="utf-8")
        print(target)


if __name__ == "__main__":
    main()
