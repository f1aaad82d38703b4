#!/bin/sh
# Runs a command with a screen: the one there is, or a virtual one, and says so.
if [ -n "${DISPLAY:-}" ] || [ -n "${WAYLAND_DISPLAY:-}" ] || [ -n "${QT_QPA_PLATFORM:-}" ]; then
    exec "$@"
fi
echo "No screen was found, so the window opens on a virtual one (Xvfb) and cannot be seen; stop it with Ctrl+C."
exec xvfb-run -a -s "-screen 0 1280x800x24" "$@"
