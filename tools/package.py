"""`make package`: the wheel, the source archive, the program in one folder with its own Python, and a Debian package of
that, all in dist/. Says how large each is, and what the validators that are installed say of it.
"""

from __future__ import annotations

import gzip
import os
import re
import shutil
import subprocess
import sys
from datetime import UTC, datetime
from email.utils import format_datetime
from importlib import metadata
from pathlib import Path
from textwrap import indent

from tools.offscreen import PLATFORM

os.environ["QT_QPA_PLATFORM"] = PLATFORM  # before Qt is there

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

from yellow_hinge import __version__

ROOT = Path(__file__).parents[1]
OUT, BUILD, OURS = ROOT / "dist", ROOT / "build", ROOT / "packaging"
DESKTOP = ROOT / "yellow_hinge" / "assets" / "desktop"
ID, MIME = "org.yellow_hinge.YellowHinge", "application-vnd.yellow-hinge.song+json"
SIZES = (16, 24, 32, 48, 64, 128, 256, 512)  # of icons
# What the bundle needs of the system; it brings the rest.
DEPENDS = (
    "libc6 (>= 2.35)", "libegl1", "libgl1", "libxkbcommon0", "libxkbcommon-x11-0", "libdbus-1-3", "libfontconfig1",
    "libxcb-cursor0", "libxcb-icccm4", "libxcb-image0", "libxcb-keysyms1", "libxcb-render-util0", "libxcb-shape0",
    "libxcb-xkb1", "libasound2 | libasound2t64", "libglib2.0-0 | libglib2.0-0t64", "zlib1g",
)  # fmt: skip
CONTROL = """Package: yellow-hinge
Version: {version}
Architecture: {machine}
Maintainer: The Yellow Hinge maintainers <maintainers@yellow-hinge.example>
Installed-Size: {size}
Depends: {depends}
Section: sound
Priority: optional
Homepage: https://yellow-hinge.example/
Description: two-hand voicings for keyboard players who reharmonise songs
 It chooses, for each hand, inversions, extended, rootless, spread, slash and
 substitute chord voicings so that every chord moves to the next with the
 least motion of the fingers; it shows what holds and what moves, plays,
 drills and prints it, and shows tonight's set on stage.
"""
CHANGES = """yellow-hinge ({version}) stable; urgency=medium

  * What is new for players is in NEWS.gz.

 -- The Yellow Hinge maintainers <maintainers@yellow-hinge.example>  {at}
"""
LARGEST_DEB, LARGEST = 90, 300  # megabytes wanted at most: the package, and what it installs


def run(*words: str | Path) -> str:
    """Run a command; what it wrote. Ends the program where it fails."""
    env = os.environ | {"PYTHONPATH": str(ROOT)}
    done = subprocess.run([str(word) for word in words], cwd=ROOT, env=env, capture_output=True, text=True, check=False)
    if done.returncode:
        sys.exit(f"{' '.join(map(str, words))}\n{done.stdout}{done.stderr}")
    return done.stdout


def archives() -> None:
    """The wheel and the source archive."""
    run(sys.executable, "-m", "build", "--no-isolation", "--outdir", OUT)


def bundle() -> Path:
    """The program with its own Python in one folder; the folder."""
    place = BUILD / "bundle"
    run(
        sys.executable, "-m", "PyInstaller", "--noconfirm", "--log-level", "WARN", "--distpath", place, "--workpath",
        BUILD / "work", OURS / "bundle.spec",
    )  # fmt: skip
    return place / "yellow-hinge"


def icons(root: Path) -> None:
    """The program's and a song's icon in every size."""
    app = QGuiApplication.instance() or QGuiApplication([])
    for kind, source, name in (
        ("apps", DESKTOP / "yellow-hinge.svg", "yellow-hinge"), ("mimetypes", OURS / "song.svg", MIME)
    ):  # fmt: skip
        drawn = QSvgRenderer(str(source))
        for size in SIZES:
            image = QImage(size, size, QImage.Format.Format_ARGB32)
            image.fill(Qt.GlobalColor.transparent)
            painter = QPainter(image)
            drawn.render(painter, QRectF(0, 0, size, size))
            painter.end()
            target = root / "usr/share/icons/hicolor" / f"{size}x{size}" / kind / f"{name}.png"
            target.parent.mkdir(parents=True, exist_ok=True)
            image.save(str(target))
        put(root / "usr/share/icons/hicolor/scalable" / kind / f"{name}.svg", source.read_bytes())
    del app


def put(path: Path, data: bytes | str) -> Path:
    """Write a file of the tree."""
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_bytes(data.encode() if isinstance(data, str) else data)
    return path


def man_page() -> str:
    """The man page, made from the command line's own parser."""
    text = run(
        Path(sys.executable).parent / "argparse-manpage", "--module", "yellow_hinge.cli.verbs", "--function",
        "command_line", "--project-name", "yellow-hinge", "--prog", "yellow-hinge", "--version", __version__,
        "--manual-title", "Yellow Hinge", "--author", "The Yellow Hinge maintainers",
    )  # fmt: skip
    named = ".SH NAME\nyellow\\-hinge"
    return text.replace(named, f"{named} \\- two\\-hand voicings that move as little as possible", 1)


def completion(shell: str) -> str:
    """What a shell needs to complete the verbs and their options."""
    return run(
        sys.executable, "-m", "shtab", f"--shell={shell}", "--prog=yellow-hinge", "yellow_hinge.cli.verbs.command_line"
    )


def licences(root: Path) -> str:
    """Debian's copyright file; the texts that the packages inside carry are put beside the program."""
    for name in re.findall(r"^([\w.-]+)==", (ROOT / "requirements.lock").read_text(), re.MULTILINE):
        for file in metadata.files(name) or ():
            if re.search(r"(?i)(licen[cs]e|copying|notice)[^/]*$", str(file)) and file.suffix not in (".py", ".pyc"):
                put(root / "opt/yellow-hinge/licences" / name / file.name, Path(str(file.locate())).read_bytes())
    mit = (ROOT / "LICENSE").read_text().partition("\n\n")[2]
    beside = "What the packages inside carry of their own is in /opt/yellow-hinge/licences."
    others = _indented((ROOT / "NOTICE").read_text() + beside)
    return "\n".join([(OURS / "copyright.head").read_text().rstrip(), _indented(mit), "", "Comment:", others]) + "\n"


def _indented(text: str) -> str:
    """Lines as a field of Debian's goes on."""
    return indent("\n".join(line.rstrip() or "." for line in text.strip().splitlines()), " ")


def tree(root: Path, program: Path) -> None:
    """Everything as it is installed."""
    shutil.copytree(program, root / "opt/yellow-hinge", symlinks=True)
    (root / "usr/bin").mkdir(parents=True)
    (root / "usr/bin/yellow-hinge").symlink_to("/opt/yellow-hinge/yellow-hinge")
    share = root / "usr/share"
    put(share / "applications/yellow-hinge.desktop", (DESKTOP / "yellow-hinge.desktop").read_bytes())
    today = datetime.now(UTC).date().isoformat()
    words = (OURS / "metainfo.xml").read_text().replace("@VERSION@", __version__).replace("@DATE@", today)
    put(share / f"metainfo/{ID}.metainfo.xml", words)
    put(share / "mime/packages/yellow-hinge.xml", (OURS / "mime.xml").read_bytes())
    put(share / "man/man1/yellow-hinge.1.gz", gzip.compress(man_page().encode(), 9, mtime=0))
    put(share / "bash-completion/completions/yellow-hinge", completion("bash"))
    put(share / "zsh/vendor-completions/_yellow-hinge", completion("zsh"))
    put(share / "doc/yellow-hinge/copyright", licences(root))
    news = (ROOT / "CHANGELOG.md").read_bytes()
    put(share / "doc/yellow-hinge/NEWS.gz", gzip.compress(news, 9, mtime=0))
    changes = CHANGES.format(version=__version__, at=format_datetime(datetime.now(UTC)))
    put(share / "doc/yellow-hinge/changelog.gz", gzip.compress(changes.encode(), 9, mtime=0))
    icons(root)


def package(program: Path) -> Path:
    """The Debian package."""
    root = BUILD / "deb"
    shutil.rmtree(root, ignore_errors=True)
    tree(root, program)
    for path in root.rglob("*"):
        if not path.is_symlink():
            runs = path.is_dir() or (path.name == "yellow-hinge" and path.parent.name == "yellow-hinge")
            path.chmod(0o755 if runs else 0o644)
    machine = run("dpkg", "--print-architecture").strip()
    size = sum(path.stat().st_size for path in root.rglob("*") if path.is_file() and not path.is_symlink()) // 1024
    put(
        root / "DEBIAN/control",
        CONTROL.format(version=__version__, machine=machine, size=size, depends=", ".join(DEPENDS)),
    )
    target = OUT / f"yellow-hinge_{__version__}_{machine}.deb"
    run("dpkg-deb", "--root-owner-group", "-Zxz", "--build", root, target)
    print(f"installed: {size / 1024:.0f} MB, wanted at most {LARGEST}")
    return target


def validated(deb: Path) -> bool:
    """Whether the validators that are installed find nothing wrong."""
    share = BUILD / "deb/usr/share"
    good = True
    for words in (
        ("appstreamcli", "validate", "--no-net", share / f"metainfo/{ID}.metainfo.xml"),
        ("desktop-file-validate", share / "applications/yellow-hinge.desktop"),
        ("lintian", "--fail-on", "error", "--suppress-tags-from-file", OURS / "lintian-suppressed", deb),
    ):
        if shutil.which(words[0]) is None:
            print(f"{words[0]} is not installed: not asked")
            continue
        done = subprocess.run([str(word) for word in words], capture_output=True, text=True, check=False)
        print(f"{words[0]}: {'right' if not done.returncode else 'WRONG'}\n{done.stdout}{done.stderr}".rstrip())
        good = good and not done.returncode
    return good


def main() -> int:
    """Make all of them."""
    shutil.rmtree(OUT, ignore_errors=True)
    OUT.mkdir()
    archives()
    deb = package(bundle())
    for path in sorted(OUT.iterdir()):
        print(f"{path.name}: {path.stat().st_size / 1e6:.1f} MB")
    small = deb.stat().st_size < LARGEST_DEB * 1e6
    return 0 if validated(deb) and small else 1


if __name__ == "__main__":
    sys.exit(main())
