"""An installation that broke in a way nobody tells: what it then shows in every test, for practice and trials.

It stands on its own: wires that part are cut and solved anew, lines and parts have their own strays, and what an
eye or an ohmmeter finds follows tables of this file.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from yielding_coil.analyser.bench import Aloft
from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.diagnosis import Act, FaultCode, Installation, Slot
from yielding_coil.core.line import Cable, Line, OpenCoax, Stub
from yielding_coil.core.parts import Capacitor, Inductor, OnePort, Resistor
from yielding_coil.core.transformer import Transformer
from yielding_coil.core.trap import Trap
from yielding_coil.core.wire import Load, Source, Structure, Wire

# Across a wire that parted, metres; what hangs down from it is as long as what is left of it or gone.
GAP_M, GONE = 0.04, 0.5
# How far what is really there lies from what was said, one standard deviation each: a line's length by tape, its
# speed, loss and impedance; a core; a part of the match.
TAPE, SPEED, LOSS, OHM, CORE, PART = 0.006, 0.008, 0.15, 0.01, 0.08, 0.01
# From a year to the next: wires in wet and dry, contacts that age.
SEASON = 0.0015
# How often an eye finds what is there, and one that is next to it; and how often it takes something else for it.
FOUND_BY_EYE, BY_HAND, FALSELY = (0.45, 0.95), (0.75, 0.98), 0.03


@dataclass(frozen=True, slots=True)
class Truth:
    """What broke: the element, its fault, and by how much.

    Args:
        at: where along it or by which factor, as its fault has it; ohm of a joint.
        other: a second number.
    """

    key: str
    code: FaultCode
    at: float = 0.0
    other: float = 0.0


def _between(low: float, high: float) -> Callable[[np.random.Generator], float]:
    return lambda rng: float(rng.uniform(low, high))


def _log(low: float, high: float) -> Callable[[np.random.Generator], float]:
    return lambda rng: float(np.exp(rng.uniform(math.log(low), math.log(high))))


# What may break of each kind of thing, and from where its two numbers are drawn.
Draw = tuple[FaultCode, Callable[[np.random.Generator], float], Callable[[np.random.Generator], float]]
_NONE = _between(0, 0)
JOINT: tuple[Draw, ...] = (
    ("open", _NONE, _NONE),
    ("shorted", _log(0.05, 2), _NONE),
    ("resistance", _log(6, 100), _NONE),
    ("damp", _log(20, 250), _between(8, 45)),
)
OF_SLOT: Mapping[str, tuple[Draw, ...]] = {
    "joint": JOINT,
    "lead": JOINT[:3],
    "line": (
        ("open", _between(0.04, 0.96), _NONE),
        ("shorted", _between(0.04, 0.96), _log(0.05, 2)),
        ("wet", _between(0.15, 0.85), _log(1.5, 8)),
        ("aged", _log(1.8, 6), _NONE),
    ),
    "choke": (("open", _NONE, _NONE), ("shorted", _log(0.05, 2), _NONE)),
    "section": (("open", _NONE, _NONE), ("shorted", _log(0.05, 2), _NONE)),
    "transformer": (
        ("open", _NONE, _NONE),
        ("core_broken", _log(0.12, 0.5), _NONE),
        ("turn_shorted", _log(0.012, 0.05), _NONE),
        ("capacitor_gone", _NONE, _NONE),
    ),
    "coil": (("open", _NONE, _NONE), ("turns_shorted", _between(0.45, 0.85), _NONE)),
    "capacitor": (
        ("open", _NONE, _NONE),
        ("shorted", _log(0.05, 2), _NONE),
        ("value_off", _between(0.5, 0.75), _NONE),
    ),
    "stub": (("end_gone", _NONE, _NONE), ("open", _NONE, _NONE)),
    "tuner": (("left_in", _between(0, 1), _between(0, 1)),),
}
OF_PORT: Mapping[str, tuple[Draw, ...]] = {
    "trap": (
        ("open", _NONE, _NONE),
        ("capacitor_gone", _NONE, _NONE),
        ("shorted", _log(0.05, 1), _NONE),
        ("detuned", _between(0.79, 0.93), _NONE),
        ("wet", _between(0.93, 0.98), _between(8, 18)),
        ("resistance", _log(6, 60), _NONE),
    ),
    "coil": (
        ("open", _NONE, _NONE),
        ("turns_shorted", _between(0.58, 0.88), _NONE),
        ("wet", _between(18, 40), _NONE),
    ),
}


def draw_truth(one: Installation, rng: np.random.Generator, *, kinds: Sequence[str] = ()) -> Truth:
    """One fault: an element first, every one alike, then one of its faults.

    Args:
        kinds: of slots that are left out.
    """
    choices: list[tuple[str, tuple[Draw, ...]]] = []
    for slot in one.slots:
        draws = OF_SLOT[slot.kind]
        part = None if slot.element is None else slot.element.part
        if isinstance(part, Transformer) and not part.input_capacitance_f:
            draws = draws[:3]
        if slot.kind not in kinds:
            choices.append((slot.key, draws))
    seen: set[str] = set()
    for port in one.wires.ports:
        if port.part is not None:
            choices.append((port.key, OF_PORT[port.kind]))
        key = f"{port.role}{port.number}"
        if port.kind == "gap" and key not in seen:
            seen.add(key)
            choices.append((key, (("broken", _between(0.12, 0.88), _between(0, 1)),)))
    choices.append(("feed", (("open", _NONE, _NONE), ("resistance", _log(6, 60), _NONE))))
    if one.earths:
        choices.append(("radials", (("radials_gone", _log(30, 600), _NONE),)))
    elif one.form != "loop":
        choices.append(("wires", (("fallen", _between(0.25, 0.5), _NONE),)))
    key, draws = choices[int(rng.integers(len(choices)))]
    code, first, second = draws[int(rng.integers(len(draws)))]
    return Truth(key, code, first(rng), second(rng))


def cut(structure: Structure, index: int, at: float, *, outward: bool, gone: bool) -> Structure:
    """A wire parted at a share of its length, across a gap; what lies beyond gone or hanging on.

    Args:
        outward: the feed lies before the cut; else after it.
        gone: what lies beyond is no longer there; only where nothing else hangs on to it.
    """
    wire = structure.wires[index]
    gap = GAP_M / wire.length_m / 2
    low, high = max(at - gap, 1e-3), min(at + gap, 1 - 1e-3)
    before = replace(wire, end_m=_point(wire, low))
    after = replace(wire, start_m=_point(wire, high))
    wires = list(structure.wires)
    other = len(wires)
    far_end = wire.end_m if outward else wire.start_m
    held = any(
        math.dist(far_end, end) < 1e-6 for k, w in enumerate(wires) if k != index for end in (w.start_m, w.end_m)
    )
    keep_far = held or not gone
    near, far = (before, after) if outward else (after, before)
    wires[index] = near
    if keep_far:
        wires.append(far)

    def moved(place: Source | Load) -> Source | Load | None:
        if place.wire != index:
            return place
        first = place.at < at
        share = place.at / low if first else (place.at - high) / (1 - high)
        share = min(max(share, 0.0), 1.0)
        on_near = first == outward
        if on_near:
            return replace(place, at=share)
        return replace(place, wire=other, at=share) if keep_far else None

    source = moved(structure.source)
    assert isinstance(source, Source)
    loads = [each for load in structure.loads if isinstance(each := moved(load), Load)]
    return replace(structure, wires=tuple(wires), source=source, loads=tuple(loads))


def _point(wire: Wire, share: float) -> tuple[float, float, float]:
    x, y, z = wire.at(share).tolist()
    return x, y, z


@dataclass(frozen=True)
class Broken:
    """An installation as it really is, and what broke of it.

    Args:
        one: as it was planned and drawn: who looks for the fault knows no more.
        structure: its wires as they really hang.
        truth: what broke; None while it is good.
        seed: of everything that strays.
        season: how much longer all of it looks than when it was hung, relative.
    """

    one: Installation
    structure: Structure
    truth: Truth | None
    seed: int
    season: float = 0.0

    @cached_property
    def _rng(self) -> np.random.Generator:
        return np.random.default_rng([self.seed, 11])

    @cached_property
    def _strays(self) -> dict[str, float]:
        normal = np.random.default_rng([self.seed, 12]).normal(size=6)
        return dict(zip(("tape", "speed", "loss", "ohm", "core", "part"), normal.tolist(), strict=True))

    @cached_property
    def _wires(self) -> tuple[Aloft, float, float]:
        """As they hang; what lies in the ground and in series with the feed."""
        truth = self.truth
        earth = sum(
            float(load.part.impedance_ohm(np.array([1e7]))[0].real)
            for load in self.structure.loads[: self.one.earths]
        )
        structure = replace(self.structure, loads=self.structure.loads[self.one.earths :])
        series = 0.0
        if truth is None:
            return Aloft(structure), earth, series
        if truth.key == "feed":
            series = 1e5 if truth.code == "open" else truth.at
        elif truth.code == "radials_gone":
            earth = truth.at
        elif truth.code == "fallen":
            low = tuple(
                replace(
                    w,
                    start_m=(*w.start_m[:2], max(0.6, w.start_m[2] * truth.at)),
                    end_m=(*w.end_m[:2], max(0.6, w.end_m[2] * truth.at)),
                )
                for w in structure.wires
            )
            structure = replace(structure, wires=low)
        elif truth.code == "broken":
            structure = self._parted(structure, truth)
        else:
            structure = self._part_gone(structure, truth)
        return Aloft(structure), earth, series

    def _parted(self, structure: Structure, truth: Truth) -> Structure:
        own = [p for p in self.one.wires.ports if f"{p.role}{p.number}" == truth.key]
        index = own[0].wire
        source = structure.source
        # Along the wire outward from the feed, away from anything that stands in it.
        if index == source.wire and 0 < source.at < 1:
            outward = own[0].at > source.at
            at = source.at + (1 - source.at) * truth.at if outward else source.at * (1 - truth.at)
        else:
            outward = own[0].at >= 0.5 if len(own) == 1 else own[-1].at > own[0].at
            near = self._near_start(structure, index)
            outward = near
            at = truth.at if near else 1 - truth.at
        for load in structure.loads:
            if load.wire == index and abs(load.at - at) < 0.02:
                at += 0.03 if at < 0.9 else -0.03
        return cut(structure, index, at, outward=outward, gone=truth.other < GONE)

    def _near_start(self, structure: Structure, index: int) -> bool:
        source = structure.source
        feed = structure.wires[source.wire].at(source.at)
        wire = structure.wires[index]
        return bool(np.linalg.norm(wire.at(0.0) - feed) <= np.linalg.norm(wire.at(1.0) - feed))

    def _part_gone(self, structure: Structure, truth: Truth) -> Structure:
        port = next((p for p in self.one.wires.ports if p.key == truth.key), None)
        if port is None:
            return structure
        loads = []
        for load in structure.loads:
            here = load.wire == port.wire and abs(load.at - port.at) < 1e-3
            loads.append(replace(load, part=_worn(load.part, truth)) if here else load)
        return replace(structure, loads=tuple(loads))

    def antenna_ohm(self, f: Real) -> Complex:
        """At its feed."""
        wires, earth, series = self._wires
        return wires.impedance_ohm(f * (1 + self.season)) + earth + series

    def impedance_ohm(self, f: Real, act: Act) -> Complex:
        """What a test sweeps."""
        view = act.view
        assert view is not None
        if view.closed == "antenna":
            z = self.antenna_ohm(f)
        else:
            ohm = {"open": 3e5, "short": 0.02, "load": view.load_ohm * 1.004}[view.closed]
            z = np.full(f.shape, ohm, dtype=complex)
        for slot in self.one.slots[view.top : view.bottom]:
            z = self._through(slot, f, z)
        return z

    def _through(self, slot: Slot, f: Real, z: Complex) -> Complex:
        truth = self.truth if self.truth is not None and self.truth.key == slot.key else None
        code = None if truth is None else truth.code
        at, other = (truth.at, truth.other) if truth is not None else (0.0, 0.0)
        if slot.element is not None:
            z = self._part(slot, f, z, truth)
        if slot.kind == "line" or (slot.kind in ("capacitor", "coil", "stub") and slot.element is not None):
            return z
        if code == "open":
            return z + 1 / (2j * math.pi * f * 0.4e-12)
        if code == "shorted":
            return _across(z, np.full(f.shape, 1 / at + 0j))
        if code == "resistance":
            return z + at
        if code == "damp":
            return _across(z, 1 / at + 2j * math.pi * f * other * 1e-12)
        if code == "left_in":
            rng = np.random.default_rng([self.seed, 13])
            farads = np.exp(rng.uniform(math.log(25e-12), math.log(300e-12), 2))
            henry = math.exp(rng.uniform(math.log(0.3e-6), math.log(9e-6)))
            omega = 2 * math.pi * f
            z = z + 1 / (1j * omega * farads[0] * (1 - 1j / 900))
            z = _across(z, 1 / (1j * omega * henry * (1 - 1j / 180)))
            return z + 1 / (1j * omega * farads[1] * (1 - 1j / 900))
        return z

    def _line(self, line: Line) -> Line:
        stray, own = self._strays, line.cable
        cable = Cable(
            own.name,
            float(np.asarray(own.impedance_ohm)) * (1 + OHM * stray["ohm"]),
            min(float(np.asarray(own.velocity_factor)) * (1 + SPEED * stray["speed"]), 1.0),
            float(np.asarray(own.loss_sqrt)) * math.exp(LOSS * stray["loss"]),
            float(np.asarray(own.loss_linear)) * math.exp(LOSS * stray["loss"]),
        )
        return Line(cable, float(np.asarray(line.length_m)) * (1 + TAPE * stray["tape"]))

    def _part(self, slot: Slot, f: Real, z: Complex, truth: Truth | None) -> Complex:
        assert slot.element is not None
        part, place = slot.element.part, slot.element.place
        if isinstance(part, Line):
            return self._along(self._line(part), f, z, truth if slot.kind == "line" else None)
        if isinstance(part, Transformer):
            factor = math.exp(CORE * self._strays["core"])
            if truth is not None and truth.code in ("core_broken", "turn_shorted"):
                factor *= truth.at
            changed = replace(part, permeability_factor=part.permeability_factor * factor)
            if truth is not None and truth.code == "capacitor_gone":
                changed = replace(changed, input_capacitance_f=0.0)
            return changed.input_impedance(f, z)
        one: OnePort = _strayed(part, 1 + PART * self._strays["part"])  # type: ignore[arg-type]
        code = None if truth is None else truth.code
        if code == "open":
            return z if place == "shunt" else z + 1 / (2j * math.pi * f * 0.4e-12)
        if code == "shorted":
            assert truth is not None
            return z + truth.at if place == "series" else _across(z, np.full(f.shape, 1 / truth.at + 0j))
        if code in ("turns_shorted", "value_off"):
            assert truth is not None
            one = _strayed(one, truth.at)
            if isinstance(one, Inductor):
                one = replace(one, q=20.0)
        if code == "end_gone":
            assert isinstance(one, Stub)
            one = replace(one, end="shorted" if one.end == "open" else "open")
        return z + one.impedance_ohm(f) if place == "series" else _across(z, one.admittance_s(f))

    def _along(self, line: Line, f: Real, z: Complex, truth: Truth | None) -> Complex:
        if truth is None:
            return line.input_impedance(f, z)
        whole = float(np.asarray(line.length_m))
        if truth.code == "aged":
            cable = replace(
                line.cable, loss_sqrt=line.cable.loss_sqrt * truth.at, loss_linear=line.cable.loss_linear * truth.at
            )
            return Line(cable, whole).input_impedance(f, z)
        near = truth.at * whole
        wet_m = float(np.random.default_rng([self.seed, 14]).uniform(1.0, 5.0)) if truth.code == "wet" else 0.0
        wet_m = min(wet_m, 0.5 * whole, 2 * near, 2 * (whole - near))
        z = Line(line.cable, whole - near - wet_m / 2).input_impedance(f, z)
        if truth.code == "open":
            z = z + 1 / (2j * math.pi * f * 0.5e-12)
        elif truth.code == "shorted":
            z = _across(z, np.full(f.shape, 1 / truth.other + 0j))
        else:
            # Decibels at 10 MHz more over the stretch, going with the frequency.
            cable = replace(
                line.cable,
                impedance_ohm=float(np.asarray(line.cable.impedance_ohm)) * 0.9,
                velocity_factor=float(np.asarray(line.cable.velocity_factor)) * 0.91,
                loss_linear=float(np.asarray(line.cable.loss_linear)) + truth.other / wet_m * 100 / 10,
            )
            z = Line(cable, wet_m).input_impedance(f, z)
        return Line(line.cable, near - wet_m / 2).input_impedance(f, z)

    def place_m(self) -> float | None:
        """Where on the line it is by a tape, from the lower end; None where it is elsewhere."""
        truth, line = self.truth, self.one.line
        if truth is None or line is None or truth.key != line.key or truth.code == "aged" or line.element is None:
            return None
        part = line.element.part
        assert isinstance(part, Line)
        return truth.at * float(np.asarray(self._line(part).length_m))

    def ohm(self, act: Act) -> float:
        """What an ohmmeter reads, endless without a path."""
        view, truth = act.view, self.truth
        assert view is not None
        ohm = {
            "antenna": 0.4 if self.one.closed else math.inf,
            "open": math.inf,
            "short": 0.05,
            "load": view.load_ohm,
        }[view.closed]
        if view.closed == "antenna" and truth is not None:
            if truth.key == "feed":
                ohm += math.inf if truth.code == "open" else truth.at
            elif truth.code == "broken":
                ohm = math.inf
        for slot in self.one.slots[view.top : view.bottom]:
            ohm = self._meter(slot, ohm)
        drift = float(np.random.default_rng([self.seed, 15, *act.key.encode()]).normal())
        return ohm * math.exp(0.1 * drift) + 0.1

    def _meter(self, slot: Slot, ohm: float) -> float:
        truth = self.truth if self.truth is not None and self.truth.key == slot.key else None
        code = None if truth is None else truth.code
        series = slot.element is not None and slot.element.place == "series"
        part = None if slot.element is None else slot.element.part
        if slot.kind == "transformer":
            ohm = 0.15
        elif slot.kind == "capacitor":
            gone = code == "shorted"
            ohm = (0.2 if gone else math.inf) + ohm if series else (0.2 if gone else ohm)
        elif slot.kind == "stub":
            shorted = (getattr(part, "end", "open") == "shorted") != (code == "end_gone")
            if not series and shorted and code != "open":
                ohm = 0.2
            if series and not shorted:
                ohm = math.inf
        elif slot.kind == "coil":
            if series:
                ohm += math.inf if code == "open" else 0.1
            elif code != "open":
                ohm = 0.1
            return ohm
        elif isinstance(part, Line):
            ohm += 0.03 * float(np.asarray(part.length_m))
        if code == "open" and slot.kind not in ("capacitor", "stub"):
            return math.inf
        if code == "shorted" and slot.kind != "capacitor":
            return 0.5
        if code == "resistance" and truth is not None:
            return ohm + truth.at
        if code in ("damp", "wet") and slot.kind in ("joint", "line"):
            wet = 3e3 if code == "damp" else 3e4
            return 1 / (1 / ohm + 1 / wet) if ohm > 0 else ohm
        return ohm

    def look(self, act: Act) -> str:
        """What an eye finds, or an ohmmeter across one part."""
        rng = np.random.default_rng([self.seed, 16, *act.key.encode()])
        truth = self.truth
        if act.code == "ohm_across":
            if truth is not None and truth.key == act.of and truth.code in ("open", "resistance"):
                return "none" if truth.code == "open" else "some"
            return "path"
        if act.code == "twins":
            for answer, key in (("first", act.of), ("second", act.other)):
                if truth is not None and truth.key == key:
                    return answer
            return "alike"
        chance = FALSELY
        if truth is not None and self._there(act, truth):
            chance = float(rng.uniform(*(BY_HAND if act.code == "look_at" else FOUND_BY_EYE)))
        return "yes" if rng.uniform() < chance else "no"

    def _there(self, act: Act, truth: Truth) -> bool:
        if act.code == "look_at":
            return truth.key == act.of
        if act.code == "look_up":
            return truth.code in ("broken", "fallen", "end_down", "touching")
        if act.code == "look_radials":
            return truth.key == "radials"
        if act.code == "look_shack":
            return truth.key in ("radio plug", "lead", "tuner")
        if act.code == "look_line":
            return self.one.line is not None and truth.key == self.one.line.key
        upper = {slot.key for slot in self.one.slots[: self.one.box_end]} | {"feed", "feed plug"}
        return truth.key in upper


def _across(z: Complex, siemens: Any) -> Complex:
    return np.asarray(1 / (1 / z + siemens))


def _strayed(part: OnePort, factor: float) -> OnePort:
    if isinstance(part, Inductor):
        return replace(part, inductance_h=part.inductance_h * factor)
    if isinstance(part, Capacitor):
        return replace(part, capacitance_f=part.capacitance_f * factor)
    if isinstance(part, OpenCoax):
        return replace(part, capacity_factor=part.capacity_factor * factor)
    if isinstance(part, Stub):
        return replace(part, length_m=part.length_m * factor)
    return part


def _worn(part: OnePort, truth: Truth) -> OnePort:
    """A trap or a coil in the wire as it is now."""
    if truth.code == "resistance":
        return _Joined(part, truth.at)
    if truth.code == "shorted":
        return Resistor(truth.at)
    if isinstance(part, Trap):
        if truth.code == "open":
            return Capacitor(float(np.asarray(part.capacitance_f)), 500.0)
        if truth.code == "capacitor_gone":
            return replace(part, capacitance_f=5e-12)
        if truth.code == "detuned":
            return replace(part, capacitance_f=part.capacitance_f / truth.at**2)
        return replace(part, capacitance_f=part.capacitance_f / truth.at**2, q=truth.other)
    if truth.code == "open":
        return Capacitor(0.4e-12, 500.0)
    if isinstance(part, Inductor):
        if truth.code == "turns_shorted":
            return replace(part, inductance_h=part.inductance_h * truth.at, q=35.0)
        return replace(part, q=truth.at)
    return part


@dataclass(frozen=True, slots=True)
class _Joined:
    """A part with a bad joint."""

    part: OnePort
    ohm: float

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """In ohm."""
        return np.asarray(self.part.impedance_ohm(frequency_hz) + self.ohm)

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """In siemens."""
        return np.asarray(1 / self.impedance_ohm(frequency_hz))
