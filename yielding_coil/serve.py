"""What `./start` is asked: options, data folder, port. What cannot be is refused before anything else is loaded."""

import argparse
import fcntl
import os
import signal
import socket
import sys
from pathlib import Path
from types import FrameType

from yielding_coil.store.folder import ServerError, default_folder, prepare

DEFAULT_PORT = 8750


def _arguments(argv: list[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="./start", description="Start Yielding Coil on this computer.")
    parser.add_argument("--port", type=_port, default=DEFAULT_PORT, help="port to serve on; 0 takes a free one")
    parser.add_argument("--data", type=Path, default=default_folder(), help="folder that holds your data")
    parser.add_argument("--no-demo", action="store_true", help="do not lay in the demo build")
    parser.add_argument("--fresh-demo", action="store_true", help="lay the demo build in anew")
    return parser.parse_args(argv)


def _port(text: str) -> int:
    number = int(text) if text.isascii() and text.isdigit() else -1
    if not 0 <= number <= 65535:
        raise argparse.ArgumentTypeError(f"{text} is no port; choose one from 1 to 65535, or 0 for a free one")
    return number


def _stop(number: int, frame: FrameType | None) -> None:
    raise SystemExit(0)


def _listen(port: int) -> socket.socket:
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind(("127.0.0.1", port))
    except PermissionError:
        sys.exit(f"Port {port} is not for you: the system keeps it. Choose one from 1024 on: ./start --port 8750")
    except OSError:
        other = port + 1 if port < 65535 else port - 1
        sys.exit(f"Port {port} is taken. Choose another one: ./start --port {other}")
    listener.listen(128)  # whoever opens the printed address waits instead of being turned away
    return listener


def main(argv: list[str] | None = None) -> None:
    """Serve until Ctrl-C or SIGTERM; both stop the database too."""
    asked = _arguments(argv)
    folder: Path = asked.data.expanduser().resolve()
    # Uvicorn raises the signal again after its own shutdown: without a handler `finally` would be skipped.
    for ends in (signal.SIGTERM, signal.SIGINT):
        signal.signal(ends, _stop)
    try:
        prepare(folder)
        held = (folder / "lock").open("a+")
    except (ServerError, OSError) as error:
        sys.exit(str(error))
    with held as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            sys.exit(f"Yielding Coil already runs on the data in {folder}. Stop it first, or choose --data.")
        listener = _listen(asked.port)
        # The application takes seconds to load: only once it may run.
        from yielding_coil.running import run

        run(folder, listener, demo=not asked.no_demo, fresh=asked.fresh_demo)


if __name__ == "__main__":
    os.umask(0o077)
    main()
