"""Leakage of a tapped winding against a sum of partial inductances of its turns as they are drawn."""

from itertools import pairwise

import numpy as np
import pytest

from yielding_coil.core.winding import wiring

# Two stacked rings of 61 by 35.6 by 12.7 mm, wire of 1 mm over its covering.
OUTER, INNER, HEIGHT, WIRE = 30.5e-3, 17.8e-3, 25.4e-3, 1.0e-3
PIECES = 6


def turn(angle, off):
    """One turn as straight pieces round the section, so far off it: middles and lengths, shape (4·pieces, 3)."""
    inner, outer, top = INNER - off, OUTER + off, HEIGHT / 2 + off
    corners = [(inner, -top), (inner, top), (outer, top), (outer, -top), (inner, -top)]
    points = np.array([(r * np.cos(angle), r * np.sin(angle), z) for r, z in corners])
    cuts = np.linspace(0, 1, PIECES + 1)
    edges = np.concatenate([a + (b - a) * cuts[:, np.newaxis] for a, b in pairwise(points)])
    edges = edges.reshape(4, PIECES + 1, 3)
    return ((edges[:, 1:] + edges[:, :-1]) / 2).reshape(-1, 3), (edges[:, 1:] - edges[:, :-1]).reshape(-1, 3)


def leakage_h(primary, secondary):
    """Field energy with opposite ampere-turns, in air: the core carries no net flux then.

    Source:
        Neumann's double sum, wires by their radius (F. W. Grover, Inductance Calculations, ch. 2; from memory).
    """
    angles = np.radians(330) * (np.arange(secondary) + 0.5) / secondary
    turns = [(turn(a, WIRE / 2), -primary / secondary) for a in angles]
    # The primary is twisted with the first turns of the other: on top of them by a wire, on the average.
    turns += [(turn(a, 1.5 * WIRE), 1.0) for a in angles[:primary]]
    middle = np.concatenate([t[0][0] for t in turns])
    piece = np.concatenate([t[0][1] * t[1] for t in turns])
    apart = np.linalg.norm(middle[:, np.newaxis] - middle, axis=2)
    length = np.linalg.norm(np.concatenate([t[0][1] for t in turns]), axis=1)
    # Near themselves pieces count by the mean distance of a filament of their length from the wire's surface.
    own = length / (2 * (np.log(2 * length / (WIRE / 2)) - 1))
    np.fill_diagonal(apart, own)
    return float(1e-7 * ((piece @ piece.T) / apart).sum())


@pytest.mark.parametrize(("primary", "secondary"), [(1, 7), (3, 21), (4, 28)])
def test_it_grows_with_the_turns_as_they_spread(primary, secondary):
    """Against 2 in 14 on the same rings: faster than their number, slower than its square."""
    ratio = leakage_h(primary, secondary) / leakage_h(2, 14)
    way = wiring("tapped")

    assert way.leakage_at(primary) / way.leakage_at(2) == pytest.approx(ratio, rel=0.25)


def test_its_nominal_value_lies_between_wires_in_air_and_wires_against_iron():
    """Iron beside a wire at most doubles its field (an image): between once and twice what they make in air."""
    way = wiring("tapped")
    for primary, secondary in ((2, 14), (3, 21), (4, 28)):
        in_air = leakage_h(primary, secondary)
        spread = way.leakage_spread_h / way.leakage_h * way.leakage_at(primary)
        assert in_air - spread < way.leakage_at(primary) < 2 * in_air + spread
