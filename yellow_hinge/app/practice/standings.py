"""How every song stands, read from the practice log beside the window."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime
from typing import NamedTuple

from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.practice.standing import Standing


class Standings(NamedTuple):
    """How songs stand, by what the log knows them by; nothing where it cannot be read now."""

    number: int
    of: Mapping[str, Standing]


def read_standings(open_log: Callable[[], PracticeLog], number: int) -> Standings:
    """The answer to question `number`."""
    try:
        log = open_log()
    except UserError:
        return Standings(number, {})
    try:
        return Standings(number, log.standings(datetime.now().astimezone()))
    except UserError:
        return Standings(number, {})
    finally:
        log.close()
