"""What a sweep says of a wire on bands."""

import math

import numpy as np
import pytest

from yielding_coil.core.bode_fano import lowest_swr
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import (
    Sweep,
    SwrSweep,
    above_one,
    band_change,
    evenly,
    known_q,
    match_floor,
    require_passive,
    sharpness_of,
    standing,
    suggested_targets,
    swr_at,
    thinned,
    too_wide,
)
from yielding_coil.core.target import Target, require_inside

F = np.linspace(9e6, 11e6, 401)
BAND = Target("10 MHz", 9.9e6, 10.1e6, 2.0)


def circuit(r=50.0, q=10.0, f0=10e6, f=F):
    """An ideal series circuit: X = QR(f/f0 − f0/f)."""
    return Sweep(f, r * (1 + 1j * q * (f / f0 - f0 / f)))


def meter(sweep):
    return SwrSweep(sweep.frequency_hz[::20], sweep.swr()[::20])


def test_a_series_circuit_stands_as_its_formula_has_it():
    """At the edges |X|/R = 0.2 of Q 10 within 1 %: S + 1/S = 2 + x² (Pozar, §2.3)."""
    found = standing(circuit(), BAND)
    half = 2 + (10 * (1.01 - 1 / 1.01)) ** 2
    worst = (half + math.sqrt(half**2 - 4)) / 2

    assert found.best_swr == pytest.approx(1.0, abs=1e-6)
    assert found.worst_swr == pytest.approx(worst, rel=0.01)
    assert found.holds
    assert (found.lowest_resistance_ohm, found.highest_resistance_ohm) == pytest.approx((50, 50))
    assert found.highest_reactance_ohm == pytest.approx(-found.lowest_reactance_ohm, rel=0.03)
    assert found.floor.any == pytest.approx(lowest_swr(0.02, 10.0, "any"), rel=0.01)
    assert not standing(circuit(), Target("tight", 9.9e6, 10.1e6, 1.1)).holds


@pytest.mark.parametrize(
    ("added_ohm", "stands"),
    [(0.0, "crosses"), (-0.6, "crosses"), (150.0, "inductive"), (-150.0, "capacitive")],
)
def test_what_reactance_comes_to_in_a_band(added_ohm, stands):
    """X of the series circuit runs from −10 to 10 Ω over the band; an ideal reactance is put in line with it."""
    wire = circuit()
    told = standing(Sweep(F, wire.impedance_ohm + 1j * added_ohm), BAND)

    assert told.reactance == stands


def test_a_few_ohms_are_next_to_nothing_and_swr_alone_says_nothing_of_it():
    assert standing(Sweep(F, np.full(F.size, 62 + 4j)), BAND).reactance == "small"
    assert standing(Sweep(F, np.full(F.size, 62 + 40j)), BAND).reactance == "inductive"
    assert standing(meter(circuit()), BAND).reactance is None


def test_a_word_for_a_q():
    """Wire dipoles have a Q of some ten, short and loaded wires of some tens (common practice)."""
    assert [sharpness_of(q) for q in (3.0, 15.0, 80.0)] == ["wide", "middling", "sharp"]


def test_a_floor_that_leaves_nothing_to_wish_for():
    """A band that is narrow beside f/Q costs next to nothing; one of its own width costs much (Fano's bound)."""
    narrow = match_floor(circuit(q=2.0), Target("narrow", 9.99e6, 10.01e6, 2.0))
    wide = match_floor(circuit(q=10.0), Target("wide", 9.5e6, 10.5e6, 2.0))

    assert (narrow.narrow, narrow.almost_perfect) == (True, True)
    assert (wide.narrow, wide.almost_perfect) == (False, False)


def test_swr_alone_tells_no_resistance_and_no_floor():
    found = standing(meter(circuit()), BAND)

    assert found.worst_swr == pytest.approx(standing(circuit(), BAND).worst_swr, rel=0.05)
    assert (found.lowest_resistance_ohm, found.floor) == (None, None)
    assert swr_at(meter(circuit()), np.array([10e6]))[0] == pytest.approx(1.0, abs=0.01)


def test_no_floor_where_an_antenna_stores_nothing():
    resistor = Sweep(F, np.full(F.shape, 50 + 0j))

    assert known_q(resistor, 10e6) is None
    assert match_floor(resistor, BAND) is None
    assert known_q(circuit(q=10.0), 10e6) == pytest.approx(10.0, rel=1e-3)


def test_two_sweeps_are_compared_where_both_reach():
    narrow = np.linspace(9.95e6, 10.2e6, 51)
    change = band_change(circuit(50), circuit(60), BAND)
    short = band_change(circuit(50), circuit(60, f=narrow), BAND)

    assert change.resistance_change_ohm == pytest.approx(10, rel=1e-3)
    assert change.reactance_change_ohm == pytest.approx(0, abs=1e-3)
    assert short.first_worst_swr == change.first_worst_swr
    assert (short.second_worst_swr, short.resistance_change_ohm) == (None, None)
    dial = band_change(circuit(50), meter(circuit(60)), BAND)
    assert dial.second_worst_swr is not None
    assert dial.resistance_change_ohm is None


def test_bands_inside_a_sweep_the_best_matched_first():
    bands = [("low", 9.1e6, 9.2e6), ("middle", 9.95e6, 10.05e6), ("beyond", 10.9e6, 11.2e6)]

    assert [t.label for t in suggested_targets(circuit(), bands)] == ["middle", "low"]
    assert [t.label for t in suggested_targets(meter(circuit()), bands)] == ["middle", "low"]
    (only,) = suggested_targets(circuit(f0=9.005e6), bands[2:])
    # One percent to either side of the best match, as far as the sweep goes.
    assert (only.label, only.low_hz) == ("best match", 9e6)
    assert only.high_hz == pytest.approx(9.005e6 * 1.01, rel=1e-3)


def test_samples_that_return_more_than_they_got_are_counted():
    z = np.full(F.shape, 50 + 0j)
    z[3:5] = -1 + 0j

    assert above_one(Sweep(F, z)) == 2
    assert above_one(meter(circuit())) == 0
    # An analyser may show a little more than all of a lossless load; not twice as much.
    require_passive(circuit())
    with pytest.raises(OutOfDomainError, match="more than it was sent, at 9.015 MHz"):
        require_passive(Sweep(F, z - 20.0 * (z.real < 0)))


@pytest.mark.parametrize("points", [16, 64, 400])
def test_thinning_keeps_the_dip_and_the_order(points):
    """The deepest of 10,001 samples, one sample wide, is there whatever is left out."""
    f = np.linspace(9e6, 11e6, 10_001)
    sweep = circuit(q=2000.0, f=f)
    few_hz, few_ohm = thinned(f, sweep.impedance_ohm, points)

    assert few_hz.size <= points
    assert (np.diff(few_hz) > 0).all()
    assert few_hz[np.abs(few_ohm).argmin()] == f[np.abs(sweep.impedance_ohm).argmin()]
    assert thinned(f, sweep.impedance_ohm, 20_000)[0] is f


def test_evenly_spaced_indices_with_both_ends():
    assert evenly(101, 5).tolist() == [0, 25, 50, 75, 100]
    assert evenly(3, 10).tolist() == [0, 1, 2]


TWO_RANGES = np.concatenate([np.linspace(6.9e6, 7.4e6, 51), np.linspace(13.9e6, 14.5e6, 61)])


def test_a_gap_is_no_data():
    """6.9 to 7.4 and 13.9 to 14.5 MHz in one file: nothing is known of 30 m, nor of a resonance between."""
    f = TWO_RANGES
    x = np.where(f < 10e6, 200.0, -200.0) + (f - 7e6) / 1e5 * (f < 10e6)
    sweep = Sweep(f, 60 + 1j * x)
    bands = [("40 m", 7.0e6, 7.2e6), ("30 m", 10.1e6, 10.15e6), ("20 m", 14.0e6, 14.35e6)]

    assert sweep.gaps == ((7.4e6, 13.9e6),)
    assert {t.label for t in suggested_targets(sweep, bands)} == {"40 m", "20 m"}
    assert sweep.resonances() == ()
    with pytest.raises(OutOfDomainError, match=r"there are none from 7\.400 to 13\.900 MHz"):
        require_inside([Target("30 m", 10.1e6, 10.15e6, 2.0)], sweep)


def test_even_steps_and_a_handful_of_points_have_no_gap():
    for f in (np.linspace(1e6, 30e6, 101), np.geomspace(1e6, 30e6, 101), np.array([7e6, 7.1e6, 14e6])):
        assert Sweep(f, np.full(f.size, 50 + 0j)).gaps == ()


@pytest.mark.parametrize(("q", "wide"), [(12.0, False), (8.0, False), (2.0, True), (0.0, True)])
def test_a_curve_wider_than_a_wire_is_no_proof(q, wide):
    f = np.linspace(10e6, 18e6, 201)
    assert too_wide(Sweep(f, 50 * (1 + 1j * q * (f / 14e6 - 14e6 / f)))) is wide


def test_noise_makes_no_resonances():
    """One resonance, steps of 5 kHz, noise of 0.2 % of Γ; ten seeds from 20261250."""
    f = np.linspace(13.5e6, 14.5e6, 201)
    gamma = reflection_of(60 * (1 + 11j * (f / 14.1e6 - 14.1e6 / f)))
    for seed in range(20261250, 20261260):
        rng = np.random.default_rng(seed)
        read = gamma + 2e-3 / np.sqrt(2) * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
        found = Sweep(f, impedance_of(read)).resonances()
        assert len(found) == 1
        assert found[0].frequency_hz == pytest.approx(14.1e6, rel=2e-3)
