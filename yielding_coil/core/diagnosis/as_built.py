"""What a baseline teaches of an installation that worked: the doubts of its plan grow small."""

import numpy as np
from scipy.optimize import least_squares

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis.installation import A_YEAR, Installation
from yielding_coil.core.diagnosis.suspects import NUISANCES, STRETCH, AsBuilt, Model, View
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.wire import KEPT_OHM, Ints

# What a model of wires leaves of Γ even at its best, and how far traps stray, one standard deviation each.
MODEL_ERROR, TRAP_SPREAD = 0.03, 0.01
# Stretches tried first; a dip has a narrow valley.
TRIED = np.linspace(-0.06, 0.06, 41)
# Behind more loss than this an antenna is not measured through its line.
SEEN_THROUGH_DB = 8.0
FEWEST = 8


def reading_on(grid: Real, sweep: Sweep) -> tuple[Ints, Complex]:
    """Which of some frequencies a sweep reaches, and Γ at 50 Ω there."""
    within = (grid >= sweep.low_hz) & (grid <= sweep.high_hz)
    for low, high in sweep.gaps:
        within &= ~((grid > low) & (grid < high))
    on = np.flatnonzero(within)
    return on, np.asarray(sweep.reflection_at(grid[on]) if on.size else np.zeros(0), dtype=complex)


def as_built(one: Installation, baseline: Sweep | None, view: View) -> AsBuilt:
    """An installation by the sweep of when it was good.

    Args:
        baseline: None where there is none; then the plan's own doubts stay.
        view: what was swept.
    """
    prior = one.doubts.as_array()
    plain = AsBuilt(np.zeros(NUISANCES), prior)
    if baseline is None:
        return plain
    f = one.grid
    on, read = reading_on(f, baseline)
    if on.size < FEWEST:
        return plain
    healthy = np.zeros((1, NUISANCES))

    def model_of(v: Real) -> Model:
        return Model(
            one, AsBuilt(v[:NUISANCES] * prior, np.zeros(NUISANCES), float(np.exp(v[NUISANCES] * TRAP_SPREAD)))
        )

    def left(v: Real) -> Real:
        model = model_of(v)
        z = model.impedance(model.healthy, np.zeros((1, 0)), healthy, view)[0, on]
        off = (reflection_of(z) - read) / MODEL_ERROR
        # As many numbers as are independent of each other: errors of a model are smooth.
        return np.concatenate([off.real, off.imag, v * np.sqrt(on.size / 12)])

    starts = [_start(s / prior[STRETCH]) for s in TRIED if abs(s) <= 3 * prior[STRETCH]]
    best = min(starts, key=lambda v: float((left(v) ** 2).sum()))
    found = least_squares(
        left, best, method="trf", loss="soft_l1", max_nfev=25, diff_step=np.full(NUISANCES + 1, 1e-3)
    )
    share = on.size / 12
    slope: Real = np.asarray(found.jac, dtype=float)
    covariance = np.linalg.inv(slope.T @ slope / share)
    after = np.minimum(np.sqrt(np.diag(covariance))[:NUISANCES] * prior, prior)
    model = model_of(found.x)
    z = model.impedance(model.healthy, np.zeros((1, 0)), healthy, view)[0, on]
    misfit = float(np.sqrt(np.mean(np.abs(reflection_of(z) - read) ** 2)))
    measured = np.full(f.shape, np.nan + 0j)
    antenna = _through(model, view, on, impedance_of(read))
    measured[on] = antenna
    mean = found.x[:NUISANCES] * prior
    spread = np.hypot(after, A_YEAR.as_array())
    return AsBuilt(mean, spread, model.built.trap_factor, measured, misfit)


def _start(stretch: float) -> Real:
    start = np.zeros(NUISANCES + 1)
    start[STRETCH] = stretch
    return start


def _through(model: Model, view: View, on: Ints, near_ohm: Complex) -> Complex:
    """Γ at 200 Ω of the antenna that shows these impedances through what is below it; NaN where that hides it."""
    f = model.f
    # What three antennas show tells the map from antenna to plane, z' = (a·z + b)/(c·z + 1).
    tried = np.array([20.0, 200.0, 2000.0])
    seen = np.empty((3, f.size), dtype=complex)
    for row, ohm in zip(seen, tried, strict=True):
        row[:] = model.impedance(
            model.healthy, np.zeros((1, 0)), np.zeros((1, NUISANCES)), view._replace(closed="load", load_ohm=ohm)
        )[0]
    seen = seen[:, on]
    maps = np.empty((on.size, 3, 3), dtype=complex)
    for i, ohm in enumerate(tried):
        maps[:, i] = np.stack([np.full(on.size, ohm), np.ones(on.size), -seen[i] * ohm], axis=-1)
    a, b, c = np.moveaxis(np.linalg.solve(maps, seen.T[..., np.newaxis])[..., 0], -1, 0)
    z = (near_ohm - b) / (a - c * near_ohm)
    gamma = reflection_of(z, KEPT_OHM)
    # How much smaller a change of the antenna is at the plane.
    flat = np.abs((a - b * c) / (c * z + 1) ** 2 * (z + KEPT_OHM) ** 2 / (near_ohm + 50) ** 2 * (50 / KEPT_OHM))
    bad = ~np.isfinite(gamma) | (np.abs(gamma) >= 0.999) | (flat < 10 ** (-SEEN_THROUGH_DB / 10))
    return np.where(bad, np.nan, gamma)
