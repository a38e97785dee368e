import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import magnitude_at_swr
from yielding_coil.core.sweep import SwrSweep

MHZ = np.array([7.0, 7.05, 7.1, 7.15, 7.2]) * 1e6
DIAL = SwrSweep(MHZ, np.array([3.0, 2.0, 1.2, 2.0, 3.0]))


def test_a_dial_gives_its_lowest_reading_and_the_run_round_it():
    assert DIAL.best_match().frequency_hz == 7.1e6
    band = DIAL.bandwidth(2.0)
    assert (band.low_hz, band.high_hz) == pytest.approx((7.05e6, 7.15e6))
    assert not band.low_open
    assert not band.high_open


def test_edges_between_readings_lie_on_straight_lines_of_reflection():
    """Between 1.2 (|Γ| 1/11) and 2.0 (1/3) the limit 1.5 (1/5) lies 0.45 of the way: by hand."""
    band = DIAL.bandwidth(1.5)

    assert band.high_hz == pytest.approx(7.1e6 + 0.05e6 * (1 / 5 - 1 / 11) / (1 / 3 - 1 / 11))


def test_a_run_that_leaves_the_readings_says_so():
    band = DIAL.bandwidth(5.0)

    assert (band.low_open, band.high_open) == (True, True)
    assert SwrSweep(MHZ, np.full(5, 4.0)).bandwidth(2.0) is None


@given(at=st.floats(7.0e6, 7.2e6))
def test_between_readings_reflection_stays_between_its_neighbours(at):
    right = int(np.clip(np.searchsorted(MHZ, at), 1, 4))
    ends = magnitude_at_swr(DIAL.swr[right - 1 : right + 1])

    assert ends.min() - 1e-12 <= float(DIAL.magnitude_at(np.array([at]))[0]) <= ends.max() + 1e-12


@pytest.mark.parametrize(
    ("f", "swr", "words"),
    [
        ([7e6], [2.0], "two at least"),
        ([7e6, 7e6], [2.0, 2.0], "frequency_hz is not rising"),
        ([7e6, 8e6], [2.0, 0.9], "swr is 0.9; it must be 1 or more"),
        ([7e6, 8e6], [2.0, np.inf], "swr is inf"),
        ([-7e6, 8e6], [2.0, 2.0], "above zero"),
    ],
)
def test_refusals(f, swr, words):
    with pytest.raises(OutOfDomainError, match=words):
        SwrSweep(np.array(f), np.array(swr))


def test_a_limit_of_one_is_refused():
    with pytest.raises(OutOfDomainError, match="above 1"):
        DIAL.bandwidth(1.0)
