"""Run the application: its database, its demo, its pages, on this computer only."""

import socket
import sys
from pathlib import Path

import uvicorn
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.api.app import create_app
from yielding_coil.demo import lay_in
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import ServerError
from yielding_coil.store.migrate import migrate
from yielding_coil.store.server import PrivateServer


def open_store(server: PrivateServer) -> Engine:
    """Start the database and bring its tables to the newest shape."""
    engine = connect(server.start())
    migrate(engine)
    return engine


def run(folder: Path, listener: socket.socket, *, demo: bool, fresh: bool) -> None:
    """Serve the data in a folder on a socket that listens, until told to stop; stops what it started."""
    server = PrivateServer(folder)
    simulated = SimulatorChild()
    try:
        engine = open_store(server)
        if demo:
            with Session(engine) as session, session.begin():
                lay_in(session, fresh=fresh)
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
