"""A trap of a design in a leg of wire: a coil and a capacitor, or coax that is both."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.conductor import WindingWire
from yielding_coil.core.errors import NotMatchableError
from yielding_coil.core.finding import Finding, WindingCode
from yielding_coil.core.line import Cable
from yielding_coil.core.parts import require_of_a_winding
from yielding_coil.core.reflection import reflection_of, return_loss_db, swr_of_impedance
from yielding_coil.core.solenoid import Solenoid
from yielding_coil.core.target import Target
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.trap import CoaxTrap, Trap, TrappedLeg, coax_turns_for, coil_for, housed_hz, leg_for
from yielding_coil.core.winding import choke
from yielding_coil.core.winding.air_coil import TAIL_M, AirCoil, coil_cut
from yielding_coil.core.winding.fit import coil_fit
from yielding_coil.core.winding.line_choke import SHIELD
from yielding_coil.core.winding.losses import BandLosses, ThermalBody, coil_body, temperature_rises
from yielding_coil.core.winding.report import (
    DRAWN_POINTS,
    BenchCurve,
    CoilView,
    Curve,
    MadeOf,
    School,
    TrapBand,
    TrapReport,
    TurnsReport,
    WindingReport,
    WindingTask,
    full_returns,
    seen,
)

# A link turn: its own inductance, and how closely it couples (from memory: a loose turn beside the coil).
LINK_H, LINK_COUPLING = 0.12e-6, 0.12
# The second school tunes a trap so far below its band (common practice: 2 to 5 % below its lower edge).
BELOW = 0.97
# Round a trap's resonance, what is drawn of it.
AROUND = 0.12
# How well the loss of a trap is known before anybody measured it, two standard deviations.
LOSS_SPREAD = 0.4


@dataclass(frozen=True, slots=True, kw_only=True)
class LegTrap:
    """A trap by what it is tuned to and how it is wound.

    Args:
        key: its name in the design.
        tuned_hz: in the band, or just below it.
        high_hz, low_hz: the middle of the band that stops there, and of the one that goes on through it.
        capacitance_f, capacitance_spread: of its capacitor.
        former_m, wire, pitch_m, coil_spread: of its coil; turns touching when the pitch is None.
        cable: wound of this coax instead; outer_m over its jacket.
        housing_f: what tube, glue and screws add across it.
        wire_radius_m: of the wire it hangs in.
        legs: 1 against ground, 2 for a dipole.
        measured: whether it is a trap in hand that was measured.
    """

    key: str
    tuned_hz: float
    high_hz: float
    low_hz: float
    wire: WindingWire
    capacitance_f: float = 30e-12
    capacitance_spread: float = 0.05
    former_m: float = 0.032
    pitch_m: float | None = None
    coil_spread: float = 0.04
    cable: Cable | None = None
    outer_m: float = 0.005
    housing_f: float = 1e-12
    wire_radius_m: float = 0.8e-3
    legs: Literal[1, 2] = 2
    measured: bool = False

    def __post_init__(self) -> None:
        require_of_a_winding("capacitance_f", self.capacitance_f)

    @property
    def coil(self) -> AirCoil:
        """Its coil as it reads at its frequency, its own capacitance counted."""
        return AirCoil(
            key=self.key,
            place="series",
            inductance_h=coil_for(self.capacitance_f, self.tuned_hz),
            former_m=self.former_m,
            wire=self.wire,
            pitch_m=self.pitch_m,
            spread=self.coil_spread,
        )

    @property
    def coax(self) -> CoaxTrap | None:
        """Wound of coax; None for a coil and a capacitor.

        Raises:
            NotMatchableError: no winding of it traps this frequency.
        """
        if self.cable is None:
            return None
        return coax_turns_for(self.tuned_hz, self.former_m, self.outer_m, SHIELD * self.outer_m, self.cable)

    @property
    def turns(self) -> float:
        """Turns as one winds them."""
        coax = self.coax
        return self.coil.turns(self.tuned_hz) if coax is None else coax.coil.turns

    def part(self) -> Trap:
        """The trap before it is housed, squeezed onto its frequency."""
        coax = self.coax
        if coax is not None:
            return coax.trap()
        wound = self.coil.part(self.tuned_hz)
        across = self.capacitance_f + float(np.asarray(wound.self_capacitance_f))
        return Trap(float(np.asarray(wound.inductance_h)), across, float(np.asarray(wound.q)))

    @property
    def own_f(self) -> float:
        """What stays across it without the capacitor: all of it where the coax is both."""
        across = float(np.asarray(self.part().capacitance_f))
        return across if self.cable is not None else across - self.capacitance_f

    def spreads(self) -> tuple[Spread, ...]:
        """How far builds stray before anybody squeezes a turn."""
        return (
            Spread(f"{self.key} coil", self.key, "inductance_h", self.coil_spread),
            Spread(f"{self.key} capacitor", self.key, "capacitance_f", self.capacitance_spread),
            Spread(f"{self.key} loss", self.key, "q", LOSS_SPREAD),
        )

    def leg(self) -> TrappedLeg:
        """The leg it makes on both bands.

        Raises:
            NotMatchableError: no length of wire makes both bands resonate with it.
        """
        return leg_for(self.part(), self.high_hz, self.low_hz, self.wire_radius_m, self.legs)

    def report(self, task: WindingTask) -> WindingReport:
        """Its values, the leg it makes, what it bears on both bands, and how to check it."""
        trap, leg, targets = self.part(), self.leg(), task.targets
        at = trap.resonance_hz
        f = np.linspace(at * (1 - AROUND), at * (1 + AROUND), DRAWN_POINTS)
        z = trap.impedance_ohm(f)
        low, high = peak_band(trap, f, math.hypot(self.coil_spread, self.capacitance_spread))
        made = _made(self)
        body = coil_body(made.coil)
        both = [_on_band(trap, leg, hz, targets, task, body) for hz in (self.high_hz, self.low_hz)]
        bands = tuple(band for band, _ in both)
        wide = np.geomspace(1e6, 60e6, 401)
        return WindingReport(
            kind="trap",
            key=self.key,
            made_of=MadeOf(made.name, made.metal_m, made.thick_m, self.coil_spread, measured=self.measured),
            turns=TurnsReport(self.turns, full_returns(self.turns)),
            cuts=(coil_cut(made.coil, TAIL_M),),
            fit=coil_fit(self.former_m + 2 * made.thick_m, made.coil.length_m, task.boxes),
            picture=CoilView(self.former_m, made.coil.length_m, made.coil.pitch_m, made.thick_m, made.coil.turns),
            seen=seen(f, z),
            bench=BenchCurve("resistance", f, z.real, low, high),
            heat=tuple(losses for _, losses in both),
            findings=tuple(trap_findings(max(b.voltage_v for b in bands), task.power_w, self.cable is not None)),
            trap=TrapReport(
                inductance_h=float(np.asarray(trap.inductance_h)),
                capacitance_f=float(np.asarray(trap.capacitance_f)),
                q=float(np.asarray(trap.q)),
                resonance_hz=at,
                housed_hz=housed_hz(at, float(np.asarray(trap.capacitance_f)), self.housing_f),
                inner_m=leg.inner_m,
                outer_m=leg.outer_m,
                coax_m=made.coax_m,
                bands=bands,
                schools=(
                    _school(self, "in the band", self.high_hz, task),
                    _school(self, "just below it", BELOW * self.high_hz, task),
                ),
                link=Curve(f, link_dip(trap, f)),
                resistance_ohm=Curve(f, z.real),
                reactance_ohm=Curve(f, z.imag),
                port_swr=float(np.nanmin(swr_of_impedance(trap.impedance_ohm(wide)))),
            ),
        )


class _Made(NamedTuple):
    """What a trap is wound of."""

    coil: Solenoid
    name: str
    metal_m: float
    thick_m: float
    coax_m: float | None


def _made(wound: LegTrap) -> _Made:
    coax = wound.coax
    if coax is None:
        wire = wound.wire
        return _Made(wound.coil.solenoid(wound.turns), wire.name, wire.diameter_m, wire.covered_m, None)
    return _Made(coax.coil, coax.cable.name, SHIELD * wound.outer_m, wound.outer_m, coax.length_m)


def _over(targets: Sequence[Target], hz: float) -> Real:
    """All over the band that a frequency is the middle of; that alone where it is of none."""
    found = next((t for t in targets if t.low_hz <= hz <= t.high_hz), None)
    return np.array([hz]) if found is None else np.linspace(found.low_hz, found.high_hz, choke.CHOKE_POINTS)


def _on_band(
    trap: Trap, leg: TrappedLeg, hz: float, targets: Sequence[Target], task: WindingTask, body: ThermalBody
) -> tuple[TrapBand, BandLosses]:
    """The middle of a band says what a trap acts as there; its worst end what it bears."""
    label = min(targets, key=lambda t: abs(math.log(t.center_hz / hz))).label
    borne, ohm = leg.borne(_over(targets, hz), task.power_w), complex(trap.impedance_ohm(hz))
    watts, volts = float(borne.trap_w.max()), float(borne.voltage_v.max())
    amperes = float(borne.current_a.max())
    share = float(borne.all_traps_w.max()) / task.power_w if task.power_w else 0.0
    band = TrapBand(label, hz, trap.acts_as_h(hz), ohm.imag, ohm.real, watts, share, volts, amperes)
    return band, BandLosses(
        label=label,
        at_hz=hz,
        core_w=0.0,
        copper_w=watts,
        loss_db=-10 * math.log10(max(1 - share, 1e-6)),
        swr_limit=2.0,
        voltage_v=volts,
        current_a=amperes,
        rises=temperature_rises(watts, task.power_w, body, task.duties),
    )


def _school(
    element: LegTrap, name: Literal["in the band", "just below it"], tuned_hz: float, task: WindingTask
) -> School:
    """The same trap tuned elsewhere; its leg is another one then."""
    try:
        leg = replace(element, tuned_hz=tuned_hz).leg()
    except NotMatchableError:
        return School(name, tuned_hz)
    upper, lower = (leg.borne(_over(task.targets, hz), task.power_w) for hz in (element.high_hz, element.low_hz))
    return School(
        name,
        tuned_hz,
        leg.inner_m,
        leg.outer_m,
        float(upper.trap_w.max()),
        float(max(upper.voltage_v.max(), lower.voltage_v.max())),
        float(lower.all_traps_w.max() / task.power_w) if task.power_w else None,
    )


def link_dip(trap: Trap, frequency_hz: Real) -> Real:
    """Return loss in dB through a turn held beside the trap's coil: it dips where the trap resonates.

    Source:
        Two coupled coils, Z = jωL1 + (ωM)²/Z2 (any text on coupled circuits), M² = k²·L1·L2.
    """
    omega = 2 * np.pi * frequency_hz
    mutual2 = LINK_COUPLING**2 * LINK_H * float(np.asarray(trap.inductance_h))
    arm = 1j * omega * trap.inductance_h * (1 - 1j / trap.q)
    around = arm + 1 / (1j * omega * trap.capacitance_f)
    seen_ohm = np.asarray(1j * omega * LINK_H + omega**2 * mutual2 / around, dtype=complex)
    return return_loss_db(reflection_of(seen_ohm))


def peak_band(trap: Trap, frequency_hz: Real, spread: float) -> tuple[Real, Real]:
    """Between which resistances nineteen builds in twenty lie before a turn is squeezed: its peak moved about.

    Args:
        frequency_hz: shape (n,).
        spread: of coil and capacitor together, two standard deviations; the resonance strays by half of it.
    """
    moved = 0.5 * spread
    every = np.stack([trap.impedance_ohm(frequency_hz * (1 + moved * k)).real for k in np.linspace(-1, 1, 161)])
    return every.min(axis=0), every.max(axis=0)


def trap_findings(voltage_v: float, power_w: float, of_coax: bool) -> list[Finding[WindingCode]]:
    """The volts across a trap, and on what its figures rest."""
    found: list[Finding[WindingCode]] = [
        Finding("no_power")
        if power_w == 0
        else Finding("winding_voltage", {"voltage_v": voltage_v, "power_w": power_w}),
        Finding("line_estimate"),
    ]
    if of_coax:
        found += [Finding("coax_trap_loss"), Finding("coax_voltage", {"voltage_v": voltage_v / 2})]
    return found
