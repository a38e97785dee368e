"""Γ of a structure over a range from few solved frequencies: a rational function, held against others."""

import math
from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise
from typing import TypeAlias

import numpy as np
from scipy.interpolate import AAA, CubicSpline

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.wire.structure import Structure

# Of logarithms of frequency.
Curve: TypeAlias = Callable[[Real], Complex]

# Curves are kept as Γ of this resistance, which stays smooth through resonances high and low.
KEPT_OHM = 200.0
# Solved so far apart in log f, at no fewer frequencies, held to this; a spline so close where that does not do.
FAR_STEP, FEWEST, AAA_ERROR, NEAR_STEP = 0.02, 7, 1e-6, 0.0025
# So far into an octave is little.
LITTLE = 1.3


def reflection_curve(structure: Structure, low_hz: float, high_hz: float) -> Curve:
    """Γ against 200 Ω between two frequencies, as a function of log f.

    Source:
        Y. Nakatsukasa, O. Sète & L. N. Trefethen, The AAA algorithm for rational approximation, 2018 (SciPy's).
    """
    low, high = math.log(low_hz), math.log(high_hz)
    few = max(FEWEST, math.ceil((high - low) / FAR_STEP))
    at = np.linspace(low, high, 2 * few - 1)
    gamma = reflection_of(structure.impedance_at(np.exp(at)), KEPT_OHM)
    between = AAA(at[::2], gamma[::2], rtol=AAA_ERROR)
    if np.abs(between(at[1::2]) - gamma[1::2]).max() < AAA_ERROR:
        return AAA(at, gamma, rtol=AAA_ERROR)
    at = np.linspace(low, high, max(16, math.ceil((high - low) / NEAR_STEP)))
    return CubicSpline(at, reflection_of(structure.impedance_at(np.exp(at)), KEPT_OHM))


def reflection_over(structure: Structure, low_hz: float, high_hz: float) -> Curve:
    """The same over any range, octave by octave from 1 MHz: low down a wire has no more segments than it needs.

    A last bit that reaches little into an octave has as many segments as the octave below.
    """
    edges = [low_hz, high_hz]
    edge = 1e6 * 2.0 ** (math.floor(math.log2(low_hz / 1e6) + 1e-9) + 1)
    while edge < high_hz * (1 - 1e-9):
        edges.insert(-1, edge)
        edge *= 2
    curves = []
    for low, high in pairwise(edges):
        own = structure
        if low > low_hz and high < LITTLE * low:
            own = replace(structure, segments_per_wave=max(8.0, structure.segments_per_wave / 2))
        curves.append(reflection_curve(own, low, high))
    inner = np.log(edges[1:-1])

    def at(log_f: Real) -> Complex:
        log_f = np.asarray(log_f, dtype=float)
        gamma = np.empty(log_f.shape, dtype=complex)
        which = np.searchsorted(inner, log_f)
        for k in np.unique(which):
            gamma[which == k] = curves[k](log_f[which == k])
        return gamma

    return at
