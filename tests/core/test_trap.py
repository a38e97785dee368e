import math

import numpy as np
import pytest
import skrf
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil import data
from yielding_coil.core.errors import NotMatchableError, OutOfDomainError
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.trap import CoaxTrap, Trap, TrappedLeg, coax_turns_for, coil_for, housed_hz, leg_for

HIGH, LOW = 24.94e6, 21.225e6


def test_coil_of_a_trap_for_17_m():
    """50 pF at 18.12 MHz: 1.543 µH, computed from ω²LC = 1."""
    assert coil_for(50e-12, 18.12e6) == pytest.approx(1.543e-6, abs=0.0005e-6)


def test_below_its_frequency_it_is_a_loading_coil():
    """That trap at 14.1 MHz acts as 3.91 µH (computed)."""
    assert Trap(1.543e-6, 50e-12, 250).acts_as_h(14.1e6) == pytest.approx(3.91e-6, abs=0.005e-6)


def test_above_its_frequency_it_is_a_capacitor():
    assert Trap(1.543e-6, 50e-12, 250).acts_as_h(21e6) < 0


@given(st.floats(0.3e-6, 20e-6), st.floats(5e-12, 300e-12), st.floats(50, 500))
def test_at_resonance_it_shows_q_times_its_reactance(henry, farad, q):
    """A parallel circuit's dynamic resistance, Q·ωL with the capacitor's Q counted (any text)."""
    trap = Trap(henry, farad, q)
    z = complex(trap.impedance_ohm(trap.resonance_hz))

    both = 1 / (1 / q + 1 / trap.capacitor_q)
    assert z.real == pytest.approx(both * 2 * math.pi * trap.resonance_hz * henry, rel=0.01)
    assert abs(z.imag) < 0.02 * z.real


def test_a_good_trap_across_the_port_shows_no_dip():
    """SWR in the hundreds (common practice): look for X through zero where R peaks."""
    trap = Trap(1.543e-6, 50e-12, 250)
    f = np.linspace(17e6, 19e6, 401)
    z = trap.impedance_ohm(f)
    gamma = np.abs((z - 50) / (z + 50))

    assert ((1 + gamma) / (1 - gamma)).min() > 100
    assert f[np.argmax(z.real)] == pytest.approx(trap.resonance_hz, rel=1e-3)
    assert f[np.flatnonzero(np.diff(np.sign(z.imag)))[0]] == pytest.approx(trap.resonance_hz, rel=1e-3)


def test_the_circuit_is_that_of_a_library():
    """scikit-rf 2.2.0: resistor and coil in series, a capacitor across."""
    trap = Trap(1.543e-6, 50e-12, 250, capacitor_q=1e12)
    f = np.linspace(10e6, 30e6, 51)
    media = skrf.media.DefinedGammaZ0(skrf.Frequency.from_f(f, unit="hz"), z0=50)
    series = 2 * np.pi * trap.resonance_hz * 1.543e-6 / 250 * np.sqrt(f / trap.resonance_hz)
    arm = media.resistor(series) ** media.inductor(1.543e-6) ** media.short()
    across = 1 / (1 / arm.z[:, 0, 0] + 1 / (media.capacitor(50e-12) ** media.short()).z[:, 0, 0])

    assert trap.impedance_ohm(f) == pytest.approx(across, rel=1e-6)


def test_housing_lowers_it():
    """2 pF more across 50: the square root of 50 over 52."""
    assert housed_hz(18.12e6, 50e-12, 2e-12) == pytest.approx(18.12e6 * math.sqrt(50 / 52))


class TestCoaxTrap:
    def test_two_coils_in_series_and_a_quarter_of_the_coax(self):
        """A ladder of hundred pieces, magnetically coupled shield and centre, solved by nodes: same resonance."""
        cable = data.cable("pe-5")
        coil = Solenoid(37e-3, 5e-3, 6, 3.5e-3)
        pieces = 60
        whole_l, whole_c = coil.inductance_h, cable.capacitance_f_per_m() * coil.wire_length_m
        line_l = 50 / (0.66 * 299792458.0) * coil.wire_length_m

        def seen(f: float) -> complex:
            # Unknowns: voltages of the nodes, then currents of the pieces. The flux of all is common.
            w = 2 * math.pi * f
            p = pieces
            # Nodes of shield 0..p, centre p+1..2p+1; shield's end joined to the centre's beginning.
            node = lambda wire, k: k if wire == 0 else p + k  # noqa: E731
            n = 2 * p + 1
            size = n + 2 * p
            a = np.zeros((size, size), dtype=complex)
            for wire in (0, 1):
                for k in range(p):
                    row, one, other = n + wire * p + k, node(wire, k), node(wire, k + 1)
                    a[one, row] += 1
                    a[other, row] -= 1
                    a[row, one], a[row, other] = 1, -1
                    a[row, n:] -= 1j * w * whole_l / p**2
                    if wire == 1:
                        a[row, row] -= 1j * w * line_l / p
            for k in range(p + 1):
                share = whole_c / p * (0.5 if k in (0, p) else 1.0)
                s, c = node(0, k), node(1, k)
                for i, j, sign in ((s, s, 1), (c, c, 1), (s, c, -1), (c, s, -1)):
                    a[i, j] += sign * 1j * w * share
            a[0, :] = 0
            a[0, 0] = 1
            b = np.zeros(size, dtype=complex)
            b[2 * p] = 1
            return complex(np.linalg.solve(a, b)[2 * p])

        f = np.linspace(12e6, 26e6, 57)
        reactance = np.array([seen(x).imag for x in f])
        falls = np.flatnonzero((reactance[:-1] > 0) & (reactance[1:] < 0))[0]
        own = CoaxTrap(coil, cable)
        without_own = own.resonance_hz * math.sqrt(own.capacitance_f / (whole_c / 4))

        assert f[falls] == pytest.approx(without_own, rel=0.03)

    def test_turns_are_found_for_a_frequency(self):
        found = coax_turns_for(18.12e6, 32e-3, 5e-3, 3.5e-3, data.cable("pe-5"))

        assert found.resonance_hz == pytest.approx(18.12e6, rel=0.03)
        assert found.coil.turns * 4 == round(found.coil.turns * 4)
        assert found.trap().resonance_hz == pytest.approx(found.resonance_hz)

    def test_a_former_on_which_nothing_fits_is_refused(self):
        with pytest.raises(NotMatchableError, match="no winding of this coax"):
            coax_turns_for(180e6, 100e-3, 5e-3, 3.5e-3, data.cable("pe-5"))


class TestLeg:
    def test_the_line_estimate_of_a_loading_coil(self):
        """5.4 m, coil, 1.28 m of 1.2 mm wire over ground at 7.1 MHz: 39.1 µH by the line estimate (computed)."""
        coil = Trap(39.1e-6, 1e-18, 1e6)

        reactance = float(TrappedLeg(5.4, 1.28, 0.6e-3, coil, 1).reactance_ohm(7.1e6))
        slope = 2 * math.pi * 7.1e6

        assert abs(reactance) < slope * 0.05e-6

    @pytest.mark.parametrize("farad", [20e-12, 30e-12, 47e-12])
    @pytest.mark.parametrize("tuned", [HIGH, 0.97 * HIGH])
    def test_both_bands_resonate_on_the_leg_that_is_found(self, farad, tuned):
        leg = leg_for(Trap(coil_for(farad, tuned), farad, 200), HIGH, LOW, 0.8e-3)

        assert leg.reactance_ohm(np.array([HIGH, LOW])) == pytest.approx([0, 0], abs=0.5)
        # A trap loads the lower band: the leg is shorter than a quarter-wave there.
        assert leg.inner_m + leg.outer_m < 299.79 / 4 / (LOW / 1e6)

    def test_tuned_below_the_band_it_bears_less_there(self):
        """The second school: just below the band, less loss and voltage on it (common practice)."""
        inside, below = (
            leg_for(Trap(coil_for(47e-12, hz), 47e-12, 200), HIGH, LOW, 0.8e-3).borne(HIGH, 100)
            for hz in (HIGH, 0.97 * HIGH)
        )

        assert below.voltage_v[0] < inside.voltage_v[0]
        assert below.trap_w[0] < inside.trap_w[0]

    def test_without_a_trap_it_is_a_half_wave_dipole(self):
        """73 Ω (Balanis, Antenna Theory, §4.6): next to nothing in between, and both halves alike."""
        nothing = Trap(1e-12, 1e-15, 1000)
        quarter = 299792458.0 / HIGH / 4
        leg = TrappedLeg(quarter / 2, quarter / 2, 1e-3, nothing)

        assert leg.borne(HIGH, 100).radiates_ohm[0] == pytest.approx(73.1, rel=0.03)

    @given(st.floats(0, 1500))
    def test_twice_the_power_is_twice_the_heat_and_root_two_the_voltage(self, watts):
        leg = leg_for(Trap(coil_for(30e-12, HIGH), 30e-12, 200), HIGH, LOW, 0.8e-3)
        once, twice = leg.borne(LOW, watts), leg.borne(LOW, 2 * watts)

        assert twice.trap_w == pytest.approx(2 * once.trap_w)
        assert twice.voltage_v == pytest.approx(math.sqrt(2) * once.voltage_v)

    def test_what_leaves_no_length_is_refused(self):
        with pytest.raises(NotMatchableError, match="no length of wire"):
            leg_for(Trap(coil_for(3e-12, 14e6), 3e-12, 200), HIGH, LOW, 0.8e-3)

    def test_bands_the_wrong_way_round_are_refused(self):
        with pytest.raises(OutOfDomainError, match="low_hz is 24.94 MHz; it must be below 21.23 MHz"):
            leg_for(Trap(1e-6, 40e-12, 200), LOW, HIGH, 0.8e-3)


@pytest.mark.parametrize(("high", "low"), [(14.15e6, 7.1e6), (28.4e6, 14.15e6), (7.1e6, 3.6e6)])
def test_a_trap_of_50_pf_leaves_lengths_for_an_octave_below(high, low):
    """14.15 and 7.1 MHz: about 5.14 m inside, 4.31 m outside (recomputed by another code, within 4 %)."""
    leg = leg_for(Trap(coil_for(50e-12, high), 50e-12, 200), high, low, 1e-3)

    assert leg.reactance_ohm(np.array([high, low])) == pytest.approx([0, 0], abs=0.01)
    if high == 14.15e6:
        assert leg.inner_m == pytest.approx(5.14, rel=0.04)
        assert leg.outer_m == pytest.approx(4.31, rel=0.01)


def test_a_coax_trap_has_the_q_of_practice():
    """100 to 200 at 7.1 MHz (from memory)."""
    trap = coax_turns_for(7.1e6, 50e-3, 5e-3, 3.5e-3, data.cable("pe-5")).trap()

    assert 100 < float(trap.q) < 220
