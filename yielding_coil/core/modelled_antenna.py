"""An antenna known from its model alone: what its numbers leave open, as spreads and as ranges.

Each thing that strays is tried one standard deviation off to either side. What it does is told as a stretch of the
frequency scale, which carries a dip along, and a rest with its bend: a height near a crest of R lowers
it both ways.
"""

import contextlib
import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import NamedTuple, TypeAlias

import numpy as np
from scipy.interpolate import CubicSpline

from yielding_coil.core.arrays import Complex, Real, Reals, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.quasi_random import sobol_normal
from yielding_coil.core.reflection import impedance_of, reflection_of, swr_of_impedance
from yielding_coil.core.tolerance import ANTENNA, Spread
from yielding_coil.core.wire import KEPT_OHM, Hung, Stray, reflection_over

Curve: TypeAlias = "CubicSpline[np.complex128]"

# Steps of the kept curve, and how far it reaches beyond the range asked for: further than anything stretches it.
STEP, BEYOND = 0.0025, 0.06
DRAWS_EXPONENT = 9
# Over a band the worst SWR is looked for at so many frequencies.
WORST_POINTS = 15
# Segments a wave with which antennas are solved that stray.
STRAYED_SEGMENTS = 20.0
# Standard deviations that a thing is tried off.
STEPS_ASTRAY = (1.0, 0.25, 0.05)
# Nine of ten.
OUTSIDE = (0.05, 0.95)


class Range(NamedTuple):
    """Between which values nine of ten such antennas lie; shape of the frequencies."""

    low: Real
    high: Real


@dataclass(frozen=True, slots=True)
class Effect:
    """What one standard deviation of something does.

    Args:
        name: of what strays.
        stretch: by how much the logarithm of each frequency is to be read higher.
        rest: of Γ over the frequencies of the curve, complex.
        bend: of Γ, by the square of the deviation.
        watts: of radiated, lost in wire, in loads, in the ground; at the middle of the range, of 100 W.
    """

    name: str
    stretch: float
    rest: "Curve"
    bend: "Curve"
    watts: Real


@dataclass(frozen=True, slots=True)
class ModelledAntenna:
    """An antenna for `System` from wires in the air, that knows how far its numbers stray.

    Built by `modelled`; known between `low_hz` and `high_hz`.
    """

    hung: Hung
    low_hz: float
    high_hz: float
    curve: "Curve"
    effects: tuple[Effect, ...]
    watts: Real

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """In ohm, shape of the frequencies.

        Raises:
            OutOfDomainError: outside the range it was modelled for.
        """
        return self.strayed({}).impedance_at(frequency_hz)

    def spreads(self) -> tuple[Spread, ...]:
        """What of it strays, as contributors of a yield: what moves watts alone is none."""
        moving = (effect for effect in self.effects if effect.stretch or np.abs(effect.rest.c).max() > 0)
        return tuple(Spread(effect.name, ANTENNA, effect.name, absolute=2.0) for effect in moving)

    def strayed(self, deviates: Mapping[str, Reals]) -> "StrayedAntenna":
        """The same with things so many standard deviations off, by name; (builds, 1) makes many at once."""
        return StrayedAntenna(self, deviates)

    def draws(self) -> "StrayedAntenna":
        """Five hundred of them, as they might come out; the same ones each time."""
        names = [effect.name for effect in self.effects]
        normal = sobol_normal(len(names), DRAWS_EXPONENT, ((20261129, (0,)),))
        return self.strayed({name: normal[:, i : i + 1] for i, name in enumerate(names)})

    def impedance_range(self, frequency_hz: Reals) -> tuple[Range, Range]:
        """Of resistance and of reactance, in ohm, each by itself."""
        z = self.draws().impedance_at(np.atleast_1d(frequency_hz))
        return _range_of(z.real), _range_of(z.imag)

    def swr_range(self, frequency_hz: Reals, reference_ohm: float = 50.0) -> Range:
        """Of SWR, against the resistance that its feed expects."""
        return _range_of(swr_of_impedance(self.draws().impedance_at(np.atleast_1d(frequency_hz)), reference_ohm))

    def worst_swr_range(self, low_hz: float, high_hz: float, reference_ohm: float = 50.0) -> Range:
        """Of the worst SWR from one frequency to another, against the resistance that its feed expects."""
        f = np.linspace(low_hz, high_hz, WORST_POINTS)
        return _range_of(swr_of_impedance(self.draws().impedance_at(f), reference_ohm).max(axis=1)[:, None])

    def dip_range(self, near_hz: float, reference_ohm: float = 50.0) -> Range:
        """Where the SWR is lowest, by the dip nearest to a frequency, in Hz.

        Raises:
            OutOfDomainError: where fewer than nine of ten have one within the range of the model.
        """
        found = np.array([dip_near(f, g, near_hz) for f, g in self._reflected(reference_ohm)])
        known = found[np.isfinite(found)]
        if len(known) < 0.9 * len(found):
            raise OutOfDomainError("near_hz", f"{near_hz / 1e6:.4g} MHz", "near a dip within the range modelled")
        return _range_of(known[:, None])

    def _reflected(self, reference_ohm: float) -> Iterator[tuple[Real, Real]]:
        """Frequencies and |Γ| of each draw."""
        f = np.geomspace(
            self.low_hz, self.high_hz, max(101, math.ceil(math.log(self.high_hz / self.low_hz) / 1e-3))
        )
        size = np.abs(reflection_of(self.draws().impedance_at(f), reference_ohm))
        return ((f, each) for each in size)

    def watts_range(self) -> Range:
        """Radiated, lost in wire, in loads and in the ground, of 100 W at the middle of the range."""
        spread = 1.645 * np.sqrt(sum((effect.watts**2 for effect in self.effects), np.zeros(4)))
        return Range(np.maximum(self.watts - spread, 0.0), np.minimum(self.watts + spread, 100.0))


@dataclass(frozen=True, slots=True)
class StrayedAntenna:
    """A modelled antenna with some of its numbers off."""

    modelled: ModelledAntenna
    deviates: Mapping[str, Reals]

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """In ohm; deviates of shape (builds, 1) give (builds, n)."""
        own = self.modelled
        f = np.asarray(frequency_hz, dtype=float)
        outside = f[~((f >= own.low_hz * (1 - 1e-9)) & (f <= own.high_hz * (1 + 1e-9)))]
        if outside.size:
            raise OutOfDomainError(
                "frequency_hz",
                f"{float(outside.ravel()[0]) / 1e6:.6g} MHz",
                f"within {own.low_hz / 1e6:.6g} to {own.high_hz / 1e6:.6g} MHz, for which it is modelled",
            )
        off = [(effect, self.deviates[effect.name]) for effect in own.effects if effect.name in self.deviates]
        stretch = sum((effect.stretch * np.asarray(z) for effect, z in off), np.zeros(()))
        # A number beyond what a linear sum can tell stays at the edge of the kept curve.
        at = np.log(f) + np.clip(stretch, -BEYOND, BEYOND)
        gamma: Complex = np.asarray(own.curve(at), dtype=complex)
        for effect, z in off:
            gamma = gamma + np.asarray(z) * effect.rest(at) + np.square(z) * effect.bend(at)
        size = np.abs(gamma)
        return impedance_of(gamma * np.minimum(1.0, 0.9999 / np.maximum(size, 1e-9)), KEPT_OHM)


@lru_cache(maxsize=24)
def modelled(hung: Hung, low_hz: float, high_hz: float, strays: tuple[Stray, ...] | None = None) -> ModelledAntenna:
    """The antenna over a range of frequencies: one curve, and two more for each thing that strays.

    Args:
        strays: how far its numbers do; as its kind says when left out.

    Raises:
        OutOfDomainError: no range; a structure that is none.
    """
    require_positive("low_hz", low_hz)
    if not low_hz < high_hz:
        raise OutOfDomainError("high_hz", high_hz, f"above low_hz, {low_hz}")
    low, high = math.log(low_hz / (1 + BEYOND)), math.log(high_hz * (1 + BEYOND))
    scale = np.linspace(low, high, max(16, math.ceil((high - low) / STEP)))
    middle = math.sqrt(low_hz * high_hz)
    ends = math.exp(low), math.exp(high)

    def known(one: Hung) -> tuple["Curve", Real]:
        """With fewer segments: what these err by goes out of a difference."""
        structure = replace(one.structure(), segments_per_wave=STRAYED_SEGMENTS)
        return CubicSpline(scale, reflection_over(structure, *ends)(scale)), one.watts_at(middle)

    def astray(stray: Stray) -> tuple[float, tuple[Curve, Real], tuple[Curve, Real]]:
        """To either side, by less where a whole step would put a low antenna into the ground."""
        for step in STEPS_ASTRAY[:-1]:
            with contextlib.suppress(OutOfDomainError):
                return step, known(hung.strayed(stray, step)), known(hung.strayed(stray, -step))
        step = STEPS_ASTRAY[-1]
        return step, known(hung.strayed(stray, step)), known(hung.strayed(stray, -step))

    curve, watts = CubicSpline(scale, reflection_over(hung.structure(), *ends)(scale)), hung.watts_at(middle)
    rough, _ = known(hung)
    inner = scale[(scale > math.log(low_hz)) & (scale < math.log(high_hz))]
    effects = []
    for stray in hung.strays() if strays is None else strays:
        step, (up, up_w), (down, down_w) = astray(stray)
        slope, change = rough(inner, 1), (up(inner) - down(inner)) / 2
        stretch = float((slope.conj() @ change).real / (np.abs(slope) ** 2).sum())
        over, under = (moved(scale) - rough(scale + by) for moved, by in ((up, stretch), (down, -stretch)))
        effects.append(
            Effect(
                stray.name,
                stretch / step,
                CubicSpline(scale, (over - under) / 2 / step),
                # Of smaller steps the bend is smaller than what other segments change.
                CubicSpline(scale, (over + under) / 2 if step == 1 else 0 * over),
                (up_w - down_w) / 2 / step,
            )
        )
    return ModelledAntenna(hung, low_hz, high_hz, curve, tuple(effects), watts)


@lru_cache(maxsize=128)
def watts_astray(hung: Hung, frequency_hz: float) -> tuple[tuple[str, Real], ...]:
    """What one standard deviation of each thing that strays does to where the power goes, by its name.

    Returns:
        Changes of the shares radiated, lost in wire, in loads and in the ground; shape (4,) each.

    Raises:
        OutOfDomainError: where it takes no power.
    """
    found = []
    for stray in hung.strays():
        for step in STEPS_ASTRAY:
            with contextlib.suppress(OutOfDomainError):
                up, down = (hung.strayed(stray, by).watts_at(frequency_hz, 1.0) for by in (step, -step))
                found.append((stray.name, (up - down) / (2 * step)))
                break
    return tuple(found)


def _range_of(values: Real) -> Range:
    """Over the first axis."""
    low, high = np.quantile(values, OUTSIDE, axis=0)
    return Range(np.asarray(low), np.asarray(high))


def dip_near(f: Real, size: Real, near_hz: float) -> float:
    """The dip of a curve of |Γ| nearest to a frequency, through three points of its square; NaN where none is."""
    square = np.square(size)
    at = np.flatnonzero((square[1:-1] <= square[:-2]) & (square[1:-1] < square[2:])) + 1
    if not len(at):
        return math.nan
    i = int(at[np.argmin(np.abs(f[at] - near_hz))])
    left, middle, right = square[i - 1 : i + 2]
    bend = left - 2 * middle + right
    return float(f[i] + 0.25 * (left - right) / bend * (f[i + 1] - f[i - 1])) if bend > 0 else float(f[i])
