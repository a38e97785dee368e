"""A suspect brought to rest on bench sweeps, with what they and its core's table leave open."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.bench.hypothesis import Fixture, Hypothesis
from yielding_coil.core.bench.seen import NUISANCES, seen_of
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import Fit, both_parts, fit, residual_columns, residual_of
from yielding_coil.core.sweep import Sweep

# Points of a sweep that are looked at: neighbours tell little more.
FITTED_POINTS = 49
FEWEST_POINTS = 11
# What a calibration leaves, and the noise of a pass, root mean square of |δΓ|: unless the sweep says better.
RESIDUAL_DB = 50.0
NOISE = 1e-3
# Permeability strays from its table in shape too: so much, one standard deviation, in each stretch of a decade;
# and where the table ends, so much more.
SHAPE, STRETCH_DECADES, BEYOND = 0.03, 0.5, 0.4
# A value that may be so far off, two standard deviations, is looked for from half a deviate to both sides too.
WIDE, HALF = 0.5, 0.5


@dataclass(frozen=True, slots=True)
class BenchSweep:
    """A sweep taken in a set-up, thinned, with how far it is trusted.

    Args:
        residual_db: what calibration leaves, below full reflection.
        noise: root mean square of |δΓ| from point to point.
    """

    setup: Fixture
    sweep: Sweep
    residual_db: float = RESIDUAL_DB
    noise: float = NOISE

    def thinned(self) -> tuple[Real, Complex]:
        """Frequencies and Γ, evenly in log f, at most `FITTED_POINTS`.

        Raises:
            OutOfDomainError: fewer than eleven points.
        """
        f = self.sweep.frequency_hz
        if f.size < FEWEST_POINTS:
            raise OutOfDomainError("sweep", f"of {f.size} points", f"{FEWEST_POINTS} points or more")
        wanted = np.geomspace(f[0], f[-1], FITTED_POINTS)
        at = np.unique(np.abs(f[np.newaxis, :] - wanted[:, np.newaxis]).argmin(axis=1))
        return f[at], self.sweep.reflection()[at]


class _Read(NamedTuple):
    """A thinned sweep; its two parts times `whitening` are independent, with a variance of one each."""

    setup: Fixture
    frequency_hz: Real
    gamma: Complex
    whitening: Real


def as_meant(suspect: Hypothesis) -> Real:
    """It as it is meant, shape (1, k)."""
    return np.zeros((1, NUISANCES + len(suspect.spreads)))


def shape_columns(suspect: Hypothesis, setup: Fixture, f: Real, start: Real) -> Real:
    """What a core whose curve strays from its table by a little in every stretch would change."""
    if not suspect.shaped:
        return np.zeros((2 * f.size, 0))
    factor = [k for k, s in enumerate(suspect.spreads) if s.field == "permeability_factor"]
    if not factor:
        return np.zeros((2 * f.size, 0))
    spread = suspect.spreads[factor[0]]
    step = np.array(start)
    step[0, NUISANCES + factor[0]] += 1.0
    slope = (seen_of(suspect, setup, f, step) - seen_of(suspect, setup, f, start))[0] / max(
        spread.relative / 2, 1e-9
    )
    log = np.log10(f)
    centres = np.arange(log[0], log[-1] + STRETCH_DECADES, STRETCH_DECADES)
    bumps = np.exp(-0.5 * ((log - centres[:, np.newaxis]) / (STRETCH_DECADES / 2)) ** 2)
    wide = SHAPE + BEYOND * _beyond(suspect.part, f)
    return np.stack([both_parts(turn * wide * slope * b) for b in bumps for turn in (1, 1j)], axis=1)


def _beyond(part: object, f: Real) -> Real:
    """Octaves beyond the end of a core's data, at most two; shape (n,)."""
    material = getattr(getattr(part, "ring", None), "material", None)
    highest = None if material is None else material.highest_hz
    return np.zeros(f.shape) if highest is None else np.clip(np.log2(f / highest), 0.0, 2.0)


def fit_suspect(suspect: Hypothesis, taken: Sequence[BenchSweep], bar: float = math.inf) -> Fit:
    """A suspect brought to rest on the sweeps, with what they and its core's table leave open."""
    start = as_meant(suspect)
    reads: list[_Read] = []
    volume = 0.0
    for t in taken:
        f, gamma = t.thinned()
        left_by = residual_columns(f, gamma, residual_of(t.residual_db))
        columns = np.concatenate([left_by, shape_columns(suspect, t.setup, f, start)], axis=1)
        lower = np.linalg.cholesky(columns @ columns.T + np.eye(2 * f.size) * (t.noise**2 / 2))
        volume += 2 * float(np.log(np.diag(lower)).sum())
        # Once for the many models that are held against it.
        whitening = np.linalg.inv(lower).T
        reads.append(_Read(t.setup, f, gamma, whitening))

    def left(deviates: Real) -> Real:
        return np.concatenate(
            [
                both_parts(r.gamma - seen_of(suspect, r.setup, r.frequency_hz, deviates)) @ r.whitening
                for r in reads
            ],
            axis=-1,
        )

    # The lead is a half-normal: away from its kink.
    first = start[0].copy()
    first[1] = 0.3
    starts = [first]
    for k, spread in enumerate(suspect.spreads):
        # Far from where it is, a resonance that is sharp shows no way to go.
        if spread.relative > WIDE and spread.field == "inductance_h":
            starts += [first + away * np.eye(first.size)[NUISANCES + k] for away in (-HALF, HALF)]
    return fit(left, starts, log_volume=volume, bar=bar)
