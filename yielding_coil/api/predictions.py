"""What a design will do: curves at every station, what to make, and how many builds hold. Nothing is kept."""

import math
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.curves import DRAWN, Curves, drawn_of
from yielding_coil.api.holding import held, rng_of
from yielding_coil.api.making import Finding, Made, findings_of, looked_at, made_of
from yielding_coil.api.numbers import Numbers, number, numbers, rows_of_numbers
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.readings import Floor, floor_of
from yielding_coil.core import tolerance
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line, OpenCoax
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Antenna, Station, System
from yielding_coil.core.tolerance import Spread
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import CoaxCapacitor, DesignContent, Feedline, FixedCapacitor
from yielding_coil.documents.fields import Hertz, Positive

router = APIRouter(prefix="/api", tags=["predictions"], responses=RESPONSES)

MEASURED_SPREAD = 0.01
# What widening or tightening the limit would do, at the limits people speak of.
LIMITS = (1.5, 2.0, 3.0)
# What can be squeezed or cut in place, watching the SWR; a wound core cannot.
TRIMMED = (Coil, CoaxCapacitor, FixedCapacitor)


class PredictionAsked(BaseModel):
    """A design, and over which frequencies to look at it."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    low_hz: Hertz
    high_hz: Hertz
    points: int = Field(default=201, ge=2, le=801)
    # Voltages and currents at every frequency too; the page draws without them.
    carried: bool = True


class StationOut(Curves):
    """A station over frequency: what is seen looking up, watts, peaks (empty where not asked for)."""

    key: str
    power_w: Numbers
    loss_w: Numbers
    voltage_v: Numbers
    peak_voltage_v: Numbers
    peak_current_a: Numbers
    halfway_real: Numbers
    halfway_imag: Numbers


_FLOW = ("power_w", "loss_w")
_CARRIED = ("voltage_v", "peak_voltage_v", "peak_current_a")


class TargetOut(BaseModel):
    """The worst SWR that a design has on a target, at the box; and the floor under every lossless match."""

    label: str
    swr_limit: float
    worst_swr: float | None
    floor: Floor | None


class Prediction(BaseModel):
    """What a design does, nominal."""

    stations: list[StationOut]
    box: int
    targets: list[TargetOut]
    made: list[Made]
    findings: list[Finding]
    # The highest SWR that the radio can read through the feedline, whatever hangs above; null without one.
    ceiling: Numbers | None


class YieldAsked(PredictionAsked):
    """The same, with how many builds to try."""

    builds: Literal[64, 128, 256, 512, 1024, 2048, 4096] = 512
    # Also what trimming each part in place buys, which takes a few hundred milliseconds.
    trimmed: bool = False


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
    """What one act on one part buys: the share with it measured to 1 %, or trimmed in place."""

    name: str
    act: Literal["measured", "trimmed"]
    parts_share: float
    reading_share: float


class AtLimit(BaseModel):
    """The share of builds that stay within a limit on every target."""

    swr_limit: float
    parts_share: float
    reading_share: float


class YieldOut(BaseModel):
    """How many builds hold, with part spreads only and with the reading's doubt too; and the fan."""

    parts: YieldFigure
    reading: YieldFigure
    bought: list[Bought]
    limits: list[AtLimit]
    fan_hz: list[float]
    fan_low: Numbers
    fan_high: Numbers


class RulerAsked(BaseModel):
    """A coil or a coax capacitor, and the stretch of values that its ruler shows."""

    element: Annotated[Coil | CoaxCapacitor | FixedCapacitor, Field(discriminator="kind")]
    center_hz: Hertz
    low: Positive
    high: Positive


class MarkAsked(BaseModel):
    """A coil with so many turns, or a coax capacitor of so many metres."""

    element: Annotated[Coil | CoaxCapacitor, Field(discriminator="kind")]
    center_hz: Hertz
    make: Positive


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
    stations, over = looked_at(content, system, asked.power_w, frequency)
    targets = content.core_targets()
    made = made_of(content, over)
    answer = Prediction.model_construct(
        stations=_drawn(system, stations, frequency, asked.carried),
        box=system.box,
        targets=[
            TargetOut(label=t.label, swr_limit=t.swr_limit, worst_swr=number(w), floor=floor_of(antenna, t))
            for t, w in zip(targets, over.worst_swr, strict=True)
        ],
        made=made,
        findings=findings_of(content, over, made),
        ceiling=_ceiling(content, frequency),
    )
    # Already in shape: validating some ten thousand numbers again would cost more than computing them.
    return Response(answer.model_dump_json(warnings=False), media_type="application/json")


def _ceiling(content: DesignContent, frequency: np.ndarray) -> Numbers | None:
    line = next((e for e in content.elements if isinstance(e, Feedline) and e.length_m > 0), None)
    if line is None:
        return None
    return _highest(line.to_core(content.center_hz), float(frequency[0]), float(frequency[-1]), frequency.size)


@lru_cache(maxsize=64)
def _highest(line: Line, low_hz: float, high_hz: float, points: int) -> Numbers:
    """It stays the same while a part is dragged."""
    return numbers(np.asarray(line.highest_swr(np.linspace(low_hz, high_hz, points), 50.0)))


def _drawn(system: System, stations: tuple[Station, ...], frequency: np.ndarray, carried: bool) -> list[StationOut]:
    """The stations as they travel; all their rows are rounded at once."""
    seen = np.stack([s.impedance_ohm for s in stations])
    above = np.concatenate([seen[:1], seen[:-1]])
    halfway = np.stack([_halfway(system, k, z, frequency) for k, z in enumerate(above)])
    names = (*_FLOW, *_CARRIED) if carried else _FLOW
    flow = np.stack([[getattr(s, name) for name in names] for s in stations])
    rows = np.concatenate([drawn_of(seen), flow, np.stack([halfway.real, halfway.imag], axis=1)], axis=1)
    numbered = rows_of_numbers(rows.reshape(-1, frequency.size))
    at, width, hertz = (*DRAWN, *names, "halfway_real", "halfway_imag"), rows.shape[1], frequency.tolist()
    left_out: dict[str, Numbers] = {} if carried else {name: [] for name in _CARRIED}
    return [
        StationOut.model_construct(
            None,
            frequency_hz=hertz,
            key=station.key,
            **dict(zip(at, numbered[k * width : (k + 1) * width], strict=True)),
            **left_out,
        )
        for k, station in enumerate(stations)
    ]


@router.post("/yields")
def how_many_hold(request: Request, asked: YieldAsked) -> YieldOut:
    """Builds out of a hundred that hold every target, and the fan of their SWR at the box."""
    content = asked.content
    antenna = antenna_of(request, content)
    system = content.system(antenna)
    spreads = content.part_spreads()
    both = [*spreads, content.reading()]
    frequency = _grid(asked, antenna)
    low, high = tolerance.swr_fan(system, frequency, spreads, rng_of(content), min(asked.builds, 512))
    parts = held(content, system, spreads, asked.builds, costs=True)
    reading = held(content, system, both, asked.builds, costs=True)
    bought = []
    for element in content.elements:
        if not isinstance(element, Feedline) and element.spread > MEASURED_SPREAD:
            known = [s for s in spreads if s.name != element.key]
            own = next(s for s in spreads if s.name == element.key)
            known.append(_known_to_a_percent(own))
            bought.append(
                Bought(
                    name=element.key,
                    act="measured",
                    parts_share=held(content, system, known, asked.builds).share,
                    reading_share=held(content, system, [*known, content.reading()], asked.builds).share,
                )
            )
        if asked.trimmed and isinstance(element, TRIMMED) and element.spread > 0:
            shares = [
                tolerance.share_trimmed(
                    system, content.core_targets(), each, rng_of(content), element.key, min(asked.builds, 512)
                )
                for each in (spreads, both)
            ]
            bought.append(Bought(name=element.key, act="trimmed", parts_share=shares[0], reading_share=shares[1]))
    at_limits = [
        tolerance.shares_at(system, content.core_targets(), each, rng_of(content), LIMITS, asked.builds)
        for each in (spreads, both)
    ]
    return YieldOut(
        parts=_figure(parts),
        reading=_figure(reading),
        bought=bought,
        limits=[
            AtLimit(swr_limit=limit, parts_share=a, reading_share=b)
            for limit, a, b in zip(LIMITS, *at_limits, strict=True)
        ],
        fan_hz=frequency.tolist(),
        fan_low=numbers(low),
        fan_high=numbers(high),
    )


@router.post("/rulers/marks")
def mark(asked: MarkAsked) -> Tick:
    """What a number of turns, or a length of open coax, gives at the centre frequency."""
    element = asked.element
    if isinstance(element, Coil):
        coil = element.solenoid(asked.make)
        coil.apparent_inductance_h(asked.center_hz)  # refuses above 0.9 of self-resonance
        return Tick(make=asked.make, value=coil.reading_h(asked.center_hz))
    stub = OpenCoax(data.cable(element.cable), asked.make)
    value = stub.capacitance_f(asked.center_hz)
    if value <= 0:
        raise OutOfDomainError(
            "make", f"{asked.make:g} m", "shorter than a quarter-wave: a longer stub is no capacitor"
        )
    return Tick(make=asked.make, value=value)


@router.post("/rulers")
def ruler(asked: RulerAsked) -> list[Tick]:
    """Marks for half turns, or for every half centimetre of coax, between two values."""
    element = asked.element
    if not asked.low < asked.high:
        raise OutOfDomainError("high", asked.high, f"above low, {asked.low}")
    if isinstance(element, Coil):
        first, last = (
            element.model_copy(update={"inductance_h": min(max(value, 1e-12), 1e3)}).turns(asked.center_hz)
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


def _figure(found: tolerance.Yield) -> YieldFigure:
    return YieldFigure(
        share=found.share,
        standard_error=found.standard_error,
        costs=[CostOut(name=c.name, share=c.share) for c in found.costs],
        impossible=found.impossible,
    )


def _known_to_a_percent(spread: Spread) -> Spread:
    return Spread(spread.name, spread.element, spread.field, MEASURED_SPREAD)


class FeedlinesAsked(BaseModel):
    """A design with a feedline, to be seen with every other coax of the same length."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0


class FeedlineOut(BaseModel):
    """What one coax would do in place of the feedline, at the design's centre."""

    cable: str
    name: str
    here: bool
    loss_w: float | None
    loss_db: float | None
    into_wire_w: float | None
    radio_swr: float | None


@router.post("/feedlines")
def feedlines(request: Request, asked: FeedlinesAsked) -> list[FeedlineOut]:
    """Every coax at the length of the design's feedline, least loss first; empty where it has none."""
    content = asked.content
    line = next((e for e in content.elements if isinstance(e, Feedline)), None)
    if line is None or line.length_m == 0:
        return []
    antenna = antenna_of(request, content)
    rows = []
    for key, row in {**data.cables(), line.cable: line.row}.items():
        if not row.coax and key != line.cable:
            continue
        other = line if key == line.cable else line.model_copy(update={"cable": key, "piece": None})
        elements = [other if e is line else e for e in content.elements]
        system = content.model_copy(update={"elements": elements}).system(antenna)
        stations = system.stations(content.center_hz, asked.power_w)
        loss = float(sum(s.loss_w for s in stations[system.box + 1 :]))
        rows.append(
            FeedlineOut(
                cable=key,
                name=row.cable.name,
                here=key == line.cable,
                loss_w=number(loss),
                loss_db=number(-10 * np.log10(1 - loss / asked.power_w)) if 0 <= loss < asked.power_w else None,
                into_wire_w=number(stations[0].power_w),
                radio_swr=number(stations[-1].swr),
            )
        )
    return sorted(rows, key=lambda r: (r.loss_w is None, r.loss_w))
