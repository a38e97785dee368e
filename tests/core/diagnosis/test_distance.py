"""Echoes along a line: where they lie, by the length of the line itself."""

import numpy as np
import pytest

from yielding_coil.core.diagnosis import distance_curve
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.sweep import Sweep

COAX = Cable("5 mm coax", 50.0, 0.66, 1.35, 0.025)
F = np.linspace(1.8e6, 30e6, 301)


def swept(ohm):
    return Sweep(F, ohm)


@pytest.mark.parametrize("metres", [8.0, 21.0, 30.0])
@pytest.mark.parametrize("end_ohm", [1e5, 0.2], ids=["open", "shorted"])
def test_the_end_of_a_line_lies_where_its_tape_says(metres, end_ohm):
    line = Line(COAX, metres)
    curve = distance_curve(swept(line.input_impedance(F, np.full(F.shape, end_ohm, complex))), 0.66, 40.0)
    assert curve.metres[np.argmax(curve.size)] == pytest.approx(metres, abs=0.5)


def test_two_ends_nearer_than_it_resolves_are_one():
    # v·c/(2·span): 0.66 · 300 / (2 · 28.2) = 3.5 m (reflectometry, handbook practice), times the window's.
    curve = distance_curve(swept(Line(COAX, 20.0).input_impedance(F, np.full(F.shape, 1e5, complex))), 0.66, 40.0)
    assert curve.resolution_m == pytest.approx(1.2 * 3.51, abs=0.05)
    half = curve.metres[curve.size > curve.size.max() / 2]
    assert np.ptp(half) == pytest.approx(curve.resolution_m, rel=0.25)


def test_small_steps_reach_further():
    # v·c/(2·step) one way and back: 0.66 · 300 / (2 · 0.094) = 1,053 m.
    curve = distance_curve(swept(np.full(F.shape, 60 + 0j)), 0.66, 40.0)
    assert curve.range_m == pytest.approx(1053, rel=0.01)


@pytest.mark.parametrize("points", [5, 20])
def test_too_few_points(points):
    f = np.linspace(1.8e6, 30e6, points)
    with pytest.raises(OutOfDomainError, match="21 points"):
        distance_curve(Sweep(f, np.full(points, 60 + 0j)), 0.66, 40.0)
