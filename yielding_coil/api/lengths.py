"""How long to cut: schools side by side, the cut list, what fits, and a proven design scaled."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.bands import bands_for
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.wire import lengths as core
from yielding_coil.core.wire import on_tape
from yielding_coil.documents.fields import Hertz, LineLength, Words
from yielding_coil.documents.log import LEGS, WireLength, WirePlan
from yielding_coil.store.pieces import cable_row

router = APIRouter(prefix="/api/lengths", tags=["lengths"], responses=RESPONSES)

PartForm = Literal["section", "radial", "counterpoise"]


class At(BaseModel):
    """A band, by the frequency where it is wanted."""

    label: Annotated[Words, Field(max_length=60)]
    frequency_hz: Hertz


class LengthsAsked(BaseModel):
    """A wire for some bands."""

    plan: WirePlan = WirePlan()
    bands: list[At] = Field(min_length=1, max_length=12)
    unit: Literal["m", "ft"] = "m"


class School(BaseModel):
    """What one school says of a part: a leg, a side, a whole piece; between low and high."""

    key: str
    school: str
    source: str
    part_m: float
    low_m: float
    high_m: float
    whole_m: float


class BandLengths(BaseModel):
    """One band of the wire: its leg from the feedpoint, and the piece of its own that it adds."""

    label: str
    frequency_hz: float
    schools: list[School]
    leg_m: float
    low_m: float
    high_m: float
    piece_m: float


class Cut(BaseModel):
    """A piece to cut, so many times: what is measured to the mark, what is left over it, and the whole."""

    label: str
    count: int
    measure_m: float
    add_m: float
    cut_m: float


class LengthsOut(BaseModel):
    """Lengths of a wire, highest band first, and what to cut."""

    part: Literal["leg", "side", "whole"]
    parts: int
    rule: str
    bands: list[BandLengths]
    cuts: list[Cut]
    wire_m: float


@router.post("")
def cut_lengths(asked: LengthsAsked) -> LengthsOut:
    """Every school's length for each band, and the cut list by the chosen one."""
    plan = asked.plan
    rules = [
        r
        for r in data.lengths().values()
        if r.form == plan.form and (r.corners is None or r.corners == plan.corners)
    ]
    chosen = next((r for r in rules if r.key == plan.rule), rules[0])
    part: Literal["leg", "side", "whole"] = (
        "leg" if plan.form == "dipole" else "side" if plan.form == "loop" else "whole"
    )
    parts = 2 if part == "leg" else plan.corners if part == "side" else 1
    velocity = core.COVERED_VELOCITY if plan.covered else core.BARE_VELOCITY
    doubt = core.NEIGHBOUR_DOUBT if plan.arrangement == "nested" and len(asked.bands) > 1 else 0.0
    highest_first = sorted(asked.bands, key=lambda b: -b.frequency_hz)

    def length(rule: core.Rule, band: At) -> core.Length:
        return rule.length(band.frequency_hz, velocity).doubted(doubt)

    legs = LEGS[plan.form]
    reach = [length(chosen, band).over(legs) for band in highest_first]
    own = core.segments([r.length_m for r in reach], plan.arrangement)
    bands = [
        BandLengths(
            label=band.label,
            frequency_hz=band.frequency_hz,
            schools=[_school(rule, length(rule, band), parts) for rule in rules],
            leg_m=on_tape(length(chosen, band).over(parts).length_m, asked.unit),
            low_m=length(chosen, band).over(parts).low_m,
            high_m=length(chosen, band).over(parts).high_m,
            piece_m=on_tape(piece, asked.unit),
        )
        for band, piece in zip(highest_first, own, strict=True)
    ]
    cuts = []
    for band, piece, whole in zip(highest_first, own, reach, strict=True):
        measure = on_tape(piece, asked.unit)
        add = on_tape(plan.added * whole.length_m, asked.unit, "up")
        cuts.append(
            Cut(
                label=band.label,
                count=legs,
                measure_m=measure,
                add_m=add,
                cut_m=on_tape(measure + add, asked.unit),
            )
        )
    return LengthsOut(
        part=part,
        parts=parts,
        rule=chosen.key,
        bands=bands,
        cuts=cuts,
        wire_m=sum(cut.count * cut.cut_m for cut in cuts),
    )


def _school(rule: core.Rule, length: core.Length, parts: int) -> School:
    part = length.over(parts)
    return School(
        key=rule.key,
        school=rule.school,
        source=rule.source,
        part_m=part.length_m,
        low_m=part.low_m,
        high_m=part.high_m,
        whole_m=length.length_m,
    )


class PartsAsked(BaseModel):
    """What goes with a wire: a section of coax, radials, a counterpoise."""

    form: PartForm
    frequency_hz: Hertz
    # Of a section: the class of cable, or one's own.
    cable: Annotated[Words, Field(max_length=60)] = "foam-7-75"
    # Its velocity factor where it is known otherwise.
    velocity_factor: Annotated[float, Field(gt=0.3, le=1)] | None = None


class PartsOut(BaseModel):
    """What each school says; of a section with the velocity factor taken, and whether that was measured."""

    schools: list[School]
    velocity_factor: float | None
    velocity_tolerance: float | None
    measured: bool


@router.post("/parts")
def part_lengths(session: InTransaction, asked: PartsAsked) -> PartsOut:
    """Quarter-wave sections by the cable, radials and counterpoises by their schools."""
    rules = [r for r in data.lengths().values() if r.form == asked.form]
    if asked.form != "section":
        schools = [_school(rule, rule.length(asked.frequency_hz), 1) for rule in rules]
        return PartsOut(schools=schools, velocity_factor=None, velocity_tolerance=None, measured=False)
    row = cable_row(session, asked.cable)
    own = asked.velocity_factor
    velocity = own or float(row.cable.velocity_factor)
    spread = 0.0 if own else row.velocity_tolerance
    return PartsOut(
        schools=[_school(rule, rule.length(asked.frequency_hz, velocity, spread), 1) for rule in rules],
        velocity_factor=velocity,
        velocity_tolerance=spread,
        measured=own is not None or asked.cable.startswith("own-"),
    )


class RoomAsked(BaseModel):
    """What there is to hang it on."""

    span_m: WireLength | None = None
    pole_m: WireLength | None = None
    covered: bool = False


class Fitting(BaseModel):
    """A band in a shape: what it needs, and what is left of the room (below zero: what is missing)."""

    label: str
    needs_m: float
    left_m: float


class ShapeOut(BaseModel):
    """A shape of antenna: the lowest band that fits, and the next one that does not."""

    key: str
    label: str
    needs: Literal["span", "pole"]
    room_m: float
    lowest: Fitting | None
    next: Fitting | None


@router.post("/fitting")
def what_fits(session: InTransaction, asked: RoomAsked) -> list[ShapeOut]:
    """The lowest band of each shape for this span, this pole, or both."""
    if asked.span_m is None and asked.pole_m is None:
        raise OutOfDomainError("span_m", "neither a span nor a pole", "one of them")
    bands = sorted(bands_for(session), key=lambda b: b.low_hz)
    out = []
    for shape in core.SHAPES:
        available = asked.span_m if shape.needs == "span" else asked.pole_m
        if available is None:
            continue
        rule = next(r for r in data.lengths().values() if r.form == shape.form)
        room = core.room(shape.needs, available)
        fitting = [
            Fitting(label=b.label, needs_m=needs, left_m=room - needs)
            for b in bands
            for needs in [shape.share * rule.length((b.low_hz + b.high_hz) / 2).length_m]
        ]
        fits = [f for f in fitting if f.left_m >= 0]
        tight = [f for f in fitting if f.left_m < 0]
        out.append(
            ShapeOut(
                key=shape.key,
                label=shape.label,
                needs=shape.needs,
                room_m=room,
                lowest=fits[0] if fits else None,
                next=tight[-1] if tight else None,
            )
        )
    return out


class ScaledAsked(BaseModel):
    """Lengths of a proven design, and another frequency."""

    lengths_m: list[LineLength] = Field(min_length=1, max_length=40)
    proven_hz: Hertz
    wanted_hz: Hertz
    unit: Literal["m", "ft"] = "m"


class ScaledOut(BaseModel):
    """The same lengths at the other frequency, as a tape shows them."""

    lengths_m: list[float]
    ratio: float


@router.post("/scaling")
def scale(asked: ScaledAsked) -> ScaledOut:
    """Every length by the ratio of the frequencies."""
    return ScaledOut(
        lengths_m=[
            on_tape(core.scaled(each, asked.proven_hz, asked.wanted_hz), asked.unit) for each in asked.lengths_m
        ],
        ratio=asked.proven_hz / asked.wanted_hz,
    )
