"""What a design will do: curves at every station, what to make, and how many builds hold. Nothing is kept."""

import math
from typing import Annotated, Any, Literal

import numpy as np
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.numbers import Numbers, number, numbers
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.sweeps import Curves
from yielding_coil.core import tolerance
from yielding_coil.core.errors import OutOfDomainError, RefusedError
from yielding_coil.core.line import OpenCoax
from yielding_coil.core.matching import LNetwork, l_networks, part_for_reactance, part_for_susceptance
from yielding_coil.core.optimum import Shape, best_parts, candidates, shape_of, worst_over
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna, System
from yielding_coil.core.tolerance import Spread
from yielding_coil.store.content import (
    AnyElement,
    CoaxCapacitor,
    Coil,
    DesignContent,
    Feedline,
    FixedCapacitor,
    Positive,
)

router = APIRouter(prefix="/api", tags=["predictions"], responses=RESPONSES)

# A coax capacitor longer than about half a metre is a bought one.
LARGEST_COAX_F = 50e-12
# Coax capacitors are cut longer and trimmed; coil ends need something to solder.
TRIM_M = 0.006
TAIL_M = 0.10
MEASURED_SPREAD = 0.01
# Builds tried for a figure that is kept or compared.
BUILDS = 2048


class PredictionAsked(BaseModel):
    """A design, and over which frequencies to look at it."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    low_hz: Positive
    high_hz: Positive
    points: int = Field(default=201, ge=2, le=801)


class StationOut(Curves):
    """A station over frequency: what is seen looking up, watts, peaks."""

    key: str
    power_w: Numbers
    loss_w: Numbers
    voltage_v: Numbers
    peak_voltage_v: Numbers
    peak_current_a: Numbers
    halfway_real: Numbers
    halfway_imag: Numbers


class TargetOut(BaseModel):
    """The worst SWR that a design has on a target, at the box."""

    label: str
    swr_limit: float
    worst_swr: float | None


class CoilMade(BaseModel):
    """How to wind a coil. Lengths in metres; the reading is at the design's centre frequency."""

    kind: Literal["coil"] = "coil"
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
    bare_h: float
    inductance_h: float
    reads_at_hz: float
    q: float
    self_resonance_hz: float
    peak_voltage_v: float | None
    peak_current_a: float | None


class CapacitorMade(BaseModel):
    """How to make a capacitor of coax, or which one to buy."""

    kind: Literal["coax_capacitor", "capacitor"]
    key: str
    capacitance_f: float
    coax_m: float | None
    cut_m: float | None
    cable_name: str | None
    peak_voltage_v: float | None
    peak_current_a: float | None


class LineMade(BaseModel):
    """The feedline: its loss with this load, and matched."""

    kind: Literal["line"] = "line"
    key: str
    cable_name: str
    length_m: float
    loss_db: float | None
    matched_loss_db: float


class Finding(BaseModel):
    """Something to know, as a code and its SI values; the page has the words."""

    code: str
    values: dict[str, float | str | None]


class Prediction(BaseModel):
    """What a design does, nominal."""

    stations: list[StationOut]
    box: int
    targets: list[TargetOut]
    made: list[Annotated[CoilMade | CapacitorMade | LineMade, Field(discriminator="kind")]]
    findings: list[Finding]


class YieldAsked(PredictionAsked):
    """The same, with how many builds to try."""

    builds: Literal[64, 128, 256, 512, 1024, 2048, 4096] = 512


class CostOut(BaseModel):
    """What a contributor costs."""

    name: str
    share: float


class YieldFigure(BaseModel):
    """A share of builds with its standard error, and what each contributor costs."""

    share: float
    standard_error: float
    costs: list[CostOut]
    impossible: int


class Bought(BaseModel):
    """What measuring one part buys: the share with that part known to 1 %."""

    name: str
    parts_share: float
    reading_share: float


class YieldOut(BaseModel):
    """How many builds hold, with part spreads only and with the reading's doubt too; and the fan."""

    parts: YieldFigure
    reading: YieldFigure
    measured: list[Bought]
    fan_hz: list[float]
    fan_low: Numbers
    fan_high: Numbers


class Template(BaseModel):
    """What the parts of a candidate are made of."""

    former_m: Positive = 0.032
    wire: str = "cu-1.6"
    pitch_m: Positive | None = None
    cable: str = "pe-5"


class MatchAsked(BaseModel):
    """An antenna and targets; the elements are what stays below the match."""

    content: DesignContent
    template: Template = Template()
    # Matched exactly here, in closed form; at the best over the targets when left out.
    at_hz: Positive | None = None
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0


class Candidate(BaseModel):
    """One L network at its best over the targets."""

    series: Literal["coil", "capacitor"]
    shunt: Literal["coil", "capacitor"]
    shunt_at: Literal["load", "source"]
    content: DesignContent | None
    worst_swr: float | None
    share: float | None
    heat_w: float | None
    refused: str | None


class RulerAsked(BaseModel):
    """A coil or a coax capacitor, and the stretch of values that its ruler shows."""

    element: Annotated[Coil | CoaxCapacitor | FixedCapacitor, Field(discriminator="kind")]
    center_hz: Positive
    low: Positive
    high: Positive


class Tick(BaseModel):
    """A mark on the ruler's upper edge: what one makes (turns; metres of coax) and the value it gives."""

    make: float
    value: float


@router.post("/predictions", response_model=Prediction)
def predict(request: Request, asked: PredictionAsked) -> Response:
    """Every station of a design over a stretch of frequency, and how to make its parts."""
    content = asked.content
    antenna = antenna_of(request, content)
    system = content.system(antenna)
    frequency = _grid(asked, antenna)
    stations = system.stations(frequency, asked.power_w)
    z_above = [stations[0].impedance_ohm, *(s.impedance_ohm for s in stations[:-1])]
    out = []
    for k, station in enumerate(stations):
        halfway = _halfway(system, k, z_above[k], frequency)
        out.append(
            StationOut.model_construct(
                **dict(Curves.from_core(frequency, station.impedance_ohm)),
                key=station.key,
                power_w=numbers(station.power_w),
                loss_w=numbers(station.loss_w),
                voltage_v=numbers(station.voltage_v),
                peak_voltage_v=numbers(station.peak_voltage_v),
                peak_current_a=numbers(station.peak_current_a),
                halfway_real=numbers(halfway.real),
                halfway_imag=numbers(halfway.imag),
            )
        )
    targets = content.core_targets()
    worst = worst_over(system, targets)
    made = _made(content, system, asked.power_w)
    answer = Prediction.model_construct(
        stations=out,
        box=system.box,
        targets=[
            TargetOut(label=t.label, swr_limit=t.swr_limit, worst_swr=number(w))
            for t, w in zip(targets, worst, strict=True)
        ],
        made=made,
        findings=_findings(content, system, made, asked.power_w),
    )
    # Already in shape: validating some ten thousand numbers again would cost more than computing them.
    return Response(answer.model_dump_json(warnings=False), media_type="application/json")


@router.post("/yields")
def how_many_hold(request: Request, asked: YieldAsked) -> YieldOut:
    """Builds out of a hundred that hold every target, and the fan of their SWR at the box."""
    content = asked.content
    antenna = antenna_of(request, content)
    system = content.system(antenna)
    spreads = content.part_spreads()
    both = [*spreads, content.reading()]
    frequency = _grid(asked, antenna)
    low, high = tolerance.swr_fan(system, frequency, spreads, _rng(content), min(asked.builds, 512))
    parts = _yield(content, system, spreads, asked.builds, costs=True)
    reading = _yield(content, system, both, asked.builds, costs=True)
    measured = []
    for element in content.elements:
        if isinstance(element, Coil) and element.spread > MEASURED_SPREAD:
            known = [_known_to_a_percent(s) if s.name == element.key else s for s in spreads]
            measured.append(
                Bought(
                    name=element.key,
                    parts_share=_yield(content, system, known, asked.builds).share,
                    reading_share=_yield(content, system, [*known, content.reading()], asked.builds).share,
                )
            )
    return YieldOut(
        parts=_figure(parts),
        reading=_figure(reading),
        measured=measured,
        fan_hz=frequency.tolist(),
        fan_low=numbers(low),
        fan_high=numbers(high),
    )


@router.post("/matches")
def matches(request: Request, asked: MatchAsked) -> list[Candidate]:
    """Every L network at its best over the targets, best yield first."""
    return propose(antenna_of(request, asked.content), asked)


@router.post("/rulers")
def ruler(asked: RulerAsked) -> list[Tick]:
    """Marks for half turns, or for every half centimetre of coax, between two values."""
    element = asked.element
    if not asked.low < asked.high:
        raise OutOfDomainError("high", asked.high, f"above low, {asked.low}")
    if isinstance(element, Coil):
        first, last = (
            element.model_copy(update={"inductance_h": value}).turns(asked.center_hz)
            for value in (asked.low, asked.high)
        )
        return [
            Tick(make=n, value=element.solenoid(n).reading_h(asked.center_hz))
            for n in np.arange(first, min(last, first + 200) + 0.1, 0.5).tolist()
        ]
    if isinstance(element, CoaxCapacitor):
        ends = [
            element.model_copy(update={"capacitance_f": c}).to_core(asked.center_hz).length_m
            for c in (max(asked.low, 0.3e-12), asked.high)
        ]
        step = next((s for s in (0.001, 0.005, 0.01, 0.02, 0.05, 0.1) if (ends[1] - ends[0]) / s <= 14), 0.2)
        cable = data.cable(element.cable)
        return [
            Tick(make=length, value=OpenCoax(cable, length).capacitance_f(asked.center_hz))
            for length in (np.arange(math.ceil(ends[0] / step), ends[1] / step + 1e-9) * step).tolist()
            if length > 0
        ]
    return []


def summary_of(content: DesignContent, antenna: Antenna) -> dict[str, Any]:
    """What the shelf says of a design."""
    system = content.system(antenna)
    worst = worst_over(system, content.core_targets())
    share = _yield(content, system, content.part_spreads(), BUILDS).share
    return {"worst_swr": number(max(worst)), "share": share}


def propose(antenna: Antenna, asked: MatchAsked) -> list[Candidate]:
    """Every L network at its best, best yield first; those that cannot be made come last, with the reason."""
    networks = (
        candidates(antenna, asked.content.core_targets())
        if asked.at_hz is None
        else l_networks(complex(antenna.impedance_at(asked.at_hz)), asked.at_hz)
    )
    found = [_candidate(antenna, network, asked) for network in networks]
    return sorted(found, key=lambda c: (c.content is None, -(c.share or 0), c.worst_swr or math.inf))


def _rng(content: DesignContent) -> np.random.Generator:
    return np.random.default_rng(content.seed)


def _grid(asked: PredictionAsked, antenna: Antenna) -> np.ndarray:
    low, high = asked.low_hz, asked.high_hz
    if isinstance(antenna, Sweep):
        low, high = max(low, antenna.low_hz), min(high, antenna.high_hz)
    if not low < high:
        raise OutOfDomainError("high_hz", asked.high_hz, f"above low_hz, {asked.low_hz}, inside the sweep")
    return np.linspace(low, high, asked.points)


def _halfway(system: System, station: int, above: np.ndarray, frequency: np.ndarray) -> np.ndarray:
    """Γ with half of a part's effect, through which its arc on the chart goes."""
    if station == 0 or system.elements[station - 1].place == "through":
        return reflection_of(above)
    element = system.elements[station - 1]
    part = element.part
    if element.place == "series":
        return reflection_of(above + part.impedance_ohm(frequency) / 2)  # type: ignore[union-attr]
    return reflection_of(above / (1 + above * part.admittance_s(frequency) / 2))  # type: ignore[union-attr]


def _yield(
    content: DesignContent, system: System, spreads: list[Spread], builds: int, *, costs: bool = False
) -> tolerance.Yield:
    return tolerance.yield_of(system, content.core_targets(), spreads, _rng(content), builds, costs=costs)


def _figure(found: tolerance.Yield) -> YieldFigure:
    return YieldFigure(
        share=found.share,
        standard_error=found.standard_error,
        costs=[CostOut(name=c.name, share=c.share) for c in found.costs],
        impossible=found.impossible,
    )


def _known_to_a_percent(spread: Spread) -> Spread:
    return Spread(spread.name, spread.element, spread.field, MEASURED_SPREAD)


def _made(content: DesignContent, system: System, power_w: float) -> list[CoilMade | CapacitorMade | LineMade]:
    """How to make each element; voltages are the worst over the targets at full power."""
    over = np.concatenate([np.linspace(t.low_hz, t.high_hz, 21) for t in content.core_targets()])
    stations = system.stations(over, power_w)
    center = content.center_hz
    made: list[CoilMade | CapacitorMade | LineMade] = []
    for element, station in zip(content.elements, stations[1:], strict=True):
        volts = number(np.nanmax(station.peak_voltage_v, initial=0.0))
        amps = number(np.nanmax(station.peak_current_a, initial=0.0))
        if isinstance(element, Coil):
            turns, exact = element.turns(center), element.turns(center, 0)
            wound, fine = element.solenoid(turns), element.to_core(center)
            made.append(
                CoilMade(
                    key=element.key,
                    turns=turns,
                    turns_exact=exact,
                    former_m=element.former_m,
                    wire_name=element.wire_row.name,
                    touching=element.pitch_m is None,
                    pitch_m=wound.pitch_m,
                    winding_m=wound.length_m,
                    wire_m=wound.wire_length_m,
                    tail_m=TAIL_M,
                    bare_h=float(fine.inductance_h),
                    inductance_h=element.inductance_h,
                    reads_at_hz=center,
                    q=float(fine.q),
                    self_resonance_hz=wound.self_resonance_hz,
                    peak_voltage_v=volts,
                    peak_current_a=amps,
                )
            )
        elif isinstance(element, Feedline):
            line = element.to_core(center)
            above = stations[content.elements.index(element)]
            middle = len(over) // (2 * len(content.targets))
            load = complex(above.impedance_ohm[middle])
            made.append(
                LineMade(
                    key=element.key,
                    cable_name=line.cable.name,
                    length_m=element.length_m,
                    loss_db=number(line.loss_db(over[middle], load)) if load.real > 0 else None,
                    matched_loss_db=float(line.matched_loss_db(center)),
                )
            )
        else:
            coax = element.to_core(center) if isinstance(element, CoaxCapacitor) else None
            made.append(
                CapacitorMade(
                    kind=element.kind,
                    key=element.key,
                    capacitance_f=element.capacitance_f,
                    coax_m=coax.length_m if coax else None,
                    cut_m=coax.length_m + TRIM_M if coax else None,
                    cable_name=coax.cable.name if coax else None,
                    peak_voltage_v=volts,
                    peak_current_a=amps,
                )
            )
    return made


def _findings(
    content: DesignContent,
    system: System,
    made: list[CoilMade | CapacitorMade | LineMade],
    power_w: float,
) -> list[Finding]:
    over = np.concatenate([np.linspace(t.low_hz, t.high_hz, 21) for t in content.core_targets()])
    stations = system.stations(over, power_w)
    volts = [float(np.nanmax(s.voltage_v, initial=0.0)) for s in stations[: system.box + 1]]
    where = int(np.argmax(volts))
    found = [
        Finding(
            code="rf_voltage",
            values={"voltage_v": number(volts[where]), "power_w": power_w, "at": stations[where].key},
        )
    ]
    for item in made:
        if isinstance(item, CoilMade):
            ratio = item.reads_at_hz / item.self_resonance_hz
            if ratio > 0.3:
                found.append(
                    Finding(
                        code="near_self_resonance" if ratio > 0.5 else "own_capacitance",
                        values={"key": item.key, "ratio": ratio, "self_resonance_hz": item.self_resonance_hz},
                    )
                )
    for element in content.elements:
        row = data.cables().get(getattr(element, "cable", ""))
        if row and row.lowest_hz and content.center_hz < row.lowest_hz:
            found.append(Finding(code="cable_off_its_law", values={"key": element.key, "below_hz": row.lowest_hz}))
    return found


def _element_for(
    key: str, kind: str, place: Literal["series", "shunt"], value: float, template: Template
) -> AnyElement:
    if kind == "coil":
        return Coil(
            key=key,
            place=place,
            inductance_h=value,
            former_m=template.former_m,
            wire=template.wire,
            pitch_m=template.pitch_m,
        )
    if value <= LARGEST_COAX_F:
        return CoaxCapacitor(key=key, place=place, capacitance_f=value, cable=template.cable)
    return FixedCapacitor(key=key, place=place, capacitance_f=value)


def _with_match(asked: MatchAsked, shape: Shape, series_value: float, shunt_value: float) -> DesignContent:
    """The content asked for with this L above its feedline."""
    template = asked.template
    shunt_key = "shunt" if shape.series == shape.shunt else shape.shunt
    series_key = "series" if shape.series == shape.shunt else shape.series
    parts = [
        _element_for(shunt_key, shape.shunt, "shunt", shunt_value, template),
        _element_for(series_key, shape.series, "series", series_value, template),
    ]
    if shape.shunt_at == "source":
        parts.reverse()
    below = [e for e in asked.content.elements if isinstance(e, Feedline)]
    return asked.content.model_copy(update={"elements": [*parts, *below]})


def _reading_h(bare_h: float, coil: Inductor | None, frequency_hz: float) -> float:
    """What an analyser reads of a coil with this much inductance and its own capacitance."""
    own_f = 0.0 if coil is None else float(coil.self_capacitance_f)
    reads = 1 / (1 / bare_h - (2 * math.pi * frequency_hz) ** 2 * own_f)
    if reads < 0:
        raise OutOfDomainError("inductance_h", f"{bare_h * 1e6:.3g} µH", "below its self-resonance")
    return reads


def _qualities(content: DesignContent) -> tuple[Inductor | None, Capacitor | None]:
    """Loss and own capacitance of the parts as they would be made."""
    center = content.center_hz
    coil = next((e.to_core(center) for e in content.elements if isinstance(e, Coil)), None)
    return coil, Capacitor(1e-11, q=1000.0)


def _candidate(antenna: Antenna, network: LNetwork, asked: MatchAsked) -> Candidate:
    """The best values, with the quality of parts made to those values: twice round is enough."""
    shape = shape_of(network)
    targets = asked.content.core_targets()
    out = Candidate(
        series=shape.series,
        shunt=shape.shunt,
        shunt_at=shape.shunt_at,
        content=None,
        worst_swr=None,
        share=None,
        heat_w=None,
        refused=None,
    )
    coil: Inductor | None = None
    capacitor: Capacitor | None = None
    try:
        if asked.at_hz is not None:
            exact = (
                part_for_reactance(network.series_reactance_ohm, asked.at_hz)[1],
                part_for_susceptance(network.shunt_susceptance_s, asked.at_hz)[1],
            )
            content = _with_match(asked, shape, *exact)
        for _ in range(2 if asked.at_hz is None else 0):
            best = best_parts(antenna, network, targets, coil, capacitor)
            values = [
                _reading_h(value, coil, asked.content.center_hz) if kind == "coil" else value
                for kind, value in ((shape.series, best.series_value), (shape.shunt, best.shunt_value))
            ]
            content = _with_match(asked, shape, *values)
            coil, capacitor = _qualities(content)
        system = content.system(antenna)
    except RefusedError as why:
        return out.model_copy(update={"refused": why.message})
    stations = system.stations(content.center_hz, asked.power_w)
    heat = sum(float(s.loss_w) for s in stations[1 : system.box + 1])
    return out.model_copy(
        update={
            "content": content,
            "worst_swr": number(max(worst_over(system, targets))),
            "share": _yield(content, system, content.part_spreads(), BUILDS).share,
            "heat_w": number(heat),
        }
    )
