"""Run the application: its database, its demo, its pages, on this computer and for whom its owner says.

What answers is loaded only where this process does: of several the first looks after the others and stays small.
"""

import ipaddress
import signal
import socket
import sys
import threading
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from sqlalchemy import URL, Engine
from sqlalchemy.orm import Session

from yielding_coil.analyser.profiles import with_own
from yielding_coil.core.errors import RefusedError
from yielding_coil.reach import Certificate, addresses, certificate_for, names
from yielding_coil.several import look_after
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import ServerError
from yielding_coil.store.migrate import migrate, newest_shape, require_known, shape_of
from yielding_coil.store.queue import prepare_queue
from yielding_coil.store.server import PrivateServer
from yielding_coil.store.update import update

if TYPE_CHECKING:
    from yielding_coil.api.http import Reach

# Connections that the private database takes from several processes.
CONNECTIONS = 300
# So often it is looked whether the private database still runs.
LOOK_S = 0.25


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

    def reach(self, port: int, certificate: Certificate | None) -> "Reach":
        """The same for the guard."""
        from yielding_coil.api.http import Reach

        return Reach(
            lan=self.lan or bool(self.proxies),
            names=self.all_names,
            port=port,
            secure_port=None if self.secure is None else self.secure.getsockname()[1],
            proxies=self.proxies,
            authority=None if certificate is None else certificate.authority.read_bytes,
        )


@dataclass(frozen=True, slots=True)
class Wanted:
    """How it is run, as `./start` was told.

    Args:
        workers: processes that answer pages.
        database: an existing PostgreSQL; None for a private one in the data folder.
        may_migrate: whether an existing database may be brought to the newest shape.
        demo, fresh: whether the demo is laid in, and anew.
        in_lines: whether what happens is written as lines of JSON.
    """

    workers: int = 1
    database: URL | None = None
    may_migrate: bool = False
    demo: bool = True
    fresh: bool = False
    in_lines: bool = False

    @property
    def is_shared(self) -> bool:
        """Whether other processes or machines may work on the same data."""
        return self.workers > 1 or self.database is not None


class _Given:
    """A database that somebody else looks after."""

    def __init__(self, url: URL) -> None:
        self._url = url

    def start(self) -> URL:
        return self._url

    def stop(self) -> None:
        """It is not ours to stop."""


def open_store(server: PrivateServer) -> Engine:
    """Start the database and bring its tables to the newest shape; a backup of before lies beside them.

    Raises:
        ServerError: as the server has it; or the data are of a newer version, or their backup cannot be made.
    """
    engine = connect(server.start())
    update(server, engine)
    return engine


def _open_given(url: URL, *, may_migrate: bool) -> Engine:
    """The same of a database that somebody else looks after: touched only when he said so."""
    engine = connect(url)
    shape = shape_of(engine)
    require_known(shape)
    if shape not in (None, newest_shape()) and not may_migrate:
        raise ServerError(
            f"This database is of an older version (tables {shape}, this one uses {newest_shape()}). Make a backup "
            "of it with pg_dump, then start once with --migrate."
        )
    migrate(engine)
    return engine


def say_where(data: str, plain: socket.socket, outside: Outside) -> None:
    """Where it is reached, and by whom."""
    port = plain.getsockname()[1]
    say = [f"Yielding Coil:  http://127.0.0.1:{port}/", f"Your data:      {data}   (Ctrl-C stops)"]
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


def run(folder: Path, plain: socket.socket, outside: Outside, wanted: Wanted) -> None:
    """Serve the data in a folder on sockets that listen, until told to stop; stops what it started."""
    private = PrivateServer(folder, max_connections=CONNECTIONS if wanted.is_shared else 100)
    database = private if wanted.database is None else _Given(wanted.database)
    if sys.stdout.isatty():
        print("Starting; it says so when it answers.", flush=True)
    if wanted.in_lines:
        from yielding_coil.api.http import tell_in_lines

        tell_in_lines()
    try:
        with_own(folder / "profiles.json")  # refused before anything is begun
        certificate = None
        if outside.secure is not None:
            certificate = certificate_for(folder / "tls", {"127.0.0.1", "localhost", *outside.all_names()})
        if wanted.database is None:
            engine = open_store(private)
        else:
            engine = _open_given(wanted.database, may_migrate=wanted.may_migrate)
        if wanted.demo:
            from yielding_coil.demo import lay_in

            with Session(engine) as session, session.begin():
                lay_in(session, fresh=wanted.fresh)
        if wanted.is_shared:
            prepare_queue(engine)
        data = str(folder) if wanted.database is None else wanted.database.render_as_string()
        ready: Callable[[], None] = lambda: say_where(data, plain, outside)  # noqa: E731
        if wanted.is_shared:
            url = engine.url
            engine.dispose()
            beside: Callable[[], None] = (lambda: None) if wanted.database is not None else private.look
            _run_several(folder, url, plain, outside, wanted, certificate, beside, ready)
        else:
            _run_one(folder, engine, private, plain, outside, wanted, certificate, ready)
    except (ServerError, RefusedError) as error:
        sys.exit(str(error))
    except (KeyboardInterrupt, SystemExit):
        pass
    finally:
        _let_it_end()
        database.stop()


def _run_one(
    folder: Path,
    engine: Engine,
    server: PrivateServer,
    plain: socket.socket,
    outside: Outside,
    wanted: Wanted,
    certificate: Certificate | None,
    ready: Callable[[], None],
) -> None:
    """All in this process."""
    from yielding_coil.analyser.child import SimulatorChild
    from yielding_coil.answering import answer
    from yielding_coil.api.app import create_app

    simulated = SimulatorChild()
    ended = threading.Event()
    # A database that died may leave requests hanging: it is looked after without one that fails.
    looking = threading.Thread(target=_look_after, args=(server, ended), daemon=True)
    looking.start()
    try:
        simulated.start()
        app = create_app(
            engine,
            revive=server.revive,
            simulated=simulated,
            is_disk_full=server.is_disk_full,
            reached=outside.reach(plain.getsockname()[1], certificate),
            profiles=with_own(folder / "profiles.json"),
            in_lines=wanted.in_lines,
        )
        answer(app, plain, outside.secure, certificate, started=ready, in_lines=wanted.in_lines)
    finally:
        _let_it_end()
        ended.set()
        looking.join()
        simulated.stop()


def _look_after(server: PrivateServer, ended: threading.Event) -> None:
    while not ended.wait(LOOK_S):
        server.look()


def _run_several(
    folder: Path,
    url: URL,
    plain: socket.socket,
    outside: Outside,
    wanted: Wanted,
    certificate: Certificate | None,
    beside: Callable[[], None],
    ready: Callable[[], None],
) -> None:
    """A hub and some that answer pages, each in a process of its own."""
    told = {
        "database": url.render_as_string(hide_password=False),
        "folder": folder,
        "plain": plain.fileno(),
        "port": plain.getsockname()[1],
        "lan": outside.lan or bool(outside.proxies),
        "names": list(outside.names),
        "proxies": [str(proxy) for proxy in outside.proxies],
        "in_lines": wanted.in_lines,
        "own_disk": wanted.database is None,
    }
    sockets = [plain.fileno()]
    if outside.secure is not None and certificate is not None:
        told |= {
            "secure": outside.secure.fileno(),
            "secure_port": outside.secure.getsockname()[1],
            "chain": certificate.chain,
            "key": certificate.key,
            "authority": certificate.authority,
        }
        sockets.append(outside.secure.fileno())
    look_after(wanted.workers, told, tuple(sockets), beside, ready)


def _let_it_end() -> None:
    """Nothing cuts the end short: the database is let go whole."""
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: None)
