"""Places taken by hand: the numbers follow, as far as they may."""

import math

import pytest

from yielding_coil.core.antenna import dragged
from yielding_coil.core.errors import NotFoundError
from yielding_coil.core.wire import KINDS, NUMBERS
from yielding_coil.core.wire.kinds import Dipole, EndFed, InvertedV, LoadedVertical, SlopingDipole

F = 10.125e6


def test_an_end_comes_along():
    hung = dragged(Dipole(7.0, 8.0), "end", 6.2, 9.5)
    assert (hung.leg_m, hung.height_m) == pytest.approx((6.2, 9.5), abs=1e-3)
    other = dragged(Dipole(7.0, 8.0), "other", -6.2, 9.5)
    assert other == hung


def test_a_far_end_keeps_the_wire_straight():
    hung = dragged(EndFed(14.0, 1.5, 2.0, 8.0), "far", 12.0, 9.0)
    assert hung.wire_m == pytest.approx(math.hypot(12.0, 7.0), abs=2e-3)
    assert hung.far_m == pytest.approx(9.0, abs=2e-3)
    assert hung.feed_m == 2.0


def test_an_apex_goes_up_and_not_aside():
    hung = dragged(InvertedV(7.0, 8.0, 120.0), "apex", 3.0, 10.0)
    assert hung == InvertedV(7.0, pytest.approx(10.0, abs=1e-3), 120.0)


def test_a_leg_of_an_inverted_v_by_length_and_angle():
    hung = dragged(InvertedV(7.0, 8.0, 120.0), "end", 5.0, 5.0)
    assert hung.leg_m == pytest.approx(math.hypot(5.0, 3.0), abs=1e-3)
    assert hung.angle_deg == pytest.approx(2 * math.degrees(math.atan2(5.0, 3.0)), abs=0.1)


def test_a_coil_slides_along():
    hung = dragged(LoadedVertical(4.0, 2e-5, 0.5), "coil", 0.7, 1.0)
    assert hung.coil_at == pytest.approx(0.25, abs=1e-3)


def test_it_stops_where_it_could_not_hang():
    """Under the ground, or further above its low end than it is long: as near as it may come."""
    low = dragged(Dipole(7.0, 8.0), "end", 7.0, -3.0)
    assert 0 < low.height_m < 8.0
    low.structure()
    steep = dragged(SlopingDipole(7.0, 10.0, 3.0), "high", 0.0, 40.0)
    assert 10.0 < steep.high_m < 17.0
    steep.structure()
    assert dragged(LoadedVertical(4.0, 2e-5, 0.5), "coil", 0.0, 9.0).coil_at <= NUMBERS["coil_at"].most


def test_a_place_that_is_none():
    with pytest.raises(NotFoundError, match="no place “tail”") as why:
        dragged(Dipole(7.0, 8.0), "tail", 0.0, 0.0)
    assert why.value.accepted == "end, other"


@pytest.mark.parametrize("key", KINDS)
def test_every_place_of_every_kind_follows(key):
    hung = KINDS[key].start(F)
    for handle in hung.handles:
        moved = dragged(hung, handle.key, 0.5, hung.structure().wires[0].at(0.7)[2] * 1.02)
        assert set(moved.numbers) == set(hung.numbers)
        others = {n: v for n, v in moved.numbers.items() if n not in handle.numbers}
        assert others == {n: hung.numbers[n] for n in others}


def test_a_hand_sets_round_marks():
    hung = dragged(EndFed(14.0, 1.5, 2.0, 8.0), "far", 12.0, 9.0, 0.01)
    assert hung.wire_m == 13.89
    assert hung.far_m == 9.0
    assert dragged(InvertedV(7.0, 8.0, 120.0), "end", 5.0, 5.0, 0.01).angle_deg == 118.0
