"""The search over small shelves: what it finds, what it says where it finds nothing."""

import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from made_matches import FIFTEEN, a_shelf, bare

from yielding_coil import demo
from yielding_coil.core.design import Design, evaluate
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.search import SearchTask, search_matches
from yielding_coil.core.search.search import made_design
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target
from yielding_coil.formats import touchstone

CAPACITORS = tuple((pf, 1000.0, 2) for pf in (3.9, 10, 22, 47, 100))


@pytest.fixture(scope="module")
def allotment():
    return touchstone.read((Path(demo.__file__).parent / "allotment-feedpoint.s1p").read_bytes())


def searched(antenna, shelf, *targets, **more):
    design = Design(antenna=antenna, targets=targets or (FIFTEEN,), elements=())
    return list(search_matches(SearchTask(design, shelf, **more)))[-1]


@pytest.fixture(scope="module")
def found(allotment):
    return searched(allotment, a_shelf(capacitors=CAPACITORS), duty=0.3)


@pytest.mark.deep
def test_five_capacitors_and_one_former_hold_the_band(found):
    assert found.holds
    assert found.front[0].excess < 0.8
    assert {c.family for c in found.front} <= {"one", "l", "pi", "tee"}
    for choice in found.front:
        for part in choice.parts:
            if part.slot.kind == "coil":
                assert 2 * part.item.make == pytest.approx(round(2 * part.item.make))


@pytest.mark.deep
def test_what_is_told_of_a_choice_is_what_the_core_judges(allotment, found):
    """Evaluation of whole designs is another way through the core: stations, not tables."""
    for choice in found.front:
        design = made_design(
            Design(antenna=allotment, targets=(FIFTEEN,), elements=()), [p.element for p in choice.parts]
        )
        whole = evaluate(design, 100.0)
        arrives = whole.judged[0].power_w / 100.0
        assert float(whole.worst_swr[0]) / FIFTEEN.swr_limit == pytest.approx(choice.excess, rel=1e-6)
        assert choice.worst_swr == pytest.approx((float(whole.worst_swr[0]),), rel=1e-6)
        assert float(-10 * np.log10(arrives.min())) == pytest.approx(choice.loss_db, rel=1e-5)
        assert 0 <= choice.share <= 1


@pytest.mark.deep
def test_no_capacitor_of_a_choice_carries_more_than_it_stands(allotment, found):
    few = searched(allotment, a_shelf(capacitors=[(pf, 300.0, 2) for pf, _, _ in CAPACITORS]), duty=0.3)

    assert few.over_rating > 0
    for state, rated in ((found, 1000.0), (few, 300.0)):
        for choice in state.front:
            design = made_design(
                Design(antenna=allotment, targets=(FIFTEEN,), elements=()), [p.element for p in choice.parts]
            )
            for k, part in enumerate(choice.parts, start=1):
                if part.slot.kind == "capacitor":
                    volts = float(evaluate(design, 100.0).judged[k].peak_voltage_v.max())
                    both = part.item.pair.voltage_v if part.item.pair else rated
                    assert volts <= both * (1 + 1e-9)


@pytest.mark.deep
def test_power_beyond_every_rating_leaves_nothing_and_says_why(allotment):
    state = searched(allotment, a_shelf(capacitors=CAPACITORS), power_w=2e4)

    assert state.over_rating > 0
    assert not any(p.slot.kind == "capacitor" for c in state.front for p in c.parts)
    assert not state.holds


@pytest.mark.deep
def test_a_loop_of_112_ohm_gets_its_quarter_wave_of_75():
    """Common practice: a full-wave triangle, a quarter-wave of 75 Ω coax (1.735 m at VF 0.66, 28.51 MHz)."""
    band = Target("10 m", 28.46e6, 28.56e6, 1.5)
    f = np.linspace(27e6, 30e6, 61)
    state = searched(bare(f, 112), a_shelf(formers=(), cables=("pe-6-75", "pe-5")), band)

    alone = next(c for c in state.front if c.family == "section")
    (part,) = alone.parts
    assert part.element.cable.key == "pe-6-75"
    assert part.element.length_m == pytest.approx(1.735, abs=0.03)
    assert alone.worst_swr[0] < 1.05


@pytest.mark.deep
def test_a_five_eighths_gets_its_coil_and_its_capacitor_of_coax():
    """94 − j463 Ω at 18.1 MHz: 3.00 µH in series, 7.01 pF across the wire (common practice: 3 µH, 7 pF)."""
    band = Target("17 m", 18.068e6, 18.168e6, 1.5)
    shelf = a_shelf(cables=("pe-5",), formers=((0.032, 0.1), (0.04, 0.1)))
    state = searched(bare(np.linspace(17e6, 19e6, 61), 94 - 463j), shelf, band)

    two = [c for c in state.front if c.network.key == "shunt-capacitor series-coil"]
    assert two
    best = min(two, key=lambda c: c.excess)
    assert best.parts[0].item.value == pytest.approx(7.0e-12, rel=0.25)
    assert best.parts[1].item.value == pytest.approx(3.0e-6, rel=0.05)


@pytest.mark.deep
def test_an_antenna_that_is_matched_wants_nothing():
    state = searched(FixedLoad(48 + 1j), a_shelf(capacitors=CAPACITORS))

    nothing = next(c for c in state.front if c.family == "none")
    assert nothing.worst_swr[0] == pytest.approx(1.047, abs=0.001)
    assert (nothing.count, nothing.loss_db) == (0, 0.0)


def test_an_empty_shelf_finds_nothing_and_names_the_wire_as_it_is(allotment):
    state = searched(allotment, a_shelf(formers=(), wires=()))

    assert not state.holds
    assert [i.network.key for i in state.ideals] == ["none"]


def test_a_band_beyond_the_sweep_is_refused(allotment):
    with pytest.raises(OutOfDomainError, match="inside the sweep"):
        searched(allotment, a_shelf(), Target("10 m", 28e6, 29e6, 2.0))


def test_an_antenna_that_gives_power_back_is_refused():
    f = np.linspace(20e6, 22e6, 21)
    with pytest.raises(OutOfDomainError, match="a resistance above zero"):
        searched(Sweep(f, np.full(21, -2 + 10j)), a_shelf(capacitors=CAPACITORS))


@pytest.mark.deep
def test_where_one_network_cannot_serve_two_bands_it_says_what_two_would_do():
    """A wire resonant between 20 and 15 m: capacitive on one, inductive on the other, and sharp."""
    f = np.linspace(13e6, 23e6, 401)
    sharp = Sweep(f, 20 + 1j * 600 * (f / 17.5e6 - 17.5e6 / f))
    low, high = Target("20 m", 14.0e6, 14.2e6, 1.5), Target("15 m", 21.0e6, 21.3e6, 1.5)
    state = searched(sharp, a_shelf(capacitors=CAPACITORS[:3]), low, high)

    assert not state.holds
    assert state.ideals[0].excess > 1
    assert state.give_up.target in (low, high)
    assert state.give_up.ideal.excess < state.ideals[0].excess
    assert (state.switched.first, state.switched.second) == ((low,), (high,))
    assert state.switched.excess < state.ideals[0].excess


@pytest.mark.deep
def test_progress_only_grows_and_the_front_never_worsens(allotment):
    design = Design(antenna=allotment, targets=(FIFTEEN,), elements=())
    states = list(search_matches(SearchTask(design, a_shelf(capacitors=CAPACITORS))))

    assert [s.looked for s in states] == sorted(s.looked for s in states)
    assert [s.done for s in states] == sorted(s.done for s in states)
    assert states[-1].stage == "done"
    assert states[-1].done == states[-1].of
    best = math.inf
    for state in states:
        if state.front:
            assert state.front[0].excess <= best + 1e-12
            best = state.front[0].excess


@pytest.mark.deep
def test_the_order_of_the_shelf_changes_nothing(allotment):
    shelf = a_shelf(capacitors=CAPACITORS)
    turned = replace(shelf, capacitors=shelf.capacitors[::-1])

    one, other = (searched(allotment, s) for s in (shelf, turned))

    assert [c.worth for c in one.front] == [c.worth for c in other.front]


@pytest.mark.deep
def test_a_dipole_of_25_ohm_gets_a_hairpin_once_it_is_cut_shorter():
    """25 Ω wants 50 Ω across it and −j25 Ω of its own (by hand); Q 12: shorter by about 25/(2·12·25) of it, 4 %."""
    f = np.linspace(12.5e6, 15.5e6, 301)
    dipole = Sweep(f, 25 + 1j * 25 * 12 * (f / 14.175e6 - 14.175e6 / f))
    band = Target("20 m", 14.15e6, 14.2e6, 1.5)
    state = searched(dipole, a_shelf(cables=("window-450",), formers=((0.032, 0.1),)), band)

    across = [c for c in (*state.front, *state.others) if c.network.key.startswith("shunt-") and c.count == 1]
    assert across
    best = min(across, key=lambda c: c.excess)
    assert best.ideal.shortened == pytest.approx(0.958, abs=0.006)
    assert best.worst_swr[0] < 1.3
    reactance = abs(complex(best.parts[0].element.part(14.175e6).impedance_ohm(np.array([14.175e6]))[0]))
    assert reactance == pytest.approx(50, rel=0.15)


def test_a_wire_is_not_cut_to_where_its_sweep_has_no_samples():
    """The same dipole, with nothing swept where it would show what a hairpin wants."""
    f = np.linspace(11.5e6, 15.5e6, 401)
    swept = f[(f < 12.6e6) | (f > 14.1e6)]
    gap = Sweep(swept, 25 + 1j * 25 * 12 * (swept / 14.175e6 - 14.175e6 / swept))
    band = Target("20 m", 14.15e6, 14.2e6, 1.5)

    state = searched(gap, a_shelf(cables=("window-450",), formers=()), band)

    assert all(ideal.shortened == 1 for ideal in state.ideals)
