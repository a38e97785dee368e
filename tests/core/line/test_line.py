import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.constants import NEPER_PER_DB, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, OpenCoax, open_coax_for, pair_ohm
from yielding_coil.core.reflection import reflection_of, swr_of
from yielding_coil.data import cables

COAX = Cable("5 mm solid PE", 50.0, 0.66, 1.35, 0.012)
LADDER = Cable("450 ohm", 450.0, 0.91, 0.09, 0.001)


def lossless(impedance_ohm, velocity_factor=1.0):
    return Cable("lossless", impedance_ohm, velocity_factor, 0.0, 0.0)


def test_a_load_through_three_tenths_of_a_wavelength():
    """Pozar, Microwave Engineering, 4th ed., Example 2.2: 36.5 - j61.1 ohm, printed to 0.1 ohm."""
    line = Line(lossless(100), 0.3 * SPEED_OF_LIGHT_M_PER_S / 1e9)

    assert complex(line.input_impedance(1e9, 40 + 70j)) == pytest.approx(36.5 - 61.1j, abs=0.1)


@pytest.mark.parametrize(
    ("cable", "length", "frequency", "load", "seen", "loss"),
    [
        (COAX, 30, 14.1e6, 100, 37.649 - 16.504j, 1.8088),
        (LADDER, 18, 10.1e6, 2500 - 800j, 94.483 - 218.659j, 0.15310),
    ],
)
def test_input_impedance_and_loss(cable, length, frequency, load, seen, loss):
    """Independent computation of the same model (Wheeler 1942); a cross-check, not a publication."""
    line = Line(cable, length)

    assert complex(line.input_impedance(frequency, load)) == pytest.approx(seen, abs=0.002)
    assert float(line.loss_db(frequency, load)) == pytest.approx(loss, abs=1e-4)


def test_matched_loss():
    """1.35·√14.1 + 0.012·14.1 dB/100 m over 30 m, by hand."""
    assert float(Line(COAX, 30).matched_loss_db(14.1e6)) == pytest.approx(1.5715, abs=1e-4)


def test_the_model_agrees_with_distributed_constants():
    """R 5 Ω/m, L 0.2 µH/m, G 0.01 S/m, C 300 pF/m at 500 MHz: γ 0.2259 + j24.335 per m, Z0 25.820 Ω.

    After a problem of Pozar ch. 2 (memory). Conductor loss R/2Z0, dielectric GZ0/2 at that one frequency;
    there the book's R has no reactance of its own, which ours adds as R: 0.4 %.
    """
    z0, f = math.sqrt(0.2e-6 / 300e-12), 500e6
    conductor_db, dielectric_db = 100 * 5 / (2 * z0) / NEPER_PER_DB, 100 * 0.01 * z0 / 2 / NEPER_PER_DB
    velocity = 1 / math.sqrt(0.2e-6 * 300e-12) / SPEED_OF_LIGHT_M_PER_S
    cable = Cable("book", z0, velocity, conductor_db / math.sqrt(500), dielectric_db / 500)

    gamma, seen_z0 = cable.propagation(f)

    assert float(gamma.real) == pytest.approx(0.2259, abs=2e-4)
    assert float(gamma.imag) - 5 / (2 * z0) == pytest.approx(24.335, abs=0.002)
    assert seen_z0.real == pytest.approx(25.820, rel=0.005)


def test_loss_hides_swr():
    """1 dB matched, 2:1 at the input is 2.45:1 at the load; total loss 1.330 dB.

    Handbook formula 10·log10[(a² − |Γ|²)/(a(1 − |Γ|²))] for real Z0; the charts read 2.5 and 0.3 (practice).
    """
    cable = Cable("all dielectric loss, so Z0 is nearly real", 50, 0.66, 0, 0.1)
    line = Line(cable, 10)  # 1 dB at 100 MHz
    load = line.load_impedance(100e6, 100.0)

    assert float(swr_of(reflection_of(load))) == pytest.approx(2.45, abs=0.02)
    assert float(line.loss_db(100e6, load)) == pytest.approx(1.330, abs=0.02)


def test_a_quarter_wave_of_75_ohm_brings_a_loop_to_50():
    """75²/112.5 = 50; VF 0.66 at 28.51 MHz is 1.735 m (practice: 1.736 by the feet rule)."""
    length = 0.66 * SPEED_OF_LIGHT_M_PER_S / 28.51e6 / 4

    assert length == pytest.approx(1.735, abs=5e-4)
    assert abs(Line(lossless(75, 0.66), length).input_impedance(28.51e6, 112.5)) == pytest.approx(50, abs=1e-6)


@pytest.mark.parametrize(
    ("load", "sections"),
    [(100.0, [(50, 14.963), (75, 58.052)]), (75.0, [(50, 29.334), (75, 29.334)])],
)
def test_series_sections(load, sections):
    """Regier, QST, July 1978 (memory): 100 Ω to 50 through 75 Ω, and the twelfth-wave from 75 to 50."""
    f, wave = 14e6, SPEED_OF_LIGHT_M_PER_S / 14e6
    seen = load
    for impedance, degrees in sections:  # from the load on
        seen = Line(lossless(impedance), degrees / 360 * wave).input_impedance(f, seen)

    assert float(swr_of(reflection_of(seen))) == pytest.approx(1, abs=2e-4)


@pytest.mark.parametrize(("loss_db", "swr"), [(1, 8.72), (3, 3.01)])
def test_the_highest_swr_that_can_be_read(loss_db, swr):
    """Return loss is at least twice the matched loss: 1 dB 8.72, 3 dB 3.01 (arithmetic, any handbook)."""
    line = Line(Cable("lossy", 50, 0.66, 0, loss_db / 10), 100)

    assert float(line.highest_swr(10e6)) == pytest.approx(swr, abs=0.005)


def test_half_a_metre_of_open_coax_is_more_than_its_capacitance():
    """tan(βl)/βl at 28.4 MHz, 0.5 m, VF 0.66: +7.4 %."""
    stub = OpenCoax(lossless(50, 0.66), 0.5, end_f=0.0)
    plain = stub.cable.capacitance_f_per_m() * 0.5

    assert stub.capacitance_f(28.4e6) / plain == pytest.approx(1.0738, abs=5e-4)


@pytest.mark.parametrize(("centimetres", "picofarads"), [(5, 5), (8.6, 8.7)])
def test_short_stubs_measure_as_practice_found(centimetres, picofarads):
    """Solid-PE 50 Ω coax: 5 cm measures about 5 pF, 8.6 cm about 8.7 (common practice)."""
    stub = OpenCoax(COAX, centimetres / 100)

    assert stub.capacitance_f(18.1e6) * 1e12 == pytest.approx(picofarads, rel=0.06)


@pytest.mark.parametrize("picofarads", [1.0, 6.55, 50, 150])
def test_the_stub_for_a_capacitor_is_that_capacitor(picofarads):
    stub = open_coax_for(picofarads * 1e-12, COAX, 21.225e6)

    assert stub.capacitance_f(21.225e6) * 1e12 == pytest.approx(picofarads, rel=1e-3)


@given(
    row=st.sampled_from(sorted(cables())),
    length=st.floats(0, 60),
    mhz=st.floats(0.5, 150),
    r=st.floats(0.5, 4000),
    x=st.floats(-4000, 4000),
)
def test_moving_the_plane_there_and_back(row, length, mhz, r, x):
    """The inverse undoes the line, to 1e-9 of Γ, as far as the line has not eaten it."""
    line = Line(cables()[row].cable, length)
    back = line.load_impedance(mhz * 1e6, line.input_impedance(mhz * 1e6, r + 1j * x))
    magnified = 10 ** (2 * float(line.matched_loss_db(mhz * 1e6)) / 20)

    assert abs(reflection_of(back) - reflection_of(r + 1j * x)) < 1e-9 * max(1, magnified)


@given(mhz=st.floats(2, 60), length=st.floats(0.1, 70), r=st.floats(1, 3000), x=st.floats(-2000, 2000))
@pytest.mark.deep
def test_peaks_along_the_line_are_the_largest_found_by_walking_it(mhz, length, r, x):
    f, load = np.array([mhz * 1e6]), np.array([r + 1j * x])
    line = Line(COAX, length)
    a, b, c, d = line.chain(f)
    ends_v, ends_a = np.abs([load, a * load + b]), np.abs([load / load, c * load + d])
    v, i = line.waves(f, load).peaks(ends_v, ends_a)
    walked = [Line(COAX, d).chain(f) for d in np.linspace(0, length, 400)]
    seen_v = max(abs((a * load + b)[0]) for a, b, _, _ in walked)
    seen_i = max(abs((c * load + d)[0]) for _, _, c, d in walked)

    assert v[0] == pytest.approx(seen_v, rel=0.02)
    assert i[0] == pytest.approx(seen_i, rel=0.02)
    assert v[0] >= seen_v * (1 - 5e-3)
    assert i[0] >= seen_i * (1 - 5e-3)


@given(mhz=st.floats(2, 60), length=st.floats(0, 70), r=st.floats(1, 3000), x=st.floats(-2000, 2000))
def test_waves_and_the_chain_matrix_tell_the_same(mhz, length, r, x):
    """Two ways through Pozar ch. 2: travelling waves here, Table 4.1 there."""
    f, load = np.array([mhz * 1e6]), np.array([r + 1j * x])
    line = Line(COAX, length)
    _, _, c, d = line.chain(f)
    waves = line.waves(f, load)

    assert abs(reflection_of(waves.near_ohm) - reflection_of(line.input_impedance(f, load)))[0] < 1e-9
    assert waves.current_ratio == pytest.approx(np.abs(c * load + d), rel=1e-9)


def test_open_line_of_600_ohm():
    """276·log10(2S/d) for wires far apart (handbooks, from memory): 600 Ω at S/d = 74.6."""
    assert pair_ohm(2e-3, 74.6 * 2e-3) == pytest.approx(276 * math.log10(2 * 74.6), rel=0.003)
    assert pair_ohm(2e-3, 74.6 * 2e-3) == pytest.approx(600, rel=0.003)


@given(d=st.floats(1e-4, 5e-3), apart=st.floats(1.01, 300), permittivity=st.floats(1, 5))
def test_a_pair_is_its_inductance_over_its_capacitance(d, apart, permittivity):
    """Z0 = √(L/C) with C = πε/arcosh(D/d) of two cylinders (any text on electrostatics) and L·C = µ0·ε."""
    c = math.pi * 8.8541878e-12 * permittivity / math.acosh(apart)
    ohm = math.sqrt(4e-7 * math.pi * 8.8541878e-12 * permittivity) / c

    assert pair_ohm(d, apart * d, permittivity) == pytest.approx(ohm, rel=2e-3)


def test_wires_of_a_pair_that_touch_are_refused():
    with pytest.raises(OutOfDomainError, match="apart_m is 0.001; it must be above the wires' diameter, 0.001"):
        pair_ohm(1e-3, 1e-3)


def test_no_line_at_all_carries_what_its_load_does():
    waves = Line(COAX, 0.0).waves(np.array([14e6]), np.array([30 - 40j]))
    volts, amperes = waves.peaks(np.full((2, 1), 50.0), np.ones((2, 1)))

    assert volts == pytest.approx([50])
    assert amperes == pytest.approx([1])


def test_refusals():
    with pytest.raises(OutOfDomainError, match=r"frequency_hz is 0.0; it must be above zero"):
        Line(COAX, 1).input_impedance(np.array([0.0]), np.array([50 + 0j]))
    with pytest.raises(OutOfDomainError, match="velocity_factor is 1.2"):
        Cable("too fast", 50, 1.2, 0, 0)
    with pytest.raises(OutOfDomainError, match="its resistance"):
        Line(COAX, 1).loss_db(7e6, -5 + 10j)
    with pytest.raises(OutOfDomainError, match=r"0.2 pF of an open end"):
        open_coax_for(0.1e-12, COAX, 7e6)


def test_every_nominal_cable_says_where_it_comes_from_and_how_sure_it_is():
    for row in cables().values():
        assert "memory" in row.source
        assert (row.loss_tolerance, row.velocity_tolerance) == (0.10, 0.02)
