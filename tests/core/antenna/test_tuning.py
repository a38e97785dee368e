"""Brought to its band by length or coil: held against solving anew, and the line estimate of coils."""

import math

import pytest
from made_antennas import dip_by_solving

from yielding_coil.core.antenna import begun, hung_dip, moves_by_length, tuned
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS
from yielding_coil.core.wire.kinds.loading import line_estimate_h

F = 24.94e6
BAND = Target("12 m", 24.89e6, 24.99e6, 2.0)
# Those with many wires take seconds.
QUICK = [
    "dipole",
    "inverted-v",
    "loaded-dipole",
    "vertical",
    "loaded-vertical",
    "coil-isolated-vertical",
    "end-fed",
]


@pytest.mark.parametrize("key", QUICK)
def test_begun_for_a_band_it_dips_in_its_middle(key):
    hung = begun(key, BAND)
    dip = dip_by_solving(hung.structure(), F, KINDS[key].feed_ohm)
    assert dip == pytest.approx(F, rel=5e-4)


@pytest.mark.deep
@pytest.mark.parametrize("key", [key for key, kind in KINDS.items() if kind.resonant and key not in QUICK])
def test_every_other_kind_as_well(key):
    hung = begun(key, BAND)
    assert dip_by_solving(hung.structure(), F, KINDS[key].feed_ohm) == pytest.approx(F, rel=5e-4)


def test_a_coil_lies_near_the_line_estimate():
    """The estimate of practice takes the wire for a line; the model for what it is."""
    hung = begun("loaded-vertical", BAND)
    below = hung.coil_at * hung.height_m
    told = line_estimate_h(F, below, hung.height_m - below, hung.stock.radius_m, hung.own_f)
    assert hung.inductance_h == pytest.approx(told, rel=0.15)


def test_what_has_no_resonance_keeps_its_usual_length():
    assert begun("five-eighths", BAND) == KINDS["five-eighths"].start(F)


def test_a_dip_far_away_is_none():
    assert math.isnan(hung_dip(KINDS["vertical"].start(12e6), F, 50.0))
    with pytest.raises(OutOfDomainError, match=r"height is .*dips within 40% of 24\.94 MHz"):
        tuned(KINDS["vertical"].start(12e6), F, 50.0)


def test_what_a_cut_moves():
    """A plain vertical goes by its length; one mostly of coil by less; a short top by more than its share."""
    assert moves_by_length(begun("vertical", BAND), F, 50.0) == pytest.approx(1.0, abs=0.03)
    short = begun("loaded-vertical", BAND).told(coil_at=0.0)
    short = tuned(short, F, 25.0)
    moves = moves_by_length(short, F, 25.0)
    longer, shorter = (hung_dip(short.shortened(by), F, 25.0) for by in (-0.02, 0.02))
    assert moves == pytest.approx(math.log(shorter / longer) / (0.04 / short.height_m), rel=0.05)
    assert moves < 0.95


@pytest.mark.deep
def test_wire_inside_a_trap_moves_its_dip_less_and_beyond_it_more_than_the_ratio_of_lengths():
    """A trap tuned inside the upper band holds the dip there; the lower one goes with all the wire, loaded."""
    hung = begun("trap-dipole", Target("15 m", 21.0e6, 21.45e6, 2.0), others=(BAND,))
    inner, outer = (moves_by_length(hung, f, 50.0) for f in (F, 21.225e6))
    assert inner < 0.8 < 1.0 < outer
    fan = begun("fan-dipole", Target("30 m", 10.1e6, 10.15e6, 2.0), others=(Target("15 m", 21.0e6, 21.45e6, 2.0),))
    assert moves_by_length(fan, 21.225e6, 50.0) == pytest.approx(1.0, abs=0.1)
