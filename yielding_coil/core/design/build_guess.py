"""A design as it may have been built: its parts strayed, its antenna misread or hung otherwise than modelled."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.design.design import Design
from yielding_coil.core.design.slips import Slip
from yielding_coil.core.element import DesignElement, Part
from yielding_coil.core.fitting import residual_columns, turning
from yielding_coil.core.line import OpenCoax
from yielding_coil.core.modelled_antenna import ModelledAntenna
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor, OnePort
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import System
from yielding_coil.core.tolerance import ANTENNA, ReadOnce, Spread, sampled

Plane = Literal["box", "radio"]
ValueUnit = Literal["H", "F", "share", "sd"]
# What a model errs by, root mean square of |δΓ| (segments, thin wires; of ours a few thousandths).
MODEL = 0.003
# As it hangs a length is further off than its tape: what stands near adds to it (common practice: 2 % for 0.6 %).
HANGING = {"length": 2.0 / 0.6}
# What comes back from an antenna stays below what is sent.
MOST_BACK = 0.9999
# No part strays further, in standard deviations: beyond, its values are none.
FURTHEST = 8.0
# A little off, to see what that does.
OFF = 1e-6


class Told(NamedTuple):
    """What is told: of which part, what of it, and in which unit; "sd" counts what was expected."""

    element: str
    field: str
    unit: ValueUnit

    @property
    def name(self) -> str:
        """For pairs and readings."""
        return self.element if self.field == "value" or self.element == ANTENNA else f"{self.element} {self.field}"


# What an analyser reads of a part, in the middle of the first band.
_READ_AS: dict[type, ValueUnit] = {Inductor: "H", Capacitor: "F", OpenCoax: "F"}


class _Wander:
    """Errors of Γ that are smooth in frequency, one deviate each."""

    def __init__(self, frequency_hz: Real, gamma: Complex, rms: float) -> None:
        self._f = frequency_hz
        both = residual_columns(frequency_hz, gamma, rms / math.sqrt(3), turning)
        half = len(frequency_hz)
        self._columns: Complex = np.asarray((both[:half] + 1j * both[half:]).T)

    @property
    def dimensions(self) -> int:
        return len(self._columns)

    def added(self, gamma: Complex, frequency_hz: Real, z: Real) -> Complex:
        """Impedance of Γ with them."""
        columns = self._columns
        if frequency_hz is not self._f:
            columns = np.stack([np.interp(frequency_hz, self._f, c) for c in columns])
        found = gamma + z @ columns
        return impedance_of(found * np.minimum(1.0, MOST_BACK / np.maximum(np.abs(found), 1e-9)))

    def middle(self, z: Real) -> Complex:
        """In the middle, shape (builds,)."""
        return np.asarray(z @ self._columns[:, len(self._f) // 2])


class _Misread:
    """An antenna as it was read, off by what a calibration leaves."""

    def __init__(self, design: Design, frequency_hz: Real) -> None:
        self._f = frequency_hz
        self._gamma = reflection_of(np.asarray(design.antenna.impedance_at(frequency_hz)))
        rms = design.reading_spread / 2
        if isinstance(design.antenna, Sweep) and design.antenna.doubt is not None:
            rms = float(np.sqrt(np.mean(design.antenna.doubt.rms**2)))
        self._wander = _Wander(frequency_hz, self._gamma, rms)

    @property
    def dimensions(self) -> int:
        return self._wander.dimensions

    def impedance(self, frequency_hz: Real, z: Real, off: float = 0.0) -> Complex:
        gamma = self._gamma + off
        if frequency_hz is not self._f:
            gamma = np.interp(frequency_hz, self._f, gamma)
        return self._wander.added(gamma, frequency_hz, z)

    def told(self) -> tuple[Told, ...]:
        return (Told(ANTENNA, "size", "share"), Told(ANTENNA, "turn", "share"))

    def figures(self, z: Real) -> Real:
        """How far Γ is off in the middle, over Γ there: along it, and turned in radians; shape (builds, 2)."""
        off = self._wander.middle(z) / self._gamma[len(self._f) // 2]
        return np.stack([off.real, off.imag], axis=1)


class _Strayed:
    """A modelled antenna with some of its numbers off, and by what the model itself errs."""

    def __init__(self, antenna: ModelledAntenna, frequency_hz: Real) -> None:
        self._antenna, self._names = antenna, [spread.field for spread in antenna.spreads()]
        self._wider = np.array([HANGING.get(name, 1.0) for name in self._names])
        planned = reflection_of(np.asarray(antenna.impedance_at(frequency_hz)))
        self._wander = _Wander(frequency_hz, planned, MODEL)

    @property
    def dimensions(self) -> int:
        return len(self._names) + self._wander.dimensions

    def impedance(self, frequency_hz: Real, z: Real, off: float = 0.0) -> Complex:
        many = len(self._names)
        strayed = {name: z[:, i : i + 1] * self._wider[i] for i, name in enumerate(self._names)}
        gamma = reflection_of(self._antenna.strayed(strayed).impedance_at(frequency_hz)) + off
        return self._wander.added(gamma, frequency_hz, z[:, many:])

    def told(self) -> tuple[Told, ...]:
        return tuple(Told(ANTENNA, name, "sd") for name in self._names)

    def figures(self, z: Real) -> Real:
        return np.asarray(z[:, : len(self._names)] * self._wider)


@dataclass(frozen=True)
class BuildGuess:
    """A build as it may be, and what an analyser would see of it.

    Deviates are standard normals, shape (builds, k): of the parts' spreads, then of the antenna.

    Args:
        slip: that is taken to have happened; None for none.
        design: with that slip; its tuner at the radio aside.
        frequency_hz: at which it is looked at; the antenna is known there.
        prior: how likely before the sweep.
    """

    slip: Slip | None
    design: Design
    frequency_hz: Real
    prior: float

    @cached_property
    def system(self) -> System:
        """As it is meant."""
        return self.design.system()

    @cached_property
    def spreads(self) -> tuple[Spread, ...]:
        """Of its parts and lines."""
        lines = [e for e in self.design.elements if not e.by_hand]
        center = self.design.center_hz
        return (*self.design.part_spreads(), *(s for e in lines for s in e.spreads(center)))

    @cached_property
    def antenna(self) -> _Misread | _Strayed:
        """What is open of it."""
        own = self.design.antenna
        f = self.frequency_hz
        return _Strayed(own, f) if isinstance(own, ModelledAntenna) else _Misread(self.design, f)

    @property
    def dimensions(self) -> int:
        """Deviates in all."""
        return len(self.spreads) + self.antenna.dimensions

    def _parts(self, antenna: ReadOnce | FixedLoad, z: Real) -> System:
        held = np.clip(z, -FURTHEST, FURTHEST)
        deviates = [held[:, i : i + 1].astype(complex) for i in range(len(self.spreads))]
        return sampled(System(antenna, self.system.elements), self.spreads, deviates)

    def seen(self, plane: Plane, z: Real, frequency_hz: Real | None = None, off: float = 0.0) -> Complex:
        """Γ of builds, shape (builds, n), at its own frequencies unless told others.

        Args:
            off: added to the antenna's Γ.
        """
        f = self.frequency_hz if frequency_hz is None else frequency_hz
        antenna = ReadOnce(np.asarray(self.antenna.impedance(f, z[:, len(self.spreads) :], off)))
        station = self.system.match_station if plane == "box" else len(self.system.elements)
        found = reflection_of(self._parts(antenna, z).impedance(f, station))
        return np.broadcast_to(found, (len(z), f.size))

    def noise_gain(self, plane: Plane) -> Real:
        """How many times larger an error of the antenna's Γ stands in what is seen, as it is meant; shape (n,)."""
        if not isinstance(self.design.antenna, Sweep):
            return np.zeros(self.frequency_hz.shape)
        still = np.zeros((1, self.dimensions))
        moved = self.seen(plane, still, off=OFF) - self.seen(plane, still)
        return np.asarray(np.abs(moved[0]) / OFF)

    @cached_property
    def told(self) -> tuple[Told, ...]:
        """What is told of it: the parts' values in their order, then the antenna."""
        found: list[Told] = []
        for spread in self.spreads:
            part = self.system.elements[self.system.index(spread.element)].part
            unit = next((unit for kind, unit in _READ_AS.items() if isinstance(part, kind)), None)
            each = Told(spread.element, "value" if unit else spread.field, unit or "share")
            if each not in found:
                found.append(each)
        return (*found, *self.antenna.told())

    def figures(self, z: Real) -> Real:
        """Every told figure of builds, shape (builds, told); shares are over the value that is meant."""
        built = self._parts(FixedLoad(50.0), z)
        f = np.array([self.design.center_hz])
        columns: list[Real] = []
        for told in self.told:
            if told.element == ANTENNA:
                continue
            part = built.elements[built.index(told.element)].part
            meant = self.system.elements[built.index(told.element)].part
            now = np.asarray(_figure(told, part, meant, f), dtype=float).reshape(-1)
            columns.append(np.broadcast_to(now, (len(z),)))
        parts = np.stack(columns, axis=1) if columns else np.empty((len(z), 0))
        return np.concatenate([parts, self.antenna.figures(z[:, len(self.spreads) :])], axis=1)

    @property
    def meant(self) -> Real:
        """The figures without anything astray."""
        return self.figures(np.zeros((1, self.dimensions)))[0]

    def times(self, key: str | None, times: float) -> "BuildGuess":
        """The same with one part's value so many times as large."""
        if key is None:
            return self

        def other(e: DesignElement) -> DesignElement:
            name = value_name(e)
            changed: Any = e
            return replace(changed, **{name: getattr(e, name) * times}) if e.key == key and name else e

        design = replace(self.design, elements=tuple(other(e) for e in self.design.elements))
        return replace(self, design=design)


def above_plane(design: Design, plane: Plane) -> Design:
    """With what stands above a plane alone: the match, or the feedline too; a tuner at the radio never."""
    above = (e for e in design.elements if e is not design.radio_tuner and (e.by_hand or plane == "radio"))
    return replace(design, elements=tuple(above))


def value_name(element: DesignElement) -> str | None:
    """The field that a part's value is kept under; None where it has none that is turned."""
    return next((name for name in ("inductance_h", "capacitance_f") if hasattr(element, name)), None)


def _figure(told: Told, part: Part, meant: Part, f: Real) -> Real:
    if told.unit == "share":
        return _field(part, told.field) / _field(meant, told.field)
    one: Any = part
    port: OnePort = one
    if told.unit == "H":
        return np.asarray(port.impedance_ohm(f).imag / (2 * math.pi * f))
    return np.asarray(port.admittance_s(f).imag / (2 * math.pi * f))


def _field(part: Any, name: str) -> Real:
    holder = part.cable if hasattr(part, "cable") and hasattr(part.cable, name) else part
    return np.asarray(getattr(holder, name), dtype=float)


def guesses_of(
    design: Design, plane: Plane, frequency_hz: Real, slips: Sequence[Slip], slipped: float
) -> tuple[BuildGuess, ...]:
    """As planned, then with each slip alone; of what stands above the plane.

    Args:
        slipped: how likely one of the slips is, before the sweep.
    """
    kept = above_plane(design, plane)
    found = [BuildGuess(None, kept, frequency_hz, 1 - slipped if slips else 1.0)]
    for slip in slips:
        elements = tuple(slip.element if e.key == slip.key else e for e in kept.elements)
        found.append(BuildGuess(slip, replace(kept, elements=elements), frequency_hz, slipped / len(slips)))
    return tuple(found)
