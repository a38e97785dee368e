"""Every element of an installation with its usual faults, and what the whole then shows at any plane."""

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis.faults import (
    FAULTS,
    NO_PATH_OHM,
    OPEN_OHM,
    Direct,
    Fault,
    FaultCode,
    Placed,
    scaled,
    scaled_port,
)
from yielding_coil.core.diagnosis.installation import Installation, Slot, SlotKind
from yielding_coil.core.diagnosis.ports import (
    BREAK_F,
    FALLEN,
    TOUCHED_M,
    Port,
    PortedWires,
    fallen,
    touching,
    without_q,
)
from yielding_coil.core.line import Line
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.system import Element, System
from yielding_coil.core.tolerance import ReadOnce
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.wire import KEPT_OHM

Closed = Literal["antenna", "open", "short", "load"]
# What a dummy load is, and what ends of a line are that are open or shorted by hand.
LOAD_OHM, OPENED_OHM, SHORTED_OHM = 50.0, 1e5, 0.05
# Nuisances, in the order of `Doubts`.
STRETCH, RESISTANCE, LENGTH, LOSS, CORE, PARTS, LINE_OHM = range(7)
NUISANCES = 7
# Wires that broke are known worse: what is left hangs anyhow.
ANYHOW = 0.03
# How much longer all of it may look in another season, relative.
SEASONS = tuple(np.linspace(-0.014, 0.014, 9).tolist())
# How often, over one plug gone bad (common practice).
BROKEN, FEED_JOINT, DOWN, END_DOWN, TOUCHES = 1.0, 0.8, 0.4, 0.4, 0.4
TRAP_OPEN, TRAP_SHORTED, TRAP_OFF, TRAP_WET, TRAP_JOINT = 0.5, 0.4, 0.5, 0.5, 0.4
COIL_OPEN, COIL_TURNS, COIL_WET, RADIALS = 0.5, 0.5, 0.3, 0.9
JOINT_OHM = tuple(np.geomspace(3.0, 150.0, 19).tolist())
RADIALS_OHM = tuple(np.geomspace(10.0, 700.0, 21).tolist())
DETUNED = (*np.linspace(0.76, 0.97, 15).tolist(), 1.04, 1.08, 1.13)
TURNS_LEFT, WET_TRAP, WET_Q = tuple(np.linspace(0.52, 0.94, 12).tolist()), (0.98, 0.955, 0.93), (9.0, 18.0, 35.0)
FEED = "feed"


class View(NamedTuple):
    """What is swept: from which slot on down to which, and what closes the upper end.

    Args:
        top, bottom: slots from top on, bottom not among them.
        closed: by the antenna, or by hand; a load of `load_ohm`.
    """

    top: int
    bottom: int
    closed: Closed = "antenna"
    load_ohm: float = LOAD_OHM


Knowledge = Literal[0, 1, 2]
WELL: Knowledge = 0
FAIRLY: Knowledge = 1
ROUGHLY: Knowledge = 2


@dataclass(frozen=True, eq=False)
class AntennaState:
    """The antenna in one state: what it shows as built, and how that goes with its length.

    Args:
        theta: what tells it from others of the same fault.
        direct: what an ohmmeter meets at its feed.
        known: well, as what was measured; fairly, as a part in wires that hang as they did; roughly, as wires that
            hang anyhow.
        shift: by how much longer all of it looks than as built, relative.
    """

    wires: PortedWires
    port_ohm: Complex
    series_ohm: float = 0.0
    theta: float = 0.0
    direct: Direct | None = None
    known: Knowledge = WELL
    shift: float = 0.0

    def reflections(self, f: Real, stretch: float, earth_ohm: float) -> tuple[Complex, Complex]:
        """Γ at 200 Ω, and its change by the stretch; shape (n,) each."""
        step = 5e-4
        beside = earth_ohm + self.series_ohm
        gamma, moved = (
            reflection_of(self.wires.impedance(f, self.port_ohm, stretch + self.shift + by) + beside, KEPT_OHM)
            for by in (0.0, step)
        )
        return gamma, (moved - gamma) / step


@dataclass(frozen=True, eq=False)
class Suspect:
    """One element with one fault.

    Args:
        key: of the element.
        code: of the fault.
        weight: how often, over one plug gone bad.
        thetas: rows to try, (rows, numbers); of an antenna's, the row of its state.
        steps: half the way between rows.
        slot, fault: where it stands between antenna and radio; None of the antenna.
        states: of the antenna, as many as rows.
    """

    key: str
    code: FaultCode
    weight: float
    thetas: Real
    steps: Real
    slot: Slot | None = None
    fault: Fault | None = None
    states: tuple[AntennaState, ...] = ()

    @property
    def name(self) -> tuple[str, FaultCode]:
        """What tells it from all others."""
        return self.key, self.code

    @property
    def known(self) -> Knowledge:
        """How well what it shows is known."""
        return max((state.known for state in self.states), default=WELL)

    @property
    def in_antenna(self) -> bool:
        """Whether it is the antenna's own."""
        return bool(self.states)


@dataclass(frozen=True, slots=True)
class AsBuilt:
    """What a baseline taught.

    Args:
        mean: of each nuisance, relative, shape (7,).
        spread: of each afterwards, one standard deviation.
        trap_factor: where the traps resonate over where they were said to.
        measured: Γ at 200 Ω of the antenna as the baseline has it, over the grid; NaN beyond it; None without one.
        misfit: root mean square of Γ that the model leaves of it.
    """

    mean: Real
    spread: Real
    trap_factor: float = 1.0
    measured: Complex | None = None
    misfit: float = 0.0


class Model:
    """All suspects of an installation, and what each of them shows.

    Args:
        one: the installation.
        built: as a baseline found it.
    """

    def __init__(self, one: Installation, built: AsBuilt) -> None:
        self.one, self.built = one, built
        self.f = one.grid
        self.earth_ohm = sum(
            float(x.part.impedance_ohm(np.array([1e7]))[0].real) for x in one.structure.loads[: one.earths]
        )
        self.sound = AntennaState(one.wires, one.wires.as_planned(self.f, built.trap_factor))

    @cached_property
    def suspects(self) -> tuple[Suspect, ...]:
        """Every one of them; nothing wrong is the first."""
        return tuple(self._all())

    @cached_property
    def healthy(self) -> Suspect:
        """Nothing is wrong."""
        return Suspect("", "nothing", 0.5, np.zeros((1, 0)), np.zeros(0))

    @cached_property
    def _sound_reflections(self) -> tuple[Complex, Complex]:
        gamma, slope = self.sound.reflections(self.f, self.built.mean[STRETCH], self.earth_ohm)
        measured = self.built.measured
        if measured is not None:
            gamma = np.where(np.isfinite(measured), measured, gamma)
        return gamma, slope

    def _all(self) -> Iterator[Suspect]:
        yield self._another_season()
        yield from self._of_antenna()
        for slot in self.one.slots:
            for fault in FAULTS.get(slot.kind, ()):
                if fault.fits(slot):
                    yield Suspect(
                        slot.key, fault.code, fault.weight, fault.thetas(slot), fault.steps(slot), slot, fault
                    )

    def _another_season(self) -> Suspect:
        """Nothing is wrong, but the wires look longer or shorter: a narrow dip moves by more than its width."""
        states = tuple(
            AntennaState(self.one.wires, self.sound.port_ohm, theta=shift, shift=shift) for shift in SEASONS
        )
        thetas = np.arange(len(states), dtype=float)[:, np.newaxis]
        return Suspect("", "nothing", self.healthy.weight, thetas, np.zeros(0), states=states)

    # The antenna's own faults.

    def _of_antenna(self) -> Iterator[Suspect]:
        wires, planned, f = self.one.wires, self.sound.port_ohm, self.f
        opened = np.broadcast_to(1 / (2j * math.pi * f * BREAK_F), f.shape)

        def state(at: int, ohm: Complex | float, theta: float, **more: object) -> AntennaState:
            changed = planned.copy()
            changed[at] = ohm
            known = ROUGHLY if wires.ports[at].kind == "gap" else FAIRLY
            return AntennaState(wires, changed, theta=theta, known=known, **more)  # type: ignore[arg-type]

        def suspect(key: str, code: FaultCode, weight: float, states: list[AntennaState]) -> Suspect:
            thetas = np.arange(len(states), dtype=float)[:, np.newaxis]
            return Suspect(key, code, weight, thetas, np.zeros(0), states=tuple(states))

        series = [AntennaState(wires, planned, ohm, ohm, Direct(series_ohm=ohm)) for ohm in JOINT_OHM]
        yield suspect(FEED, "resistance", FEED_JOINT, series)
        gone = [AntennaState(wires, planned, OPEN_OHM, 0.0, Direct(series_ohm=math.inf))]
        yield suspect(FEED, "open", FEED_JOINT, gone)
        by_wire: dict[str, list[AntennaState]] = {}
        cut = Direct(series_ohm=math.inf)
        for at, port in enumerate(wires.ports):
            if port.kind == "gap":
                found = by_wire.setdefault(f"{port.role}{port.number}", [])
                found.append(state(at, opened, port.from_feed, direct=cut))
                # What lay beyond came down: in pieces so short that they do nothing.
                beyond = [
                    k
                    for k, other in enumerate(wires.ports)
                    if (other.role, other.number) == (port.role, port.number) and other.from_feed > port.from_feed
                ]
                if beyond and not self.one.closed:
                    changed = planned.copy()
                    changed[[at, *beyond]] = opened
                    found.append(AntennaState(wires, changed, theta=port.from_feed, direct=cut, known=ROUGHLY))
        for key, states in by_wire.items():
            yield suspect(key, "broken", BROKEN, states)
        for at, port in enumerate(wires.ports):
            yield from self._of_port(at, port, planned[at], opened, state, suspect)
        if self.one.earths:
            # A vertical without its radials: what is left is the soil about its foot.
            grown = [AntennaState(wires, planned, ohm, ohm) for ohm in RADIALS_OHM]
            yield suspect("radials", "radials_gone", RADIALS, grown)
        yield from self._hung_otherwise(suspect)

    def _of_port(self, at: int, port: Port, sound: Complex, opened: Complex, state, suspect) -> Iterator[Suspect]:  # type: ignore[no-untyped-def]
        if port.part is None:
            return
        f, factor = self.f, self.built.trap_factor
        if port.kind == "trap":
            trap = port.part
            assert isinstance(trap, Trap)
            # Its coil open leaves the capacitor, its capacitor gone the coil with some picofarads.
            capacitor = 1 / (2j * math.pi * f * float(np.asarray(trap.capacitance_f)))
            coil = replace(trap, capacitance_f=4e-12).impedance_ohm(f / factor)
            yield suspect(port.key, "open", TRAP_OPEN, [state(at, capacitor, 0.0), state(at, opened, 1.0)])
            yield suspect(port.key, "capacitor_gone", TRAP_OFF, [state(at, coil, 0.0)])
            yield suspect(port.key, "shorted", TRAP_SHORTED, [state(at, np.full(f.shape, SHORTED_OHM + 0j), 0.0)])

            def now(by: float, q: float | None = None) -> Complex:
                # Water, a crack, a dent: what lies across its coil is no longer what it was.
                farad = float(np.asarray(trap.capacitance_f)) / by**2
                return replace(trap, capacitance_f=farad, q=q or trap.q).impedance_ohm(f / factor)

            yield suspect(port.key, "detuned", TRAP_OFF, [state(at, now(by), by) for by in DETUNED])
            wet = [state(at, now(by, q), by) for by in WET_TRAP for q in WET_Q]
            yield suspect(port.key, "wet", TRAP_WET, wet)
        else:
            yield suspect(port.key, "open", COIL_OPEN, [state(at, opened, 0.0)])
            turns = [state(at, scaled_port(port.part, by, 40.0).impedance_ohm(f), by) for by in TURNS_LEFT]
            yield suspect(port.key, "turns_shorted", COIL_TURNS, turns)
            soaked = [state(at, without_q(port.part, q).impedance_ohm(f), q) for q in (15.0, 25.0, 40.0)]
            yield suspect(port.key, "wet", COIL_WET, soaked)
        joints = [state(at, sound + ohm, ohm) for ohm in JOINT_OHM]
        yield suspect(port.key, "resistance", TRAP_JOINT, joints)

    def _hung_otherwise(self, suspect) -> Iterator[Suspect]:  # type: ignore[no-untyped-def]
        one, f, factor = self.one, self.f, self.built.trap_factor

        def hung(structure: object, theta: float = 0.0) -> AntennaState:
            wires = one.variant(structure)  # type: ignore[arg-type]
            return AntennaState(wires, wires.as_planned(f, factor), theta=theta, known=ROUGHLY)

        down = fallen(one.structure, None)
        if down is not None and one.form != "loop":
            low = [each for share in FALLEN if (each := fallen(one.structure, None, share)) is not None]
            yield suspect("wires", "fallen", DOWN, [hung(each) for each in low])
        solved: dict[int, tuple[list[AntennaState], list[AntennaState]]] = {}
        for index, at, key in self._ends():
            wire, source = one.structure.wires[index], one.structure.source
            # A level wire fed in its middle is the same seen from either side.
            mirrored = index == source.wire and source.at == 0.5 and wire.start_m[2] == wire.end_m[2]
            if not (mirrored and index in solved):
                lower = None if down is None else fallen(one.structure, (index, at))
                solved[index] = (
                    [] if lower is None else [hung(lower)],
                    [hung(touching(one.structure, index, at, metres), metres) for metres in TOUCHED_M],
                )
            if solved[index][0]:
                yield suspect(key, "end_down", END_DOWN, solved[index][0])
            yield suspect(key, "touching", TOUCHES, solved[index][1])

    def _ends(self) -> list[tuple[int, float, str]]:
        """Free ends: wire, share along it, what it is called; those alike once."""
        one = self.one
        if one.form == "loop":
            return []
        found, counts = [], dict[str, int]()
        source = one.structure.source
        for index, _ in enumerate(one.structure.wires):
            split = index == source.wire and 0 < source.at < 1
            role = one.roles[min(index, len(one.roles) - 1)]
            for at in (1.0, 0.0) if split else (1.0,):
                counts[role] = counts.get(role, 0) + 1
                # Of radials and spokes one stands for all.
                if counts[role] <= 2:
                    found.append((index, at, f"{role}{counts[role]}"))
        return found

    # What is seen.

    @cached_property
    def _state_reflections(self) -> dict[int, tuple[Complex, Complex]]:
        return {}

    def _antenna(self, suspect: Suspect, theta: Real, u: Real) -> Complex:
        """Impedance of the antenna, shape (rows, n)."""
        doubts, mean = self.built.spread, self.built.mean[RESISTANCE]
        if not suspect.states:
            # What was measured has its resistance in it.
            mean = mean if self.built.measured is None else 0.0
            gamma, slope = self._sound_reflections
            found = gamma + slope * (doubts[STRETCH] * u[:, STRETCH, np.newaxis])
        else:
            rows = np.clip(np.round(theta[:, 0]).astype(int), 0, len(suspect.states) - 1)
            both = [self._reflections_of(suspect.states[k]) for k in range(len(suspect.states))]
            gamma, slope = (np.array([pair[i] for pair in both]) for i in (0, 1))
            rough = np.array([s.known == ROUGHLY for s in suspect.states])[rows]
            spread = np.where(rough, np.hypot(doubts[STRETCH], ANYHOW), doubts[STRETCH])
            found = gamma[rows] + slope[rows] * (spread * u[:, STRETCH])[:, np.newaxis]
        found = found * np.minimum(1.0, 0.9995 / np.maximum(np.abs(found), 1e-9))
        z = impedance_of(found, KEPT_OHM)
        return np.asarray(z + np.abs(z.real) * (mean + doubts[RESISTANCE] * u[:, RESISTANCE, np.newaxis]))

    def _reflections_of(self, state: AntennaState) -> tuple[Complex, Complex]:
        kept = self._state_reflections
        if id(state) not in kept:
            gamma, slope = state.reflections(self.f, self.built.mean[STRETCH], self.earth_ohm)
            measured, base = self.built.measured, self.sound
            if measured is not None and state.known == WELL:
                # A part in series with what was measured: the difference that it makes is the model's.
                plain, _ = base.reflections(self.f, self.built.mean[STRETCH], self.earth_ohm)
                there = np.where(np.isfinite(measured), measured, 0.0)
                z = impedance_of(there, KEPT_OHM) - impedance_of(plain, KEPT_OHM) + impedance_of(gamma, KEPT_OHM)
                # Where it was not measured the model stands alone.
                fine = np.isfinite(measured) & (z.real > 0)
                gamma = np.where(fine, reflection_of(np.where(fine, z, KEPT_OHM), KEPT_OHM), gamma)
            kept[id(state)] = gamma, slope
        return kept[id(state)]

    def sound_part(self, slot: Slot, u: Real) -> Placed | None:
        """What stands at a slot as built, with nuisances, (rows, 7)."""
        element = slot.element
        if element is None:
            return None
        mean, spread = self.built.mean, self.built.spread
        part = element.part

        def off(which: int) -> Real:
            return np.asarray(mean[which] + spread[which] * u[:, which])[:, np.newaxis]

        if isinstance(part, Line) and slot.kind == "line":
            more = np.exp(off(LOSS))
            cable = replace(
                part.cable,
                loss_sqrt=part.cable.loss_sqrt * more,
                loss_linear=part.cable.loss_linear * more,
                impedance_ohm=part.cable.impedance_ohm * (1 + off(LINE_OHM)),
            )
            return element.place, Line(cable, part.length_m * (1 + off(LENGTH)))
        if isinstance(part, Transformer):
            return element.place, replace(part, permeability_factor=part.permeability_factor * np.exp(off(CORE)))
        return element.place, scaled(part, 1 + off(PARTS))  # type: ignore[arg-type]

    def impedance(self, suspect: Suspect, theta: Real, u: Real, view: View) -> Complex:
        """What a view shows, shape (rows, n).

        Args:
            theta: (rows, numbers) of the suspect.
            u: nuisances in standard deviations, (rows, 7).
        """
        rows = u.shape[0]
        if view.closed == "antenna":
            z = self._antenna(suspect, theta, u)
        else:
            ohm = {"open": OPENED_OHM, "short": SHORTED_OHM, "load": view.load_ohm}[view.closed]
            z = np.full((rows, self.f.size), ohm, dtype=complex)
        placed: list[Placed] = []
        for slot in self.one.slots[view.top : view.bottom]:
            sound = self.sound_part(slot, u)
            if suspect.slot is slot and suspect.fault is not None:
                placed += suspect.fault.parts(slot, sound, theta)
            elif sound is not None:
                placed.append(sound)
        elements = [Element(str(k), place, part) for k, (place, part) in enumerate(placed)]
        found = System(ReadOnce(z), elements).impedance(self.f)
        return np.asarray(np.broadcast_to(found, (rows, self.f.size)))

    def in_view(self, suspect: Suspect, view: View) -> bool:
        """Whether a view can show anything of it."""
        if suspect.in_antenna:
            return view.closed == "antenna"
        return suspect.slot is not None and suspect.slot in self.one.slots[view.top : view.bottom]

    def direct_ohm(self, suspect: Suspect, view: View) -> Real:
        """What an ohmmeter reads of each row, in ohm; endless where there is no path."""
        rows = len(suspect.thetas)
        if view.closed == "antenna":
            ohm = np.full(rows, 0.5 if self.one.closed else math.inf)
            if suspect.in_antenna:
                ohm = ohm + np.array(
                    [0.0 if s.direct is None else float(np.max(s.direct.series_ohm)) for s in suspect.states]
                )
        else:
            ohm = np.full(rows, {"open": math.inf, "short": 0.1, "load": view.load_ohm}[view.closed])
        for slot in self.one.slots[view.top : view.bottom]:
            told = None
            if suspect.slot is slot and suspect.fault is not None:
                told = suspect.fault.direct(slot, suspect.thetas)
            sound = sound_direct(slot)
            for each in (sound, told) if told is not None else (sound,):
                ohm = _parallel(ohm + each.series_ohm, np.asarray(each.shunt_ohm) + np.zeros(rows))
        return np.asarray(np.minimum(ohm, NO_PATH_OHM))


def elements_of(one: Installation) -> tuple[str, ...]:
    """Everything that may be broken, once each, from the antenna down."""
    ports = one.wires.ports
    keys = [FEED, *(port.key for port in ports if port.part is not None)]
    keys += [f"{port.role}{port.number}" for port in ports if port.kind == "gap"]
    keys += ["radials"] if one.earths else [] if one.form == "loop" else ["wires"]
    return tuple(dict.fromkeys([*keys, *(slot.key for slot in one.slots)]))


def _parallel(one: Real, other: Real) -> Real:
    with np.errstate(divide="ignore"):
        return np.asarray(1 / (1 / one + 1 / other))


# What sound things are to an ohmmeter.
DIRECT: Mapping[SlotKind, Direct] = {
    "choke": Direct(series_ohm=0.1),
    "joint": Direct(),
    "lead": Direct(),
    "tuner": Direct(),
}


def sound_direct(slot: Slot) -> Direct:
    """What an ohmmeter meets of a sound thing."""
    if slot.element is None:
        return DIRECT[slot.kind]
    part, series = slot.element.part, slot.element.place == "series"
    if slot.kind == "transformer":
        return Direct(shunt_ohm=0.2)
    if slot.kind == "coil":
        return Direct(series_ohm=0.1) if series else Direct(shunt_ohm=0.2)
    if slot.kind == "capacitor":
        return Direct(series_ohm=math.inf) if series else Direct()
    if slot.kind == "stub":
        shorted = getattr(part, "end", "open") == "shorted"
        return (
            (Direct(series_ohm=0.2) if shorted else Direct(series_ohm=math.inf))
            if series
            else (Direct(shunt_ohm=0.2) if shorted else Direct())
        )
    if isinstance(part, Line):
        return Direct(series_ohm=0.02 * float(np.asarray(part.length_m).reshape(-1)[0]))
    return Direct()
