"""What an end-fed wire is fed against: a short counterpoise, a quarter-wave, the shield; where chokes help."""

import pytest

from yielding_coil.core.antenna import begun, choke_places, return_paths
from yielding_coil.core.antenna.return_paths import drawn_with_coax
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.target import Target

pytestmark = pytest.mark.deep
F = 21.225e6


@pytest.fixture(scope="module")
def wire():
    return begun("end-fed", Target("15 m", 21.0e6, 21.45e6, 2.0)).told(feed_m=2.5, far_m=6.0)


@pytest.fixture(scope="module")
def paths(wire):
    return {path.school: path for path in return_paths(wire, F, 100.0, 2450.0)}


def test_every_school_is_told(paths):
    assert set(paths) == {"twentieth", "quarter", "beside", "shield", "nothing"}
    for path in paths.values():
        assert path.dip_hz == pytest.approx(F, rel=0.14)
        assert path.feed_a > 0


def test_a_quarter_wave_takes_the_current_that_a_short_one_leaves_to_the_coax(paths):
    """A quarter-wave belongs to the wire; a twentieth leaves the shield to it (practice)."""
    assert paths["quarter"].coax_a < 0.6 * paths["twentieth"].coax_a


def test_without_a_choke_the_shield_is_the_counterpoise(paths):
    """An autotransformer finds the shield (practice): as much flows there as at the feed."""
    assert paths["nothing"].coax_a > 0.8 * paths["nothing"].feed_a
    assert paths["shield"].coax_a < 0.5 * paths["nothing"].coax_a


def test_the_counterpoise_takes_part_in_the_dip(paths):
    """It belongs to the wire length (practice): schools apart by more than any trimming promises."""
    assert abs(paths["quarter"].dip_hz / paths["twentieth"].dip_hz - 1) > 0.005


def test_a_hand_moves_most_where_most_flows(paths):
    assert abs(paths["nothing"].hand_changes) > abs(paths["quarter"].hand_changes)


def test_a_choke_helps_further_down_than_at_the_feed(wire):
    """A twentieth of a wave down the coax or further (practice)."""
    places = choke_places(wire, F, 100.0)
    assert places[0][0] < places[-1][0]
    best = min(places, key=lambda place: place[1])
    assert best[0] > places[0][0]
    assert best[1] < 0.7 * places[0][1]


def test_what_cannot_be_drawn_is_refused(wire):
    with pytest.raises(OutOfDomainError, match="down the coax"):
        drawn_with_coax(wire, None, 50.0)
    with pytest.raises(OutOfDomainError, match="feedpoint height"):
        drawn_with_coax(wire.told(feed_m=0.3), None, None)
