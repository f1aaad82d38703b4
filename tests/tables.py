"""Tables of examples, one to a line with tabs between its fields, beside the tests that read them."""

from pathlib import Path


def rows(where, name):
    """The fields of every line of a table that lies beside a module's file; lines that begin with # are words."""
    lines = Path(where).with_name(name).read_text(encoding="utf-8").splitlines()
    return [tuple(line.split("\t")) for line in lines if line and not line.startswith("#")]
