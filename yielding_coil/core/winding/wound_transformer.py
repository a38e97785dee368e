"""Ununs and baluns of a design wound on rings, the tuned coupler among them."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.element import AtWork, Part
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.parts import FixedLoad, require_of_a_winding
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.system import Antenna, Element, Station, System
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import Spread, swr_fan
from yielding_coil.core.transformer import Knob, Transformer
from yielding_coil.core.winding.coupler import Coupler
from yielding_coil.core.winding.findings import (
    COAX_OHM,
    coupler_findings,
    few_turns_findings,
    pair_findings,
    ratio_findings,
)
from yielding_coil.core.winding.fit import ring_fit
from yielding_coil.core.winding.layout import WindingLayout, strands_of
from yielding_coil.core.winding.losses import BandLosses, SplitLoss, band_losses
from yielding_coil.core.winding.report import (
    FAN_BUILDS,
    BenchCurve,
    CouplerBand,
    CouplerReport,
    RingView,
    TurnsReport,
    WindingReport,
    WindingTask,
    ring_cuts,
    seen,
)
from yielding_coil.core.winding.ring_wound import (
    CAPACITANCE_SPREAD_F,
    PAIR_LOSS_SQRT,
    PAIR_PERMITTIVITY,
    WoundOnRing,
    WoundToMake,
    crossing_f,
    pair_ohm_of,
)
from yielding_coil.core.winding.wiring import HANDS, Across, Kind, Wiring, joins_of, wiring

# Of a capacitor across the input, two standard deviations, relative (from memory).
INPUT_SPREAD = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Tuning:
    """A variable capacitor across the secondary: its range, where it stands, and what it stands.

    Raises:
        OutOfDomainError: a range upside down.
    """

    set_f: float
    low_f: float = 8e-12
    high_f: float = 250e-12
    voltage_v: float = 300.0


@dataclass(frozen=True, slots=True, kw_only=True)
class WoundTransformer(WoundOnRing):
    """An unun or a balun, by its turns and how its wires are joined.

    Args:
        wiring: how its wires are joined.
        primary_turns, secondary_turns: passes through the hole; of wires in hand the second follows.
        primary_wire: a tapped winding's primary is a wire of its own, twisted with the first turns; else a tap.
        leakage_h, winding_capacitance_f: nominal when None: ranges from memory, until a sweep of it is fitted.
        input_capacitance_f, input_q: a capacitor across the input.
        tuning: a tuned coupler has one.
    """

    wiring: Kind
    primary_turns: int
    secondary_turns: int
    primary_wire: bool = True
    leakage_h: float | None = None
    winding_capacitance_f: float | None = None
    input_capacitance_f: float = 0.0
    input_q: float = 1500.0
    tuning: Tuning | None = None
    place: Literal["through"] = "through"

    def __post_init__(self) -> None:
        require_of_a_winding("input_capacitance_f", self.input_capacitance_f)

    @property
    def way(self) -> Wiring:
        """How its wires are joined.

        Raises:
            OutOfDomainError: the primary may not be a tap in this wiring.
        """
        chosen = wiring(self.wiring)
        joins_of(chosen, self.own_primary)
        return chosen

    @property
    def own_primary(self) -> bool:
        """Whether the primary is a wire of its own; separate windings always have one."""
        return self.primary_wire or self.wiring == "separate"

    @property
    def secondary(self) -> int:
        """Turns of the whole secondary."""
        return self.way.secondary_turns(self.primary_turns, self.secondary_turns)

    @property
    def matching_resistor_ohm(self) -> float:
        """The resistor that shows 50 Ω through an ideal core: fifty times the impedance ratio."""
        return COAX_OHM * (self.secondary / self.primary_turns) ** 2

    @property
    def nominal_leakage_h(self) -> float:
        """As told, else by how it is wound."""
        return self.way.leakage_at(self.primary_turns) if self.leakage_h is None else self.leakage_h

    @property
    def nominal_capacitance_f(self) -> float:
        """As told, else by how it is wound."""
        return crossing_f(self.crossed) if self.winding_capacitance_f is None else self.winding_capacitance_f

    @property
    def pair(self) -> Line:
        """Two of its wires as a line, as long as the winding."""
        metres = self.core.ring.wire_length_m(self.primary_turns, self.wire.covered_m, self.tape_m)
        ohm = pair_ohm_of(self.wire)
        return Line(Cable("pair", ohm, 1 / math.sqrt(PAIR_PERMITTIVITY), PAIR_LOSS_SQRT, 0.0), metres)

    @property
    def across(self) -> tuple[Across, ...]:
        """The capacitors that belong to it: over the input, and of a tuned coupler over the whole secondary."""
        found = []
        if self.input_capacitance_f:
            value = self.input_capacitance_f
            found.append(Across(("coax centre", "coax shield"), value, value))
        if self.tuning:
            other: Literal["counterpoise", "coax shield"] = (
                "counterpoise" if self.wiring == "separate" else "coax shield"
            )
            found.append(Across(("wire post", other), self.tuning.low_f, self.tuning.high_f))
        return tuple(found)

    def stacked(self) -> "WoundTransformer":
        """The same on one ring more."""
        ring = self.core.ring
        return replace(self, core=replace(self.core, ring=replace(ring, stack=ring.stack + 1)))

    def part(self, center_hz: float) -> Transformer:
        """The transformer as it computes; the frequency plays no part.

        Raises:
            OutOfDomainError: a tap beyond the winding's end.
        """
        way, m, n = self.way, self.primary_turns, self.secondary
        if m > n:
            raise OutOfDomainError(
                "primary_turns", m, f"at most the {n} turns of the whole winding: the tap lies inside it"
            )
        bare = Transformer(
            ring=self.core.ring,
            primary_turns=m,
            secondary_turns=n,
            winding_capacitance_f=self.nominal_capacitance_f + (self.tuning.set_f if self.tuning else 0.0),
            input_capacitance_f=self.input_capacitance_f,
            input_q=self.input_q,
            share=way.share,
        )
        if way.as_line:
            line = self.pair
            if way.ratio == 2:  # two pairs side by side at the radio
                cable = line.cable
                line = replace(line, cable=replace(cable, name="pairs", impedance_ohm=cable.impedance_ohm / 2))
            return replace(bare, line=line)
        tapped = way.in_hand > 1 or not self.own_primary
        # Below a tap runs the difference of both currents; above it the load's own.
        return replace(
            bare,
            leakage_h=self.nominal_leakage_h,
            primary=self.copper(m, 1 - m / n if tapped else 1.0),
            secondary=self.copper(n - m if tapped else n),
        )

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray: the core, what lies between the wires, and the capacitor."""
        found = [Spread(self.key, self.key, "permeability_factor", self.core.spread_at(center_hz))]
        if not self.way.as_line and self.leakage_h is None:
            strays = self.nominal_leakage_h * self.way.leakage_spread_h / self.way.leakage_h
            found.append(Spread(f"{self.key} leakage", self.key, "leakage_h", absolute=strays))
        if self.winding_capacitance_f is None:
            name = f"{self.key} capacitance"
            found.append(Spread(name, self.key, "winding_capacitance_f", absolute=CAPACITANCE_SPREAD_F))
        if self.input_capacitance_f > 0:
            found.append(Spread(f"{self.key} input", self.key, "input_capacitance_f", INPUT_SPREAD))
        return tuple(found)

    @property
    def names(self) -> tuple[str, ...]:
        """Its wires on one ring."""
        way = self.way
        if way.in_hand > 1:
            return HANDS[: way.in_hand]
        return ("long", "primary") if self.own_primary else ("long",)

    def layout(self) -> WindingLayout:
        """Where its turns lie, on one ring."""
        return self.layout_of(strands_of(self.names, self.way.in_hand, self.primary_turns, self.secondary))

    def to_make(self, at: AtWork) -> WoundToMake:
        """Its turns and its core."""
        return self.made_from("transformer", self.primary_turns, self.secondary, self.wiring, at)

    def split_loss(self, part: Part, frequency_hz: Real, above: Station, station: Station) -> SplitLoss:
        """As its currents flow with what hangs on it."""
        assert isinstance(part, Transformer)
        flow = part.flow(frequency_hz, above.impedance_ohm)
        amps2 = 2 * above.power_w / above.impedance_ohm.real
        return SplitLoss(flow.core_w * amps2, flow.copper_w * amps2, flow.core_v * np.sqrt(amps2))

    def flux_t(self, part: Part, frequency_hz: float, core_v: float) -> float:
        """Peak flux density of a peak voltage across the core's branch."""
        assert isinstance(part, Transformer)
        return float(part.flux_t(frequency_hz, np.asarray(core_v)))

    # The tuned coupler.

    def coupler(self, center_hz: float) -> Coupler | None:
        """With its variable capacitor taken off; None for one without.

        Raises:
            OutOfDomainError: a range upside down.
        """
        if self.tuning is None:
            return None
        return Coupler(replace(self, tuning=None).part(center_hz), self.tuning.low_f, self.tuning.high_f)

    def with_knob(self, system: System, targets: Sequence[Target], center_hz: float) -> Transformer | None:
        """As it is used: its capacitor turned to the best on every band; None for one without.

        Raises:
            OutOfDomainError: a band lies outside what is known of the antenna.
        """
        coupler = self.coupler(center_hz)
        if coupler is None:
            return None
        own = self.nominal_capacitance_f
        settings = coupler.settings(system.above(self.key), list(targets))
        knob = Knob(
            tuple(t.center_hz for t in targets),
            tuple(s.capacitance_f + own for s in settings),
            own,
            coupler.low_f,
            coupler.high_f,
        )
        return replace(coupler.transformer, knob=knob)

    def tuned(self, capacitance_f: float) -> "WoundTransformer":
        """The same with its capacitor set otherwise."""
        assert self.tuning is not None
        return replace(self, tuning=replace(self.tuning, set_f=capacitance_f))

    def losses(self, task: WindingTask) -> tuple[BandLosses, ...]:
        """Heat on every band; a variable capacitor set for each, as one does before sending."""
        assert task.system is not None
        center, system = task.center_hz, task.system
        coupler = self.coupler(center)
        if coupler is None:
            return band_losses(self, system, task.targets, task.power_w, task.duties, center)
        found: list[BandLosses] = []
        settings = coupler.settings(system.antenna, list(task.targets))
        for target, setting in zip(task.targets, settings, strict=True):
            turned = self.tuned(setting.capacitance_f)
            there = system.with_part(self.key, turned.part(center))
            found += band_losses(turned, there, [target], task.power_w, task.duties, center)
        return tuple(found)

    def coupler_report(self, antenna: Antenna, targets: Sequence[Target], power_w: float) -> CouplerReport | None:
        """The coupler over its bands; None for a transformer without a variable capacitor."""
        coupler = self.coupler(targets[0].center_hz)
        if coupler is None:
            return None
        return CouplerReport(
            low_hz=coupler.tunes_hz(coupler.high_f),
            high_hz=coupler.tunes_hz(max(coupler.low_f, 1e-15)),
            settings=tuple(
                CouplerBand(
                    label=s.label,
                    at_hz=s.at_hz,
                    capacitance_f=s.capacitance_f,
                    within=s.within,
                    swr=s.swr,
                    edge_swr=s.edge_swr,
                    resistance_ohm=s.seen_ohm.real,
                    reactance_ohm=s.seen_ohm.imag,
                    squeezed_reactance_ohm=s.squeezed_ohm.imag,
                    apart_reactance_ohm=s.apart_ohm.imag,
                    voltage_v=coupler.peak_voltage_v(antenna, s.at_hz, s.capacitance_f, power_w),
                )
                for s in coupler.settings(antenna, list(targets))
            ),
        )

    def report(self, task: WindingTask) -> WindingReport:
        """Everything about it.

        Raises:
            NotFoundError: the task's system does not hold it.
        """
        assert task.system is not None
        layout, part, f, way = self.layout(), self.part(task.center_hz), task.frequency_hz, self.way
        m, n = self.primary_turns, self.secondary
        resistor = self.matching_resistor_ohm if task.resistor_ohm is None else task.resistor_ohm
        bench = System(FixedLoad(resistor), [Element(self.key, "through", part)])
        low, high = swr_fan(bench, f, self.spreads(task.center_hz), task.rng(), FAN_BUILDS)
        losses = self.losses(task)
        coupler = self.coupler_report(task.system.antenna, task.targets, task.power_w)
        findings = self.common_findings(losses, task)
        if coupler is not None and self.tuning is not None:
            findings += coupler_findings(coupler, self.tuning.voltage_v)
        if part.line is not None:
            own = float(np.asarray(self.pair.cable.impedance_ohm))
            findings += pair_findings(own, COAX_OHM * way.secondary_turns(1, 1))
        findings += ratio_findings(self.key, n / m)
        if self.tuning is None:
            lowest = np.array([t.low_hz for t in task.targets])
            findings += few_turns_findings(self.key, float(np.abs(part.magnetising_ohm(lowest)).min()))
        return WindingReport(
            kind="transformer",
            key=self.key,
            wiring=self.wiring,
            made_of=self.made_of,
            turns=TurnsReport(
                passes=layout.turns,
                returns=layout.turns - 1,
                primary=m,
                secondary=n,
                turns_ratio=n / m,
                impedance_ratio=(n / m) ** 2,
                in_hand=way.in_hand,
                tap_after=m if way.in_hand == 1 and not self.own_primary else None,
                crosses_after=layout.crosses_after,
            ),
            cuts=ring_cuts(layout, self.names if way.rings == 1 else way.strands),
            fit=ring_fit(layout, task.boxes, way.rings),
            joins=joins_of(way, self.own_primary),
            across=self.across,
            picture=RingView(layout, way.rings),
            seen=seen(f, part.magnetising_ohm(f), part.loss_db(f, np.full(f.shape, resistor))),
            bench=BenchCurve("swr", f, swr_of_impedance(bench.impedance(f)), low, high, resistor),
            heat=losses,
            findings=tuple(findings),
            coupler=coupler,
        )
