"""MIDI keyboards, found and lost while the program runs; a simulated port where there is none."""

from __future__ import annotations

import contextlib
import math
import threading
import time
from collections.abc import Callable
from functools import partial
from importlib import import_module
from typing import Any, Protocol

from yellow_hinge.sound.hush import quiet

LOOK_SECONDS = 1.5  # between looks for keyboards
SIMULATED = "Simulated keyboard"
HOW = "MIDI keyboards are not heard on this system; click the keys, or play on the computer's"

Heard = Callable[[bytes, float], None]  # a message, and when it came (seconds of a steady clock)
ALL_UP = bytes((0xB0, 123, 0))  # the message that all keys are up


class PortClock:
    """When the messages of a port came, on our steady clock, by the time that the port itself counts between them: it
    is taken before the interpreter is waited for. The two clocks are joined where a message waited least.
    """

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock, self._passed, self._ahead = clock, 0.0, math.inf

    def stamp(self, seconds: float) -> float:
        """When a message came that the port counts so many seconds after the one before."""
        self._passed += max(0.0, seconds)
        self._ahead = min(self._ahead, self._clock() - self._passed)
        return self._passed + self._ahead


class Backend(Protocol):
    """Where keyboards are found: `names` of those that are there, and `open` one to hear its messages; what is given
    closes it. Either may raise OSError.
    """

    def names(self) -> list[str]:
        """The keyboards that are there."""

    def open(self, name: str, heard: Heard) -> Callable[[], None]:
        """Hear a keyboard, from a thread of its own."""


class SimulatedBackend:
    """Keyboards that exist in memory: for tests, the demo, and those without one. `plug`, `unplug`, `send`."""

    def __init__(self, *names: str) -> None:
        self.plugged = list(names)
        self._heard: dict[str, Heard] = {}

    def names(self) -> list[str]:
        """The keyboards that are plugged in."""
        return list(self.plugged)

    def open(self, name: str, heard: Heard) -> Callable[[], None]:
        """Hear one of them."""
        if name not in self.plugged:
            raise OSError(f"{name} is gone")
        self._heard[name] = heard
        return lambda: self._heard.pop(name, None) and None

    def send(self, *data: int, name: str = SIMULATED, at: float | None = None) -> None:
        """A message of a keyboard, where it is heard; it comes now, or at a time that is told."""
        if name in self._heard:
            self._heard[name](bytes(data), time.monotonic() if at is None else at)


class SystemBackend:
    """The system's MIDI ports, through a library that not every system has. Without it, or without a sequencer, there
    are none; `why` says so then.
    """

    def __init__(self) -> None:
        self.why = ""
        self._finder: Any = None

    def _library(self) -> Any:
        try:
            return import_module("rtmidi")  # slow to load, and not on every system
        except ImportError:
            self.why = HOW
            return None

    def _look(self) -> Any:
        library = self._library()
        if library is None or self._finder is not None:
            return self._finder
        try:
            with quiet():
                self._finder = library.MidiIn(name="Yellow Hinge")
            self.why = ""
        except Exception:  # the library's own kinds of errors, and OSError
            self.why = "this system has no MIDI; click the keys, or play on the computer's"
        return self._finder

    def names(self) -> list[str]:
        """The ports that are there."""
        finder = self._look()
        return [str(name) for name in finder.get_ports()] if finder is not None else []

    def open(self, name: str, heard: Heard) -> Callable[[], None]:
        """Hear a port."""
        library = self._library()
        try:
            port = library.MidiIn(name="Yellow Hinge")
            port.open_port([str(each) for each in port.get_ports()].index(name))
            clock = PortClock()
            port.set_callback(lambda event, _=None: heard(bytes(event[0]), clock.stamp(float(event[1]))))
        except Exception as error:
            raise OSError(f"{name} cannot be opened ({error})") from error
        return lambda: port.close_port()


class Ports:
    """Hears every keyboard of some backends. `heard` gets (message, keyboard, when it came), `changed` the names that
    are heard by now; both are called from threads.
    """

    def __init__(
        self, backends: tuple[Backend, ...], heard: Callable[[bytes, str, float], None],
        changed: Callable[[tuple[str, ...]], None],
    ) -> None:  # fmt: skip
        self._backends, self._heard, self._changed = backends, heard, changed
        self._open: dict[str, Callable[[], None]] = {}
        self._stopped, self._looking = threading.Event(), threading.Lock()
        self._thread: threading.Thread | None = None

    @property
    def names(self) -> tuple[str, ...]:
        """The keyboards that are heard."""
        return tuple(self._open)

    def start(self) -> None:
        """Look for keyboards from now on."""
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, name="keyboards", daemon=True)
            self._thread.start()

    def _run(self) -> None:
        while not self._stopped.is_set() and threading.main_thread().is_alive():
            self.look()
            self._stopped.wait(LOOK_SECONDS)

    def look(self) -> None:
        """Open what is new and close what is gone."""
        with self._looking:
            self._look()

    def _look(self) -> None:
        before, there = self.names, dict[str, Backend]()
        for backend in self._backends:
            with contextlib.suppress(OSError):
                there |= {name: backend for name in backend.names() if "Yellow Hinge" not in name}
        for name in [name for name in self._open if name not in there]:
            with contextlib.suppress(OSError):
                self._open.pop(name)()
            self._heard(ALL_UP, name, time.monotonic())
        for name, backend in there.items():
            if name not in self._open:
                with contextlib.suppress(OSError):
                    self._open[name] = backend.open(name, partial(self._from, name))
        if self.names != before:
            self._changed(self.names)

    def _from(self, name: str, data: bytes, at: float) -> None:
        self._heard(data, name, at)

    def close(self) -> None:
        """Hear nothing more."""
        self._stopped.set()
        if self._thread is not None:
            self._thread.join(timeout=2 * LOOK_SECONDS)
            self._thread = None
        for name in list(self._open):
            with contextlib.suppress(OSError):
                self._open.pop(name)()
            self._heard(ALL_UP, name, time.monotonic())
