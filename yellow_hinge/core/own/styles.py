"""A style of the player's own: another one's prices, with some of them otherwise."""

from __future__ import annotations

from typing import Any

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.prices.weights import STYLES, Style, Weights, style_id
from yellow_hinge.core.own.checks import known, named, within
from yellow_hinge.core.shapes.catalogue import shape_ids

# Prices in units: what lies beyond would drown all others, or reward motion without end.
CHEAPEST, DEAREST, LONGEST = -5.0, 40.0, 24
_PRICES = {field.name: field for field in msgspec.structs.fields(Weights)}


class OwnStyle(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What a file says: `like` names the style it begins from, `prices` are fields of Weights, in units of a semitone
    of one finger; `families` are added to the usual ones; `sings`: the top line is chosen as a tune first.
    """

    name: str
    words: str = ""
    like: str = "Still top"
    prices: dict[str, float | str | list[float]] = {}
    families: tuple[str, ...] = ()
    sings: bool | None = None

    def __post_init__(self) -> None:
        named(style_id(self.name), self.name, self.words)
        if self.name in STYLES and self.name not in STYLES.own:
            raise UserError(f"name: {self.name} ships already; choose another")
        known("like", self.like, [name for name in STYLES if name not in STYLES.own])
        for family in self.families:
            known("families", family, shape_ids())
        self.style()

    def style(self) -> Style:
        """The style. Raises UserError for a price that is none."""
        base = STYLES[self.like]
        changed = {name: _price(name, value) for name, value in self.prices.items()}
        weights = msgspec.structs.replace(base.weights, **changed)
        families = tuple(dict.fromkeys((*base.families, *self.families)))
        return Style(self.words or base.words, weights, families, base.sings if self.sings is None else self.sings)


def _price(name: str, value: Any) -> Any:
    field = f"prices.{name}"
    known(field, name, _PRICES)
    kind = _PRICES[name].type
    try:
        found = msgspec.convert(value, kind, strict=True)
    except msgspec.ValidationError as error:
        raise UserError(f"{field}: {error}") from None
    if kind == "str" or isinstance(found, str):
        return found
    rows = found if isinstance(found, tuple) else (found,)
    if not 0 < len(rows) <= LONGEST and name not in ("inner", "top_anew"):
        raise UserError(f"{field}: 1 to {LONGEST} numbers")
    for number in rows[:LONGEST]:
        within(field, number, 0 if isinstance(number, int) else CHEAPEST, DEAREST)
    return found
