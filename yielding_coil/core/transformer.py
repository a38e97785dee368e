"""Transformers on rings: ununs and baluns, by what their core, copper and stray fields do.

From the radio up: a capacitor across the input; copper and leakage in series, or a length of line where two wires
run as one; the magnetising impedance across; the ideal ratio; copper in series; the winding's capacitance across;
the load.
"""

import math
from dataclasses import dataclass
from typing import Any, NamedTuple

import numpy as np

from yielding_coil.core.arrays import (
    Complex,
    Complexes,
    Real,
    Reals,
    require_finite,
    require_not_negative,
    require_positive,
)
from yielding_coil.core.conductor import Conductor
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.ring import Core


class Flow(NamedTuple):
    """What goes on in a transformer for one ampere (peak) in its load; arrays of one shape.

    Voltages and currents are peaks of the sine, powers in watts.
    """

    near_ohm: Complex
    input_a: Real
    core_w: Real
    copper_w: Real
    capacitor_w: Real
    load_w: Real
    input_v: Real
    core_v: Real
    load_v: Real
    low_a: Real

    @property
    def input_w(self) -> Real:
        """Power in: into load, core, copper and capacitor."""
        return self.core_w + self.copper_w + self.capacitor_w + self.load_w

    def at_power(self, power_w: float) -> "Flow":
        """The same with so many watts going in."""
        grown = power_w / self.input_w
        root = np.sqrt(grown)
        return Flow(
            self.near_ohm,
            self.input_a * root,
            self.core_w * grown,
            self.copper_w * grown,
            self.capacitor_w * grown,
            self.load_w * grown,
            self.input_v * root,
            self.core_v * root,
            self.load_v * root,
            self.low_a * root,
        )


def _whole(values: Any, shape: tuple[int, ...]) -> Any:
    """An array at its whole shape; most have it already."""
    return values if np.shape(values) == shape else np.broadcast_to(values, shape)


class _Carried(NamedTuple):
    """Peaks at every place of a transformer, complex, from the load's winding to the radio's terminals."""

    wound_a: Any
    high_ohm: Real
    core_v: Any
    magnetising_s: Complex
    low_a: Complex
    low_ohm: Real
    primary_v: Complex
    primary_a: Complex
    capacitor_s: Any
    input_a: Complex


@dataclass(frozen=True, slots=True)
class Knob:
    """A variable capacitor across the secondary, turned to its best for every band.

    Args:
        bands_hz: middles of the bands.
        total_f: across the secondary on each, the winding's own among it, as the core is by its table.
        own_f: the winding's own.
        low_f, high_f: stops of the capacitor.

    Whoever tunes a build brings the secondary back to where it resonated: what the core has more of permeability
    the capacitor has less, as far as its stops.
    """

    bands_hz: tuple[float, ...]
    total_f: tuple[float, ...]
    own_f: float
    low_f: float
    high_f: float

    def across_f(self, frequency_hz: Reals, permeability_factor: Reals, own_f: Reals) -> Real:
        """What then lies across the secondary, shape broadcast; a frequency belongs to the nearest band."""
        log = np.log(np.atleast_1d(np.asarray(frequency_hz, dtype=float)))
        nearest = np.abs(log[:, np.newaxis] - np.log(np.array(self.bands_hz))).argmin(axis=1)
        total = np.array(self.total_f)[nearest if np.ndim(frequency_hz) else nearest[0]] / permeability_factor
        return np.asarray(np.clip(total - own_f, self.low_f, self.high_f) + own_f)


@dataclass(frozen=True, slots=True)
class Transformer:
    """Turns on a ring that carry one impedance to another.

    Valid for windings short beside a wave. Numbers left out are zero: an ideal winding on a real core.

    Args:
        ring: what it is wound on.
        primary_turns: passes through the hole between the radio's two terminals.
        secondary_turns: passes between the load's; of a tapped winding all of it.
        leakage_h: between the two, seen from the primary; a range from memory until a sweep tells.
        winding_capacitance_f: across the secondary; likewise.
        input_capacitance_f: a capacitor put across the input.
        input_q: its Q.
        primary: copper of the primary, in the primary's current.
        secondary: copper of the secondary, in the load's current.
        line: where two wires run as a line (current baluns): in place of leakage and primary copper.
        share: of the primary's voltage that lies across `core_turns` of the core.
        core_turns: turns that magnetise; the primary's when left out.
        permeability_factor: of this core against its ring; may be an array of builds.
        knob: a variable capacitor across the secondary, turned for each band.

    Raises:
        OutOfDomainError: no turn, a tap beyond the winding's end, or a value below zero.

    >>> from yielding_coil import data
    >>> from yielding_coil.core.ring import Ring
    >>> unun = Transformer(Ring(data.ring_material("43"), data.ring_size("FT240")), 2, 14)
    >>> complex(unun.input_impedance(3.6e6, 2450)).real.__round__(1)
    29.3
    """

    ring: Core
    primary_turns: float
    secondary_turns: float
    leakage_h: Reals = 0.0
    winding_capacitance_f: Reals = 0.0
    input_capacitance_f: Reals = 0.0
    input_q: float = 1000.0
    primary: Conductor | None = None
    secondary: Conductor | None = None
    line: Line | None = None
    share: float = 1.0
    core_turns: float | None = None
    permeability_factor: Reals = 1.0
    knob: Knob | None = None

    def __post_init__(self) -> None:
        for name in ("primary_turns", "secondary_turns", "input_q", "permeability_factor"):
            require_positive(name, getattr(self, name))
        for name in ("leakage_h", "winding_capacitance_f", "input_capacitance_f"):
            require_not_negative(name, getattr(self, name))
        if self.primary_turns > self.secondary_turns:
            raise OutOfDomainError(
                "primary_turns",
                f"{self.primary_turns:g}",
                f"at most the {self.secondary_turns:g} turns of the whole winding: the tap lies inside it",
            )

    @property
    def turns_ratio(self) -> float:
        """Secondary over primary turns."""
        return self.secondary_turns / self.primary_turns

    @property
    def impedance_ratio(self) -> float:
        """The turns ratio squared."""
        return self.turns_ratio**2

    def magnetising_ohm(self, frequency_hz: Reals) -> Complex:
        """What the core puts across the primary, in ohm, shape broadcast."""
        turns = self.primary_turns if self.core_turns is None else self.core_turns
        return self.ring.core_ohm(frequency_hz, turns) * self.permeability_factor / self.share**2

    def _carried(self, frequency_hz: Reals, load_v: Complexes, load_a: Complexes) -> "_Carried":
        """Every voltage and current in it for those of the load; linear in both.

        Source:
            Kirchhoff, from the load down to the radio; the line by Pozar, 4th ed., Table 4.1.
        """
        omega = 2 * math.pi * np.asarray(frequency_hz, dtype=float)
        n = self.turns_ratio
        no_copper = np.zeros(omega.shape)
        # Above the ideal ratio.
        across: Reals = self.winding_capacitance_f
        if self.knob is not None:
            across = self.knob.across_f(frequency_hz, self.permeability_factor, self.winding_capacitance_f)
        wound_a = load_a + load_v * (1j * omega * across)
        high_ohm = no_copper if self.secondary is None else self.secondary.resistance_ohm(frequency_hz)
        core_v = (load_v + wound_a * high_ohm) / n
        # Below it.
        magnetising_s = 1 / self.magnetising_ohm(frequency_hz)
        low_a = n * wound_a + core_v * magnetising_s
        low_ohm = no_copper if self.primary is None else self.primary.resistance_ohm(frequency_hz)
        if self.line is not None:
            a, b, c, d = self.line.chain(frequency_hz)
            primary_v, primary_a = a * core_v + b * low_a, c * core_v + d * low_a
        else:
            primary_v, primary_a = core_v + low_a * (low_ohm + 1j * omega * self.leakage_h), low_a
        capacitor_s = omega * self.input_capacitance_f * (1j + 1 / self.input_q)
        return _Carried(
            wound_a,
            high_ohm,
            core_v,
            magnetising_s,
            low_a,
            low_ohm,
            primary_v,
            primary_a,
            capacitor_s,
            primary_a + primary_v * capacitor_s,
        )

    def chain(self, frequency_hz: Reals) -> tuple[Complex, Complex, Complex, Complex]:
        """ABCD from the radio's terminals to the load's: A, B (ohm), C (siemens), D."""
        opened, shorted = self._carried(frequency_hz, 1.0, 0.0), self._carried(frequency_hz, 0.0, 1.0)
        shape = np.shape(opened.input_a)
        rows = (opened.primary_v, shorted.primary_v, opened.input_a, shorted.input_a)
        a, b, c, d = (np.asarray(_whole(np.asarray(row, dtype=complex), shape)) for row in rows)
        return a, b, c, d

    def flow(self, frequency_hz: Reals, load_ohm: Complexes) -> Flow:
        """Everything in it for one ampere in the load; shapes broadcast, nothing checked."""
        load = np.asarray(load_ohm, dtype=complex)
        on = self._carried(frequency_hz, load, 1.0)
        core_w = np.abs(on.core_v) ** 2 * on.magnetising_s.real / 2
        copper_w = np.abs(on.wound_a) ** 2 * on.high_ohm / 2
        if self.line is not None:
            line_w = (on.primary_v * np.conj(on.primary_a)).real / 2 - (on.core_v * np.conj(on.low_a)).real / 2
            copper_w = copper_w + line_w
        else:
            copper_w = copper_w + np.abs(on.low_a) ** 2 * on.low_ohm / 2
        # numpy broadcasts whatever stands in these fields; one shape for all of them is the caller's gain.
        shape = np.broadcast(on.input_a, core_w, copper_w).shape
        return Flow(
            near_ohm=_whole(on.primary_v / on.input_a, shape),
            input_a=_whole(np.abs(on.input_a), shape),
            core_w=_whole(core_w, shape),
            copper_w=_whole(copper_w, shape),
            capacitor_w=_whole(np.abs(on.primary_v) ** 2 * np.real(on.capacitor_s) / 2, shape),
            load_w=_whole(load.real / 2, shape),
            input_v=_whole(np.abs(on.primary_v), shape),
            core_v=_whole(np.abs(on.core_v), shape),
            load_v=_whole(np.abs(load), shape),
            low_a=_whole(np.abs(on.low_a), shape),
        )

    def input_impedance(self, frequency_hz: Reals, load_ohm: Complexes) -> Complex:
        """Impedance at the radio's terminals with a load on the others.

        Args:
            frequency_hz: shape (n,) or one, above zero.
            load_ohm: same shape, finite.

        Raises:
            OutOfDomainError: a frequency is not above zero, or a load not finite.
        """
        require_positive("frequency_hz", frequency_hz)
        require_finite("load_ohm", load_ohm)
        return self.flow(frequency_hz, load_ohm).near_ohm

    def loss_db(self, frequency_hz: Reals, load_ohm: Complexes) -> Real:
        """Loss in dB: power in over power into the load.

        Raises:
            OutOfDomainError: a frequency is not above zero, a load not finite or without resistance.
        """
        require_positive("frequency_hz", frequency_hz)
        require_finite("load_ohm", load_ohm)
        require_positive("load_ohm (its resistance)", np.asarray(load_ohm, dtype=complex).real)
        flow = self.flow(frequency_hz, load_ohm)
        return np.asarray(10 * np.log10(flow.input_w / flow.load_w))

    def flux_t(self, frequency_hz: Reals, core_v: Reals) -> Real:
        """Peak flux density for a peak voltage across the core's branch, as `Flow.core_v` gives it."""
        turns = self.primary_turns if self.core_turns is None else self.core_turns
        return self.ring.flux_t(frequency_hz, turns, np.asarray(core_v) * self.share)
