"""An analyser at a serial port: a pseudo-terminal, at whose other end the simulated one speaks."""

import contextlib
import os
import pty
import threading
import time
import tty

import numpy as np
import pytest

from yielding_coil.analyser.driver import AnalyserGarbageError, AnalyserGoneError, AnalyserSilentError
from yielding_coil.analyser.link import Link
from yielding_coil.analyser.profiles import profile
from yielding_coil.analyser.scpi import ScpiAnalyser
from yielding_coil.analyser.simulator import Simulator
from yielding_coil.core.errors import OutOfDomainError


class Port:
    """One end of a pseudo-terminal as a serial port; `fault` says what it does instead of answering a trace."""

    def __init__(self):
        self.inner, outer = pty.openpty()
        tty.setraw(outer)
        self.path, self._outer = os.ttyname(outer), outer
        self.fault = None
        self.simulator = Simulator(1, time.monotonic, lambda seconds: None)
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _serve(self):
        waiting = b""
        with contextlib.suppress(OSError):
            while piece := os.read(self.inner, 4096):
                *lines, waiting = (waiting + piece).split(b"\n")
                for line in lines:
                    self._answer(line)

    def _answer(self, line):
        said = self.simulator.answer(line.decode().strip())
        if b"SENS:DATA?" in line:
            if self.fault == "silent":
                return
            if self.fault == "noise":
                said = bytes(range(128, 160))
            if self.fault == "unplugged":
                os.close(self.inner)
                return
        if said is not None:
            rest = said + b"\n"
            while rest:
                rest = rest[os.write(self.inner, rest) :]

    def close(self):
        with contextlib.suppress(OSError):
            os.close(self._outer)
        with contextlib.suppress(OSError):
            os.close(self.inner)
        self._thread.join(5)


@pytest.fixture
def port():
    found = Port()
    yield found
    found.close()


@pytest.mark.parametrize("key", ["plain", "blocks"])
def test_it_sweeps_over_a_serial_port_as_over_the_network(port, key):
    """Binary blocks too, in which any byte may be an end of line."""
    analyser = ScpiAnalyser(port.path, profile(key))
    analyser.screw_on("load")
    swept = [analyser.sweep(14e6, 15e6, n) for n in (3, 101)]
    analyser.close()

    assert analyser.address == port.path
    assert "simulated" in analyser.identity.lower()
    assert [s.size for s in swept] == [3, 101]
    # A load behind the simulator's own errors: directivity 0.045, a lead, noise (docs/analyser.md).
    assert np.abs(swept[1]).max() < 0.2


@pytest.mark.parametrize(
    ("fault", "error"),
    [("silent", AnalyserSilentError), ("noise", AnalyserGarbageError), ("unplugged", AnalyserGoneError)],
)
def test_what_goes_wrong_at_a_port_is_said_as_such(port, fault, error):
    analyser = ScpiAnalyser(port.path, profile("plain"), timeout_s=0.4)
    port.fault = fault

    with pytest.raises(error, match=port.path):
        analyser.sweep(14e6, 15e6, 11)
    analyser.close()


def test_what_was_said_before_it_was_asked_is_no_answer(port):
    """An instrument that greets when it is switched on."""
    os.write(port.inner, b"READY\nREADY\n")
    time.sleep(0.05)
    analyser = ScpiAnalyser(port.path, profile("plain"))
    analyser.close()

    assert "READY" not in analyser.identity


def test_a_port_that_is_not_there_and_one_that_is_none(port):
    with pytest.raises(AnalyserGoneError, match="nothing answers at /dev/ttyUSB99"):
        ScpiAnalyser("/dev/ttyUSB99", profile("plain"))
    for bad in ("/etc/passwd", "/dev/../etc/passwd", "/dev/", "/dev/a b"):
        with pytest.raises(OutOfDomainError, match="/dev/ttyUSB0"):
            ScpiAnalyser(bad, profile("plain"))


def test_the_link_goes_on_at_the_same_port_after_it_broke(port):
    link = Link()
    link.connect("address", port.path, "plain")
    port.fault = "noise"
    with pytest.raises(AnalyserGarbageError), link.using() as instrument:
        instrument.sweep(14e6, 15e6, 11)
    port.fault = None
    with link.using() as instrument:
        assert instrument.sweep(14e6, 15e6, 11).size == 11
    link.connect("none")
