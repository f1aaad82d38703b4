"""What is pressed sounds at once, lights the keys, and can be heard by whatever listens, in every view."""

from __future__ import annotations

import threading
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from yellow_hinge.app.practice.notes_in import NoteEvent, NotesIn
from yellow_hinge.sound.device import DeviceOutput, Output
from yellow_hinge.sound.instruments import Instruments
from yellow_hinge.sound.live import LIVE_BUFFER_MS, PART, LiveSource

if TYPE_CHECKING:
    from yellow_hinge.app.practice.ports import Backend, Ports

READ = (33, 97)  # keys whose notes are read before they are pressed
IDLE_MS = 90_000  # without a key, until the device is given back


class LiveKeys(QObject):
    """The keys that are down, from all sources. `changed` tells that others are down, `plugged` which keyboards are
    heard, `message` what they say: its bytes, from which one, and when.
    """

    changed = Signal()
    plugged = Signal(tuple)
    message = Signal(bytes, str, float)

    def __init__(self, parent: QObject, instruments: Instruments) -> None:
        super().__init__(parent)
        self.notes = NotesIn()
        self.source = LiveSource(instruments)
        self.output: Output = DeviceOutput(buffer_ms=LIVE_BUFFER_MS)
        self.ports: Ports | None = None
        self._backends: tuple[Backend, ...] = ()
        self._more: tuple[Backend, ...] = ()
        self.shift = 0  # semitones that a key sounds higher
        self._sounding = self._closed = False
        self._reader: threading.Thread | None = None  # reads the notes before they are asked for
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(IDLE_MS)
        self._idle.timeout.connect(self._rest)
        self.message.connect(lambda data, name, at: self.notes.message(bytes(data), name, at))
        self.notes.listeners.append(self._heard)

    def listen(self, *backends: Backend) -> None:
        """Hear the keyboards of some backends from now on."""
        if self._closed:
            return
        self.stop_ports()
        from yellow_hinge.app.practice.ports import Ports  # not needed at start

        self._backends = backends
        self.ports = Ports((*backends, *self._more), self.message.emit, lambda names: self.plugged.emit(tuple(names)))
        self.ports.start()

    def also(self, backend: Backend) -> None:
        """Hear the keyboards of another backend too."""
        self._more = (*self._more, backend)
        self.listen(*self._backends)

    @property
    def why(self) -> str:
        """Why no keyboard is heard."""
        told = [why for backend in self._backends if (why := getattr(backend, "why", ""))]
        return f"No MIDI keyboard: {told[0]}." if told else "No MIDI keyboard is plugged in."

    def wake(self) -> None:
        """Open the device and read the notes in the background, so that the first key sounds as soon as the others."""
        if not self._sounding:
            self._sounding = True
            self.output.start(self.source)
        self._idle.start()
        if self._reader is None:
            self._reader = threading.Thread(target=self._read_notes, name="reading keys", daemon=True)
            self._reader.start()

    def _read_notes(self) -> None:
        for midi in sorted(range(*READ), key=lambda midi: abs(midi - 60)):
            for velocity in (40, 90):
                if self._closed:
                    return
                self.source.instruments.note(PART, midi, velocity)

    def _heard(self, event: NoteEvent) -> None:
        if not self._sounding:
            self._sounding = True
            self.output.start(self.source)
        if event.kind == "press":
            self.source.press(min(127, max(0, event.midi + self.shift)), event.velocity)
        elif event.kind == "lift":
            self.source.lift(event.midi + self.shift)
        else:
            self.source.pedal(bool(event.midi), frozenset(midi + self.shift for midi in self.notes.down))
        self._idle.start()
        self.changed.emit()

    @property
    def wait_ms(self) -> float | None:
        """Milliseconds that the program took from the last keys to their sound, the device's own buffer with it; None
        before a key was heard.
        """
        waits = sorted(self.source.waits)
        return waits[len(waits) // 2] * 1000 + LIVE_BUFFER_MS if waits else None

    def _rest(self) -> None:
        if not self.notes.down:
            self.output.stop()
            self.source.stop()
            self._sounding = False

    def turn(self, midi: int, source: str) -> None:
        """A key was clicked: it goes down, or up where it is held."""
        if midi in self.notes.down:
            self.notes.lift(midi, source)
        else:
            self.notes.press(midi, source=source)

    def stop_ports(self) -> None:
        """Hear no keyboard any more."""
        if self.ports is not None:
            self.ports.close()
            self.ports = None

    def close(self) -> None:
        """Fall silent, hear nothing."""
        self._closed = True
        self._idle.stop()
        self.stop_ports()
        self.output.stop()
        if self._reader is not None:  # one that still decodes when the program ends would take it down
            self._reader.join()
