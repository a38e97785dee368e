"""What traps and coils bear: the model beside the line estimate, and both schools of where to tune a trap."""

import numpy as np
import pytest

from yielding_coil.core.antenna import bearing_of, begun, hung_dip, trap_schools, traps_on, tuned_together
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS
from yielding_coil.core.wire.kinds import Dipole, LoadedVertical

UPPER, LOWER = Target("12 m", 24.89e6, 24.99e6, 2.0), Target("15 m", 21.0e6, 21.45e6, 2.0)


@pytest.fixture(scope="module")
def loft():
    return begun("trap-dipole", LOWER, others=(UPPER,))


def test_begun_for_two_bands_it_dips_on_both(loft):
    for band in (UPPER, LOWER):
        assert hung_dip(loft, band.center_hz, 50.0) == pytest.approx(band.center_hz, rel=5e-4)


def test_volts_and_amperes_of_the_model_lie_near_the_line_estimate(loft):
    """The estimate knows neither ground nor how current falls along thin wire: within a third (common practice)."""
    for on in traps_on(loft, (UPPER, LOWER), 100.0):
        assert on.model.voltage_v == pytest.approx(on.estimate.voltage_v, rel=0.35)
        assert on.model.current_a == pytest.approx(on.estimate.current_a, rel=0.35)


def test_what_a_trap_bears_is_its_current_through_its_impedance(loft):
    """U = I·|Z|, P = I²·R/2 for peaks."""
    for on in traps_on(loft, (UPPER, LOWER), 100.0):
        assert on.model.voltage_v == pytest.approx(on.model.current_a * abs(on.model.ohm), rel=1e-9)
        assert on.model.watts == pytest.approx(on.model.current_a**2 * on.model.ohm.real / 2, rel=0.02)


def test_four_times_the_power_is_twice_the_volts(loft):
    one, four = (traps_on(loft, (UPPER,), watts)[0].model for watts in (25.0, 100.0))
    assert four.voltage_v == pytest.approx(2 * one.voltage_v, rel=1e-6)
    assert four.watts == pytest.approx(4 * one.watts, rel=1e-6)


@pytest.mark.deep
def test_a_trap_just_below_its_band_loses_less_and_bears_less(loft):
    """Two schools: inside the band, or just below it, which lowers loss and voltage (common practice)."""
    inside, below = trap_schools(loft, (UPPER, LOWER), 100.0, 50.0)
    assert (inside.school, below.school) == ("inside", "below")
    assert inside.trap_hz == UPPER.center_hz
    assert below.trap_hz < UPPER.low_hz
    assert below.on[0].model.voltage_v < 0.9 * inside.on[0].model.voltage_v
    assert below.on[0].traps_w < 0.8 * inside.on[0].traps_w
    for plan in (inside, below):
        for band in (UPPER, LOWER):
            assert hung_dip(plan.hung, band.center_hz, 50.0) == pytest.approx(band.center_hz, rel=1e-3)


def test_a_trap_on_a_lower_band_acts_as_a_coil(loft):
    """As any trap below its resonance (physics of two parts; 50 pF, 18.12 MHz at 14.1 MHz: 3.91 µH)."""
    assert traps_on(loft, (LOWER,), 100.0)[0].acts_as_h > 0


def test_coils_bear_and_radials_are_none_of_them():
    (coil,) = bearing_of(LoadedVertical(4.0, 2e-5, 0.5), 5.4e6, 100.0)
    assert coil.ohm.imag == pytest.approx(2 * np.pi * 5.4e6 * 2e-5, rel=0.05)
    assert bearing_of(Dipole(3.4, 6.0), 21.2e6, 100.0) == ()


def test_an_antenna_without_traps_has_none(loft):
    assert traps_on(Dipole(3.4, 6.0), (UPPER,), 100.0) == ()


def test_two_bands_on_one_wire_are_refused(loft):
    with pytest.raises(OutOfDomainError, match="a length each"):
        tuned_together(loft, [21.1e6, 21.3e6], 50.0)


@pytest.mark.deep
def test_legs_that_pull_at_each_other_too_much_are_refused():
    """A fan for 12 and 15 m: the short legs would have to be longer than the long ones."""
    fan = KINDS["fan-dipole"].start_for(UPPER.center_hz, LOWER.center_hz)
    with pytest.raises(OutOfDomainError, match="pull at each other"):
        tuned_together(fan, [UPPER.center_hz, LOWER.center_hz], 50.0)


@pytest.mark.deep
def test_a_fan_for_bands_apart_comes_to_both():
    bands = [21.225e6, 10.12e6]
    fan = tuned_together(KINDS["fan-dipole"].start_for(*bands), bands, 50.0)
    for f in bands:
        assert hung_dip(fan, f, 50.0) == pytest.approx(f, rel=1e-3)
