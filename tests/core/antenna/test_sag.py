"""Wires that hang through: against the parabola of handbooks, where they agree."""

import math

import pytest

from yielding_coil.core.antenna import sag_of
from yielding_coil.core.antenna.sag import GRAVITY_M_PER_S2, catenary_m, kg_per_m
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import Insulation, Stock
from yielding_coil.core.wire.kinds import Dipole, EndFed, Vertical


def test_a_shallow_one_is_a_parabola():
    """w·S²/8T, and P·S/4T for a weight in the middle (statics of cables, any handbook)."""
    assert catenary_m(20.0, 0.28, 60.0) == pytest.approx(0.28 * 20**2 / (8 * 60), rel=2e-3)
    both = catenary_m(20.0, 0.28, 60.0, 4.0)
    assert both == pytest.approx(0.28 * 20**2 / (8 * 60) + 4.0 * 20 / (4 * 60), rel=5e-3)


def test_a_deep_one_is_a_catenary():
    """A chain whose pull equals the weight of half its span: a·(cosh 1 − 1)."""
    assert catenary_m(20.0, 1.0, 10.0) == pytest.approx(10 * (math.cosh(1) - 1))


def test_weight_of_wire():
    """2 mm of copper weighs 28.1 g a metre (wire tables, from memory); a covering adds to it."""
    assert kg_per_m(Stock(0.001)) == pytest.approx(0.0281, rel=5e-3)
    assert kg_per_m(Stock(0.001, insulation=Insulation(0.0015, 2.5))) == pytest.approx(0.0332, rel=0.01)


def test_coax_in_the_middle_pulls_it_down():
    dipole, end_fed = sag_of(Dipole(7.0, 8.0)), sag_of(EndFed(14.0, 1.5, 8.0, 8.0))
    assert end_fed.coax_kg == 0
    assert dipole.coax_kg == pytest.approx(0.15 + 8 * 0.038)
    assert dipole.middle_m > 2 * end_fed.middle_m
    assert dipole.mean_m < dipole.middle_m
    weight = kg_per_m(Stock()) * 14.0
    assert dipole.wire_kg == pytest.approx(weight)
    assert end_fed.middle_m == pytest.approx(weight * GRAVITY_M_PER_S2 * 14.0 / (8 * 50), rel=5e-3)


def test_harder_pull_hangs_through_less():
    slack, tight = sag_of(Dipole(7.0, 8.0), 30.0), sag_of(Dipole(7.0, 8.0), 120.0)
    assert tight.middle_m < slack.middle_m / 3
    # 2 mm of soft copper tears at some 690 N (220 N/mm², handbook value).
    assert tight.tears_share == pytest.approx(120 / 691, rel=0.01)


def test_what_stands_does_not_sag():
    assert sag_of(Vertical(7.0)) is None
    with pytest.raises(OutOfDomainError, match="pull_n is 0"):
        sag_of(Dipole(7.0, 8.0), 0.0)
