"""L networks for a design, as one would make them."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil import data
from yielding_coil.core.design import Design
from yielding_coil.core.matching import LARGEST_COAX_F, MatchTemplate, propose, propose_switched
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target

TEMPLATE = MatchTemplate(data.winding_wire("cu-1.6"), data.cable_row("pe-5"))
SEVENTEEN = Target("17 m", 18.068e6, 18.168e6, 2.0)


def design(antenna, *targets):
    return Design(antenna=antenna, targets=targets or (SEVENTEEN,), elements=())


def test_a_wire_of_the_trade_gets_its_coil_and_its_capacitor():
    """94 − j463 Ω at 18.1 MHz: 3.00 µH in series, 7.01 pF across the wire (common practice: 3 µH, 7 pF)."""
    found = propose(design(FixedLoad(94 - 463j)), TEMPLATE, at_hz=18.1e6)
    coil_up = next(
        c for c in found if (c.shape.series, c.shape.shunt, c.shape.shunt_at) == ("coil", "capacitor", "load")
    )
    capacitor, coil = coil_up.parts

    assert (capacitor.kind, capacitor.place) == ("coax_capacitor", "shunt")
    assert capacitor.value == pytest.approx(7.01e-12, rel=0.01)
    assert coil.value == pytest.approx(3.00e-6, rel=0.01)
    assert coil_up.worst_swr < 1.5
    assert coil_up.heat_w > 0


def test_a_coil_that_is_nothing_on_the_usual_former_is_wound_on_another():
    """Half an ohm at 18 MHz wants some tens of nanohenries: one turn on 32 mm is more already."""
    thin = design(FixedLoad(0.5 - 0.8j))
    stuck = [c for c in propose(thin, TEMPLATE) if c.refused and "take another former" in c.refused]
    made = [c for c in propose(thin, replace(TEMPLATE, other_formers_m=(0.05, 0.025, 0.016))) if c.refused is None]

    assert stuck
    assert any(c.former_m in (0.025, 0.016) for c in made)
    for candidate in made:
        coils = [p for p in candidate.parts if p.kind == "coil"]
        assert (candidate.former_m is None) == (not coils)
        for part in coils:
            wound = part.element(replace(TEMPLATE, former_m=candidate.former_m))
            assert wound.turns(18.118e6) >= 1


def test_the_best_yield_comes_first_and_what_cannot_be_made_last():
    found = propose(design(FixedLoad(94 - 463j)), TEMPLATE)
    made = [c for c in found if c.refused is None]

    assert [c.share for c in made] == sorted((c.share for c in made), reverse=True)
    assert [c.refused is None for c in found] == sorted((c.refused is None for c in found), reverse=True)
    assert all(c.parts == () for c in found if c.refused)


def test_a_large_capacitor_is_bought_and_a_small_one_cut():
    for candidate in propose(design(FixedLoad(12 + 30j)), TEMPLATE):
        for part in candidate.parts:
            if part.kind != "coil":
                assert (part.kind == "coax_capacitor") == (part.value <= LARGEST_COAX_F)


@pytest.mark.parametrize("load", [50.0, 50 + 2j, 50 - 0.001j, 50.0001])
@pytest.mark.parametrize("at_hz", [None, 18.118e6])
def test_an_antenna_that_is_matched_needs_no_part_and_is_told_so(load, at_hz):
    """A part of no size cannot be made: refused with the reason, not an accident."""
    found = propose(design(FixedLoad(load)), TEMPLATE, at_hz=at_hz)

    for candidate in found:
        assert candidate.refused is not None or candidate.worst_swr < 1.2
    if load == 50.0 and at_hz:
        assert all("matched without it" in c.refused for c in found)


@pytest.mark.deep
def test_three_points_on_many_bands_are_no_accident():
    """Found by trying it: 40 − j20, 50 + j1, 60 + j22 Ω, and five bands at 1.2."""
    f = np.array([14.0e6, 14.175e6, 14.35e6])
    sweep = Sweep(f, np.array([40 - 20j, 50 + 1j, 60 + 22j]))
    band = Target("20 m", 14.0e6, 14.35e6, 2.0)
    many = tuple(Target(f"band {k}", 7e6 + k * 3e6, 7.1e6 + k * 3e6, 1.2) for k in range(5))

    assert propose(design(sweep, band), TEMPLATE)
    assert propose(design(FixedLoad(55 + 3j), *many), TEMPLATE)


@settings(max_examples=12)
@given(st.floats(5, 500), st.floats(-600, 600))
@pytest.mark.deep
def test_whatever_the_load_every_network_is_made_or_refused_with_a_reason(r, x):
    for candidate in propose(design(FixedLoad(complex(r, x))), TEMPLATE):
        assert (candidate.refused is None) == (len(candidate.parts) == 2)
        assert candidate.refused or candidate.worst_swr >= 1


@pytest.mark.deep
def test_two_bands_that_no_network_serves_together_have_one_each():
    """Found by trying it: 40 and 20 m on one wire; 0 % is nothing to be made, one network a band is."""
    f = np.linspace(6e6, 15.5e6, 401)
    # Half as long as a wave on 40 m (moment-method values of a 20 m wire at 8 m, rounded), R and X smooth between.
    r = np.interp(f, [6e6, 7.1e6, 9e6, 11e6, 13e6, 14.2e6, 15.5e6], [45, 68, 150, 600, 2500, 3600, 1800])
    x = np.interp(f, [6e6, 7.1e6, 9e6, 11e6, 13e6, 14.2e6, 15.5e6], [-190, 5, 330, 900, 1200, -400, -1900])
    both = design(Sweep(f, r + 1j * x), Target("40 m", 7.0e6, 7.2e6, 2.0), Target("20 m", 14.0e6, 14.35e6, 2.0))

    assert all(c.refused or c.few_hold for c in propose(both, TEMPLATE))
    switched = propose_switched(both, TEMPLATE)
    assert [s.target.label for s in switched] == ["40 m", "20 m"]
    assert not any(s.best.few_hold for s in switched)
    assert all(s.best.worst_swr < 2 for s in switched)
