"""The antenna system as it hangs: a cascade from the antenna down to the radio, with its stations."""

from collections.abc import Sequence
from dataclasses import dataclass
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
            z = _below(element, f, z)
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
        f = np.asarray(frequency_hz, dtype=float)
        seen = [self.antenna.impedance_at(f)]
        for element in self.elements:
            seen.append(_below(element, f, seen[-1]))
        with np.errstate(divide="ignore", invalid="ignore"):
            square = np.where(seen[-1].real > 0, power_w / seen[-1].real, np.nan)  # |I|², RMS
        found: list[Station] = []
        for k in range(len(self.elements), -1, -1):
            z = seen[k]
            square_v = square * np.abs(z) ** 2
            key, loss, line_swr = "antenna", np.zeros(f.shape), None
            peak_v, peak_i = np.sqrt(2 * square_v), np.sqrt(2 * square)
            square_above = square
            if k > 0:
                element, above = self.elements[k - 1], seen[k - 1]
                key = element.key
                if isinstance(element.part, Line):
                    _, _, c, d = element.part.chain(f)
                    square_above = square / np.abs(c * above + d) ** 2
                    loss = square * z.real - square_above * above.real
                    far_i = np.sqrt(2 * square_above) + 0j
                    peak_v, peak_i = element.part.peaks_along(f, far_i * above, far_i)
                    line_swr = swr_of(reflection_of(above, float(np.min(element.part.cable.impedance_ohm))))
                elif element.place == "series":
                    zs = element.part.impedance_ohm(f)
                    loss = square * zs.real
                    peak_v = np.sqrt(2 * square) * np.abs(zs)
                else:
                    y = element.part.admittance_s(f)
                    square_above = square / np.abs(1 + above * y) ** 2
                    loss = square_v * y.real
                    peak_i = np.sqrt(2 * square_v) * np.abs(y)
            found.append(
                Station(
                    key=key,
                    impedance_ohm=z,
                    swr=swr_of(reflection_of(z)),
                    power_w=square * z.real,
                    loss_w=loss,
                    voltage_v=np.sqrt(2 * square_v),
                    peak_voltage_v=peak_v,
                    peak_current_a=peak_i,
                    line_swr=line_swr,
                )
            )
            square = square_above
        return tuple(reversed(found))


def _below(element: Element, frequency_hz: Real, above_ohm: Complex) -> Complex:
    """Impedance at the radio side of an element whose antenna side sees `above_ohm`."""
    part = element.part
    if isinstance(part, Line):
        a, b, c, d = part.chain(frequency_hz)
        return (a * above_ohm + b) / (c * above_ohm + d)
    if element.place == "series":
        return above_ohm + part.impedance_ohm(frequency_hz)
    return above_ohm / (1 + above_ohm * part.admittance_s(frequency_hz))
