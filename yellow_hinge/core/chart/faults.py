"""What is at fault in a chart, and where."""

from __future__ import annotations

from typing import NamedTuple

from yellow_hinge.core.errors import UserError


class ChartFault(NamedTuple):
    """A fault in a chart: `line` and `column` count from 1, `length` characters are at fault, `suggestion` replaces
    them (or "" where nothing near is known); `missing`: nothing is wrong, but there is nothing to play yet.
    """

    line: int
    column: int
    length: int
    message: str
    suggestion: str = ""
    missing: bool = False

    def __str__(self) -> str:
        return f"line {self.line}, column {self.column}: {self.message}"


class ChartError(UserError):
    """A chart with faults; `faults` holds them all, the message shows the first."""

    def __init__(self, faults: tuple[ChartFault, ...], name: str = "") -> None:
        self.faults = faults
        more = f" (and {len(faults) - 1} more)" if len(faults) > 1 else ""
        super().__init__(f"{name + ': ' if name else ''}{faults[0]}{more}")
