"""The sheet that a state of a design is made from."""

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request
from pydantic import BaseModel, BeforeValidator
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.design import BenchLoadOut, CostOut
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.sheet.ticks import StepTickOut, tick_out
from yielding_coil.api.sweep import antenna_of
from yielding_coil.api.winding import BenchOut, WindingOut, boxes_for, winding_out
from yielding_coil.core.design import Design
from yielding_coil.core.sheet import MOST, BuildSheet, CautionCode, Source, Step, StepCode, ThingKind, build_sheet
from yielding_coil.documents.design import DesignContent, SweptAntenna, read_content
from yielding_coil.documents.fields import Counted
from yielding_coil.documents.log import WirePlan
from yielding_coil.documents.piece import holdings_of
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as design_queries
from yielding_coil.store import ticks as tick_queries
from yielding_coil.store.entries import kinds_of
from yielding_coil.store.pieces import piece_of, pieces
from yielding_coil.store.tables import Build, DesignRevision

router = router_of("sheet")


class ThingOut(BaseModel):
    """A line of the parts list; `count` 0 as many as are needed, `length_m` of each piece."""

    kind: ThingKind
    name: str
    part: str
    count: int
    length_m: float | None
    traits: Annotated[dict[str, float | str], BeforeValidator(lambda found: dict(found or {}))]
    source: Source
    have: int | None
    price: str


class ToCutOut(BaseModel):
    """A piece to cut, so many times."""

    name: str
    length_m: float
    count: int


class CautionOut(BaseModel):
    """What may hurt at a step."""

    code: CautionCode
    values: Mapping[str, float | str | None]


class SheetStepOut(BaseModel):
    """One step to tick; its values in SI units."""

    key: str
    code: StepCode
    part: str
    values: Mapping[str, float | str | None]
    cuts: list[ToCutOut]
    cautions: list[CautionOut]


class BoxPartOut(BaseModel):
    """A part in the box and the places that it lies between: two, or upper hot and cold, lower hot and cold."""

    key: str
    kind: str
    place: str
    between: list[str]
    end: str | None


class BoxWiringOut(BaseModel):
    """How a box is wired: the posts outside, hot one first, the parts from the antenna down, plain links."""

    posts: list[str]
    parts: list[BoxPartOut]
    links: list[list[str]]


class BatchOut(BaseModel):
    """Of so many builds how many will hold: on average, and between which bounds nine times in ten or more."""

    builds: int
    expected: float
    low: int
    high: int
    # So much is open that one is made and swept before the others.
    first_alone: bool


class PeakOut(BaseModel):
    """Peak volts across a part at full power."""

    key: str
    voltage_v: float


class SheetOut(BaseModel):
    """Everything that one state of a design is made from."""

    design_id: UUID
    name: str
    number: Counted
    newest: Counted
    # The newest state that carries a tick; null where nobody began.
    begun: Counted | None
    label: str
    made_at: datetime
    content: DesignContent
    things: list[ThingOut]
    steps: list[SheetStepOut]
    windings: list[WindingOut]
    box: BoxWiringOut | None
    box_name: str
    load: BenchLoadOut | None
    bench: BenchOut | None
    voltage_v: float
    # Across what is wound beside the cascade, where that is more.
    volts: list[PeakOut]
    power_w: float
    matters: list[CostOut]
    share: float | None
    batch: BatchOut | None
    ticks: list[StepTickOut]


@router.get("/designs/{design_id}/revisions/{number}/sheet")
def sheet_of_revision(
    request: Request,
    session: InTransaction,
    design_id: UUID,
    number: Counted,
    builds: Annotated[int, Query(ge=1, le=MOST)] = 1,
) -> SheetOut:
    """The build sheet of one state of a design, or of so many builds of it."""
    row = design_queries.one_design(session, design_id)
    state = design_queries.revision(session, design_id, number)
    build = build_queries.one_build(session, row.build_id)
    design, found = _sheet(request, session, build, state, builds)
    reports = [
        winding_out(design.wound(report.key), report, design.carried_ohm(report.key)) for report in found.reports
    ]
    return SheetOut.model_validate(
        {
            **{name: getattr(found, name) for name in _PLAIN},
            "design_id": design_id,
            "name": row.name,
            "number": number,
            "newest": design_queries.newest(session, design_id).number,
            "begun": tick_queries.begun(session, design_id),
            "label": state.label,
            "made_at": state.made_at,
            "content": read_content(state.content),
            "windings": reports,
            "ticks": [tick_out(t) for t in tick_queries.ticks_of(session, design_id, number) if t.revision > 0],
        },
        from_attributes=True,
    )


_PLAIN = (
    "things",
    "steps",
    "box",
    "box_name",
    "load",
    "bench",
    "voltage_v",
    "volts",
    "power_w",
    "matters",
    "share",
    "batch",
)


def _sheet(
    request: Request, session: Session, build: Build, state: DesignRevision, builds: int
) -> tuple[Design, BuildSheet]:
    content = read_content(state.content)
    design = content.to_core(antenna_of(request, content))
    plan = None if build.wire is None else WirePlan.model_validate(build.wire)
    hangs = isinstance(content.antenna, SweptAntenna) or "hung" in kinds_of(session, build.id)
    unit = build_queries.settings(session).units
    cut = () if plan is None or hangs else plan.pieces(design.targets, unit)  # type: ignore[arg-type]
    stock = plan.antenna.stock.to_core() if plan is not None and plan.antenna is not None else None
    drawer = holdings_of([(row.id, piece_of(row)) for row in pieces(session)])
    found = build_sheet(
        design,
        build.power_w,
        data.MODE_DUTY,
        boxes=boxes_for(session),
        drawer=drawer,
        wires=cut,
        stock=stock,
        swept=hangs,
        builds=builds,
    )
    return design, found


class CarryIn(BaseModel):
    """From which earlier state ticks are carried over."""

    number: Counted


@router.post("/designs/{design_id}/revisions/{number}/ticks/carried")
def carry_ticks(
    request: Request, session: InTransaction, design_id: UUID, number: Counted, earlier: CarryIn
) -> list[StepTickOut]:
    """Ticks and notes of an earlier state, for every step that is the same in both; what is ticked here stays."""
    row = design_queries.one_design(session, design_id)
    build = build_queries.one_build(session, row.build_id)
    states = [design_queries.revision(session, design_id, n) for n in (earlier.number, number)]
    before, after = ({s.key: s for s in _sheet(request, session, build, state, 1)[1].steps} for state in states)
    here = {t.step for t in tick_queries.ticks_of(session, design_id, number) if t.revision > 0}
    for tick in tick_queries.ticks_of(session, design_id, earlier.number):
        same = _same(before.get(tick.step), after.get(tick.step))
        if same and tick.step not in here and tick.revision > 0:
            tick_queries.keep_tick(
                session,
                design_id,
                number,
                tick.step,
                revision=0,
                done=tick.done,
                note=tick.note,
                newest=tick_out,
            )
    return [tick_out(t) for t in tick_queries.ticks_of(session, design_id, number) if t.revision > 0]


def _same(before: Step | None, after: Step | None) -> bool:
    return before is not None and before == after
