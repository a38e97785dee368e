import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of, return_loss_db, swr_of
from yielding_coil.core.sweep import Sweep

F0 = 14e6


def series_circuit(resistance=50.0, q=10.0, points=801, width=0.3):
    """R, L and C in series, resonant at 14 MHz, Q with its own R."""
    f = np.linspace(F0 * (1 - width / 2), F0 * (1 + width / 2), points)
    return Sweep(f, resistance * (1 + 1j * q * (f / F0 - F0 / f)))


@pytest.mark.parametrize(("load", "swr"), [(25, 2.00), (50, 1.00), (100, 2.00), (25 + 25j, 2.618)])
def test_swr_of_a_load(load, swr):
    """Pozar, Microwave Engineering, 4th ed., eq. (2.41): (1 + |Γ|)/(1 − |Γ|), worked by hand."""
    assert float(swr_of(reflection_of(load))) == pytest.approx(swr, abs=5e-4)


@pytest.mark.parametrize(("swr", "loss_db", "percent"), [(1.5, 13.98, 4.0), (2, 9.54, 11.1), (3, 6.02, 25.0)])
def test_return_loss_and_reflected_power(swr, loss_db, percent):
    """Table of SWR, return loss and reflected power, any handbook (memory); printed to 0.01 dB and 0.1 %."""
    gamma = reflection_of(50 * swr)

    assert float(return_loss_db(gamma)) == pytest.approx(loss_db, abs=0.005)
    assert 100 * abs(gamma) ** 2 == pytest.approx(percent, abs=0.06)


@pytest.mark.parametrize(("db", "swr"), [(-4, 4.42), (-20, 1.22)])
def test_swr_of_a_reflection_in_decibels(db, swr):
    """The same table, read the other way."""
    assert float(swr_of(10 ** (db / 20))) == pytest.approx(swr, abs=0.005)


@pytest.mark.parametrize(("resistance", "percent"), [(50, 7.071), (40, 7.500), (62.5, 6.000)])
def test_bandwidth_of_a_series_circuit(resistance, percent):
    """(f0/Q)·√[(sr − 1)(s − r)/s]/r with s 2, Q 10: Yaghjian & Best 2005, solved for a mismatched R."""
    band = series_circuit(resistance).bandwidth(2)

    assert 100 * (band.high_hz - band.low_hz) / F0 == pytest.approx(percent, abs=0.002)
    assert (band.low_open, band.high_open) == (False, False)


def test_bandwidth_does_not_hang_on_the_samples():
    """Five coarse samples give what eight hundred give, to 1 % of the band."""
    coarse, fine = series_circuit(points=9).bandwidth(2), series_circuit().bandwidth(2)

    assert coarse.low_hz == pytest.approx(fine.low_hz, rel=5e-4)
    assert coarse.high_hz == pytest.approx(fine.high_hz, rel=5e-4)


def test_bandwidth_that_leaves_the_sweep_says_so():
    band = series_circuit(width=0.04).bandwidth(2)

    assert (band.low_open, band.high_open) == (True, True)
    assert band.low_hz == pytest.approx(F0 * 0.98)


def test_no_bandwidth_where_the_limit_is_never_met():
    assert series_circuit(300).bandwidth(2) is None


def test_resonance_and_its_resistance():
    (found,) = series_circuit(36, points=200).resonances()

    assert found.kind == "series"
    assert found.frequency_hz == pytest.approx(F0, rel=1e-7)
    assert found.resistance_ohm == pytest.approx(36, rel=1e-5)


def test_a_parallel_circuit_is_an_anti_resonance():
    f = np.linspace(6.8e6, 7.2e6, 100)
    (found,) = Sweep(f, 1 / (1 / 3000 + 0.01j * (f / 7e6 - 7e6 / f))).resonances()

    assert (found.kind, found.resistance_ohm) == ("parallel", pytest.approx(3000, rel=1e-4))


def test_a_sample_on_resonance_is_found_once():
    sweep = Sweep(np.array([1e6, 2e6, 3e6]), np.array([50 - 10j, 40, 50 + 10j]))

    assert [r.frequency_hz for r in sweep.resonances()] == [2e6]


def test_best_match_lies_between_the_samples():
    best = series_circuit(points=12).best_match()

    assert best.frequency_hz == pytest.approx(F0, rel=1e-3)
    assert best.swr == pytest.approx(1, abs=0.02)


@pytest.mark.parametrize("q", [4, 10, 60])
def test_q_of_a_series_circuit(q):
    """Yaghjian & Best 2005, eq. (96): a series circuit's Q at resonance is its own."""
    assert series_circuit(q=q).q(F0) == pytest.approx(q, rel=2e-3)


def test_q_survives_an_analysers_noise():
    clean = series_circuit(q=12, points=401)
    noise = np.random.default_rng(20261123).normal(0, 0.3, (2, 401))
    noisy = Sweep(clean.frequency_hz, clean.impedance_ohm + noise[0] + 1j * noise[1])

    assert noisy.q(F0) == pytest.approx(12, rel=0.03)


def test_impedance_is_read_between_samples_and_refused_outside():
    sweep = series_circuit(points=51)

    assert sweep.impedance_at(F0 * 1.011) == pytest.approx(50 * (1 + 10j * (1.011 - 1 / 1.011)), rel=1e-4)
    with pytest.raises(OutOfDomainError, match="inside the sweep"):
        sweep.impedance_at(20e6)


@pytest.mark.parametrize(
    ("frequency", "impedance", "words"),
    [
        ([2e6, 1e6], [50, 50], "it must be rising"),
        ([1e6, 1e6], [50, 50], "it must be rising"),
        ([0.0, 1e6], [50, 50], "frequency_hz is 0.0; it must be above zero"),
        ([1e6, 2e6], [50, np.nan], "it must be a finite number"),
        ([1e6, 2e6], [50], "one value per frequency"),
        ([], [], "at least one frequency"),
    ],
)
def test_what_is_no_sweep_is_refused(frequency, impedance, words):
    with pytest.raises(OutOfDomainError, match=words):
        Sweep(np.array(frequency, dtype=float), np.array(impedance, dtype=complex))


def test_a_limit_of_one_is_refused():
    with pytest.raises(OutOfDomainError, match="swr_limit is 1; it must be above 1"):
        series_circuit().bandwidth(1)
