"""A wire of any length through nine to one: which lengths stay clear, by three rules, what one does per band."""

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from yielding_coil.api.http import Figure, Numbers, router_of
from yielding_coil.core import antenna as core
from yielding_coil.core.choice import band_of
from yielding_coil.documents.design import DesignContent, TargetPayload
from yielding_coil.documents.fields import Positive
from yielding_coil.documents.usual import USUAL_CABLE, USUAL_LINE_M, below_without_tuner, usual_content
from yielding_coil.documents.wire import Soil, WireAntenna, WireStock

router = router_of("wire", "/api/any-lengths")

# Lengths of a strip that travel: as many as a wide screen has points.
DRAWN = 600
Metres = Annotated[float, Field(gt=0, le=120, allow_inf_nan=False)]


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class AnyLengthIn(BaseModel):
    """Bands, the room there is, and a length that is asked about."""

    targets: list[TargetPayload] = Field(max_length=12)
    least_m: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)] = 5.0
    most_m: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)] = 60.0
    length_m: Metres = 20.0
    counterpoise_m: Annotated[float, Field(ge=0.1, le=60, allow_inf_nan=False)] = 4.0
    # Whether odd quarter-waves count as bad as well.
    quarters: bool = False


class ZoneOut(_Out):
    """Lengths that are so many half-waves somewhere in a band."""

    label: str
    half_waves: float
    low_m: float
    high_m: float


class WindowOut(_Out):
    """Lengths between two zones; the best of them, and how far that is from both, over the length."""

    low_m: float
    high_m: float
    best_m: float
    share: float


class MarginOut(BaseModel):
    """How far a length lies from the nearest zone of a school; null where there is none."""

    # False where the length lies outside of what was solved.
    known: bool
    share: float | None
    metres: float | None
    zone: ZoneOut | None


class LengthRuleOut(BaseModel):
    """A rule: its bad zones, what lies between them, and how far the length and its counterpoise are from them."""

    school: Literal["practice", "long-wire", "model"]
    zones: list[ZoneOut]
    windows: list[WindowOut]
    length: MarginOut
    counterpoise: MarginOut


class RulesOut(BaseModel):
    """By the rules that need no solving."""

    schools: list[LengthRuleOut]
    # What all of them leave clear; and bands on which the length is far under a quarter-wave.
    clear: list[WindowOut]
    far_under: list[str]


@router.post("/rules")
def judge_any_length(asked: AnyLengthIn) -> RulesOut:
    """Zones, windows and margins by practice and by the long-wire rule."""
    targets = [target.to_core() for target in asked.targets]
    core.require_room(targets, asked.least_m, asked.most_m)
    schools: tuple[core.LengthSchool, ...] = ("practice", "long-wire")
    zones = {school: _zones_by_rule(school, asked) for school in schools}
    every = [zone for own in zones.values() for zone in own]
    return RulesOut(
        schools=[_school(school, own, asked) for school, own in zones.items()],
        clear=_windows(every, asked),
        far_under=list(core.far_under(asked.length_m, targets)),
    )


def _zones_by_rule(school: core.LengthSchool, asked: AnyLengthIn) -> list[core.Zone]:
    targets = [target.to_core() for target in asked.targets]
    most = max(asked.most_m, asked.length_m, asked.counterpoise_m) * 1.2
    zones = list(core.zones_by_rule(school, targets, min(most, core.MOST_M)))
    return zones + (
        list(core.zones_by_rule(school, targets, min(most, core.MOST_M), quarters=True)) if asked.quarters else []
    )


def _windows(zones: list[core.Zone], asked: AnyLengthIn) -> list[WindowOut]:
    return [WindowOut.model_validate(w) for w in core.windows(zones, asked.least_m, asked.most_m)]


def _school(school: core.LengthSchool, zones: list[core.Zone], asked: AnyLengthIn) -> LengthRuleOut:
    return LengthRuleOut(
        school=school,
        zones=[ZoneOut.model_validate(zone) for zone in zones],
        windows=_windows(zones, asked),
        length=_margin(school, asked.length_m, zones, asked),
        counterpoise=_margin(school, asked.counterpoise_m, zones, asked),
    )


def _margin(school: core.LengthSchool, length_m: float, zones: list[core.Zone], asked: AnyLengthIn) -> MarginOut:
    known = school != "model" or asked.least_m <= length_m <= asked.most_m
    found = core.margin_of(school, length_m, zones)
    if not known or found.zone is None or not math.isfinite(found.share):
        return MarginOut(known=known, share=None, metres=None, zone=None)
    return MarginOut(known=True, share=found.share, metres=found.metres, zone=ZoneOut.model_validate(found.zone))


class StripIn(AnyLengthIn):
    """And how it hangs: level, so high, in this wire over this soil."""

    height_m: Annotated[Positive, Field(ge=0.5, le=100)] = 7.0
    stock: WireStock = WireStock()
    soil: Soil = Soil()
    power_w: Annotated[Positive, Field(le=1e5)] = 100.0
    cable: Annotated[str, Field(min_length=1, max_length=40)] = USUAL_CABLE
    line_m: Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)] = USUAL_LINE_M

    def how(self) -> core.AnyLength:
        """For the core."""
        return core.AnyLength(self.height_m, self.counterpoise_m, self.stock.to_core(), self.soil.to_core())


class BandStripOut(BaseModel):
    """Of a band: the worst SWR behind nine to one, over the lengths of the strip."""

    label: str
    swr: Numbers
    # Which of the grades of SWR each is in, the best 0.
    grades: list[int]


class StripOut(BaseModel):
    """By the model: every length on every band, its zones, and windows beside the other rules'."""

    lengths_m: Numbers
    # Where one grade of SWR ends and the next begins.
    grade_edges: list[float]
    bands: list[BandStripOut]
    school: LengthRuleOut
    clear: list[WindowOut]


@router.post("/strips")
def solve_any_length(asked: StripIn) -> StripOut:
    """Every length by the model. Takes a second or a few."""
    targets = [target.to_core() for target in asked.targets]
    found = core.strip_of(asked.how(), targets, asked.least_m, asked.most_m)
    zones = [*found.zones(), *(found.zones(quarters=True) if asked.quarters else ())]
    # Neighbouring lengths in one: of each stretch the worst.
    edges = np.unique(np.linspace(0, len(found.lengths_m), DRAWN + 1).astype(int))[:-1]
    worst = [np.minimum(np.maximum.reduceat(row, edges), 999.0) for row in found.swr]
    every = [*zones, *_zones_by_rule("practice", asked), *_zones_by_rule("long-wire", asked)]
    return StripOut(
        lengths_m=found.lengths_m[edges].tolist(),
        grade_edges=list(core.SWR_GRADES),
        bands=[
            BandStripOut(
                label=target.label, swr=row.tolist(), grades=np.searchsorted(core.SWR_GRADES, row).tolist()
            )
            for target, row in zip(targets, worst, strict=True)
        ],
        school=_school("model", zones, asked),
        clear=_windows(every, asked),
    )


class LengthOnBandOut(_Out):
    """What the length does on a band behind nine to one, before any line."""

    label: str
    swr_low: Figure
    swr_high: Figure
    resistance_ohm: Figure
    reactance_ohm: Figure
    # Through nine to one, coax and a usual tuner; watts null where no tuner setting matches.
    up_w: Figure
    low_w: Figure
    high_w: Figure
    wire_w: Figure
    radio_swr: Figure
    far_under: bool


class ChosenLengthOut(BaseModel):
    """The chosen length solved in full, band by band, and as an antenna to build."""

    bands: list[LengthOnBandOut]
    # Below it the nine to one, the coax and a tuner at the radio.
    content: DesignContent


@router.post("/chosen")
def choose_any_length(asked: StripIn) -> ChosenLengthOut:
    """One length in full."""
    targets = [target.to_core() for target in asked.targets]
    how = asked.how()
    found = core.length_on_bands(how, asked.length_m, targets)
    numbers = how.hung(asked.length_m).numbers
    antenna = WireAntenna(antenna="any-length", numbers=numbers, stock=asked.stock, soil=asked.soil)
    content = usual_content(antenna, asked.targets, asked.cable, asked.line_m)
    below, hung = below_without_tuner(content), how.hung(asked.length_m)
    through = [band_of(hung, target, below, asked.power_w, tuner=True) for target in targets]
    return ChosenLengthOut(
        bands=[
            LengthOnBandOut(
                label=each.label,
                swr_low=each.swr_low,
                swr_high=each.swr_high,
                resistance_ohm=each.impedance_ohm.real,
                reactance_ohm=each.impedance_ohm.imag,
                up_w=band.up_w,
                low_w=band.low_w,
                high_w=band.high_w,
                wire_w=band.wire_w,
                radio_swr=band.swr,
                far_under=each.far_under,
            )
            for each, band in zip(found, through, strict=True)
        ],
        content=content,
    )
