"""The console script `yellow-hinge`: the window, and verbs that open none."""

from __future__ import annotations

import contextlib
import gc
import io
import os
import sys
from collections.abc import Sequence

from yellow_hinge import CHILD
from yellow_hinge.cli.verbs import ALIKE, MODULES, run
from yellow_hinge.core.errors import UserError

DONE, BUG, FAULT, STOPPED = 0, 1, 2, 130
USING = "yellow_hinge.app.mine.using"
WORDS = (*MODULES, "-h", "--help", "--version")


def _window(words: list[str]) -> int:
    """Open the window: [SONG] [--demo]."""
    gc.disable()  # until the window stands: loading makes no garbage worth a search
    from yellow_hinge.ui.loading import load_qt

    load_qt()  # before anything else is loaded
    from yellow_hinge.ui.shell.start import open_window

    named = [word for word in words if word != "--demo"]
    if len(named) > 1 or any(word.startswith("-") for word in named):
        raise UserError(f"{' '.join(named)!r} is not one song; try yellow-hinge --help")
    return int(open_window(named[0] if named else None, "--demo" in words))


def _unwritten(status: int) -> int:
    """The status, with nothing left that Python would try to write when it ends."""
    with contextlib.suppress(OSError, AttributeError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return status


def _run(words: list[str]) -> None:
    if isinstance(sys.stdout, io.TextIOWrapper):
        sys.stdout.reconfigure(errors="backslashreplace")  # where the terminal has no such sign
    if MODULES.get(words[0], ALIKE) == ALIKE:
        run(words)
    else:
        _run_beside_own(words)
    if sys.stdout is not None:
        sys.stdout.flush()


def _run_beside_own(words: list[str]) -> None:
    """A verb that may look up what the player has of one's own; what is wrong there is said where the verb fails."""
    from yellow_hinge.app.keeping.settings import user_places

    wrongs: tuple[object, ...] = ()
    folder = user_places().mine
    if folder.is_dir() or USING in sys.modules:  # or what was there is no more
        from yellow_hinge.app.mine.using import use_folder

        wrongs = use_folder(folder).wrong
    try:
        run(words)
    except UserError:
        for wrong in wrongs:
            print(f"yellow-hinge: left out of your own data: {wrong}", file=sys.stderr)
        raise


def main(argv: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit status: 0 done, 2 the input is at fault (or the output),
    130 stopped by the player, 1 a bug."""
    words = list(sys.argv[1:] if argv is None else argv)
    if words[:1] == [CHILD]:
        return _child(words[1:])
    try:
        if not words or words[0] not in WORDS:
            return _window(words[1:] if words[:1] == ["window"] else words)
        _run(words)
    except UserError as error:
        print(f"yellow-hinge: {error}", file=sys.stderr)
        return FAULT
    except KeyboardInterrupt:
        return STOPPED
    except BrokenPipeError:
        return _unwritten(DONE)
    except OSError as error:
        print(f"yellow-hinge: what was found cannot be written ({error.strerror or error})", file=sys.stderr)
        return _unwritten(FAULT)
    except Exception:
        import traceback

        traceback.print_exc()
        print("yellow-hinge: this is a bug in the program; nothing of yours was changed", file=sys.stderr)
        return BUG
    return DONE


def _child(words: list[str]) -> int:
    """Be a module of the program, as it starts one in a process of its own where there is no Python beside it."""
    import runpy

    module = words[0] if words else ""
    if not module.startswith("yellow_hinge."):
        return FAULT
    sys.argv = words
    runpy.run_module(module, run_name="__main__", alter_sys=True)
    return DONE


def window() -> int:
    """Open the window, as desktops start it."""
    return main(["window", *sys.argv[1:]])
