"""Which antenna for a place: every school compared as a job, and one of them planned in full."""

from collections.abc import Sequence
from typing import Annotated, Literal

from fastapi import FastAPI, Request
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from yielding_coil.api.http import Figure, JobOut, Plan, ProgressSink, router_of
from yielding_coil.core import antenna as antennas
from yielding_coil.core import choice as core
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.system import Element
from yielding_coil.core.wire import KINDS, Hung
from yielding_coil.documents.design import DesignContent, TargetPayload
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.piece import AnyPiece
from yielding_coil.documents.ring_wound import WoundTransformer
from yielding_coil.documents.usual import USUAL_CABLE, USUAL_LINE_M, below_without_tuner, usual_content
from yielding_coil.documents.wire import KindKey, Soil, WireAntenna, WireStock
from yielding_coil.searchers.searchers import SHARES, Searchers
from yielding_coil.store.pieces import piece_of, pieces

router = router_of("choice", "/api/schools")

SchoolKey = Literal[
    "dipole",
    "inverted-v",
    "linked-v",
    "sloping-dipole",
    "end-fed",
    "any-length",
    "trap-dipole",
    "fan-dipole",
    "loaded-dipole",
    "vertical",
    "raised-vertical",
    "five-eighths",
    "loaded-vertical",
    "hat-vertical",
    "coil-isolated-vertical",
    "trap-vertical",
    "sleeve-dipole",
    "triangle",
    "square",
    "nested-loops",
]
Care = Literal["watts", "tunerless", "small", "cheap"]
Metres = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]


class PlaceIn(BaseModel):
    """Supports and room, in metres; a second support of 0 is none."""

    high_m: Metres = 7.0
    is_pole: bool = True
    other_m: Metres = 0.0
    span_m: Metres = 0.0
    width_m: Metres = 20.0
    on_ground: bool = True
    clear_m: Metres = 2.5
    tuner: bool = True
    stock: WireStock = WireStock()
    soil: Soil = Soil()

    def to_core(self) -> core.Place:
        """For the core.

        Raises:
            OutOfDomainError: no support, no room.
        """
        return core.Place(
            high_m=self.high_m,
            width_m=self.width_m,
            other_m=self.other_m,
            span_m=self.span_m,
            is_pole=self.is_pole,
            on_ground=self.on_ground,
            clear_m=self.clear_m,
            tuner=self.tuner,
            stock=self.stock.to_core(),
            soil=self.soil.to_core(),
        )


class SchoolsIn(BaseModel):
    """A place and the bands that are wanted there."""

    kind: Literal["schools"] = "schools"
    place: PlaceIn
    targets: list[TargetPayload] = Field(max_length=6)
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    cable: Annotated[str, Field(min_length=1, max_length=40)] = USUAL_CABLE
    line_m: Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)] = USUAL_LINE_M


class ObstacleOut(BaseModel):
    """What stands in the way: what it needs, and what there is; metres, or as counted."""

    model_config = ConfigDict(from_attributes=True)

    code: core.ObstacleCode
    needs: float
    there: float


class SchoolBandOut(BaseModel):
    """A school on a band; watts null where the radio cannot give them."""

    model_config = ConfigDict(from_attributes=True)

    label: str
    up_w: Figure
    low_w: Figure
    high_w: Figure
    wire_w: Figure
    swr: Figure
    holds: bool
    tuner: bool


class DrawnWire(BaseModel):
    """A wire from the side."""

    x1_m: float
    z1_m: float
    x2_m: float
    z2_m: float


class DrawnPoint(BaseModel):
    """A point from the side: the feed, a coil, a trap."""

    x_m: float
    z_m: float


class NeedOut(BaseModel):
    """A thing that it takes: how many, its value in SI where it has one; whether the drawer has it, its price."""

    what: Literal["wire", "coax", "unun", "section", "coil", "trap", "radials", "tuner"]
    count: int
    value: float | None
    ring: str | None
    have: bool
    price: str


class SchoolCardOut(BaseModel):
    """A school at the place: what goes up, what it takes, and how it looks; or what stands in its way."""

    key: SchoolKey
    antenna: KindKey
    obstacle: ObstacleOut | None
    bands: list[SchoolBandOut]
    walks: bool
    height_m: float
    span_m: float
    wire_m: float
    least_w: float
    needs_tuner: bool
    needs: list[NeedOut]
    # Whether all that is wound or bought of it lies in the drawer.
    from_drawer: bool
    wires: list[DrawnWire]
    parts: list[DrawnPoint]
    feed: DrawnPoint | None


class RankingOut(BaseModel):
    """Cards that fit, the best first for what one cares for, by their places."""

    care: Care
    order: list[int]


class SchoolsFound(BaseModel):
    """The schools that are through so far; bands without any of which something fits, where nothing does."""

    cards: list[SchoolCardOut]
    rankings: list[RankingOut]
    drop: list[str]
    top_m: float


class SchoolsProgress(BaseModel):
    """How many schools are through, of all."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)

    stage: Literal["comparing", "done"] = "comparing"
    done: int = 0
    of: int = 0


class SchoolsJob(JobOut[Literal["schools"], SchoolsProgress, SchoolsFound]):
    """How far a comparison has come, and what it has found."""


def plan_schools(app: FastAPI, asked: SchoolsIn) -> Plan[SchoolsProgress, SchoolsFound]:
    """A comparison of every school.

    Raises:
        RefusedError: no band, no support, no room.
    """
    place = asked.place.to_core()
    if not asked.targets:
        raise OutOfDomainError("bands", "none", "at least one")
    targets = tuple(target.to_core() for target in asked.targets)
    kinds = {school.kind_key for school in core.SCHOOLS.values()}
    below = {key: _below(key, asked) for key in kinds}
    with Session(app.state.engine) as session:
        drawer = [piece_of(row) for row in pieces(session)]
    task = core.SchoolsTask(place, targets, below, asked.power_w)
    searchers: Searchers = app.state.searchers

    def work(sink: ProgressSink[SchoolsProgress, SchoolsFound]) -> None:
        for state in searchers.compared(task, sink.should_continue):
            if state.stage == "done" or sink.is_due():
                progress = SchoolsProgress(stage=state.stage, done=len(state.cards), of=state.of)
                sink.report(progress, _found(state, asked, place, drawer))

    return Plan(asked.kind, work, SchoolsJob, SchoolsProgress(of=len(core.SCHOOLS)))


def _below(kind: str, asked: SchoolsIn) -> tuple[tuple[Element, ...], ...]:
    """What usually stands below such an antenna on each band, but for the tuner: that is set band by band."""
    antenna = WireAntenna.model_validate({"antenna": kind, "numbers": {}})
    found = []
    for target in asked.targets:
        found.append(below_without_tuner(usual_content(antenna, [target], asked.cable, asked.line_m)))
    return tuple(found)


def _found(state: core.Compared, asked: SchoolsIn, place: core.Place, drawer: Sequence[AnyPiece]) -> SchoolsFound:
    cares: tuple[Care, ...] = ("watts", "tunerless", "small", "cheap")
    return SchoolsFound(
        cards=[_card(card, asked, drawer) for card in state.cards],
        rankings=[RankingOut(care=care, order=list(core.ranked(state.cards, care))) for care in cares],
        drop=list(state.drop),
        top_m=place.top_m,
    )


def _card(card: core.SchoolCard, asked: SchoolsIn, drawer: Sequence[AnyPiece]) -> SchoolCardOut:
    needs = [] if card.obstacle else _needs(card, asked, drawer)
    wires, parts, feed = ([], [], None) if card.hung is None else _drawn(card.hung)
    return SchoolCardOut.model_validate(
        {
            "key": card.key,
            "antenna": card.kind_key,
            "obstacle": card.obstacle and ObstacleOut.model_validate(card.obstacle),
            "bands": [SchoolBandOut.model_validate(band) for band in card.bands],
            **{n: getattr(card, n) for n in ("walks", "height_m", "span_m", "wire_m", "least_w", "needs_tuner")},
            "needs": needs,
            "from_drawer": bool(needs) and all(need.have for need in needs if need.what not in AT_HAND),
            "wires": wires,
            "parts": parts,
            "feed": feed,
        }
    )


def _drawn(hung: Hung) -> tuple[list[DrawnWire], list[DrawnPoint], DrawnPoint]:
    structure = hung.structure()

    def point(wire: int, at: float) -> DrawnPoint:
        x, _, z = structure.wires[wire].at(at)
        return DrawnPoint(x_m=float(x), z_m=float(z))

    wires = [
        DrawnWire(x1_m=w.start_m[0], z1_m=w.start_m[2], x2_m=w.end_m[0], z2_m=w.end_m[2]) for w in structure.wires
    ]
    parts = [point(load.wire, load.at) for load in structure.loads[hung.earths :]]
    return wires, parts, point(structure.source.wire, structure.source.at)


def _needs(card: core.SchoolCard, asked: SchoolsIn, drawer: Sequence[AnyPiece]) -> list[NeedOut]:
    """What it takes, with what of it lies in the drawer and what was paid for that."""
    antenna = WireAntenna.model_validate({"antenna": card.kind_key, "numbers": {}})
    content = usual_content(antenna, asked.targets, asked.cable, asked.line_m)
    found = [_need("wire", 1, card.wire_m, [p for p in drawer if p.kind == "wire"])]
    for element in content.elements:
        if isinstance(element, WoundTransformer):
            ring = (element.core.size, element.core.mix)
            cores = [p for p in drawer if p.kind == "core" and p.count != 0]
            rings = [p for p in cores if (p.values.size, p.values.mix) == ring]
            found.append(_need("unun", 1, None, rings, "-".join(ring)))
        elif element.kind == "section":
            found.append(_need("section", 1, element.length_m, []))
        elif element.kind == "line":
            found.append(_need("coax", 1, element.length_m, [p for p in drawer if p.kind == "cable"]))
    if card.coils:
        coils = [p for p in drawer if p.kind == "coil"]
        near = [p for p in coils if abs(p.values.inductance_h / card.coils[0] - 1) < COIL_NEAR]
        found.append(_need("coil", len(card.coils), card.coils[0], near))
    if card.traps:
        found.append(_need("trap", card.traps, None, [p for p in drawer if p.kind == "trap"]))
    if card.radials:
        found.append(_need("radials", card.radials, None, []))
    if card.needs_tuner:
        found.append(_need("tuner", 1, None, []))
    return found


# What no drawer holds by itself: wires in the lawn, a piece of line, a tuner.
AT_HAND = ("radials", "section", "tuner")
# A coil of the drawer that is so near may do.
COIL_NEAR = 0.1


def _need(
    what: Literal["wire", "coax", "unun", "section", "coil", "trap", "radials", "tuner"],
    count: int,
    value: float | None,
    held: Sequence[AnyPiece],
    ring: str | None = None,
) -> NeedOut:
    price = next((piece.price for piece in held if piece.price), "")
    return NeedOut(what=what, count=count, value=value, ring=ring, have=bool(held), price=price)


class SchoolPlanIn(SchoolsIn):
    """One of the schools, to be planned."""

    school: SchoolKey


class SchoolPlanOut(BaseModel):
    """Its design; bands that its first antenna hangs for come first."""

    content: DesignContent


@router.post("/ready", status_code=204)
def get_ready_to_compare(request: Request) -> None:
    """Say that a comparison may be wanted soon: its processes are loaded meanwhile."""
    searchers: Searchers = request.app.state.searchers
    searchers.get_ready(SHARES)


@router.post("/plans")
def plan_school(asked: SchoolPlanIn) -> SchoolPlanOut:
    """A school brought to its bands in full, with what usually stands below it. Takes a second or a few."""
    targets = [target.to_core() for target in asked.targets]
    fit = core.fit_of(asked.school, asked.place.to_core(), targets)
    if isinstance(fit, core.Obstacle):
        raise OutOfDomainError(
            "school", f"{asked.school}, which needs {fit.needs:.4g} where there is {fit.there:.4g}", "one that fits"
        )
    lowest = min(range(len(targets)), key=lambda i: targets[i].center_hz)
    # Of a set the wire of its first band is planned, the highest: it is trimmed first.
    first = max(range(len(targets)), key=lambda i: targets[i].center_hz) if fit.walks else lowest
    kind, hung = KINDS[fit.kind_key], fit.hungs[first]
    if kind.resonant:
        wanted = core.wanted_by(fit, targets) if not fit.walks else (targets[first].center_hz,)
        rough = core.roughly_tuned(hung, wanted)
        hung = antennas.tuned_together(rough, wanted, kind.feed_ohm)
    antenna = WireAntenna.model_validate(
        {"antenna": fit.kind_key, "numbers": hung.numbers, "stock": asked.place.stock, "soil": asked.place.soil}
    )
    order = sorted(asked.targets, key=lambda t: (t.label != asked.targets[first].label, -t.low_hz))
    return SchoolPlanOut(content=usual_content(antenna, order, asked.cable, asked.line_m))
