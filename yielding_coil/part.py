"""One process of several: it answers pages, or is the hub, which holds the analyser and takes work from the line.

It is told what to be by one line of JSON on its standard input, and ends when that ends: with whoever began it.
"""

import asyncio
import ipaddress
import os
import signal
import socket
import sys
import threading
import time

from sqlalchemy import make_url

from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.analyser.profiles import with_own
from yielding_coil.answering import answer
from yielding_coil.api.app import create_app
from yielding_coil.api.http import QueuedJobs, Reach, tell_in_lines
from yielding_coil.reach import Certificate, names
from yielding_coil.several import PartIn, tell_started
from yielding_coil.store.engine import connect
from yielding_coil.store.folder import is_full
from yielding_coil.store.queue import Queue
from yielding_coil.work.runner import run

# Connections to the database that one of several processes keeps, and how many more for a moment.
KEPT, MORE = 8, 24


def _end_with_parent() -> None:
    sys.stdin.read()
    os.kill(os.getpid(), signal.SIGTERM)
    time.sleep(6)
    os._exit(1)


def main() -> None:
    """Be that part until told to end."""
    told = PartIn.model_validate_json(sys.stdin.readline())
    threading.Thread(target=_end_with_parent, daemon=True).start()
    if told.in_lines:
        tell_in_lines()
    url = make_url(told.database)
    engine = connect(url, kept=KEPT, more=MORE)
    queue = Queue(url)
    certificate = None
    if told.chain and told.key and told.authority:
        certificate = Certificate(told.chain, told.key, told.authority)
    reach = Reach(
        lan=told.lan,
        names=lambda: frozenset(told.names) | (names() if told.lan else frozenset()),
        port=told.port,
        secure_port=told.secure_port,
        proxies=tuple(ipaddress.ip_network(proxy) for proxy in told.proxies),
        authority=None if certificate is None else certificate.authority.read_bytes,
    )
    simulated = SimulatorChild() if told.part == "hub" else None
    app = create_app(
        engine,
        # Who began this process looks after the database.
        revive=lambda: None,
        is_disk_full=lambda: told.own_disk and is_full(told.folder),
        simulated=simulated,
        reached=reach,
        profiles=with_own(told.folder / "profiles.json"),
        queued=QueuedJobs(engine, queue),
        hub=None if told.part == "hub" else told.hub,
        inside=told.part == "hub",
        in_lines=told.in_lines,
    )
    try:
        if simulated is not None:
            simulated.start()
            threading.Thread(target=lambda: asyncio.run(run(app, url)), daemon=True).start()
        secure = None if told.secure is None else socket.socket(fileno=told.secure)
        answer(
            app,
            socket.socket(fileno=told.plain),
            secure,
            certificate,
            started=lambda: tell_started(told.started),
            in_lines=told.in_lines,
        )
    finally:
        if simulated is not None:
            simulated.stop()
        queue.close()


if __name__ == "__main__":
    os.umask(0o077)
    main()
