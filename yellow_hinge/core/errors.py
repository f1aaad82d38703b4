"""The one family of errors that a player can cause; everything else is a bug."""

from __future__ import annotations


class UserError(Exception):
    """A fault of the input. The message says what, where and what to do."""


class OvertakenError(Exception):
    """A question whose answer nobody waits for any more; the work on it stopped half way."""


class ChordSymbolError(UserError):
    """A chord symbol that cannot be read.

    `column` counts from 1 inside the symbol, `read` is the part understood so far and `suggestion` the nearest
    valid symbol or "".
    """

    def __init__(self, text: str, column: int, read: str, suggestion: str, why: str = "") -> None:
        self.text, self.column, self.read, self.suggestion = text, column, read, suggestion
        shown, rest = (each if len(each) <= 40 else each[:37] + "..." for each in (text, text[column - 1 :]))
        known = f"{read!r} is understood, {rest!r} is not" if read and rest != text else "it is not understood"
        end = f"; did you mean {suggestion!r}?" if suggestion else ""
        self.placed = (why or f"the chord {shown!r}: {known}") + end  # where a chart says the column itself
        said = f"{why} (column {column})" if why else f"the chord {shown!r}, column {column}: {known}"
        super().__init__(said + end)


class KeyNameError(UserError):
    """A key that cannot be read, such as "H major"."""


class NoteNameError(UserError):
    """A note or pitch that cannot be read."""


class NoVoicingError(UserError):
    """A chord that no shape can play. `rule` names what left nothing, `relax` the smallest way out."""

    def __init__(self, slot: int, symbol: str, rule: str, relax: str) -> None:
        self.slot, self.symbol, self.rule, self.relax = slot, symbol, rule, relax
        super().__init__(f"no shape can play {symbol} (chord {slot + 1}): {rule}; {relax}")
