"""The steps of a build in the order in which hands do them, with what hurts at the step where it does."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any, Literal

import numpy as np

from yielding_coil.core.design import BenchLoad, CoaxCapacitor, Design, FixedCapacitor, MatchSection, MatchStub
from yielding_coil.core.element import DesignElement, PartToMake
from yielding_coil.core.finding import Values
from yielding_coil.core.winding import AirCoil, AnyWinding, LegTrap, RingView, WindingReport, WoundTransformer
from yielding_coil.core.wire import Piece

StepCode = Literal[
    "cut",
    "twist",
    "wind_pair",
    "wind_on",
    "wind_tapped",
    "wind_in_hand",
    "wind_ring",
    "wind_coil",
    "count",
    "coax_capacitor",
    "capacitor",
    "section",
    "stub",
    "bench_part",
    "solder",
    "bench_match",
    "box",
    "bench_again",
    "choke_in_line",
    "into_wire",
    "cut_line",
    "cut_wires",
    "hang",
    "connect",
    "sweep",
    "trim",
]
CautionCode = Literal["fumes", "drilling", "hot", "voltage", "power_lines", "lightning", "low_wires", "low_power"]


@dataclass(frozen=True, slots=True)
class Caution:
    """What may hurt at a step; its values in SI units."""

    code: CautionCode
    values: Values = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class ToCut:
    """A piece of wire or cable to cut, so many times."""

    name: str
    length_m: float
    count: int = 1


@dataclass(frozen=True, slots=True)
class Step:
    """One step to tick.

    Args:
        key: stays the same from revision to revision, so that a tick can be carried over.
        code: what is done; `values` in SI units.
        part: key of what it belongs to; empty for the build as a whole.
        cuts: what is cut in it.
    """

    key: str
    code: StepCode
    part: str = ""
    values: Values = field(default_factory=dict)
    cuts: tuple[ToCut, ...] = ()
    cautions: tuple[Caution, ...] = ()


def _step(code: StepCode, part: str, values: Values | None = None, **more: Any) -> Step:
    return Step(f"{code}:{part}" if part else code, code, part, values or {}, **more)


FUMES = (Caution("fumes"),)


def winding_steps(report: WindingReport, element: AnyWinding) -> Iterator[Step]:
    """Cut, wind and count one wound thing."""
    key, turns, view = report.key, report.turns, report.picture
    cuts = tuple(ToCut(c.wire, c.cut_m, pieces_of(element)) for c in report.cuts)
    tail = report.cuts[0].tails_m / 2 if report.cuts else None
    yield _step("cut", key, {"tail_m": tail, "spare_turns": report.cuts[0].spare_turns}, cuts=cuts)
    if isinstance(element, WoundTransformer):
        yield from _transformer_steps(report, element)
    elif isinstance(view, RingView):
        yield _step("wind_ring", key, {"turns": turns.passes, "crosses_after": turns.crosses_after})
    else:
        yield _step("wind_coil", key, asdict(view))
    if isinstance(view, RingView):
        yield _step("count", key, {"passes": turns.passes, "returns": turns.returns, "rings": view.rings})


def pieces_of(element: AnyWinding) -> int:
    """How many of it are made: a trap for each leg."""
    return element.legs if isinstance(element, LegTrap) else 1


def highest_v(report: WindingReport) -> float:
    """The peak volts that a wound thing bears at full power, on any band."""
    if report.trap is not None:
        return max((b.voltage_v for b in report.trap.bands), default=0.0)
    return max((h.voltage_v for h in report.heat if h.voltage_v is not None), default=0.0)


def _transformer_steps(report: WindingReport, element: WoundTransformer) -> Iterator[Step]:
    key, turns, way = report.key, report.turns, element.way
    primary, secondary = turns.primary or 0, turns.secondary or 0
    crosses: Values = {"crosses_after": turns.crosses_after}
    if way.in_hand > 1:
        if element.twisted:
            yield _step("twist", key, {"wires": len(way.strands), "share_m": report.cuts[0].cut_m})
        values: Values = {"turns": turns.passes, "wires": way.in_hand, "rings": way.rings, **crosses}
        yield _step("wind_in_hand", key, values)
    elif not element.own_primary:
        yield _step("wind_tapped", key, {"turns": secondary, "tap_after": turns.tap_after or primary, **crosses})
    elif way.key == "separate":
        yield _step("wind_ring", key, {"turns": secondary, **crosses})
        yield _step("wind_pair", key, {"turns": primary, "over": "long"})
    else:
        if element.twisted:
            yield _step("twist", key, {"wires": 2, "share_m": min(c.cut_m for c in report.cuts)})
        yield _step("wind_pair", key, {"turns": primary, "over": ""})
        yield _step("wind_on", key, {"turns": secondary, "from": primary, **crosses})


def _coax_capacitor(element: CoaxCapacitor, made: Any) -> Step:
    cuts = (ToCut(made.cable_name, made.cut_m),)
    values = {"capacitance_f": made.capacitance_f, "coax_m": made.coax_m, "voltage_v": made.peak_voltage_v}
    return _step("coax_capacitor", element.key, values, cuts=cuts)


def _capacitor(element: FixedCapacitor, made: Any) -> Step:
    return _step("capacitor", element.key, {"capacitance_f": made.capacitance_f, "voltage_v": made.peak_voltage_v})


def _section(element: MatchSection, made: Any) -> Step:
    cuts = (ToCut(made.cable_name, made.length_m, made.pieces),)
    return _step("section", element.key, {"length_m": made.length_m, "pieces": made.pieces}, cuts=cuts)


def _stub(element: MatchStub, made: Any) -> Step:
    values = {"length_m": made.length_m, "end": made.end, "coax": "yes" if made.coax else "no"}
    return _step("stub", element.key, values, cuts=(ToCut(made.cable_name, made.cut_m),))


MAKES: Mapping[type[DesignElement], Callable[[Any, PartToMake], Step]] = {
    CoaxCapacitor: _coax_capacitor,
    FixedCapacitor: _capacitor,
    MatchSection: _section,
    MatchStub: _stub,
}


@dataclass(frozen=True, slots=True)
class Whole:
    """What the steps of the whole build ask for.

    Args:
        reports: of what is wound, by key, in the order of the design.
        made: how each element is made, by key.
        wires: pieces of antenna wire to cut; none where it hangs already.
        load: on the bench in place of the antenna; None where it is not known.
        box_name: where it goes; empty where none is known that takes it.
        voltage_v: peak at the antenna's post at full power.
        swept: whether the antenna is known by a sweep: it hangs already.
    """

    reports: Mapping[str, WindingReport]
    made: Mapping[str, PartToMake]
    wires: Sequence[Piece]
    load: BenchLoad | None
    box_name: str
    voltage_v: float
    power_w: float
    swept: bool


def steps_of(design: Design, boxed: Sequence[DesignElement], whole: Whole) -> Iterator[Step]:
    """All of them, in the order of the work."""
    for element in boxed:
        report = whole.reports.get(element.key)
        if report is not None:
            yield from winding_steps(report, design.wound(element.key))
            if not isinstance(element, WoundTransformer):
                yield _bench_part(report, design.wound(element.key), design.center_hz)
        else:
            yield MAKES[type(element)](element, whole.made[element.key])
    live = Caution("voltage", {"voltage_v": whole.voltage_v, "power_w": whole.power_w})
    if boxed:
        enamelled = any(e.key in whole.reports for e in boxed)
        yield _step("solder", "", {"enamelled": "yes" if enamelled else "no"}, cautions=FUMES)
        if whole.load is not None:
            load = whole.load
            bench: Values = {
                "resistor_ohm": load.resistor_ohm,
                "inductance_h": load.inductance_h,
                "capacitance_f": load.capacitance_f,
            }
            yield _step("bench_match", "", bench, cautions=(Caution("hot", {"power_w": whole.power_w}),))
        yield _step("box", "", {"box": whole.box_name}, cautions=(Caution("drilling"), live))
        yield _step("bench_again", "")
    for accessory in design.beside:
        report, count = whole.reports[accessory.key], pieces_of(accessory)
        yield from winding_steps(report, accessory)
        if isinstance(accessory, LegTrap) and accessory.cable is None:
            values: Values = {"capacitance_f": accessory.capacitance_f, "voltage_v": highest_v(report)}
            yield _step("capacitor", accessory.key, values, cautions=FUMES)
        yield _bench_part(report, accessory, design.center_hz)
        place: StepCode = "choke_in_line" if report.kind == "choke" else "into_wire"
        yield _step(place, accessory.key, {"kind": report.kind, "count": count})
    line = design.feedline
    if line is not None and line.length_m > 0:
        yield _step("cut_line", line.key, {}, cuts=(ToCut(line.cable.cable.name, line.length_m),))
    if whole.wires:
        cuts = tuple(ToCut(p.label, p.cut_m, p.count) for p in whole.wires)
        yield _step("cut_wires", "", {"add_m": max(p.add_m for p in whole.wires)}, cuts=cuts)
    outside = (Caution("power_lines"), Caution("lightning"), Caution("low_wires"))
    yield _step("connect" if whole.swept else "hang", "", cautions=outside)
    yield _step("sweep", "", cautions=(Caution("low_power"),) if boxed else (Caution("low_power"), live))
    if not whole.swept:
        yield _step("trim", "")


def _bench_part(report: WindingReport, element: AnyWinding, center_hz: float) -> Step:
    """What a sweep of it alone should show in the middle of the first band; of a trap where it resonates.

    An air coil is squeezed or spread to what the design asks of it, whatever its turns give at first.
    """
    bench, trap = report.bench, report.trap
    values: dict[str, float | str | None] = {"what": bench.what, "kind": report.kind}
    if trap is not None:
        return _step("bench_part", report.key, {**values, "at_hz": trap.resonance_hz, "housed_hz": trap.housed_hz})
    read = {n: float(np.interp(center_hz, bench.frequency_hz, getattr(bench, n))) for n in ("value", "low", "high")}
    wanted = element.inductance_h if isinstance(element, AirCoil) else None
    return _step("bench_part", report.key, {**values, "at_hz": center_hz, **read, "wanted_h": wanted})
