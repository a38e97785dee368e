"""Round wire at radio frequency, against the exact solution of Maxwell's equations in it."""

import numpy as np
import pytest
from scipy.constants import mu_0
from scipy.special import ive

from yielding_coil.core.conductor import Conductor, rim_ohm
from yielding_coil.core.constants import COPPER_RESISTIVITY_OHM_M
from yielding_coil.core.errors import OutOfDomainError


def exact_ohm(length, diameter, frequency, resistivity, permeability=1.0):
    """Internal resistance of an isolated round wire by modified Bessel functions.

    Ramo, Whinnery & Van Duzer, Fields and Waves in Communication Electronics, §3.16: Z = kρ·I0(ka)/(2πa·I1(ka)).
    """
    k = np.sqrt(2j * np.pi * frequency * mu_0 * permeability / resistivity)
    a = diameter / 2
    return float((k * resistivity * ive(0, k * a) / (2 * np.pi * a * ive(1, k * a))).real) * length


@pytest.mark.parametrize("diameter_mm", [0.3, 0.5, 1.0, 2.0])
@pytest.mark.parametrize("mhz", [1.8, 3.6, 7.1, 14.2, 28.4])
def test_the_rim_is_the_whole_wire_to_a_few_percent(diameter_mm, mhz):
    """From about five skin depths in the wire up; 0.05 mm of depth at 1.8 MHz in copper."""
    got = float(rim_ohm(1.0, diameter_mm / 1e3, mhz * 1e6, COPPER_RESISTIVITY_OHM_M))

    assert got == pytest.approx(exact_ohm(1.0, diameter_mm / 1e3, mhz * 1e6, COPPER_RESISTIVITY_OHM_M), rel=0.03)


def test_steel_by_its_permeability():
    got = float(rim_ohm(2.0, 1.5e-3, 7e6, 1.7e-7, 100.0))

    assert got == pytest.approx(exact_ohm(2.0, 1.5e-3, 7e6, 1.7e-7, 100.0), rel=0.02)


def test_at_low_frequency_the_whole_section_carries():
    assert float(rim_ohm(1.0, 1e-3, 50.0, 1.7e-8)) == pytest.approx(1.7e-8 / (np.pi * 0.25e-6))


def test_a_winding_that_carries_part_of_the_current_heats_by_its_square():
    whole, part = Conductor(1.0, 1e-3), Conductor(1.0, 1e-3, share=0.875)

    assert part.resistance_ohm(7e6) == pytest.approx(0.875**2 * whole.resistance_ohm(7e6))


def test_refusals():
    with pytest.raises(OutOfDomainError, match="diameter_m is 0.0"):
        Conductor(1.0, 0.0)
    with pytest.raises(OutOfDomainError, match="length_m is -1.0"):
        Conductor(-1.0, 1e-3)
