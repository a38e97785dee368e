"""The antenna system as it hangs: a cascade from the antenna down to the radio, with its stations."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple, Protocol

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals, require_positive
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.line import Line, Waves
from yielding_coil.core.parts import OnePort
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.target import Target, judged_at
from yielding_coil.core.transformer import Flow, Transformer
from yielding_coil.core.tuner import Tee, TunerNetwork

Place = Literal["series", "shunt", "through"]


class Antenna(Protocol):
    """Anything whose impedance is known at a frequency: a sweep, a resistor, a wire structure."""

    def impedance_at(self, frequency_hz: Reals) -> Complex: ...


@dataclass(frozen=True, slots=True)
class Element:
    """One thing in the cascade: a one-port in series or across, or a line, transformer or tuner passed through.

    `in_match` tells a length of line that is part of the match from the feedline below it, and a tuner at the
    antenna from one at the radio.
    """

    key: str
    place: Place
    part: OnePort | Line | Transformer | TunerNetwork
    in_match: bool = False

    def __post_init__(self) -> None:
        if (self.place == "through") != isinstance(self.part, Line | Transformer | TunerNetwork):
            raise OutOfDomainError(
                "place", self.place, "through for a line, a transformer or a tuner; series or shunt for a part"
            )

    @property
    def at_box(self) -> bool:
        """Whether it stands above the place at which a match is judged."""
        return self.in_match or not isinstance(self.part, Line | TunerNetwork)


class Station(NamedTuple):
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

    def at(self, index: int | slice) -> "Station":
        """The station at one or some of its frequencies."""
        return Station._make(value[index] if isinstance(value, np.ndarray) else value for value in self)


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
    def match_station(self) -> int:
        """Station at which a match is judged: below the last part made by hand, above the line that follows."""
        made = (i + 1 for i, e in enumerate(self.elements) if e.at_box)
        return max(made, default=0)

    def index(self, key: str) -> int:
        """Where an element stands, from the antenna down.

        Raises:
            NotFoundError: there is none of that key.
        """
        for i, element in enumerate(self.elements):
            if element.key == key:
                return i
        raise NotFoundError(
            f"nothing in this system is called “{key}”",
            field="key",
            came_in=key,
            accepted=", ".join(e.key for e in self.elements) or "nothing: it has no elements",
        )

    def with_part(self, key: str, part: OnePort | Line | Transformer | TunerNetwork) -> "System":
        """The same system with another part under a key.

        Raises:
            NotFoundError: there is none of that key.
        """
        at = self.index(key)
        elements = [replace(e, part=part) if i == at else e for i, e in enumerate(self.elements)]
        return System(self.antenna, elements)

    def above(self, key: str) -> "Antenna":
        """What an element hangs on: the antenna, or the cascade down to it.

        Raises:
            NotFoundError: there is none of that key.
        """
        at = self.index(key)
        return self.antenna if at == 0 else CascadeAsAntenna(System(self.antenna, self.elements[:at]))

    def impedance(self, frequency_hz: Reals, station: int | None = None) -> Complex:
        """Impedance looking up from a station; the last one when left out. Values may broadcast."""
        f = np.asarray(frequency_hz, dtype=float)
        z: Complex = self.antenna.impedance_at(f)
        for element in self.elements[: len(self.elements) if station is None else station]:
            z = _pass(element, f, z).near_ohm
        return z

    def looking_down(self, frequency_hz: Real, radio_ohm: complex = 50.0) -> tuple[Complex, ...]:
        """Impedance seen from each station towards the radio, shape (n,) each; the last is the radio's own.

        Where nothing below loses power and the radio is matched, it is the conjugate of what is seen looking up.

        Source:
            A reciprocal two-port by its chain matrix, terminated at its other port (Pozar, §4.4).
        """
        f = np.asarray(frequency_hz, dtype=float)
        seen: list[Complex] = [np.full(f.shape, radio_ohm, dtype=complex)]
        for element in reversed(self.elements):
            seen.append(_down(element, f, seen[-1]))
        return tuple(reversed(seen))

    def efficiency(self, frequency_hz: Reals) -> Real:
        """Power into the antenna over the power in at the radio end. Values may broadcast.

        NaN where a resistance is not above zero: no power goes in there.
        """
        f = np.asarray(frequency_hz, dtype=float)
        z = self.antenna.impedance_at(f)
        out, ratio = z.real, np.ones(())
        for element in self.elements:
            passed = _pass(element, f, z)
            z, ratio = passed.near_ohm, ratio * passed.current_ratio
        with np.errstate(divide="ignore", invalid="ignore"):
            return np.where((z.real > 0) & (out > 0), out / (np.abs(ratio) ** 2 * z.real), np.nan)

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
        passed: list[_Transfer] = []
        seen = np.empty((len(self.elements) + 1, f.size), dtype=complex)
        seen[0] = self.antenna.impedance_at(f)
        for k, element in enumerate(self.elements):
            passed.append(_pass(element, f, seen[k]))
            seen[k + 1] = passed[k].near_ohm
        swr, size = swr_of_impedance(seen), np.abs(seen)
        amperes = np.empty(size.shape)
        with np.errstate(divide="ignore", invalid="ignore"):
            amperes[-1] = np.sqrt(2 * power_w / seen[-1].real)
            amperes[-1][~(seen[-1].real > 0)] = np.nan
        for k, through in reversed(list(enumerate(passed))):
            amperes[k] = amperes[k + 1] / through.current_ratio
        volts, power = amperes * size, amperes**2 * (seen.real / 2)
        carried = [_Flow(np.zeros(f.shape), volts[0], amperes[0])]
        for k, through in enumerate(passed):
            carried.append(through.carried(_Ends(amperes[k : k + 2], volts[k : k + 2], power[k : k + 2])))
        return tuple(
            Station(
                key="antenna" if k == 0 else self.elements[k - 1].key,
                impedance_ohm=seen[k],
                swr=swr[k],
                power_w=power[k],
                loss_w=carried[k].loss_w,
                voltage_v=volts[k],
                peak_voltage_v=carried[k].peak_voltage_v,
                peak_current_a=carried[k].peak_current_a,
                line_swr=carried[k].line_swr,
            )
            for k in range(len(seen))
        )


class _Ends(NamedTuple):
    """Peak current, peak voltage and power at an element's two ends: first above, then below it."""

    amperes: Real
    volts: Real
    power_w: Real


class _Flow(NamedTuple):
    """What an element carries: its loss, its peaks, the SWR on it where it is a line."""

    loss_w: Real
    peak_voltage_v: Real
    peak_current_a: Real
    line_swr: Real | None = None


class _Transfer(Protocol):
    """What lies above, seen through an element."""

    @property
    def near_ohm(self) -> Complex:
        """Impedance at the radio side."""

    @property
    def current_ratio(self) -> Reals:
        """How many times the current at the antenna side the one at the radio side is."""

    def carried(self, ends: _Ends) -> _Flow:
        """Loss and peaks, from what goes on at its two ends."""


@dataclass(frozen=True, slots=True)
class _Series:
    near_ohm: Complex
    ohm: Complex
    current_ratio: Reals = 1.0

    def carried(self, ends: _Ends) -> _Flow:
        amperes = ends.amperes[1]
        return _Flow(amperes**2 * (self.ohm.real / 2), amperes * np.abs(self.ohm), amperes)


@dataclass(frozen=True, slots=True)
class _Shunt:
    near_ohm: Complex
    siemens: Complex
    divisor: Complex

    @property
    def current_ratio(self) -> Reals:
        return np.abs(self.divisor)

    def carried(self, ends: _Ends) -> _Flow:
        volts = ends.volts[1]
        return _Flow(volts**2 * (self.siemens.real / 2), volts, volts * np.abs(self.siemens))


@dataclass(frozen=True, slots=True)
class _Through:
    waves: Waves
    line_ohm: Reals

    @property
    def near_ohm(self) -> Complex:
        return self.waves.near_ohm

    @property
    def current_ratio(self) -> Reals:
        return self.waves.current_ratio

    def carried(self, ends: _Ends) -> _Flow:
        volts, amperes = self.waves.peaks(ends.volts, ends.amperes)
        swr = swr_of_impedance(self.waves.far_ohm, self.line_ohm)
        return _Flow(ends.power_w[1] - ends.power_w[0], volts, amperes, swr)


@dataclass(frozen=True, slots=True)
class _Wound:
    flow: Flow

    @property
    def near_ohm(self) -> Complex:
        return self.flow.near_ohm

    @property
    def current_ratio(self) -> Reals:
        return self.flow.input_a

    def carried(self, ends: _Ends) -> _Flow:
        return _Flow(
            ends.power_w[1] - ends.power_w[0],
            np.maximum(ends.volts[0], ends.volts[1]),
            np.maximum(ends.amperes[0], self.flow.low_a * ends.amperes[0]),
        )


@dataclass(frozen=True, slots=True)
class _Tuned:
    tee: Tee
    far_ohm: Complex
    near_ohm: Complex

    @property
    def current_ratio(self) -> Reals:
        return np.abs(1 + (self.far_ohm + self.tee.upper_ohm) * self.tee.across_s)

    def carried(self, ends: _Ends) -> _Flow:
        inside = self.tee.carried(self.far_ohm, ends.amperes[1])
        # With all its parts switched out it carries what passes.
        volts, amperes = np.maximum(inside.volts.max(axis=0), ends.volts[1]), inside.amperes.max(axis=0)
        return _Flow(ends.power_w[1] - ends.power_w[0], volts, amperes)


def _pass(element: Element, frequency_hz: Real, above_ohm: Complex) -> _Transfer:
    part = element.part
    if isinstance(part, TunerNetwork):
        tee = part.tee(frequency_hz)
        return _Tuned(tee, above_ohm, tee.near_ohm(above_ohm))
    if isinstance(part, Transformer):
        return _Wound(part.flow(frequency_hz, above_ohm))
    if isinstance(part, Line):
        return _Through(part.waves(frequency_hz, above_ohm), part.cable.impedance_ohm)
    if element.place == "series":
        ohm = part.impedance_ohm(frequency_hz)
        return _Series(above_ohm + ohm, ohm)
    siemens = part.admittance_s(frequency_hz)
    divisor = 1 + above_ohm * siemens
    return _Shunt(above_ohm / divisor, siemens, divisor)


def _down(element: Element, frequency_hz: Real, below_ohm: Complex) -> Complex:
    """What an element shows at its antenna side, of what is below it."""
    part = element.part
    if isinstance(part, TunerNetwork):
        tee = part.tee(frequency_hz)
        return Tee(tee.lower_ohm, tee.across_s, tee.upper_ohm).near_ohm(below_ohm)
    if isinstance(part, Line | Transformer):
        a, b, c, d = part.chain(frequency_hz)
        return np.asarray((d * below_ohm + b) / (c * below_ohm + a))
    if element.place == "series":
        return np.asarray(below_ohm + part.impedance_ohm(frequency_hz))
    return np.asarray(below_ohm / (1 + below_ohm * part.admittance_s(frequency_hz)))


@dataclass(frozen=True, slots=True)
class CascadeAsAntenna:
    """A cascade as an antenna for what follows."""

    system: System

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Looking up from its last station."""
        return self.system.impedance(frequency_hz)


def worst_over(system: System, targets: Sequence[Target]) -> tuple[float, ...]:
    """The worst SWR on each target, at the box."""
    frequency, _ = judged_at(targets)
    z = system.impedance(frequency, system.match_station)
    magnitude = np.abs((z - 50) / (z + 50)).reshape(len(targets), -1).max(axis=1)
    return tuple(float((1 + m) / (1 - m)) if m < 1 else math.inf for m in magnitude)
