"""The antenna system as it hangs: a cascade from the antenna down to the radio, with its stations."""

from collections.abc import Sequence
from dataclasses import dataclass, fields
from typing import Literal, Protocol

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.parts import OnePort
from yielding_coil.core.reflection import reflection_of, swr_of

Place = Literal["series", "shunt", "through"]


class Antenna(Protocol):
    """Anything whose impedance is known at a frequency: a sweep, a resistor, a wire structure."""

    def impedance_at(self, frequency_hz: Reals) -> Complex: ...


@dataclass(frozen=True, slots=True)
class Element:
    """One thing in the cascade: a one-port in series or across, or a line passed through."""

    key: str
    place: Place
    part: OnePort | Line

    def __post_init__(self) -> None:
        if (self.place == "through") != isinstance(self.part, Line):
            raise OutOfDomainError("place", self.place, "through for a line; series or shunt for a part")


@dataclass(frozen=True, slots=True)
class Station:
    """The radio-side terminal of an element, its effect included; the first is the antenna itself.

    Arrays have the shape of the frequencies asked for. Voltages and currents are peaks of the sine: at the
    terminal to earth, and the largest that the element itself carries (along a line, the largest anywhere).
    """

    key: str
    impedance_ohm: Complex
    swr: Real
    power_w: Real
    loss_w: Real
    voltage_v: Real
    peak_voltage_v: Real
    peak_current_a: Real
    line_swr: Real | None = None

    def at(self, index: int) -> "Station":
        """The station at one of its frequencies."""
        values = {f.name: getattr(self, f.name) for f in fields(self)}
        return Station(**{k: v[index] if isinstance(v, np.ndarray) else v for k, v in values.items()})


@dataclass(frozen=True, slots=True)
class System:
    """An antenna and the elements below it, in order from the antenna down.

    >>> from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
    >>> match = System(FixedLoad(94 - 463j), [
    ...     Element("capacitor", "shunt", Capacitor(7.01e-12)),
    ...     Element("coil", "series", Inductor(3.00e-6)),
    ... ])
    >>> round(float(match.stations(18.1e6)[-1].swr), 1)
    1.0
    """

    antenna: Antenna
    elements: Sequence[Element]

    @property
    def box(self) -> int:
        """Station at which a match is judged: below the last part made by hand, above the line that follows."""
        return max((i + 1 for i, e in enumerate(self.elements) if e.place != "through"), default=0)

    def impedance(self, frequency_hz: Reals, station: int | None = None) -> Complex:
        """Impedance looking up from a station; the last one when left out. Values may broadcast."""
        f = np.asarray(frequency_hz, dtype=float)
        z: Complex = self.antenna.impedance_at(f)
        for element in self.elements[: len(self.elements) if station is None else station]:
            z, _ = _effect(element, f).below(z)
        return z

    def stations(self, frequency_hz: Reals, power_w: float = 100.0) -> tuple[Station, ...]:
        """Everything at every station, when the radio end takes `power_w`.

        Args:
            frequency_hz: shape (n,) or one, inside what the antenna is known for.
            power_w: peak envelope power that goes in at the radio end, above zero.

        Returns:
            One station more than elements. The power at the last one less all losses is the power into the
            antenna. Where a resistance is not above zero no power goes in, and its watts are NaN.
        """
        require_positive("power_w", power_w)
        if np.ndim(frequency_hz) == 0:
            alone = self.stations(np.atleast_1d(np.asarray(frequency_hz, dtype=float)), power_w)
            return tuple(station.at(0) for station in alone)
        f = np.asarray(frequency_hz, dtype=float)
        seen = [self.antenna.impedance_at(f)]
        effects = [_effect(element, f) for element in self.elements]
        divisors: list[Complex | float] = []
        for effect in effects:
            below, divisor = effect.below(seen[-1])
            seen.append(below)
            divisors.append(divisor)
        stacked = np.stack(seen)
        swr, size = swr_of(reflection_of(stacked)), np.abs(stacked)
        with np.errstate(divide="ignore", invalid="ignore"):
            amperes = np.sqrt(np.where(seen[-1].real > 0, 2 * power_w / seen[-1].real, np.nan))
        found: list[Station] = []
        for k in range(len(effects), -1, -1):
            volts = amperes * size[k]
            power = amperes**2 / 2 * seen[k].real
            if k == 0:
                amperes_above, carried = amperes, _Carried(np.zeros(f.shape), volts, amperes)
            else:
                divisor = divisors[k - 1]
                amperes_above = amperes if isinstance(divisor, float) else amperes / np.abs(divisor)
                carried = effects[k - 1].carried(seen[k - 1], amperes_above, volts, amperes, power)
            found.append(
                Station(
                    key="antenna" if k == 0 else self.elements[k - 1].key,
                    impedance_ohm=seen[k],
                    swr=swr[k],
                    power_w=power,
                    loss_w=carried.loss_w,
                    voltage_v=volts,
                    peak_voltage_v=carried.peak_voltage_v,
                    peak_current_a=carried.peak_current_a,
                    line_swr=carried.line_swr,
                )
            )
            amperes = amperes_above
        return tuple(reversed(found))


@dataclass(frozen=True, slots=True)
class _Carried:
    """What an element carries: its loss, its peaks, the SWR on it where it is a line."""

    loss_w: Real
    peak_voltage_v: Real
    peak_current_a: Real
    line_swr: Real | None = None


class _Effect(Protocol):
    """An element at some frequencies: what it does to impedance, voltage and current."""

    def below(self, above_ohm: Complex) -> tuple[Complex, Complex | float]:
        """Impedance at the radio side, and the current there over the current at the antenna side."""

    def carried(
        self, above_ohm: Complex, amperes_above: Real, volts: Real, amperes: Real, power_w: Real
    ) -> _Carried:
        """Loss and peaks, from the peak current above, and peak voltage, current and power below."""


@dataclass(frozen=True, slots=True)
class _Series:
    ohm: Complex

    def below(self, above_ohm: Complex) -> tuple[Complex, Complex | float]:
        return above_ohm + self.ohm, 1.0

    def carried(
        self, above_ohm: Complex, amperes_above: Real, volts: Real, amperes: Real, power_w: Real
    ) -> _Carried:
        return _Carried(amperes**2 / 2 * self.ohm.real, amperes * np.abs(self.ohm), amperes)


@dataclass(frozen=True, slots=True)
class _Shunt:
    siemens: Complex

    def below(self, above_ohm: Complex) -> tuple[Complex, Complex | float]:
        divisor = 1 + above_ohm * self.siemens
        return above_ohm / divisor, divisor

    def carried(
        self, above_ohm: Complex, amperes_above: Real, volts: Real, amperes: Real, power_w: Real
    ) -> _Carried:
        return _Carried(volts**2 / 2 * self.siemens.real, volts, volts * np.abs(self.siemens))


@dataclass(frozen=True, slots=True)
class _Through:
    line: Line
    gamma: Complex
    z0: Complex

    def below(self, above_ohm: Complex) -> tuple[Complex, Complex | float]:
        a, b, c, d = self.line.chain_of(self.gamma, self.z0)
        divisor = c * above_ohm + d
        return (a * above_ohm + b) / divisor, divisor

    def carried(
        self, above_ohm: Complex, amperes_above: Real, volts: Real, amperes: Real, power_w: Real
    ) -> _Carried:
        far_v = np.asarray(amperes_above * above_ohm, dtype=complex)
        peaks = self.line.peaks_along(self.gamma, self.z0, far_v, amperes_above.astype(complex))
        own_ohm = self.line.cable.impedance_ohm
        there, back = np.abs(above_ohm + own_ohm), np.abs(above_ohm - own_ohm)
        with np.errstate(divide="ignore"):
            swr = (there + back) / np.maximum(there - back, 0.0)
        return _Carried(power_w - amperes_above**2 / 2 * above_ohm.real, *peaks, swr)


def _effect(element: Element, frequency_hz: Real) -> _Effect:
    part = element.part
    if isinstance(part, Line):
        return _Through(part, *part.cable.propagation(frequency_hz))
    if element.place == "series":
        return _Series(part.impedance_ohm(frequency_hz))
    return _Shunt(part.admittance_s(frequency_hz))
