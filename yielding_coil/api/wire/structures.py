"""Antennas of plain numbers: one to begin with, drawn while an end is dragged, and in full."""

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from yielding_coil import data
from yielding_coil.api.http import Figure, Frequencies, Numbers, router_of
from yielding_coil.api.wire.lengths import Cut
from yielding_coil.api.wire.loads import BearingOut
from yielding_coil.core import antenna as core
from yielding_coil.core.quantity import INCH_M, LengthUnit
from yielding_coil.core.wire import (
    KINDS,
    AntennaKind,
)
from yielding_coil.documents.design import TargetPayload
from yielding_coil.documents.fields import Finite, Positive
from yielding_coil.documents.wire import KindKey, WireAntenna

router = router_of("wire", "/api/structures")

# What a hand sets lengths to.
DRAG_STEP_M: dict[LengthUnit, float] = {"m": 0.01, "ft": INCH_M / 2}


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class StartIn(BaseModel):
    """A kind, for a band; the wire and soil of another are taken along."""

    antenna: KindKey
    target: TargetPayload
    like: WireAntenna | None = None
    # Bands wanted beside; a kind that serves two at once takes the nearest.
    others: list[TargetPayload] = Field(default=[], max_length=12)


@router.post("/starts")
def begin_antenna(asked: StartIn) -> WireAntenna:
    """One to begin with, in usual numbers, brought to the middle of the band where it can be."""
    like = asked.like or WireAntenna(antenna=asked.antenna, numbers={})
    under = core.begun(
        asked.antenna,
        asked.target.to_core(),
        like.stock.to_core(),
        like.soil.to_core(),
        like.numbers,
        [other.to_core() for other in asked.others],
    )
    return WireAntenna(antenna=asked.antenna, numbers=under.numbers, stock=like.stock, soil=like.soil)


class TunedIn(BaseModel):
    """An antenna, to be brought to a band by what it is tuned by."""

    antenna: WireAntenna
    target: TargetPayload
    feed_ohm: Annotated[Positive, Field(le=1e5)] | None = None
    others: list[TargetPayload] = Field(default=[], max_length=12)


@router.post("/tunings")
def tune_antenna(asked: TunedIn) -> WireAntenna:
    """The same, dipping in the middle of the band; a kind that serves two at once on the nearest other one too."""
    kind = _kind(asked.antenna, asked.feed_ohm)
    target = asked.target.to_core()
    pair = core.pair_of(kind, target, [other.to_core() for other in asked.others])
    found = core.tuned_together(asked.antenna.hung(), pair or (target.center_hz,), kind.feed_ohm)
    return asked.antenna.with_numbers_of(found)


class PiecesIn(BaseModel):
    """An antenna for a band, to be cut."""

    antenna: WireAntenna
    target: TargetPayload
    added: Annotated[float, Field(ge=0, le=0.3)] = 0.045
    unit: LengthUnit = "m"
    others: list[TargetPayload] = Field(default=[], max_length=12)


class HungReachOut(_Out):
    """The wire of a band: from the feed to its end, folds included, and how much of it is folded back."""

    reach_m: float
    folded_m: float


class PiecesOut(BaseModel):
    """What to cut; and how it goes up, the highest of its bands first."""

    pieces: list[Cut]
    wire_m: float
    reaches: list[HungReachOut]


@router.post("/pieces")
def antenna_pieces(asked: PiecesIn) -> PiecesOut:
    """The cut list of an antenna."""
    hung, kind, target = asked.antenna.hung(), KINDS[asked.antenna.antenna], asked.target.to_core()
    found = core.cut_pieces(hung, target.center_hz, asked.added, asked.unit)
    bands = core.pair_of(kind, target, [other.to_core() for other in asked.others]) or (target.center_hz,)
    hangs = core.hung_reaches(hung, bands, asked.added, kind.arrangement, asked.unit)
    return PiecesOut(
        pieces=[Cut.model_validate(p, from_attributes=True) for p in found],
        wire_m=sum(p.count * p.cut_m for p in found),
        reaches=[HungReachOut.model_validate(each) for each in hangs],
    )


class Drag(BaseModel):
    """A place taken by hand to a point, metres from the middle and up."""

    handle: Annotated[str, Field(max_length=20)]
    x_m: Finite
    z_m: Finite


class SketchIn(BaseModel):
    """An antenna on a band; with `drag` one of its places is taken along first."""

    antenna: WireAntenna
    target: TargetPayload
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    # What the feed expects; as its kind asks for when left out.
    feed_ohm: Annotated[Positive, Field(le=1e5)] | None = None
    drag: Drag | None = None
    unit: LengthUnit = "m"


class WireSeenOut(_Out):
    """A wire from the side, with its current and voltage, peaks."""

    x_m: Numbers
    z_m: Numbers
    current_a: Numbers
    phase: Numbers
    volts_x_m: Numbers
    volts_z_m: Numbers
    volts: Numbers


class SidePoint(_Out):
    """A point seen from the side."""

    x_m: float
    z_m: float


class FittedOut(SidePoint):
    """A part that stands in a wire."""

    part: Literal["coil", "trap"]


class SupportOut(_Out):
    """A pole up to a place, or a line that ties it down."""

    x_m: float
    z_m: float
    tied: bool


class HeldOut(_Out):
    """A place to take hold of, and the numbers that follow."""

    key: str
    label: str
    x_m: float
    z_m: float
    numbers: list[str]


class PictureOut(_Out):
    """From the side, in metres."""

    wires: list[WireSeenOut]
    feed: SidePoint
    coils: list[FittedOut]
    handles: list[HeldOut]
    supports: list[SupportOut]
    highest_v: Figure
    highest: SidePoint
    within_reach_v: Figure


class SketchOut(_Out):
    """What is drawn while an end is dragged."""

    antenna: WireAntenna
    picture: PictureOut
    frequency_hz: Frequencies
    resistance_ohm: Numbers
    reactance_ohm: Numbers
    swr: Numbers
    dip_hz: float | None
    # Peak volts that burn, and as high as hands reach.
    touch_v: float
    reach_m: float


@router.post("/sketches")
def sketch_antenna(asked: SketchIn) -> SketchOut:
    """Roughly, while an end is dragged."""
    hung = asked.antenna.hung()
    if asked.drag is not None:
        hung = core.dragged(hung, asked.drag.handle, asked.drag.x_m, asked.drag.z_m, DRAG_STEP_M[asked.unit])
    found = core.sketch(_kind(asked.antenna, asked.feed_ohm), hung, asked.target.to_core(), asked.power_w)
    return _drawn(found, asked.antenna.with_numbers_of(hung))


def _kind(antenna: WireAntenna, feed_ohm: float | None) -> AntennaKind:
    kind = KINDS[antenna.antenna]
    return kind if feed_ohm is None else replace(kind, feed_ohm=feed_ohm)


def _drawn(found: core.Sketch, antenna: WireAntenna) -> SketchOut:
    return SketchOut.model_validate(
        {
            "antenna": antenna,
            "picture": found.picture,
            "frequency_hz": found.frequency_hz,
            "resistance_ohm": found.impedance_ohm.real,
            "reactance_ohm": found.impedance_ohm.imag,
            "swr": found.swr,
            "dip_hz": found.dip_hz,
            "touch_v": core.TOUCH_V,
            "reach_m": core.REACH_M,
        }
    )


class StudyIn(SketchIn):
    """An antenna in full: what it is cut from, and what it does on other bands."""

    others: list[TargetPayload] = Field(default=[], max_length=12)
    added: Annotated[float, Field(ge=0, le=0.3)] = 0.045
    pull_n: Annotated[float, Field(ge=1, le=5000)] | None = None
    # As somebody passed it on.
    recipe: WireAntenna | None = None


class RangeOut(_Out):
    """Between what nine of ten lie."""

    low: Numbers
    high: Numbers


class WattsOut(_Out):
    """Watts, and between what nine of ten lie."""

    watts: Figure
    low_w: Figure
    high_w: Figure


class ElevationOut(_Out):
    """Gain through the elevation; `compared_dbi` at the elevations compared."""

    key: Literal["this", "vertical", "dipole"]
    elevation_deg: Numbers
    gain_dbi: Numbers
    compared_dbi: Numbers


class RuleOut(_Out):
    """What a school says of the same part; `longer` than the model's, relative."""

    key: str
    school: str
    source: str
    length_m: float
    low_m: float
    high_m: float
    longer: float | None


class ReasonOut(_Out):
    """What of the place makes the model's wire longer than the same bare one in free space, relative."""

    code: Literal["covering", "surroundings"]
    longer: float


class LengthsByModel(_Out):
    """What it is tuned by, as it dips where it is wanted; and the rules."""

    tuned_by: str
    value: float | None
    low: float | None
    high: float | None
    part_m: float
    # Whether that is what it is tuned by; and which of its bands it is, the highest first.
    is_part: bool
    band: int
    rules: list[RuleOut]
    reasons: list[ReasonOut]


class SagOut(_Out):
    """A rough figure of how it hangs through."""

    span_m: float
    pull_n: float
    wire_kg: float
    coax_kg: float
    middle_m: float
    mean_m: float
    tears_share: float


class BandSeenOut(_Out):
    """The same antenna on another band."""

    label: str
    worst_swr: Figure
    dip_hz: float | None
    radiated_w: Figure


class DifferenceOut(_Out):
    """One thing that is otherwise here than in the recipe, and what it moves the dip by."""

    name: str
    there: float | None
    here: float | None
    moves_hz: float | None


class RecipeOut(_Out):
    """Where it dips as passed on, and here."""

    there_hz: float | None
    here_hz: float | None
    differences: list[DifferenceOut]


class StudyOut(_Out):
    """An antenna in full."""

    sketch: SketchOut
    resistance: RangeOut
    reactance: RangeOut
    swr: RangeOut
    dip_low_hz: float | None
    dip_high_hz: float | None
    worst_swr: Figure
    radiated: WattsOut
    wire: WattsOut
    loads: WattsOut
    ground: WattsOut
    cuts: list[ElevationOut]
    compared_deg: list[float]
    lengths: LengthsByModel
    sag: SagOut | None
    sag_moves_hz: float | None
    others: list[BandSeenOut]
    difference_ohm: Figure
    estimated: bool
    tuned: WireAntenna | None
    # What it is tuned by would have to be, where that is worth a change.
    asked_for: float | None
    moves: float
    coil_reading_h: float | None
    pieces: list[Cut]
    wire_m: float
    recipe: RecipeOut | None
    # What each coil or trap bears in the middle of the band.
    bearing: list[BearingOut]


@router.post("/studies")
def study_antenna(asked: StudyIn) -> StudyOut:
    """In full: ranges, watts, elevation, lengths by model and rule, the pieces to cut. Takes a second or a few."""
    kind, hung, target = _kind(asked.antenna, asked.feed_ohm), asked.antenna.hung(), asked.target.to_core()
    found = core.study(
        kind,
        hung,
        target,
        asked.power_w,
        list(data.lengths().values()),
        pull_n=asked.pull_n,
        others=[t.to_core() for t in asked.others],
    )
    cuts = core.cut_pieces(hung, target.center_hz, asked.added, asked.unit)
    recipe = None
    if asked.recipe is not None and asked.recipe.antenna == asked.antenna.antenna:
        recipe = core.checked(kind, asked.recipe.hung(), hung, target.center_hz)
    told = {name: getattr(found, name) for name in _TOLD}
    return StudyOut.model_validate(
        {
            **told,
            "sketch": _drawn(found.sketch, asked.antenna),
            "tuned": None if found.tuned is None else asked.antenna.model_copy(update={"numbers": found.tuned}),
            "pieces": [Cut.model_validate(p, from_attributes=True) for p in cuts],
            "wire_m": sum(p.count * p.cut_m for p in cuts),
            "recipe": recipe,
            "compared_deg": list(core.COMPARED_DEG),
        }
    )


# What of a study travels as it is.
_TOLD = (
    "resistance",
    "reactance",
    "swr",
    "dip_low_hz",
    "dip_high_hz",
    "worst_swr",
    "radiated",
    "wire",
    "loads",
    "ground",
    "cuts",
    "lengths",
    "sag",
    "sag_moves_hz",
    "others",
    "difference_ohm",
    "estimated",
    "asked_for",
    "moves",
    "coil_reading_h",
    "bearing",
)
