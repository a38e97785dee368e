"""Answer on sockets that listen, until told to stop."""

import asyncio
import contextlib
import signal
import socket
from collections.abc import Callable, Iterator
from typing import Any

import uvicorn
from fastapi import FastAPI

from yielding_coil.reach import Certificate

# So many connections at once; whoever comes then is told to come again.
MOST_AT_ONCE = 400


class _Served(uvicorn.Server):
    """A server whose signals are ours: several end together.

    Args:
        started: called once it answers.
    """

    def __init__(self, config: uvicorn.Config, started: Callable[[], None] = lambda: None) -> None:
        super().__init__(config)
        self._tell_started = started

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Begin to answer, and say so."""
        await super().startup(sockets)
        if self.started:
            self._tell_started()

    @contextlib.contextmanager
    def capture_signals(self) -> Iterator[None]:
        """Left to whoever runs them all."""
        yield


def answer(
    app: FastAPI,
    plain: socket.socket,
    secure: socket.socket | None = None,
    certificate: Certificate | None = None,
    *,
    started: Callable[[], None],
    in_lines: bool = False,
) -> None:
    """Answer on one or two sockets until SIGTERM or SIGINT.

    Args:
        started: called once it does.
        in_lines: leaves all logging to who set it up.
    """
    settings: dict[str, Any] = {
        "log_level": "warning",
        "timeout_graceful_shutdown": 3,
        # What a proxy says is looked at by the guard alone.
        "proxy_headers": False,
        "server_header": False,
        "limit_concurrency": MOST_AT_ONCE,
        **({"log_config": None} if in_lines else {}),
    }
    served = [(_Served(uvicorn.Config(app, **settings), started), plain)]
    if secure is not None and certificate is not None:
        tls = uvicorn.Config(
            app, lifespan="off", ssl_certfile=certificate.chain, ssl_keyfile=certificate.key, **settings
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
