"""Tables of data beside the modules that use them, in TOML."""

from __future__ import annotations

from pathlib import Path
from typing import TypeVar

import msgspec

T = TypeVar("T")


def read_table(module: str, kind: type[T], name: str = "") -> T:
    """The table of a module (its file), as a struct: the TOML file of the module's name, or another one beside it."""
    import tomllib  # loaded with the first table, so that the window starts sooner

    path = Path(module).with_name(name) if name else Path(module).with_suffix(".toml")
    return msgspec.convert(tomllib.loads(path.read_text("utf-8")), kind)
