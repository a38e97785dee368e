"""What one reading without a file carries, and what several say together."""

import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.trim import (
    ContradictionError,
    evidence_of,
    of_dip,
    of_edges,
    of_powers,
    of_sizes,
    of_swr,
    of_unsigned,
)

SPREAD = 0.03


def swr_at(*pairs):
    return of_swr([(mhz * 1e6, swr) for mhz, swr in pairs], SPREAD)


def test_two_frequencies_tell_the_side_and_name_the_third():
    found = evidence_of([swr_at((24.5, 2.6)), swr_at((24.8, 1.9))])

    assert (found.dip.side, found.dip.low_hz) == ("above", 24.65e6)
    assert found.ask.code == "read_swr_at"
    assert found.ask.values == {"frequency_hz": 25.1e6, "side": "above"}
    low, high = found.points[0].swr_band()
    assert low < 2.6 < high


def test_a_band_of_swr_never_falls_below_one_and_may_be_endless():
    assert swr_at((24.5, 1.0)).points[0].swr_band()[0] == 1.0
    assert swr_at((24.5, 60.0)).points[0].swr_band()[1] is None


def test_size_and_swr_give_r_and_the_size_of_x_and_the_trend_its_sign():
    """Made from R 62, X −60, −45, −30: |Z| and SWR of each by the definitions."""

    def size(mhz, r, x):
        z = complex(r, x)
        gamma = abs((z - 50) / (z + 50))
        return mhz * 1e6, abs(z), (1 + gamma) / (1 - gamma)

    one = of_sizes([size(24.0, 62, -60)], SPREAD)
    alone = evidence_of([one])
    assert alone.impedances[0].resistance_ohm == pytest.approx(62)
    assert alone.impedances[0].size_reactance_ohm == pytest.approx(60)
    assert alone.impedances[0].reactance_ohm is None
    assert alone.ask_sign.values["frequency_hz"] == pytest.approx(24.24e6)

    trend = evidence_of([one, of_sizes([size(24.24, 62, -45), size(24.48, 62, -30)], SPREAD)])
    assert [z.reactance_ohm for z in trend.impedances] == pytest.approx([-60, -45, -30])
    assert trend.ask_sign is None


def test_unsigned_values_make_an_swr_and_their_resonance_a_dip():
    assert of_unsigned([(24e6, 50.0, 0.0)], SPREAD).points[0].swr == 1.0
    around = of_unsigned([(24.0e6, 55.0, 30.0), (24.2e6, 55.0, 15.0), (24.6e6, 55.0, 15.0)], SPREAD)
    found = evidence_of([around])

    # X −30, −15, +15: it passes zero half way between the last two.
    assert found.dip.side == "found"
    assert found.dip.frequency_hz == pytest.approx(24.4e6, rel=5e-3)


def test_full_scale_set_once_for_all_strays_three_times_as_far():
    """A quarter of the power back is |Γ| 0.5, SWR 3 (Pozar, §2.3)."""
    each = of_powers([(24e6, 100.0, 25.0)], SPREAD).points[0]
    once = of_powers([(24e6, 100.0, 25.0)], SPREAD, full_scale_each=False).points[0]

    assert each.swr == pytest.approx(3.0)
    assert once.spread == pytest.approx(3 * each.spread)


def test_a_dip_found_by_hand_counts_before_points_and_edges_hold_one():
    both = evidence_of([swr_at((24.5, 2.6), (24.8, 1.9)), of_dip(24.9e6, 1.3)])
    assert (both.dip.side, both.dip.frequency_hz) == ("found", 24.9e6)
    edges = evidence_of([of_edges(24.5e6, 25.1e6, 2.0, SPREAD)])
    assert 24.5e6 < edges.dip.frequency_hz < 25.1e6
    with pytest.raises(OutOfDomainError):
        of_edges(25e6, 24e6, 2.0, SPREAD)
    with pytest.raises(OutOfDomainError):
        of_edges(None, None, 2.0, SPREAD)


@pytest.mark.parametrize(
    ("made", "words"),
    [
        (lambda: evidence_of([swr_at((24.5, 2.6)), swr_at((24.5, 1.2))]), "1.20 was read where 2.60"),
        (lambda: of_sizes([(24e6, 150.0, 1.5)], SPREAD), "at least 3.00, which is 1.50 more"),
        (lambda: of_powers([(24e6, 10.0, 12.0)], SPREAD), "full scale"),
    ],
)
def test_contradictions_say_which_and_by_how_much(made, words):
    with pytest.raises(ContradictionError, match=words):
        made()
