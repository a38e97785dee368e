"""Air coils against rings of surface current on perfect conductors: another code, another method."""

import numpy as np
import pytest
from scipy.special import ellipe, ellipk

from yielding_coil.core.solenoid import Solenoid

pytestmark = pytest.mark.deep

MU_0 = 4e-7 * np.pi
# Filaments round each turn's surface.
ROUND = 32


def mutual_h(r1, z1, r2, z2):
    """Mutual inductance of coaxial circles (Maxwell, Treatise, §701)."""
    k2 = 4 * r1 * r2 / ((r1 + r2) ** 2 + (z1 - z2) ** 2)
    return MU_0 * np.sqrt(r1 * r2 / k2) * ((2 - k2) * ellipk(k2) - 2 * ellipe(k2))


def perfect_h(diameter, pitch, turns, wire):
    """Turns as perfectly conducting rings: no flux enters the metal, each turn carries the same current."""
    angle = 2 * np.pi * (np.arange(ROUND) + 0.5) / ROUND
    radius = np.tile(diameter / 2 + wire / 2 * np.cos(angle), turns)
    height = (np.repeat(np.arange(turns) * pitch, ROUND)) + np.tile(wire / 2 * np.sin(angle), turns)
    r1, r2 = radius[:, np.newaxis], radius[np.newaxis]
    z1, z2 = height[:, np.newaxis], height[np.newaxis]
    with np.errstate(divide="ignore", invalid="ignore"):
        matrix = mutual_h(r1, z1, r2, z2)
    # A filament is a strip of the surface: its own inductance by the mean distance of a strip from itself.
    strip = np.pi * wire / ROUND * np.exp(-1.5)
    np.fill_diagonal(matrix, MU_0 * radius * (np.log(8 * radius / strip) - 2))
    belongs = np.repeat(np.eye(turns), ROUND, axis=0)
    # The flux is one for all filaments of a turn; their currents sum to an ampere.
    count = turns * ROUND
    system = np.block([[matrix, -belongs], [belongs.T, np.zeros((turns, turns))]])
    solved = np.linalg.solve(system, np.concatenate([np.zeros(count), np.ones(turns)]))
    return float(solved[count:].sum())


def test_a_ring_of_wire_is_the_textbooks():
    """One turn of surface current: μ0·r·(ln(8r/a) − 2) (Grover, Inductance Calculations, ch. 16)."""
    thin = MU_0 * 0.05 * (np.log(8 * 0.05 / 0.0001) - 2)
    assert perfect_h(0.1, 0.01, 1, 0.0002) == pytest.approx(thin, rel=3e-3)


def test_two_hundred_coils_lie_within_their_stated_doubt():
    """Coils of 8 to 120 mm, wire of 0.6 to 3 mm, 1.05 to 4 wires apart, 3 to 12 turns; seed 20261204."""
    rng = np.random.default_rng(20261204)
    within, worst = 0, 0.0
    for _ in range(200):
        wire = np.exp(rng.uniform(np.log(0.6e-3), np.log(3e-3)))
        diameter = np.exp(rng.uniform(np.log(max(8e-3, 6 * wire)), np.log(120e-3)))
        pitch = wire * np.exp(rng.uniform(np.log(1.05), np.log(4.0)))
        turns = int(rng.integers(3, 13))
        coil = Solenoid(diameter, pitch, turns, wire)
        off = coil.crowded_inductance_h / perfect_h(diameter, pitch, turns, wire) - 1
        within += abs(off) <= coil.model_doubt
        worst = max(worst, abs(off))
    assert within >= 190
    assert worst < 0.03
