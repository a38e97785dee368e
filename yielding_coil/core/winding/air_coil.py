"""An air coil of a design: wound for what an analyser shall read of it, on a former, with a wire."""

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import ClassVar, Literal

import numpy as np

from yielding_coil.core.arrays import Real
from yielding_coil.core.conductor import WindingWire
from yielding_coil.core.element import AtWork, Part, Tick, resonance_findings
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.finding import DesignCode, Finding, WindingCode
from yielding_coil.core.parts import Inductor, bare_inductance_h
from yielding_coil.core.solenoid import Solenoid, turns_for
from yielding_coil.core.system import Station
from yielding_coil.core.tolerance import Spread
from yielding_coil.core.winding.findings import heat_findings
from yielding_coil.core.winding.fit import coil_fit
from yielding_coil.core.winding.losses import SplitLoss, ThermalBody, band_losses, coil_body
from yielding_coil.core.winding.report import (
    AdjustmentRange,
    BenchCurve,
    CoilView,
    MadeOf,
    TurnsReport,
    WindingReport,
    WindingTask,
    WireToCut,
    full_returns,
    seen,
)

# Coil ends need something to solder; wire that is wound never lies quite tight (common practice).
TAIL_M, SLACK = 0.10, 1.02
# Turns that a ruler shows at the most.
MOST_ON_RULER = 200


@dataclass(frozen=True, slots=True)
class CoilToMake:
    """How to wind a coil. Lengths in metres; the reading is at the design's centre frequency.

    `cut_m` is the wire to cut: one turn more than planned, which is taken off again, both tails, and some slack.
    """

    key: str
    turns: float
    turns_exact: float
    former_m: float
    wire_name: str
    touching: bool
    pitch_m: float
    winding_m: float
    wire_m: float
    tail_m: float
    cut_m: float
    bare_h: float
    inductance_h: float
    reads_at_hz: float
    q: float
    self_resonance_hz: float
    peak_voltage_v: float
    peak_current_a: float
    kind: Literal["coil"] = "coil"


def coil_cut(coil: Solenoid, tail_m: float, *, spare_turns: int = 0, wire: str = "long") -> WireToCut:
    """What to cut for a coil on a former, in whole millimetres.

    Args:
        tail_m: that is left at each end.
        spare_turns: wound on top of what is planned, to be taken off again.
    """
    winding = coil.wire_length_m
    turn = winding / coil.turns
    cut = math.ceil((SLACK * (winding + spare_turns * turn) + 2 * tail_m) * 1e3 - 1e-9) / 1e3
    return WireToCut(wire, cut, winding, turn, 2 * tail_m, spare_turns)


@dataclass(frozen=True, slots=True, kw_only=True)
class AirCoil:
    """A coil wound for an inductance, on a former, with a wire.

    Args:
        key: its name in the design.
        inductance_h: what an analyser reads at the design's centre frequency, own capacitance included.
        former_m: diameter of the former.
        pitch_m: from turn to turn; touching when None.
        tap_turns: from the radio's end to a tap; None without one.
        spread: of the reading from build to build, two standard deviations, relative.
        measured: whether it is a coil in hand that was measured.
    """

    key: str
    place: Literal["series", "shunt"]
    inductance_h: float
    former_m: float
    wire: WindingWire
    pitch_m: float | None = None
    tap_turns: float | None = None
    spread: float = 0.04
    measured: bool = False

    by_hand: ClassVar[bool] = True
    trimmed_in_place: ClassVar[bool] = True

    @property
    def diameter_m(self) -> float:
        """To the wire's centre."""
        return self.former_m + self.wire.covered_m

    @property
    def wound_pitch_m(self) -> float:
        """From turn to turn, as wound.

        Raises:
            OutOfDomainError: closer than the wire is thick.
        """
        covered = self.wire.covered_m
        if self.pitch_m is None:
            return covered
        if self.pitch_m < covered:
            raise OutOfDomainError(
                "pitch_m",
                f"{self.pitch_m * 1e3:.3g} mm",
                f"at least the wire over its covering, {covered * 1e3:.3g} mm: "
                "take a thinner wire or a wider pitch",
            )
        return self.pitch_m

    def solenoid(self, turns: float) -> Solenoid:
        """The coil with that many turns on its former.

        Raises:
            OutOfDomainError: turns closer than the wire is thick, or too few or many of them.
        """
        wire = self.wire
        return Solenoid(
            self.diameter_m,
            self.wound_pitch_m,
            turns,
            wire.diameter_m,
            wire.resistivity_ohm_m,
            wire.permeability,
        )

    def exact_turns(self, frequency_hz: float) -> float:
        """The fraction of turns that reads the inductance."""
        return _exact_turns(
            self.inductance_h, self.diameter_m, self.wound_pitch_m, self.wire.diameter_m, frequency_hz
        )

    def turns(self, frequency_hz: float) -> float:
        """Turns as one winds them, in halves."""
        return max(1.0, round(2 * self.exact_turns(frequency_hz)) / 2)

    def wound(self, frequency_hz: float) -> Solenoid:
        """The coil with the fraction of turns that reads the inductance.

        Raises:
            OutOfDomainError: near its self-resonance, or with a tap beyond its end.
        """
        wound = self.solenoid(self.exact_turns(frequency_hz))
        wound.apparent_inductance_h(frequency_hz)  # refuses above 0.9 of self-resonance, saying how near
        if self.tap_turns is not None and self.tap_turns >= wound.turns:
            raise OutOfDomainError(
                "tap_turns",
                f"{self.tap_turns:g}",
                f"less than the {wound.turns:.1f} turns of the whole coil: the tap lies inside it",
            )
        return wound

    def part(self, center_hz: float) -> Inductor:
        """The coil as an analyser finds it, its loss and own capacitance from how it is wound."""
        wound = self.wound(center_hz)
        bare_h = bare_inductance_h(self.inductance_h, center_hz, wound.self_capacitance_f)
        return Inductor(
            bare_h,
            2 * math.pi * center_hz * bare_h / float(wound.resistance_ohm(center_hz)),
            center_hz,
            wound.self_capacitance_f,
        )

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far the reading strays from build to build: its own capacitance multiplies that of the turns."""
        bare = float(np.asarray(self.part(center_hz).inductance_h))
        return (Spread(self.key, self.key, "inductance_h", self.spread * bare / self.inductance_h),)

    def cut(self, center_hz: float) -> WireToCut:
        """The wire to cut: one turn more than planned, because wire comes off more easily than on."""
        return coil_cut(self.solenoid(self.turns(center_hz)), TAIL_M, spare_turns=1)

    def mark(self, center_hz: float, make: float) -> Tick:
        """What so many turns read at the centre.

        Raises:
            OutOfDomainError: above 0.9 of their self-resonance.
        """
        coil = self.solenoid(make)
        coil.apparent_inductance_h(center_hz)  # refuses there, saying how near
        return Tick(make, coil.reading_h(center_hz))

    def ruler(self, center_hz: float, low: float, high: float) -> list[Tick]:
        """Marks for half turns between two inductances."""
        first, last = (
            replace(self, inductance_h=min(max(henry, 1e-12), 1e3)).turns(center_hz) for henry in (low, high)
        )
        turns = np.arange(first, min(last, first + MOST_ON_RULER) + 0.1, 0.5).tolist()
        return [Tick(n, self.solenoid(n).reading_h(center_hz)) for n in turns]

    def to_make(self, at: AtWork) -> CoilToMake:
        """How to wind it."""
        center = at.center_hz
        turns, part = self.turns(center), at.part
        assert isinstance(part, Inductor)
        wound = self.solenoid(turns)
        return CoilToMake(
            key=self.key,
            turns=turns,
            turns_exact=self.exact_turns(center),
            former_m=self.former_m,
            wire_name=self.wire.name,
            touching=self.pitch_m is None,
            pitch_m=wound.pitch_m,
            winding_m=wound.length_m,
            wire_m=wound.wire_length_m,
            tail_m=TAIL_M,
            cut_m=self.cut(center).cut_m,
            bare_h=float(np.asarray(part.inductance_h)),
            inductance_h=self.inductance_h,
            reads_at_hz=center,
            q=float(np.asarray(part.q)),
            self_resonance_hz=wound.self_resonance_hz,
            peak_voltage_v=at.peak_voltage_v,
            peak_current_a=at.peak_current_a,
        )

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """How near it is to its own resonance."""
        own_hz = self.solenoid(self.turns(at.center_hz)).self_resonance_hz
        return [*resonance_findings(self.key, own_hz, at.targets)]

    def body(self, center_hz: float) -> ThermalBody:
        """What gives its heat off."""
        return coil_body(self.solenoid(self.turns(center_hz)))

    def split_loss(self, part: Part, frequency_hz: Real, above: Station, station: Station) -> SplitLoss:
        """All of it in the copper."""
        return SplitLoss(np.zeros(frequency_hz.shape), station.loss_w, station.peak_voltage_v)

    def flux_t(self, part: Part, frequency_hz: float, core_v: float) -> None:
        """It has no core."""
        return

    def report(self, task: WindingTask) -> WindingReport:
        """Everything about it.

        Raises:
            NotFoundError: the task's system does not hold it.
        """
        assert task.system is not None
        center, f = task.center_hz, task.frequency_hz
        wound = self.solenoid(self.turns(center))
        losses = band_losses(self, task.system, task.targets, task.power_w, task.duties, center)
        # As an analyser reads it: close turns crowd the current inwards.
        omega = 2 * np.pi * f
        arm = wound.resistance_ohm(f) + 1j * omega * wound.crowded_inductance_h
        z = arm / (1 + 1j * omega * wound.self_capacitance_f * arm)
        henry = z.imag / omega
        findings: list[Finding[WindingCode]] = heat_findings(losses, task.power_w)
        findings += resonance_findings(self.key, wound.self_resonance_hz, task.targets)
        wire = self.wire
        return WindingReport(
            kind="coil",
            key=self.key,
            made_of=MadeOf(wire.name, wire.diameter_m, wire.covered_m, self.spread, measured=self.measured),
            turns=TurnsReport(wound.turns, full_returns(wound.turns), tap_after=self.tap_turns),
            cuts=(self.cut(center),),
            fit=coil_fit(self.former_m + 2 * wire.covered_m, wound.length_m, task.boxes),
            picture=CoilView(
                self.former_m, wound.length_m, wound.pitch_m, wire.covered_m, wound.turns, self.tap_turns
            ),
            seen=seen(f, z),
            bench=BenchCurve("inductance", f, henry, henry * (1 - self.spread), henry * (1 + self.spread)),
            heat=losses,
            stretch=adjustment_range(wound, wire.covered_m, center),
            findings=tuple(findings),
        )


def adjustment_range(wound: Solenoid, covered_m: float, center_hz: float) -> AdjustmentRange:
    """From turns touching to twice their present pitch: what an analyser reads at the centre."""
    close, wide = (replace(wound, pitch_m=p) for p in (covered_m, max(2 * wound.pitch_m, 2 * covered_m)))
    return AdjustmentRange(wide.reading_h(center_hz), close.reading_h(center_hz), wide.pitch_m, close.pitch_m)


@lru_cache(maxsize=4096)
def _exact_turns(
    inductance_h: float, diameter_m: float, pitch_m: float, wire_diameter_m: float, frequency_hz: float
) -> float:
    return turns_for(inductance_h, diameter_m, pitch_m, wire_diameter_m, 0, frequency_hz)
