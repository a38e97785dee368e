"""The permeability of a ring that one holds, from sweeps of windings on it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from scipy.linalg import cho_factor, cho_solve
from scipy.stats import chi2

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.bench.characterise.refusal import AN_OCTAVE, FEWEST, NotThisError
from yielding_coil.core.bench.suspect_fit import STRETCH_DECADES
from yielding_coil.core.constants import MU_0_H_PER_M
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import both_parts, fit
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.ring import Material, Size
from yielding_coil.core.sweep import HIGHEST_REFLECTION, Sweep

# Capacitance across a winding, a part for each of its ends and one for its turns, and inductance of its leads:
# means and one standard deviation (ranges from memory).
STRAY_F, STRAY_SPREAD_F = 2.5e-12, 1.8e-12
LEAD_H, LEAD_SPREAD_H = 12e-9, 10e-9
# Below so much a capacitance is as good as none.
SOFT_F = 0.2e-12
# One standard deviation of area over path of a bare ring (its dimensions are sold to about 2 %, practice).
DIMENSIONS = 0.01
# A material strays from its table in shape: so much, one standard deviation, a stretch.
SHAPE = 0.05
# Beyond where a curve is the material's, and where a loss is not known.
BEYOND, LOSS_UNKNOWN = 0.3, 0.03
# Of how many independent numbers a smooth residual error is worth, over a sweep.
INDEPENDENT = 12
# Where the permeability is worse known than this it is not told.
WORST_KNOWN = 0.25
# Frequencies on which curves are compared with tables.
COMPARED = 25
# A fit that chance brings less often than this is none.
CHANCE = 1e-4
# Windings whose permeabilities differ by so many times what their doubts explain, squared, contradict each other.
CONTRADICT = 8.0
# How wide a sweep should be; rounding of its ends aside.
OCTAVE = 1.99


@dataclass(frozen=True, slots=True)
class TurnsSweep:
    """A sweep of so many turns on a ring, alone across the port."""

    turns: int
    sweep: Sweep

    def __post_init__(self) -> None:
        if not 1 <= self.turns <= 200:
            raise OutOfDomainError("turns", self.turns, "1 to 200")
        if self.sweep.frequency_hz.size < FEWEST:
            raise OutOfDomainError("sweep", f"of {self.sweep.frequency_hz.size} points", f"{FEWEST} points or more")


class Likeness(NamedTuple):
    """How like a mix the measured curve is: its share among all, and by which factor it differs from the table."""

    mix: str
    share: float
    factor: float


class FoundRing(NamedTuple):
    """The permeability of a ring as measured, shape (n,), with one standard deviation of each part.

    `likely` are the mixes it may be, likeliest first; none when it is like nothing in the table.
    `stray_f` is the capacitance found across each winding, with its standard deviation.
    """

    frequency_hz: Real
    permeability: Complex
    real_error: Real
    imaginary_error: Real
    likely: tuple[Likeness, ...]
    stray_f: tuple[tuple[float, float], ...]


def _residual_rms(gamma: Complex, residual_db: float, noise: float) -> Real:
    """Root mean square of |δΓ|: what calibration leaves (three terms), and the noise."""
    size = np.abs(gamma)
    left = 10 ** (-residual_db / 20)
    return np.asarray(np.sqrt(left**2 * (1 + size**2 + size**4) / 3 + noise**2))


class _Bare(NamedTuple):
    """Permeability by one sweep once its stray parts are taken off, and one standard deviation of |δμ|."""

    mu: Complex
    error: Real


def _bare(f: Real, gamma: Complex, rms: Real, per_mu: Complex, stray_f: float, lead_h: float) -> _Bare:
    z = 50 * (1 + gamma) / (1 - gamma)
    omega = 2 * np.pi * f
    behind = z - 1j * omega * lead_h
    core = 1 / (1 / behind - 1j * omega * stray_f)
    slope = np.abs(100 / (1 - gamma) ** 2 * (core / behind) ** 2)
    return _Bare(core / per_mu, rms * slope / np.abs(per_mu))


def _together(bare: Sequence[_Bare]) -> tuple[Complex, Real]:
    """Weighted mean over the sweeps, and one standard deviation of |δμ|."""
    weights = np.stack([1 / b.error**2 for b in bare])
    mean = (weights * np.stack([b.mu for b in bare])).sum(axis=0) / weights.sum(axis=0)
    return mean, 1 / np.sqrt(weights.sum(axis=0))


def ring(
    wound: Sequence[TurnsSweep],
    size: Size,
    table: Sequence[Material],
    *,
    stack: int = 1,
    residual_db: float = 50.0,
    noise: float = 1e-3,
) -> FoundRing:
    """Permeability of the material of a ring from one or more windings on it.

    Few turns see higher frequencies; two windings with different turns tell the capacitance across them from the
    core. Flux outside the core is left out: a permeability below ten is read a little high.

    Args:
        wound: at least one; where several, the range that all cover.
        size: of one bare ring.
        table: materials to compare with.
        residual_db: what calibration leaves, below full reflection.
        noise: root mean square of |δΓ| from point to point.

    Raises:
        OutOfDomainError: no sweep, turns out of range, too few points, or ranges that do not overlap.
        NotThisError: a sweep that is not of turns on a ring, begins above their self-resonance, or is too narrow.

    Source:
        Z/N² = jω·μ0·(μ' − jμ'')·Ae/le (IEC 60205), a capacitance across it and the leads in series.
    """
    if not wound:
        raise OutOfDomainError("wound", "none", "at least one sweep of turns on the ring")
    low = max(w.sweep.low_hz for w in wound)
    high = min(w.sweep.high_hz for w in wound)
    f = wound[0].sweep.frequency_hz
    f = f[(f >= low * (1 - 1e-9)) & (f <= high * (1 + 1e-9))]
    if f.size < FEWEST:
        raise OutOfDomainError("wound", "of sweeps that hardly overlap", "sweeps of the same range")
    if f[-1] < OCTAVE * f[0]:
        raise NotThisError(
            f"the sweep, {f[0] / 1e6:.4g} to {f[-1] / 1e6:.4g} MHz, is too narrow to tell materials apart",
            accepted=AN_OCTAVE,
        )
    gammas = [w.sweep.reflection_at(f) for w in wound]
    for w, gamma in zip(wound, gammas, strict=True):
        _require_turns(w, f, gamma)
    rms = [_residual_rms(g, residual_db, noise) for g in gammas]
    form = 2j * np.pi * f * (MU_0_H_PER_M * stack * size.area_m2 / size.path_m)
    per_mu = [np.asarray(form * w.turns**2, dtype=complex) for w in wound]
    k = len(wound)
    share = math.sqrt(min(1.0, INDEPENDENT / f.size))

    def strays(normal: Real) -> list[tuple[float, float]]:
        return [
            (_above_nothing(STRAY_F + float(c) * STRAY_SPREAD_F), LEAD_H + float(h) * LEAD_SPREAD_H)
            for c, h in zip(normal[:k], normal[k:], strict=True)
        ]

    def values(normal: Real) -> list[_Bare]:
        taken = zip(gammas, rms, per_mu, strays(normal), strict=True)
        return [_bare(f, g, r, p, *stray) for g, r, p, stray in taken]

    def apart(normal: Real) -> Real:
        """Each sweep against what the mean over all would show there, over its doubt; shape (2·k·n,)."""
        mean, _ = _together(values(normal))
        omega = 2 * np.pi * f
        away = []
        for g, r, p, (farad, henry) in zip(gammas, rms, per_mu, strays(normal), strict=True):
            seen = reflection_of(1 / (1 / (p * mean) + 1j * omega * farad) + 1j * omega * henry)
            away.append((g - seen) / r * (share * math.sqrt(2)))
        return both_parts(np.concatenate(away))

    fitted = fit(lambda each: np.stack([apart(normal) for normal in each]), [np.zeros(2 * k)])
    strays_found, covariance = fitted.deviates, fitted.covariance
    mean, error = _together(values(strays_found))
    step = 1e-3
    slopes = np.stack([(_together(values(strays_found + step * unit))[0] - mean) / step for unit in np.eye(2 * k)])
    real2 = error**2 / 2 + np.einsum("kn,kl,ln->n", slopes.real, covariance, slopes.real)
    imaginary2 = error**2 / 2 + np.einsum("kn,kl,ln->n", slopes.imag, covariance, slopes.imag)
    real2 += (DIMENSIONS * mean.real) ** 2
    imaginary2 += (DIMENSIONS * mean.imag) ** 2
    told = np.sqrt(real2 + imaginary2) <= WORST_KNOWN * np.abs(mean)
    if told.sum() < FEWEST:
        raise NotThisError(
            "these sweeps tell the permeability nowhere to a quarter of it",
            accepted="a better calibration, another number of turns, or a range that begins lower",
        )
    apart_by = fitted.cost - float(strays_found @ strays_found)
    if k > 1 and apart_by > CONTRADICT * 2 * INDEPENDENT * (k - 1):
        raise NotThisError(
            "the sweeps of the two windings contradict each other",
            accepted="the same ring, and turns counted as passes through the hole",
        )
    columns = np.concatenate([slopes.T @ np.linalg.cholesky(covariance), DIMENSIONS * mean[:, np.newaxis]], axis=1)
    likely = _likeness(f[told], mean[told], error[told], columns[told], table, size)
    found_f = tuple((strays(strays_found)[j][0], math.sqrt(covariance[j, j]) * STRAY_SPREAD_F) for j in range(k))
    return FoundRing(f[told], mean[told], np.sqrt(real2[told]), np.sqrt(imaginary2[told]), likely, found_f)


def _above_nothing(farad: float) -> float:
    """A capacitance that nears nothing and never is less, with a slope everywhere: a fit comes back from there."""
    return SOFT_F * float(np.logaddexp(0.0, farad / SOFT_F))


def _require_turns(wound: TurnsSweep, f: Real, gamma: Complex) -> None:
    """Refuse what turns on a core never show."""
    z = 50 * (1 + gamma) / (1 - gamma)
    inductive = z.imag > 0
    if not inductive[: max(3, f.size // 20)].any():
        raise NotThisError(
            f"{wound.turns} turns are a capacitance already at {f[0] / 1e6:.3g} MHz: "
            "the sweep begins above their self-resonance, or nothing is wound there",
            accepted="a sweep from lower down, or fewer turns",
        )
    turning = int((np.diff(np.sign(z.imag)) != 0).sum())
    if turning > 3 or (np.abs(gamma) > HIGHEST_REFLECTION).any():
        raise NotThisError(
            f"X passes zero {turning} times: turns on a ring do so once. An antenna, or a line?",
            accepted="a sweep of the turns alone across the port",
        )


def _likeness(
    f: Real, mu: Complex, error: Real, columns: Complex, table: Sequence[Material], ring_size: Size
) -> tuple[Likeness, ...]:
    """The mixes that a curve may be of, each with its scale free within its tolerance.

    Where the trade states an inductance factor for this size and mix, that counts, not the nominal permeability. A
    loss that nobody states is two smooth unknowns, not a free number a point.

    Source:
        Evidence of linear Gaussian models (MacKay, Information Theory, Inference, and Learning Algorithms, ch. 28).
    """
    wanted = np.geomspace(f[0], f[-1], COMPARED)
    at = np.unique(np.abs(f[np.newaxis, :] - wanted[:, np.newaxis]).argmin(axis=1))
    f, mu, error, columns = f[at], mu[at], error[at], columns[at]
    log = np.log10(f)
    centres = np.arange(log[0], log[-1] + STRETCH_DECADES, STRETCH_DECADES)
    bumps = np.exp(-0.5 * ((log - centres[:, np.newaxis]) / (STRETCH_DECADES / 2)) ** 2).T

    def both(values: Complex) -> Real:
        return np.concatenate([values.real, values.imag], axis=0)

    logs, factors, fits = [], [], []
    for material in table:
        # Past its last point a curve is compared as it ended, and hardly counts.
        covered = np.minimum(f, material.points[-1][0]) if material.points else f
        expected = material.permeability(covered) * _trade_factor(material, ring_size)
        size = np.abs(expected)
        wide = np.full(f.shape, 0.0)
        for edge, beyond in ((material.highest_hz, 1), (material.lowest_hz, -1)):
            if edge is not None:
                wide = np.where(beyond * (f - edge) > 0, BEYOND, wide)
        shape = SHAPE * size[:, np.newaxis] * bumps
        doubt = [both(columns), both(shape.astype(complex)), both(np.asarray(1j * shape, dtype=complex))]
        covariance = sum(d @ d.T for d in doubt) + np.diag(np.tile(error**2 / 2 + (wide * size) ** 2, 2))
        if material.kind == "powder":
            for smooth in (np.ones(f.shape), log - log.mean()):
                lossy = np.concatenate([0 * f, LOSS_UNKNOWN * size * smooth])
                covariance = covariance + np.outer(lossy, lossy)
        scale = both(expected)
        tolerance = max(material.tolerance / 2, 0.04)
        whole = covariance + tolerance**2 * np.outer(scale, scale)
        left = both(mu) - scale
        factor = cho_factor(whole)
        solved = cho_solve(factor, left)
        squares = float(left @ solved)
        logs.append(-0.5 * squares - float(np.log(np.diag(factor[0])).sum()))
        factors.append(1 + tolerance**2 * float(scale @ solved))
        fits.append(float(chi2.sf(squares, left.size)))
    shares = np.exp(np.array(logs) - max(logs))
    shares /= shares.sum()
    order = [int(k) for k in np.argsort(-shares) if fits[int(k)] > CHANCE and shares[int(k)] > 0.02]
    return tuple(Likeness(table[k].mix, float(shares[k]), factors[k]) for k in order[:3])


def _trade_factor(material: Material, size: Size) -> float:
    """What the trade's inductance factor of a mix in a size is over the one that its nominal permeability gives."""
    stated = dict(size.trade_al_h).get(material.mix)
    if stated is None:
        return 1.0
    first = material.points[0][1] if material.points else material.initial_permeability
    return stated / (MU_0_H_PER_M * first * size.area_m2 / size.path_m)
