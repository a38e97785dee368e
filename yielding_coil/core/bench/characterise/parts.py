"""Coils, capacitors and traps that one holds, from a sweep of each alone."""

import math
from collections.abc import Callable
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.bench.characterise.refusal import AN_OCTAVE, FEWEST, NotThisError
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.fitting import Fit, both_parts, fit, residual_columns, residual_of
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep

# A value that is known worse than this is not told; nothing is, when it is the one that matters.
WORST_VALUE, WORST_MAIN, WORST_Q = 0.3, 0.15, 0.2
# Natural logs of a part's three values before its fit, one standard deviation: next to nothing is known of them.
LOG_SPREADS = np.array([0.7, 2.5, 1.0])
# Of coils and traps before they are swept (common practice: 30 to 500).
USUAL_Q = 130.0
# Natural logs of Q that are thought of; standard deviations of nine in ten.
LOG_Q_TRIED, NINE_IN_TEN = (math.log(5.0), math.log(3000.0)), 1.645
# Loss grows as this power of frequency, and strays from it (skin and proximity effect; common practice).
SKIN, SKIN_SPREAD = 0.5, 0.2
# Wire between the plane and a coil or a trap (half-normal: up to some twenty nanohenries).
PART_LEAD_H = 10e-9
# Weighted squares a number from which on a sweep is of something else.
WORST_FIT = 6.0


class Value(NamedTuple):
    """A value with one standard deviation."""

    value: float
    error: float


class FoundPart(NamedTuple):
    """A coil, a capacitor or a trap by its sweep.

    `inductance_h` and `capacitance_f` are those of its circuit: of a coil its own capacitance, of a capacitor the
    inductance of its leads; None where the sweep does not show it. `q` holds at `q_at_hz`.
    """

    kind: Literal["coil", "capacitor", "trap"]
    inductance_h: Value | None
    capacitance_f: Value | None
    q: Value | None
    q_at_hz: float
    resonance_hz: Value | None
    misfit: float


def part(
    sweep: Sweep,
    kind: Literal["coil", "capacitor", "trap"],
    *,
    residual_db: float = 50.0,
    noise: float = 1e-3,
) -> FoundPart:
    """L, C, Q and self-resonance of a coil, a capacitor or a trap alone across the port.

    Args:
        sweep: eleven points or more.
        kind: what it is; above its self-resonance a coil cannot be told from a capacitor.

    Raises:
        OutOfDomainError: too few points.
        NotThisError: it is something else, the sweep lies above self-resonance, or it is too narrow to tell.

    Source:
        A coil with the loss of the skin effect (R as √f) and a capacitance across; a capacitor with an
        inductance in series.
    """
    require_positive("residual_db", residual_db)
    f = sweep.frequency_hz
    if f.size < FEWEST:
        raise OutOfDomainError("sweep", f"of {f.size} points", f"{FEWEST} points or more")
    x = sweep.impedance_ohm.imag
    at = f[np.unique(np.linspace(0, f.size - 1, 101).astype(int))]
    gamma = sweep.reflection_at(at)
    middle = math.sqrt(f[0] * f[-1])
    columns = residual_columns(at, gamma, residual_of(residual_db))
    covariance = columns @ columns.T + np.eye(2 * at.size) * (noise**2 / 2)
    whiten = np.linalg.inv(np.linalg.cholesky(covariance))
    if kind == "capacitor":
        if not x[0] < 0:
            raise NotThisError(
                f"X is {x[0]:.3g} Ω at {f[0] / 1e6:.3g} MHz: a capacitor begins below zero",
                accepted="a capacitor, swept below where its leads resonate",
            )
        start = np.log([-1 / (2 * np.pi * f[0] * x[0]) * 1e12, 5.0, 500.0])
    else:
        if not x[0] > 0:
            raise NotThisError(
                f"X is {x[0]:.3g} Ω at {f[0] / 1e6:.3g} MHz already: the sweep begins above its self-resonance, "
                "where a coil cannot be told from a capacitor",
                accepted="a sweep that begins lower",
            )
        crossing = np.flatnonzero((x[:-1] > 0) & (x[1:] <= 0))
        own = f[crossing[0]] if crossing.size else 3 * f[-1]
        first = x[0] / (2 * np.pi * f[0]) * (1 - min((f[0] / own) ** 2, 0.99))
        farad = 1 / ((2 * np.pi * own) ** 2 * first)
        start = np.log([first * 1e6, farad * 1e12, USUAL_Q])

    def seen(log: Real, lead_h: float, power: float) -> Complex:
        big, small, q = np.exp(log)
        omega = 2 * np.pi * at
        if kind == "capacitor":
            c, lead = big * 1e-12, small * 1e-9
            return reflection_of(1 / (omega * c * (1j + 1 / q)) + 1j * omega * lead)
        arm = omega * big * 1e-6 * (1j + (middle / at) ** (1 - power) / q)
        return reflection_of(arm / (1 + 1j * omega * small * 1e-12 * arm) + 1j * omega * lead_h)

    def left(start: Real) -> Callable[[Real], Real]:
        def of(deviates: Real) -> Real:
            logs = start + LOG_SPREADS * np.clip(deviates[:, :3], -6, 6)
            found = np.stack(
                [
                    seen(log, PART_LEAD_H * abs(lead), SKIN + SKIN_SPREAD * float(np.clip(law, -4, 4)))
                    for log, (lead, law) in zip(logs, deviates[:, 3:], strict=True)
                ]
            )
            return np.asarray(both_parts(found - gamma) @ whiten.T)

        return of

    best = fit(left(start), [np.array([0.0, 0.0, loss, 0.5, 0.0]) for loss in (0.0, -2.0)])
    misfit = best.cost / best.numbers
    if misfit > WORST_FIT:
        crossings = int((np.diff(np.sign(x)) != 0).sum())
        raise NotThisError(
            f"this is not a {kind} alone: its X passes zero {crossings} times, and no {kind} has such a curve",
            accepted=f"the {kind} alone across the port, nothing else connected",
        )
    values = start + LOG_SPREADS * best.deviates[:3]
    told_q = None if kind == "capacitor" else _quality(best, float(start[2]), max(1.0, misfit))
    # What fits worse than it should is known less well.
    inverse = best.covariance[:3, :3] * np.outer(LOG_SPREADS, LOG_SPREADS) * max(1.0, misfit)
    errors = np.sqrt(np.diag(inverse))
    big, small = (
        Value(float(np.exp(v)) * unit, float(np.exp(v) * e) * unit) if e <= worst else None
        for v, e, unit, worst in zip(
            values[:2],
            errors[:2],
            (1e-12, 1e-9) if kind == "capacitor" else (1e-6, 1e-12),
            (WORST_VALUE, WORST_VALUE),
            strict=True,
        )
    )
    if big is None or errors[0] > WORST_MAIN:
        raise NotThisError(
            f"the sweep, {f[0] / 1e6:.4g} to {f[-1] / 1e6:.4g} MHz, is too narrow to tell its value",
            accepted=AN_OCTAVE,
        )
    resonance = None
    if small is not None:
        # Both logs count half; they stray together.
        error = 0.5 * math.sqrt(max(inverse[0, 0] + inverse[1, 1] + 2 * inverse[0, 1], 0.0))
        own_hz = 1 / (2 * math.pi * math.sqrt(big.value * small.value))
        resonance = Value(own_hz, own_hz * error)
    if kind == "trap" and (resonance is None or not f[0] < resonance.value < f[-1]):
        raise NotThisError(
            "the trap's resonance does not lie inside the sweep",
            accepted="a sweep wide enough that X passes zero in it",
        )
    return FoundPart(
        kind,
        inductance_h=small if kind == "capacitor" else big,
        capacitance_f=big if kind == "capacitor" else small,
        q=told_q,
        q_at_hz=middle,
        resonance_hz=resonance,
        misfit=misfit,
    )


def _quality(found: Fit, log_start: float, worse: float) -> Value | None:
    """Q with its doubt, by the loss that the fit saw; None where the sweep does not show it.

    It is the loss that errs alike to both sides: an interval of Q is lopsided, and what was expected of it counts.
    """
    # What the readings alone say of the loss 1/Q: the prior is taken off the fit, and put back over a grid.
    sure = 1 / float(found.covariance[2, 2]) - 1
    if sure <= 0:
        return None
    at = math.exp(-log_start - LOG_SPREADS[2] * found.deviates[2])
    loss = at * (1 - LOG_SPREADS[2] * float(found.deviates[2]) / sure)
    spread = at * LOG_SPREADS[2] * math.sqrt(worse / sure)
    log_q = np.linspace(*LOG_Q_TRIED, 801)
    weight = np.exp(-0.5 * (((np.exp(-log_q) - loss) / spread) ** 2 + ((log_q - log_start) / LOG_SPREADS[2]) ** 2))
    whole = np.cumsum(weight)
    low, high = (float(np.exp(np.interp(share * whole[-1], whole, log_q))) for share in (0.05, 0.95))
    told = Value((low + high) / 2, (high - low) / (2 * NINE_IN_TEN))
    return told if told.error <= WORST_Q * told.value else None
