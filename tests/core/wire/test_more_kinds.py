"""Traps, fans, nested loops, hats, sleeves: near what the trade says of them, and refused where they cannot be."""

from dataclasses import replace

import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.trap import TrappedLeg
from yielding_coil.core.wire import KINDS, Load, Source, Structure, Wire
from yielding_coil.core.wire.kinds import (
    Dipole,
    DipoleBeside,
    EndFedBeside,
    FanDipole,
    NestedLoops,
    SleeveDipole,
    TrapDipole,
    TrapVertical,
    Vertical,
)

HIGH, LOW = 24.94e6, 21.225e6


def zero_near(hung, near, side=0.1):
    """Where X crosses zero upwards nearest to a frequency, and R there."""
    f = np.linspace((1 - side) * near, (1 + side) * near, 401)
    z = hung.structure().impedance_at(f)
    rising = np.flatnonzero((z.imag[:-1] < 0) & (z.imag[1:] >= 0))
    at = rising[np.argmin(np.abs(f[rising] - near))]
    return float(f[at]), float(z.real[at])


def test_a_trap_dipole_dips_on_both_bands_near_its_line_estimate():
    """The estimate of each section as a line of its own (common practice) is good to some percent."""
    hung = KINDS["trap-dipole"].start_for(HIGH, LOW)
    inner, whole = hung.reaches_m
    line = TrappedLeg(inner, whole - inner, hung.stock.radius_m, hung.trap)
    for band in (HIGH, LOW):
        dip = zero_near(hung, band)[0]
        f = np.linspace(0.85 * band, 1.15 * band, 2001)
        x = line.reactance_ohm(f)
        crossings = f[:-1][(x[:-1] < 0) & (x[1:] >= 0) & (np.abs(np.diff(x)) < 200)]
        assert np.abs(crossings / dip - 1).min() < 0.05


def test_what_lies_beyond_a_trap_hardly_counts_on_its_band():
    """A trap holds apart: twice the wire beyond it moves the upper dip by less than a percent (practice)."""
    hung = KINDS["trap-dipole"].start_for(HIGH, LOW)
    longer = hung.told(outer_m=2 * hung.outer_m)
    assert zero_near(longer, HIGH)[0] == pytest.approx(zero_near(hung, HIGH)[0], rel=0.01)
    assert zero_near(longer, 0.95 * LOW, 0.2)[0] < 0.97 * zero_near(hung, LOW, 0.2)[0]


def test_a_failed_trap_spoils_the_lower_band_alone_when_open():
    """Open, the wire beyond is cut off on every band; the upper one, which ends before it, stays (practice)."""
    hung = KINDS["trap-dipole"].start_for(HIGH, LOW)
    alone = Dipole(hung.inner_m, hung.height_m)
    assert zero_near(alone, HIGH)[0] == pytest.approx(zero_near(hung, HIGH)[0], rel=0.02)


@pytest.mark.parametrize(
    ("f", "number"), [(HIGH, "inner_m"), (24.6e6, "inner_m"), (LOW, "outer_m"), (10.1e6, "outer_m")]
)
def test_each_band_of_a_trap_dipole_has_its_wire(f, number):
    assert KINDS["trap-dipole"].start_for(HIGH, LOW).tuned_on(f) == number


def test_a_trap_vertical_is_half_a_trap_dipole():
    """Over perfect ground a vertical is exactly half the impedance of its dipole in free space (image)."""
    one = TrapVertical(2.9, 0.4, HIGH, 3.6e-11, radials=64, ground_ohm=0.0)
    two = replace(TrapDipole(2.9, 0.4, 50.0, HIGH, 3.6e-11), ground="none")
    half, whole = (complex(each.structure().impedance_at(LOW)) for each in (one, two))
    assert half == pytest.approx(whole / 2, rel=2e-3)


@pytest.mark.deep
def test_the_long_dipole_of_a_fan_lifts_the_short_ones_dip():
    """Elements near each other shift each other (practice): bands 15 and 30 m little, 12 and 15 m much."""

    def lifted(high, low):
        fan = KINDS["fan-dipole"].start_for(high, low)
        alone = replace(Dipole(fan.short_m, fan.height_m), ground=fan.ground)
        return zero_near(fan, 1.05 * high, 0.15)[0] / zero_near(alone, high)[0] - 1

    near, far = lifted(24.94e6, 21.225e6), lifted(21.225e6, 10.12e6)
    assert 0.02 < far < near


@pytest.mark.deep
def test_a_loop_inside_another_shifts_it_and_is_shifted():
    loops = KINDS["nested-loops"].start_for(24.94e6, 18.12e6)
    outer, inner = zero_near(loops, 18.12e6, 0.12), zero_near(loops, 25.3e6, 0.12)
    alone = KINDS["square"].start(18.12e6)
    assert 0.001 < abs(outer[0] / zero_near(alone, 18.12e6, 0.12)[0] - 1) < 0.06
    assert inner[0] > outer[0]


def test_a_wire_beside_that_is_shorter_draws_and_a_longer_one_holds_off():
    """Two of them beside each other, a fifth of a wave apart (common practice of two-element beams)."""
    f, quarter = 24.94e6, 299.79e6 / 24.94e6 / 4
    gains = []
    for other in (0.93, 1.0):
        pair = replace(DipoleBeside(0.955 * quarter, other * quarter, 20.0, 0.7 * quarter), ground="none")
        towards, away = pair.structure().gain_dbi(f, [0.0, 0.0], [90.0, -90.0])
        gains.append(towards - away)
    assert gains[0] > 3
    assert gains[1] < -3


def test_spokes_on_top_take_the_place_of_height():
    """A short upright under a hat resonates, at more ohms than the same under a coil at its base (practice)."""
    hat = KINDS["hat-vertical"].start(LOW)
    dip, ohm = zero_near(hat, LOW, 0.15)
    assert dip == pytest.approx(LOW, rel=0.06)
    bare = complex(Vertical(hat.height_m).structure().impedance_at(LOW))
    assert bare.imag < -100
    assert ohm > bare.real
    assert zero_near(hat.told(spokes=8), 0.95 * LOW, 0.15)[0] < dip


def test_a_sleeve_dipole_is_near_73_ohm():
    """An upright half-wave in free space (Balanis, ch. 8: 73 Ω); its sleeve is thicker and so a little shorter."""
    hung = replace(SleeveDipole(3.34, 3.11, 30.0), ground="none")
    assert zero_near(hung, 22.3e6)[1] == pytest.approx(73, abs=6)


def test_a_centre_fed_five_eighths_is_near_200_and_470_ohm():
    """200 + j470 Ω (practice); 0.612 wave of wire is 0.625 of its electrical length."""
    for waves in (0.625, 0.64):
        leg = waves * 299.79e6 / 18.118e6 / 2
        z = complex(Structure([Wire((-leg, 0, 0), (leg, 0, 0), 0.001)], Source(0, 0.5)).impedance_at(18.118e6))
        assert z == pytest.approx(200 + 470j, rel=0.12)


def test_a_short_wire_beside_the_foot_of_an_end_fed_one():
    hung = KINDS["end-fed-beside"].start(LOW)
    z = complex(hung.structure().impedance_at(1.02 * LOW))
    assert abs(z) > 400
    wires = hung.structure().wires
    assert wires[2].length_m == pytest.approx(hung.counterpoise_m)
    assert len(wires) == 3


def test_reaches_are_those_of_its_bands():
    fan = FanDipole(2.9, 7.0, 8.0)
    assert fan.reaches_m == (2.9, 7.0)
    assert fan.reaching([3.0, 7.2]).numbers["leg_m"] == pytest.approx(7.2)
    trap = TrapDipole(2.9, 0.4, 6.0, HIGH, 3.6e-11)
    assert trap.reaching([2.8, 3.4]).outer_m == pytest.approx(0.6)
    assert Dipole(3.4, 6.0).reaching([3.3]).leg_m == pytest.approx(3.3)
    with pytest.raises(OutOfDomainError, match="2, one a band"):
        fan.reaching([3.0])


def test_a_trap_strays_too():
    hung = TrapDipole(2.9, 0.4, 6.0, HIGH, 3.6e-11)
    stray = next(s for s in hung.strays() if s.name == "trap")
    assert hung.strayed(stray, 2.0).trap_hz == pytest.approx(1.01 * HIGH)


@pytest.mark.parametrize(
    ("build", "why"),
    [
        (lambda: FanDipole(3.6, 3.5, 6.0), "less than the long leg's 3.5 m"),
        (lambda: FanDipole(2.0, 3.5, 6.0, 1.9), "in a fan"),
        (lambda: NestedLoops(14.0, 14.5, 2.5), "inner loop, once round is 14 m; it must be less than"),
        (lambda: SleeveDipole(3.0, 3.0, 0.1), "more than 0.3 m over the ground"),
        (lambda: EndFedBeside(6.0, 6.5, 6.0, 6.0), "beside which it runs"),
        (lambda: TrapDipole(2.9, -0.4, 6.0, HIGH, 3.6e-11).told(outer_m=-0.4), "beyond the trap is -0.4 m"),
        (lambda: TrapDipole(2.9, 0.4, 6.0, HIGH, 3.6e-11).told(trap_hz=1e5), "trap resonates at is 1e.05 Hz"),
    ],
)
def test_what_cannot_be_is_refused(build, why):
    with pytest.raises(OutOfDomainError, match=why):
        build().structure()


def test_traps_for_bands_in_the_wrong_order_are_refused():
    start = KINDS["trap-dipole"].start_for
    with pytest.raises(OutOfDomainError, match="below 10.12 MHz"):
        start(10.12e6, 21.2e6)


def test_a_load_on_a_joined_wire_is_where_it_is_said():
    """A coil where a fan's short leg begins moves its dip alone."""
    fan = KINDS["fan-dipole"].start_for(LOW, 10.12e6)
    plain = fan.structure()
    trap = TrapDipole(2.9, 0.4, 6.0, HIGH, 3.6e-11).trap
    loaded = Structure(plain.wires, plain.source, [Load(3, 0.5, trap)], plain.ground)
    f = np.linspace(9.6e6, 10.6e6, 5)
    assert np.abs(loaded.impedance_at(f) / plain.impedance_at(f) - 1).max() < 0.05
    assert abs(complex(loaded.impedance_at(LOW)) / complex(plain.impedance_at(LOW)) - 1) > 0.2


def test_a_centre_fed_five_eighths_comes_to_50_ohm_by_a_shorted_stub_and_a_capacitor():
    """Across it a shorted stub of coax, then a capacitor: 1.1 : 1 over 17 m (practice: near 1.4, by −j649 first).

    With −j649 first 200 − j179 Ω is left, and whatever is put across that leaves it over 3 : 1 of 50 Ω.
    """
    f = np.linspace(18.068e6, 18.168e6, 11)
    leg = 0.625 * 299.79e6 / 18.118e6 / 2
    z = Structure([Wire((-leg, 0, 0), (leg, 0, 0), 0.001)], Source(0, 0.5)).impedance_at(f)
    coax = data.cables()["pe-5"].cable

    def stub(length_m):
        turn, ohm = coax.propagation(f)
        return ohm * np.tanh(turn * length_m)

    def capacitor(farad):
        return 1 / (2j * np.pi * f * farad)

    by_stub = 1 / (1 / z + 1 / stub(2.458)) + capacitor(43.3e-12)
    assert swr_of_impedance(by_stub).max() < 1.15
    first = z + capacitor(1 / (2 * np.pi * 18.118e6 * 649))
    assert first[5] == pytest.approx(200 - 179j, rel=0.12)
    left = min(swr_of_impedance(1 / (1 / first + 1 / stub(m))).max() for m in np.linspace(0.2, 5.5, 500))
    assert left > 3
