import math

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.ring import Ring, RingCoil
from yielding_coil.core.target import Target
from yielding_coil.core.winding import bend_m, borne, bundle_m, highest_current_a, rated, rating

RING = Ring(data.ring_material("43"), data.ring_size("FT240"))
F = np.geomspace(1.8e6, 30e6, 201)


@pytest.mark.parametrize(
    ("r", "x", "said"),
    [
        (100, 50, "too little"),
        (100, 2000, "reactive"),
        (600, 3000, "enough"),
        (2000, 0, "good"),
        (5000, -4000, "awkward places"),
    ],
)
def test_the_resistive_part_is_what_counts(r, x, said):
    assert rating(r, x) == said


def test_nine_turns_on_the_usual_ring_on_10_m():
    """Of the order of 4 kΩ, largely resistive, at 28 MHz (common practice): good at least, whatever its stray."""
    z = RingCoil(RING, 9, 0.5e-12).impedance_ohm(F)
    found = rated([Target("10 m", 28e6, 29.7e6, 3)], F, z)[0]

    assert 2000 < found.resistance_ohm < 8000
    assert found.rating in ("good", "awkward places")


def test_the_worst_place_of_a_band_is_told():
    """An air choke is good near its own resonance and reactive elsewhere (common practice)."""
    omega = 2 * np.pi * F
    z = 1 / (1 / (1j * omega * 20e-6 * (1 - 1j / 200)) + 1j * omega * 3e-12)
    near, far = rated([Target("20 m", 20e6, 21e6, 3), Target("40 m", 7e6, 7.2e6, 3)], F, z)

    assert near.resistance_ohm > far.resistance_ohm
    assert far.rating == "reactive"
    assert far.at_hz == pytest.approx(7e6)
    # Near resonance it heats far more at the band's other edge than where it chokes least.
    assert near.band_ohm.real.min() == near.resistance_ohm
    assert near.band_ohm.real.max() > 2 * near.resistance_ohm


def test_what_it_bears():
    """|I|²·R and the peak of |I|·|Z|: 0.1 A effective through 3 + j4 kΩ is 30 W and 707 V."""
    found = borne(np.array([3000 + 4000j]), 0.1)

    assert found.power_w[0] == pytest.approx(30)
    assert found.voltage_v[0] == pytest.approx(500 * math.sqrt(2))
    assert borne(np.array([3000 + 0j]), 0.1, 0.3).power_w[0] == pytest.approx(9)
    assert highest_current_a(30, 3000) == pytest.approx(0.1)


def test_coax_bends_round_the_corners_of_the_ring():
    """A section of 12.7 by 12.7 mm has a circle of 18 mm round it."""
    assert bend_m(RING, 5e-3) == pytest.approx(math.hypot(12.725, 12.7) / 2e3 + 2.5e-3, abs=1e-4)


def test_a_pair_carries_a_common_current_as_one_wire_would():
    """By hand: half the current in each, the mean of ln(D/r) and ln(D/s) is that of one wire of radius √(r·s)."""
    d, apart, far = 1.0e-3, 1.8e-3, 1.0
    links = (math.log(far / (d / 2)) + math.log(far / apart)) / 2

    assert math.log(far / (bundle_m(d, apart) / 2)) == pytest.approx(links)


def test_refusals():
    with pytest.raises(OutOfDomainError, match="current_a is -1.0; it must be zero or more"):
        borne(np.array([1 + 0j]), -1.0)
    with pytest.raises(OutOfDomainError, match="allowed_w is 0.0; it must be above zero"):
        highest_current_a(0.0, 1000)
    with pytest.raises(OutOfDomainError, match="outer_m is 0.0"):
        bend_m(RING, 0.0)
