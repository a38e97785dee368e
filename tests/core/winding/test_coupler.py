import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.ring import Ring
from yielding_coil.core.target import Target
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.winding import Coupler

RING = Ring(data.ring_material("2"), data.ring_size("T68"))
PLAIN = Coupler(Transformer(RING, 3, 20), 8e-12, 250e-12)
LOOSE = Coupler(Transformer(RING, 3, 20, 0.08e-6, 2e-12), 8e-12, 250e-12)
WIRE = FixedLoad(2700.0)


@pytest.mark.parametrize(("picofarad", "mhz"), [(227, 7.0), (24, 21.45)])
def test_what_tunes_it(picofarad, mhz):
    """3 in 20 on a 0.68 inch ring of mix 2: 227 pF for 7.0 MHz, 24 pF for 21.45 (computed)."""
    assert PLAIN.capacitance_for(mhz * 1e6) * 1e12 == pytest.approx(picofarad, rel=0.02)
    assert PLAIN.tunes_hz(picofarad * 1e-12) == pytest.approx(mhz * 1e6, rel=0.01)


def test_2700_ohm_reads_near_50():
    """51 to 57 Ω through 3 in 20 with a coil Q of 150 (computed); the powder's estimated loss is near that."""
    for found in PLAIN.settings(WIRE, [Target("40", 7e6, 7.2e6, 2), Target("15", 21e6, 21.45e6, 2)]):
        assert 50 < found.seen_ohm.real < 59
        assert found.within


def test_the_best_setting_is_the_best_of_many():
    """Every setting of a fine comb leaves a worse or the same match."""
    found = LOOSE.settings(WIRE, [Target("20", 14e6, 14.35e6, 2)])[0]
    combed = LOOSE.seen_ohm(np.array([found.at_hz]), np.array([2700.0]), np.linspace(8e-12, 250e-12, 20001))
    gamma = np.abs((combed - 50) / (combed + 50)).min()

    assert found.swr == pytest.approx((1 + gamma) / (1 - gamma), abs=1e-4)


def test_a_band_beyond_its_range_is_at_the_stop():
    low, high = LOOSE.settings(WIRE, [Target("80", 3.5e6, 3.8e6, 2), Target("6", 50e6, 52e6, 2)])

    assert (low.within, low.capacitance_f) == (False, 250e-12)
    assert (high.within, high.capacitance_f) == (False, 8e-12)
    assert low.swr > 3
    assert high.swr > 1.5


def test_squeezing_the_primary_takes_reactance_away():
    """Tuned for a pure resistance on the secondary, what is left is the leakage's reactance (practice: squeeze)."""
    f = np.array([21.2e6])
    tuned = np.array([LOOSE.capacitance_for(21.2e6)])
    left = [LOOSE.with_leakage(k).seen_ohm(f, np.array([2700 + 0j]), tuned)[0, 0].imag for k in (0.5, 1.0, 1.8)]

    assert left[0] < left[1] < left[2]
    assert left[2] - left[0] == pytest.approx(2 * np.pi * 21.2e6 * 0.08e-6 * 1.3, rel=0.01)


def test_a_range_upside_down_is_refused():
    with pytest.raises(OutOfDomainError, match="below the other end"):
        Coupler(PLAIN.transformer, 200e-12, 20e-12)
