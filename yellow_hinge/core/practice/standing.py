"""How well a song is known: how many of its items are due, shaky, and safe."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from typing import NamedTuple

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.practice.memory import read_card

SHAKY = timedelta(days=2)  # the gap until an item is due again, below which it is not safe yet


class Standing(NamedTuple):
    """Items that are due now, that come again within two days of each other, and the others; and when it was last
    played ("" for never, else as the log has it).
    """

    due: int = 0
    shaky: int = 0
    safe: int = 0
    last: str = ""

    @property
    def words(self) -> str:
        """It in words."""
        said = [
            f"{count} {name}"
            for count, name in ((self.due, "due"), (self.shaky, "shaky"), (self.safe, "safe"))
            if count
        ]
        return ", ".join(said)


def ago(last: str, now: datetime) -> str:
    """How many of the player's days ago something was, by its time as the log has it; "" for never."""
    if not last:
        return ""
    days = (now.date() - datetime.fromisoformat(last).astimezone(now.tzinfo).date()).days
    return {0: "today", 1: "yesterday"}.get(days, f"{days} days ago")


def standing(cards: Iterable[str], now: datetime, last: str = "") -> Standing:
    """How a song stands with these cards at a time (with its zone); damaged ones are passed over."""
    found = {"due": 0, "shaky": 0, "safe": 0}
    for card in cards:
        try:
            own = read_card(card)
        except UserError:
            continue
        gap = own.due - own.last_review if own.last_review is not None else timedelta(0)
        kind = "due" if own.due <= now.astimezone(UTC) else "shaky" if gap < SHAKY else "safe"
        found[kind] += 1
    return Standing(**found, last=last)
