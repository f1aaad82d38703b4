"""The process that reads one song for another one: `python -m yellow_hinge.io.child KIND NAME ASKS...`."""

from __future__ import annotations

import ctypes
import os
import resource
import signal
import sys

PR_SET_PDEATHSIG = 1  # linux/prctl.h


def die_with(parent: int) -> None:
    """Be killed when the parent process ends, however it ends."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != parent:
        os._exit(1)


def bound(memory: int, seconds: float) -> None:
    """Take no more than that, and leave no core file."""
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CPU, (int(seconds) + 1, int(seconds) + 1))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def _outcome(kind: str, data: bytes, name: str, asks: str) -> bytes:
    import traceback

    import msgspec

    from yellow_hinge.core.chart.faults import ChartError
    from yellow_hinge.core.errors import UserError
    from yellow_hinge.io.apart import TEXT, Outcome
    from yellow_hinge.io.files import FileFault
    from yellow_hinge.io.formats import BY_ID, kind_of, read_kind
    from yellow_hinge.io.songs.migrations import encode_hook

    try:
        known = kind_of(data, name) if kind == TEXT else BY_ID[kind]
        outcome = Outcome(read_kind(known, data, name, msgspec.json.decode(asks, type=dict[str, str])))
    except ChartError as error:
        outcome = Outcome(places=error.faults[:200])
    except FileFault as error:
        outcome = Outcome(fault=error.why)
    except UserError as error:
        outcome = Outcome(fault=str(error))
    except MemoryError:
        return b""
    except Exception:
        outcome = Outcome(bug=traceback.format_exc())
    return msgspec.json.encode(outcome, enc_hook=encode_hook)


def main() -> None:
    """Read standard input, tell standard output."""
    kind, name, asks, parent, memory, seconds = sys.argv[1:]
    die_with(int(parent))
    bound(int(memory), float(seconds))
    sys.setswitchinterval(1.0)  # one thread only
    sys.stdout.buffer.write(_outcome(kind, sys.stdin.buffer.read(), name, asks))


if __name__ == "__main__":
    main()
