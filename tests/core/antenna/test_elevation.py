"""How low it goes: against Fresnel's coefficients and itself."""

import math

import numpy as np
import pytest

from yielding_coil.core.antenna import COMPARED_DEG, elevation_cuts
from yielding_coil.core.constants import EPSILON_0_F_PER_M
from yielding_coil.core.wire import Ground
from yielding_coil.core.wire.kinds import Dipole, Vertical

F = 10.125e6


def test_a_short_vertical_over_soil_loses_what_soil_does_not_reflect():
    """A current at the ground's own height: 20·log |1 + R_v|/2 (Fresnel; Balanis, sec. 4.8)."""
    soil = Ground(0.005, 13)
    short = Vertical(0.6)
    angle = np.array([5.0, 25.0, 60.0])
    found = short.structure().gain_dbi(F, angle, 0.0, soil) - short.structure().gain_dbi(F, angle, 0.0)
    sine, cosine = np.sin(np.radians(angle)), np.cos(np.radians(angle))
    epsilon = 13 - 1j * 0.005 / (2 * math.pi * F * EPSILON_0_F_PER_M)
    root = np.sqrt(epsilon - cosine**2)
    reflected = (epsilon * sine - root) / (epsilon * sine + root)
    assert found == pytest.approx(20 * np.log10(np.abs(1 + reflected) / 2), abs=0.1)


def test_soil_like_copper_is_perfect_ground():
    structure = Vertical(7.1).structure()
    assert structure.gain_dbi(F, 10.0, 0.0, Ground(1e6, 1)) == pytest.approx(
        structure.gain_dbi(F, 10.0, 0.0), abs=0.01
    )


def test_a_dipole_is_as_its_reference_and_a_quarter_wave_goes_lower():
    this, vertical, dipole = elevation_cuts(Dipole(7.06, 7.4), F)
    assert [cut.key for cut in (this, vertical, dipole)] == ["this", "vertical", "dipole"]
    assert this.compared_dbi == pytest.approx(dipole.compared_dbi, abs=0.15)
    assert len(this.compared_dbi) == len(COMPARED_DEG)
    # A quarter-wave high: less than the vertical at 5°, more at 25°; broadside, not off its ends.
    assert this.compared_dbi[0] < vertical.compared_dbi[0]
    assert this.compared_dbi[-1] > vertical.compared_dbi[-1] + 2
    assert this.azimuth_deg in (90.0, 270.0)


def test_a_higher_dipole_goes_lower():
    low, high = (elevation_cuts(Dipole(7.06, height), F)[0].compared_dbi for height in (6.0, 14.0))
    assert (high > low + 3).all()
