"""What a report of a fault needs to say of the program and the machine, in one text without anything private."""

from __future__ import annotations

import os
import platform

import numpy
import PySide6
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QWidget

from yellow_hinge import __version__
from yellow_hinge.app.keeping.settings import Settings
from yellow_hinge.ui.paint.theme import text_scale
from yellow_hinge.ui.sound.live import LiveKeys


def report(window: QWidget, settings: Settings, live: LiveKeys, sound: bool) -> str:
    """The text: versions, desktop, screen, sound, keyboards, and the choices that change how hands are found; no names,
    no paths, nothing of songs.
    """
    screen = window.screen()
    size, hands = screen.size(), settings.hands
    session = os.environ.get("XDG_SESSION_TYPE", ""), os.environ.get("XDG_CURRENT_DESKTOP", "")
    heard = live.ports.names if live.ports is not None else ()
    rows = {
        "Yellow Hinge": __version__,
        "System": f"{_system()}, {platform.machine()}, {os.cpu_count()} processors",
        "Python": f"{platform.python_version()}, NumPy {numpy.__version__}, PySide6 {PySide6.__version__}",
        "Desktop": " ".join(filter(None, (QGuiApplication.platformName(), *session))),
        "Screen": f"{size.width()} x {size.height()}, {screen.devicePixelRatio():g} times, text {text_scale():g} times",
        "Window": f"{window.width()} x {window.height()}, {settings.view}, {settings.theme}",
        "Sound": "a device" if sound else "no device",
        "Keyboards": f"{len(heard)} heard" if heard else live.why,
        "Hands": f"left {hands.left_reach}, right {hands.right_reach}" if hands is not None else "not said",
    }
    return "".join(f"{name}: {words}\n" for name, words in rows.items())


def _system() -> str:
    try:
        return platform.freedesktop_os_release()["PRETTY_NAME"]
    except (OSError, KeyError):
        return platform.system()
