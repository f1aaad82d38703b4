# The program with its own Python in one folder: `pyinstaller packaging/bundle.spec`.
import sys
from pathlib import Path

from PyInstaller.utils.hooks import collect_data_files, collect_submodules

ROOT = Path(SPECPATH).parent
sys.path.insert(0, str(ROOT))
OURS = [
    (str(path), str(path.parent.relative_to(ROOT)))
    for path in (ROOT / "yellow_hinge").rglob("*")
    if path.is_file() and path.suffix not in (".py", ".pyc")
]
found = Analysis(
    [str(Path(SPECPATH) / "start.py")],
    pathex=[str(ROOT)],
    datas=[*OURS, *collect_data_files("verovio")],
    hiddenimports=[*collect_submodules("yellow_hinge"), "mido.backends.rtmidi", "tomli_w"],
    excludes=[
        "tkinter", "pytest", "hypothesis", "PIL", "setuptools", "pip", "PySide6.QtQml", "PySide6.QtQuick",
        "PySide6.QtNetwork", "PySide6.QtOpenGL", "PySide6.QtTest", "PySide6.QtSql",
    ],
    optimize=1,
)
# What Qt's plugins would drag in and nothing here uses.
UNUSED = (
    "Qt6Quick", "Qt6Qml", "Qt6VirtualKeyboard", "Qt6Pdf", "Qt6Network", "qtvirtualkeyboard", "platforms/libqvnc",
    "platforms/libqlinuxfb", "platforms/libqeglfs", "platforms/libqminimalegl", "egldeviceintegrations",
    "PySide6/Qt/translations", "libmount.so", "libblkid.so", "libselinux.so", "libuuid.so", "libgtk-3",
    "platformthemes/libqgtk3",
)
found.binaries = [one for one in found.binaries if not any(part in one[0] for part in UNUSED)]
found.datas = [one for one in found.datas if not any(part in one[0] for part in UNUSED)]
program = EXE(PYZ(found.pure), found.scripts, [], exclude_binaries=True, name="yellow-hinge", upx=False)
COLLECT(program, found.binaries, found.datas, name="yellow-hinge", upx=False)
