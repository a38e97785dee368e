"""A modelled antenna fitted to a sweep of it: what moved, by how much, how sure, and what the sweep cannot tell.

Every step solves the wires anew, with few segments for the slopes; what few segments err by goes out of the
difference. Priors are how far such things stray; a length may be further off than a tape, since what stands near
lengthens it.
"""

import contextlib
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, Self

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import CHANCE, FURTHEST_PULL, Fit, both_parts, fit, residual_columns, turning
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep, fitted_at
from yielding_coil.core.wire import Ground, Hung, Stock, Stray

WireFitState = Literal["as_modelled", "moved", "far_off", "no_match"]

# Two standard deviations, relative: of a length as it hangs with what stands near its ends, of a coil as it was
# wound (common practice).
HANGING, COIL = 0.02, 0.1
# No thing is tried further off, in standard deviations; what cannot hang so is tried less far off.
FURTHEST, SHRUNK = 6.0, (1.0, 0.7, 0.4, 0.2)
# Points that are looked at; segments a wave of the slopes.
POINTS, SEGMENTS = 41, 20.0
# What the model itself errs by, root mean square of |δΓ|, smooth over the sweep; noise of a kept sweep.
MODEL, NOISE = 0.003, 1.5e-3
# And in frequency, one standard deviation, relative: what segments and thin wires leave (of ours: a thousandth).
STRETCH, ALONG = 1e-3, 1e-4
# No length, coil or trap is told finer, relative. What brings the dip there, and how far out it is looked for too.
FLOOR, TUNING, AWAY = 5e-4, ("coil", "trap", "length"), 1.5
# So many times the squares of a true model, and hardly falling, a fit is left.
HOPELESS = 10.0
# Known hardly better than before; bound to each other; so many standard deviations are a move.
UNTOLD, BOUND, MOVED = 0.85, 0.8, 2.0
NINE_SIGMA = 1.645
# A sweep from so much below to so much above its middle would be wide; it is worth it where it brings a doubt down
# to such a share.
WIDE, WORTH = 0.2, 0.7
# Known by itself a thing must leave the others so much better known, in natural units of volume, to be named.
WORTH_MEASURING = 0.5


@dataclass(frozen=True, slots=True)
class MovedValue:
    """One thing that strays, as planned and as the sweep has it.

    Args:
        name: of what strays; field: of the antenna, the first that it moves.
        planned, found: in the field's unit; of a covering its outer radius in metres, of ground S/m.
        low, high: between them nine times in ten.
        sigmas: how far it moved, in standard deviations of what was expected.
        known: its doubt over the doubt before.
    """

    name: str
    field: str
    planned: float
    found: float
    low: float
    high: float
    sigmas: float
    known: float


@dataclass(frozen=True, slots=True)
class WireFit:
    """What a sweep says of a modelled antenna.

    Args:
        state: as modelled; moved; so far off that it is something else than is said; or like nothing expected.
        together: pairs that the sweep tells only together.
        wider: whether a wider sweep would tell what this one leaves open.
        measure: name of what, measured by itself, would tell most; None where nothing is open.
        read, modelled, fitted: Γ, shape (n,).
        hung: as it is found.
    """

    state: WireFitState
    values: tuple[MovedValue, ...]
    together: tuple[tuple[str, str], ...]
    wider: bool
    measure: str | None
    chance: float
    frequency_hz: Real
    read: Complex
    modelled: Complex
    fitted: Complex
    hung: Hung

    @property
    def untold(self) -> tuple[str, ...]:
        """What the sweep says next to nothing of."""
        return tuple(v.name for v in self.values if v.known > UNTOLD)


def fit_strays(hung: Hung) -> tuple[Stray, ...]:
    """What of it may be otherwise than planned, and how far."""
    # What lies far away moves what is radiated, not what is swept.
    near = [s for s in hung.strays() if s.fields != ("soil",)]
    found = [replace(s, relative=HANGING) if s.name == "length" else s for s in near]
    if "inductance_h" in hung.numbers:
        found.append(Stray("coil", ("inductance_h",), COIL))
    return tuple(found)


@dataclass(frozen=True)
class _Told:
    """An antenna by its deviates, solved where a sweep was taken."""

    planned: Hung
    strays: tuple[Stray, ...]
    frequency_hz: Real

    def hung(self, z: Real) -> Hung:
        """As far off as it can hang: a step may ask for a covering inside its wire, or an end in the soil."""
        for share in SHRUNK:
            with contextlib.suppress(OutOfDomainError):
                found = self.planned
                for stray, deviate in zip(self.strays, share * np.clip(z, -FURTHEST, FURTHEST), strict=True):
                    if deviate:
                        found = found.strayed(stray, float(deviate))
                found.structure()
                return found
        return self.planned

    def seen(self, z: Real, segments: float | None = None) -> Complex:
        structure = self.hung(z).structure()
        if segments is not None:
            structure = replace(structure, segments_per_wave=segments)
        return reflection_of(structure.impedance_at(self.frequency_hz))

    def rows(self, deviates: Real) -> Complex:
        """The first in full, the others by their difference from it with few segments; shape (m, n)."""
        first = self.seen(deviates[0])
        if len(deviates) == 1:
            return first[None]
        rough = self.seen(deviates[0], SEGMENTS)
        return np.stack([first, *(first + self.seen(z, SEGMENTS) - rough for z in deviates[1:])])

    def over(self, frequency_hz: Real) -> Self:
        """The same looked at elsewhere."""
        return replace(self, frequency_hz=frequency_hz)


def fit_wire(hung: Hung, sweep: Sweep, residual: float, noise: float = NOISE) -> WireFit:
    """Fit a modelled antenna to a sweep at its feedpoint.

    Args:
        residual: root mean square of |δΓ| that the analyser's calibration leaves.
        noise: of |δΓ| from point to point.

    Raises:
        OutOfDomainError: too few points; R below zero.
    """
    f, gamma = fitted_at(sweep.frequency_hz, sweep.reflection(), POINTS)
    told = _Told(hung, fit_strays(hung), f)
    whitening, volume = _whitening(told, np.zeros(len(told.strays)), gamma, residual, noise)
    k = len(told.strays)

    def left(deviates: Real) -> Real:
        return both_parts(gamma - told.rows(deviates)) @ whitening

    bar = HOPELESS * 2 * f.size
    found = fit(left, [np.zeros(k)], log_volume=volume, bar=bar)
    if found.chance < CHANCE:
        # A dip that lies beside a narrow sweep shows no way to go: from further out as well.
        names = [s.name for s in told.strays]
        by = next(names.index(name) for name in TUNING if name in names)
        away = [sign * AWAY * np.eye(k)[by] for sign in (-1, 1)]
        found = min(
            (found, *(fit(left, [start], log_volume=volume, bar=bar) for start in away)), key=lambda f: f.cost
        )
    # A deviate known better than the model's own figures are right is not.
    floor = [FLOOR / (s.relative / 2) if s.relative else 0.0 for s in told.strays]
    sigma = np.hypot(np.sqrt(np.diag(found.covariance)), floor)
    values = tuple(
        _value(stray, told, i, float(found.deviates[i]), float(sigma[i])) for i, stray in enumerate(told.strays)
    )
    state: WireFitState = "as_modelled"
    if found.chance < CHANCE:
        state = "no_match"
    elif found.pull() > FURTHEST_PULL:
        state = "far_off"
    elif any(abs(v.sigmas) > MOVED * s for v, s in zip(values, sigma, strict=True)):
        state = "moved"
    pairs = _together(told.strays, found)
    bound = {name for pair in pairs for name in pair}
    open_ = [i for i, stray in enumerate(told.strays) if sigma[i] > UNTOLD or stray.name in bound]
    return WireFit(
        state=state,
        values=() if state == "no_match" else values,
        together=pairs,
        wider=bool(open_) and _wider(told, found, residual, noise, open_),
        measure=_measure(told.strays, found) if open_ else None,
        chance=found.chance,
        frequency_hz=f,
        read=gamma,
        modelled=told.seen(np.zeros(k)),
        fitted=told.seen(found.deviates),
        hung=told.hung(found.deviates),
    )


def _whitening(told: _Told, z: Real, gamma: Complex, residual: float, noise: float) -> tuple[Real, float]:
    """What the calibration leaves, what the model errs by, in Γ and along the frequencies, and noise."""
    f = told.frequency_hz
    columns = residual_columns(f, gamma, math.hypot(residual, MODEL) / math.sqrt(3), turning)
    along = (told.over(f * (1 + ALONG)).seen(z, SEGMENTS) - told.seen(z, SEGMENTS)) / ALONG
    columns = np.concatenate([columns, STRETCH * both_parts(along)[:, None]], axis=1)
    lower = np.linalg.cholesky(columns @ columns.T + np.eye(2 * f.size) * (noise**2 / 2))
    return np.linalg.inv(lower).T, 2 * float(np.log(np.diag(lower)).sum())


def _value(stray: Stray, told: _Told, i: int, z: float, sigma: float) -> MovedValue:
    def figure(deviate: float) -> float:
        own = told.planned.strayed(stray, deviate)
        value = getattr(own, stray.fields[0])
        if isinstance(value, Stock):
            return 0.0 if value.insulation is None else value.insulation.outer_radius_m
        return value.conductivity_s_per_m if isinstance(value, Ground) else float(value)

    low, high = sorted((figure(z - NINE_SIGMA * sigma), figure(z + NINE_SIGMA * sigma)))
    return MovedValue(stray.name, stray.fields[0], figure(0.0), figure(z), low, high, z, sigma)


def _together(strays: Sequence[Stray], found: Fit) -> tuple[tuple[str, str], ...]:
    sigma = np.sqrt(np.diag(found.covariance))
    bound = np.abs(found.covariance / np.outer(sigma, sigma)) > BOUND
    return tuple(
        (strays[i].name, strays[j].name)
        for i in range(len(strays))
        for j in range(i + 1, len(strays))
        if bound[i, j] and max(sigma[i], sigma[j]) > 1 - UNTOLD
    )


def _measure(strays: Sequence[Stray], found: Fit) -> str | None:
    """What, known exactly, would leave the others best known."""
    covariance, many = found.covariance, range(len(strays))

    def left(i: int) -> float:
        """Log volume of the doubt of the others, were this one known."""
        others = [j for j in many if j != i]
        across = covariance[np.ix_(others, [i])]
        return float(
            np.linalg.slogdet(covariance[np.ix_(others, others)] - across @ across.T / covariance[i, i])[1]
        )

    def alone(i: int) -> float:
        others = [j for j in many if j != i]
        return float(np.linalg.slogdet(covariance[np.ix_(others, others)])[1])

    if len(strays) < 2:
        return None
    gains = [alone(i) - left(i) for i in many]
    best = int(np.argmax(gains))
    return strays[best].name if gains[best] > WORTH_MEASURING else None


def _wider(told: _Told, found: Fit, residual: float, noise: float, open_: Sequence[int]) -> bool:
    """Whether a wide sweep would bring down what is open: by its slopes, where the fit has come to rest."""
    middle = math.sqrt(told.frequency_hz[0] * told.frequency_hz[-1])
    wide = np.linspace(middle * (1 - WIDE), middle * (1 + WIDE), POINTS)
    if wide[0] >= told.frequency_hz[0]:
        return False
    there = told.over(wide)
    step = 0.05
    still = there.seen(found.deviates, SEGMENTS)
    unit = np.eye(found.deviates.size)
    slope = np.stack([there.seen(found.deviates + step * e, SEGMENTS) - still for e in unit]) / step
    whitening, _ = _whitening(there, found.deviates, still, residual, noise)
    across = both_parts(slope) @ whitening
    then = np.sqrt(np.diag(np.linalg.inv(across @ across.T + unit)))
    now = np.sqrt(np.diag(found.covariance))
    return bool((then[list(open_)] < WORTH * now[list(open_)]).any())
