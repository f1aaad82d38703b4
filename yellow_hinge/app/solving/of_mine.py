"""Reading the player's own data beside the window."""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple

from yellow_hinge.app.mine.folder import Mine, marks, read_mine
from yellow_hinge.app.solving.newest import Newest
from yellow_hinge.core.leading.chain.lattice import Builder


class ReadMine(NamedTuple):
    """What a folder holds; None where its files are those of before."""

    number: int
    mine: Mine | None


class MineReader(Newest[ReadMine]):
    """Reads a folder again where its files are others."""

    seen: object = None

    def ask(self, folder: Path) -> int:
        """Have a folder looked at; the question's number."""

        def work(builder: Builder, number: int) -> ReadMine:
            now = marks(folder)
            if now == self.seen:
                return ReadMine(number, None)
            self.seen = now
            return ReadMine(number, read_mine(folder))

        return self.put(work)
