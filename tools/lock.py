"""`make lock`: writes the lock files, with the hashes of every file that the index has of a version: requirements.lock is
what runs the program, requirements-dev.lock what tests it and requirements-package.lock what packages it, beyond that. Versions stay where a lock has one already, but
for those of packages that are named as arguments.
"""

from __future__ import annotations

import json
import re
import subprocess
import sys
import tempfile
import tomllib
import urllib.request
from collections.abc import Iterable
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
RUN, DEV = ROOT / "requirements.lock", ROOT / "requirements-dev.lock"
PACKAGE = ROOT / "requirements-package.lock"
INDEX = "https://pypi.org/simple/{}/"
KIND = "application/vnd.pypi.simple.v1+json"


def pinned() -> dict[str, str]:
    """The versions that the locks have now."""
    texts = (path.read_text("utf-8") for path in (RUN, DEV, PACKAGE) if path.exists())
    return dict(re.findall(r"^([\w.-]+)==([\w.+!-]+)", "\n".join(texts), re.MULTILINE))


def resolved(wanted: Iterable[str], fixed: dict[str, str]) -> dict[str, Any]:
    """What pip would install for some requirements, by name."""
    with tempfile.NamedTemporaryFile("w", suffix=".txt") as constraints:
        constraints.write("".join(f"{name}=={version}\n" for name, version in fixed.items()))
        constraints.flush()
        asked = ("-m", "pip", "install", "--dry-run", "--ignore-installed", "--quiet", "--report", "-")
        done = subprocess.run(
            [sys.executable, *asked, "-c", constraints.name, *wanted], check=True, stdout=subprocess.PIPE
        )
    return {re.sub(r"[-_.]+", "-", i["metadata"]["name"]).lower(): i for i in json.loads(done.stdout)["install"]}


def hashes(name: str, found: dict[str, Any]) -> list[str]:
    """The hash of the file that would be installed, and of all others of its version."""
    version = found["metadata"]["version"]
    own = {found["download_info"]["archive_info"]["hashes"]["sha256"]}
    request = urllib.request.Request(INDEX.format(name), headers={"Accept": KIND})
    with urllib.request.urlopen(request, timeout=60) as answer:
        for file in json.load(answer)["files"]:
            there = re.fullmatch(r"[^-]+-([^-]+?)(?:-.*\.whl|\.tar\.gz|\.zip)", file["filename"].replace(name, "x", 1))
            if there and there[1] == version and "sha256" in file["hashes"]:
                own.add(file["hashes"]["sha256"])
    return sorted(own)


def write(path: Path, words: str, found: dict[str, Any]) -> None:
    """A lock file."""
    lines = [f"# {words} Written by `make lock`.\n"]
    for name in sorted(found):
        own = "".join(f" \\\n    --hash=sha256:{value}" for value in hashes(name, found[name]))
        lines.append(f"{name}=={found[name]['metadata']['version']}{own}\n")
    path.write_text("".join(lines), "utf-8")


def main(free: Iterable[str]) -> None:
    """Write all."""
    project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))
    extras = project["project"]["optional-dependencies"]
    run = [*project["project"]["dependencies"], *project["build-system"]["requires"]]
    fixed = {name: version for name, version in pinned().items() if name not in set(free)}
    needed = resolved(run, fixed)
    more = resolved([*run, *extras["dev"]], fixed)
    packs = resolved([*run, *extras["package"]], fixed)
    write(RUN, "What runs the program.", needed)
    write(DEV, "What tests it, beyond requirements.lock.", {n: i for n, i in more.items() if n not in needed})
    write(PACKAGE, "What packages it, beyond requirements.lock.", {n: i for n, i in packs.items() if n not in needed})


if __name__ == "__main__":
    main(sys.argv[1:])
