"""A design: an antenna, the bands it shall hold, what hangs below it, and what is wound beside."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from yielding_coil.core.element import AtWork, DesignElement, Tick
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.finding import DesignCode, Finding
from yielding_coil.core.line import CableRow, Line, OpenCoax, open_coax_for
from yielding_coil.core.modelled_antenna import ModelledAntenna
from yielding_coil.core.parts import Capacitor, FixedLoad
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna, Element, System
from yielding_coil.core.target import POINTS, Target
from yielding_coil.core.tolerance import ANTENNA, Spread
from yielding_coil.core.tuner import BYPASSED, Tuner, TunerNetwork, TunerSetting, least_loss, nearest
from yielding_coil.core.winding import AirCoil, AnyWinding, Box, LegTrap, LineChoke, WindingTask, WoundTransformer

# What the analyser's doubt is called among the contributors.
ANALYSER = "reading"
# Coax capacitors are cut longer and trimmed.
TRIM_ALLOWANCE_M = 0.006
# Steps of a ruler of coax, and how many marks it holds at the most.
COAX_STEPS_M, MOST_MARKS, WIDEST_STEP_M = (0.001, 0.005, 0.01, 0.02, 0.05, 0.1), 14, 0.2
LEAST_COAX_F = 0.3e-12
# A load with less X than this share of its R is a resistor.
REACTIVE = 0.02
# A tuner that brings the middle of a band below this matches it.
REACHED = 1.01
# What a short wire shows at its base with few radials (common practice).
USUAL_LOADED_OHM = 25.0


@dataclass(frozen=True, slots=True)
class CapacitorToMake:
    """How to make a capacitor of coax, or which one to buy.

    `stands_v` is what the one in hand stands; None where none is taken from the drawer.
    """

    kind: Literal["coax_capacitor", "capacitor"]
    key: str
    capacitance_f: float
    peak_voltage_v: float
    peak_current_a: float
    stands_v: float | None = None
    coax_m: float | None = None
    cut_m: float | None = None
    cable_name: str | None = None


@dataclass(frozen=True, slots=True)
class LineToMake:
    """The feedline: its loss with this load, and matched."""

    key: str
    cable_name: str
    length_m: float
    loss_db: float | None
    matched_loss_db: float
    kind: Literal["line"] = "line"


def law_findings(key: str, cable: CableRow, frequency_hz: float) -> list[Finding[DesignCode]]:
    """A cable that is used below where its loss follows its law."""
    if not cable.lowest_hz or frequency_hz >= cable.lowest_hz:
        return []
    return [Finding("cable_off_its_law", {"key": key, "below_hz": cable.lowest_hz})]


@dataclass(frozen=True, slots=True, kw_only=True)
class CoaxCapacitor:
    """A capacitor made of a length of coax, open at its far end.

    Args:
        key: its name in the design.
        spread: of the cable's capacitance; end_spread_f of the cut end's; two standard deviations.
    """

    key: str
    place: Literal["series", "shunt"]
    capacitance_f: float
    cable: CableRow
    spread: float = 0.04
    end_spread_f: float = 0.2e-12
    stands_v: float | None = None

    by_hand: ClassVar[bool] = True
    trimmed_in_place: ClassVar[bool] = True

    def part(self, center_hz: float) -> OpenCoax:
        """The length that acts as this capacitor at the centre."""
        return open_coax_for(self.capacitance_f, self.cable.cable, center_hz)

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far builds of it stray: the cable's capacitance, and the cut end's."""
        return (
            Spread(self.key, self.key, "capacity_factor", self.spread),
            Spread(self.key, self.key, "end_f", 0.0, self.end_spread_f),
        )

    def mark(self, center_hz: float, make: float) -> Tick:
        """What so many metres of it give at the centre.

        Raises:
            OutOfDomainError: a quarter-wave or longer.
        """
        value = OpenCoax(self.cable.cable, make).capacitance_f(center_hz)
        if value <= 0:
            raise OutOfDomainError(
                "make", f"{make:g} m", "shorter than a quarter-wave: a longer stub is no capacitor"
            )
        return Tick(make, value)

    def ruler(self, center_hz: float, low: float, high: float) -> list[Tick]:
        """Marks for every half centimetre of coax, or wider, between two capacitances."""
        first, last = (
            replace(self, capacitance_f=farad).part(center_hz).length_m for farad in (max(low, LEAST_COAX_F), high)
        )
        step = next((s for s in COAX_STEPS_M if (last - first) / s <= MOST_MARKS), WIDEST_STEP_M)
        lengths = (np.arange(math.ceil(first / step), last / step + 1e-9) * step).tolist()
        cable = self.cable.cable
        return [Tick(m, OpenCoax(cable, m).capacitance_f(center_hz)) for m in lengths if m > 0]

    def to_make(self, at: AtWork) -> CapacitorToMake:
        """How long to cut the coax."""
        stub = at.part
        assert isinstance(stub, OpenCoax)
        return CapacitorToMake(
            "coax_capacitor",
            self.key,
            self.capacitance_f,
            at.peak_voltage_v,
            at.peak_current_a,
            self.stands_v,
            stub.length_m,
            stub.length_m + TRIM_ALLOWANCE_M,
            stub.cable.name,
        )

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """Where its cable leaves its law."""
        return law_findings(self.key, self.cable, at.center_hz)


@dataclass(frozen=True, slots=True, kw_only=True)
class FixedCapacitor:
    """A bought capacitor: mica, ceramic; `stands_v` of the one in hand.

    Args:
        halves: name and farads of the two that make it, `joined` so; none where it is one.
    """

    key: str
    place: Literal["series", "shunt"]
    capacitance_f: float
    q: float = 1000.0
    spread: float = 0.05
    stands_v: float | None = None
    halves: tuple[tuple[str, float], ...] = ()
    joined: Literal["series", "parallel"] | None = None

    by_hand: ClassVar[bool] = True
    trimmed_in_place: ClassVar[bool] = True

    def part(self, center_hz: float) -> Capacitor:
        """The capacitor by its values."""
        return Capacitor(self.capacitance_f, self.q)

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far bought ones stray."""
        return (Spread(self.key, self.key, "capacitance_f", self.spread),)

    def ruler(self, center_hz: float, low: float, high: float) -> list[Tick]:
        """It is bought as it is: nothing to count."""
        return []

    def to_make(self, at: AtWork) -> CapacitorToMake:
        """Which one to buy."""
        return CapacitorToMake(
            "capacitor", self.key, self.capacitance_f, at.peak_voltage_v, at.peak_current_a, self.stands_v
        )

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """Whether the one in hand stands the volts across it."""
        volts = at.peak_voltage_v
        if not self.stands_v or volts <= self.stands_v:
            return []
        return [Finding("capacitor_too_low", {"key": self.key, "voltage_v": volts, "stands_v": self.stands_v})]


@dataclass(frozen=True, slots=True, kw_only=True)
class Feedline:
    """A length of cable between the match and the radio."""

    key: str
    cable: CableRow
    length_m: float
    place: Literal["through"] = "through"

    by_hand: ClassVar[bool] = False
    trimmed_in_place: ClassVar[bool] = False

    @property
    def spread(self) -> float:
        """Of its loss."""
        return self.cable.loss_tolerance

    def part(self, center_hz: float) -> Line:
        """The line by its cable and length."""
        return Line(self.cable.cable, self.length_m)

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """How far the cable strays from its table, for what is judged below it."""
        return (
            Spread(f"{self.key} loss", self.key, "loss_sqrt", self.cable.loss_tolerance),
            Spread(f"{self.key} velocity", self.key, "velocity_factor", self.cable.velocity_tolerance),
        )

    def to_make(self, at: AtWork) -> LineToMake:
        """Its loss in the middle of the first target, and matched at the centre."""
        line, middle = at.part, at.middle
        assert isinstance(line, Line)
        load = complex(at.above.impedance_ohm[middle])
        loss = float(line.loss_db(at.frequency_hz[middle], load)) if load.real > 0 else None
        matched = float(line.matched_loss_db(at.center_hz))
        return LineToMake(self.key, line.cable.name, self.length_m, loss, matched)

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """Where its cable leaves its law."""
        return law_findings(self.key, self.cable, at.center_hz)


@dataclass(frozen=True, slots=True)
class TunerToSet:
    """A tuner at the radio: how it is set on every target, and what its parts bear at the worst.

    Args:
        settings: one for each target, as `values` of a setting has them.
        reached: whether each matches; else it is the nearest that the tuner can.
    """

    key: str
    settings: tuple[TunerSetting, ...]
    reached: tuple[bool, ...]
    peak_voltage_v: float
    peak_current_a: float
    stands_v: float | None
    kind: Literal["tuner"] = "tuner"


@dataclass(frozen=True, slots=True, kw_only=True)
class RadioTuner:
    """A tuner at the radio, set to the match with the least loss on every target."""

    key: str
    tuner: Tuner
    place: Literal["through"] = "through"

    by_hand: ClassVar[bool] = False
    trimmed_in_place: ClassVar[bool] = False
    spread: ClassVar[float] = 0.0

    def part(self, center_hz: float) -> TunerNetwork:
        """Switched out, until it is known what hangs on it."""
        return TunerNetwork(self.tuner, (center_hz,), (BYPASSED,))

    def tuned(self, above: Antenna, targets: Sequence[Target]) -> TunerNetwork:
        """Set for what hangs on it, in the middle of each target; switched out where that takes no power.

        Where nothing matches it stands as near as it can.

        Raises:
            OutOfDomainError: a target lies outside what is known of the antenna.
        """
        f = np.array([t.center_hz for t in targets])
        load = np.asarray(above.impedance_at(f), dtype=complex)
        takes = (load.real > 0) & np.isfinite(load)
        found: list[TunerSetting] = [BYPASSED] * f.size
        for k, setting in zip(np.flatnonzero(takes), least_loss(self.tuner, f[takes], load[takes]), strict=True):
            found[k] = setting or nearest(self.tuner, f[k], load[k])[0]
        return TunerNetwork(self.tuner, tuple(f.tolist()), tuple(found))

    def spreads(self, center_hz: float) -> tuple[Spread, ...]:
        """None: it is set by what is read, not by its dials."""
        return ()

    def to_make(self, at: AtWork) -> TunerToSet:
        """How to set it."""
        network = at.part
        assert isinstance(network, TunerNetwork)
        middle = at.station.swr.reshape(-1, POINTS)[:, at.middle]
        return TunerToSet(
            self.key,
            network.settings,
            tuple(bool(swr < REACHED) for swr in middle),
            at.peak_voltage_v,
            at.peak_current_a,
            self.tuner.stands_v,
        )

    def findings(self, at: AtWork) -> list[Finding[DesignCode]]:
        """What it cannot match, and whether its capacitors stand what lies across its parts."""
        found: list[Finding[DesignCode]] = []
        swr = at.station.swr.reshape(-1, POINTS)[:, at.middle]
        for target, reads in zip(at.targets, swr, strict=True):
            if not reads < REACHED:
                found.append(Finding("tuner_cannot", {"key": self.key, "label": target.label, "swr": float(reads)}))
        volts, stands = at.peak_voltage_v, self.tuner.stands_v
        if stands and volts > stands:
            found.append(Finding("tuner_voltage", {"key": self.key, "voltage_v": volts, "stands_v": stands}))
        return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """Everything a design is.

    Args:
        antenna: what it hangs below.
        targets: at least one; values of parts are meant in the middle of the first.
        elements: the cascade, from the antenna down.
        beside: wound for the same antenna system, and standing beside the cascade.
        seed: of its builds' dice, so that a drag compares like with like.
        reading_spread: of the sweep it rests on, two standard deviations of Γ, relative.
    """

    antenna: Antenna
    targets: tuple[Target, ...]
    elements: tuple[DesignElement, ...]
    beside: tuple[LineChoke | LegTrap | AirCoil, ...] = ()
    seed: int = 1
    reading_spread: float = 0.02

    @property
    def center_hz(self) -> float:
        """Where values of parts are meant: the middle of the first target."""
        return self.targets[0].center_hz

    def system(self) -> System:
        """The cascade below the antenna; what is variable in it is turned to its best on every band.

        Raises:
            OutOfDomainError: two things share a key, a part cannot be made, or something stands below a tuner.
        """
        keys = [e.key for e in (*self.elements, *self.beside)]
        if len(set(keys)) != len(keys):
            raise OutOfDomainError("elements", f"with the keys {', '.join(keys)}", "a key of its own each")
        center = self.center_hz
        system = System(self.antenna, [Element(e.key, e.place, e.part(center), e.by_hand) for e in self.elements])
        for k, each in enumerate(self.elements):
            if isinstance(each, RadioTuner):
                if k + 1 < len(self.elements):
                    raise OutOfDomainError(
                        "elements", f"{keys[k + 1]} below {each.key}", "a tuner next to the radio"
                    )
                system = system.with_part(each.key, each.tuned(system.above(each.key), self.targets))
                continue
            turned = each.with_knob(system, self.targets, center) if isinstance(each, WoundTransformer) else None
            if turned is not None:
                system = system.with_part(each.key, turned)
        return system

    def part_spreads(self) -> list[Spread]:
        """Spreads of the parts above the line: those that the SWR at the box depends on."""
        return [s for e in self.elements if e.by_hand for s in e.spreads(self.center_hz)]

    def build_spreads(self) -> list[Spread]:
        """What strays from build to build: the parts, and of a modelled wire its length, height and soil."""
        modelled = self.antenna.spreads() if isinstance(self.antenna, ModelledAntenna) else ()
        return [*self.part_spreads(), *modelled]

    def antenna_spreads(self) -> tuple[Spread, ...]:
        """The antenna's doubt: what its model leaves open, or the analyser's, as kept with the sweep if it is."""
        if isinstance(self.antenna, ModelledAntenna):
            return self.antenna.spreads()
        if isinstance(self.antenna, Sweep) and self.antenna.doubt is not None:
            return tuple(Spread(ANALYSER, ANTENNA, which, absolute=2.0) for which in ("first", "second"))
        return (Spread(ANALYSER, ANTENNA, "reflection", self.reading_spread),)

    def rng(self) -> np.random.Generator:
        """The design's own dice: the same at every call."""
        return np.random.default_rng(self.seed)

    @property
    def on_resistor(self) -> bool:
        """Whether a resistor stands in place of an antenna."""
        return isinstance(self.antenna, FixedLoad)

    @property
    def radio_tuner(self) -> RadioTuner | None:
        """The tuner at the radio; None without one."""
        return next((e for e in self.elements if isinstance(e, RadioTuner)), None)

    @property
    def feedline(self) -> Feedline | None:
        """The first length of cable in the cascade."""
        return next((e for e in self.elements if isinstance(e, Feedline)), None)

    def wound(self, key: str) -> AnyWinding:
        """The wound thing under a key.

        Raises:
            NotFoundError: nothing is wound under it.
        """
        some = [e for e in (*self.elements, *self.beside) if isinstance(e, AnyWinding)]
        found = next((e for e in some if e.key == key), None)
        if found is None:
            raise nothing_wound(key, [e.key for e in some])
        return found

    def carried_ohm(self, key: str) -> float | None:
        """The resistor that a wound thing carries in this design, nothing between: the one for its bench.

        Returns:
            None where it hangs on a wire, on anything else, or below another element.
        """
        load = self.antenna
        if not self.elements or self.elements[0].key != key or not isinstance(load, FixedLoad):
            return None
        ohm = complex(np.asarray(load.load_ohm).reshape(-1)[0])
        return ohm.real if ohm.real > 0 and abs(ohm.imag) < REACTIVE * ohm.real else None

    def system_of(self, key: str) -> System:
        """The cascade that a wound thing stands in; of a coil that loads the wire, one that drives its current."""
        coil = next((e for e in self.beside if e.key == key and isinstance(e, AirCoil)), None)
        if coil is None:
            return self.system()
        part = coil.part(self.center_hz)
        own_ohm = float(part.impedance_ohm(np.array([self.center_hz]))[0].real)
        amperes = self._coil_current_a()
        # What drives so much through it at a watt: without a modelled wire, what a short wire of 25 Ω does.
        whole_ohm = 2 / amperes**2 if amperes else USUAL_LOADED_OHM
        return System(FixedLoad(complex(max(whole_ohm - own_ohm, 0.0))), [Element(coil.key, "series", part)])

    def _coil_current_a(self) -> float | None:
        """Peak current through a modelled wire's coil for a watt at its feedpoint; None where there is none."""
        if not isinstance(self.antenna, ModelledAntenna):
            return None
        hung = self.antenna.hung
        structure = hung.structure()
        coils = structure.loads[hung.earths :]
        if not coils:
            return None
        solved = structure.solve(self.center_hz, 1.0)
        lost, ohm = solved.load_w[hung.earths], coils[0].part.impedance_ohm(np.array([self.center_hz]))[0].real
        return float(np.sqrt(2 * lost / ohm))

    def winding_task(
        self,
        power_w: float,
        duties: Mapping[str, float],
        *,
        key: str | None = None,
        low_hz: float = 1.8e6,
        high_hz: float = 30e6,
        resistor_ohm: float | None = None,
        boxes: Sequence[Box] = (),
    ) -> WindingTask:
        """What its wound things are reported for: arguments as `WindingTask` has them.

        Args:
            key: of the one that is reported, where it may be a coil that loads the wire.
        """
        return WindingTask(
            targets=self.targets,
            power_w=power_w,
            duties=duties,
            system=self.system() if key is None else self.system_of(key),
            low_hz=low_hz,
            high_hz=high_hz,
            seed=self.seed,
            resistor_ohm=resistor_ohm,
            boxes=boxes,
        )


def nothing_wound(key: str, wound: list[str]) -> NotFoundError:
    """The refusal of a key under which nothing is wound."""
    return NotFoundError(
        f"nothing in this design is wound under “{key}”",
        field="key",
        came_in=key,
        accepted=", ".join(wound) or "none here: add a coil, an unun or a balun first",
    )
