import numpy as np
import pytest

from yielding_coil.api.http import number, numbers, rows_of_numbers


def test_six_significant_digits():
    given = np.array([1234567.0, 0.000123456789, -9.87654321e-12, 0.0, 41.88])

    assert numbers(given) == [1234570.0, 0.000123457, pytest.approx(-9.87654e-12, rel=1e-12), 0.0, 41.88]


def test_what_has_no_finite_value_is_null():
    assert numbers(np.array([1.0, np.inf, np.nan, -np.inf])) == [1.0, None, None, None]
    assert number(float("nan")) is None
    assert number(np.float64(2.0000004)) == 2.0


def test_rows_are_each_as_alone():
    rows = np.array([[1.23456789, np.nan], [1e9, 1e-9]])

    assert rows_of_numbers(rows) == [numbers(rows[0]), numbers(rows[1])]


def test_rounding_changes_no_value_by_more_than_it_may():
    given = np.random.default_rng(11).lognormal(0, 12, 500)

    assert np.array(numbers(given)) == pytest.approx(given, rel=5.1e-6)
