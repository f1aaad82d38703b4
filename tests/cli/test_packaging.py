"""What the package says of itself holds."""

import re
import tomllib
from pathlib import Path

ROOT = Path(__file__).parents[2]


def locked(name):
    return dict(re.findall(r"^([\w.-]+)==(\S+)", (ROOT / name).read_text("utf-8"), re.MULTILINE))


def test_every_library_of_the_run_lock_has_hashes_and_stands_in_the_notice():
    text, notice = (ROOT / "requirements.lock").read_text("utf-8"), (ROOT / "NOTICE").read_text("utf-8").lower()
    entries = text.split("\n", 1)[1].split("\n")
    own = {"numpy", "msgspec"}
    for name in locked("requirements.lock"):
        assert name in notice or f"python-{name}" in notice or name in own, name
    pinned = [n for n, line in enumerate(entries) if "==" in line]
    assert all("--hash=sha256:" in entries[n + 1] for n in pinned)


def test_the_locks_hold_what_the_project_asks_for_and_share_nothing():
    project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))["project"]
    run, dev = locked("requirements.lock"), locked("requirements-dev.lock")
    names = lambda wanted: {re.match(r"[\w-]+", each)[0].lower() for each in wanted}  # noqa: E731
    assert names(project["dependencies"]) <= set(run)
    assert names(project["optional-dependencies"]["dev"]) <= {*run, *dev}
    assert not set(run) & set(dev)
    assert not {"pytest", "mypy", "ruff"} & set(run)
