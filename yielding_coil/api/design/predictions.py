"""What a design will do: curves at every station, what to make, and how many builds hold. Nothing is kept."""

from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from fastapi import Request, Response
from pydantic import BaseModel, Field, TypeAdapter

from yielding_coil import data
from yielding_coil.api.design.parts_list import PartToMake
from yielding_coil.api.http import DesignFinding, Figure, Numbers, number, numbers, router_of, rows_of_numbers
from yielding_coil.api.sweep import DRAWN, Floor, Rows, antenna_of, drawn_of, floor_of
from yielding_coil.core.design import (
    Design,
    Evaluation,
    arc_midpoint,
    bench_load,
    compare_feedlines,
    design_findings,
    drawn_grid,
    evaluate,
    parts_list,
    predict_yield,
    wire_split,
)
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line
from yielding_coil.core.system import System
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import CoaxCapacitor, DesignContent, FixedCapacitor, MatchSection, MatchStub
from yielding_coil.documents.fields import Hertz, Positive

router = router_of("design")


class PredictionIn(BaseModel):
    """A design, and over which frequencies to look at it."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    low_hz: Hertz
    high_hz: Hertz
    points: int = Field(default=201, ge=2, le=801)
    # Voltages and currents at every frequency too; the page draws without them.
    carried: bool = True


class StationOut(Rows):
    """A station at those frequencies: what is seen looking up, watts, peaks (empty where not asked for)."""

    key: str
    power_w: Numbers
    loss_w: Numbers
    voltage_v: Numbers
    peak_voltage_v: Numbers
    peak_current_a: Numbers
    halfway_real: Numbers
    halfway_imag: Numbers


_FLOW = ("power_w", "loss_w")
_PEAKS = ("voltage_v", "peak_voltage_v", "peak_current_a")


class TargetOut(BaseModel):
    """The worst SWR that a design has on a target, at the box; and the floor under every lossless match."""

    label: str
    swr_limit: float
    worst_swr: float | None
    floor: Floor | None


class BenchLoadOut(BaseModel):
    """What stands in for the antenna on the bench, and what a perfect build reads with it, and with R alone."""

    at_hz: float
    resistor_ohm: float
    inductance_h: float | None
    capacitance_f: float | None
    swr: Figure
    swr_alone: Figure


class WireSplit(BaseModel):
    """Shares of the power that goes into a modelled wire."""

    at_hz: float
    radiated: float
    wire: float
    loads: float
    ground: float


class Prediction(BaseModel):
    """What a design does, nominal, at these frequencies."""

    frequency_hz: list[float]
    stations: list[StationOut]
    box: int
    targets: list[TargetOut]
    made: list[PartToMake]
    findings: list[DesignFinding]
    # The highest SWR that the radio can read through the feedline, whatever hangs above; null without one.
    ceiling: Numbers | None
    # Of what goes into a modelled wire, in the middle of the first target; null where it is not modelled.
    wire: WireSplit | None
    # Null where the antenna is not known in the middle of the first target.
    bench: BenchLoadOut | None


class YieldIn(PredictionIn):
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


class YieldGain(BaseModel):
    """What one act on one part buys: measured to 1 %, bought tighter, trimmed in place; or several trimmed in turn,

    whose names then stand in `name` with a comma between.
    """

    name: str
    act: Literal["measured", "tighter", "trimmed", "trimmed_in_turn"]
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
    bought: list[YieldGain]
    few_hold: bool
    costly: list[CostOut]
    worthwhile: list[YieldGain]
    limits: list[AtLimit]
    fan_hz: list[float]
    fan_low: Numbers
    fan_high: Numbers
    # Samples round the target that has fewest, where they are too few: then a share is a guess between dots.
    guessed: int | None = None
    # The analyser's own doubt of Γ at the centre (root mean square), where it is kept with the sweep.
    reading_rms: float | None = None


class RulerIn(BaseModel):
    """A part, and the stretch of values that its ruler shows; a length of line goes by its length in metres."""

    element: Annotated[
        Coil | CoaxCapacitor | FixedCapacitor | MatchSection | MatchStub, Field(discriminator="kind")
    ]
    center_hz: Hertz
    low: Positive
    high: Positive


class MarkIn(BaseModel):
    """A coil with so many turns, or so many metres of a line."""

    element: Annotated[Coil | CoaxCapacitor | MatchSection | MatchStub, Field(discriminator="kind")]
    center_hz: Hertz
    make: Positive


class Tick(BaseModel):
    """A mark on the ruler's upper edge: what one makes (turns; metres of coax) and the value it gives."""

    make: float
    value: float


@router.post("/predictions", response_model=Prediction)
def predict(request: Request, asked: PredictionIn) -> Response:
    """Every station of a design over a range of frequencies, and how to make its parts."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    frequency = drawn_grid(design.antenna, asked.low_hz, asked.high_hz, asked.points)
    found = evaluate(design, asked.power_w, frequency)
    answer = Prediction.model_construct(
        frequency_hz=frequency.tolist(),
        stations=_drawn(found, frequency, asked.carried),
        box=found.box,
        targets=[
            TargetOut.model_construct(
                label=t.label,
                swr_limit=t.swr_limit,
                worst_swr=number(w),
                floor=floor_of(design.antenna, t),
            )
            for t, w in zip(design.targets, found.worst_swr, strict=True)
        ],
        made=_MADE.validate_python(parts_list(found), from_attributes=True),
        findings=_FINDINGS.validate_python(design_findings(found), from_attributes=True),
        ceiling=_ceiling(design, frequency),
        wire=_wire(design),
        bench=_bench(design, found.system),
    )
    # Already in shape: validating some ten thousand numbers again would cost more than computing them.
    return Response(answer.model_dump_json(warnings=False), media_type="application/json")


_MADE: TypeAdapter[list[PartToMake]] = TypeAdapter(list[PartToMake])
_FINDINGS: TypeAdapter[list[DesignFinding]] = TypeAdapter(list[DesignFinding])


def _wire(design: Design) -> WireSplit | None:
    found = wire_split(design)
    return None if found is None else WireSplit.model_validate(found, from_attributes=True)


def _bench(design: Design, system: System) -> BenchLoadOut | None:
    load = bench_load(design, system)
    return None if load is None else BenchLoadOut.model_validate(load, from_attributes=True)


def _ceiling(design: Design, frequency: np.ndarray) -> Numbers | None:
    line = design.feedline
    if line is None or line.length_m == 0:
        return None
    return _highest(line.part(design.center_hz), float(frequency[0]), float(frequency[-1]), frequency.size)


@lru_cache(maxsize=64)
def _highest(line: Line, low_hz: float, high_hz: float, points: int) -> Numbers:
    """It stays the same while a part is dragged."""
    return numbers(np.asarray(line.highest_swr(np.linspace(low_hz, high_hz, points), 50.0)))


def _drawn(found: Evaluation, frequency: np.ndarray, with_peaks: bool) -> list[StationOut]:
    """The stations as they travel; all their rows are rounded at once."""
    stations = found.drawn
    seen = np.stack([s.impedance_ohm for s in stations])
    above = np.concatenate([seen[:1], seen[:-1]])
    halfway = np.stack([arc_midpoint(found.system, k, z, frequency) for k, z in enumerate(above)])
    names = (*_FLOW, *_PEAKS) if with_peaks else _FLOW
    flow = np.stack([[getattr(s, name) for name in names] for s in stations])
    rows = np.concatenate([drawn_of(seen), flow, np.stack([halfway.real, halfway.imag], axis=1)], axis=1)
    numbered = rows_of_numbers(rows.reshape(-1, frequency.size))
    at, width = (*DRAWN, *names, "halfway_real", "halfway_imag"), rows.shape[1]
    left_out: dict[str, Numbers] = {} if with_peaks else {name: [] for name in _PEAKS}
    return [
        StationOut.model_construct(
            None,
            key=station.key,
            **dict(zip(at, numbered[k * width : (k + 1) * width], strict=True)),
            **left_out,
        )
        for k, station in enumerate(stations)
    ]


@router.post("/yields")
def yield_of_design(request: Request, asked: YieldIn) -> YieldOut:
    """Builds out of a hundred that hold every target, and the fan of their SWR at the box."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    frequency = drawn_grid(design.antenna, asked.low_hz, asked.high_hz, asked.points)
    found = predict_yield(design, frequency, asked.builds, trimmed=asked.trimmed)
    return YieldOut.model_validate(found, from_attributes=True)


@router.post("/rulers/marks")
def mark(asked: MarkIn) -> Tick:
    """What a number of turns, or a length of open coax, gives at the centre frequency."""
    return Tick.model_validate(asked.element.to_core().mark(asked.center_hz, asked.make), from_attributes=True)


@router.post("/rulers")
def ruler(asked: RulerIn) -> list[Tick]:
    """Marks for half turns, or for every half centimetre of coax, between two values."""
    if not asked.low < asked.high:
        raise OutOfDomainError("high", asked.high, f"above low, {asked.low}")
    ticks = asked.element.to_core().ruler(asked.center_hz, asked.low, asked.high)
    return [Tick.model_validate(t, from_attributes=True) for t in ticks]


class FeedlinesIn(BaseModel):
    """A design with a feedline, to be seen with every other coax of the same length."""

    content: DesignContent
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0


class FeedlineOut(BaseModel):
    """What one coax would do in place of the feedline, at the design's centre."""

    cable: str
    name: str
    here: bool
    loss_w: Figure
    loss_db: Figure
    into_wire_w: Figure
    radio_swr: Figure


@router.post("/feedlines")
def feedlines(request: Request, asked: FeedlinesIn) -> list[FeedlineOut]:
    """Every coax at the length of the design's feedline, least loss first; empty where it has none."""
    design = asked.content.to_core(antenna_of(request, asked.content))
    rows = compare_feedlines(design, asked.power_w, data.cables().values())
    return [FeedlineOut.model_validate(row, from_attributes=True) for row in rows]
