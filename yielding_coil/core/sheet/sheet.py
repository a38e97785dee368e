"""One sheet to make a design from: what to take, the steps, how the box is wired, what the bench shows."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

import numpy as np

from yielding_coil.core.arrays import Complex, Reals
from yielding_coil.core.design import (
    BenchLoad,
    CoaxCapacitor,
    Design,
    Evaluation,
    FixedCapacitor,
    MatchSection,
    MatchStub,
    bench_load,
    design_yield,
    evaluate,
    parts_list,
)
from yielding_coil.core.element import DesignElement, PartToMake
from yielding_coil.core.sheet.batch import Batch, batch_of
from yielding_coil.core.sheet.box import BoxWiring, box_wiring, in_box
from yielding_coil.core.sheet.steps import Step, Whole, highest_v, pieces_of, steps_of
from yielding_coil.core.sheet.things import Holding, Thing, from_drawer
from yielding_coil.core.tolerance import YieldLoss, swr_fan
from yielding_coil.core.winding import (
    AnyWinding,
    BenchCurve,
    Box,
    CoilOnRing,
    CoilView,
    LegTrap,
    LineChoke,
    RingCore,
    RingView,
    WindingReport,
    WoundTransformer,
    fits_box,
)
from yielding_coil.core.wire import Piece, Stock

# Over which the bench is swept for a match that serves a band: so far to either side of its targets.
BESIDE = 0.15
BENCH_POINTS, BENCH_BUILDS = 121, 256
# A resistor as it is sold, two standard deviations (IEC 60063, E24: 5 %).
RESISTOR_SPREAD = 0.05
# Beside a wound thing its parts need so much room again, on either side (common practice).
ROOM = 1.15


@dataclass(frozen=True, slots=True)
class SeriesLoad:
    """A resistor with a coil or a capacitor in series, in place of an antenna; farads and henries in SI units."""

    resistance_ohm: float
    inductance_h: float = 0.0
    capacitance_f: float | None = None

    def impedance_at(self, frequency_hz: Reals) -> Complex:
        """Shape of the frequencies."""
        omega = 2 * np.pi * np.asarray(frequency_hz, dtype=float)
        reactance = omega * self.inductance_h
        if self.capacitance_f is not None:
            reactance = reactance - 1 / (omega * self.capacitance_f)
        return np.asarray(self.resistance_ohm + 1j * reactance)


class PeakAcross(NamedTuple):
    """Peak volts across a part at full power."""

    key: str
    voltage_v: float


@dataclass(frozen=True)
class BuildSheet:
    """Everything that a design is made from.

    Args:
        things: the parts list; with what lies in the drawer for it.
        steps: in the order of the work.
        reports: of what is wound, in the order of the design.
        box: how the match is wired; None where nothing of the design goes into a box.
        load: what lies on the bench in place of the antenna; None where the antenna is not known there.
        bench: the sweep to expect with it; None where there is none.
        box_name: the box that takes it; empty where none is known that does.
        voltage_v: peak at the antenna's post at full power.
        volts: peak across what is wound beside the cascade, by its key, where that is more.
        matters: what costs most builds, the dearest first.
        share: of builds that hold; None where nothing is known to stray.
        batch: of several builds; None as the share.
    """

    things: tuple[Thing, ...]
    steps: tuple[Step, ...]
    reports: tuple[WindingReport, ...]
    box: BoxWiring | None
    load: BenchLoad | None
    bench: BenchCurve | None
    box_name: str
    voltage_v: float
    volts: tuple[PeakAcross, ...]
    power_w: float
    matters: tuple[YieldLoss, ...]
    share: float | None
    batch: Batch | None


def build_sheet(
    design: Design,
    power_w: float,
    duties: Mapping[str, float],
    *,
    boxes: Sequence[Box] = (),
    drawer: Sequence[Holding] = (),
    wires: Sequence[Piece] = (),
    stock: Stock | None = None,
    swept: bool = False,
    builds: int = 1,
) -> BuildSheet:
    """The sheet of a design.

    Args:
        power_w: peak envelope at the radio.
        duties: share of it that heats, by mode.
        boxes: that it may go into, the best first.
        drawer: what lies there.
        wires, stock: pieces of antenna wire to cut, and of which wire.
        swept: whether the antenna hangs and was swept.
        builds: how many are made of it.

    Raises:
        OutOfDomainError: a part that cannot be made, a frequency outside what is known of the antenna; builds
            that are not 1 to 100.
    """
    found = evaluate(design, power_w)
    boxed = in_box(design)
    wound = [e for e in (*boxed, *design.beside) if isinstance(e, AnyWinding)]
    reports = {e.key: _report(design, e, power_w, duties, boxes) for e in wound}
    made = {part.key: part for part in parts_list(found)}
    box_name = _box_of([reports[e.key] for e in boxed if e.key in reports], boxes) if boxed else ""
    bench, load = _on_bench(design, found, boxed, reports)
    top = found.judged[0]
    volts = float(np.nanmax(top.peak_voltage_v, initial=0.0))
    beside = (PeakAcross(e.key, highest_v(reports[e.key])) for e in design.beside)
    wiring = box_wiring(design)
    whole = Whole(
        reports,
        made,
        wires,
        load,
        box_name,
        volts,
        power_w,
        swept,
    )
    things = [
        *_things_of(found, boxed, reports, made),
        *_whole_things(design, wiring, load, box_name, boxes),
        *_wire_things(wires, stock),
    ]
    spreads = design.part_spreads()
    share = design_yield(design, found.system, spreads, costs=True) if spreads else None
    return BuildSheet(
        from_drawer(things, drawer, builds),
        tuple(steps_of(design, boxed, whole)),
        tuple(reports.values()),
        wiring,
        load,
        bench,
        box_name,
        volts,
        tuple(each for each in beside if each.voltage_v > volts),
        power_w,
        () if share is None else tuple(c for c in share.costs if c.share > 0)[:2],
        None if share is None else share.share,
        batch_of(design, builds),
    )


def _report(
    design: Design, element: AnyWinding, power_w: float, duties: Mapping[str, float], boxes: Sequence[Box]
) -> WindingReport:
    task = design.winding_task(
        power_w, duties, key=element.key, resistor_ohm=design.carried_ohm(element.key), boxes=boxes
    )
    return element.report(task)


def _box_of(reports: Sequence[WindingReport], boxes: Sequence[Box]) -> str:
    """The first box that takes all wound things side by side; empty where none does."""
    if not reports:
        return boxes[0].name if boxes else ""
    across = sum(r.fit.outer_m for r in reports) * (ROOM if len(reports) > 1 else 1.0)
    thick = max(r.fit.height_m for r in reports)
    widest = max(r.fit.outer_m for r in reports)
    for box in boxes:
        if not fits_box(widest, thick, box):
            continue
        if len(reports) == 1 or across <= max(box.width_m, box.height_m):
            return box.name
    return ""


def _on_bench(
    design: Design,
    found: Evaluation,
    boxed: Sequence[DesignElement],
    reports: Mapping[str, WindingReport],
) -> tuple[BenchCurve | None, BenchLoad | None]:
    """The sweep to expect of what is in the box, and what lies there in place of the antenna for it."""
    if not boxed:
        return None, None
    alone = _alone(boxed, reports)
    if alone is not None and alone.resistor_ohm is not None:
        swr = float(np.interp(design.center_hz, alone.frequency_hz, alone.value))
        return alone, BenchLoad(design.center_hz, alone.resistor_ohm, None, None, swr, swr)
    load = bench_load(design, found.system)
    if load is None or load.resistor_ohm <= 0:
        return None, None
    return _bench(design, found, load), load


def _alone(boxed: Sequence[DesignElement], reports: Mapping[str, WindingReport]) -> BenchCurve | None:
    """A transformer that is all there is in the box is swept as it is wound: wide, which shows its faults."""
    if len(boxed) != 1 or not isinstance(boxed[0], WoundTransformer):
        return None
    return reports[boxed[0].key].bench


def _bench(design: Design, found: Evaluation, load: BenchLoad) -> BenchCurve:
    """What the finished match shows on the bench, with its parts' spread and a resistor as it is sold."""
    low = min(t.low_hz for t in design.targets) * (1 - BESIDE)
    high = max(t.high_hz for t in design.targets) * (1 + BESIDE)
    f = np.linspace(low, high, BENCH_POINTS)
    spreads = design.part_spreads()

    def system(ohm: float) -> Any:
        stands_in = SeriesLoad(ohm, load.inductance_h or 0.0, load.capacitance_f)
        above = tuple(found.system.elements[: found.system.match_station])
        return replace(found.system, antenna=stands_in, elements=above)

    nominal = load.resistor_ohm
    value = system(nominal).stations(f)[-1].swr
    fans = [
        swr_fan(system(nominal * (1 + k * RESISTOR_SPREAD)), f, spreads, design.rng(), BENCH_BUILDS)
        for k in (-1, 0, 1)
    ]
    return BenchCurve(
        "swr",
        f,
        value,
        np.min([low for low, _ in fans], axis=0),
        np.max([high for _, high in fans], axis=0),
        nominal,
    )


def _things_of(
    found: Evaluation,
    boxed: Sequence[DesignElement],
    reports: Mapping[str, WindingReport],
    made: Mapping[str, PartToMake],
) -> list[Thing]:
    things: list[Thing] = []
    for element in (*boxed, *found.design.beside):
        if element.key in reports and isinstance(element, AnyWinding):
            things += _wound_things(element, reports[element.key], found)
        elif isinstance(element, FixedCapacitor):
            things += _capacitor_things(element, made[element.key])
        elif isinstance(element, CoaxCapacitor | MatchSection | MatchStub):
            things.append(_cable_thing(element, made[element.key]))
    line = found.design.feedline
    if line is not None and line.length_m > 0:
        name = line.cable.cable.name
        things.append(Thing("cable", name, line.key, 1, line.length_m, {"name": name}))
    return things


def _ring_thing(core: RingCore, key: str, rings: int) -> Thing:
    ring = core.ring
    name = f"{ring.size.name}-{ring.material.mix}"
    traits = {"mix": ring.material.mix, "size": ring.size.name}
    return Thing("ring", name, key, ring.stack * rings, None, traits, "measured" if core.measured else "buy")


def _wound_things(element: AnyWinding, report: WindingReport, found: Evaluation) -> list[Thing]:
    key, count = element.key, pieces_of(element)
    things: list[Thing] = []
    view = report.picture
    rings = view.rings if isinstance(view, RingView) else 1
    core = element.core if isinstance(element, CoilOnRing | WoundTransformer | LineChoke) else None
    if core is not None:
        things.append(_ring_thing(core, key, rings))
    elif isinstance(view, CoilView):
        outer = view.former_m
        things.append(Thing("former", "", key, count, None, {"outer_m": outer, "length_m": view.length_m}))
    of_line = isinstance(element, LegTrap | LineChoke) and element.cable is not None
    for cut in report.cuts:
        name, traits = report.made_of.wire, {"diameter_m": report.made_of.wire_m}
        if of_line:
            things.append(Thing("cable", name, key, count, cut.cut_m, {"name": name}))
        else:
            things.append(Thing("wire", name, key, count, cut.cut_m, traits))
    if isinstance(element, WoundTransformer):
        volts = _input_volts(element, found)
        for part in element.across:
            fixed = part.low_f == part.high_f
            traits = {"capacitance_f": part.high_f, "voltage_v": volts, "low_f": part.low_f}
            things.append(Thing("capacitor" if fixed else "variable_capacitor", "", key, 1, None, traits))
    if isinstance(element, LegTrap) and element.cable is None and report.trap is not None:
        traits = {"capacitance_f": element.capacitance_f, "voltage_v": highest_v(report)}
        things.append(Thing("capacitor", "", key, count, None, traits))
    return things


def _input_volts(element: WoundTransformer, found: Evaluation) -> float:
    """Peak across its input; of a tuned coupler, whose capacitor lies across the secondary, at its output."""
    at = found.system.index(element.key) + (0 if element.tuning is not None else 1)
    return float(np.nanmax(found.judged[at].voltage_v, initial=0.0))


def _capacitor_things(element: FixedCapacitor, made: Any) -> list[Thing]:
    volts = made.peak_voltage_v
    if not element.halves:
        traits = {"capacitance_f": element.capacitance_f, "voltage_v": volts}
        return [Thing("capacitor", "", element.key, 1, None, traits)]
    total = sum(1 / f for _, f in element.halves)
    return [
        Thing(
            "capacitor",
            name,
            element.key,
            1,
            None,
            {"capacitance_f": f, "voltage_v": volts * ((1 / f) / total if element.joined == "series" else 1.0)},
        )
        for name, f in element.halves
    ]


def _cable_thing(element: CoaxCapacitor | MatchSection | MatchStub, made: Any) -> Thing:
    length = made.length_m if isinstance(element, MatchSection) else made.cut_m
    pieces = made.pieces if isinstance(element, MatchSection) else 1
    return Thing("cable", made.cable_name, element.key, pieces, length, {"name": made.cable_name})


def _whole_things(
    design: Design, wiring: BoxWiring | None, load: BenchLoad | None, box_name: str, boxes: Sequence[Box]
) -> list[Thing]:
    if wiring is None:
        return []
    key = next((b.key for b in boxes if b.name == box_name), "")
    things = [
        Thing("box", box_name, "", 1, None, {"key": key} if key else None),
        Thing("socket", "", "", 1),
        Thing("post", "", "", len(wiring.posts)),
        Thing("ties", "", "", 0),
    ]
    if load is not None:
        beside = {"inductance_h": load.inductance_h or 0.0, "capacitance_f": load.capacitance_f or 0.0}
        things.append(Thing("resistor", "", "", 1, None, {"resistance_ohm": load.resistor_ohm, **beside}))
    return things


def _wire_things(wires: Sequence[Piece], stock: Stock | None) -> list[Thing]:
    if not wires:
        return []
    traits = None if stock is None else {"diameter_m": 2 * stock.radius_m}
    things = [Thing("antenna_wire", p.label, "", p.count, p.cut_m, traits) for p in wires]
    return [*things, Thing("insulators", "", "", 0)]
