"""An analyser reached by SCPI over a plain TCP socket, through PyVISA."""

import contextlib
import json
import re
import select
import socket
import time
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import numpy as np
import pyvisa
from pyvisa.resources import TCPIPSocket

from yielding_coil.analyser.driver import (
    AnalyserGarbageError,
    AnalyserGoneError,
    AnalyserRefusedError,
    AnalyserSilentError,
)
from yielding_coil.core.arrays import Complex
from yielding_coil.core.errors import NotFoundError, OutOfDomainError

TIMEOUT_S = 5.0
# How long the simulated site may solve wires.
WIRES_S = 90.0
# More than this is no answer to anything asked here.
MOST_BYTES = 1 << 20


@dataclass(frozen=True, slots=True)
class Profile:
    """How one kind of analyser is spoken to; a row of profiles.json."""

    key: str
    name: str
    identify: str
    prepare: tuple[str, ...]
    range: tuple[str, ...]
    start: str
    wait: str
    trace: str
    order: str
    error: str
    lowest: str
    highest: str
    most_points: int
    block: str = ""
    bench: str = ""
    bench_now: str = ""
    bench_all: str = ""
    bench_leg: str = ""
    bench_wound: str = ""
    bench_hung: str = ""
    bench_tuner: str = ""
    bench_built: str = ""
    bench_fault: str = ""


@cache
def profiles() -> dict[str, Profile]:
    """Profiles by key."""
    rows = json.loads((files(__package__) / "profiles.json").read_text("utf-8"))["rows"]
    return {
        row["key"]: Profile(**{**row, "prepare": tuple(row["prepare"]), "range": tuple(row["range"])})
        for row in rows
    }


def profile(key: str) -> Profile:
    """A profile.

    Raises:
        NotFoundError: no such key.
    """
    found = profiles().get(key)
    if found is None:
        raise NotFoundError(
            f"there is no profile “{key}”", field="profile", came_in=key, accepted=", ".join(profiles())
        )
    return found


# As names are written on local networks, too (RFC 1123, and underscores that some give).
_HOST = re.compile(r"[A-Za-z0-9_](?:[A-Za-z0-9_.-]{0,251}[A-Za-z0-9_])?")


def host_and_port(address: str) -> tuple[str, int]:
    """Host and port of an address as typed.

    Raises:
        OutOfDomainError: no port, or no such port.
    """
    host, _, port = address.strip().rpartition(":")
    fits = _HOST.fullmatch(host) and port.isascii() and port.isdigit() and 0 < int(port[:6]) < 65536
    if not fits:
        raise OutOfDomainError(
            "address",
            f"“{address}”",
            "host:port, as in 192.0.2.7:5025 or bench-analyser.local:5025: letters, digits, dots, hyphens and "
            "underscores, then a port from 1 to 65535",
        )
    return host, int(port)


class ScpiAnalyser:
    """An analyser behind host:port, by a profile. One thread at a time."""

    def __init__(self, address: str, kind: Profile, timeout_s: float = TIMEOUT_S) -> None:
        """Connect and ask who it is.

        Raises:
            OutOfDomainError: the address is none.
            AnalyserGoneError: nothing answers there.
            AnalyserSilentError, AnalyserGarbageError: it does not answer as an analyser does.
        """
        host, port = host_and_port(address)
        self.address = f"{host}:{port}"
        self.profile = kind
        self.most_points = kind.most_points
        self._timeout_s = timeout_s
        try:
            opened = pyvisa.ResourceManager("@py").open_resource(
                f"TCPIP::{host}::{port}::SOCKET",
                read_termination="\n",
                write_termination="\n",
                timeout=timeout_s * 1e3,
                open_timeout=int(timeout_s * 1e3),
            )
        except Exception as why:  # the backend raises plain ones where it cannot connect
            raise self._absent() from why
        assert isinstance(opened, TCPIPSocket)
        self._instrument = opened
        # What the backend reads from: looked at to tell a closed connection from a slow instrument.
        self._socket: socket.socket = opened.visalib.sessions[opened.session].interface  # type: ignore[attr-defined]
        self._socket.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
        try:
            try:
                self.identity = self._ask(kind.identify)
            except AnalyserGoneError as why:
                raise self._absent() from why
            for command in kind.prepare:
                self._tell(command)
            self.low_hz = self._number(kind.lowest)
            self.high_hz = self._number(kind.highest)
        except Exception:
            self.close()
            raise

    def close(self) -> None:
        """Let go of the instrument."""
        with contextlib.suppress(OSError, pyvisa.Error):
            self._instrument.close()

    def sweep(self, low_hz: float, high_hz: float, points: int) -> Complex:
        """Raw Γ against 50 Ω at evenly spaced frequencies."""
        for command in self.profile.range:
            self._tell(command.format(low_hz=low_hz, high_hz=high_hz, points=points))
        self._tell(self.profile.start)
        self._ask(self.profile.wait)
        self._require_content()
        self._tell(self.profile.trace)
        values = self._values()
        if values.size != 2 * points or not np.isfinite(values).all():
            self._require_content()
            raise AnalyserGarbageError(
                f"{self.address} answered {values.size} numbers to a sweep of {points} points of two each"
            )
        first, second = values[0::2], values[1::2]
        if self.profile.order == "magnitude degrees":
            return np.asarray(first * np.exp(1j * np.radians(second)))
        return np.asarray(first + 1j * second)

    def things(self) -> list[str]:
        """What can be screwed on, where the bench is a simulated one."""
        return [t.strip().strip('"') for t in self._ask(self.profile.bench_all).split(",")]

    def thing(self) -> str:
        """What is screwed on, where the bench is a simulated one."""
        return self._ask(self.profile.bench_now).strip().strip('"')

    def screw_on(self, thing: str) -> None:
        """Put something on, where the bench is a simulated one."""
        self._tell(self.profile.bench.format(thing=thing))
        self._require_content()

    def hang(self, leg_m: float, folded_m: float) -> None:
        """Cut and fold the wire to be trimmed, where the bench is a simulated one."""
        self._tell(self.profile.bench_leg.format(leg_m=leg_m, folded_m=folded_m))
        self._require_content()

    def wind(self, text: str) -> None:
        """Wind something and put it on, where the bench is a simulated one."""
        self._tell(self.profile.bench_wound + text)
        self._require_content()

    def hang_up(self, text: str) -> None:
        """Hang a planned antenna and put it on, where the bench is a simulated one."""
        self._tell(self.profile.bench_hung + text)
        self._require_content()

    def build(self, text: str) -> None:
        """Build a match and put it on, where the bench is a simulated one."""
        self._tell(self.profile.bench_built + text)
        self._require_content()

    def do_test(self, text: str) -> str:
        """Do a test to an installation that broke, where the bench is a simulated one; what it reads, as JSON."""
        self._tell(f"{self.profile.bench_fault} {text}")
        self._require_content()
        # Wires that hang in a new way are solved first.
        return self._ask(f"{self.profile.bench_fault}?", WIRES_S)

    def fault_told(self) -> str:
        """What broke of it, as JSON."""
        return self._ask(f"{self.profile.bench_fault}:TOLD?", WIRES_S)

    def tune(self, text: str) -> None:
        """Turn the dials of a tuner and put it on, where the bench is a simulated one."""
        self._tell(self.profile.bench_tuner + text)
        self._require_content()

    def _require_content(self) -> None:
        """Raise what the instrument has to complain of."""
        said = self._ask(self.profile.error)
        if not said.lstrip("+").startswith("0"):
            raise AnalyserRefusedError(f"{self.address} says {said.strip()}", came_in=said[:80])

    def _number(self, question: str) -> float:
        said = self._ask(question)
        try:
            return float(said)
        except ValueError as why:
            raise AnalyserGarbageError(
                f"{self.address} answered “{said[:40]}” to {question}; a number was expected"
            ) from why

    def _values(self) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
        answer = b""
        try:
            if self.profile.block:
                answer = self._read_block()
                return np.frombuffer(answer, self.profile.block).astype(float)
            answer = self._read()
            return np.array(answer.decode("ascii").split(","), dtype=float)
        except ValueError as why:
            raise AnalyserGarbageError(
                f"{self.address} answered “{answer[:40].decode('ascii', 'replace')}” where a sweep was expected; "
                "try again, or choose another profile"
            ) from why

    def _ask(self, question: str, within_s: float | None = None) -> str:
        self._tell(question)
        answer = self._read(within_s)
        try:
            return answer.decode().strip()
        except UnicodeDecodeError as why:
            raise AnalyserGarbageError(f"{self.address} answered {question} with bytes that are no text") from why

    def _tell(self, command: str) -> None:
        try:
            self._instrument.write(command)
        except (OSError, pyvisa.Error) as why:
            raise self._gone() from why

    def _read(self, within_s: float | None = None) -> bytes:
        """One answer to its end; refused when it never ends."""
        answer = b""
        until = time.monotonic() + (within_s or self._timeout_s)
        while not answer.endswith(b"\n"):
            # An answer that came whole is taken, however late this side gets to read it.
            if len(answer) > MOST_BYTES or (answer and time.monotonic() > until):
                raise AnalyserGarbageError(
                    f"{self.address} does not stop answering; {len(answer)} bytes so far were thrown away"
                )
            self._wait(until)
            answer += self._bytes(1 << 14, to_the_end_of_a_line=True)
        return answer

    def _read_block(self) -> bytes:
        """An IEEE 488.2 definite length block: #, how many digits, how many bytes, the bytes, a newline."""
        self._wait(time.monotonic() + self._timeout_s)
        mark = self._bytes(2)
        if mark[:1] != b"#":
            raise AnalyserGarbageError(
                f"{self.address} answered “{mark.decode('ascii', 'replace')}…” where a binary block was expected; "
                "try the profile for text"
            )
        size = int(self._bytes(int(mark[1:])))
        if size > MOST_BYTES:
            raise AnalyserGarbageError(f"{self.address} announces a block of {size} bytes, which is no sweep")
        return self._bytes(size + 1)[:-1]

    def _bytes(self, count: int, to_the_end_of_a_line: bool = False) -> bytes:
        try:
            return self._instrument.read_bytes(count, chunk_size=count, break_on_termchar=to_the_end_of_a_line)
        except pyvisa.VisaIOError as why:
            if why.error_code == pyvisa.constants.StatusCode.error_timeout:
                raise self._silent() from why
            raise self._gone() from why
        except OSError as why:
            raise self._gone() from why

    def _wait(self, until: float) -> None:
        """Wait for the first bytes of an answer; the backend would take a closed connection for a slow one."""
        ready, _, _ = select.select([self._socket], [], [], max(0.0, until - time.monotonic()))
        if not ready:
            raise self._silent()
        if not self._socket.recv(1, socket.MSG_PEEK):
            raise self._gone()

    def _silent(self) -> AnalyserSilentError:
        return AnalyserSilentError(
            f"{self.address} did not answer within {self._timeout_s:g} s; try again with fewer points"
        )

    def _absent(self) -> AnalyserGoneError:
        return AnalyserGoneError(
            f"nothing answers at {self.address}: is it switched on, and is that its address?", came_in=self.address
        )

    def _gone(self) -> AnalyserGoneError:
        return AnalyserGoneError(
            f"the connection to {self.address} broke; connect again, what was swept before is kept",
            came_in=self.address,
        )
