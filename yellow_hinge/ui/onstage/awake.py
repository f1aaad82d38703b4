"""The screen stays on while one is on stage, where the desktop has a word for that."""

from __future__ import annotations

from PySide6.QtDBus import QDBusConnection, QDBusMessage, QDBusPendingCallWatcher

SERVICE, PATH = "org.freedesktop.ScreenSaver", "/org/freedesktop/ScreenSaver"
WHO, WHY = "Yellow Hinge", "on stage"


class Awake:
    """Asks the desktop, over the session's bus, not to let the screen sleep; nothing where no desktop answers."""

    def __init__(self) -> None:
        self._cookie: int | None = None
        self._freed = False
        self._bus = QDBusConnection.sessionBus()
        self._watcher: QDBusPendingCallWatcher | None = None

    def hold(self) -> None:
        """Stay awake from now on."""
        if self._bus.isConnected():
            call = QDBusMessage.createMethodCall(SERVICE, PATH, SERVICE, "Inhibit")
            call.setArguments([WHO, WHY])
            self._watcher = QDBusPendingCallWatcher(self._bus.asyncCall(call))
            self._watcher.finished.connect(self._held)

    def _held(self, watcher: QDBusPendingCallWatcher) -> None:
        found = watcher.reply().arguments() if not watcher.isError() else []
        self._cookie = found[0] if found else None
        if self._freed:
            self.free()

    def free(self) -> None:
        """The screen may sleep again, also where the answer is still on its way."""
        self._freed = True
        if self._cookie is not None:
            call = QDBusMessage.createMethodCall(SERVICE, PATH, SERVICE, "UnInhibit")
            call.setArguments([self._cookie])
            self._bus.asyncCall(call)
            self._cookie = None
