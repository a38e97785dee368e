"""A simulated analyser: a bench, honest imperfections, and a socket that speaks SCPI.

Run as a process of its own it prints the port it took and ends when its standard input ends, so that it never
outlives whoever started it, however that one ended. (A parent-death signal follows the thread that started the
child, and a web server's worker threads come and go.)
"""

import argparse
import contextlib
import math
import os
import re
import socketserver
import sys
import threading
import time
from collections.abc import Callable

import numpy as np

from yielding_coil.analyser.bench import NEW_LEG_M, STANDARD_LABELS, THINGS, Site
from yielding_coil.analyser.building import BuiltThing
from yielding_coil.analyser.faulty import FaultyThing
from yielding_coil.analyser.hanging import HungThing
from yielding_coil.analyser.tuning import TunerBench
from yielding_coil.analyser.windings import WoundThing, turns_ohm
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.calibration import Kit
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.reflection import reflection_of

FIRST_PORT = 5025
LOWEST_HZ, HIGHEST_HZ = 0.1e6, 200e6
MOST_POINTS = 201
SECONDS_A_POINT = 0.0004

# Raw Γ scatters by this much, root mean square of |δΓ|, from pass to pass.
NOISE_RMS = 1.5e-3
# Each part of each error term wanders so much an hour: one standard deviation of the rate.
DRIFT_PER_HOUR = 1e-3
# One standard deviation of what the standards really are.
LOAD_SPREAD, OPEN_SPREAD_F, SHORT_SPREAD_H = 0.005, 0.05e-12, 0.1e-9
# Wind moves a dip by so much at most.
WIND = 1e-3
# What was wound last, when anything was.
WOUND, WOUND_LABEL = "wound", "what you wound last"
# A planned antenna that was hung there, and how much further than what wind moves at most elsewhere it sways.
HUNG, HUNG_LABEL, HUNG_SWAYS = "hung", "the antenna you hung there", 1.0
# A tuner before an antenna.
TUNER, TUNER_LABEL = "tuner", "the tuner to practise at"
# A match as it was built.
BUILT, BUILT_LABEL = "built", "the match you built last"
# An installation that broke.
FAULTY, FAULTY_LABEL = "faulty", "the antenna that went wrong"
LEAD = Line(Cable("test lead", 50.0, 0.695, 2.8, 0.005), 1.5)


class Simulator:
    """The instrument and what is screwed on to it; everything random comes from the seed.

    Args:
        seed: of the standards' errors, the bridge, the drift and the noise.
        clock: seconds; drift and wind follow it.
        wait: called with the seconds a sweep takes.
    """

    def __init__(
        self,
        seed: int = 1,
        clock: Callable[[], float] = time.monotonic,
        wait: Callable[[float], None] = time.sleep,
    ) -> None:
        self._clock = clock
        self._wait = wait
        self._seed = seed
        rng = np.random.default_rng(seed)
        self._noise = np.random.default_rng([seed, 1])
        self.standards = Kit(
            load_ohm=50 * (1 + LOAD_SPREAD * rng.normal()),
            open_f=OPEN_SPREAD_F * rng.normal(),
            short_h=SHORT_SPREAD_H * rng.normal(),
        )
        self._drift = DRIFT_PER_HOUR * (rng.normal(size=3) + 1j * rng.normal(size=3))
        self._gusts = [(rng.uniform(3, 17), rng.uniform(0, 2 * math.pi)) for _ in range(3)]
        self._start = clock()
        self.on = "open"
        self.site = Site.of(seed)
        self.leg_m, self.folded_m = NEW_LEG_M, 0.0
        self.wound: WoundThing | None = None
        self.hung: HungThing | None = None
        self.built: BuiltThing | None = None
        self.faulty: FaultyThing | None = None
        self.tuners = TunerBench(seed)
        self.low_hz, self.high_hz, self.points = 1e6, 30e6, 101
        self._binary = False
        self._swapped = False
        self._trace: Complex = np.zeros(0, dtype=complex)
        self._errors: list[str] = []

    def true_reflection(self, frequency_hz: Real, thing: str | None = None) -> Complex:
        """Γ of what is screwed on, as it is."""
        f = np.asarray(frequency_hz, dtype=float)
        on = self.on if thing is None else thing
        if on in STANDARD_LABELS:
            return self.standards.reflections(f)[("short", "open", "load").index(on)]
        if on == WOUND:
            return np.full(f.shape, 1.0 + 0j) if self.wound is None else self.wound.reflection(f)
        if on == HUNG and self.hung is not None:
            return reflection_of(self.hung.impedance_ohm(f * (1 + HUNG_SWAYS * self._wind())))
        if on == BUILT and self.built is not None:
            return reflection_of(self.built.impedance_ohm(f * (1 + self._wind())))
        if on == FAULTY and self.faulty is not None:
            return reflection_of(self.faulty.impedance_ohm(f * (1 + self._wind())))
        if on == TUNER and self.tuners.thing is not None:
            return reflection_of(self.tuners.thing.impedance_ohm(f * (1 + self._wind())))
        found = THINGS[on]
        if found.turns is not None:
            return reflection_of(turns_ohm(self._seed, *found.turns, f))
        if found.sways:
            # A wire blown to one side: its dip lies lower or higher for a while.
            f = f * (1 + found.sways * self._wind())
        seen = self.site.wire(self.leg_m, self.folded_m).impedance_ohm if found.hung else found.seen
        return reflection_of(seen(f))

    def raw(self, frequency_hz: Real) -> Complex:
        """What the instrument shows of it: one pass, noise and all."""
        f = np.asarray(frequency_hz, dtype=float)
        clean = self._shown(f, self.true_reflection(f))
        noise = self._noise.normal(size=(2, f.size)) * (NOISE_RMS / math.sqrt(2))
        return np.asarray(clean + noise[0] + 1j * noise[1])

    def _wind(self) -> float:
        t = self._clock() - self._start
        return WIND / 3 * sum(math.sin(2 * math.pi * t / period + phase) for period, phase in self._gusts)

    def _shown(self, f: Real, gamma: Complex) -> Complex:
        """Through the test lead, then the bridge with its three terms, a little drifted."""
        a, b, c, d = LEAD.chain(f)
        up, down = 50 * (1 + gamma), 1 - gamma
        over, under = a * up + b * down, c * up + d * down
        at_port = (over - 50 * under) / (over + 50 * under)
        hours = (self._clock() - self._start) / 3600
        turn = np.exp(-2j * math.pi * f * 1.2e-9)
        directivity = 0.045 * np.exp(0.7j) * turn + self._drift[0] * hours
        tracking = 0.93 * np.exp(-4j * math.pi * f * 0.15e-9) + self._drift[1] * hours
        match = 0.07 * np.exp(-1.1j) * turn**2 + self._drift[2] * hours
        return np.asarray(directivity + tracking * at_port / (1 - match * at_port))

    def answer(self, line: str) -> bytes | None:
        """What it says to one line; None where nothing is said."""
        said = [found for part in line.split(";") if (found := self._act(part.strip())) is not None]
        return b";".join(said) if said else None

    def _act(self, command: str) -> bytes | None:
        head, _, rest = command.partition(" ")
        if not head:
            return None
        for pattern, act in self._commands():
            if re.fullmatch(pattern, head, re.IGNORECASE):
                try:
                    return act(rest.strip())
                except ValueError as why:
                    self._errors.append(f'-222,"Data out of range; {why}"')
                    return None
        self._errors.append(f'-113,"Undefined header; {head[:40]}"')
        return None

    def _commands(self) -> list[tuple[str, Callable[[str], bytes | None]]]:
        range_ = r":?SENS(?:E)?:FREQ(?:UENCY)?:"
        return [
            (r"\*IDN\?", lambda _: f"YIELDING COIL,SIMULATED ANALYSER,{self._seed},1".encode()),
            (r"\*CLS", lambda _: self._errors.clear()),
            (r"\*RST", lambda _: self._reset()),
            (r"\*OPC\?", lambda _: b"1"),
            (r":?SYST(?:EM)?:ERR(?:OR)?\?", lambda _: self._complain()),
            (range_ + r"STAR(?:T)?", lambda v: self._set("low_hz", v, LOWEST_HZ, HIGHEST_HZ)),
            (range_ + r"STOP", lambda v: self._set("high_hz", v, LOWEST_HZ, HIGHEST_HZ)),
            (range_ + r"STAR(?:T)?\?", lambda v: _said(LOWEST_HZ if v.upper() == "MIN" else self.low_hz)),
            (range_ + r"STOP\?", lambda v: _said(HIGHEST_HZ if v.upper() == "MAX" else self.high_hz)),
            (r":?SENS(?:E)?:SWE(?:EP)?:POIN(?:TS)?", lambda v: self._set("points", v, 1, MOST_POINTS)),
            (r":?SENS(?:E)?:SWE(?:EP)?:POIN(?:TS)?\?", lambda _: str(self.points).encode()),
            (r":?FORM(?:AT)?(?::DATA)?", lambda v: setattr(self, "_binary", v.upper().startswith("REAL"))),
            (r":?FORM(?:AT)?:BORD(?:ER)?", lambda v: setattr(self, "_swapped", v.upper().startswith("SWAP"))),
            (r":?INIT(?:IATE)?(?::IMM(?:EDIATE)?)?", lambda _: self._sweep()),
            (r":?SENS(?:E)?:DATA\?", lambda _: self._read_out()),
            (r":?BENC(?:H)?:CONN(?:ECT)?", lambda v: self._screw_on(v)),
            (r":?BENC(?:H)?:CONN(?:ECT)?\?", lambda _: f'"{self.on}"'.encode()),
            (r":?BENC(?:H)?:LEG", lambda v: self._hang(v)),
            (r":?BENC(?:H)?:WOUN(?:D)?", lambda v: self._lay_on(v)),
            (r":?BENC(?:H)?:HUNG", lambda v: self._hang_up(v)),
            (r":?BENC(?:H)?:BUIL(?:D)?", lambda v: self._build(v)),
            (r":?BENC(?:H)?:TUNE(?:R)?", lambda v: self._tune(v)),
            (r":?BENC(?:H)?:FAUL(?:T)?", lambda v: self._break(v)),
            (r":?BENC(?:H)?:FAUL(?:T)?\?", lambda _: self._faulty().read().encode()),
            (r":?BENC(?:H)?:FAUL(?:T)?:TOLD\?", lambda _: self._faulty().told().encode()),
            (r":?BENC(?:H)?:CAT(?:ALOG)?\?", lambda _: _catalogue()),
        ]

    def _reset(self) -> None:
        self.low_hz, self.high_hz, self.points = 1e6, 30e6, 101

    def _complain(self) -> bytes:
        return self._errors.pop(0).encode() if self._errors else b'0,"No error"'

    def _set(self, name: str, text: str, least: float, most: float) -> None:
        value = float(text)
        if not least <= value <= most:
            raise ValueError(f"{text} is not within {least:.0f} to {most:.0f}")
        setattr(self, name, int(value) if name == "points" else value)

    def _screw_on(self, text: str) -> None:
        key = text.strip('"')
        if key not in THINGS and key not in STANDARD_LABELS and key not in self._own():
            raise ValueError(f"there is no {key[:40]} on this bench")
        self.on = key

    def _own(self) -> set[str]:
        """What was made here and lies ready."""
        made = {
            WOUND: self.wound,
            HUNG: self.hung,
            TUNER: self.tuners.thing,
            BUILT: self.built,
            FAULTY: self.faulty,
        }
        return {key for key, thing in made.items() if thing is not None}

    def _hang(self, text: str) -> None:
        """Legs of so many metres, so much of each folded back: what hands did to the wire."""
        leg, _, folded = text.partition(",")
        leg_m, folded_m = float(leg), float(folded or 0)
        if not (0.1 <= leg_m <= 100 and 0 <= folded_m < leg_m):
            raise ValueError("legs of 0.1 to 100 m, folded by less than that")
        self.leg_m, self.folded_m = leg_m, folded_m

    def _lay_on(self, text: str) -> None:
        """Wind something and put it on."""
        self.wound = WoundThing(text, self._seed)
        self.on = WOUND

    def _hang_up(self, text: str) -> None:
        """Hang a planned antenna on this site and put it on."""
        self.hung = HungThing(text, self._seed)
        self.on = HUNG

    def _build(self, text: str) -> None:
        """Build a match and put it on."""
        self.built = BuiltThing(text, self._seed)
        self.on = BUILT

    def _break(self, text: str) -> None:
        """Do a test to an installation that broke, and put it on."""
        self.faulty = FaultyThing(text, self._seed)
        self.on = FAULTY

    def _faulty(self) -> FaultyThing:
        if self.faulty is None:
            raise ValueError("nothing went wrong here yet")
        return self.faulty

    def _tune(self, text: str) -> None:
        """Turn the dials of a tuner and put it on."""
        self.tuners.set(text)
        self.on = TUNER

    def _sweep(self) -> None:
        if self.low_hz > self.high_hz:
            raise ValueError("the sweep ends before it begins")
        self._wait(SECONDS_A_POINT * self.points)
        self._trace = self.raw(np.linspace(self.low_hz, self.high_hz, self.points))

    def _read_out(self) -> bytes:
        numbers = self._trace.view(float)
        if not self._binary:
            return ",".join(f"{v:.9e}" for v in numbers).encode()
        block = numbers.astype("<f4" if self._swapped else ">f4").tobytes()
        size = str(len(block))
        return f"#{len(size)}{size}".encode() + block


def _said(value: float) -> bytes:
    return f"{value:.3f}".encode()


def _catalogue() -> bytes:
    labels = {
        **STANDARD_LABELS,
        **{key: thing.label for key, thing in THINGS.items()},
        WOUND: WOUND_LABEL,
        HUNG: HUNG_LABEL,
        TUNER: TUNER_LABEL,
        BUILT: BUILT_LABEL,
        FAULTY: FAULTY_LABEL,
    }
    return ",".join(f'"{key}={label.replace(",", "")}"' for key, label in labels.items()).encode()


class SimulatorServer(socketserver.ThreadingTCPServer):
    """The simulator on a port of this computer; one instrument for all who connect."""

    allow_reuse_address = False
    daemon_threads = True
    disable_nagle_algorithm = True

    def __init__(self, simulator: Simulator, port: int = 0) -> None:
        self.simulator = simulator
        self.one_at_a_time = threading.Lock()
        super().__init__(("127.0.0.1", port), _Talk)

    @property
    def address(self) -> str:
        """host:port."""
        return f"127.0.0.1:{self.server_address[1]}"


class _Talk(socketserver.StreamRequestHandler):
    disable_nagle_algorithm = True
    server: SimulatorServer

    def handle(self) -> None:
        with contextlib.suppress(ConnectionError):
            while line := self.rfile.readline(1 << 16):
                with self.server.one_at_a_time:
                    said = self.server.simulator.answer(line.decode("ascii", "replace").strip())
                if said is not None:
                    self.wfile.write(said + b"\n")


def _serve_on(simulator: Simulator, first_port: int) -> SimulatorServer:
    for port in range(first_port, first_port + 40):
        with contextlib.suppress(OSError):
            return SimulatorServer(simulator, port)
    return SimulatorServer(simulator)


def main() -> None:
    """Serve until standard input ends."""
    parser = argparse.ArgumentParser(description="A simulated analyser on this computer.")
    parser.add_argument("--port", type=int, default=FIRST_PORT, help="port, or the next free one")
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    server = _serve_on(Simulator(asked.seed), asked.port)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    print(server.address, flush=True)
    sys.stdin.buffer.read()
    os._exit(0)


if __name__ == "__main__":
    main()
