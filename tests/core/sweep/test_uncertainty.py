"""Doubt of a reflection: against drawing it many times, and by what must hold."""

import numpy as np
import pytest

from yielding_coil.core.quasi_random import sobol_normal
from yielding_coil.core.reflection import impedance_of, swr_of
from yielding_coil.core.sweep import NINE_IN_TEN, ReflectionUncertainty

GAMMA = np.array([0.1 + 0.2j, -0.6 + 0.1j, 0.5 - 0.5j, 0.02 - 0.3j])
DRAWS = 20000


def tilted():
    """More along one direction than along the other, and not along the axes."""
    return ReflectionUncertainty.along(np.full(4, 3e-3 + 1e-3j)) + ReflectionUncertainty.circular(np.full(4, 1e-3))


def drawn(doubt, seed=11):
    """Drawn here from the covariance itself, by another road than the core's."""
    rng = np.random.default_rng(seed)
    found = np.empty((DRAWS, 4), dtype=complex)
    for k in range(4):
        covariance = [[doubt.real[k], doubt.both[k]], [doubt.both[k], doubt.imaginary[k]]]
        pairs = rng.multivariate_normal([0, 0], covariance, DRAWS)
        found[:, k] = GAMMA[k] + pairs[:, 0] + 1j * pairs[:, 1]
    return found


def test_nine_in_ten_of_a_normal():
    """Standard normal table: 1.645 standard deviations hold 90.00 %."""
    assert pytest.approx(1.645, abs=5e-4) == NINE_IN_TEN


def test_bands_of_r_and_x_hold_nine_in_ten_draws():
    """20,000 draws: 90 % within 1 %, five binomial standard errors."""
    doubt = tilted()
    r, x = doubt.impedance_bands(GAMMA)
    away = impedance_of(drawn(doubt)) - impedance_of(GAMMA)
    assert (np.abs(away.real) <= r).mean(axis=0) == pytest.approx(np.full(4, 0.9), abs=0.011)
    assert (np.abs(away.imag) <= x).mean(axis=0) == pytest.approx(np.full(4, 0.9), abs=0.011)


def test_the_band_of_swr_holds_nine_in_ten_draws_where_it_does_not_touch_one():
    doubt = tilted()
    low, high = doubt.swr_band(GAMMA)
    found = swr_of(drawn(doubt))
    assert ((low <= found) & (found <= high)).mean(axis=0) == pytest.approx(np.full(4, 0.9), abs=0.011)


def test_at_the_centre_of_the_chart_swr_is_never_below_one():
    low, high = ReflectionUncertainty.circular(np.array([0.01])).swr_band(np.array([0j]))
    assert low == pytest.approx([1.0])
    assert 1.02 < high[0] < 1.03  # 1.645·0.01/√2 of Γ


def test_drawing_from_it_gives_its_covariance_back():
    doubt = tilted()
    normal = sobol_normal(2, 12, ((3, ()),))
    again = ReflectionUncertainty.among(doubt.drawn(GAMMA, normal))
    assert again.rows == pytest.approx(doubt.rows, rel=0.02)
    assert ReflectionUncertainty.among(drawn(doubt)).rows == pytest.approx(doubt.rows, rel=0.05)


def test_independent_doubts_add_by_their_squares():
    three, four = (ReflectionUncertainty.circular(np.array([s])) for s in (3e-3, 4e-3))
    assert (three + four).rms == pytest.approx([5e-3])
    none = ReflectionUncertainty.none((1,))
    assert (none + three).rms == pytest.approx(three.rms)
    assert none.impedance_bands(np.array([0.3 + 0j]))[0] == pytest.approx([0.0])


def test_it_is_kept_as_rows_and_found_again():
    doubt = tilted()
    again = ReflectionUncertainty.of(np.frombuffer(doubt.rows.astype("<f8").tobytes(), dtype="<f8"))
    assert again.rows == pytest.approx(doubt.rows)
    some = doubt.at(np.array([2, 0]))
    assert some.real == pytest.approx(doubt.real[[2, 0]])
