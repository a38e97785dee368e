"""What usually breaks, as networks: a row each, with how often (common practice) and what stands in its place."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

import numpy as np

from yielding_coil.core.arrays import Complex, Real, Reals
from yielding_coil.core.diagnosis.installation import Slot, SlotKind
from yielding_coil.core.line import Cable, Line, OpenCoax, Stub
from yielding_coil.core.parts import Capacitor, Inductor, OnePort
from yielding_coil.core.system import Place
from yielding_coil.core.transformer import Transformer

FaultCode = Literal[
    "nothing",
    "something_else",
    "open",
    "shorted",
    "resistance",
    "damp",
    "wet",
    "aged",
    "core_broken",
    "turn_shorted",
    "turns_shorted",
    "capacitor_gone",
    "value_off",
    "detuned",
    "end_gone",
    "left_in",
    "broken",
    "fallen",
    "end_down",
    "touching",
    "radials_gone",
]
AnyPart: TypeAlias = OnePort | Line | Transformer
Placed: TypeAlias = tuple[Place, AnyPart]
# A break that still has a little across it, and a short that is a piece of wire or wet dirt.
OPEN_OHM, SHORT_OHM = 3e4, 0.3
# No path at all to an ohmmeter.
NO_PATH_OHM = 1e6
# Steps at which places on a line are tried, and how near its ends: an end of it is a plug's.
LINE_STEP_M, LINE_EDGE_M, WET_STEP_M, WET_M = 0.5, 0.35, 2.0, (1.5, 4.0)
# Water in a stretch: slower, of less impedance (common practice).
WET_VELOCITY, WET_IMPEDANCE = 0.93, 0.93
# The settings of a tuner that somebody left in: farads and henries, by a factor to either side.
TUNER_F = (22e-12, 40e-12, 75e-12, 130e-12, 240e-12)
TUNER_H = (0.25e-6, 0.5e-6, 0.9e-6, 1.6e-6, 2.8e-6, 5e-6, 9e-6)


@dataclass(frozen=True, slots=True)
class Ohms:
    """A plain resistance, of many builds where it is an array; a capacitance across it."""

    resistance_ohm: Reals
    across_f: Reals = 0.0

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """In siemens."""
        return np.asarray(
            1 / np.asarray(self.resistance_ohm) + 2j * math.pi * np.asarray(frequency_hz) * self.across_f
        )

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """In ohm."""
        return np.asarray(1 / self.admittance_s(frequency_hz))


@dataclass(frozen=True, slots=True)
class Direct:
    """What an ohmmeter meets: in the way, and across."""

    series_ohm: Reals = 0.0
    shunt_ohm: Reals = math.inf


@dataclass(frozen=True)
class Fault:
    """One usual fault of one kind of thing.

    Args:
        weight: how often, over one plug gone bad (common practice; wide).
        thetas: what of it may differ, shape (rows, numbers), by the thing it is in.
        steps: half the way from one row to the next, shape (numbers,): what lies between is carried along.
        parts: what stands in its place, from the antenna down, by what stood there and by rows of numbers.
        direct: what an ohmmeter meets; of None, what the sound thing has.
        fits: whether the thing can have it.
    """

    code: FaultCode
    weight: float
    thetas: Callable[[Slot], Real]
    parts: Callable[[Slot, Placed | None, Real], Sequence[Placed]]
    steps: Callable[[Slot], Real] = lambda slot: np.zeros(0)
    direct: Callable[[Slot, Real], Direct | None] = lambda slot, theta: None
    fits: Callable[[Slot], bool] = lambda slot: True


def _column(theta: Real, at: int) -> Real:
    return theta[:, at, np.newaxis]


def _rows(*values: float) -> Callable[[Slot], Real]:
    return lambda slot: np.array(values, dtype=float)[:, np.newaxis]


def _half(*values: float) -> Callable[[Slot], Real]:
    return lambda slot: np.array(values)


def _one(slot: Slot) -> Real:
    return np.zeros((1, 0))


def _with(sound: Placed | None, *more: Placed) -> Sequence[Placed]:
    return (*(() if sound is None else (sound,)), *more)


OPEN = Fault(
    "open",
    1.0,
    _one,
    lambda slot, sound, theta: _with(sound, ("series", Ohms(OPEN_OHM))),
    direct=lambda slot, theta: Direct(series_ohm=math.inf),
)
SHORTED = Fault(
    "shorted",
    0.4,
    _one,
    lambda slot, sound, theta: _with(sound, ("shunt", Ohms(SHORT_OHM))),
    direct=lambda slot, theta: Direct(shunt_ohm=SHORT_OHM),
)
RESISTANCE = Fault(
    "resistance",
    1.2,
    lambda slot: np.log([[4.0], [10.0], [25.0], [60.0], [150.0]]),
    lambda slot, sound, theta: _with(sound, ("series", Ohms(np.exp(_column(theta, 0))))),
    _half(0.45),
    lambda slot, theta: Direct(series_ohm=np.exp(theta[:, 0])),
)
DAMP = Fault(
    "damp",
    1.2,
    lambda slot: np.array([[math.log(ohm), pf] for ohm in (25.0, 70.0, 200.0) for pf in (12.0, 40.0)]),
    lambda slot, sound, theta: _with(
        sound, ("shunt", Ohms(np.exp(_column(theta, 0)), np.maximum(_column(theta, 1), 0.0) * 1e-12))
    ),
    _half(0.5, 14.0),
    # Water in a plug reads some kilohms to direct current, and drifts.
    lambda slot, theta: Direct(shunt_ohm=40 * np.exp(theta[:, 0])),
)


def _length(slot: Slot) -> float:
    assert slot.element is not None
    assert isinstance(slot.element.part, Line)
    return float(np.asarray(slot.element.part.length_m).reshape(-1)[0])


def _places(step: float) -> Callable[[Slot], Real]:
    def places(slot: Slot) -> Real:
        length = _length(slot)
        return np.linspace(LINE_EDGE_M, length - LINE_EDGE_M, max(2, math.ceil(length / step)))

    return places


def _along(slot: Slot) -> Real:
    return _places(LINE_STEP_M)(slot)[:, np.newaxis]


def _step(slot: Slot) -> Real:
    places = _places(LINE_STEP_M)(slot)
    return np.array([(places[1] - places[0]) / 2])


def _cut(sound: Placed | None, theta: Real, between: Sequence[Placed]) -> Sequence[Placed]:
    """The line in two, something between; places count from its lower end."""
    assert sound is not None
    line = sound[1]
    assert isinstance(line, Line)
    # A length that strays stretches both pieces.
    near = np.clip(_column(theta, 0), 0.05, None)
    far = np.maximum(np.asarray(line.length_m) - near, 0.05)
    return ("through", replace(line, length_m=far)), *between, ("through", replace(line, length_m=near))


def _wet_cable(cable: Cable, extra_db_per_m: Reals) -> Cable:
    """With water in it: what it loses more goes with frequency (a dielectric's), stated at 10 MHz."""
    return replace(
        cable,
        impedance_ohm=np.asarray(cable.impedance_ohm) * WET_IMPEDANCE,
        velocity_factor=np.asarray(cable.velocity_factor) * WET_VELOCITY,
        loss_linear=np.asarray(cable.loss_linear) + np.asarray(extra_db_per_m) * 100 / 10,
    )


def _wet(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    line = sound[1]
    assert isinstance(line, Line)
    whole = np.asarray(line.length_m)
    wet = np.minimum(np.abs(_column(theta, 2)) + 0.3, 0.8 * _length(slot))
    near = np.clip(_column(theta, 0) - wet / 2, 0.02, 0.95 * _length(slot) - wet + 0.02)
    far = np.maximum(whole - near - wet, 0.02)
    cable = _wet_cable(line.cable, np.exp(_column(theta, 1)) / wet)
    return (
        ("through", replace(line, length_m=far)),
        ("through", Line(cable, wet)),
        ("through", replace(line, length_m=near)),
    )


def _wet_places(slot: Slot) -> Real:
    length = _length(slot)
    places = np.linspace(0.7, length - 0.7, max(2, math.ceil(length / WET_STEP_M)))
    return np.array([[x, math.log(db), wet] for x in places for db in (0.8, 2.5, 8.0) for wet in WET_M])


def _aged(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    line = sound[1]
    assert isinstance(line, Line)
    more = np.exp(_column(theta, 0))
    cable = replace(
        line.cable,
        loss_sqrt=np.asarray(line.cable.loss_sqrt) * more,
        loss_linear=np.asarray(line.cable.loss_linear) * more,
    )
    return (("through", replace(line, cable=cable)),)


ON_LINE = (
    Fault(
        "open",
        1.0,
        _along,
        lambda slot, sound, theta: _cut(sound, theta, (("series", Ohms(OPEN_OHM)),)),
        _step,
        lambda slot, theta: Direct(series_ohm=math.inf),
    ),
    Fault(
        "shorted",
        0.8,
        _along,
        lambda slot, sound, theta: _cut(sound, theta, (("shunt", Ohms(SHORT_OHM)),)),
        _step,
        lambda slot, theta: Direct(shunt_ohm=1.0),
    ),
    Fault(
        "wet",
        0.8,
        _wet_places,
        _wet,
        lambda slot: np.array([WET_STEP_M / 2, 0.55, 0.8]),
        lambda slot, theta: Direct(shunt_ohm=2e4),
    ),
    Fault("aged", 0.4, lambda slot: np.log([[1.7], [2.6], [4.0], [7.0]]), _aged, _half(0.22)),
)


def _core(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    assert isinstance(sound[1], Transformer)
    part = sound[1]
    factor = np.asarray(part.permeability_factor) * np.exp(_column(theta, 0))
    return (("through", replace(part, permeability_factor=factor)),)


def _no_capacitor(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    assert isinstance(sound[1], Transformer)
    return (("through", replace(sound[1], input_capacitance_f=0.0)),)


def _has_capacitor(slot: Slot) -> bool:
    part = None if slot.element is None else slot.element.part
    return isinstance(part, Transformer) and bool(np.max(np.asarray(part.input_capacitance_f)) > 0)


def scaled_port(part: OnePort, factor: Reals, q: float | None = None) -> OnePort:
    """A one-port with so many times its value: inductance, capacitance, length of a stub."""
    if isinstance(part, Inductor):
        lower = {} if q is None else {"q": q}
        return replace(part, inductance_h=np.asarray(part.inductance_h) * factor, **lower)
    if isinstance(part, Capacitor):
        return replace(part, capacitance_f=np.asarray(part.capacitance_f) * factor)
    if isinstance(part, OpenCoax):
        return replace(part, capacity_factor=np.asarray(part.capacity_factor) * factor)
    if isinstance(part, Stub):
        return replace(part, length_m=np.asarray(part.length_m) * factor)
    return _Scaled(part, factor)


def scaled(part: AnyPart, factor: Reals, q: float | None = None) -> AnyPart:
    """The same of anything in the cascade: a line by its length, a transformer as it is."""
    if isinstance(part, Line):
        return replace(part, length_m=np.asarray(part.length_m) * factor)
    return part if isinstance(part, Transformer) else scaled_port(part, factor, q)


@dataclass(frozen=True, slots=True)
class _Scaled:
    """A one-port of any make with so many times its impedance."""

    part: OnePort
    factor: Reals

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """In ohm."""
        return np.asarray(self.part.impedance_ohm(frequency_hz) * self.factor)

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """In siemens."""
        return np.asarray(self.part.admittance_s(frequency_hz) / self.factor)


def _value(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    return ((sound[0], scaled(sound[1], np.exp(_column(theta, 0)))),)


def _turns(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    return ((sound[0], scaled(sound[1], np.exp(_column(theta, 0)), q=25.0)),)


def _out_of_the_way(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    """What broke off: in series the way is open, across it nothing is left."""
    assert sound is not None
    return (("series", Ohms(OPEN_OHM)),) if sound[0] == "series" else ()


def _bridged(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    return (("shunt", Ohms(SHORT_OHM)),) if sound[0] == "shunt" else (("series", Ohms(SHORT_OHM)),)


def _gone_direct(slot: Slot, theta: Real) -> Direct:
    series = slot.element is not None and slot.element.place == "series"
    return Direct(series_ohm=math.inf) if series else Direct()


def _bridged_direct(slot: Slot, theta: Real) -> Direct:
    series = slot.element is not None and slot.element.place == "series"
    return Direct(series_ohm=SHORT_OHM) if series else Direct(shunt_ohm=SHORT_OHM)


def _other_end(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    assert sound is not None
    assert isinstance(sound[1], Stub)
    return ((sound[0], replace(sound[1], end="shorted" if sound[1].end == "open" else "open")),)


def _other_end_direct(slot: Slot, theta: Real) -> Direct:
    assert slot.element is not None
    assert isinstance(slot.element.part, Stub)
    return Direct(shunt_ohm=SHORT_OHM) if slot.element.part.end == "open" else Direct()


def _tuner(slot: Slot, sound: Placed | None, theta: Real) -> Sequence[Placed]:
    upper, coil, lower = (np.exp(np.clip(_column(theta, i), -40.0, 0.0)) for i in range(3))
    return (
        ("series", Capacitor(upper, 800.0)),
        ("shunt", Inductor(coil, 150.0)),
        ("series", Capacitor(lower, 800.0)),
    )


FAULTS: Mapping[SlotKind, tuple[Fault, ...]] = {
    "joint": (OPEN, SHORTED, RESISTANCE, DAMP),
    "lead": (replace(OPEN, weight=0.5), replace(SHORTED, weight=0.2), replace(RESISTANCE, weight=0.5)),
    "line": ON_LINE,
    "section": (
        replace(OPEN, weight=0.6),
        replace(SHORTED, weight=0.4),
        replace(ON_LINE[3], code="wet", weight=0.3),
    ),
    "choke": (
        replace(OPEN, weight=0.4),
        replace(SHORTED, weight=0.3),
        # The power does not pass through its core: a sweep hardly sees it.
        Fault("core_broken", 0.2, _one, lambda slot, sound, theta: _with(sound)),
    ),
    "transformer": (
        replace(OPEN, weight=0.7),
        Fault("core_broken", 0.7, lambda slot: np.log([[0.15], [0.3], [0.55]]), _core, _half(0.3)),
        Fault("turn_shorted", 0.4, lambda slot: np.log([[0.012], [0.03], [0.07]]), _core, _half(0.42)),
        Fault("capacitor_gone", 0.5, _one, _no_capacitor, fits=_has_capacitor),
    ),
    "coil": (
        Fault("open", 0.6, _one, _out_of_the_way, direct=_gone_direct),
        Fault("turns_shorted", 0.5, lambda slot: np.log([[0.45], [0.6], [0.75], [0.88]]), _turns, _half(0.1)),
    ),
    "capacitor": (
        Fault("open", 0.7, _one, _out_of_the_way, direct=_gone_direct),
        Fault("shorted", 0.4, _one, _bridged, direct=_bridged_direct),
        Fault("value_off", 0.4, lambda slot: np.log([[0.55], [0.75], [1.3], [1.7]]), _value, _half(0.12)),
    ),
    "stub": (
        Fault("end_gone", 0.5, _one, _other_end, direct=_other_end_direct),
        Fault("open", 0.5, _one, _out_of_the_way, direct=_gone_direct),
        Fault("wet", 0.3, lambda slot: np.log([[1.06], [1.14]]), _value, _half(0.04)),
    ),
    "tuner": (
        Fault(
            "left_in",
            1.2,
            lambda slot: np.log([[a, h, b] for a in TUNER_F for h in TUNER_H for b in TUNER_F]),
            _tuner,
            _half(0.3, 0.3, 0.3),
            # Its coil lies across, its capacitors in the way.
            lambda slot, theta: Direct(series_ohm=math.inf, shunt_ohm=SHORT_OHM),
        ),
    ),
}
