"""How long to cut: schools side by side, the cut list, what fits, and a proven design scaled."""

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.tables import bands_for
from yielding_coil.core import wire as core
from yielding_coil.core.line import Line, through_section
from yielding_coil.documents.fields import Hertz, LineLength, Words
from yielding_coil.documents.log import WireLength, WirePlan
from yielding_coil.store.pieces import OWN, cable_row

router = router_of("wire", "/api/lengths")

PartForm = Literal["section", "radial", "counterpoise"]


class At(BaseModel):
    """A band, by the frequency where it is wanted."""

    label: Annotated[Words, Field(max_length=60)]
    frequency_hz: Hertz


class LengthsIn(BaseModel):
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
def cut_lengths(asked: LengthsIn) -> LengthsOut:
    """Every school's length for each band, and the cut list by the chosen one."""
    bands = [core.Band(b.label, b.frequency_hz) for b in asked.bands]
    found = core.cut_list(asked.plan.to_core(), bands, list(data.lengths().values()), asked.unit)
    return LengthsOut.model_validate(found, from_attributes=True)


class PartsIn(BaseModel):
    """What goes with a wire: a section of coax, radials, a counterpoise."""

    form: PartForm
    frequency_hz: Hertz
    # Of a section: the class of cable, or one's own.
    cable: Annotated[Words, Field(max_length=60)] = "foam-7-75"
    # Its velocity factor where it is known otherwise.
    velocity_factor: Annotated[float, Field(gt=0.3, le=1)] | None = None
    # What the antenna shows at resonance, above the section.
    antenna_ohm: Annotated[float, Field(ge=0.1, le=1e5)] = 100.0


class SectionOut(BaseModel):
    """A quarter-wave section: the velocity factor taken, whether that was measured, and what it does.

    `through_ohm` is what the antenna's resistance looks like at its lower end, with the SWR there and without it.
    """

    velocity_factor: float
    velocity_tolerance: float
    measured: bool
    through_ohm: float
    through_swr: float
    without_swr: float


class PartsOut(BaseModel):
    """What each school says, and of a section more."""

    schools: list[School]
    section: SectionOut | None


@router.post("/parts")
def part_lengths(session: InTransaction, asked: PartsIn) -> PartsOut:
    """Quarter-wave sections by the cable, radials and counterpoises by their schools."""
    rules = core.rules_for(asked.form, list(data.lengths().values()))
    if asked.form != "section":
        schools = [_school(rule, rule.length(asked.frequency_hz)) for rule in rules]
        return PartsOut(schools=schools, section=None)
    row = cable_row(session, asked.cable)
    own = asked.velocity_factor
    velocity = own or float(row.cable.velocity_factor)
    spread = 0.0 if own else row.velocity_tolerance
    lengths = [rule.length(asked.frequency_hz, velocity, spread) for rule in rules]
    section = Line(replace(row.cable, velocity_factor=velocity), lengths[0].length_m)
    seen = through_section(section, asked.frequency_hz, asked.antenna_ohm)
    return PartsOut(
        schools=[_school(rule, length) for rule, length in zip(rules, lengths, strict=True)],
        section=SectionOut(
            velocity_factor=velocity,
            velocity_tolerance=spread,
            measured=own is not None or asked.cable.startswith(OWN),
            through_ohm=seen.impedance_ohm.real,
            through_swr=seen.swr,
            without_swr=seen.without_swr,
        ),
    )


def _school(rule: core.Rule, length: core.Length) -> School:
    return School.model_validate(core.SchoolLength.of(rule, length), from_attributes=True)


class RoomIn(BaseModel):
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
def what_fits(session: InTransaction, asked: RoomIn) -> list[ShapeOut]:
    """The lowest band of each shape for this span, this pole, or both."""
    bands = [(b.label, (b.low_hz + b.high_hz) / 2) for b in sorted(bands_for(session), key=lambda b: b.low_hz)]
    found = core.what_fits(bands, list(data.lengths().values()), asked.span_m, asked.pole_m)
    return [
        ShapeOut(
            key=each.shape.key,
            label=each.shape.label,
            needs=each.shape.needs,
            room_m=each.room_m,
            lowest=_fitting(each.lowest),
            next=_fitting(each.next),
        )
        for each in found
    ]


def _fitting(found: core.Fitting | None) -> Fitting | None:
    return None if found is None else Fitting.model_validate(found, from_attributes=True)


class ScaledIn(BaseModel):
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
def scale(asked: ScaledIn) -> ScaledOut:
    """Every length by the ratio of the frequencies."""
    return ScaledOut(
        lengths_m=[
            core.on_tape(core.scaled(each, asked.proven_hz, asked.wanted_hz), asked.unit)
            for each in asked.lengths_m
        ],
        ratio=asked.proven_hz / asked.wanted_hz,
    )
