"""Plain sums of a line against handbook figures, and against the line itself."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, ReadThrough, other_end_range, through_line, two_readings
from yielding_coil.core.reflection import swr_of_impedance

LOSSES, SWRS = st.floats(0, 12), st.floats(1, 40)


def test_two_to_one_at_the_radio_behind_one_decibel():
    """The handbook's formula: 2.45 : 1 and 0.33 dB extra; practice reads 2.4 to 2.5 and 0.3 off the chart."""
    sums = through_line(2.0, "radio", 1.0)

    assert sums.swr_load == pytest.approx(2.45, abs=0.005)
    assert 2.4 <= sums.swr_load <= 2.5
    assert sums.total_db == pytest.approx(1.330, abs=0.0005)
    assert sums.extra_db == pytest.approx(0.33, abs=0.0005)


@pytest.mark.parametrize(("loss", "swr"), [(1.0, 8.72), (3.0, 3.01)])
def test_the_most_that_reads_behind_a_loss(loss, swr):
    """Return loss is at least twice the matched loss: 1 dB 8.72, 3 dB 3.01 (handbook)."""
    assert through_line(1.5, "load", loss).highest_radio_swr == pytest.approx(swr, abs=0.005)
    with pytest.raises(OutOfDomainError, match=r"not even an open end"):
        through_line(swr + 0.01, "radio", loss)


@pytest.mark.parametrize(("resistance", "swr"), [(25.0, 2.0), (112.5, 2.25)])
def test_at_resonance_the_swr_is_the_ratio_of_resistances(resistance, swr):
    """Common practice: X = 0 is not 1 : 1."""
    assert float(swr_of_impedance(resistance)) == pytest.approx(swr)


@given(SWRS, LOSSES)
def test_both_ways_are_one_sum(swr, loss):
    there = through_line(swr, "load", loss)
    back = through_line(there.swr_radio, "radio", loss)

    assert back.swr_load == pytest.approx(swr, rel=1e-6)
    assert there.arrives_w + there.line_w == pytest.approx(100, abs=1e-9)
    assert there.extra_db >= -1e-12
    assert there.forward_w - there.reflected_w == pytest.approx(100, abs=1e-9)


def test_the_sums_are_those_of_the_line_itself():
    """Against the cascade's own line, by real powers, for seeded loads; at 500 MHz, where Z0 is all but real."""
    rng = np.random.default_rng(20261129)
    for _ in range(200):
        line = Line(Cable("c", 50.0, 0.8, 1.2, 0.01), rng.uniform(0.5, 20))
        size, angle = rng.uniform(0, 0.9), rng.uniform(0, 2 * math.pi)
        gamma = size * np.exp(1j * angle)
        load = 50 * (1 + gamma) / (1 - gamma)
        matched = float(line.matched_loss_db(500e6))
        sums = through_line(float((1 + size) / (1 - size)), "load", matched)

        assert sums.total_db == pytest.approx(float(line.loss_db(500e6, load)), rel=0.02, abs=0.05)
        seen = float(swr_of_impedance(line.input_impedance(500e6, load)))
        assert sums.swr_radio == pytest.approx(seen, rel=0.01)


@pytest.mark.parametrize(
    ("swr", "loss", "accepted"),
    [(0.9, 1.0, "1 or more"), (math.inf, 1.0, "1 or more"), (2.0, -1.0, "zero or more")],
)
def test_what_is_no_reading_is_refused(swr, loss, accepted):
    with pytest.raises(OutOfDomainError, match=accepted):
        through_line(swr, "radio", loss)


def test_the_better_cable_shows_the_worse_reading():
    """30 m of two cables before one load of 2 : 1 at 28 MHz: each reading by the line itself, all of it by loss."""
    thin, thick = Cable("thin", 50.0, 0.66, 1.35, 0.025), Cable("thick", 50.0, 0.66, 0.6, 0.009)
    gamma = 1 / 3
    reads, losses = [], []
    for cable in (thin, thick):
        line = Line(cable, 30.0)
        losses.append(float(line.matched_loss_db(28e6)))
        reads.append(float(swr_of_impedance(line.input_impedance(28e6, 50 * (1 + gamma) / (1 - gamma)))))
    found = two_readings(ReadThrough(reads[0], losses[0]), ReadThrough(reads[1], losses[1]))

    assert reads[1] > reads[0]
    assert found.verdict == "loss"
    assert found.first.swr_load == pytest.approx(2.0, rel=0.04)
    assert found.loss_share == pytest.approx(1.0, abs=0.1)
    assert through_line(2.0, "load", losses[1]).arrives_w > through_line(2.0, "load", losses[0]).arrives_w + 10


def test_what_loss_does_not_explain_is_called_so():
    """The lossier cable reads higher: 75 Ω cable can do that by its length, 50 Ω cable cannot."""
    odd = two_readings(ReadThrough(1.5, 0.5), ReadThrough(2.2, 1.0))
    through_75 = two_readings(ReadThrough(1.5, 0.5), ReadThrough(2.2, 1.0, 75.0))

    assert (odd.verdict, odd.rest_possible) == ("not by loss", False)
    assert (through_75.verdict, through_75.rest_possible) == ("not by loss", True)


def test_alike_through_alike_cables():
    found = two_readings(ReadThrough(1.8, 0.7), ReadThrough(1.8, 0.7))

    assert (found.loss_share, found.verdict) == (None, "no difference")


def test_the_bounds_hold_every_cable_of_their_tolerance():
    """What the second may read, by the line itself: seeded impedances, lengths and loads, none outside."""
    rng = np.random.default_rng(20261130)
    outside = 0
    for _ in range(400):
        gamma = rng.uniform(0, 0.8) * np.exp(2j * math.pi * rng.uniform())
        load = 50 * (1 + gamma) / (1 - gamma)
        reads, losses = [], []
        for nominal in (50.0, rng.choice([50.0, 75.0])):
            line = Line(Cable("c", nominal * rng.uniform(0.98, 1.02), 0.8, 1.0, 0.0), rng.uniform(2, 40))
            losses.append(float(line.matched_loss_db(200e6)))
            reads.append(float(swr_of_impedance(line.input_impedance(200e6, load))))
            second = nominal
        found = two_readings(ReadThrough(reads[0], losses[0]), ReadThrough(reads[1], losses[1], second))
        outside += not found.low_swr * 0.999 <= reads[1] <= found.high_swr * 1.001
        assert found.rest_possible
    assert outside == 0


@pytest.mark.parametrize("at", ["load", "radio"])
def test_nine_of_ten_cables_of_a_class_lie_in_the_range(at):
    """Cables with evenly spread loss of the same standard deviation: 86 to 95 of a hundred inside."""
    rng = np.random.default_rng(20261202)
    held = 0
    for _ in range(1000):
        size, matched = rng.uniform(0.05, 0.6), rng.uniform(0.1, 1.5)
        swr = (1 + size) / (1 - size)
        low, high = other_end_range(swr, at, matched, 0.1)
        true = matched * (1 + rng.uniform(-1, 1) * math.sqrt(3) * 0.05)
        sums = through_line(swr, at, true)
        held += low <= (sums.swr_radio if at == "load" else sums.swr_load) <= high
    assert 860 <= held <= 960
