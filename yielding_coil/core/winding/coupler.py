"""The tuned coupler for end-fed wires at low power: few turns, many turns, and a variable capacitor."""

import math
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real, require_not_negative, require_positive
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.reflection import reflection_of, swr_of
from yielding_coil.core.ring import Ring
from yielding_coil.core.system import Antenna
from yielding_coil.core.target import Target
from yielding_coil.core.transformer import Transformer

# Squeezing the primary's turns together over the earthy end, and pulling them apart, takes its leakage to these
# shares of what it is when they lie loosely (from memory).
SQUEEZED, SPREAD = 0.5, 1.8
# Settings of the variable capacitor that are looked at, and again round the best.
SETTINGS = 201


@dataclass(frozen=True, slots=True)
class Coupler:
    """A transformer whose secondary a variable capacitor tunes.

    Args:
        transformer: without the capacitor; what lies across its secondary by itself is its winding capacitance.
        low_f, high_f: ends of the capacitor's range.

    Raises:
        OutOfDomainError: a range upside down.
    """

    transformer: Transformer
    low_f: float
    high_f: float

    def __post_init__(self) -> None:
        require_not_negative("low_f", self.low_f)
        if not self.low_f < self.high_f:
            raise OutOfDomainError("low_f", f"{self.low_f:g}", f"below the other end, {self.high_f:g} F")

    @property
    def secondary_h(self) -> float:
        """Inductance of the secondary."""
        ring = self.transformer.ring
        if not isinstance(ring, Ring):
            raise OutOfDomainError("ring", "several", "one ring")
        factor = float(np.asarray(self.transformer.permeability_factor).mean())
        return ring.inductance_h(self.transformer.secondary_turns) * factor

    def tunes_hz(self, capacitance_f: float) -> float:
        """Where the secondary resonates with this setting, its own capacitance counted."""
        stray = float(np.asarray(self.transformer.winding_capacitance_f).mean())
        require_positive("capacitance_f", capacitance_f + stray)
        return 1 / (2 * math.pi * math.sqrt(self.secondary_h * (capacitance_f + stray)))

    def capacitance_for(self, frequency_hz: float) -> float:
        """The setting that resonates the secondary at a frequency; below zero where its own is too much already.

        >>> from yielding_coil import data
        >>> ring = Ring(data.ring_material("2"), data.ring_size("T68"))
        >>> coupler = Coupler(Transformer(ring, 3, 20), 10e-12, 250e-12)
        >>> round(coupler.capacitance_for(7.0e6) * 1e12)
        227
        """
        require_positive("frequency_hz", frequency_hz)
        stray = float(np.asarray(self.transformer.winding_capacitance_f).mean())
        return 1 / ((2 * math.pi * frequency_hz) ** 2 * self.secondary_h) - stray

    def seen_ohm(self, frequency_hz: Real, load_ohm: Complex, capacitance_f: Real) -> Complex:
        """What the radio sees at each setting, shape (settings, n)."""
        farad = np.asarray(capacitance_f, dtype=float).reshape(-1, 1)
        across = self.transformer.winding_capacitance_f + farad
        return replace(self.transformer, winding_capacitance_f=across).flow(frequency_hz, load_ohm).near_ohm

    def peak_voltage_v(self, antenna: Antenna, frequency_hz: float, capacitance_f: float, power_w: float) -> float:
        """Peak across the capacitor with so much power into the coupler.

        Raises:
            OutOfDomainError: the frequency lies outside what is known of the antenna.
        """
        f = np.array([frequency_hz])
        across = self.transformer.winding_capacitance_f + capacitance_f
        flow = replace(self.transformer, winding_capacitance_f=across).flow(f, antenna.impedance_at(f))
        return float((flow.load_v * np.sqrt(power_w / flow.input_w))[0])

    def with_leakage(self, times: float) -> "Coupler":
        """The same with its primary squeezed or pulled apart."""
        return replace(self, transformer=replace(self.transformer, leakage_h=self.transformer.leakage_h * times))

    def settings(self, antenna: Antenna, targets: list[Target]) -> list["Setting"]:
        """The capacitor's best setting in the middle of every band, and what is left there.

        Raises:
            OutOfDomainError: a band lies outside what is known of the antenna.
        """
        return [self._setting(antenna, target) for target in targets]

    def _setting(self, antenna: Antenna, target: Target) -> "Setting":
        f = np.array([target.center_hz])
        load = antenna.impedance_at(f)

        def best_of(coupler: Coupler) -> tuple[float, complex]:
            low, high = self.low_f, self.high_f
            farad, z = low, 0j
            for _ in range(3):
                tried = np.linspace(low, high, SETTINGS)
                seen = coupler.seen_ohm(f, load, tried)[:, 0]
                k = int(np.abs(reflection_of(seen)).argmin())
                farad, z = float(tried[k]), complex(seen[k])
                step = (high - low) / (SETTINGS - 1)
                low, high = max(self.low_f, farad - 2 * step), min(self.high_f, farad + 2 * step)
            return farad, z

        farad, z = best_of(self)
        edges = np.array([target.low_hz, target.high_hz])
        held = self.seen_ohm(edges, antenna.impedance_at(edges), np.array([farad]))[0]
        squeezed, apart = best_of(self.with_leakage(SQUEEZED))[1], best_of(self.with_leakage(SPREAD))[1]
        within = self.low_f < farad < self.high_f
        return Setting(
            target.label,
            target.center_hz,
            farad,
            within,
            float(swr_of(reflection_of(z))),
            float(swr_of(reflection_of(held)).max()),
            z,
            squeezed,
            apart,
        )


class Setting(NamedTuple):
    """The capacitor on one band: in range or at its stop; SWR there and at the band's edges if it is left alone.

    `squeezed` and `apart` are what the radio sees with the primary's turns pushed together and pulled apart.
    """

    label: str
    at_hz: float
    capacitance_f: float
    within: bool
    swr: float
    edge_swr: float
    seen_ohm: complex
    squeezed_ohm: complex
    apart_ohm: complex
