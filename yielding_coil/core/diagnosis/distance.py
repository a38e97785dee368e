"""How far away something comes back from, along a line, by one sweep."""

from typing import NamedTuple

import numpy as np
from scipy.signal.windows import kaiser

from yielding_coil.core.arrays import Real, require_positive
from yielding_coil.core.constants import SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.sweep import Sweep

# Side lobes at −26 dB; steps of the curve in parts of a resolution.
BETA, FINE, FEWEST = 3.0, 8, 21
# The window widens what a span resolves by this.
WIDENS = 1.2


class DistanceCurve(NamedTuple):
    """What comes back along a line.

    Args:
        metres: from the analyser, shape (n,).
        size: of the echo, one where all of it comes back without loss.
        resolution_m: two echoes nearer than this are one.
        range_m: beyond it an echo appears again nearer.
    """

    metres: Real
    size: Real
    resolution_m: float
    range_m: float


def distance_curve(sweep: Sweep, velocity_factor: float, until_m: float) -> DistanceCurve:
    """Echoes along a line by the inverse Fourier transform of Γ.

    Args:
        velocity_factor: of the line.
        until_m: how far the curve reaches, above zero.

    Raises:
        OutOfDomainError: a sweep with a gap, of too few points, or of no width.

    Source:
        Time-domain reflectometry from a sweep in frequency: v/(2·span) resolves, v/(2·step) repeats (handbook
        practice; the Kaiser window after Harris, Proc. IEEE 66, 1978).
    """
    require_positive("until_m", until_m)
    require_positive("velocity_factor", velocity_factor)
    if sweep.gaps or sweep.frequency_hz.size < FEWEST or not sweep.low_hz < sweep.high_hz:
        raise OutOfDomainError(
            "sweep", f"{sweep.frequency_hz.size} points", f"one in a piece, of {FEWEST} points or more"
        )
    speed = SPEED_OF_LIGHT_M_PER_S * velocity_factor
    span = sweep.high_hz - sweep.low_hz
    points = max(sweep.frequency_hz.size, 2 * int(np.ceil(2 * until_m * span / speed)) + 1)
    f = np.linspace(sweep.low_hz, sweep.high_hz, points)
    window = kaiser(points, BETA)
    gamma = sweep.reflection_at(f) * window / window.sum()
    resolution = WIDENS * speed / (2 * span)
    metres = np.linspace(0.0, until_m, max(2, int(np.ceil(FINE * until_m / resolution)) + 1))
    turned = np.exp(4j * np.pi * np.outer(metres, f) / speed)
    step = float(np.max(np.diff(sweep.frequency_hz)))
    return DistanceCurve(metres, np.abs(turned @ gamma), resolution, speed / (2 * step))
