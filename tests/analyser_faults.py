"""Analysers that misbehave, each in its own way, on a port of this computer."""

import contextlib
import socketserver
import threading
import time

from yielding_coil.analyser.simulator import Simulator, SimulatorServer

# A pass, and the hand that asked for it.
BETWEEN_SWEEPS_S = 0.5


@contextlib.contextmanager
def serving(server):
    """A server running in a thread."""
    thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.02}, daemon=True)
    thread.start()
    try:
        yield server
    finally:
        server.shutdown()
        server.server_close()
        thread.join()


def simulated(seed=1):
    """The simulator, not waiting for its own sweeps; its wind blows by them, the same on every machine."""
    swept = [0.0]

    def sweep(seconds):
        swept[0] += max(seconds, BETWEEN_SWEEPS_S)

    return SimulatorServer(Simulator(seed, lambda: swept[0], sweep))


class Running:
    """What starts a simulated analyser, when one is there already; `running` is told by the test."""

    def __init__(self, server):
        self.server = server
        self.running = True

    def start(self):
        self.running = True
        return self.server.address


class Faulty(SimulatorServer):
    """A simulator that does one thing wrong once `after` traces were read out; `mend` puts it right."""

    def __init__(self, fault, after=0):
        super().__init__(Simulator(1, time.monotonic, lambda seconds: None))
        self.fault, self.left = fault, after
        self.RequestHandlerClass = _Faulty

    def mend(self):
        self.fault = None


class _Faulty(socketserver.StreamRequestHandler):
    def handle(self):
        with contextlib.suppress(ConnectionError):
            while line := self.rfile.readline(1 << 16):
                with self.server.one_at_a_time:
                    said = self.server.simulator.answer(line.decode().strip())
                if b"SENS:DATA?" in line:
                    self.server.left -= 1
                    fault = self.server.fault if self.server.left < 0 else None
                    if fault == "closed":
                        return
                    if fault == "silent":
                        continue
                    if fault == "garbage":
                        said = b"1.0,2.0,oops"
                    if fault == "short":
                        said = b"1.0,2.0"
                    if fault == "bytes":
                        said = bytes(range(128, 160))
                    if fault == "nan":
                        said = b",".join([b"nan"] * 2 * self.server.simulator.points)
                    if fault == "endless":
                        while True:
                            self.wfile.write(b"1.0," * 4096)
                if said is not None:
                    self.wfile.write(said + b"\n")
