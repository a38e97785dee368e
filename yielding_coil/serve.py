"""Run the application: its database, its demo, its pages, on this computer only."""

import argparse
import fcntl
import os
import signal
import socket
import sys
from pathlib import Path
from types import FrameType

import uvicorn
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from yielding_coil import demo
from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.api.app import create_app
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import ServerError, prepare
from yielding_coil.store.migrate import migrate
from yielding_coil.store.server import PrivateServer, default_folder

DEFAULT_PORT = 8750


def open_store(server: PrivateServer) -> Engine:
    """Start the database and bring its tables to the newest shape."""
    engine = connect(server.start())
    migrate(engine)
    return engine


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
        server = PrivateServer(folder)
        simulated = SimulatorChild()
        try:
            engine = open_store(server)
            if not asked.no_demo:
                with Session(engine) as session, session.begin():
                    demo.lay_in(session, fresh=asked.fresh_demo)
            port = listener.getsockname()[1]
            print(f"Yielding Coil:  http://127.0.0.1:{port}/", flush=True)
            print(f"Your data:      {folder}   (Ctrl-C stops)", flush=True)
            simulated.start()
            app = create_app(engine, revive=server.revive, simulated=simulated, is_disk_full=server.is_disk_full)
            served = uvicorn.Server(uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=3))
            # Streams that are open end by themselves when the server is told to.
            app.state.closing = lambda: served.should_exit
            served.run([listener])
        except ServerError as error:
            sys.exit(str(error))
        except (KeyboardInterrupt, SystemExit):
            pass
        finally:
            simulated.stop()
            server.stop()


if __name__ == "__main__":
    os.umask(0o077)
    main()
