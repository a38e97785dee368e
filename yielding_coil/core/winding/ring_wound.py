"""What everything wound on a ring has, and coils on rings."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.conductor import Conductor, WindingWire
from yielding_coil.core.element import AtWork, Part, resonance_findings
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import DesignCode, Finding, WindingCode
from yielding_coil.core.line import pair_ohm
from yielding_coil.core.parts import FixedLoad, bare_inductance_h, own_resonance_hz
from yielding_coil.core.ring import Material, Ring, RingCoil
from yielding_coil.core.system import Element, Station, System
from yielding_coil.core.tolerance import Spread, fan
from yielding_coil.core.winding.air_coil import AirCoil
from yielding_coil.core.winding.findings import (
    curie_findings,
    heat_findings,
    material_findings,
)
from yielding_coil.core.winding.fit import ring_fit
from yielding_coil.core.winding.layout import Strand, WindingLayout
from yielding_coil.core.winding.losses import BandLosses, SplitLoss, ThermalBody, band_losses, ring_body
from yielding_coil.core.winding.report import (
    FAN_BUILDS,
    BenchCurve,
    MadeOf,
    RingView,
    TurnsReport,
    WindingReport,
    WindingTask,
    ring_cuts,
    seen,
)

# Across a winding from end to end, straight round and crossed over, and two standard deviations (a range of 2 to
# 5 pF from memory; ends kept apart lie at its lower end).
STRAIGHT_F, CROSSED_F, CAPACITANCE_SPREAD_F = 3.5e-12, 2.5e-12, 1.0e-12
# Enamelled wires side by side as a line: dielectric between them (from memory), and its loss.
PAIR_PERMITTIVITY = 2.2
PAIR_LOSS_SQRT = 6.0
# Of a coil on a ring, when nothing else is known (from memory).
COIL_CAPACITANCE_F = 2e-12
# An inductance factor of one's own (common practice: 1 %).
MEASURED_AL = 0.01
WoundKind = Literal["ring_coil", "transformer"]
DOUBTFUL_SIZE = "the trade name may belong to a ring of slightly other size: measure yours"


def crossing_f(crossed: bool) -> float:
    """Across a winding on a ring from end to end, as it is laid."""
    return CROSSED_F if crossed else STRAIGHT_F


def pair_ohm_of(wire: WindingWire) -> float:
    """Two of these wires side by side as a line."""
    return pair_ohm(wire.diameter_m, max(wire.covered_m, 1.02 * wire.diameter_m), PAIR_PERMITTIVITY)


def known_to(ring: Ring) -> float:
    """Two standard deviations of a ring's permeability, relative: as its A_L was measured, else as its mix is."""
    return ring.material.tolerance if ring.al_h is None else MEASURED_AL


@dataclass(frozen=True, slots=True)
class RingCore:
    """A ring, or a stack of them, and how well it is known.

    Args:
        ring: by its data, or with its own inductance factor or curve as measured.
        spread: two standard deviations of its permeability, relative.
        measured: whether a sweep of one's own stands behind it.
    """

    ring: Ring
    spread: float
    measured: bool = False

    @property
    def note(self) -> str:
        """What is to be said of its data."""
        doubt = DOUBTFUL_SIZE if self.ring.size.doubtful else ""
        return "; ".join(t for t in (self.ring.material.note, doubt) if t)

    def spread_at(self, frequency_hz: float) -> float:
        """Two standard deviations of its permeability at a frequency, relative.

        A measured A_L tells how much iron there is and how it begins, nothing of how it falls and loses: where
        little is left of the initial permeability its mix's own spread counts. Past a mix's data doubt grows.
        """
        material = self.ring.material
        past = float(material.doubt(frequency_hz)) - material.tolerance
        if self.ring.al_h is None:
            return math.hypot(self.spread, past)
        mu = complex(material.permeability(frequency_hz))
        first = material.points[0][1] if material.points else material.initial_permeability
        like_first = min(max(mu.real / first, 0.0), 1.0) * max(mu.real, 0.0) / abs(mu)
        return math.hypot(self.spread, material.tolerance * (1 - like_first), past)

    def others(self, materials: Sequence[Material]) -> list[Ring]:
        """The same size in the other mixes of its family."""
        own, size, stack = self.ring.material, self.ring.size, self.ring.stack
        return [Ring(m, size, stack) for m in materials if m.kind == own.kind and m.mix != own.mix]


@dataclass(frozen=True, slots=True)
class WoundToMake:
    """Something wound on a ring: its turns, its core, and the most that it loses on a target."""

    kind: WoundKind
    key: str
    primary_turns: int
    secondary_turns: int
    wiring: str | None
    mix: str
    size: str
    stack: int
    loss_db: float
    peak_voltage_v: float
    peak_current_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WoundOnRing:
    """What everything wound on a ring has.

    Args:
        key: its name in the design.
        twisted: wires that share a turn; else side by side.
        crossed: wound half and half; else straight round.
        tape_m: thickness of tape on the ring.
        tail_m: that each wire leaves at each end.
    """

    key: str
    core: RingCore
    wire: WindingWire
    twisted: bool = True
    crossed: bool = False
    tape_m: float = 0.0
    tail_m: float = 0.045

    by_hand: ClassVar[bool] = True
    trimmed_in_place: ClassVar[bool] = False

    @property
    def spread(self) -> float:
        """Two standard deviations of the core's permeability."""
        return self.core.spread

    def copper(self, turns: int, share: float = 1.0) -> Conductor:
        """So many turns of its wire, as they heat."""
        return self.wire.conductor(self.core.ring.wire_length_m(turns, self.wire.covered_m, self.tape_m), share)

    def layout_of(self, strands: tuple[Strand, ...]) -> WindingLayout:
        """Where those wires lie."""
        return WindingLayout(
            self.core.ring,
            strands,
            self.wire.covered_m,
            self.twisted,
            self.crossed,
            self.tape_m,
            self.tail_m,
        )

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """What there is to say of it stands in its report."""
        return []

    def body(self, center_hz: float) -> ThermalBody:
        """What gives its heat off."""
        return ring_body(self.core.ring)

    @property
    def made_of(self) -> MadeOf:
        """Core and wire."""
        ring, wire = self.core.ring, self.wire
        return MadeOf(
            wire=wire.name,
            wire_m=wire.diameter_m,
            covered_m=wire.covered_m,
            tolerance=self.core.spread,
            mix=ring.material.mix,
            size=ring.size.name,
            stack=ring.stack,
            note=self.core.note,
            measured=self.core.measured,
        )

    def made_from(self, kind: WoundKind, primary: int, secondary: int, way: str | None, at: AtWork) -> WoundToMake:
        """Its turns and its core, for the list of parts."""
        ring = self.core.ring
        return WoundToMake(
            kind=kind,
            key=self.key,
            primary_turns=primary,
            secondary_turns=secondary,
            wiring=way,
            mix=ring.material.mix,
            size=ring.size.name,
            stack=ring.stack,
            loss_db=at.loss_db,
            peak_voltage_v=at.peak_voltage_v,
            peak_current_a=at.peak_current_a,
        )

    def common_findings(self, losses: Sequence[BandLosses], task: WindingTask) -> list[Finding[WindingCode]]:
        """Of everything with a core: heat and flux, its material, its Curie temperature."""
        ring = self.core.ring
        return [
            *heat_findings(losses, task.power_w),
            *material_findings(ring, task.targets),
            *curie_findings(ring, losses),
        ]


@dataclass(frozen=True, slots=True, kw_only=True)
class CoilOnRing(WoundOnRing):
    """A coil on a ring, by its turns.

    Args:
        winding_capacitance_f: across it.
    """

    place: Literal["series", "shunt"]
    turns: int
    winding_capacitance_f: float = COIL_CAPACITANCE_F

    def part(self, center_hz: float) -> RingCoil:
        """The coil as it computes; the frequency plays no part."""
        return RingCoil(self.core.ring, self.turns, self.winding_capacitance_f, self.copper(self.turns))

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far its inductance strays: with the permeability of its core."""
        return (Spread(self.key, self.key, "permeability_factor", self.core.spread_at(center_hz)),)

    def layout(self) -> WindingLayout:
        """Where its turns lie."""
        return self.layout_of((Strand("long", 1, self.turns),))

    def turns_for(self, inductance_h: float) -> int:
        """Whole turns that come nearest to an inductance."""
        return max(1, round(math.sqrt(inductance_h / self.core.ring.inductance_h(1))))

    def to_make(self, at: AtWork) -> WoundToMake:
        """Its turns and its core."""
        return self.made_from("ring_coil", self.turns, self.turns, None, at)

    def split_loss(self, part: Part, frequency_hz: Real, above: Station, station: Station) -> SplitLoss:
        """By the resistance of core and copper, which carry one current."""
        assert isinstance(part, RingCoil)
        core, copper = part.arm_ohm(frequency_hz)
        share = core.real / (core.real + copper)
        return SplitLoss(station.loss_w * share, station.loss_w * (1 - share), station.peak_voltage_v)

    def flux_t(self, part: Part, frequency_hz: float, core_v: float) -> float:
        """Peak flux density of a peak voltage across it."""
        return float(self.core.ring.flux_t(frequency_hz, self.turns, core_v))

    def report(self, task: WindingTask) -> WindingReport:
        """Everything about it.

        Raises:
            NotFoundError: the task's system does not hold it.
        """
        assert task.system is not None
        layout, part, f = self.layout(), self.part(task.center_hz), task.frequency_hz
        alone = System(FixedLoad(0j), [Element(self.key, "series", part)])
        z = part.impedance_ohm(f)

        def henry(ohm: Complex) -> Real:
            return np.asarray(np.imag(ohm) / (2 * np.pi * f))

        low, high = fan(alone, f, self.spreads(task.center_hz), task.rng(), henry, FAN_BUILDS)
        losses = band_losses(self, task.system, task.targets, task.power_w, task.duties, task.center_hz)
        own_hz = own_resonance_hz(self.core.ring.inductance_h(self.turns), self.winding_capacitance_f)
        return WindingReport(
            kind="ring_coil",
            key=self.key,
            made_of=self.made_of,
            turns=TurnsReport(self.turns, self.turns - 1, crosses_after=layout.crosses_after),
            cuts=ring_cuts(layout, ("long",)),
            fit=ring_fit(layout, task.boxes),
            picture=RingView(layout),
            seen=seen(f, z),
            bench=BenchCurve("inductance", f, henry(z), low, high),
            heat=losses,
            findings=(
                *self.common_findings(losses, task),
                *resonance_findings(self.key, own_hz, task.targets),
            ),
        )


def turns_like(coil: AirCoil, wound: CoilOnRing, frequency_hz: float) -> int:
    """Whole turns on a ring that read as a coil on air does; its own capacitance adds to the turns' share."""
    return wound.turns_for(bare_inductance_h(coil.inductance_h, frequency_hz, wound.winding_capacitance_f))


def reading_like(coil: CoilOnRing, frequency_hz: float) -> float:
    """What a coil on air has to read to stand for one on a ring.

    Raises:
        OutOfDomainError: at or above the resonance of the one on the ring.
    """
    reads = coil.part(frequency_hz).reading_h(frequency_hz)
    if reads <= 0:
        raise OutOfDomainError("center_hz", f"{frequency_hz / 1e6:g} MHz", "below the coil's own resonance")
    return reads
