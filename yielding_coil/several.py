"""Several processes for one application: begun, looked after, begun again where one ends, ended together."""

import contextlib
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any, Literal

from pydantic import BaseModel

TOP = Path(__file__).parents[1]
LOOK_S = 0.1
# One that ends again and again is begun again ever more slowly, up to this.
SLOWEST_S = 5.0
ENDS_WITHIN_S = 8.0


class PartIn(BaseModel):
    """What one process is to be. Sockets, and the pipe that it says by that it answers, are given by numbers."""

    part: Literal["pages", "hub"]
    database: str
    folder: Path
    hub: str
    started: int
    plain: int
    port: int
    secure: int | None = None
    secure_port: int | None = None
    chain: Path | None = None
    key: Path | None = None
    authority: Path | None = None
    lan: bool = False
    names: list[str] = []
    proxies: list[str] = []
    in_lines: bool = False
    own_disk: bool = True


def tell_started(pipe: int) -> None:
    """Say to whoever began this process that it answers now."""
    with contextlib.suppress(OSError):  # said once more than is listened to
        os.write(pipe, b".")


class Part:
    """One process, begun again whenever it has ended."""

    def __init__(self, told: str, sockets: tuple[int, ...]) -> None:
        self._told, self._sockets = told, sockets
        self._process: subprocess.Popen[str] | None = None
        self._begun_at, self._wait_s = 0.0, 0.0

    @property
    def pid(self) -> int | None:
        """Its number, while it runs."""
        return None if self._process is None or self._process.poll() is not None else self._process.pid

    def look(self) -> None:
        """Begin it unless it runs."""
        now = time.monotonic()
        if self.pid is not None or now - self._begun_at < self._wait_s:
            return
        if self._process is not None:
            lived = now - self._begun_at
            self._wait_s = 0.0 if lived > SLOWEST_S else min(SLOWEST_S, max(0.2, 2 * self._wait_s))
            self._let_go()
        self._begun_at = now
        self._process = subprocess.Popen(
            [sys.executable, "-m", "yielding_coil.part"],
            cwd=TOP,
            stdin=subprocess.PIPE,
            text=True,
            pass_fds=self._sockets,
            env={**os.environ, "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"},
            start_new_session=True,  # Ctrl-C in the terminal is for whoever began it
        )
        assert self._process.stdin is not None
        # Not among its arguments, which everybody on this computer may read.
        self._process.stdin.write(f"{self._told}\n")
        self._process.stdin.flush()

    def ask_to_end(self) -> None:
        """Tell it to end."""
        if self._process is not None and self.pid is not None:
            self._process.terminate()

    def end(self, until: float) -> None:
        """Wait for its end; past that it is ended."""
        if self._process is not None:
            try:
                self._process.wait(max(0.0, until - time.monotonic()))
            except subprocess.TimeoutExpired:
                self._process.kill()
                self._process.wait()
            self._let_go()

    def _let_go(self) -> None:
        if self._process is not None and self._process.stdin is not None:
            with contextlib.suppress(OSError):
                self._process.stdin.close()
        self._process = None


class _Pipe:
    """Where each process says once that it answers."""

    def __enter__(self) -> "_Pipe":
        self._reads, self.writes = os.pipe()
        os.set_blocking(self._reads, False)
        return self

    def read(self) -> int:
        """How many said so since it was asked last."""
        with contextlib.suppress(BlockingIOError):
            return len(os.read(self._reads, 64))
        return 0

    def __exit__(self, *_: object) -> None:
        os.close(self._reads)
        os.close(self.writes)


def look_after(
    workers: int,
    told: dict[str, Any],
    sockets: tuple[int, ...],
    beside: Callable[[], None],
    ready: Callable[[], None],
) -> None:
    """Run a hub and so many processes that answer pages, until SIGTERM or SIGINT.

    Args:
        told: what all of them are told; `part`, `hub` and the hub's socket are added here.
        beside: called again and again meanwhile.
        ready: called once, when all answer.
    """
    going = True

    def stop(number: int, frame: object) -> None:
        nonlocal going
        going = False

    with tempfile.TemporaryDirectory(prefix="yielding-coil-") as place:
        path = str(Path(place) / "hub")
        with socket.socket(socket.AF_UNIX) as hub, _Pipe() as pipe:
            hub.bind(path)
            hub.listen(128)
            pages = PartIn(part="pages", hub=path, started=pipe.writes, **told)
            inside = pages.model_copy(update={"part": "hub", "plain": hub.fileno(), "secure": None})
            parts = [Part(inside.model_dump_json(), (hub.fileno(), pipe.writes))]
            parts += [Part(pages.model_dump_json(), (*sockets, pipe.writes)) for _ in range(workers)]
            answering = 0
            for number in (signal.SIGTERM, signal.SIGINT):
                signal.signal(number, stop)
            try:
                while going:
                    for part in parts:
                        part.look()
                    beside()
                    before, answering = answering, answering + pipe.read()
                    if before < len(parts) <= answering:
                        ready()
                    time.sleep(LOOK_S)
            finally:
                for part in parts:
                    part.ask_to_end()
                until = time.monotonic() + ENDS_WITHIN_S
                for part in parts:
                    part.end(until)
