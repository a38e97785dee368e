"""The driver over a real socket: it reads what the simulator says, and survives what a bad one does."""

import time

import numpy as np
import pytest
from analyser_faults import Faulty, serving, simulated
from patience import PATIENCE_S

from yielding_coil.analyser.child import SimulatorChild
from yielding_coil.analyser.driver import (
    AnalyserGarbageError,
    AnalyserGoneError,
    AnalyserRefusedError,
    AnalyserSilentError,
    grid,
    take,
)
from yielding_coil.analyser.profiles import Profile, profile, profiles
from yielding_coil.analyser.scpi import ScpiAnalyser
from yielding_coil.analyser.transport import host_and_port
from yielding_coil.core.errors import NotFoundError, OutOfDomainError


def keep_on(step, taken):
    return True


@pytest.mark.parametrize("key", ["plain", "blocks"])
def test_it_reads_the_simulator_by_either_profile(key):
    with serving(simulated()) as server:
        analyser = ScpiAnalyser(server.address, profile(key))
        assert analyser.identity.startswith("YIELDING COIL,SIMULATED ANALYSER")
        assert (analyser.low_hz, analyser.high_hz) == (0.1e6, 200e6)
        analyser.screw_on("r100")
        assert analyser.thing() == "r100"
        assert "loft=loft dipole for 12 m" in analyser.things()
        f = grid(20e6, 25e6, 401)
        taken, problem = take(analyser, f, 4, keep_on)
        assert problem is None
        assert taken.passes == 4
        server.simulator.on = "r100"
        expected = np.mean([server.simulator.raw(f) for _ in range(64)], axis=0)
        assert np.abs(taken.mean - expected).max() < 5e-3  # noise of 1.5e-3 rms, four passes, 401 points
        analyser.close()


def test_one_point_and_progress_and_stop():
    with serving(simulated()) as server:
        analyser = ScpiAnalyser(server.address, profile("plain"))
        taken, problem = take(analyser, grid(21e6, 21e6, 1), 1, keep_on)
        assert problem is None
        assert taken.mean.shape == (1,)
        steps = []

        def until_the_second_pass(step, taken):
            steps.append((step.number, step.points))
            return step.number < 2

        taken, _ = take(analyser, grid(20e6, 22e6, 301), None, until_the_second_pass)
        assert steps == [(1, 100), (1, 200), (1, 301), (2, 100)]
        assert taken.passes == 1
        analyser.close()


@pytest.mark.parametrize(
    ("fault", "error", "words"),
    [
        ("closed", AnalyserGoneError, "broke; connect again, what was swept before is kept"),
        ("silent", AnalyserSilentError, "did not answer within 0.5 s"),
        ("garbage", AnalyserGarbageError, "where a sweep was expected"),
        ("bytes", AnalyserGarbageError, "where a sweep was expected"),
        ("short", AnalyserGarbageError, "answered 2 numbers to a sweep of 101 points"),
        ("nan", AnalyserGarbageError, "to a sweep of 101 points"),
        ("endless", AnalyserGarbageError, "does not stop answering"),
    ],
)
def test_what_goes_wrong_in_the_middle_is_said_and_whole_passes_are_kept(fault, error, words):
    with serving(Faulty(fault, after=2)) as server:
        # Longer than a busy machine makes a good answer wait; a silent one is waited for to the end.
        timeout_s = 0.5 if fault == "silent" else 2.0
        analyser = ScpiAnalyser(server.address, profile("plain"), timeout_s=timeout_s)
        taken, problem = take(analyser, grid(20e6, 22e6, 101), 5, keep_on)
        assert isinstance(problem, error)
        assert words in problem.message
        assert taken.passes == 2
        assert np.isfinite(taken.mean).all()
        analyser.close()
        server.mend()
        again = ScpiAnalyser(server.address, profile("plain"))
        assert take(again, grid(20e6, 22e6, 101), 1, keep_on)[1] is None
        again.close()


def test_a_whole_answer_read_late_on_a_busy_computer_counts(monkeypatch):
    with serving(simulated()) as server:
        analyser = ScpiAnalyser(server.address, profile("plain"), timeout_s=2.0)
        read = analyser._bytes

        clock = time.monotonic
        behind = 0.0

        def late(*how, **more):
            nonlocal behind
            came = read(*how, **more)
            behind += 2.1
            return came

        monkeypatch.setattr(analyser, "_bytes", late)
        monkeypatch.setattr(time, "monotonic", lambda: clock() + behind)
        assert analyser.thing()
        analyser.close()


def test_an_instrument_that_does_not_know_a_command_is_quoted():
    plain = profile("plain")
    other = Profile(**{**{k: getattr(plain, k) for k in plain.__slots__}, "start": "TRIG:MAGIC"})
    with serving(simulated()) as server:
        analyser = ScpiAnalyser(server.address, other)
        with pytest.raises(AnalyserRefusedError, match='says -113,"Undefined header; TRIG:MAGIC"'):
            analyser.sweep(20e6, 22e6, 11)
        analyser.close()


def test_nobody_there_and_addresses_that_are_none():
    with pytest.raises(AnalyserGoneError, match="nothing answers at 127.0.0.1:9: is it switched on"):
        ScpiAnalyser("127.0.0.1:9", profile("plain"), timeout_s=0.5)
    for bad in ("somewhere", "host:", ":5025", "a b:5025", "host:99999", "host:²", "-host:1", "::1:5025/x"):
        with pytest.raises(OutOfDomainError, match="host:port"):
            ScpiAnalyser(bad, profile("plain"))
    for good in ("bench-analyser.local:5025", "my_box:1", "192.0.2.7:5025"):
        assert host_and_port(good)[0] == good.partition(":")[0]
    with pytest.raises(NotFoundError, match="there is no profile “magic”"):
        profile("magic")
    assert {"plain", "blocks"} <= set(profiles())


@pytest.mark.deep
def test_the_child_starts_stops_and_starts_again_when_killed():
    child = SimulatorChild()
    address = child.start()
    try:
        ScpiAnalyser(address, profile("plain")).close()
        assert child.start() == address
        child._process.kill()
        child._process.wait()
        assert not child.running
        with pytest.raises(AnalyserGoneError):
            ScpiAnalyser(address, profile("plain"), timeout_s=0.5)
        ScpiAnalyser(child.start(), profile("plain")).close()
    finally:
        child.stop()


@pytest.mark.deep
def test_it_ends_when_whoever_started_it_is_gone():
    child = SimulatorChild()
    child.start()
    process = child._process
    process.stdin.close()  # what the system does when the parent dies, however it died
    until = time.monotonic() + PATIENCE_S
    while process.poll() is None and time.monotonic() < until:
        time.sleep(0.02)
    assert process.poll() == 0
    process.stdout.close()
