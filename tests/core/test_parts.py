import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor

F = np.linspace(1e6, 30e6, 30)


def test_reactance_of_a_coil_and_a_capacitor():
    """ωL and 1/ωC by hand: 1 µH at 15.9155 MHz is 100 Ω, 100 pF there is 100 Ω."""
    assert complex(Inductor(1e-6).impedance_ohm(15.9155e6)) == pytest.approx(100j, abs=1e-3)
    assert complex(Capacitor(100e-12).impedance_ohm(15.9155e6)) == pytest.approx(-100j, abs=1e-3)


@pytest.mark.parametrize("part", [Inductor(2e-6, q=180), Capacitor(50e-12, q=700)])
def test_a_constant_q_is_reactance_over_resistance_everywhere(part):
    z = part.impedance_ohm(F)

    assert np.abs(z.imag) / z.real == pytest.approx(np.full(30, part.q), rel=2e-6)


def test_a_coils_q_grows_as_the_root_of_frequency():
    """Skin effect: R grows as √f, so Q = ωL/R does too."""
    z = Inductor(2e-6, q=200, q_at_hz=7e6).impedance_ohm(np.array([7e6, 28e6]))

    assert z.imag / z.real == pytest.approx([200, 400])


def test_own_capacitance_raises_inductance_and_lowers_q():
    """L/(1 − (f/fs)²) and Q·(1 − (f/fs)²) at half of self-resonance: +33 %, −25 % (textbook)."""
    coil = Inductor(10e-6, q=250, self_capacitance_f=2e-12)
    fs = 1 / (2 * np.pi * np.sqrt(10e-6 * 2e-12))
    z = complex(coil.impedance_ohm(fs / 2))

    assert z.imag / (np.pi * fs) == pytest.approx(10e-6 * 4 / 3, rel=1e-3)
    assert z.imag / z.real == pytest.approx(250 * 3 / 4, rel=1e-3)


@given(uh=st.floats(0.05, 100), q=st.floats(5, 1000), pf=st.floats(0, 3), mhz=st.floats(0.5, 60))
def test_no_coil_gives_power_back(uh, q, pf, mhz):
    assert complex(Inductor(uh * 1e-6, q, 7e6, pf * 1e-12).impedance_ohm(mhz * 1e6)).real >= 0


def test_admittance_is_the_inverse_of_impedance():
    for part in (Inductor(3e-6, 200, 7e6, 1e-12), Capacitor(80e-12, 900)):
        assert part.admittance_s(F) * part.impedance_ohm(F) == pytest.approx(np.ones(30))


def test_many_builds_at_once_are_each_of_them_alone():
    values = np.array([[1e-6], [2e-6], [3e-6]])
    together = Inductor(values, 200, 7e6, 1e-12).impedance_ohm(F)

    assert together.shape == (3, 30)
    for row, value in zip(together, values[:, 0], strict=True):
        assert row == pytest.approx(Inductor(float(value), 200, 7e6, 1e-12).impedance_ohm(F))


def test_a_fixed_load_is_the_same_everywhere():
    assert FixedLoad(94 - 463j).impedance_at(F).tolist() == [94 - 463j] * 30


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda: Inductor(0.0), "inductance_h is 0.0; it must be above zero"),
        (lambda: Inductor(np.array([1e-6, -1e-6])), "inductance_h is -1e-06; it must be above zero"),
        (lambda: Inductor(1e-6, self_capacitance_f=-1e-12), "zero or more"),
        (lambda: Capacitor(float("nan")), "capacitance_f is nan; it must be above zero"),
        (lambda: Capacitor(1e-11, q=0.0), "q is 0.0; it must be above zero"),
        (lambda: Inductor(1e-6, q=-5.0), "q is -5.0; it must be above zero"),
    ],
)
def test_refusals(make, words):
    with pytest.raises(OutOfDomainError, match=words):
        make()
