"""Undo and redo as a bounded stack of whole states with labels; no edit can lose data."""

from __future__ import annotations

from typing import Generic, TypeVar

S = TypeVar("S")
DEEPEST = 500


class History(Generic[S]):
    """States before and after the present one. Edits with the same `group` in a row are one step."""

    def __init__(self, state: S) -> None:
        self.state = state
        self._past: list[tuple[str, S]] = []
        self._future: list[tuple[str, S]] = []
        self._group = ""

    def push(self, label: str, state: S, group: str = "") -> None:
        """Make `state` the present one. `label` names the edit that led to it ("keep Am7")."""
        if not self.goes_on(group):
            self._past.append((label, self.state))
            del self._past[:-DEEPEST]
        self._group = group
        self._future.clear()
        self.state = state

    def goes_on(self, group: str) -> bool:
        """Whether an edit of a group goes on with the last one, as one step."""
        return bool(group and group == self._group and self._past)

    def base(self, group: str) -> S:
        """The state that edits of `group` in a row began at: the present one where the last edit was another."""
        return self._past[-1][1] if self.goes_on(group) else self.state

    def end_group(self) -> None:
        """The next edit is a step of its own, whatever its group."""
        self._group = ""

    def undo(self) -> str:
        """Go back one step; the label of the edit taken back, "" where there is none."""
        if not self._past:
            return ""
        label, before = self._past.pop()
        self._future.append((label, self.state))
        self.state, self._group = before, ""
        return label

    def redo(self) -> str:
        """Go forward one step; the label of the edit done again, "" where there is none."""
        if not self._future:
            return ""
        label, after = self._future.pop()
        self._past.append((label, self.state))
        self.state, self._group = after, ""
        return label

    @property
    def labels(self) -> tuple[list[str], list[str]]:
        """(labels of the edits that are done, the first one first; of those undone, the next one first)."""
        return [label for label, _ in self._past], [label for label, _ in self._future[::-1]]

    @property
    def past(self) -> list[S]:
        """The states before the present one that undo can bring back, the oldest first."""
        return [state for _, state in self._past]

    @property
    def undo_label(self) -> str:
        """Label of what undo takes back, or ""."""
        return self._past[-1][0] if self._past else ""

    @property
    def redo_label(self) -> str:
        """Label of what redo does again, or ""."""
        return self._future[-1][0] if self._future else ""
