"""`make package-test`: the Debian package in a clean root, made by debootstrap: installed, started under Xvfb, used, upgraded
over an older version, and removed without a trace. Needs root rights.
"""

from __future__ import annotations

import shutil
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).parents[1]
MIRROR, SUITE = "http://deb.debian.org/debian", "bookworm"
TOOLS = "xvfb,xauth,desktop-file-utils,shared-mime-info,xdg-utils,libglib2.0-bin,libpulse0,ca-certificates"
NOTHING_ELSE = {"PATH": "/usr/sbin:/usr/bin:/sbin:/bin", "HOME": "/home/player", "LC_ALL": "C.UTF-8"}
SCREEN = "xvfb-run -a -s '-screen 0 1280x800x24'"
CHART = "title: Quay\nkey: C\n[A]\n| C | Am7 | Dm7 G7 | C |\n"


class Clean:
    """A clean root, and what is done in it."""

    def __init__(self, place: Path) -> None:
        self.place = place
        if not (place / "usr/bin/dpkg").exists():
            made = ["debootstrap", "--variant=minbase", f"--include={TOOLS}", SUITE, str(place), MIRROR]
            subprocess.run(made, check=True, stdout=subprocess.DEVNULL)
        (place / "home/player").mkdir(parents=True, exist_ok=True)

    def run(self, words: str, good: bool = True) -> str:
        """A shell line in the root; what it said. Ends the program where it fails and should not."""
        done = subprocess.run(
            ["chroot", str(self.place), "sh", "-c", words],
            env=NOTHING_ELSE,
            capture_output=True,
            text=True,
            check=False,
        )
        if good and done.returncode:
            sys.exit(f"{words}\n{done.stdout}{done.stderr}")
        return done.stdout + done.stderr

    def install(self, deb: Path) -> None:
        """Install a package with what it needs."""
        shutil.copy(deb, self.place / "tmp/package.deb")
        self.run("apt-get update -qq; DEBIAN_FRONTEND=noninteractive apt-get install -y -qq /tmp/package.deb")


def older(deb: Path, place: Path) -> Path:
    """The same package under an older version's number."""
    tree, target = place / "older", place / "older.deb"
    subprocess.run(["dpkg-deb", "-R", str(deb), str(tree)], check=True)
    control = tree / "DEBIAN/control"
    lines = control.read_text().splitlines()
    control.write_text("\n".join("Version: 0.0.1" if line.startswith("Version:") else line for line in lines) + "\n")
    subprocess.run(
        ["dpkg-deb", "--root-owner-group", "-Znone", "-b", str(tree), str(target)], check=True, capture_output=True
    )
    return target


def said(what: str, look: Callable[[], bool]) -> None:
    """Say whether something holds; end the program where it does not."""
    if not look():
        sys.exit(f"WRONG: {what}")
    print(f"right: {what}", flush=True)


def files(root: Path) -> set[str]:
    """What there is of the program outside the player's own folder."""
    found = [*root.glob("opt/*"), *root.rglob("*yellow*hinge*")]
    return {str(path.relative_to(root)) for path in found if not str(path).startswith(str(root / "home"))}


def test(clean: Clean, deb: Path, old: Path) -> None:
    """All of it."""
    home = clean.place / "home/player"
    clean.install(old)
    (home / "quay.chart").write_text(CHART)
    clean.run("cd /home/player && yellow-hinge convert quay.chart --to . --format hinge")
    clean.run(f"cd /home/player && timeout 45 {SCREEN} yellow-hinge quay.hinge", good=False)
    before = (home / "quay.hinge").read_bytes()
    settings = sorted(path for path in (home / ".config").rglob("*.json"))
    said("an older version is installed and starts", lambda: bool(settings))
    kept = {path: path.read_bytes() for path in settings}
    clean.install(deb)
    said("it is upgraded", lambda: "0.0.1" not in clean.run("dpkg -s yellow-hinge | grep Version"))
    said("songs stay", lambda: (home / "quay.hinge").read_bytes() == before)
    said("settings stay", lambda: all(path.read_bytes() == data for path, data in kept.items()))
    for name in ("score.musicxml", "tune.mid"):
        clean.run(f"cd /home/player && yellow-hinge export quay.hinge --to {name}")
        read = clean.run(f"cd /home/player && yellow-hinge check {name}")
        said(f"{name} is written and read again", lambda read=read: "Quay: C major, 1 sections, 4 bars" in read)
    clean.run("cd /home/player && yellow-hinge export quay.hinge --to quay.wav")
    said("sound is rendered", lambda: (home / "quay.wav").stat().st_size > 100_000)
    for kind in ("cheat", "staves"):
        clean.run(f"cd /home/player && yellow-hinge export quay.hinge --sheet {kind} --to {kind}.pdf")
        said(f"{kind} is printed", lambda kind=kind: (home / f"{kind}.pdf").read_bytes().startswith(b"%PDF"))
    kind = clean.run("gio info -a standard::content-type /home/player/quay.hinge").split()[-1]
    said("a song is of its own kind", lambda: kind == "application/vnd.yellow-hinge.song+json")
    said("it is opened by the program", lambda: "yellow-hinge.desktop" in clean.run(f"xdg-mime query default {kind}"))
    clean.run("desktop-file-validate /usr/share/applications/yellow-hinge.desktop")
    out = clean.run(f"cd /home/player && timeout 45 {SCREEN} yellow-hinge quay.hinge; echo $?", good=False)
    said(
        "the window stays until it is closed, without a word of trouble",
        lambda: "124" in out and "Traceback" not in out,
    )
    clean.run("DEBIAN_FRONTEND=noninteractive apt-get purge -y -qq yellow-hinge")
    left = files(clean.place)
    said(f"nothing is left of it but the player's own: {sorted(left)}", lambda: not left)
    said("the player's songs stay", lambda: (home / "quay.hinge").read_bytes() == before)


def wheel(place: Path) -> None:
    """The wheel in an environment of its own, with nothing of this one."""
    subprocess.run([sys.executable, "-m", "venv", str(place)], check=True)
    file = next((ROOT / "dist").glob("*.whl"))
    clean = {"PATH": "/usr/bin:/bin", "HOME": str(place)}
    subprocess.run([str(place / "bin/pip"), "install", "-q", str(file)], check=True, env=clean)
    done = subprocess.run(
        [str(place / "bin/yellow-hinge"), "voice", "demo:slack-tide"],
        env=clean,
        cwd=place,
        capture_output=True,
        text=True,
    )
    said("the wheel installs and works by itself", lambda: "In all" in done.stdout)


def main() -> int:
    """Make the root, and test."""
    deb = next(iter(sorted((ROOT / "dist").glob("*.deb"))), None)
    if deb is None:
        sys.exit("there is no package in dist/: make package first")
    if shutil.which("debootstrap") is None:
        sys.exit("debootstrap is not installed, which makes the clean root")
    with tempfile.TemporaryDirectory(prefix="clean-root-") as place:
        wheel(Path(place) / "wheel")
        test(Clean(Path(place) / "root"), deb, older(deb, Path(place)))
    print("the package is right")
    return 0


if __name__ == "__main__":
    sys.exit(main())
