"""A swept impedance and everything that can be read off it."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy.interpolate import CubicSpline

from yielding_coil.core.arrays import Complex, Real, Reals, require_finite, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.quasi_random import sobol_normal
from yielding_coil.core.reflection import (
    DEFAULT_REFERENCE_OHM,
    impedance_of,
    magnitude_at_swr,
    reflection_of,
    swr_of,
    swr_of_impedance,
)
from yielding_coil.core.sweep.gaps import covers, gaps_of
from yielding_coil.core.sweep.uncertainty import ReflectionUncertainty

# What an analyser may show of a lossless load without being called wrong.
HIGHEST_REFLECTION = 1.05
# Anything larger is a slip, and would overflow in the sums.
MOST = 1e15
# Half the width, relative to the frequency, of the piece over which Q's derivatives are fitted.
Q_WINDOW = 0.025
# Draws that a range of Q is taken from, as a power of two.
Q_DRAWS_EXPONENT = 8
# Samples that such a range is taken from at the most, roughly.
Q_SAMPLES = 64
# What calibration leaves turns as fast as along some two metres of leads, there and back (common practice).
RESIDUAL_TURNS_S = 12e-9
# How far apart the three terms that it leaves are in size: one standard deviation of the natural logarithm.
TERMS_APART = 0.5


# Samples from which on the noise of a sweep shows in its second differences, and how many of its standard
# deviations a sign is clear of it.
NOISE_FROM, CLEAR_OF_NOISE = 25, 4.0
# What wanders more than this from sample to sample is no noise.
MOST_NOISE = 4e-3


@dataclass(frozen=True, slots=True)
class Resonance:
    """Where the reactance passes through zero."""

    frequency_hz: float
    resistance_ohm: float
    kind: Literal["series", "parallel"]

    @property
    def swr(self) -> float:
        """There, against 50 Ω: the ratio of the two resistances, either way round."""
        return float(swr_of_impedance(self.resistance_ohm))


@dataclass(frozen=True, slots=True)
class BestMatch:
    """Where the SWR is lowest."""

    frequency_hz: float
    swr: float


@dataclass(frozen=True, slots=True)
class Bandwidth:
    """The run round the best match inside an SWR limit; open where it leaves the sweep."""

    low_hz: float
    high_hz: float
    low_open: bool
    high_open: bool


@dataclass(frozen=True, eq=False)
class Sweep:
    """Impedance against frequency, as measured or computed.

    Between samples a cubic spline of Γ against 50 Ω is read, because Γ stays smooth where Z has a pole.

    Args:
        frequency_hz: shape (n,), n at least 1, above zero, strictly rising.
        impedance_ohm: shape (n,), finite.
        doubt: how sure its Γ is, shape (n,) each, as the analyser that read it knows; None where nobody does.

    Raises:
        OutOfDomainError: frequencies not rising, shapes that differ, values not finite.

    >>> sweep = Sweep(np.array([7.0e6, 7.1e6]), np.array([50 - 5j, 50 + 5j]))
    >>> round(sweep.resonances()[0].frequency_hz)
    7050000
    """

    frequency_hz: Real
    impedance_ohm: Complex
    doubt: ReflectionUncertainty | None = None

    def __post_init__(self) -> None:
        frequency = np.atleast_1d(np.asarray(self.frequency_hz, dtype=float))
        impedance = np.atleast_1d(np.asarray(self.impedance_ohm, dtype=complex))
        if frequency.size == 0:
            raise OutOfDomainError("frequency_hz", "empty", "at least one frequency")
        if frequency.ndim != 1 or frequency.shape != impedance.shape:
            raise OutOfDomainError(
                "impedance_ohm", f"of shape {impedance.shape}", f"one value per frequency, {frequency.shape}"
            )
        require_positive("frequency_hz", frequency)
        require_finite("impedance_ohm", impedance)
        for name, values in (("frequency_hz", frequency), ("impedance_ohm", np.abs(impedance))):
            if values.max() > MOST:
                raise OutOfDomainError(name, f"{values.max():g}", f"at most {MOST:g}")
        steps = np.diff(frequency)
        if (steps <= 0).any():
            at = int(np.argmax(steps <= 0))
            raise OutOfDomainError("frequency_hz", f"{frequency[at + 1]} after {frequency[at]}", "rising")
        object.__setattr__(self, "frequency_hz", frequency)
        object.__setattr__(self, "impedance_ohm", impedance)

    def reflection(self, reference_ohm: float = DEFAULT_REFERENCE_OHM) -> Complex:
        """Γ at every frequency of the sweep, shape (n,)."""
        return reflection_of(self.impedance_ohm, reference_ohm)

    def swr(self, reference_ohm: float = DEFAULT_REFERENCE_OHM) -> Real:
        """SWR at every frequency of the sweep, shape (n,)."""
        return swr_of(self.reflection(reference_ohm))

    @property
    def low_hz(self) -> float:
        """Lowest frequency swept."""
        return float(self.frequency_hz[0])

    @property
    def high_hz(self) -> float:
        """Highest frequency swept."""
        return float(self.frequency_hz[-1])

    @cached_property
    def _spline(self) -> "CubicSpline[np.complex128] | None":
        if self.frequency_hz.size < 2:
            return None
        return CubicSpline(self.frequency_hz, self.reflection(), bc_type="natural")

    def _reflection_at(self, frequency_hz: Real) -> Complex:
        if self._spline is None:
            return np.full(frequency_hz.shape, self.reflection()[0])
        return np.asarray(self._spline(frequency_hz))

    def reflection_at(self, frequency_hz: Real) -> Complex:
        """Γ against 50 Ω between the samples; refuses as `impedance_at` does."""
        return reflection_of(self.impedance_at(frequency_hz))

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Impedance between the samples.

        Args:
            frequency_hz: any shape, inside the sweep.

        Returns:
            Same shape, in ohm.

        Raises:
            OutOfDomainError: a frequency lies outside the sweep.
        """
        wanted = np.asarray(frequency_hz, dtype=float)
        if np.array_equal(wanted, self.frequency_hz):
            return self.impedance_ohm.copy()
        edge = 1e-9 * self.high_hz
        low, high = wanted.min(), wanted.max()
        if low < self.low_hz - edge or high > self.high_hz + edge:
            raise OutOfDomainError(
                "frequency_hz",
                f"{low:.0f} to {high:.0f} Hz",
                f"inside the sweep, {self.low_hz:.0f} to {self.high_hz:.0f} Hz",
            )
        if low < self.low_hz or high > self.high_hz:
            wanted = np.clip(wanted, self.low_hz, self.high_hz)
        return impedance_of(self._reflection_at(wanted))

    def _crossing_hz(self, low_hz: Real, high_hz: Real, falls: Callable[[Real], Real]) -> Real:
        """Bisect each bracket at once: where `falls` changes sign, to the last bit."""
        low, high = low_hz.copy(), high_hz.copy()
        sign_low = np.sign(falls(low))
        for _ in range(60):
            middle = (low + high) / 2
            same = np.sign(falls(middle)) == sign_low
            low, high = np.where(same, middle, low), np.where(same, high, middle)
        return (low + high) / 2

    @cached_property
    def gaps(self) -> tuple[tuple[float, float], ...]:
        """Stretches without a sample, in hertz: nothing is known there."""
        return gaps_of(self.frequency_hz)

    def resonances(self) -> tuple[Resonance, ...]:
        """Where the reactance passes through zero, rising frequencies; one per change of sign.

        Returns:
            Series where reactance rises, parallel (anti-resonance) where it falls.
        """
        x = self.impedance_ohm.imag
        before, after = self._turns()
        if before.size == 0:
            return ()
        at = self._crossing_hz(
            self.frequency_hz[before], self.frequency_hz[after], lambda f: self._reflection_at(f).imag
        )
        for k in np.flatnonzero(after - before > 1):  # samples lie on zero exactly
            inside = slice(before[k] + 1, after[k])
            zero = x[inside] == 0
            if zero.all():
                at[k] = self.frequency_hz[inside].mean()
        resistance = self.impedance_at(at).real
        return tuple(
            Resonance(float(f), float(r), "series" if x[i] < 0 else "parallel")
            for f, r, i in zip(at, resistance, before, strict=True)
        )

    def _turns(self) -> tuple[npt.NDArray[np.intp], npt.NDArray[np.intp]]:
        """Samples before and after each change of sign of X that stands above the noise of the sweep.

        Noise wanders about zero where samples lie close: a sign counts once it is clear of that.
        """
        imaginary = self.reflection().imag
        noise = 0.0
        if imaginary.size >= NOISE_FROM:
            wander = float(np.median(np.abs(np.diff(imaginary, 2)))) / (0.6745 * math.sqrt(6))
            noise = min(wander, MOST_NOISE)
        clear = np.flatnonzero(np.abs(imaginary) > CLEAR_OF_NOISE * noise)
        clear = clear[imaginary[clear] != 0]
        before, after = clear[:-1], clear[1:]
        turns = np.sign(imaginary[before]) != np.sign(imaginary[after])
        before, after = before[turns], after[turns]
        inside = np.array(
            [
                covers(self.gaps, self.frequency_hz[b], self.frequency_hz[a])
                for b, a in zip(before, after, strict=True)
            ],
            dtype=bool,
        )
        return before[inside], after[inside]

    def best_match(self, reference_ohm: float = DEFAULT_REFERENCE_OHM) -> BestMatch:
        """Where the SWR is lowest, on the curve between the samples, not on the nearest sample."""
        at_samples = np.abs(self.reflection(reference_ohm))
        nearest = int(np.argmin(at_samples))
        low = self.frequency_hz[max(nearest - 1, 0)]
        high = self.frequency_hz[min(nearest + 1, self.frequency_hz.size - 1)]
        for _ in range(8):  # each round narrows the bracket sixteenfold
            fine = np.linspace(low, high, 33)
            magnitude = np.abs(reflection_of(self.impedance_at(fine), reference_ohm))
            best = int(np.argmin(magnitude))
            low, high = fine[max(best - 1, 0)], fine[min(best + 1, 32)]
        if at_samples[nearest] <= magnitude[best]:
            return BestMatch(float(self.frequency_hz[nearest]), float(swr_of(at_samples[nearest])))
        return BestMatch(float(fine[best]), float(swr_of(magnitude[best])))

    def bandwidth(self, swr_limit: float, reference_ohm: float = DEFAULT_REFERENCE_OHM) -> Bandwidth | None:
        """The contiguous run round the best match that stays within the limit; None where there is none.

        Raises:
            OutOfDomainError: the limit is not above 1.
        """
        if not swr_limit > 1:
            raise OutOfDomainError("swr_limit", swr_limit, "above 1")
        best = self.best_match(reference_ohm)
        if best.swr > swr_limit:
            return None
        allowed = float(magnitude_at_swr(swr_limit))

        def excess(frequency_hz: Real) -> Real:
            return np.abs(reflection_of(self.impedance_at(frequency_hz), reference_ohm)) - allowed

        outside = np.abs(self.reflection(reference_ohm)) > allowed
        edges: list[tuple[float, bool]] = []
        for samples in (
            np.flatnonzero(outside & (self.frequency_hz < best.frequency_hz))[::-1],
            np.flatnonzero(outside & (self.frequency_hz > best.frequency_hz)),
        ):
            if samples.size == 0:
                edges.append((self.low_hz if not edges else self.high_hz, True))
                continue
            first_out = self.frequency_hz[samples[0]]
            start = np.array([best.frequency_hz])
            # The last sample still inside is the tighter bracket, where there is one.
            beside = samples[0] + (1 if first_out < best.frequency_hz else -1)
            if (
                not outside[beside]
                and (self.frequency_hz[beside] - best.frequency_hz) * (first_out - best.frequency_hz) > 0
            ):
                start = self.frequency_hz[beside : beside + 1]
            edges.append((float(self._crossing_hz(start, np.array([first_out]), excess)[0]), False))
        (low, low_open), (high, high_open) = edges
        return Bandwidth(low, high, low_open, high_open)

    def shortened(self, share: float) -> "Sweep":
        """The same wire cut to a share of its length, by scaling: at f it shows what it showed at f times that.

        Near its resonance, and as far as its height and the ground under it do not change what they do (common
        practice); how it really becomes a new sweep tells.

        Args:
            share: of its length, above zero, at most 1.

        Raises:
            OutOfDomainError: another share.
        """
        if not 0 < share <= 1:
            raise OutOfDomainError("share", share, "above zero, at most 1")
        return self if share == 1 else _shortened(self, share)

    def strayed(self, deviates: Mapping[str, Reals]) -> "ReadSweep":
        """The wire as the analyser may have read it, its two doubts so many standard deviations off.

        Args:
            deviates: `first` and `second`, shape (builds, 1).

        Raises:
            OutOfDomainError: nobody knows how sure this sweep is.
        """
        if self.doubt is None:
            raise OutOfDomainError("doubt", "not known", "kept with the sweep")
        return ReadSweep(self, self.doubt, deviates["first"], deviates["second"])

    def q(self, frequency_hz: Reals | None = None) -> Real:
        """Q of the antenna tuned by a lossless series part at each frequency.

        R', X' come from a parabola fitted over 2.5 % to either side (at least five samples), so that
        an analyser's noise is not taken for slope. Valid for one resonance at a time; not for traps.

        Args:
            frequency_hz: any shape, inside the sweep; the sweep's own frequencies when left out.

        Returns:
            Same shape; NaN where R is not above zero or fewer than three samples are there.

        Source:
            Yaghjian & Best, IEEE Trans. Antennas and Propagation 53(4), 2005, eq. (96).
        """
        wanted = np.atleast_1d(self.frequency_hz if frequency_hz is None else np.asarray(frequency_hz, float))
        values = np.array([self._q_at(float(f)) for f in wanted.reshape(-1)]).reshape(wanted.shape)
        return values if frequency_hz is None or np.ndim(frequency_hz) else values[0]

    def q_range(self, frequency_hz: float, doubt: ReflectionUncertainty) -> tuple[float, float]:
        """Q at one frequency, nine times in ten, by what the reading leaves open; NaN where Q is not known there.

        What calibration leaves is directivity, tracking and source match, each one complex number that turns with
        frequency as along the leads; how large they are together is what the doubt says.

        Args:
            doubt: of every sample of the sweep.

        Source:
            δΓ = a + bΓ + cΓ², the three-term model to first order (any text on one-port calibration).
        """
        if self.frequency_hz.size < 3:
            return float("nan"), float("nan")
        near = np.arange(self.frequency_hz.size)[self._near(frequency_hz)]
        # Errors are smooth: some dozens of samples tell what thousands would.
        pick = near[:: max(1, near.size // Q_SAMPLES)]
        gamma = reflection_of(self.impedance_ohm[pick])
        rms = doubt.at(pick).rms
        powers = np.stack([np.ones_like(gamma), gamma, gamma**2])
        normal = sobol_normal(12, Q_DRAWS_EXPONENT, ((20261129, (1,)),))
        # Nobody says which of the three is the large one.
        shares = np.exp(TERMS_APART * normal[:, 9:])
        size = rms / np.sqrt((shares**2) @ (np.abs(powers) ** 2))
        terms = shares * (normal[:, :3] + 1j * normal[:, 3:6]) / math.sqrt(2)
        away = 2 * math.pi * RESIDUAL_TURNS_S * (self.frequency_hz[pick] - frequency_hz)
        turned = np.exp(-1j * normal[:, 6:9, np.newaxis] * away)
        drawn = gamma + size * (terms[:, :, np.newaxis] * turned * powers).sum(axis=1)
        found = _q_of(self.frequency_hz[pick] / frequency_hz - 1, impedance_of(drawn))
        known = found[np.isfinite(found)]
        if known.size < found.size / 2:
            return float("nan"), float("nan")
        low, high = np.quantile(known, [0.05, 0.95])
        return float(low), float(high)

    def _q_at(self, frequency_hz: float) -> float:
        if self.frequency_hz.size < 3:
            return float("nan")
        pick = self._near(frequency_hz)
        return float(_q_of(self.frequency_hz[pick] / frequency_hz - 1, self.impedance_ohm[pick][np.newaxis])[0])

    def _near(self, frequency_hz: float) -> slice:
        """The samples that Q is read from."""
        low, high = np.searchsorted(
            self.frequency_hz, [frequency_hz * (1 - Q_WINDOW), frequency_hz * (1 + Q_WINDOW)]
        )
        if high - low < 5:
            middle = int(np.searchsorted(self.frequency_hz, frequency_hz))
            low = max(0, min(middle - 2, self.frequency_hz.size - 5))
            high = min(low + 5, self.frequency_hz.size)
        return slice(int(low), int(high))


@lru_cache(maxsize=32)
def _shortened(sweep: Sweep, share: float) -> Sweep:
    """It stays the same while a part is dragged."""
    return Sweep(sweep.frequency_hz / share, sweep.impedance_ohm, sweep.doubt)


def _q_of(offset: Real, impedance_ohm: Complex) -> Real:
    """Q of samples so far off, relative to a frequency: (curves, n) gives (curves,); NaN without a resistance."""
    powers = np.column_stack([np.ones_like(offset), offset, offset**2])
    value, slope, _ = np.linalg.lstsq(powers, impedance_ohm.T, rcond=None)[0]
    with np.errstate(divide="ignore", invalid="ignore"):
        # offset is f/f0 − 1, so its slope is ω·d/dω already.
        q = np.hypot(slope.real, slope.imag + np.abs(value.imag)) / (2 * value.real)
    return np.where(value.real > 0, q, np.nan)


@dataclass(frozen=True, slots=True)
class ReadSweep:
    """A sweep as it may have been read: one error of Γ a build, as large at each frequency as is known of it."""

    sweep: Sweep
    doubt: ReflectionUncertainty
    first: Reals
    second: Reals

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Shape (builds, n)."""
        f = np.asarray(frequency_hz, dtype=float)
        there = self.doubt.between(self.sweep.frequency_hz, f)
        normal = np.concatenate([np.atleast_2d(self.first), np.atleast_2d(self.second)], axis=1)
        return impedance_of(there.drawn(self.sweep.reflection_at(f), normal))


def require_passive(found: Sweep) -> None:
    """Raise OutOfDomainError where a sample returns more than an analyser may show of a lossless load."""
    above = np.flatnonzero(np.abs(found.reflection()) > HIGHEST_REFLECTION)
    if above.size:
        hertz = found.frequency_hz[above[0]]
        came = f"one that returns more than it was sent, at {hertz / 1e6:g} MHz"
        raise OutOfDomainError("points", came, "R of zero or more")
