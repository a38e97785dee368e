"""What the drawer keeps of a thing that was characterised."""

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.bench import KeptCapacitor, KeptPart, characterise, kept_material, kept_part, lowest_al_h
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.ring import Ring
from yielding_coil.core.sweep import Sweep

WIDE = np.geomspace(1e6, 30e6, 201)


@pytest.fixture(scope="module")
def found():
    """Ten and four turns on a ring of 61, swept without an error."""
    ring = Ring(data.ring_material("61"), data.ring_size("FT140"))
    wound = [characterise.TurnsSweep(n, Sweep(WIDE, ring.impedance_ohm(WIDE, n, 1.5e-12))) for n in (10, 4)]
    return characterise.ring(wound, data.ring_size("FT140"), list(data.ring_materials().values()))


def test_a_curve_is_kept_in_few_points_over_its_whole_range(found):
    kept = kept_material(found)

    assert len(kept.points) <= 61
    assert (kept.points[0][0], kept.points[-1][0]) == pytest.approx((WIDE[0], WIDE[-1]))
    assert all(real > 0 and loss >= 0 for _, real, loss in kept.points)
    assert kept.like == "61"
    # Nobody's permeability is known better than 2 %, however small the errors of the fit.
    assert 0.02 <= kept.tolerance <= 0.5


def test_its_inductance_factor_is_that_of_its_permeability(found):
    """A_L = µ0·µ'·A/l (IEC 60205)."""
    size = data.ring_size("FT140")
    mu = kept_material(found).points[0][1]

    assert lowest_al_h(found, size) == pytest.approx(4e-7 * np.pi * mu * size.area_m2 / size.path_m, rel=1e-6)


def test_a_coil_and_a_capacitor_with_two_standard_deviations_over_the_value():
    coil = characterise.part(Sweep(WIDE, Inductor(2.2e-6, 200, 14e6, 2e-12).impedance_ohm(WIDE)), "coil")
    farad = characterise.part(Sweep(WIDE, Capacitor(100e-12, 800).impedance_ohm(WIDE)), "capacitor")
    kept, mica = kept_part(coil), kept_part(farad)

    assert isinstance(kept, KeptPart)
    assert kept.inductance_h == pytest.approx(2.2e-6, rel=0.01)
    assert kept.inductance_error == pytest.approx(2 * coil.inductance_h.error / coil.inductance_h.value)
    assert isinstance(mica, KeptCapacitor)
    assert mica.capacitance_f == pytest.approx(100e-12, rel=0.02)
    assert mica.q > 0
