"""Run the application: its database, its demo, its pages, on this computer and for whom its owner says."""

import asyncio
import contextlib
import ipaddress
import signal
import socket
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.analyser.profiles import with_own
from yielding_coil.api.app import create_app
from yielding_coil.api.http import Reach
from yielding_coil.core.errors import RefusedError
from yielding_coil.demo import lay_in
from yielding_coil.reach import Certificate, addresses, certificate_for, names
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import ServerError
from yielding_coil.store.server import PrivateServer
from yielding_coil.store.update import update

# So many connections at once; whoever comes then is told to come again.
MOST_AT_ONCE = 400


@dataclass(frozen=True, slots=True)
class Outside:
    """Who is served beside this computer, as `./start` was told.

    Args:
        lan: whether the local network is.
        secure: a socket that listens for HTTPS; None where there is none.
        names: further names that it is reached by.
        proxies: from where a reverse proxy asks.
    """

    lan: bool = False
    secure: socket.socket | None = None
    names: tuple[str, ...] = ()
    proxies: tuple[ipaddress.IPv4Network | ipaddress.IPv6Network, ...] = ()

    def all_names(self) -> frozenset[str]:
        """All that others may write into the address line."""
        return frozenset(self.names) | (names() if self.lan else frozenset())

    def reach(self, port: int, certificate: Certificate | None) -> Reach:
        """The same for the guard."""
        return Reach(
            lan=self.lan or bool(self.proxies),
            names=self.all_names,
            port=port,
            secure_port=None if self.secure is None else self.secure.getsockname()[1],
            proxies=self.proxies,
            authority=None if certificate is None else certificate.authority.read_bytes,
        )


class _Served(uvicorn.Server):
    """A server whose signals are ours: several end together."""

    @contextlib.contextmanager
    def capture_signals(self) -> Iterator[None]:
        """Left to whoever runs them all."""
        yield


def open_store(server: PrivateServer) -> Engine:
    """Start the database and bring its tables to the newest shape; a backup of before lies beside them.

    Raises:
        ServerError: as the server has it; or the data are of a newer version, or their backup cannot be made.
    """
    engine = connect(server.start())
    update(server, engine)
    return engine


def serve(
    app: FastAPI, plain: socket.socket, secure: socket.socket | None, certificate: Certificate | None
) -> None:
    """Answer on one or two sockets until SIGTERM or SIGINT."""
    settings: dict[str, Any] = {
        "log_level": "warning",
        "timeout_graceful_shutdown": 3,
        # What a proxy says is looked at by the guard alone.
        "proxy_headers": False,
        "server_header": False,
        "limit_concurrency": MOST_AT_ONCE,
    }
    served = [(_Served(uvicorn.Config(app, **settings)), plain)]
    if secure is not None and certificate is not None:
        tls = uvicorn.Config(
            app,
            lifespan="off",
            ssl_certfile=certificate.chain,
            ssl_keyfile=certificate.key,
            **settings,
        )
        served.append((_Served(tls), secure))
    # Streams that are open end by themselves when the server is told to.
    app.state.closing = lambda: served[0][0].should_exit
    with asyncio.Runner(loop_factory=served[0][0].config.get_loop_factory()) as runner:
        runner.run(_serve(served))


async def _serve(served: list[tuple[_Served, socket.socket]]) -> None:
    loop = asyncio.get_running_loop()

    def end() -> None:
        for server, _ in served:
            # Asked twice, it waits for nobody.
            server.force_exit, server.should_exit = server.should_exit, True

    for number in (signal.SIGTERM, signal.SIGINT):
        loop.add_signal_handler(number, end)
    try:
        await asyncio.gather(*(server.serve([listener]) for server, listener in served))
    finally:
        end()


def say_where(folder: Path, plain: socket.socket, outside: Outside) -> None:
    """Where it is reached, and by whom."""
    port = plain.getsockname()[1]
    say = [f"Yielding Coil:  http://127.0.0.1:{port}/", f"Your data:      {folder}   (Ctrl-C stops)"]
    if outside.lan:
        scheme, number = ("http", port) if outside.secure is None else ("https", outside.secure.getsockname()[1])
        where = [f"{scheme}://{name}:{number}/" for name in (*addresses(), *outside.names)]
        say += [
            f"THE LOCAL NETWORK IS SERVED as well: {' '.join(where) or 'no address yet'}",
            "                Only devices that you pair are let in: open “Devices” in the menu “View”.",
        ]
        if outside.secure is None:
            say.append("                Not encrypted: others on the network could read along. --https encrypts.")
    print("\n".join(say), flush=True)


def run(folder: Path, plain: socket.socket, outside: Outside, *, demo: bool, fresh: bool) -> None:
    """Serve the data in a folder on sockets that listen, until told to stop; stops what it started."""
    server = PrivateServer(folder)
    simulated = SimulatorChild()
    try:
        known = with_own(folder / "profiles.json")
        certificate = None
        if outside.secure is not None:
            certificate = certificate_for(folder / "tls", {"127.0.0.1", "localhost", *outside.all_names()})
        engine = open_store(server)
        if demo:
            with Session(engine) as session, session.begin():
                lay_in(session, fresh=fresh)
        say_where(folder, plain, outside)
        simulated.start()
        app = create_app(
            engine,
            revive=server.revive,
            simulated=simulated,
            is_disk_full=server.is_disk_full,
            reached=outside.reach(plain.getsockname()[1], certificate),
            profiles=known,
        )
        serve(app, plain, outside.secure, certificate)
    except (ServerError, RefusedError) as error:
        sys.exit(str(error))
    except (KeyboardInterrupt, SystemExit):
        pass
    finally:
        _let_it_end()
        simulated.stop()
        server.stop()


def _let_it_end() -> None:
    """Nothing cuts the end short: the database is let go whole."""
    stop: Callable[..., None] = lambda *_: None  # noqa: E731
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, stop)
