"""A choke of a design: a line wound on rings, or on air, against the current common to its wires."""

import math
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from yielding_coil.core.conductor import WindingWire
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import Finding, Values, WindingCode
from yielding_coil.core.parts import FixedLoad, Inductor
from yielding_coil.core.ring import RingCoil
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.system import Element, System
from yielding_coil.core.tolerance import Spread, fan
from yielding_coil.core.winding import choke, heat
from yielding_coil.core.winding.air_coil import coil_cut
from yielding_coil.core.winding.findings import COAX_OHM, curie_findings, material_findings, pair_findings
from yielding_coil.core.winding.fit import Fit, coil_fit, ring_fit
from yielding_coil.core.winding.layout import Strand, WindingLayout
from yielding_coil.core.winding.losses import BandLosses, ThermalBody, coil_body, ring_body, temperature_rises
from yielding_coil.core.winding.report import (
    FAN_BUILDS,
    BenchCurve,
    ChokeReport,
    CoilView,
    MadeOf,
    RatedBand,
    RingView,
    TurnsReport,
    WindingReport,
    WindingTask,
    WireToCut,
    full_returns,
    ring_cuts,
    seen,
)
from yielding_coil.core.winding.ring_wound import CAPACITANCE_SPREAD_F, RingCore, crossing_f, pair_ohm_of
from yielding_coil.core.winding.wiring import HANDS

# Shield over jacket of common coax (from memory).
SHIELD = 0.72
# Across an air choke's ends less than its own capacitance is never met; of its Q what loss the shield leaves.
AIR_SPREAD = 0.05


class ChokeConductor(NamedTuple):
    """What a choke is wound of.

    Args:
        name: in words.
        wires: as they are called.
        thick_m: of each, over its covering.
        metal_m: of the round wire that the common current takes it for.
        pair_ohm: impedance of two wires as a line; None for coax, which has its own.
    """

    name: str
    wires: tuple[str, ...]
    thick_m: float
    metal_m: float
    pair_ohm: float | None

    @property
    def across_m(self) -> float:
        """What a turn takes."""
        return len(self.wires) * self.thick_m


@dataclass(frozen=True, slots=True, kw_only=True)
class LineChoke:
    """Coax, or two wires side by side, wound on rings or on air.

    Args:
        key: its name in the design.
        turns: passes through the ring, or turns on the former.
        core: on rings; None for one on air.
        former_m: where there is no ring.
        cable: name of the coax it is wound of.
        outer_m: over the jacket of that coax.
        wire: that two of are wound; counts where there is no coax.
        crossed: wound half and half.
        tail_m: that is left at each end.
        current_a: effective current on the outside of the line, where it is known.
    """

    key: str
    turns: int
    core: RingCore | None = None
    former_m: float | None = None
    cable: str | None = None
    outer_m: float | None = None
    wire: WindingWire | None = None
    crossed: bool = False
    tail_m: float = 0.04
    current_a: float | None = None

    @property
    def line(self) -> ChokeConductor:
        """What is wound, as it lies.

        Raises:
            OutOfDomainError: neither coax with its thickness nor wire is given.
        """
        if self.cable is None and self.wire is not None:
            wire = self.wire
            apart = max(wire.covered_m, wire.diameter_m)
            metal = choke.bundle_m(wire.diameter_m, apart)
            return ChokeConductor(wire.name, HANDS[:2], apart, metal, pair_ohm_of(wire))
        if self.cable is None or self.outer_m is None:
            raise OutOfDomainError("cable", "none", "coax and its thickness, or a wire that two of are wound")
        return ChokeConductor(self.cable, ("long",), self.outer_m, SHIELD * self.outer_m, None)

    @property
    def on_ring(self) -> RingCore:
        """The ring it is wound on.

        Raises:
            OutOfDomainError: it is wound on air.
        """
        if self.core is None:
            raise OutOfDomainError("core", "none", "a ring for this choke")
        return self.core

    @property
    def coil(self) -> Solenoid:
        """Its turns on a former, touching, as the common current sees them.

        Raises:
            OutOfDomainError: neither ring nor former is given.
        """
        if self.former_m is None:
            raise OutOfDomainError("former_m", "none", "a former for a choke without a ring")
        line = self.line
        return Solenoid(self.former_m + line.thick_m, line.across_m, self.turns, line.metal_m)

    def layout(self) -> WindingLayout:
        """Where its turns lie on the ring."""
        line = self.line
        return WindingLayout(
            self.on_ring.ring,
            tuple(Strand(name, 1, self.turns) for name in line.wires),
            line.thick_m,
            twisted=False,
            crossed=self.crossed,
            tail_m=self.tail_m,
        )

    def part(self) -> RingCoil | Inductor:
        """What the current outside meets."""
        if self.core is not None:
            return RingCoil(self.core.ring, self.turns, crossing_f(self.crossed))
        coil = self.coil
        at = min(coil.self_resonance_hz / 3, 10e6)
        return Inductor(coil.crowded_inductance_h, float(coil.q(at)), at, coil.self_capacitance_f)

    def spreads(self) -> tuple[Spread, ...]:
        """How far builds stray."""
        if self.core is None:
            return (
                Spread(self.key, self.key, "inductance_h", AIR_SPREAD),
                Spread(f"{self.key} stray", self.key, "self_capacitance_f", 0.2),
            )
        return (
            Spread(self.key, self.key, "permeability_factor", self.core.spread),
            Spread(f"{self.key} stray", self.key, "winding_capacitance_f", absolute=CAPACITANCE_SPREAD_F),
        )

    def report(self, task: WindingTask) -> WindingReport:
        """What the current outside the line meets on every band, the line it takes, what it bears."""
        f, part, line = task.frequency_hz, self.part(), self.line
        z = np.asarray(part.impedance_ohm(f))
        alone = System(FixedLoad(0j), [Element(self.key, "series", part)])
        low, high = fan(alone, f, self.spreads(), task.rng(), lambda ohm: np.asarray(ohm.real), FAN_BUILDS)
        made = _made(self, task)
        findings: list[Finding[WindingCode]] = []
        if self.core is not None:
            findings += material_findings(self.core.ring, task.targets)
        if line.pair_ohm is not None:
            findings += pair_findings(line.pair_ohm, COAX_OHM)
        else:
            findings += bend_findings(made.bend_m, line.thick_m)
        bands, losses = [], []
        for target, rated in zip(task.targets, choke.rated(list(task.targets), f, z), strict=True):
            band = _rated_band(rated, self.current_a, made.body, task.duties["speech"])
            bands.append(band)
            losses.append(
                BandLosses(
                    label=rated.label,
                    at_hz=rated.at_hz,
                    core_w=band.loss_w or 0.0,
                    copper_w=0.0,
                    loss_db=0.0,
                    swr_limit=target.swr_limit,
                    voltage_v=band.voltage_v,
                    current_a=None if self.current_a is None else self.current_a * math.sqrt(2),
                    rises=temperature_rises(band.loss_w or 0.0, task.power_w, made.body, task.duties),
                )
            )
            findings += rating_findings(rated)
        if self.core is not None:
            findings += curie_findings(self.core.ring, losses)
        return WindingReport(
            kind="choke",
            key=self.key,
            made_of=_made_of(self.core, line),
            turns=made.turns,
            cuts=made.cuts,
            fit=made.fit,
            picture=made.picture,
            seen=seen(f, z),
            bench=BenchCurve("resistance", f, z.real, low, high),
            heat=tuple(losses),
            findings=tuple(findings),
            choke=ChokeReport(
                tuple(bands),
                made.cuts[0].cut_m,
                made.bend_m if line.pair_ohm is None else None,
                line.pair_ohm,
            ),
        )


class _Made(NamedTuple):
    """A choke as it is wound: how tightly the line is bent, what gives the heat off, what to cut."""

    bend_m: float
    body: ThermalBody
    turns: TurnsReport
    cuts: tuple[WireToCut, ...]
    fit: Fit
    picture: RingView | CoilView


def _made(wound: LineChoke, task: WindingTask) -> _Made:
    line = wound.line
    if wound.core is not None:
        layout = wound.layout()
        return _Made(
            choke.bend_m(layout.ring, line.thick_m),
            ring_body(layout.ring),
            TurnsReport(wound.turns, wound.turns - 1, crosses_after=layout.crosses_after),
            ring_cuts(layout, line.wires),
            ring_fit(layout, task.boxes),
            RingView(layout),
        )
    coil = wound.coil
    return _Made(
        coil.diameter_m / 2,
        coil_body(coil),
        TurnsReport(wound.turns, full_returns(wound.turns)),
        tuple(coil_cut(coil, wound.tail_m, wire=wire) for wire in line.wires),
        coil_fit(coil.diameter_m + line.thick_m, coil.length_m, task.boxes),
        CoilView(coil.diameter_m - line.thick_m, coil.length_m, coil.pitch_m, line.across_m, coil.turns),
    )


def _made_of(core: RingCore | None, line: ChokeConductor) -> MadeOf:
    if core is None:
        return MadeOf(line.name, line.metal_m, line.thick_m, AIR_SPREAD)
    ring = core.ring
    return MadeOf(
        line.name,
        line.metal_m,
        line.thick_m,
        core.spread,
        ring.material.mix,
        ring.size.name,
        ring.stack,
        ring.material.note,
        core.measured,
    )


def _rated_band(rated: choke.Rated, current_a: float | None, body: ThermalBody, duty: float) -> RatedBand:
    """Judged where it chokes least, it heats where its resistance is largest."""
    borne = None if current_a is None else choke.borne(rated.band_ohm, current_a)
    allowed = heat.loss_w(heat.WARM_C, body.surface_m2)
    return RatedBand(
        label=rated.label,
        at_hz=rated.at_hz,
        resistance_ohm=rated.resistance_ohm,
        reactance_ohm=rated.reactance_ohm,
        rating=rated.rating,
        loss_w=None if borne is None else float(borne.power_w.max()),
        voltage_v=None if borne is None else float(borne.voltage_v.max()),
        highest_a=choke.highest_current_a(allowed, max(float(rated.band_ohm.real.max()), 1e-6), duty),
    )


def bend_findings(bend_m: float, outer_m: float) -> list[Finding[WindingCode]]:
    """Coax bent more tightly than common practice bends it."""
    least = choke.LEAST_BEND * outer_m
    return [Finding("tight_bend", {"bend_m": bend_m, "least_m": least})] if bend_m < least else []


def rating_findings(rated: choke.Rated) -> list[Finding[WindingCode]]:
    """A band on which it is no choke."""
    values: Values = {"label": rated.label, "resistance_ohm": rated.resistance_ohm}
    if rated.rating == "reactive":
        return [Finding("choke_reactive", values)]
    return [Finding("choke_too_little", values)] if rated.rating == "too little" else []
