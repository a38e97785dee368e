"""A line nobody knows: what it is from two sweeps, and how far away its end is from one."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import nnls

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.constants import NEPER_PER_DB, SPEED_OF_LIGHT_M_PER_S
from yielding_coil.core.errors import NotMatchableError, OutOfDomainError
from yielding_coil.core.fitting import both_parts, fit, residual_of, smooth
from yielding_coil.core.line.line import OPEN_END_F, Cable, CableRow
from yielding_coil.core.reflection import DEFAULT_REFERENCE_OHM, impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep

# A fit worse than this, root mean square of Γ, is none: something else hangs there, or the two are exchanged.
WORST_FIT = 0.1
FEWEST = 11
# Points of each sweep that are fitted.
FITTED_POINTS = 101
# What calibration leaves when nobody said, and noise of a point.
RESIDUAL_DB, NOISE = 43.0, 1e-3
# Less corrected than this, what lies before the line counts as line.
LEAST_CORRECTED_DB = 26.0
# A short is a piece of wire (half-normal: up to some ten nanohenries), an open end strays; one standard deviation.
SHORT_H, END_SPREAD_F = 5e-9, 0.1e-12
# Matched loss of lines before they are swept, dB at 1 MHz over a metre of electrical length, as the square root and
# as the frequency itself; both by a factor of e, one standard deviation (cables of the table).
USUAL_DB, USUAL_SPREAD = np.array([7e-3, 7e-5]), 1.0


class NotALineError(NotMatchableError):
    """The two sweeps are not those of one line with its end open and shorted."""

    code = "not_a_line"


@dataclass(frozen=True, slots=True)
class Found:
    """A fitted value and its standard error."""

    value: float
    error: float


@dataclass(frozen=True, slots=True)
class FoundLine:
    """A line as its two sweeps show it.

    Args:
        impedance_ohm: high-frequency characteristic impedance R0.
        delay_s: of one way; times the speed of light it is the electrical length.
        loss_sqrt_db, loss_linear_db: matched loss of the whole line in dB at 1 MHz, following √f and f.
        misfit: root mean square of Γ between both sweeps and the fit.
        low_hz, high_hz: where it was swept; the loss law is known there only.
        length_m: as the tape gave it; None when it was not measured.
        loss_correlation: of the errors of both losses: what one has too much the other has too little.
    """

    impedance_ohm: Found
    delay_s: Found
    loss_sqrt_db: Found
    loss_linear_db: Found
    misfit: float
    low_hz: float
    high_hz: float
    length_m: float | None = None
    loss_correlation: float = 0.0

    @property
    def electrical_m(self) -> Found:
        """Length over velocity factor, in metres."""
        c = SPEED_OF_LIGHT_M_PER_S
        return Found(self.delay_s.value * c, self.delay_s.error * c)

    @property
    def velocity_factor(self) -> float | None:
        """By the tape; None without it."""
        return None if self.length_m is None else self.length_m / self.electrical_m.value

    def length_at(self, velocity_factor: float) -> float:
        """The length for an assumed velocity factor, whose error it inherits."""
        return velocity_factor * self.electrical_m.value

    def matched_loss_db(self, frequency_hz: Real) -> Real:
        """Loss of the whole line when closed by its own impedance."""
        mhz = np.asarray(frequency_hz, dtype=float) / 1e6
        return self.loss_sqrt_db.value * np.sqrt(mhz) + self.loss_linear_db.value * mhz

    def loss_error_db(self, frequency_hz: float) -> float:
        """One standard deviation of the matched loss at a frequency."""
        mhz = frequency_hz / 1e6
        root, straight = self.loss_sqrt_db.error * math.sqrt(mhz), self.loss_linear_db.error * mhz
        square = root**2 + straight**2 + 2 * self.loss_correlation * root * straight
        return math.sqrt(max(square, 0.0))

    def cable(self, name: str) -> Cable:
        """The cable it is cut from.

        Raises:
            OutOfDomainError: the length is not known, or the tape cannot be right: faster than light.
        """
        if self.length_m is None:
            raise OutOfDomainError("length_m", "not given", "measured with a tape, to say what a metre of it does")
        velocity = self.velocity_factor or 0.0
        if velocity > 1:
            raise OutOfDomainError(
                "length_m",
                f"{self.length_m:.3f} m",
                f"at most {self.electrical_m.value:.3f} m, its electrical length: measure it again",
            )
        per_100_m = 100 / self.length_m
        return Cable(
            name,
            self.impedance_ohm.value,
            velocity,
            self.loss_sqrt_db.value * per_100_m,
            self.loss_linear_db.value * per_100_m,
        )


def _seen(values: Real, f: Real, end_f: float, short_h: float = 0.0) -> tuple[Complex, Complex]:
    """Γ against 50 Ω with the far end open and shorted; values: ln R0, delay in ns, two losses in dB at 1 MHz.

    Source:
        Wheeler, Proc. IRE 30, 1942, as in `line.Cable.propagation`, for a whole line of unknown length.
    """
    r0, delay = math.exp(values[0]), values[1] * 1e-9
    conductor = values[2] * NEPER_PER_DB * np.sqrt(f / 1e6)
    dielectric = values[3] * NEPER_PER_DB * f / 1e6
    turn = 2 * math.pi * f * delay
    z0 = r0 * (1 + ((1 - 1j) * conductor + 1j * dielectric) / turn)
    back = np.exp(-2 * (conductor + dielectric + 1j * (turn + conductor)))
    end_ohm = 1 / (2j * math.pi * f * end_f)
    opened = (end_ohm - z0) / (end_ohm + z0) * back
    wire_ohm = 2j * math.pi * f * short_h
    shorted = (wire_ohm - z0) / (wire_ohm + z0) * back
    return (
        reflection_of(z0 * (1 + opened) / (1 - opened)),
        reflection_of(z0 * (1 + shorted) / (1 - shorted)),
    )


def characterise(
    far_open: Sweep,
    far_shorted: Sweep,
    length_m: float | None = None,
    end_f: float = OPEN_END_F,
    residual_db: float = RESIDUAL_DB,
) -> FoundLine:
    """Impedance, delay and loss law of a line from its two sweeps, fitted together.

    √(Zoc·Zsc) point by point blows up near multiples of a quarter wave; one model for all points does not.

    Args:
        far_open, far_shorted: at the near end, over frequencies that overlap.
        length_m: by a tape, when known.
        end_f: stray capacitance of the open end.
        residual_db: what calibration leaves, below full reflection; the errors found hold for that.

    Raises:
        OutOfDomainError: too few points in common, a length not above zero, or sweeps that were not corrected.
        NotALineError: no line shows these two sweeps.
    """
    if residual_db < LEAST_CORRECTED_DB:
        raise OutOfDomainError(
            "far_open",
            "swept without a calibration",
            "sweeps corrected where the line begins: without, the test lead counts as line",
        )
    if length_m is not None:
        require_positive("length_m", length_m)
    low, high = max(far_open.low_hz, far_shorted.low_hz), min(far_open.high_hz, far_shorted.high_hz)
    at = far_open.frequency_hz
    f = at[(at >= low) & (at <= high)]
    if f.size < FEWEST:
        raise OutOfDomainError(
            "far_shorted", f"with {f.size} points in common", f"over the range of the open one, {FEWEST} or more"
        )
    opened = reflection_of(far_open.impedance_at(f))
    shorted = reflection_of(far_shorted.impedance_at(f))
    if np.median(np.abs(opened - shorted)) < 0.05:
        raise NotALineError(
            "the two sweeps are alike: the far end was the same both times, or so much is lost on the way that "
            "the end cannot be seen; open it for one and short it for the other"
        )
    values, misfit, error, together = _fitted(f, opened, shorted, end_f, residual_db)
    if misfit > WORST_FIT:
        if _fitted(f, shorted, opened, end_f, residual_db)[1] < WORST_FIT:
            raise NotALineError("these look exchanged: the first is the sweep of the shorted end; swap them")
        raise NotALineError(
            f"no line shows these two sweeps: the best one is {misfit:.2f} of Γ away; sweep with nothing but the "
            "line between the plane and its end, over steps small enough to follow it round the chart"
        )
    r0 = math.exp(values[0])
    return FoundLine(
        Found(r0, r0 * float(error[0])),
        Found(float(values[1]) * 1e-9, float(error[1]) * 1e-9),
        Found(float(values[2]), float(error[2])),
        Found(float(values[3]), float(error[3])),
        misfit,
        float(f[0]),
        float(f[-1]),
        length_m,
        together,
    )


def _fitted(
    f: Real, opened: Complex, shorted: Complex, end_f: float, residual_db: float
) -> tuple[Real, float, Real, float]:
    """Fitted values as `_seen` takes them, the misfit, standard errors, and how far both losses err together.

    What calibration leaves is the same in both sweeps, and smooth in frequency; the short is a piece of wire, and
    the open end strays.
    """
    start = _start(f, opened, shorted)
    at = np.unique(np.linspace(0, f.size - 1, FITTED_POINTS).astype(int))
    f, opened, shorted = f[at], opened[at], shorted[at]
    usual = USUAL_DB * start[1] * 1e-9 * SPEED_OF_LIGHT_M_PER_S
    begun = np.clip(np.log(np.maximum(start[2:], 0.1 * usual) / usual) / USUAL_SPREAD, -2, 2)

    def values(deviates: Real) -> Real:
        return np.array(
            [
                start[0] + 0.5 * deviates[0],
                start[1] * (1 + 0.05 * deviates[1]),
                *usual * np.exp(np.clip(USUAL_SPREAD * deviates[2:4], -8, 6)),
            ]
        )

    wander = smooth(f) * (residual_of(residual_db) / math.sqrt(2))

    def whitened(opened_by: Complex, shorted_by: Complex) -> Callable[[Real], Real]:
        columns = [
            np.concatenate([both_parts(turn * s * opened_by**power), both_parts(turn * s * shorted_by**power)])
            for power in range(3)
            for turn in (1, 1j)
            for s in wander
        ]
        left = np.stack(columns, axis=1)
        # Inverted once: solving for every model of a fit takes ten times as long.
        whitening = np.linalg.inv(np.linalg.cholesky(left @ left.T + np.eye(4 * f.size) * (NOISE**2 / 2))).T

        def off(deviates: Real) -> Real:
            out = []
            for each in deviates:
                a, b = shown(each)
                out.append(np.concatenate([both_parts(a - opened), both_parts(b - shorted)]))
            return np.array(out) @ whitening

        return off

    def shown(each: Real) -> tuple[Complex, Complex]:
        return _seen(values(each), f, max(end_f + END_SPREAD_F * each[5], 1e-16), SHORT_H * abs(each[4]))

    # A delay that is a turn off stays there: from both sides as well. The errors hang on what there is, not on what
    # was read with them in it.
    first = fit(whitened(opened, shorted), [np.array([0.0, late, *begun, 0.3, 0.0]) for late in (0.0, -0.1, 0.1)])
    found = fit(whitened(*shown(first.deviates)), [first.deviates])
    best = values(found.deviates)
    a, b = _seen(best, f, end_f, 0.0)
    misfit = float(np.sqrt(np.mean(np.concatenate([np.abs(a - opened) ** 2, np.abs(b - shorted) ** 2]))))
    # What fits worse than it should is known less well.
    worse = max(1.0, math.sqrt(found.cost / found.numbers))
    slope = np.array([0.5, 0.05 * start[1], *USUAL_SPREAD * best[2:4]])
    errors = slope * np.sqrt(np.diag(found.covariance)[:4]) * worse
    together = float(found.covariance[2, 3] / np.sqrt(found.covariance[2, 2] * found.covariance[3, 3]))
    return best, misfit, errors, together


def _start(f: Real, opened: Complex, shorted: Complex) -> Real:
    """Where the fit begins: delay by the turning of both, loss by their size, impedance by their product."""
    turns = [float(np.polyfit(f, np.unwrap(np.angle(g)), 1)[0]) for g in (opened, shorted)]
    delay_ns = max(1e-3, -1e9 * (turns[0] + turns[1]) / 2 / (4 * math.pi))
    mean = np.sqrt(np.maximum(np.abs(opened * shorted), 1e-6))
    loss_db = np.maximum(-10 * np.log10(np.minimum(mean, 1.0)), 0.0)
    powers = np.column_stack([np.sqrt(f / 1e6), f / 1e6])
    loss, _ = nnls(powers, loss_db)
    product = np.abs(impedance_of(opened) * impedance_of(shorted))
    r0 = math.sqrt(float(np.median(product)))
    return np.array([math.log(min(max(r0, 6.0), 1900.0)), delay_ns, loss[0], loss[1]])


EndKind = Literal["open", "short", "higher", "lower", "unclear", "none"]
# Shares of what is sent that come back: of nothing at the end, and of an open or a short behind some loss.
NOTHING_BACK, WHOLE_BACK = 0.03, 0.7


@dataclass(frozen=True, slots=True)
class FarEnd:
    """Where a line ends.

    Args:
        distance_m: from the plane of the sweep.
        resolution_m: two reflections nearer to each other than this run into one; c·VF/(2·span).
        range_m: farther than this the distance folds back; c·VF/(2·step).
        kind: open, short; "higher" or "lower" than the line where less comes back than of these; "unclear" where
            the phase does not tell, "none" where nothing comes back: then there is no distance either.
        returned: size of the reflection as it arrives, 0 to 1.
    """

    distance_m: float
    resolution_m: float
    range_m: float
    kind: EndKind
    returned: float


def far_end(sweep: Sweep, velocity_factor: float, impedance_ohm: float = DEFAULT_REFERENCE_OHM) -> FarEnd:
    """Distance to the strongest reflection on a line, from a sweep at its near end.

    Args:
        sweep: 16 points or more; read at even steps.
        velocity_factor: of the line, above zero, at most 1; the distance inherits its error.
        impedance_ohm: of the line; against another one its near end would be the strongest reflection.

    Raises:
        OutOfDomainError: too few points, or no such velocity factor.

    Source:
        Inverse discrete Fourier transform of Γ(f), Hann window; resolution and range as for any stepped-frequency
        measurement.
    """
    require_positive("velocity_factor", velocity_factor)
    if velocity_factor > 1:
        raise OutOfDomainError("velocity_factor", velocity_factor, "above zero, at most 1")
    n = sweep.frequency_hz.size
    if n < 16:
        raise OutOfDomainError("sweep", f"of {n} points", "of 16 points or more")
    f = np.linspace(sweep.low_hz, sweep.high_hz, n)
    require_positive("impedance_ohm", impedance_ohm)
    gamma = reflection_of(sweep.impedance_at(f), impedance_ohm)
    step = float(f[1] - f[0])
    window = np.hanning(n + 2)[1:-1]
    size = 1 << (16 * n - 1).bit_length()
    reply = np.abs(np.fft.ifft(gamma * window, size)) * size / window.sum()
    # Behind the near end, whose own mismatch stands within a resolution of zero, and ahead of where distances fold.
    first = math.ceil(size / n)
    best = first + int(np.argmax(reply[first : size // 2 + 1]))
    before, here, after = (math.log(max(reply[(best + k) % size], 1e-12)) for k in (-1, 0, 1))
    bend = before - 2 * here + after
    peak = best + (0.5 * (before - after) / bend if bend < 0 else 0.0)
    there_and_back = (peak % size) / (size * step)
    speed = velocity_factor * SPEED_OF_LIGHT_M_PER_S
    straightened = complex(np.sum(gamma * window * np.exp(2j * math.pi * f * there_and_back)) / window.sum())
    returned = abs(straightened)
    kind: EndKind = "unclear"
    if returned < NOTHING_BACK:
        kind = "none"
    elif abs(straightened.real) > 0.6 * returned:
        # Where the line loses least, an open or a short gives nearly all of it back.
        low = slice(0, max(16, n // 8))
        turned = gamma[low] * np.exp(2j * math.pi * f[low] * there_and_back)
        whole = abs(complex(np.mean(turned))) >= WHOLE_BACK
        kind = ("open" if whole else "higher") if straightened.real > 0 else "short" if whole else "lower"
    return FarEnd(
        float(there_and_back * speed / 2),
        float(speed / (2 * (f[-1] - f[0]))),
        speed / (2 * step),
        kind,
        float(returned),
    )


# One standard deviation of the calibration's load, which no sweep of a line can see.
LOAD_ERROR = 0.005
# Two standard deviations: of a load, which counts twice in an impedance; of a tape's length; of a loss at best.
LOAD_TOLERANCE, TAPE_TOLERANCE, LEAST_LOSS_TOLERANCE, MOST_TOLERANCE = 0.01, 0.002, 0.02, 0.5


def impedance_found(found: FoundLine) -> Found:
    """Its impedance with the doubt of the calibration's load as well."""
    own = found.impedance_ohm
    return Found(own.value, float(np.hypot(own.error, LOAD_ERROR * own.value)))


def known_cable(found: FoundLine, name: str = "own cable") -> CableRow:
    """The cable that a line is cut from, with spreads from the fit: a row as the tables have them.

    Raises:
        OutOfDomainError: the length is not known, or the tape cannot be right.
    """
    cable = found.cable(name)
    loss = float(found.matched_loss_db(np.asarray(found.high_hz)))
    error = found.loss_error_db(found.high_hz)
    ohm, metres = found.impedance_ohm, found.electrical_m
    return CableRow(
        key="",
        cable=cable,
        loss_tolerance=min(MOST_TOLERANCE, max(LEAST_LOSS_TOLERANCE, 2 * error / max(loss, 1e-6))),
        velocity_tolerance=min(MOST_TOLERANCE, max(TAPE_TOLERANCE, 2 * metres.error / metres.value)),
        source="measured",
        note="",
        coax=True,
        lowest_hz=found.low_hz,
        impedance_tolerance=min(MOST_TOLERANCE, LOAD_TOLERANCE + 2 * ohm.error / ohm.value),
    )


def loss_seen_db(far_open: Sweep, far_shorted: Sweep, frequency_hz: Real) -> Real:
    """What each frequency shows of the loss by itself: the mean of both return losses, halved; shape (n,)."""
    product = np.abs(far_open.reflection_at(frequency_hz) * far_shorted.reflection_at(frequency_hz))
    return np.asarray(-5 * np.log10(np.maximum(product, 1e-12)))
