"""Real ground: its two limits, an integral of its own for a flat dipole, and what is not known near it."""

import math

import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import Ground, Source, Structure, Wire
from yielding_coil.core.wire.ground import fresnel

C = 299_792_458.0
F = 7e6
WAVE = C / F
ETA = 376.730313668
POOR, AVERAGE, GOOD, SEA = Ground(0.001, 5), Ground(0.005, 13), Ground(0.03, 20), Ground(5.0, 80)
# As good as none, and as good as perfect.
NOTHING, METAL = Ground(1e-12, 1), Ground(1e9, 1)


def flat(height, ground, half=0.24):
    """A dipole along x, in waves at 7 MHz."""
    x, z = half * WAVE, height * WAVE
    return Structure([Wire((-x, 0, z), (x, 0, z), 1e-5 * WAVE, "perfect")], Source(0, 0.5), ground=ground)


def anyhow(ground):
    """Two wires in no plane, one of them low."""
    top = (0, 0, 0.2 * WAVE)
    ends = (0.2 * WAVE, 0.1 * WAVE, 0.05 * WAVE), (-0.2 * WAVE, 0.05 * WAVE, 0.1 * WAVE)
    return Structure([Wire(top, end, 1e-4 * WAVE, "perfect") for end in ends], Source(0, 0.0), ground=ground)


def upright(ground):
    return Structure(
        [Wire((0, 0, 0.02 * WAVE), (0, 0, 0.5 * WAVE), 1e-4 * WAVE, "perfect")], Source(0, 0.5), ground=ground
    )


@pytest.mark.parametrize(("ground", "limit"), [(NOTHING, "none"), (METAL, "perfect")], ids=["none", "perfect"])
@pytest.mark.parametrize("build", [anyhow, upright, lambda g: flat(0.05, g)], ids=["anyhow", "upright", "flat"])
def test_ground_goes_over_into_none_and_into_perfect(build, ground, limit):
    assert complex(build(ground).impedance_at(F)) == pytest.approx(complex(build(limit).impedance_at(F)), abs=5e-3)


def added_by_real_ground(height, ground, half=0.24):
    """Ω that real ground adds to perfect ground under a flat dipole with a sinusoidal current.

    The induced voltage in plane waves of both polarisations, in polar wave numbers (L. B. Felsen & N. Marcuvitz,
    Radiation and Scattering of Waves, ch. 5); own rule, own form of the coefficients, no segments.
    """
    k = 2 * math.pi
    relative = ground.relative_permittivity - 1j * ground.conductivity_s_per_m / (2 * math.pi * F * 8.8541878e-12)
    x, w = np.polynomial.legendre.leggauss(300)
    a, wa = np.polynomial.legendre.leggauss(48)
    turn, turns = (a + 1) * math.pi / 4, wa * math.pi

    def of(level, up, weight):
        along = level[:, None] * np.cos(turn)
        spectrum = 2 * k * (np.cos(along * half) - math.cos(k * half)) / (k**2 - along**2) / math.sin(k * half)
        below = np.sqrt(k**2 * relative - level**2 + 0j)
        te = (up - below) / (up + below) + 1
        tm = (below - relative * up) / (below + relative * up) + 1
        one = (
            np.sin(turn) ** 2 * (ETA * k / 2 / up * te)[:, None]
            + np.cos(turn) ** 2 * (ETA * up / 2 / k * tm)[:, None]
        )
        return weight @ ((spectrum**2 * one * np.exp(-2j * up * height)[:, None]) @ turns) / (4 * math.pi**2)

    angle = (x + 1) * math.pi / 4
    running = of(k * np.sin(angle), k * np.cos(angle) + 0j, w * math.pi / 4 * k**2 * np.sin(angle) * np.cos(angle))
    most = 8 / (k * height) + 3
    t = (x + 1) / 2
    v = most * t**2
    return running + of(k * np.sqrt(1 + v**2), -1j * k * v, w * most * t * k**2 * v)


@pytest.mark.deep
@pytest.mark.parametrize("ground", [POOR, AVERAGE, GOOD, SEA], ids=["poor", "average", "good", "sea"])
@pytest.mark.parametrize("height", [0.02, 0.05, 0.1, 0.2, 0.5])
def test_a_flat_dipole_against_an_integral_of_its_own(height, ground):
    """Within a tenth and two ohms: the current is not quite a sine."""
    added = complex(flat(height, ground).impedance_at(F)) - complex(flat(height, "perfect").impedance_at(F))
    wanted = complex(added_by_real_ground(height, ground))
    assert abs(added - wanted) < 0.1 * abs(wanted) + 2


@pytest.mark.deep
def test_what_ground_takes():
    """Worse ground takes more from a flat wire, more the lower it hangs; all the watts are told."""
    shares = {
        (name, height): flat(height, ground).solve(F)
        for name, ground in (("poor", POOR), ("good", GOOD), ("sea", SEA))
        for height in (0.05, 0.25)
    }
    for solved in shares.values():
        assert float(solved.radiated_w + solved.ground_w + solved.wire_w) == pytest.approx(100, rel=1e-9)
        assert solved.ground_w >= 0
    lost = {which: float(solved.ground_w) for which, solved in shares.items()}
    assert lost["poor", 0.05] > lost["poor", 0.25] > lost["good", 0.25] > lost["sea", 0.25]
    assert lost["good", 0.05] > lost["good", 0.25]


def test_reflection_coefficients():
    """Normal incidence (√ε − 1)/(√ε + 1), Brewster's angle, and −1 at grazing (Balanis, sec. 4.8)."""
    for polarised in fresnel(9.0, 1.0):
        assert polarised == pytest.approx(0.5)
    assert fresnel(9.0, 1 / math.sqrt(10))[0] == pytest.approx(0, abs=1e-12)
    assert fresnel(9.0, 1e-9)[0] == pytest.approx(-1, abs=1e-6)


def test_a_vertical_over_real_ground_sends_nothing_along_it():
    antenna = Structure([Wire((0, 0, 4.0), (0, 0, 24.0), 0.001)], Source(0, 0.5), ground=AVERAGE)
    gain = antenna.gain_dbi(F, np.array([0.01, 5.0, 20.0]), 0)
    assert gain[0] < gain[1] - 15
    assert gain[1] < gain[2]
    over_metal = Structure(antenna.wires, antenna.source, ground="perfect").gain_dbi(F, 0.01, 0)
    assert over_metal > gain[2]


@pytest.mark.deep
def test_near_the_ground_less_is_known():
    antenna = flat(0.05, AVERAGE)
    assert bool(antenna.is_estimated(F))
    assert not bool(antenna.is_estimated(2.1 * F))
    assert not bool(flat(0.05, "perfect").is_estimated(F))

    low = flat(0.018, AVERAGE)
    solved = low.solve(np.array([F, 1.5 * F]))
    assert np.isnan(solved.radiated_w).tolist() == [True, False]
    assert np.isnan(solved.ground_w).tolist() == [True, False]
    assert np.isfinite(solved.impedance_ohm).all()
    assert solved.estimated.all()
    assert math.isnan(low.gain_dbi(F, 30, 0))

    with pytest.raises(OutOfDomainError, match="0.001 of a wave over real ground at 7 MHz"):
        flat(0.001, AVERAGE).impedance_at(F)


def test_wires_hundreds_of_waves_up_are_refused_at_once():
    """As many plane waves as they ask for would fill any memory; nobody hangs an antenna there."""
    far = Structure([Wire((0, -0.25, 1000), (0, 0.25, 1000), 1e-3)], Source(0, 0.5), (), Ground(0.005, 13))

    with pytest.raises(OutOfDomainError, match="within 150 waves"):
        far.impedance_at(300e6)
