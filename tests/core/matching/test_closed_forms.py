"""Pi, T and matches of line against printed values; every solution carried through the network by scikit-rf."""

import math

import numpy as np
import pytest
import skrf
from hypothesis import given, settings
from hypothesis import strategies as st

from yielding_coil.core.errors import NotMatchableError, OutOfDomainError
from yielding_coil.core.line import Cable, Line, Stub
from yielding_coil.core.matching import (
    double_stubs,
    hairpin,
    pi_networks,
    quarter_wave_ohm,
    series_sections,
    series_stubs,
    shunt_stubs,
    tee_networks,
    twelfth_wave_rad,
)
from yielding_coil.core.parts import FixedLoad
from yielding_coil.core.system import Element, System

WAVE = 2 * math.pi
F = skrf.Frequency.from_f([10e6], unit="Hz")
FREE = skrf.media.DefinedGammaZ0(F, z0_port=50, gamma=1j * WAVE / 29.9792458, z0=50)


def lossless(ohm):
    return skrf.media.DefinedGammaZ0(F, z0_port=50, gamma=1j * WAVE / 29.9792458, z0=ohm)


def terminated(load, arms):
    """What scikit-rf sees of a load through a ladder of reactances, against 50 Ω."""
    seen = skrf.Network(frequency=F, s=np.array([[[(load - 50) / (load + 50)]]]), z0=50)
    for place, value in arms:
        z = 1j * value if place == "series" else 1 / (1j * value) if value else None
        if z is None:
            continue
        two = np.array([[1, z], [0, 1]]) if place == "series" else np.array([[1, 0], [1 / z, 1]])
        seen = skrf.Network(frequency=F, s=skrf.network.a2s(two[np.newaxis].astype(complex)), z0=50) ** seen
    return seen.s[0, 0, 0]


def in_waves(angle):
    return angle / WAVE


def test_a_pi_of_the_handbook():
    """Bowick, RF Circuit Design, ch. 4 (numbering from memory): 100 to 1000 Ω, Q 15; printed to four figures."""
    virtual = 1000 / (15**2 + 1)
    load, series, source = pi_networks(1000, virtual, 100)[0]

    assert virtual == pytest.approx(4.425, abs=0.0005)
    assert 1 / load.value == pytest.approx(66.67, abs=0.01)
    assert series.value == pytest.approx(66.37 + 20.56, abs=0.02)
    assert 1 / source.value == pytest.approx(21.52, abs=0.01)


def test_a_tee_of_the_handbook():
    """Bowick, the same chapter: 10 to 50 Ω, Q 10, virtual resistance 1010 Ω."""
    load, shunt, source = tee_networks(10, 1010, 50)[0]

    assert load.value == pytest.approx(100)
    assert shunt.value == pytest.approx(1 / 101 + 1 / 230.5, rel=1e-3)
    assert source.value == pytest.approx(219.1, abs=0.05)


@settings(max_examples=60, deadline=None)
@given(
    r=st.floats(2, 2000),
    x=st.floats(-2000, 2000),
    depth=st.floats(0.02, 0.98),
)
@pytest.mark.deep
def test_every_pi_and_tee_shows_fifty_ohm_to_scikit_rf(r, x, depth):
    load = complex(r, x)
    parallel = 1 / (1 / load).real
    pis = pi_networks(load, depth * min(parallel, 50))
    tees = tee_networks(load, max(r, 50) / depth)

    for ladder in (*pis, *tees):
        assert abs(terminated(load, ladder)) < 1e-6
    assert {len(pis), len(tees)} == {4}


def test_a_virtual_resistance_on_the_wrong_side_is_refused():
    with pytest.raises(OutOfDomainError, match="at most 20 Ω for a pi network"):
        pi_networks(20, 30)
    with pytest.raises(OutOfDomainError, match="at least 50 Ω for a T network"):
        tee_networks(20, 30)
    with pytest.raises(NotMatchableError, match="no resistance to match"):
        tee_networks(-3 + 5j, 100)


def test_a_shorted_stub_across_the_line():
    """Pozar, Microwave Engineering, Ex. 5.2 (numbering from memory): 60 − j80 Ω to 50; computed to 0.001 λ."""
    first, second = shunt_stubs(60 - 80j)

    assert in_waves(first.distance_rad) == pytest.approx(0.110, abs=0.0006)
    assert in_waves(first.shorted_rad) == pytest.approx(0.095, abs=0.0006)
    assert in_waves(second.distance_rad) == pytest.approx(0.260, abs=0.0006)
    assert in_waves(second.shorted_rad) == pytest.approx(0.405, abs=0.0006)


def test_an_open_stub_in_series():
    """Pozar, Ex. 5.3: 100 + j80 Ω to 50."""
    first, second = series_stubs(100 + 80j)

    assert in_waves(first.distance_rad) == pytest.approx(0.120, abs=0.0006)
    assert in_waves(first.open_rad) == pytest.approx(0.397, abs=0.001)
    assert in_waves(second.distance_rad) == pytest.approx(0.463, abs=0.0006)
    assert in_waves(second.open_rad) == pytest.approx(0.103, abs=0.001)


def test_two_open_stubs_an_eighth_of_a_wave_apart():
    """Pozar, Ex. 5.4: 60 − j80 Ω to 50."""
    first, second = double_stubs(60 - 80j, WAVE / 8)

    assert [in_waves(a) for a in first] == pytest.approx([0.146, 0.204], abs=0.0006)
    assert [in_waves(a) for a in second] == pytest.approx([0.482, 0.350], abs=0.0006)


def test_a_quarter_wave_and_its_width():
    """Pozar, Ex. 5.5: 10 to 50 Ω through 22.36 Ω holds SWR 1.5 over 29.3 % of the centre (lossless line)."""
    ohm = quarter_wave_ohm(10)
    line = Cable("quarter", ohm, 1.0, 0.0, 0.0)
    length = 299.792458 / 4 / 10

    share = np.linspace(0.8, 1.2, 4001)
    z = Line(line, length).input_impedance(share * 10e6, np.full(share.shape, 10.0 + 0j))
    gamma = np.abs((z - 50) / (z + 50))
    inside = share[(1 + gamma) / (1 - gamma) <= 1.5]

    assert ohm == pytest.approx(22.36, abs=0.005)
    assert inside[-1] - inside[0] == pytest.approx(0.293, abs=0.001)


def test_a_series_section_and_a_twelfth_wave():
    """Regier: 100 Ω on 50 through 75 Ω, 14.963° and 58.052°; 50 to 75 by two of 29.334° (both computed)."""
    nearest = series_sections(100, 75)[0]
    twelfth = twelfth_wave_rad(50, 75)

    assert np.degrees(nearest) == pytest.approx([14.963, 58.052], abs=0.001)
    assert math.degrees(twelfth) == pytest.approx(29.334, abs=0.001)
    seen = lossless(50).line(math.degrees(twelfth), "deg") ** lossless(75).line(math.degrees(twelfth), "deg")
    back = lossless(75).line(math.degrees(twelfth), "deg") ** lossless(50).line(math.degrees(twelfth), "deg")
    assert {seen.nports, back.nports} == {2}
    load = skrf.Network(frequency=F, s=np.array([[[(75 - 50) / (75 + 50)]]]), z0=50)
    assert abs((back**load).s[0, 0, 0]) < 1e-6


@settings(max_examples=60, deadline=None)
@given(r=st.floats(5, 500), x=st.floats(-300, 300))
@pytest.mark.deep
def test_every_stub_shows_fifty_ohm_to_scikit_rf(r, x):
    load = complex(r, x)
    wire = skrf.Network(frequency=F, s=np.array([[[(load - 50) / (load + 50)]]]), z0=50)

    for stub in shunt_stubs(load):
        moved = FREE.line(math.degrees(stub.distance_rad), "deg") ** wire
        for end, angle in (("open", stub.open_rad), ("short", stub.shorted_rad)):
            make = FREE.shunt_delay_open if end == "open" else FREE.shunt_delay_short
            assert abs((make(math.degrees(angle), "deg") ** moved).s[0, 0, 0]) < 1e-6
    for stub in series_stubs(load):
        moved = complex((FREE.line(math.degrees(stub.distance_rad), "deg") ** wire).z[0, 0, 0])
        for ohm in (-50j / math.tan(stub.open_rad), 50j * math.tan(stub.shorted_rad)):
            assert abs((moved + ohm - 50) / (moved + ohm + 50)) < 1e-6


@settings(max_examples=40, deadline=None)
@given(r=st.floats(5, 500), x=st.floats(-100, 100), ohm=st.sampled_from([25.0, 75.0, 93.0, 300.0]))
def test_every_series_section_shows_fifty_ohm(r, x, ohm):
    load = complex(r, x)
    try:
        found = series_sections(load, ohm)
    except NotMatchableError:
        return
    wire = skrf.Network(frequency=F, s=np.array([[[(load - 50) / (load + 50)]]]), z0=50)

    for main, section in found:
        seen = lossless(ohm).line(math.degrees(section), "deg") ** (FREE.line(math.degrees(main), "deg") ** wire)
        assert abs(seen.s[0, 0, 0]) < 1e-6


def test_a_section_that_cannot_reach_the_line_is_refused():
    with pytest.raises(NotMatchableError, match="cannot bring 300 "):
        series_sections(300, 75)


def test_a_hairpin_brings_a_low_resistance_up():
    """25 Ω wants 50 Ω across, and −j25 Ω of the antenna: 1/(25 − j25) is 20 + j20 mS (by hand)."""
    found = hairpin(25)

    assert found == pytest.approx((50.0, -25.0))
    with pytest.raises(NotMatchableError, match="60 Ω is not below 50 Ω"):
        hairpin(60)


@pytest.mark.parametrize("end", ["open", "shorted"])
@pytest.mark.parametrize("degrees", [20.0, 80.0, 100.0, 170.0, 200.0])
def test_a_lossy_stub_is_the_one_of_scikit_rf(end, degrees):
    """Every length, past the quarter wave too, with the cable's loss and complex impedance."""
    cable = Cable("5 mm solid PE", 50.0, 0.66, 1.35, 0.025)
    length = degrees / 360 * 299.792458e6 * 0.66 / 10e6
    gamma, z0 = cable.propagation(np.array([10e6]))
    media = skrf.media.DefinedGammaZ0(F, z0_port=50, gamma=gamma, z0=z0)
    # The end's own capacitance lies beyond its formulas.
    far = media.open() if end == "open" else media.short()
    theirs = (media.line(length, "m", z0=z0) ** far).z[0, 0, 0]

    seen = System(FixedLoad(75 + 10j), [Element("stub", "shunt", Stub(cable, length, end))]).impedance(10e6)
    own = 1 / (1 / (75 + 10j) + 1 / theirs + (1j * WAVE * 10e6 * 0.2e-12 if end == "open" else 0))

    assert complex(seen) == pytest.approx(complex(own), rel=1e-6)
