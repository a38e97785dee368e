"""Where to put a loading coil, and what more wire or coil moves: near what the trade and the line estimate say."""

import pytest

from yielding_coil.core.antenna import begun, coil_places, hung_dip, lowest_dip_hz, moved_by
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.target import Target
from yielding_coil.core.wire.kinds import LoadedDipole, LoadedVertical

F = 5.36e6


@pytest.fixture(scope="module")
def places():
    return coil_places(LoadedVertical(6.8, 2e-5, 0.5), F, 100.0, 25.0)


def test_further_up_it_asks_for_more_and_sends_more(places):
    """At the base it needs less inductance but wastes more; higher up more and better radiation (practice)."""
    coils = [p.inductance_h for p in places]
    ohms = [p.resistance_ohm for p in places]
    assert coils == sorted(coils)
    assert ohms == sorted(ohms)
    base, middle = places[0], next(p for p in places if p.coil_at == 0.5)
    assert middle.radiated_w > 1.2 * base.radiated_w


def test_near_the_top_the_coil_takes_back_what_the_height_gives(places):
    best = max(places, key=lambda p: p.radiated_w)
    assert 0.3 <= best.coil_at <= 0.7
    assert places[-1].radiated_w < best.radiated_w


def test_watts_sum_to_what_goes_in(places):
    for p in places:
        assert p.radiated_w + p.coil_w + p.wire_w + p.ground_w == pytest.approx(100.0, abs=0.1)


def test_every_coil_lies_near_the_line_estimate(places):
    """X = Ka·cot βh − Kb·tan βh, each section's own length (common practice): within an eighth."""
    for p in places:
        assert p.inductance_h == pytest.approx(p.estimate_h, rel=0.125)


def test_more_coil_is_narrower(places):
    widths = [p.width_hz for p in places]
    assert widths == sorted(widths, reverse=True)


@pytest.mark.deep
def test_as_it_stands_is_among_them():
    found = coil_places(LoadedDipole(3.0, 6.0, 1e-5, 0.45), F, 100.0, 50.0)
    assert 0.45 in [p.coil_at for p in found]
    assert min(p.coil_at for p in found) > 0


def test_a_wire_that_no_coil_brings_there_says_how_low_it_can_go():
    short = LoadedVertical(0.3, 1e-3, 0.5)
    with pytest.raises(OutOfDomainError, match="0.1 MHz from 0.3 m of wire.*1.2.. MHz at the lowest"):
        coil_places(short, 1e5, 100.0, 25.0)
    low = lowest_dip_hz(short.told(inductance_h=5e-3), 25.0)
    assert hung_dip(short.told(inductance_h=5e-3), low, 25.0) == pytest.approx(low, rel=1e-3)


@pytest.mark.deep
def test_a_dip_that_lies_below_all_that_is_looked_at_is_not_told():
    assert lowest_dip_hz(LoadedVertical(200.0, 5e-3, 0.5), 25.0) is None


def test_what_if_i_stretch_it():
    """More wire and more coil bring the dip down; of wire the more, the less of it there is beyond the coil."""
    hung = begun("loaded-vertical", Target("60 m", 5.35e6, 5.37e6, 2.0))
    by_name = {m.name: m for m in moved_by(hung, F, 25.0)}
    assert set(by_name) == {"height_m", "inductance_h"}
    assert by_name["height_m"].moves_hz < 0
    # 1/√L alone would be one percent for two; the wire's own part takes a little off that.
    assert -0.01 * F < by_name["inductance_h"].moves_hz < -0.006 * F


def test_two_bands_from_one_coil():
    """A coil apart serves a band and about half its frequency (practice)."""
    high, low = Target("30 m", 10.1e6, 10.15e6, 2.0), Target("60 m", 5.35e6, 5.37e6, 2.0)
    hung = begun("coil-isolated-vertical", low, others=(high,))
    for band in (high, low):
        assert hung_dip(hung, band.center_hz, 50.0) == pytest.approx(band.center_hz, rel=1e-3)
    assert hung.lower_m + hung.upper_m < 14.0
    moves = {(f, m.name): m.moves_hz for f in (10.125e6, F) for m in moved_by(hung, f, 50.0)}
    assert abs(moves[10.125e6, "lower_m"]) > 5 * abs(moves[10.125e6, "upper_m"])
    assert abs(moves[F, "upper_m"]) > 5 * abs(moves[F, "lower_m"])


def test_an_antenna_without_a_dip_near_by_has_nothing_to_move():
    with pytest.raises(OutOfDomainError, match="near one of its dips"):
        moved_by(LoadedVertical(0.3, 1e-8, 0.0), 1e6, 25.0)
