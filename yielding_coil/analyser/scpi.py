"""An analyser reached by SCPI, over a plain TCP socket or a serial port."""

import os
import time

import numpy as np

from yielding_coil.analyser.driver import (
    AnalyserGarbageError,
    AnalyserGoneError,
    AnalyserRefusedError,
    AnalyserSilentError,
)
from yielding_coil.analyser.profiles import Profile
from yielding_coil.analyser.transport import GoneError, SilentError, Transport, plain_address
from yielding_coil.core.arrays import Complex

TIMEOUT_S = 5.0
# How long the simulated site may solve wires.
WIRES_S = 90.0
# More than this is no answer to anything asked here.
MOST_BYTES = 1 << 20


class ScpiAnalyser:
    """An analyser behind host:port or a serial port, by a profile. One thread at a time."""

    def __init__(self, address: str, kind: Profile, timeout_s: float = TIMEOUT_S) -> None:
        """Connect and ask who it is.

        Raises:
            OutOfDomainError: the address is none.
            AnalyserGoneError: nothing answers there.
            AnalyserSilentError, AnalyserGarbageError: it does not answer as an analyser does.
        """
        self.profile = kind
        self.most_points = kind.most_points
        self._timeout_s = timeout_s
        self.address = plain_address(address)
        try:
            self._transport = Transport(address, timeout_s, kind.baud)
        except GoneError as why:
            raise self._absent() from why
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
        self._transport.close()

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
            self._transport.tell(command)
        except GoneError as why:
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
            return self._transport.bytes(count, to_the_end_of_a_line=to_the_end_of_a_line)
        except SilentError as why:
            raise self._silent() from why
        except GoneError as why:
            raise self._gone() from why

    def _wait(self, until: float) -> None:
        try:
            self._transport.wait(until)
        except SilentError as why:
            raise self._silent() from why
        except GoneError as why:
            raise self._gone() from why

    def _silent(self) -> AnalyserSilentError:
        return AnalyserSilentError(
            f"{self.address} did not answer within {self._timeout_s:g} s; try again with fewer points"
        )

    def _absent(self) -> AnalyserGoneError:
        return AnalyserGoneError(
            f"nothing answers at {self.address}: is it switched on, and is that its address?{self._may_use()}",
            came_in=self.address,
        )

    def _may_use(self) -> str:
        """On Linux a serial port belongs to a group; who is not in it is turned away as if there were none."""
        if not self.address.startswith("/") or os.access(self.address, os.R_OK | os.W_OK):
            return ""
        return " Whoever runs the application also needs the right to use the port (on Debian: group “dialout”)."

    def _gone(self) -> AnalyserGoneError:
        return AnalyserGoneError(
            f"the connection to {self.address} broke; connect again, what was swept before is kept",
            came_in=self.address,
        )
