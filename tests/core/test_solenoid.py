import numpy as np
import pytest

from yielding_coil.core.constants import MU_0_H_PER_M
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.solenoid import Solenoid, nagaoka, rosa_spacing, turns_for

SPACED = Solenoid(50e-3, 3e-3, 15, 1e-3)
CLOSE = Solenoid(60e-3, 2.1e-3, 24, 2e-3)


@pytest.mark.parametrize(
    ("ratio", "coefficient"),
    [(0.5, 0.818136), (1, 0.688423), (2, 0.525510), (5, 0.319825), (10, 0.203324)],
)
def test_nagaokas_table(ratio, coefficient):
    """Nagaoka 1909, table of K against diameter over length, printed to six figures."""
    assert nagaoka(ratio) == pytest.approx(coefficient, abs=1e-6)


@pytest.mark.parametrize(
    ("turns", "b"),
    [(2, 0.1137), (3, 0.1663), (5, 0.2180), (10, 0.2664), (15, 0.2857), (30, 0.3080), (50, 0.3182)],
)
def test_rosas_table(turns, b):
    """Rosa & Grover, NBS Bulletin 8, 1911, table VIII, printed to four figures."""
    assert rosa_spacing(turns) == pytest.approx(b, abs=1e-4)


def rings_of_maxwell(coil):
    """Inductance as a sum over turns taken as rings: Maxwell's mutual, self term ln(8a/r) − 2 at RF."""
    from scipy.special import ellipe, ellipk

    a, r, n = coil.diameter_m / 2, coil.wire_diameter_m / 2, int(coil.turns)
    total = n * MU_0_H_PER_M * a * (np.log(8 * a / r) - 2)
    for apart in range(1, n):
        k2 = 4 * a * a / (4 * a * a + (apart * coil.pitch_m) ** 2)
        k = np.sqrt(k2)
        mutual = MU_0_H_PER_M * a * ((2 / k - k) * ellipk(k2) - 2 / k * ellipe(k2))
        total += 2 * (n - apart) * mutual
    return total


@pytest.mark.parametrize(
    ("coil", "sheet", "radio", "crowded"), [(CLOSE, 26.37, 25.41, 24.1), (SPACED, 8.205, 8.21, 8.14)]
)
def test_inductance_at_radio_frequency(coil, sheet, radio, crowded):
    """Current sheet and Rosa's corrections for surface current; crowding computed (cross-check)."""
    assert coil.sheet_inductance_h * 1e6 == pytest.approx(sheet, abs=0.006)
    assert coil.inductance_h * 1e6 == pytest.approx(radio, abs=0.006)
    assert coil.crowded_inductance_h * 1e6 == pytest.approx(crowded, rel=7e-3)


@pytest.mark.parametrize("coil", [CLOSE, SPACED, Solenoid(25e-3, 4e-3, 8, 2e-3)])
def test_a_sum_of_rings_gives_the_same(coil):
    """Maxwell, A Treatise on Electricity and Magnetism, §701: mutual inductance of coaxial rings."""
    assert coil.inductance_h == pytest.approx(rings_of_maxwell(coil), rel=4e-3)


def test_wheelers_rule_agrees_where_it_holds():
    """Wheeler 1928 claims 1 % of the current sheet where the winding is longer than 0.4 diameters."""
    for coil in (SPACED, CLOSE, Solenoid(40e-3, 4e-3, 40, 1e-3)):
        assert coil.wheeler_inductance_h == pytest.approx(coil.sheet_inductance_h, rel=0.011)


def test_what_else_the_spaced_coil_shows():
    """Medhurst 1947 through an independent computation at 14.2 MHz: R 0.977 Ω, Q 750, C 2.32 pF, 36.5 MHz."""
    assert SPACED.wire_length_m == pytest.approx(2.357, abs=5e-4)
    assert SPACED.proximity_factor == pytest.approx(1.30, abs=0.03)
    assert float(SPACED.resistance_ohm(14.2e6)) == pytest.approx(0.977, rel=0.01)
    assert float(SPACED.q(14.2e6)) == pytest.approx(750, rel=0.01)
    assert SPACED.self_capacitance_f * 1e12 == pytest.approx(2.32, abs=0.02)
    assert SPACED.self_resonance_hz / 1e6 == pytest.approx(36.5, abs=0.1)
    assert SPACED.apparent_inductance_h(14.2e6) * 1e6 == pytest.approx(9.67, abs=0.02)


def test_its_impedance_is_its_apparent_inductance():
    seen = complex(SPACED.impedance_ohm(14.2e6))

    assert seen.imag / (2 * np.pi * 14.2e6) == pytest.approx(SPACED.apparent_inductance_h(14.2e6), rel=1e-4)


@pytest.mark.parametrize(
    ("length", "pitch", "factor"), [(1, 1.0, 5.55), (2, 2.0, 1.74), (6, 5.0, 1.16), (0.4, 1.25, 2.97)]
)
def test_medhursts_table(length, pitch, factor):
    """R. G. Medhurst, Wireless Engineer, Feb/Mar 1947, entries of the table (from memory)."""
    wire, diameter = 1e-3, 40e-3
    turns = length * diameter / (pitch * wire)

    assert Solenoid(diameter, pitch * wire, turns, wire).proximity_factor == pytest.approx(factor, rel=1e-9)


def test_a_very_long_coil_goes_to_the_last_row():
    long = Solenoid(10e-3, 2e-3, 490, 1e-3)

    assert 1.83 < long.proximity_factor < 1.93


@pytest.mark.parametrize("turns", [3.5, 7.0, 12.5])
def test_turns_come_back_in_halves(turns):
    coil = Solenoid(33.6e-3, 1.7e-3, turns, 1.6e-3)

    assert turns_for(coil.crowded_inductance_h, 33.6e-3, 1.7e-3, 1.6e-3) == turns
    assert turns_for(coil.crowded_inductance_h, 33.6e-3, 1.7e-3, 1.6e-3, step=0) == pytest.approx(turns)


@pytest.mark.parametrize(
    ("sizes", "words"),
    [
        ((40e-3, 1e-3, 7, 1.6e-3), "wire_diameter_m is 1.6 mm; it must be not thicker than the pitch, 1 mm"),
        ((40e-3, 2e-3, 0, 1.6e-3), "turns is 0.0; it must be above zero"),
        ((40e-3, 2e-3, 0.5, 1.6e-3), "turns is 0.5; it must be 1 to 500"),
        ((1e-3, 2e-3, 3, 1.6e-3), "larger than the wire"),
    ],
)
def test_a_coil_that_cannot_be_wound_is_refused(sizes, words):
    with pytest.raises(OutOfDomainError, match=words):
        Solenoid(*sizes)


def test_near_self_resonance_it_is_refused():
    with pytest.raises(OutOfDomainError, match=r"0.9\d of the coil's self-resonance; it must be below 0.9"):
        SPACED.apparent_inductance_h(34e6)


def test_a_former_too_large_for_the_inductance_is_refused():
    with pytest.raises(OutOfDomainError, match="take another former"):
        turns_for(1e-9, 33.6e-3, 1.7e-3, 1.6e-3)


def test_coax_for_an_air_choke():
    """Common practice: 16 turns of 5 mm coax on a 66 mm tube take 358 cm."""
    assert Solenoid(71e-3, 5e-3, 16, 4e-3).wire_length_m == pytest.approx(3.58, abs=0.02)


def test_steel_loses_more_than_its_resistivity_alone():
    """Skin depth falls with √μ (Pozar, 4th ed., eq. 1.60): ten times the resistivity and a hundred times the
    permeability of copper lose √1000 times as much."""
    copper = Solenoid(50e-3, 3e-3, 15, 1e-3)
    steel = Solenoid(50e-3, 3e-3, 15, 1e-3, 10 * copper.resistivity_ohm_m, 100.0)

    # The rim is thin beside the wire, to a few percent.
    assert steel.resistance_ohm(14e6) / copper.resistance_ohm(14e6) == pytest.approx(1000**0.5, rel=0.03)
